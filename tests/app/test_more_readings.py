"""Lengths between corners, spots and heights typed at the window; what is doubted taken, what is proposed
read.
"""

from dataclasses import replace

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QPushButton

from purvel.app.stages.room.more_readings import MoreReadings
from purvel.app.widgets.fields import TextField
from purvel.review import Grade
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Ceiling, Room, Shop
from tests.app.conftest import Bench
from tests.conftest import box_room


def opened(bench: Bench, room: Room) -> MoreReadings:
    bench.workspace.open(Shop(units="metric", room=room))
    bench.stage("room")
    bench.settle()
    tape = bench.window.stages["room"].tape
    tape.panes.choose(1)
    QApplication.processEvents()
    return tape.more


def type_into(field: TextField[float] | TextField[str], text: str, *, enter: bool = True) -> None:
    field.line.setFocus()
    field.line.selectAll()
    QTest.keyClicks(field.line, text)
    if enter:
        QTest.keyClick(field.line, Qt.Key.Key_Return)


def short() -> Room:
    """A box of 6 by 5 m whose wall C was read a foot short."""
    room = box_room(6.0, 5.0)
    return replace(room, walls=(*room.walls[:2], replace(room.walls[2], length=5.6952), room.walls[3]))


def words(more: MoreReadings) -> list[str]:
    return [label.text() for label in more.table.findChildren(type(more.next)) if label.isVisibleTo(more)]


def test_what_is_proposed_is_entered_and_leaves_one_to_take(bench: Bench) -> None:
    more = opened(bench, short())
    assert "Measure from corner A to corner C" in more.next.text() and "wall A or wall C" in more.next.text()
    more.take.click()
    assert (more.start.value, more.end.value) == ("A", "C") and more.across.line.hasFocus()
    type_into(more.across, "7 m 81 cm")
    (across,) = bench.workspace.shop.room.diagonals
    assert (across.start, across.end, across.length) == ("A", "C", 7.81)
    assert more.across.line.text() == "" and more.across.line.hasFocus()
    bench.settle()
    tape = bench.window.stages["room"].tape
    assert bench.window.reviews.latest.answers.shop.room.diagonals
    rows = {name: row.take.isVisibleTo(tape) for name, row in tape._rows.items()}
    assert rows == {"A": False, "B": False, "C": True, "D": False}
    assert tape._rows["C"].take.text() == "Take 6000 mm" and not more.take.isVisibleTo(more)
    tape._rows["C"].take.click()
    bench.settle()
    assert bench.workspace.shop.room.walls[2].length == pytest.approx(6.0, abs=0.003)
    (gap,) = [one for one in bench.window.reviews.latest.of("room") if one.rule == "closing-gap"]
    assert gap.grade == Grade.GOOD and "1 more reading agrees" in gap.sentence
    bench.workspace.undo()
    bench.workspace.undo()
    assert bench.workspace.shop.room == short()


def test_a_diagonal_that_is_wrong_itself_is_taken_as_it_would_fit(bench: Bench) -> None:
    more = opened(bench, box_room(6.0, 5.0))
    assert "square" in more.next.text()
    type_into(more.across, "8.1 m")
    bench.settle()
    take = next(b for b in more.table.findChildren(QPushButton) if b.text().startswith("Take 7"))
    assert take.text() == "Take 7810 mm"
    take.click()
    bench.settle()
    assert bench.workspace.shop.room.diagonals[0].length == pytest.approx(7.8102, abs=1e-4)
    assert more.next.text() == "All readings agree."
    away = next(b for b in more.table.findChildren(QPushButton) if b.accessibleName().startswith("Take out"))
    away.click()
    assert bench.workspace.shop.room.diagonals == () and words(more) == []


def test_a_spot_is_read_from_two_corners_and_by_its_name_from_a_third(bench: Bench) -> None:
    more = opened(bench, box_room(6.0, 5.0))
    type_into(more.spot_name, "Drain", enter=False)
    type_into(more.from_a, "5 m")
    assert more.from_b.line.hasFocus() and bench.workspace.shop.room.spots == ()
    more.how.show_value("laser")
    type_into(more.from_b, "5 m")
    (spot,) = bench.workspace.shop.room.spots
    assert [(one.corner, one.length, one.provenance) for one in spot.offsets] == [
        ("A", 5.0, "laser"),
        ("B", 5.0, "laser"),
    ]
    more.corner_a.show_value("C")
    type_into(more.from_a, "3162 mm", enter=False)
    type_into(more.from_b, "5.002 m")
    (spot,) = bench.workspace.shop.room.spots
    assert {one.corner: one.length for one in spot.offsets} == {"A": 5.0, "C": 3.162, "B": 5.002}
    bench.settle()
    assert any("from corner C to Drain: 3162 mm" in text for text in words(more))
    traverse = bench.window.reviews.latest.answers.of(RoomAnswers).traverse
    assert dict(traverse.spots)[spot.id] == pytest.approx((3.0, 4.0), abs=0.01)


def test_a_height_is_held_against_the_ceiling(bench: Bench) -> None:
    more = opened(bench, box_room(6.0, 5.0, ceiling=Ceiling(height=2.4)))
    type_into(more.along, "9 m", enter=False)
    type_into(more.tall, "2.31 m")
    assert bench.workspace.shop.room.heights == () and "not that long" in bench.window.notice.said.text()
    type_into(more.along, "6 m", enter=False)
    type_into(more.tall, "2.31 m")
    (height,) = bench.workspace.shop.room.heights
    assert (height.wall, height.along, height.height) == ("A", 6.0, 2.31)
    bench.settle()
    (low,) = [one for one in bench.window.reviews.latest.of("room") if one.rule == "wall-height"]
    assert low.grade == Grade.MEND and "2310 mm high, 90 mm less" in low.sentence
    assert "90 mm under the ceiling" in words(more)


def test_what_cannot_be_is_refused_and_kept_in_its_field(bench: Bench) -> None:
    more = opened(bench, box_room(6.0, 5.0))
    type_into(more.across, "seven")
    assert bench.workspace.shop.room.diagonals == () and more.across.line.text() == "seven"
    assert "is not a length" in more.across.refusal.text()
    more.end.show_value("A")
    type_into(more.across, "7 m")
    assert bench.workspace.shop.room.diagonals == ()
    assert "two different corners" in bench.window.notice.said.text()


@pytest.mark.parametrize("walls", [0, 2])
def test_before_there_is_a_room_it_says_what_will_be_here(bench: Bench, walls: int) -> None:
    more = opened(bench, Room(walls=box_room(6.0, 5.0).walls[:walls]))
    assert "once the walls meet" in more.next.text() and not more.entry.isVisibleTo(more)


@pytest.mark.parametrize("pixels", [15, 24])
def test_the_fields_stay_in_their_place(bench: Bench, pixels: int) -> None:
    more = opened(bench, short())
    bench.window.theme.set_text(pixels)
    QApplication.processEvents()
    for field in (more.across, more.from_b, more.tall):
        right = field.mapTo(more, field.rect().bottomRight()).x()
        assert 0 < right <= more.width()
