"""Openings and what cannot move, set and dragged at the window."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QCheckBox, QComboBox, QMenu, QToolButton

from purvel.app.plan.sheet import Sheet
from purvel.catalogue import fixture_kinds, opening_kinds
from purvel.shop import Ceiling, Joists, Room, Shop
from purvel.space.joists import joist_lines
from tests.app.conftest import Bench
from tests.conftest import box_room


def opened(bench: Bench, room: Room) -> None:
    bench.workspace.open(Shop(units="metric", room=room))
    bench.stage("room")
    bench.settle()


def groups(bench: Bench) -> dict[str, list[str]]:
    """What “Add” offers, by where it goes."""
    button = next(b for b in bench.window.stage.strip.findChildren(QToolButton) if b.text() == "Add ▾")
    return {
        menu.title(): [action.text() for action in menu.actions()]
        for menu in button.menu().findChildren(QMenu)
    }


def test_the_menu_says_where_each_kind_goes(bench: Bench) -> None:
    opened(bench, box_room(6.0, 5.0))
    offered = groups(bench)
    assert list(offered) == ["In a wall", "On the floor", "At a wall", "Under the ceiling"]
    assert {"Double swing door", "Door to the house", "Cellar window"} <= set(offered["In a wall"])
    assert {"Beam", "Dropped ceiling", "Low duct or pipe run"} <= set(offered["Under the ceiling"])
    assert {"Boiler with a flame", "Heat pump, indoor unit", "Sink"} <= set(offered["At a wall"])
    assert sum(map(len, offered.values())) == len(fixture_kinds()) + len(opening_kinds())


def test_what_belongs_to_a_wall_is_set_against_the_picked_one(bench: Bench) -> None:
    opened(bench, box_room(6.0, 5.0))
    bench.workspace.pick("B")
    bench.window.stages["room"].add_fixture("boiler")
    (boiler,) = bench.workspace.shop.room.fixtures
    assert (boiler.x, boiler.y, boiler.angle) == (pytest.approx(6.0 - 0.35), pytest.approx(2.5), 270.0)
    assert boiler.flame and boiler.stands == "wall" and bench.workspace.picked == boiler.id
    bench.drag((boiler.x, boiler.y), (1.5, 4.6))
    (moved,) = bench.workspace.shop.room.fixtures
    assert moved.angle == 0.0 and moved.y == pytest.approx(5.0 - 0.35)  # turned to the wall it was dropped at
    bench.workspace.undo()
    assert bench.workspace.shop.room.fixtures == (boiler,)


def test_what_hangs_reaches_up_to_this_ceiling_and_is_drawn_as_an_outline(bench: Bench) -> None:
    opened(bench, box_room(6.0, 5.0, ceiling=Ceiling(height=2.3)))
    stage = bench.window.stages["room"]
    for kind in ("beam", "drain", "dropped-ceiling", "low-duct"):
        stage.add_fixture(kind)
    hung = {one.kind: one for one in bench.workspace.shop.room.fixtures}
    assert (hung["beam"].bottom, hung["beam"].top) == (pytest.approx(2.06), 2.3)
    bench.settle()
    said = list[str]()
    plain = Sheet.label
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(Sheet, "label", lambda sheet, word: said.append(word.texts[0]) or plain(sheet, word))  # type: ignore[func-returns-value]
        bench.window.plan._stamps.__init__()  # type: ignore[misc]  # all is drawn anew
        bench.window.plan.grab()
    assert {"Beam, 2060 mm up", "Dropped ceiling, 2000 mm up", "Floor drain"} <= set(said)
    choice = next(
        b for b in bench.window.inspector.findChildren(QComboBox) if b.accessibleName() == "Where it stands"
    )
    choice.setCurrentIndex(0)
    choice.activated.emit(0)
    assert bench.workspace.shop.room.fixtures[-1].stands == "floor"


def test_a_door_in_the_hand_shows_the_wall_on_both_sides(
    bench: Bench, monkeypatch: pytest.MonkeyPatch
) -> None:
    opened(bench, box_room(6.0, 5.0))
    bench.window.stages["room"].add_opening("double")
    (door,) = bench.workspace.shop.room.openings
    assert (door.kind, door.leaves, door.entry) == ("swing", 2, True)
    drawn = list[str]()
    plain = Sheet.dimension
    monkeypatch.setattr(
        Sheet,
        "dimension",
        lambda sheet, a, b, text, colour: drawn.append(text) or plain(sheet, a, b, text, colour),
    )  # type: ignore[func-returns-value]
    plan, start = bench.window.plan, bench.at(door.offset + door.width / 2, 0.0)
    QTest.mousePress(plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)
    QTest.mouseMove(plan, start + QPoint(60, 0))
    QApplication.processEvents()
    (held,) = bench.workspace.shown.room.openings
    left, right = round(held.offset * 1000), round((6.0 - held.offset - held.width) * 1000)
    assert {f"{left} mm", f"{right} mm"} <= set(drawn) and held.offset > door.offset
    QTest.mouseRelease(plan, Qt.MouseButton.LeftButton)


def test_joists_are_told_at_a_wall_and_drawn(bench: Bench) -> None:
    opened(bench, box_room(6.0, 5.0))
    bench.workspace.pick("A")
    tick = next(
        box for box in bench.window.inspector.findChildren(QCheckBox) if "joists" in box.text().lower()
    )
    tick.click()
    assert bench.workspace.shop.room.ceiling.joists == Joists(wall="A")
    bench.settle()
    drawn = list[object]()
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(
            "purvel.app.plan.draw_room.joist_lines", lambda shell: drawn.append(shell) or joist_lines(shell)
        )  # type: ignore[func-returns-value]
        bench.window.plan.grab()
    assert drawn and len(joist_lines(drawn[0])) == 12  # type: ignore[arg-type]
    bench.window.stages["room"]._set_ceiling(2.6)
    assert bench.workspace.shop.room.ceiling.joists == Joists(wall="A")
    tick = next(
        box for box in bench.window.inspector.findChildren(QCheckBox) if "joists" in box.text().lower()
    )
    tick.click()
    assert bench.workspace.shop.room.ceiling.joists is None
