"""Rules of keeping, their cures, their report."""

from dataclasses import replace
from datetime import date
from functools import partial
from typing import Any

import pytest

from purvel.catalogue import make_thing
from purvel.review import Answers, Grade, Memory, remedies_for
from purvel.review.keep import answers as keep_answers
from purvel.review.keep.answers import KeepAnswers
from purvel.review.keep.report import report
from purvel.review.reviewing import findings_of
from purvel.review.stages import stage_of
from purvel.shop import Shop, Stock
from purvel.shop.ducts import Ran
from purvel.shop.edits import change_ducts, remove
from purvel.shop.faults import faults
from purvel.shop.jobs import Job, JobStep
from purvel.shop.upkeep import Bin, CutList, CutPart, CutStock, Duty, Entry, Upkeep
from tests.conftest import box_room
from tests.review.asking import asked, found_in

SHEET = CutStock(id="sheet", name="Sheet")
STICK = CutStock(id="stick", name="Stick", kind="stick", length=2.4, width=0.05, thickness=0.02)
JOB = Job(
    id="job", name="Boards", per_month=4, stock=Stock(length=2.4, width=0.15, thickness=0.025),
    steps=(JobStep(operation="thickness", walks=10, minutes=30), JobStep(operation="rip", minutes=15)),
)  # fmt: skip


@pytest.fixture(autouse=True)
def calendar(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(keep_answers, "today", lambda: date(2026, 3, 1))


def shop(**upkeep: Any) -> Shop:
    things = (
        make_thing("planer", "planer", 2.0, 2.0),
        make_thing("table-saw", "saw", 4.5, 2.5),
        make_thing("collector", "fan", 5.0, 4.5),
    )
    return Shop(units="metric", room=box_room(), things=things, jobs=(JOB,), upkeep=Upkeep(**upkeep))


found = partial(found_in, "keep")


def test_hours_come_from_the_jobs_and_sources_run_with_the_machines() -> None:
    hours = Answers(shop(), Memory()).of(KeepAnswers).hours
    assert hours == {"planer": 2.0, "saw": 1.0, "fan": 3.0}


def test_what_is_due_is_one_finding_and_done_today() -> None:
    late = Duty(id="late", name="Late", thing="planer", every_days=30, done_on="2026-01-01")
    use = Duty(
        id="use", name="By use", thing="planer", every_hours=2.0, done_on="2026-01-20"
    )  # a month of use
    soon = Duty(id="soon", name="Soon", every_days=40, done_on="2026-01-25")
    here = shop(duties=(late, use, soon))
    by_grade = {one.grade: one for one in found(here, "duty")}
    assert by_grade[Grade.MEND].figures["duties"] == 2.0 and by_grade[Grade.WATCH].figures["duties"] == 1.0
    cure = remedies_for(by_grade[Grade.MEND], asked(here))[0]
    after = cure.edit(here)
    assert [one.done_on for one in after.upkeep.duties] == ["2026-03-01", "2026-03-01", "2026-01-25"]
    assert all(one.grade != Grade.MEND for one in found(after, "duty"))


def test_hours_that_a_switch_box_counted_are_added_up_by_day() -> None:
    ran = [("2026-02-09", 9.0), ("2026-02-20", 0.5), ("2026-02-20", 0.25)]
    counted = tuple(Ran(thing="planer", day=day, hours=hours) for day, hours in ran)
    by_day = {date(2026, 2, 9): 9.0, date(2026, 2, 20): 0.75}
    answers = Answers(change_ducts(shop(), ran=counted), Memory()).of(KeepAnswers)
    assert answers.counted == {"planer": by_day}


def test_nothing_due_says_what_is_next() -> None:
    (said,) = found(shop(duties=(Duty(id="d", name="Filter", every_days=100, done_on="2026-02-01"),)), "duty")
    assert said.grade == Grade.GOOD and said.figures["days"] == 72


def test_a_full_bin_is_emptied() -> None:
    """43.2 l solid a month, 26 kg: far more than a bucket of 20 l takes in a month."""
    here = shop(bin=Bin(volume=0.02, emptied_on="2026-02-01"))
    (said,) = found(here, "bin")
    assert said.grade == Grade.MEND
    cure = remedies_for(said, asked(here))[0]
    assert cure.edit(here).upkeep.bin.emptied_on == "2026-03-01"  # type: ignore[union-attr]
    assert found(cure.edit(here), "bin")[0].grade == Grade.GOOD
    (fresh,) = found(shop(bin=Bin(volume=0.02, emptied_on="2026-03-01")), "bin")
    for end in ("low", "high"):  # 28 days of it are over
        assert said.figures[end] == pytest.approx(fresh.figures[end] - 28)


def test_a_big_drum_is_heavy() -> None:
    (said,) = found(shop(bin=Bin(volume=0.3, emptied_on="2026-03-01")), "bin-heavy")
    assert said.figures["mass"] > 23.0
    assert found(shop(bin=Bin(volume=0.05, emptied_on="2026-03-01")), "bin-heavy") == []


def test_machines_without_upkeep_get_the_usual() -> None:
    here = shop(duties=(Duty(id="d", thing="saw", every_days=365, done_on="2026-02-28"),))
    (said,) = found(here, "no-duty")
    assert set(said.where.items) == {"planer", "fan"}
    (cure,) = remedies_for(said, asked(here))
    after = cure.edit(here)
    assert found(after, "no-duty") == [] and faults(after) == []
    assert {one.thing for one in after.upkeep.duties} == {"planer", "saw", "fan"}


def test_parts_without_stock_get_a_sheet() -> None:
    part = CutPart(id="side", name="Side", length=0.8, width=0.3, thickness=0.015)
    here = shop(cuts=CutList(parts=(part,), stock=(SHEET,)))
    (said,) = found(here, "no-stock")
    cure = remedies_for(said, asked(here))[0]
    assert found(cure.edit(here), "no-stock") == []


def test_parts_come_from_sheets_and_sticks() -> None:
    parts = (
        CutPart(id="side", name="Side", length=0.8, width=0.6, count=4),
        CutPart(id="rail", name="Rail", length=0.5, width=0.05, thickness=0.02, count=5),
    )
    here = shop(cuts=CutList(parts=parts, stock=(SHEET, STICK)))
    counts = {one.about[0]: one.figures["count"] for one in found(here, "cuts")}
    assert counts == {"sheet": 1.0, "stick": 2.0}
    made = {one["stock"]: one for one in report(asked(here))["cuts"]}
    assert len(made["sheet"]["sheets"][0]["laid"]) == 4 and sum(map(len, made["stick"]["sticks"])) == 5


def test_a_part_that_does_not_come_out_is_named() -> None:
    part = CutPart(id="side", name="Side", length=1.5, width=1.3, grain="along")
    (said,) = found(shop(cuts=CutList(parts=(part,), stock=(SHEET,))), "part-too-large")
    assert said.grade == Grade.MEND and said.where.items == ("side",)


def test_what_goes_is_referred_to_no_more() -> None:
    entry = Entry(id="e", day="2026-01-01", thing="saw")
    here = shop(duties=(Duty(id="d", thing="saw"),), journal=(entry,))
    after = remove(here, "saw")
    assert (
        after.upkeep.duties[0].thing is None and after.upkeep.journal[0].thing is None and faults(after) == []
    )


def test_the_report_adds_up() -> None:
    made = report(Answers(shop(bin=Bin(volume=0.2)), Memory()))["upkeep"]
    gone = made["removed"]
    assert gone["mass"] == pytest.approx(600.0 * gone["solid"])
    assert made["bin"]["share"] == [
        pytest.approx(gone["loose_low"] / 0.2),
        pytest.approx(gone["loose_high"] / 0.2),
    ]


def test_an_empty_shop_has_nothing_to_keep() -> None:
    assert findings_of(stage_of("keep"), asked(replace(shop(), upkeep=Upkeep()))) == []


def test_a_bin_that_nothing_fills_is_not_spoken_of() -> None:
    idle = replace(shop(bin=Bin(volume=0.2)), jobs=())
    assert found(idle, "bin") == []
