"""The stage of upkeep, by hand."""

from dataclasses import replace
from pathlib import Path

import pytest
from PySide6.QtGui import QPixmap
from PySide6.QtWidgets import QPlainTextEdit, QPushButton

from purvel.app.picked.upkeep import EntryForm
from purvel.app.stages.keep.stage import CUTS, JOURNAL, KeepStage
from purvel.shop.edits import move_thing
from tests.app.conftest import Bench, enter
from tests.app.test_flow import field, press


def stage(bench: Bench) -> KeepStage:
    bench.stage("keep")
    shown = bench.window.stage
    assert isinstance(shown, KeepStage)
    return shown


def test_what_is_usually_due_and_done_today(bench: Bench) -> None:
    bench.demo("garage")
    shown = stage(bench)
    before = len(bench.workspace.shop.upkeep.duties)
    shown.add_usual()
    assert len(bench.workspace.shop.upkeep.duties) > before
    duty = bench.workspace.shop.upkeep.duties[0]
    bench.workspace.pick(duty.id)
    press(bench, "Done today")
    now = bench.workspace.shop.upkeep.duties[0].done_on
    assert now is not None and now != duty.done_on
    enter(field(bench, "Every so many hours of use"), "12")
    assert bench.workspace.shop.upkeep.duties[0].every_hours == 12.0
    kept = bench.workspace.shop
    enter(field(bench, "Day it was done last"), "the other day")
    assert bench.workspace.shop == kept


def test_a_page_of_the_journal_begins_with_what_was_done(bench: Bench, tmp_path: Path) -> None:
    bench.demo("garage")
    shown = stage(bench)
    bench.workspace.apply(lambda shop: move_thing(shop, "planer", 2.2, 1.7), "Move Planer")
    shown.note()
    entry = bench.workspace.shop.upkeep.journal[-1]
    assert "Move Planer" in entry.text and shown.panes.chosen == JOURNAL
    box = bench.window.inspector.findChild(QPlainTextEdit)
    assert box is not None
    box.setPlainText("Moved the planer out of the bay")
    press(bench, "Keep these words")
    assert bench.workspace.shop.upkeep.journal[-1].text == "Moved the planer out of the bay"
    form = bench.window.inspector._form
    assert isinstance(form, EntryForm)
    picture = tmp_path / "bench.png"
    pixmap = QPixmap(40, 30)
    pixmap.fill("red")
    pixmap.save(str(picture))
    form.add_picture(picture)
    assert len(bench.workspace.shop.upkeep.journal[-1].pictures) == 1
    assert bench.workspace.shop.attachments[-1].kind == "picture" and len(bench.workspace.blobs) == 2
    bench.workspace.undo()
    assert bench.workspace.shop.upkeep.journal[-1].pictures == ()
    assert [one.kind for one in bench.workspace.shop.attachments] == ["log"]


def test_what_is_no_picture_is_refused(bench: Bench, tmp_path: Path) -> None:
    bench.demo("garage")
    stage(bench)
    bench.workspace.pick("entry-1")
    form = bench.window.inspector._form
    assert isinstance(form, EntryForm)
    before = bench.workspace.shop
    wrong = tmp_path / "notes.png"
    wrong.write_text("no picture")
    for path in (wrong, tmp_path / "gone.png", tmp_path):
        form.add_picture(path)
        assert bench.workspace.shop == before and "Nothing was changed" in bench.window.notice.said.text()


def test_parts_are_cut_from_a_sheet(bench: Bench) -> None:
    bench.demo("spare-room-mended")
    shown = stage(bench)
    shown.add_part()
    part = bench.workspace.shop.upkeep.cuts.parts[-1]
    enter(field(bench, "How long the part is"), "700 mm")
    enter(field(bench, "How many of the part"), "6")
    shown.add_stock("sheet")
    bench.settle(whole=True)
    assert shown.panes.chosen == CUTS and part.id in {
        one.id for one in bench.workspace.shop.upkeep.cuts.parts
    }
    assert shown.cuts.plans is not None
    assert sum(piece.id == part.id for plan in shown.cuts.plans for piece in plan.pieces) == 6
    assert not bench.window.grab().isNull()
    kept = bench.workspace.shop
    for text in ("0", "501", "some"):
        bench.workspace.pick(part.id)
        enter(field(bench, "How many of the part"), text)
        assert bench.workspace.shop == kept


def test_a_bin_is_added_and_sized(bench: Bench) -> None:
    bench.demo("spare-room-mended")
    shown = stage(bench)
    assert not shown.volume.isEnabled() or bench.workspace.shop.upkeep.bin is not None
    shown.add_bin()
    enter(shown.volume, "0.05 m³")
    assert (
        bench.workspace.shop.upkeep.bin is not None
        and abs(bench.workspace.shop.upkeep.bin.volume - 0.05) < 1e-6
    )
    buttons = bench.window.stage.strip.findChildren(QPushButton)
    assert any(one.text() == "Note what I did" for one in buttons)


@pytest.mark.parametrize(
    ("units", "shown_bin", "kerf", "shown_kerf"),
    [("imperial", "7.1 ft³", "0.125", "0.125 in"), ("metric", "200 l", "3.2", "3.2 mm")],
)
def test_bin_and_kerf_are_shown_and_typed_in_the_units_in_use(
    bench: Bench, units: str, shown_bin: str, kerf: str, shown_kerf: str
) -> None:
    bench.demo("garage")
    bench.workspace.apply(lambda shop: replace(shop, units=units), "Units")
    shown = stage(bench)
    enter(shown.volume, "0.2 m³")
    enter(shown.kerf, kerf)
    assert bench.workspace.shop.upkeep.cuts.kerf == pytest.approx(
        0.125 * 0.0254 if units == "imperial" else 0.0032
    )
    bench.settle(whole=True)
    said = {one.rule: one.why.replace("\u00a0", " ") for one in bench.window.reviews.latest.of("keep")}
    assert shown.volume.line.text() == shown_bin and shown.kerf.line.text() == shown_kerf
    assert f"Straight cuts with {shown_kerf} of kerf." in said["cuts"]
    assert (" lb of wood" in said["bin"], " kg of wood" in said["bin"]) == (
        units == "imperial",
        units == "metric",
    )
