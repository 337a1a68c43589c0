"""The tape walk: walls corrected, taken out and split."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QPushButton

from purvel.review import Grade
from purvel.shop import Opening, Shop
from purvel.shop.edits import put
from tests.app.conftest import Bench
from tests.conftest import box_room


def test_the_tape_walk_corrects_a_wall_and_takes_one_out(bench: Bench) -> None:
    bench.workspace.open(Shop(units="metric", room=box_room(6, 5)))
    bench.stage("room")
    tape = bench.window.stages["room"].tape
    row = tape._rows["C"]
    length, turn, how = row.length, row.turn, row.how
    for field, text in ((length, "6.3 m"), (turn, "88")):
        field.line.setFocus()
        field.line.selectAll()
        QTest.keyClicks(field.line, text)
        QTest.keyClick(field.line, Qt.Key.Key_Return)
    how.activated.emit(3)
    wall = bench.workspace.shop.room.walls[2]
    assert (wall.length, wall.turn, wall.provenance) == (pytest.approx(6.3), 88.0, "paced")
    bench.settle()
    (gap,) = [one for one in bench.window.reviews.latest.of("room") if one.rule == "closing-gap"]
    assert gap.grade == Grade.MEND and "C" in gap.where.items
    next(b for b in tape.findChildren(QPushButton) if b.accessibleName() == "Take out wall C").click()
    assert [one.id for one in bench.workspace.shop.room.walls] == ["A", "B", "D"]
    assert list(tape._rows) == ["A", "B", "D"]
    bench.workspace.undo()
    assert list(tape._rows) == ["A", "B", "C", "D"]


@pytest.mark.parametrize("pixels", [15, 24])
def test_the_tape_walks_rows_fit_their_place(bench: Bench, pixels: int) -> None:
    bench.demo("garage", "room")
    bench.window.theme.set_text(pixels)
    QApplication.processEvents()
    tape = bench.window.stages["room"].tape
    assert tape.table.width() <= tape.width()
    for field in (row.length for row in tape._rows.values()):
        assert field.line.fontMetrics().horizontalAdvance(field.line.text()) < field.line.width() - 10


def test_a_picked_wall_is_split_in_two(bench: Bench) -> None:
    bench.demo("garage", "room")
    tape = bench.window.stages["room"].tape
    bench.workspace.pick("C")
    before = bench.workspace.shop
    part = next(b for b in bench.window.inspector.findChildren(QPushButton) if b.text() == "Split in two")
    part.click()
    assert list(tape._rows) == ["A", "B", "C", "E", "D"]
    bench.workspace.undo()
    assert bench.workspace.shop == before
    full = Opening(
        id="wide", kind="sliding", wall="B", offset=0.05, width=before.room.walls[1].length - 0.1, head=2.0
    )
    bench.workspace.apply(lambda shop: put(shop, full), "Fill the wall")
    bench.workspace.pick("B")
    filled = bench.workspace.shop
    next(b for b in bench.window.inspector.findChildren(QPushButton) if b.text() == "Split in two").click()
    assert bench.workspace.shop == filled and "too full of openings" in bench.window.notice.said.text()
