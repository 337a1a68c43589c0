"""A distance meter at the window: the next wall, the field in hand, what it cannot see, and its end."""

import threading
from collections.abc import Iterator

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from purvel.devices.meter import Meter, MeterServer, Taken
from purvel.shop import Room, Shop
from tests.app.conftest import Bench
from tests.conftest import box_room


class Known:
    """A meter that reads what it is told to."""

    def __init__(self) -> None:
        self.asked: list[str] = []
        self.says: list[Taken] = []

    def take(self, pointed_at: str = "") -> Taken:
        self.asked.append(pointed_at)
        return self.says.pop(0)


@pytest.fixture
def meter() -> Iterator[tuple[Known, MeterServer]]:
    known = Known()
    server = MeterServer(known)  # type: ignore[arg-type]  # as a meter
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    yield known, server
    server.stop()
    thread.join(3.0)


def listening(bench: Bench, server: MeterServer, room: Room) -> None:
    bench.workspace.open(Shop(units="metric", room=room))
    bench.stage("room")
    bench.settle()
    bench.window.stages["room"].listen(server.port)
    bench.bot.waitUntil(lambda: bool(server._lines), timeout=5_000)


def test_walls_come_one_after_another_until_they_meet(bench: Bench, meter: tuple[Known, MeterServer]) -> None:
    known, server = meter
    listening(bench, server, Room())
    stage = bench.window.stages["room"]
    stage.wall_length.line.setFocus()
    known.says = [Taken(6.002), Taken(None, "no-signal"), Taken(4.998), Taken(6.0), Taken(5.0), Taken(7.81)]
    for count in (1, 1, 2, 3, 4):
        server.press()
        bench.bot.waitUntil(lambda n=count: len(bench.workspace.shop.room.walls) == n, timeout=5_000)
        if count == 1 and len(known.says) == 4:
            bench.bot.waitUntil(lambda: "it saw nothing" in bench.window.notice.said.text(), timeout=5_000)
    walls = bench.workspace.shop.room.walls
    assert [wall.length for wall in walls] == [6.002, 4.998, 6.0, 5.0]
    assert {wall.provenance for wall in walls} == {"laser"} and {wall.turn for wall in walls} == {90.0}
    bench.settle()
    server.press()  # the walls meet: one more is no wall
    bench.bot.waitUntil(lambda: "reads 7810 mm" in bench.window.notice.said.text(), timeout=5_000)
    assert len(bench.workspace.shop.room.walls) == 4
    bench.workspace.undo()
    assert len(bench.workspace.shop.room.walls) == 3


def test_what_it_reads_goes_into_the_field_in_hand(bench: Bench, meter: tuple[Known, MeterServer]) -> None:
    known, server = meter
    listening(bench, server, box_room(6.0, 5.0))
    tape = bench.window.stages["room"].tape
    tape._rows["C"].length.line.setFocus()
    known.says = [Taken(5.987), Taken(7.812), Taken(2.4)]
    QTest.keyClick(tape._rows["C"].length.line, Qt.Key.Key_M, Qt.KeyboardModifier.ControlModifier)
    bench.bot.waitUntil(lambda: bench.workspace.shop.room.walls[2].length == 5.987, timeout=5_000)
    assert bench.workspace.shop.room.walls[2].provenance == "laser" and known.asked == ["C"]
    assert tape._rows["C"].length.line.text() == "5987 mm"
    tape.panes.choose(1)
    QApplication.processEvents()
    tape.more.across.line.setFocus()
    bench.window.stages["room"].measure()
    bench.bot.waitUntil(lambda: bool(bench.workspace.shop.room.diagonals), timeout=5_000)
    (across,) = bench.workspace.shop.room.diagonals
    assert (across.length, across.provenance, known.asked[-1]) == (7.812, "laser", "A C")
    bench.window.stages["room"].ceiling.line.setFocus()
    bench.window.stages["room"].measure()
    bench.bot.waitUntil(lambda: bench.workspace.shop.room.ceiling.height == 2.4, timeout=5_000)
    bench.workspace.undo()
    bench.workspace.undo()
    assert bench.workspace.shop.room.diagonals == ()


def test_one_that_is_not_there_is_said_and_changes_nothing(bench: Bench) -> None:
    bench.workspace.open(Shop(units="metric", room=box_room(6.0, 5.0)))
    bench.stage("room")
    before, stage = bench.workspace.shop, bench.window.stages["room"]
    stage.measure()
    assert "No distance meter is listened to" in bench.window.notice.said.text()
    with_port = MeterServer(Meter({}, {}, 1))
    with_port._socket.close()
    stage.listen(with_port.port)
    bench.bot.waitUntil(lambda: "No distance meter answers" in bench.window.notice.said.text(), timeout=5_000)
    bench.bot.waitUntil(lambda: not stage.meter.is_on, timeout=5_000)
    assert bench.workspace.shop is before


def test_it_is_let_go_when_the_window_closes_and_when_it_goes_away(
    bench: Bench, meter: tuple[Known, MeterServer]
) -> None:
    _, server = meter
    listening(bench, server, Room())
    stage = bench.window.stages["room"]
    server.stop()
    bench.bot.waitUntil(lambda: "broke off" in bench.window.notice.said.text(), timeout=5_000)
    assert not stage.meter.is_on
    again = MeterServer(Meter({}, {}, 1))
    thread = threading.Thread(target=again.run, daemon=True)
    thread.start()
    stage.listen(again.port)
    bench.bot.waitUntil(lambda: bool(again._lines), timeout=5_000)
    bench.window.close()
    assert not stage.meter.is_on
    again.stop()
    thread.join(3.0)
