"""Things on the plan by drags and keys, moves that are tried, and what is kept of it all."""

from pathlib import Path

import pytest
from PySide6.QtCore import QSettings, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton

from purvel.app.window import Window
from purvel.files.autosave import leftovers
from purvel.review import Grade
from purvel.space.clearances import wall_distances
from purvel.space.shell import shell
from tests.app.conftest import Bench
from tests.app.test_journey import room_of


def distances(bench: Bench) -> dict[str, float]:
    """From the picked item to its two walls."""
    item = bench.workspace.picked_body
    assert item is not None
    return {wall: distance for wall, distance, _, _ in wall_distances(item, shell(bench.workspace.shop.room))}


def test_a_killed_program_loses_nothing(bench: Bench, tmp_path: Path) -> None:
    room_of(bench)
    assert bench.window.keeper.keep_now()
    assert bench.window.keeper.slot is not None
    bench.window.keeper.slot._lock.close()  # what the system does when a program is killed
    bench.window.keeper.slot = None
    assert [left.shop for left in leftovers(tmp_path / "autosave")] == [bench.workspace.shop]
    again = Window(tmp_path / "autosave", QSettings(str(tmp_path / "again.ini"), QSettings.Format.IniFormat))
    again.show()
    again.filing.offer_recovery()
    assert again.notice.isVisible() and "Unsaved work" in again.notice.said.text()
    QTest.mouseClick(again.notice.buttons[0], Qt.MouseButton.LeftButton)
    assert again.workspace.shop == bench.workspace.shop
    again.reviews.give_up()
    again.close()
    again.deleteLater()


def test_closing_with_unsaved_work_keeps_it_for_the_next_start(bench: Bench, tmp_path: Path) -> None:
    room_of(bench)
    bench.window.close()
    (left,) = leftovers(tmp_path / "autosave")
    assert len(left.shop.room.walls) == 4


def test_dragging_is_one_step_of_undo_and_snaps_flush_to_a_wall(bench: Bench) -> None:
    bench.demo("spare-room-mended", "place")
    before = bench.workspace.shop
    vac = before.thing("vac")
    assert vac is not None
    bench.drag((vac.x, vac.y), (vac.x - 0.5, 0.28))
    after = bench.workspace.shop.thing("vac")
    # flush with wall A, its lower side
    assert after is not None and after.y == pytest.approx(vac.width / 2, abs=1e-6)
    bench.workspace.undo()
    assert bench.workspace.shop == before
    bench.workspace.redo()
    assert bench.workspace.shop.thing("vac") == after


def test_keys_nudge_turn_pick_and_set_an_exact_distance(bench: Bench) -> None:
    bench.demo("spare-room-mended", "place")
    bench.workspace.pick("box-cleaner")
    bench.window.plan.setFocus()
    start = bench.workspace.shop.thing("box-cleaner")
    assert start is not None
    bench.keys(Qt.Key.Key_Up)
    bench.keys(Qt.Key.Key_Right, shift=True)
    now = bench.workspace.shop.thing("box-cleaner")
    assert now is not None and (now.x - start.x, now.y - start.y) == pytest.approx((0.1, 0.01))
    bench.keys(Qt.Key.Key_R)
    assert bench.workspace.shop.thing("box-cleaner").angle == 90.0  # type: ignore[union-attr]
    bench.keys(Qt.Key.Key_R, shift=True)
    assert bench.workspace.shop.thing("box-cleaner").angle == 105.0  # type: ignore[union-attr]
    bench.workspace.undo()
    bench.keys("=")
    prompt = bench.window.plan.prompt
    assert prompt.isVisible()
    wall = prompt.chosen.key
    QTest.keyClicks(prompt.line, "250")
    QTest.keyClick(prompt.line, Qt.Key.Key_Return)
    assert distances(bench)[wall] == pytest.approx(0.25)
    bench.keys("=")
    QTest.keyClick(prompt.line, Qt.Key.Key_Tab)
    other = prompt.chosen.key
    assert other != wall and other in prompt.words.text()
    QTest.keyClicks(prompt.line, "310")
    QTest.keyClick(prompt.line, Qt.Key.Key_Return)
    assert distances(bench) == pytest.approx({wall: 0.25, other: 0.31})
    bench.window.plan.setFocus()
    bench.keys(Qt.Key.Key_N)
    assert bench.workspace.picked != "box-cleaner"
    bench.keys(Qt.Key.Key_Delete)
    assert len(bench.workspace.shop.things) == 6


def test_typing_while_dragging_sets_the_distance(bench: Bench) -> None:
    bench.demo("spare-room-mended", "place")
    vac = bench.workspace.shop.thing("vac")
    assert vac is not None
    bench.drag((vac.x, vac.y), (vac.x - 0.3, vac.y + 0.3), drop=False)
    assert bench.window.plan.is_dragging
    bench.keys("3")
    prompt = bench.window.plan.prompt
    assert prompt.isVisible() and prompt.line.text() == "3"
    QTest.keyClicks(prompt.line, "00 furlongs")
    QTest.keyClick(prompt.line, Qt.Key.Key_Return)
    assert prompt.isVisible() and "not a length" in bench.window.notice.said.text()
    wall = prompt.chosen.key
    prompt.line.setText("300")
    QTest.keyClick(prompt.line, Qt.Key.Key_Return)
    assert distances(bench)[wall] == pytest.approx(0.3, abs=1e-6)


def test_hovering_a_move_shows_it_and_changes_nothing(bench: Bench) -> None:
    bench.demo("garage", "place")
    before = bench.workspace.shop
    finding = next(one for one in bench.window.reviews.latest.of("place") if one.rule == "support-level")
    bench.window.findings.reveal(finding)
    bench.bot.waitUntil(
        lambda: any(
            b.accessibleName().startswith("Trim") for b in bench.window.findings.findChildren(QPushButton)
        ),
        timeout=20_000,
    )
    button = next(
        b for b in bench.window.findings.findChildren(QPushButton) if b.accessibleName().startswith("Trim")
    )
    button.hovered.emit(button.tried)  # type: ignore[attr-defined]
    assert bench.workspace.is_previewing and bench.workspace.shop == before
    assert bench.workspace.shown.thing("outfeed-table") != before.thing("outfeed-table")
    button.hovered.emit(None)  # type: ignore[attr-defined]
    assert not bench.workspace.is_previewing
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    bench.settle()
    assert all(
        one.grade > Grade.MEND for one in bench.window.reviews.latest.of("place") if one.key == finding.key
    )
    bench.workspace.undo()
    assert bench.workspace.shop == before
