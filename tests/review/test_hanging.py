"""Where a cleaner hangs, as findings tell it and the simulation counts it; cleaners by size."""

from dataclasses import replace

import pytest

from purvel.catalogue import filter_grades, make_thing
from purvel.review import Answers, Figures, Grade, Memory
from purvel.review.air import STAGE
from purvel.review.air.answers import AirAnswers
from purvel.review.air.hanging import best_place, built, hung
from purvel.review.air.help_words import help_tables, sized
from purvel.review.air.helps import breathed, clean_air, measures
from purvel.review.reviewing import first_review
from purvel.review.room.answers import RoomAnswers
from purvel.shop import FanBuild, Shop, Thing, WorkInterval
from purvel.shop.edits import change_session, put
from tests.conftest import box_room

SAY = Figures("metric")


def answers_of(shop: Shop) -> Answers:
    return Answers(shop, Memory())


def work(name: str, start: float, minutes: float = 20.0, central: float = 50.0, operation: str = "table-saw"):
    band = (central / 5, central, central * 5)
    return WorkInterval(id=name, name=name, operation=operation, start=start, minutes=minutes, emission=band)


def cleaner(x: float, y: float, angle: float = 0.0, z: float = 2.0, **changes: object) -> Thing:
    one = replace(make_thing("air-cleaner", "box", x, y), angle=angle, z=z)
    assert one.cleaner is not None
    return replace(one, cleaner=replace(one.cleaner, **changes))


@pytest.fixture
def shop() -> Shop:
    """A room of 6 by 4 m, 2.4 m high or so, in which is worked."""
    bare = Shop(room=box_room(6.0, 4.0), units="metric")
    return change_session(
        bare, work=(work("a", 0), work("b", 30, central=200), work("c", 60, central=5)), minutes=120.0
    )


def place_of(shop: Shop):
    thing = shop.thing("box")
    assert thing is not None
    return hung(answers_of(shop).of(RoomAnswers).shell, shop.things, thing)


def test_free_way_is_measured_from_the_outlet_to_the_wall_or_to_what_stands_in_it(shop: Shop) -> None:
    """Its middle at x = 1 with half a width of 0.375 m blows from 1.375 m to the wall at 6 m; its intake has
    0.625 m behind it.
    """
    found = place_of(put(shop, cleaner(1.0, 2.0)))
    assert found.place.before == pytest.approx(6.0 - 1.375) and found.place.behind == pytest.approx(0.625)
    assert found.place.longest == pytest.approx(6.0) and found.place.height == pytest.approx(2.15)
    cupboard = replace(make_thing("workbench", "tall", 3.0, 2.0), z=0.0, height=2.3, width=1.0, depth=1.0)
    assert place_of(put(put(shop, cleaner(1.0, 2.0)), cupboard)).place.before == pytest.approx(2.5 - 1.375)
    low = replace(cupboard, height=0.9)
    assert place_of(put(put(shop, cleaner(1.0, 2.0)), low)).place.before == pytest.approx(6.0 - 1.375)
    assert place_of(put(shop, cleaner(5.5, 2.0))).against[:1] == ("blocked",)
    outside = place_of(put(shop, cleaner(-3.0, 2.0)))
    assert outside.place.before == 0.0


def test_the_simulation_goes_by_the_place_where_it_is_asked_to(shop: Shop) -> None:
    against_wall = put(shop, cleaner(5.5, 2.0, mixing=0.9))
    share = place_of(against_wall).share
    by_place = put(shop, cleaner(5.5, 2.0, mixing=0.9, by_place=True))
    entered, reckoned = (answers_of(one).of(AirAnswers) for one in (against_wall, by_place))
    assert entered.cleaners["box"].mixing == 0.9 and reckoned.cleaners["box"].mixing == share < 0.7
    assert breathed(reckoned.day)[1] > breathed(entered.day)[1]


def test_a_bad_place_is_told_and_a_better_one_found(shop: Shop) -> None:
    bad = put(shop, cleaner(5.5, 2.0, z=0.0))
    (told,) = (one for one in first_review(bad, Memory()).findings if one.rule == "cleaner-place")
    assert (
        told.grade == Grade.WATCH
        and "stands low" in told.sentence
        and "against something close" in told.sentence
    )
    found = dict(STAGE.remedies["cleaner-place"](told, answers_of(bad), SAY))
    assert set(found) == {"Hang it high, along a wall", "Reckon it by its place"}
    after = found["Hang it high, along a wall"](bad)
    (now,) = (one for one in first_review(after, Memory()).findings if one.rule == "cleaner-place")
    assert now.figures["share"] >= 0.8 > told.figures["share"] and STAGE.progress["cleaner-place"](told, now)
    assert after.thing("box").z + after.thing("box").height <= after.room.ceiling.height
    assert best_place(answers_of(after), after.thing("box")) is None
    counted = found["Reckon it by its place"](bad)
    (same,) = (one for one in first_review(counted, Memory()).findings if one.rule == "cleaner-place")
    assert same.figures["share"] == pytest.approx(same.figures["counted"]) == told.figures["share"]


def test_a_cleaner_of_fans_and_panels_has_their_flow_and_grade(shop: Shop) -> None:
    bought = cleaner(1.0, 2.0).cleaner
    assert bought is not None
    new = built(FanBuild(fans=1, panels=4), bought)
    assert new.flow == pytest.approx(0.3588, abs=1e-4) and new.efficiency == filter_grades()["MERV 13"]
    loaded = built(FanBuild(fans=1, panels=4, state="loaded"), bought)
    assert loaded.flow == pytest.approx(40 / (40 / 0.7 + 110 / 0.92)) and loaded.loaded == 0.0
    with pytest.raises(ValueError, match="not in the catalogue"):
        built(FanBuild(fan="jet"), bought)


def test_cleaners_are_sized_by_air_changes_and_by_dose(shop: Shop) -> None:
    """60 m3 or so without a cleaner: 6 changes are a tenth of a m3/s for each 60 m3."""
    answers = answers_of(shop)
    day = answers.of(AirAnswers).day
    assert day is not None
    rows = {what: (flow, changes, left) for flow, changes, left, what in sized(answers, SAY)}
    assert rows["6 air changes an hour"][0] == SAY.flow(6 * day.volume / 3600)
    assert rows["8 air changes an hour"][1] == "8.0"
    left = breathed(answers.of(AirAnswers).simulated_with(clean_air(10 * day.volume / 3600)))[1]
    assert SAY.dust(left) in rows["10 air changes an hour"][2]
    heads = [table.title for table in help_tables(answers, SAY)]
    assert heads[1] == "Which cleaner"


def test_work_in_the_order_of_its_dust_and_a_vacuum_for_the_broom(shop: Shop) -> None:
    swept = put(shop, work("sweep", 85, central=30, operation="sweeping"))
    found = {one.name: one for one in measures(answers_of(swept))}
    order = found["All work in the order of its dust, the dustiest last"]
    assert order.edit is not None
    after = order.edit(swept).air.session.work
    assert [one.id for one in after] == ["c", "sweep", "a", "b"]
    assert [one.start for one in after] == [0.0, 30.0, 60.0, 85.0]  # the pauses are those that were
    vac = found["A vacuum instead of the broom"]
    assert vac.edit is not None and vac.saved > 0
    assert vac.edit(swept).air.session.work[-1].operation == "vacuuming"
    assert "A vacuum instead of the broom" not in {one.name for one in measures(answers_of(shop))}
    assert all(one.saved > 0 for one in found.values())


def test_a_cleaner_that_hangs_badly_is_a_help_for_nothing(shop: Shop) -> None:
    bad = put(shop, cleaner(5.5, 2.0, z=0.0, by_place=True))
    (hang,) = (one for one in measures(answers_of(bad)) if "along a wall" in one.name)
    assert hang.cost == (0.0, 0.0) and hang.saved > 0
