"""From an empty page to the first true answer, by keys and buttons alone; a start that is called off."""

import gc
from dataclasses import replace
from pathlib import Path

import pytest
from PySide6.QtCore import QSettings, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from purvel.app import run
from purvel.app.window import Window
from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review.place.answers import PlaceAnswers
from purvel.shop.edits import as_rectangle
from tests.app.conftest import Bench
from tests.conftest import box_room


def test_two_walls_a_machine_and_its_longest_board(bench: Bench) -> None:
    """Two lengths, one button, one stage, one machine: six steps until a board's length is told."""
    room = bench.window.stages["room"]
    steps = 0
    for length in ("6 m", "4 m"):
        line = room.wall_length.line  # type: ignore[attr-defined]
        line.setFocus()
        QTest.keyClicks(line, length)
        QTest.keyClick(line, Qt.Key.Key_Return)
        steps += 1
    room.close_loop()  # type: ignore[attr-defined]
    bench.stage("place")
    bench.window.stages["place"].place("table-saw")  # type: ignore[attr-defined]
    bench.settle()
    steps += 3
    assert steps <= 6
    walls = bench.workspace.shop.room.walls
    assert [wall.length for wall in walls] == pytest.approx([6.0, 4.0, 6.0, 4.0])
    assert [wall.provenance for wall in walls] == ["measured", "measured", "paced", "paced"]
    lanes = bench.window.reviews.latest.answers.of(PlaceAnswers).lanes
    (lane,) = lanes.values()
    assert lane.into.length + lane.out.length == pytest.approx(4.0)
    told = next(one for one in bench.window.reviews.latest.of("place") if one.rule == "lane")
    assert "Table saw takes" in told.sentence
    for _ in range(4):
        bench.workspace.undo()
    assert bench.workspace.shop.room.walls == () and bench.workspace.shop.things == ()


def test_only_two_walls_square_to_each_other_make_a_rectangle(bench: Bench) -> None:
    shop = bench.workspace.shop
    walls = box_room(6, 4).walls

    def made(*some: object) -> object:
        return as_rectangle(replace(shop, room=replace(shop.room, walls=tuple(some))))  # type: ignore[arg-type]

    assert made(*walls[:2]) is not None and made(*walls[:3]) is None and made() is None
    assert made(replace(walls[0], turn=80.0), walls[1]) is None
    clockwise = made(replace(walls[0], turn=-90.0), walls[1])
    assert [wall.turn for wall in clockwise.room.walls] == [-90.0] * 4  # type: ignore[attr-defined]


@pytest.mark.parametrize("closed", [True, False])
def test_a_window_that_is_closed_before_its_shop_is_there_ends_the_program(
    qtbot: QtBot, qapp: QApplication, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, closed: bool
) -> None:
    settings = QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat)
    window, ran = Window(tmp_path / "autosave", settings), list[str]()
    monkeypatch.setattr("purvel.app.window.Window", lambda: window)
    monkeypatch.setattr(QApplication, "exec", lambda *_: ran.append(window.workspace.shop.name) or 3)
    if closed:
        monkeypatch.setattr(window, "begin", lambda *_: window.close())
    started = loads(demo_bytes("spare-room-mended"))
    looked_for = gc.isenabled()
    assert run(started, None) == (0 if closed else 3)
    assert gc.isenabled() == looked_for  # whoever had settled that
    assert ran == ([] if closed else [started.shop.name])
    window.close()
    window.deleteLater()
