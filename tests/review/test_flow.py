"""Flow's rules, its cures, its report."""

import itertools
from dataclasses import replace
from functools import partial
from math import hypot
from typing import Any

import pytest

from purvel.catalogue import able, make_thing, ready_jobs, trade_operations
from purvel.catalogue.machines import kinds
from purvel.review import Answers, Finding, Grade, Memory, remedies_for
from purvel.review.finding import Basis
from purvel.review.flow.answers import FlowAnswers
from purvel.review.flow.remedies import _shorter
from purvel.review.flow.report import report
from purvel.review.reviewing import first_review, whole_review
from purvel.shop import Opening, Shop, Stock
from purvel.shop.edits import change, put, remove
from purvel.shop.faults import faults
from purvel.shop.jobs import Job, JobStep
from purvel.space.routes import BODY
from purvel.stopping import Stopped, while_wanted
from tests.conftest import block, box_room
from tests.review.asking import asked, found_in

DOOR = Opening(id="door", kind="sliding", wall="A", offset=2.5, width=1.0, head=2.1, outside=5.0, entry=True)


def shop(*things: Any, job: Job | None = None, **changes: Any) -> Shop:
    """A 6 x 5 m room with a door in the middle of wall A, a saw and a bench, and one job."""
    standing = things or (
        make_thing("table-saw", "saw", 1.5, 3.0),
        make_thing("workbench", "bench", 4.5, 4.5),
    )
    job = job or Job(
        id="job", name="Job", stock=BOARD, steps=(JobStep(operation="rip"), JobStep(operation="joint"))
    )
    room = box_room(openings=(DOOR,))
    return replace(Shop(units="metric", room=room, things=standing, jobs=(job,)), **changes)


BOARD = Stock(length=1.8, width=0.2, thickness=0.025)


found = partial(found_in, "flow")


def test_a_job_finds_the_best_station_for_each_step() -> None:
    things = (make_thing("bandsaw", "band", 1.0, 1.0), make_thing("table-saw", "saw", 3.0, 3.0))
    assert [thing.id for thing in able(things, "rip")] == ["saw", "band"]
    assert able(things, "turn") == [] and able(things, "no such thing") == []
    flow = Answers(shop(*things), Memory()).of(FlowAnswers).jobs["job"]
    assert [one.thing for one in flow.stations] == ["saw", "saw"]


def test_its_own_choice_of_station_comes_first() -> None:
    job = Job(id="job", stock=BOARD, steps=(JobStep(operation="rip", station="bench"),))
    assert Answers(shop(job=job), Memory()).of(FlowAnswers).jobs["job"].stations[0].thing == "bench"


def test_walks_are_there_and_back_but_for_the_last() -> None:
    """From the door to the saw once, and three walks from the saw to the bench: 1 and 5 ways."""
    steps = (JobStep(operation="rip"), JobStep(operation="joint", walks=3))
    flow = Answers(shop(job=Job(id="job", stock=BOARD, steps=steps)), Memory()).of(FlowAnswers).jobs["job"]
    first, second = flow.legs
    assert first.way is not None and second.way is not None
    assert flow.distance == pytest.approx(first.way.length + 5 * second.way.length)
    a, b = first.way.points[0], first.way.points[-1]
    assert a == pytest.approx((3.0, BODY / 2)) and first.way.length == pytest.approx(
        hypot(b[0] - a[0], b[1] - a[1])
    )
    (said,) = found(shop(job=Job(id="job", stock=BOARD, steps=steps, per_month=4)), "job-walk")
    assert said.figures["per_month"] == pytest.approx(4 * said.figures["distance"])


def test_nothing_here_does_it_names_stand_ins_and_a_place_for_a_machine_cures_it() -> None:
    job = Job(
        id="job", name="Bowls", stock=BOARD, steps=(JobStep(operation="turn"), JobStep(operation="rip"))
    )
    here = shop(job=job)
    (said,) = found(here, "job-station")
    assert said.grade == Grade.MEND and said.about == ("turn",) and "Bowls" in said.sentence
    assert trade_operations()["turn"].stand_ins[0].name in said.why
    cures = remedies_for(said, asked(here))
    assert cures and "lathe" in cures[0].label
    assert found(cures[0].edit(here), "job-station") == []


def test_several_jobs_that_lack_the_same_are_one_finding() -> None:
    one = Job(id="one", name="One", stock=BOARD, steps=(JobStep(operation="turn"),))
    here = replace(shop(job=one), jobs=(one, replace(one, id="two", name="Two")))
    (said,) = found(here, "job-station")
    assert said.figures["jobs"] == 2 and "One and Two" in said.sentence


def test_a_station_behind_a_barrier_is_reached_by_nobody() -> None:
    barrier = block("barrier", 3.0, 2.0, 6.0, 0.3, 1.0)
    here = shop()
    (said,) = found(put(here, barrier), "job-unreachable")[:1]
    assert said.grade == Grade.MEND and said.about == ("saw",)
    assert not found(here, "job-unreachable")
    assert found(put(here, barrier), "carry") == []  # said once


def test_a_board_that_does_not_get_there_is_a_stop_with_cures() -> None:
    """A rack in the way leaves 0.9 m: a sheet 1.2 m wide passes on edge, not flat."""
    sheet = Stock(length=1.8, width=1.2, thickness=0.018)
    narrow = replace(DOOR, width=0.9)
    room = box_room(openings=(narrow,))
    job = Job(id="job", name="Sheets", stock=sheet, steps=(JobStep(operation="rip"),))
    here = replace(shop(job=job), room=room)
    (said,) = found(here, "carry")
    assert said.grade == Grade.STOP and said.figures["longest"] < 0.9
    cures = remedies_for(said, asked(here))
    assert any("on edge" in cure.label for cure in cures)
    cured = next(cure for cure in cures if "on edge" in cure.label).edit(here)
    assert [one.grade for one in found(cured, "carry")] == [Grade.GOOD]


def test_what_jams_is_moved_aside() -> None:
    """Two cupboards leave 1.1 m between them; one is settled, the other can go."""
    left = block("left", 1.2, 2.0, 2.4, 0.4, 1.9, settled=True)
    right = block("right", 4.65, 2.0, 2.3, 0.4, 1.9)
    sheet = Stock(length=1.8, width=1.15, thickness=0.018)
    job = Job(id="job", name="Sheets", stock=sheet, steps=(JobStep(operation="joint"),))
    door = replace(DOOR, width=1.6, offset=2.0)
    bench = make_thing("workbench", "bench", 3.0, 4.5, 0.0)
    here = replace(shop(bench, left, right, job=job), room=box_room(openings=(door,)))
    (said,) = found(here, "carry")
    assert said.grade == Grade.STOP and "right" in said.where.items
    saw = make_thing("table-saw", "saw", 4.9, 1.0, 0.0)
    for steps, grade in ((("rip", "joint"), Grade.MEND), (("joint", "rip"), Grade.STOP)):
        longer = replace(job, steps=tuple(JobStep(operation=one) for one in steps))
        (later,) = found(replace(here, things=(*here.things, saw), jobs=(longer,)), "carry")
        assert later.grade == grade and later.about == (
            "job",
            "door",
            "bench",
        )  # a Stop at the first stop alone
    labels = [cure.label for cure in remedies_for(said, asked(here))]
    assert any(label.startswith("Move right") for label in labels), labels
    assert not any("left 2" in label for label in labels)


def test_a_heavy_sheet_takes_two_and_half_of_it_one() -> None:
    """2.44 x 1.22 x 0.018 m at 650 kg/m3 is 34.8 kg."""
    sheet = Stock(length=2.44, width=1.22, thickness=0.018)
    here = shop(
        job=Job(
            id="job",
            name="Sheets",
            stock=sheet,
            held="on edge",
            density=650.0,
            steps=(JobStep(operation="rip"),),
        )
    )
    (said,) = found(here, "lift-alone")
    assert said.figures["mass"] == pytest.approx(2.44 * 1.22 * 0.018 * 650)
    (cure,) = remedies_for(said, asked(here))
    assert found(cure.edit(here), "lift-alone") == []


def test_a_long_leg_is_named_and_swapping_stations_shortens_it() -> None:
    """The bench that is gone to most often stands at the far end; the saw's place is nearer."""
    things = (
        make_thing("table-saw", "saw", 2.0, 1.5, 90.0),
        make_thing("drill-press", "drill", 3.2, 1.2),
        make_thing("workbench", "bench", 5.0, 4.6),
    )
    steps = (
        JobStep(operation="bore"),
        JobStep(operation="joint", walks=6),
        JobStep(operation="bore"),
        JobStep(operation="rip"),
    )
    here = shop(*things, job=Job(id="job", name="Job", stock=BOARD, steps=steps))
    (said,) = found(here, "leg-long")
    assert said.about == ("job", "drill", "bench") and said.figures["share"] > 0.4
    leg = Answers(here, Memory()).of(FlowAnswers).jobs["job"].legs[1]
    assert leg.distance == pytest.approx(said.figures["distance"])


def test_a_station_that_is_put_away_gives_way_to_another() -> None:
    job = Job(id="job", name="Job", stock=BOARD, steps=(JobStep(operation="rip", station="saw"),))
    things = (make_thing("table-saw", "saw", 1.5, 3.0), make_thing("bandsaw", "band", 4.5, 3.0))
    here = shop(*things, job=job)
    assert found(here, "station-away") == []
    gone = replace(here, things=things[1:])  # as in a scene: the job still names it
    (said,) = found(gone, "station-away")
    assert said.where.items[0] == "band"


def test_taking_a_station_or_a_door_away_leaves_the_job_whole() -> None:
    job = Job(id="job", stock=BOARD, comes_from="door", steps=(JobStep(operation="rip", station="saw"),))
    after = remove(remove(shop(job=job), "saw"), "door")
    assert after.jobs[0].steps[0].station is None and after.jobs[0].comes_from is None
    assert faults(after) == []
    lost = change(shop(job=job), "job", comes_from="nowhere")
    assert lost.jobs[0].comes_from is None


def test_the_report_lets_an_outsider_check_each_figure() -> None:
    answers = asked(shop())
    (job,) = report(answers)["jobs"]
    assert job["distance"] == pytest.approx(sum(leg["distance"] for leg in job["legs"]))
    for leg in job["legs"]:
        points = leg["way"]
        length = sum(hypot(b[0] - a[0], b[1] - a[1]) for a, b in itertools.pairwise(points))
        assert length == pytest.approx(leg["length"])
        assert leg["distance"] == pytest.approx((2 * leg["walks"] - 1) * length)
    (haul,) = job["hauls"]
    assert [stop["thing"] for stop in haul["stops"]] == ["saw", "bench"]
    assert all(stop["fits"] and stop["longest"] >= 1.8 for stop in haul["stops"])
    assert haul["stops"][0]["largest_sheet"] is not None


def test_searches_follow_behind_and_stop_when_nobody_waits() -> None:
    here, memory = shop(), Memory()
    first = first_review(here, memory)
    assert not first.is_whole and not [one for one in first.findings if one.rule == "carry"]
    with while_wanted(lambda: False), pytest.raises(Stopped):
        whole_review(first)
    whole = whole_review(first)
    assert whole.is_whole and {one.rule for one in whole.found_late} == {"carry", "open-floor"}
    again = first_review(replace(here, name="Other"), memory, None, whole)
    assert not again.is_whole and again.found_late == whole.found_late  # stands until it is done anew
    assert whole_review(again).findings == whole.findings


def test_without_jobs_only_open_floor_is_searched_and_without_things_nothing() -> None:
    idle = whole_review(first_review(replace(shop(), jobs=()), Memory()))
    assert [one.rule for one in idle.found_late] == ["open-floor"]
    assert first_review(replace(shop(), jobs=(), things=()), Memory()).is_whole


@pytest.mark.parametrize("key", ready_jobs())
def test_ready_jobs_name_operations_that_there_are(key: str) -> None:
    for system in ("metric", "imperial"):
        job = ready_jobs()[key].job("job", system)  # type: ignore[arg-type]
        assert job.steps and all(step.operation in trade_operations() for step in job.steps)
        sizes = (job.stock.length, job.stock.width)
        step = 0.0254 if system == "imperial" else 0.005
        assert all(abs(size / step - round(size / step)) < 1e-6 for size in sizes)


@pytest.mark.parametrize("key", trade_operations())
def test_operations_name_kinds_that_there_are(key: str) -> None:
    operation = trade_operations()[key]
    assert set(operation.by) <= set(kinds()) and operation.stand_ins


def test_what_is_turned_in_the_yard_comes_in_by_a_door() -> None:
    """From the door of a job with a yard it starts outside; from a rack, and where there is no yard, not."""
    rack = make_thing("timber-rack", "rack", 5.5, 2.0, 90.0)
    for start, yard, outside in (("door", True, True), ("door", False, False), ("rack", True, False)):
        job = Job(id="job", stock=BOARD, comes_from=start, yard=yard, steps=(JobStep(operation="rip"),))
        here = shop(make_thing("table-saw", "saw", 2.0, 3.0), rack, job=job)
        (haul,) = Answers(here, Memory()).of(FlowAnswers).jobs["job"].hauls
        assert (haul.start.item, haul.start.yard) == (start, outside)


def test_only_a_tenth_less_to_walk_is_worth_the_work() -> None:
    leg = Finding("leg-long", Grade.WATCH, ("job",), "", "", Basis("geometry", ""), figures={"total": 40.0})
    worth = [_shorter(leg, replace(leg, figures={"total": total})) for total in (30.0, 35.9, 36.1, 44.0)]
    assert worth == [True, True, False, False]
