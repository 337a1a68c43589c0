"""The keyboard alone: Enter, Tab, bare numbers, and where it is after the finder."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLineEdit, QPushButton
from shiboken6 import delete

from purvel.files import Document
from purvel.shop import Shop
from tests.app.conftest import Bench, enter, field
from tests.conftest import box_room


def test_what_is_to_mend_is_one_list_and_the_keyboard_comes_back(bench: Bench) -> None:
    bench.demo("garage", "place")
    bench.window.plan.setFocus()
    bench.window.header.mend.click()
    finder = bench.window.finder
    rows = [finder.list.item(row).text() for row in range(finder.list.count())]
    assert len(rows) == bench.window.reviews.latest.to_mend()
    grades = [row.split(" · ")[0] for row in rows]
    assert grades == sorted(grades, reverse=True) and {row.split(" · ")[1] for row in rows} >= {
        "Place",
        "Ducts",
        "Air",
    }
    QTest.keyClick(finder.line, Qt.Key.Key_Escape)
    assert bench.window.plan.hasFocus() and not finder.isVisible()
    bench.window.header.mend.click()
    first = rows[0].split(" · ", 2)
    QTest.keyClick(finder.line, Qt.Key.Key_Return)
    opened = bench.window.findings.opened
    assert opened is not None and opened.sentence == first[2]


def test_the_keyboard_goes_to_the_plan_where_what_had_it_is_gone(bench: Bench) -> None:
    """A form may be made anew, by a review that comes in, while the finder is up."""
    bench.demo("garage", "place")
    gone = QLineEdit(bench.window)
    gone.show()
    gone.setFocus()
    assert gone.hasFocus()
    bench.window.find_anything()
    delete(gone)
    QTest.keyClick(bench.window.finder.line, Qt.Key.Key_Escape)
    assert bench.window.plan.hasFocus() and not bench.window.finder.isVisible()


def test_tab_sets_a_distance_and_asks_for_the_next(bench: Bench) -> None:
    bench.demo("spare-room", "place")
    bench.workspace.pick("workbench")
    bench.keys("=")
    prompt = bench.window.plan.prompt
    assert prompt.isVisible()
    first = prompt.chosen.key
    QTest.keyClicks(prompt.line, "700")
    QTest.keyClick(prompt.line, Qt.Key.Key_Tab)
    assert prompt.isVisible() and prompt.line.text() == "" and prompt.chosen.key != first
    assert f"{first}" in bench.workspace.undo_label
    QTest.keyClick(prompt.line, Qt.Key.Key_Tab)  # nothing typed: only on
    assert prompt.chosen.key == first
    QTest.keyClicks(prompt.line, "nonsense")
    QTest.keyClick(prompt.line, Qt.Key.Key_Tab)
    assert prompt.chosen.key == first and isinstance(prompt.line, QLineEdit)


@pytest.mark.parametrize(
    ("typed", "asks"), [("5.8", "5.8 m?"), ("0.5", "0.5 m?"), ("5800 m", ""), ("nonsense", "")]
)
def test_a_bare_number_that_makes_no_sense_asks(bench: Bench, typed: str, asks: str) -> None:
    bench.window.keeper.open(Document(Shop(units="metric", room=box_room())), None)
    bench.stage("room")
    bench.workspace.pick("A")
    before = bench.workspace.shop
    enter(field(bench, "Length"), typed)
    said = field(bench, "Length").refusal.text()
    assert said and bench.workspace.shop is before
    assert (f"Did you mean {asks}" in said) == bool(asks)


def test_enter_on_a_choice_or_a_button_of_the_strip_does_what_its_button_does(bench: Bench) -> None:
    bench.stage("room")
    room = bench.window.stages["room"]
    enter(room.wall_length, "3 m")
    room.wall_length.line.setText("2 m")
    room.turn.setFocus()
    room.turn.setCurrentIndex(1)
    QTest.keyClick(room.turn, Qt.Key.Key_Return)
    room.wall_length.line.setText("1 m")
    button = next(one for one in room.strip.findChildren(QPushButton) if one.text() == "Add wall")
    button.setFocus()
    QTest.keyClick(button, Qt.Key.Key_Return)
    walls = bench.workspace.shop.room.walls
    assert [wall.length for wall in walls] == [3.0, 2.0, 1.0]
    assert [wall.turn for wall in walls] == [90.0, -90.0, -90.0]
    QTest.keyClick(room.ceiling.line, Qt.Key.Key_Return)  # a field takes Enter for itself
    assert len(bench.workspace.shop.room.walls) == 3
    bench.stage("ducts")
    ducts = bench.window.stages["ducts"]
    ducts.draw_button.setFocus()
    QTest.keyClick(ducts.draw_button, Qt.Key.Key_Return)
    assert ducts.tool.mode == "draw"
