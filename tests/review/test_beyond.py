"""Rooms beyond, people and days, as findings, tables and the report tell them."""

from dataclasses import replace

import pytest

from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review import Answers, Figures, Grade, Memory
from purvel.review.air import STAGE
from purvel.review.air.answers import AirAnswers
from purvel.review.air.beyond import behind, rooms_table
from purvel.review.air.days import drop_other, from_jobs, keep_as_other, put_session, week_of
from purvel.review.air.helps import assumptions
from purvel.review.reviewing import first_review
from purvel.roomair.zones import doorway
from purvel.shop import GateSet, Opening, Passage, Person, Shop, WorkInterval
from purvel.shop.edits import change, change_air, change_session, put, remove, swap_days
from purvel.shop.faults import faults
from purvel.shop.jobs import Job, JobStep
from tests.conftest import box_room

SAY = Figures("metric")
SAND = WorkInterval(id="sand", name="Sanding", start=10, minutes=60, emission=(40, 200, 1000))


@pytest.fixture
def shop() -> Shop:
    """A room of 5 by 4 m with a door into the house, in which is sanded for an hour."""
    bare = change_session(Shop(room=box_room(5.0, 4.0), units="metric"), work=(SAND,), minutes=120.0)
    door = Opening(id="in", kind="swing", wall="A", offset=1.0, width=0.9, head=2.03, leads="house")
    return put(bare, door)


def answers_of(shop: Shop) -> Answers:
    return Answers(shop, Memory())


def findings(shop: Shop, rule: str) -> list:
    return [one for one in first_review(shop, Memory()).findings if one.rule == rule]


def test_a_door_into_the_house_behind_which_nothing_is_known_is_told_and_mended(shop: Shop) -> None:
    (told,) = findings(shop, "beyond-unknown")
    assert told.grade == Grade.WATCH and "the house" in told.sentence and "counts as shut" in told.sentence
    (candidate,) = STAGE.remedies["beyond-unknown"](told, answers_of(shop), SAY)
    after = candidate[1](shop)
    assert findings(after, "beyond-unknown") == [] and faults(after) == []
    assert after.air.rooms[0].name == "the house" and after.air.passages[0].opening == "in"
    (found,) = findings(after, "room-beyond")
    assert found.figures["share"] > 0.05


def test_a_passage_is_as_large_as_its_opening(shop: Shop) -> None:
    found = answers_of(behind(shop, "in")).of(AirAnswers)
    (passage,) = found.air.passages
    assert (passage.width, passage.height) == (0.9, 2.03)
    assert found.day is not None
    flow = 3600 * (doorway(0.9, 2.03, 1.0) + 0.05)
    assert found.day.stretches[0].exchanged[0][1] == pytest.approx(flow)


def test_the_cure_of_dust_in_the_house_is_to_keep_the_door_shut(shop: Shop) -> None:
    there = behind(shop, "in")
    (told,) = findings(there, "room-beyond")
    (candidate,) = STAGE.remedies["room-beyond"](told, answers_of(there), SAY)
    assert candidate[0].startswith("Keep") and candidate[0].endswith("shut")
    after = candidate[1](there)
    (now,) = findings(after, "room-beyond")
    assert now.figures["fine_mean"] == 0.0 and now.grade == Grade.GOOD
    assert STAGE.progress["room-beyond"](told, now)
    no_way = remove(there, there.air.passages[0].id)
    (alone,) = findings(no_way, "room-beyond")
    assert alone.grade == Grade.WATCH and "Nothing leads" in alone.sentence


def test_who_is_about_is_told_and_stands_in_the_table_and_the_report(shop: Shop) -> None:
    there = behind(shop, "in")
    room = there.air.rooms[0].id
    there = put(
        put(there, Person(id="child", name="Child", room=room, start=60.0, minutes=60.0)), Person(id="x")
    )
    told = findings(there, "person-breathes")
    assert {one.about for one in told} == {("child",), ("x",)}
    told.sort(key=lambda one: one.about)
    assert "Child, in the house from minute 60 to 120, breathes" in told[0].sentence
    assert told[1].figures["average_8h"] > told[0].figures["average_8h"] > 0
    (table,) = rooms_table(answers_of(there), SAY)
    assert [row[0] for row in table.rows] == [
        "The shop",
        "the house",
        "Child, the house, 60–120 min",
        "Somebody, the shop, 0–60 min",
    ]
    said = STAGE.report(answers_of(there))
    assert [one["id"] for one in said["rooms"]] == [None, room]
    assert said["people"][0]["bands"]["central"]["average_8h"] == told[0].figures["average_8h"]
    low, middle, high = said["passages"][0]["exchange"]
    assert low < middle < high
    assert said["session"]["stretches"][0]["exchanged"][0][1] == pytest.approx(3600 * middle)


def test_how_much_goes_through_doors_is_an_assumption_like_others(shop: Shop) -> None:
    named = {one.name: one for one in assumptions(answers_of(behind(shop, "in")))}
    doors = named["How much air goes through doors and stairs"]
    assert doors.low > doors.high  # more of it leaves the shop
    assert "How much air goes through doors and stairs" not in {
        one.name for one in assumptions(answers_of(shop))
    }


def test_a_room_that_is_taken_away_takes_its_doors_and_its_people(shop: Shop) -> None:
    there = behind(shop, "in")
    room = there.air.rooms[0].id
    there = put(there, Person(id="child", room=room))
    after = remove(there, room)
    assert (after.air.passages, after.air.people) == ((), ())
    assert remove(there, "in").air.passages[0].opening is None


# ---- days


def average(shop: Shop) -> float:
    day = answers_of(shop).of(AirAnswers).day
    assert day is not None
    return day.courses["central"].personal_8h


def test_two_days_are_held_against_each_other_and_a_week_is_their_mean(shop: Shop) -> None:
    both = change(keep_as_other(shop), "sand", minutes=15.0)
    found = answers_of(both).of(AirAnswers)
    assert found.other is not None and found.other.day is not None
    assert found.other.day.courses["central"].personal_8h == pytest.approx(average(shop))
    week = week_of(answers_of(change_air(both, days=(3, 2))))
    assert week is not None
    assert week.mean[1] == pytest.approx((3 * average(both) + 2 * average(shop)) / 5)
    swapped = swap_days(both)
    assert average(swapped) == pytest.approx(average(shop)) and swap_days(swapped) == both
    assert drop_other(both).air.other is None and drop_other(both).air.days == (2, 0)
    alone = week_of(answers_of(shop))
    assert alone is not None and alone.mean[1] == pytest.approx(2 * average(shop) / 5)


def test_a_day_of_the_jobs_has_their_minutes() -> None:
    """A job of 30 min at the saw that is done 8.7 times a month is 2 h a week: on two days, an hour each."""
    shop = loads(demo_bytes("garage")).shop
    saw = next(thing.id for thing in shop.things if thing.kind.startswith("table-saw"))
    job = Job(
        id="rip", steps=(JobStep(operation="rip", station=saw, minutes=30.0),), per_month=2 * 2 * 365.25 / 84
    )
    one = replace(shop, jobs=(job,))
    session = from_jobs(answers_of(one), 2)
    (work,) = session.work
    assert (work.thing, work.operation) == (saw, "table-saw") and work.minutes == pytest.approx(60.0, abs=0.1)
    after = put_session(session)(one)
    assert faults(after) == [] and [piece.minutes for piece in after.air.session.work] == [work.minutes]
    assert from_jobs(answers_of(one), 1).work[0].minutes == pytest.approx(120.0, abs=0.1)
    with pytest.raises(ValueError, match="add jobs there first"):
        from_jobs(answers_of(replace(one, jobs=())), 2)
    with pytest.raises(ValueError, match="more days a week"):
        from_jobs(answers_of(replace(one, jobs=(replace(job, per_month=1000.0),))), 1)


# ---- what the wood, the edge and the choice of gates change


def test_wood_and_edge_change_what_is_thrown_off(shop: Shop) -> None:
    now = average(shop)
    assert average(change(shop, "sand", wood="fibreboard")) == pytest.approx(3 * now)
    assert average(change(shop, "sand", edge="dull")) == pytest.approx(2 * now)
    assert average(change(shop, "sand", edge="sharp", wood="board")) == pytest.approx(0.7 * 1.5 * now)
    assert average(change(shop, "sand", wood="fibreboard", operation="mdf")) == pytest.approx(now)
    assert average(change(shop, "sand", wood="not in the catalogue")) == pytest.approx(now)


def test_a_piece_of_work_pulls_as_in_its_own_choice_of_gates() -> None:
    """All gates open, it gets less than with those that serve it best; with all shut nothing works there."""
    shop = loads(demo_bytes("garage-mended")).shop
    found = answers_of(shop).of(AirAnswers)
    work = next(one for one in shop.air.session.work if one.id in found.pulls)
    every = tuple(gate.id for run in shop.ducts.runs for gate in run.gates)
    shop = put(put(shop, GateSet(id="all", open=every)), GateSet(id="none", open=()))
    shop = change(shop, work.id, gate_set="all")
    all_open = answers_of(shop).of(AirAnswers).pulls[work.id]
    assert 0 < all_open.flow < found.pulls[work.id].flow
    shut = answers_of(change(shop, work.id, gate_set="none")).of(AirAnswers)
    assert work.id not in shut.pulls
    assert remove(shop, "all").air.session.work[0].gate_set is None


def test_a_passage_whose_room_is_not_there_is_a_fault(shop: Shop) -> None:
    lost = change_air(shop, passages=(Passage(id="way", room="gone"),))
    assert [one.item for one in faults(lost)] == ["way"]
