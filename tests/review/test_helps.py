"""What helps the air: each measure as it would be simulated alone, and what moves the answer."""

from dataclasses import replace
from math import inf

import pytest

from purvel.catalogue import limits, make_thing
from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review import Answers, Figures, Memory
from purvel.review.air.answers import AirAnswers
from purvel.review.air.help_words import help_tables, said
from purvel.review.air.helps import (
    assumptions,
    breathed,
    measures,
    smallest_cleaner,
    together,
)
from purvel.shop import Cleaner, Shop, WorkInterval
from purvel.shop.edits import change_air, change_session, put
from tests.conftest import box_room


def answers_of(shop: Shop) -> Answers:
    return Answers(shop, Memory())


def average(shop: Shop) -> float:
    return breathed(answers_of(shop).of(AirAnswers).day)[1]


@pytest.fixture
def shop() -> Shop:
    """A room of 5 by 4 m in which is sanded for an hour and sawn for a quarter."""
    work = (
        WorkInterval(
            id="sand",
            name="Sanding",
            operation="random-orbit-sander",
            start=10,
            minutes=60,
            emission=(40, 200, 1000),
        ),
        WorkInterval(id="saw", name="Sawing", operation="table-saw", start=90, minutes=15),
    )
    return change_session(Shop(room=box_room(5.0, 4.0), units="metric"), work=work, minutes=240.0)


def test_every_measure_saves_what_a_day_with_it_says(shop: Shop) -> None:
    now, found = average(shop), measures(answers_of(shop))
    assert [one.saved for one in found] == sorted((one.saved for one in found), reverse=True)
    changes = [one for one in found if one.edit is not None]
    assert len(changes) >= 3
    for one in changes:
        assert one.edit is not None
        then = average(one.edit(shop))
        assert one.breathed[1] == pytest.approx(then) and one.saved == pytest.approx(1 - then / now)
        assert one.breathed[0] <= one.breathed[1] <= one.breathed[2]
    (worn,) = [one for one in found if one.edit is None]
    assert worn.breathed[1] == pytest.approx(now / 10)


def test_the_dustiest_work_may_go_outside_or_last(shop: Shop) -> None:
    by_name = {one.name: one for one in measures(answers_of(shop))}
    outside, last = by_name["“Sanding” outside"], by_name["“Sanding” last, then leave"]
    assert outside.edit is not None and last.edit is not None
    assert [one.id for one in outside.edit(shop).air.session.work] == ["saw"]
    moved = {one.id: one.start for one in last.edit(shop).air.session.work}
    assert moved == {"saw": 30.0, "sand": 45.0}  # an hour earlier, and behind it
    assert outside.saved > last.saved


def test_the_first_three_that_save_anything_are_told_together(shop: Shop) -> None:
    answers, say = answers_of(shop), Figures("metric")
    found = measures(answers)
    changes = [one for one in found if one.edit is not None and one.saved > 0]
    assert len(changes) > 3 and [one for one in found if one.edit is None]
    left = together(answers, changes[:3])
    told = [one for one in said(answers, found, say) if "together" in one]
    assert told == [
        f"The first 3 changes together leave {say.dust(left[1])} ({say.dust(left[0])} to {say.dust(left[2])})."
    ]
    useless = replace(changes[1], saved=0.0)
    for few, count in ((changes[:1], 0), (changes[:2], 1), ([changes[0], useless], 0)):
        assert sum("together" in one for one in said(answers, few, say)) == count


def test_more_cleaning_costs_nothing_where_a_cleaner_hangs(shop: Shop) -> None:
    hung = put(put(shop, make_thing("workbench", "bench", 3.0, 1.0)), make_thing("air-cleaner", "box"))
    for cleaner_on, words in ((False, "Switch the cleaner on"), (True, "Let the cleaner run two hours")):
        (one,) = [
            found
            for found in measures(answers_of(change_session(hung, cleaner_on=cleaner_on)))
            if found.name.startswith(words)
        ]
        assert one.cost == (0.0, 0.0)
    (bought,) = [one for one in measures(answers_of(shop)) if "cleaner" in one.name]
    assert 0.0 < bought.cost[0] < bought.cost[1]


def test_together_is_one_day_with_all_of_them(shop: Shop) -> None:
    found = [one for one in measures(answers_of(shop)) if one.edit is not None][:2]
    both = found[1].edit(found[0].edit(shop))  # type: ignore[misc]
    assert together(answers_of(shop), found)[1] == pytest.approx(average(both))
    worn = [one for one in measures(answers_of(shop)) if one.edit is None]
    assert together(answers_of(shop), [*found, *worn])[1] == pytest.approx(average(both) / 10)


def test_the_smallest_cleaner_keeps_the_average_just_under_the_limit(shop: Shop) -> None:
    """More than it is enough, less is not; none where none is needed, none that does it at the tool."""
    answers = answers_of(shop)
    limit = limits()[shop.air.limit].value
    scaled = replace(shop.air.session.work[0], emission=(40.0, 200.0, 1000.0))
    for times in (0.05, 0.3, 1.0, 3.0, 30.0):
        one = replace(scaled, emission=tuple(times * e for e in scaled.emission))  # type: ignore[arg-type]
        here = change_session(shop, work=(one,))
        flow = smallest_cleaner(answers_of(here))
        if average(here) <= limit:
            assert flow == 0.0
        elif flow == inf:
            assert with_cleaner(here, 2.0) > limit
        else:
            assert with_cleaner(here, flow * 1.01) <= limit < with_cleaner(here, flow * 0.99)
    assert smallest_cleaner(answers) >= 0.0


def with_cleaner(shop: Shop, flow: float) -> float:
    cleaner = replace(
        make_thing("air-cleaner", "more"),
        cleaner=Cleaner(flow=flow, efficiency=(1.0, 1.0, 1.0, 1.0), mixing=1.0),
    )
    return average(put(shop, cleaner))


def test_what_moves_the_answer_most_is_to_be_measured_first(shop: Shop) -> None:
    found = assumptions(answers_of(shop))
    assert [one.span for one in found] == sorted((one.span for one in found), reverse=True)
    assert found[0].name == "How much dust the work throws off" and found[0].high > 10 * found[0].low
    names = {one.name for one in found}
    assert "Air changes of the shut room" in names
    measured = {one.name for one in assumptions(answers_of(change_air(shop, ach_measured="closed")))}
    assert "Air changes of the shut room" not in measured  # it was measured
    now = average(shop)
    for one in found:
        assert min(one.low, one.high) <= now * 1.0001 and max(one.low, one.high) >= now * 0.9999, one.name


@pytest.mark.parametrize("demo", ["garage", "spare-room-mended", "single-garage"])
def test_it_is_said_for_the_demos_and_for_nothing(demo: str) -> None:
    answers, say = answers_of(loads(demo_bytes(demo)).shop), Figures("metric")
    table, _, assumed = help_tables(answers, say)
    assert len(table.rows) >= 4 and len(assumed.rows) >= 3
    text = " ".join(said(answers, measures(answers), say))
    assert "Measure first: " in text and "Now you breathe " in text
    assert not list(help_tables(answers_of(Shop()), say)) and not measures(answers_of(Shop()))
