"""Three pieces of work by clicks, drags and keys alone, counted: each click, each drag and each line that is
typed is an action.
"""

from collections.abc import Callable
from dataclasses import replace

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu, QPushButton, QToolButton

from purvel.app.commands import findable
from purvel.app.widgets.cards import FindingCard, RemedyButton
from purvel.app.widgets.fields import TextField
from purvel.catalogue import make_thing
from purvel.review import Grade
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.place.answers import PlaceAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Opening
from purvel.shop.edits import put
from tests.app.conftest import Bench, enter
from tests.conftest import box_room


class Count:
    """Hands that count what they do."""

    def __init__(self, bench: Bench) -> None:
        self.bench, self.actions = bench, 0

    def types(self, field: TextField, text: str) -> None:
        self.actions += 1
        enter(field, text)
        self.bench.settle()

    def clicks(self, x: float, y: float) -> None:
        self.actions += 1
        self.bench.click(x, y)

    def drags(self, start: tuple[float, float], end: tuple[float, float]) -> None:
        self.actions += 1
        self.bench.drag(start, end)
        self.bench.settle()

    def keys(self, key: Qt.Key) -> None:
        self.actions += 1
        QTest.keyClick(QApplication.focusWidget() or self.bench.window, key)
        self.bench.settle()

    def presses(self, words: str) -> None:
        """A button of the strip."""
        self.actions += 1
        strip = self.bench.window.stage.strip
        (button,) = [one for one in strip.findChildren(QPushButton) if one.text() == words]
        QTest.mouseClick(button, Qt.MouseButton.LeftButton)
        QApplication.processEvents()

    def takes(self, entry: str) -> None:
        """The strip's menu, its group, the entry."""
        self.actions += 3
        (action,) = [
            one
            for button in self.bench.window.stage.strip.findChildren(QToolButton)
            for group in button.menu().findChildren(QMenu)
            for one in group.actions()
            if one.text() == entry
        ]
        action.trigger()
        self.bench.settle()


def test_a_room_of_four_walls_with_a_post_and_two_doors(bench: Bench) -> None:
    count = Count(bench)
    for length in ("6 m", "5 m", "6 m", "5 m"):
        count.types(bench.window.stages["room"].wall_length, length)
    bench.window.plan.fit()
    count.takes("Post")
    (post,) = bench.workspace.shop.room.fixtures
    count.drags((post.x, post.y), (3.0, 2.5))
    for spot, end in (((3.0, 0.0), (4.6, 0.0)), ((6.0, 2.5), (6.0, 1.2))):
        count.clicks(*spot)
        count.takes("Swing door")
        count.drags(middle(bench, bench.workspace.shop.room.openings[-1]), end)
    room = bench.workspace.shop.room
    assert (room.fixtures[0].x, room.fixtures[0].y) == pytest.approx((3.0, 2.5), abs=0.05)
    assert [one.wall for one in room.openings] == ["A", "B"]
    for door, end in zip(room.openings, ((4.6, 0.0), (6.0, 1.2))):
        assert middle(bench, door) == pytest.approx(end, abs=0.05)
    assert count.actions <= 18 < 28


def middle(bench: Bench, door: Opening) -> tuple[float, float]:
    side = bench.window.reviews.answers().of(RoomAnswers).sides[door.wall]
    return side.at(door.offset + door.width / 2)


TEN = {
    "Table saw": (2.6, 2.6),
    "Thickness planer": (4.9, 2.4),
    "Jointer": (4.2, 5.4),
    "Bandsaw": (0.6, 5.4),
    "Drill press": (2.2, 5.6),
    "Router table": (0.6, 4.0),
    "Workbench": (6.6, 3.0),
    "Single-stage collector, 1.5 kW (2 hp)": (0.7, 0.7),
    "Cabinet": (6.6, 5.4),
    "Timber rack": (3.0, 0.3),
}


def test_ten_things_placed_and_read(bench: Bench) -> None:
    bench.workspace.apply(lambda shop: replace(shop, room=box_room(7.0, 6.0)), "A room")
    count = Count(bench)
    count.keys(Qt.Key.Key_2)
    bench.window.plan.fit()
    for name, spot in TEN.items():
        count.takes(name)
        thing = bench.workspace.shop.things[-1]
        count.drags((thing.x, thing.y), spot)
    assert len(bench.workspace.shop.things) == 10
    lanes = bench.window.reviews.latest.answers.of(PlaceAnswers).lanes
    assert len(lanes) >= 4 and bench.window.stage.entry.key == "place"
    assert count.actions <= 41 < 57


def test_a_collector_a_main_and_three_drops_with_gates_one_mended(bench: Bench) -> None:
    """The machines stand; what is counted begins with the collector."""
    shop = replace(bench.workspace.shop, room=box_room(7.0, 6.0))
    for kind, name, x, y in (
        ("planer", "planer", 1.2, 4.0),
        ("table-saw", "saw", 4.6, 3.0),
        ("jointer", "jointer", 4.6, 5.2),
    ):
        shop = put(shop, make_thing(kind, name, x, y))
    bench.workspace.apply(lambda _: shop, "The machines")
    count = Count(bench)
    count.keys(Qt.Key.Key_2)
    bench.window.plan.fit()
    count.takes("Single-stage collector, 1.5 kW (2 hp)")
    made = bench.workspace.shop.things[-1]
    count.drags((made.x, made.y), (0.9, 0.6))
    count.keys(Qt.Key.Key_5)
    bench.window.plan.fit()
    draw_three_drops(count)
    mend_the_first(count)
    assert count.actions <= 24 < 33


def draw_three_drops(count: Count) -> None:
    """A main along x = 2.8 m, a drop to each machine, a gate in the middle of its first piece."""
    shop = count.bench.workspace.shop
    count.presses("Draw a run")
    collector = shop.things[-1]
    assert collector.source
    inlet = collector.spot(collector.source.inlet_x, collector.source.inlet_y)
    for spot in (inlet, (2.8, inlet[1]), (2.8, 5.4)):
        count.clicks(*spot)
    count.keys(Qt.Key.Key_Return)
    for name in ("planer", "saw", "jointer"):
        machine = shop.thing(name)
        assert machine
        port = machine.spot(machine.ports[0].x, machine.ports[0].y)
        count.clicks(2.8, port[1] - 0.3)
        count.clicks(*port)
    count.presses("Set a gate")
    for run in count.bench.workspace.shop.ducts.runs[1:]:
        path = count.bench.window.reviews.answers().of(DuctAnswers).run_paths[run.id]
        count.clicks(*((a + b) / 2 for a, b in zip(path[0][:2], path[1][:2])))
    count.bench.settle()
    ducts = count.bench.workspace.shop.ducts
    assert [len(run.gates) for run in ducts.runs] == [0, 1, 1, 1]
    assert [run.port.thing for run in ducts.runs if run.port] == ["planer", "saw", "jointer"]


def mend_the_first(count: Count) -> None:
    """Opens the first card that asks for it and takes its first cure."""
    panel, reviews = count.bench.window.findings, count.bench.window.reviews
    bad = next(one for one in reviews.latest.of("ducts") if one.grade <= Grade.MEND)
    card = next(one for one in panel.findChildren(FindingCard) if one.finding.key == bad.key)
    QTest.mouseClick(card, Qt.MouseButton.LeftButton)
    count.bench.bot.waitUntil(lambda: panel.opened is not None and not panel.is_waiting, timeout=30_000)
    QTest.mouseClick(panel.findChildren(RemedyButton)[0], Qt.MouseButton.LeftButton)
    count.actions += 2
    count.bench.settle()
    after = {one.key: one.grade for one in reviews.latest.of("ducts")}
    assert after.get(bad.key, Grade.GOOD) > bad.grade


def test_the_finder_does_what_the_form_and_the_keys_do_to_what_is_picked(bench: Bench) -> None:
    bench.demo("garage", "place")

    def offered() -> dict[str, Callable[[], object]]:
        return dict(findable(bench.window))

    assert "Turn Planer by 90° (R)" not in offered()
    bench.workspace.pick("planer")
    bench.settle()
    before = bench.workspace.shop.thing("planer")
    assert before is not None
    offered()[f"Turn {before.name} by 90° (R)"]()
    turned = bench.workspace.shop.thing("planer")
    assert turned is not None and (turned.angle - before.angle) % 360 == 90.0
    offered()[f"Take away: {before.name}"]()
    assert bench.workspace.shop.thing("planer") is None
    bench.workspace.undo()
    bench.stage("room")
    bench.workspace.pick("A")
    bench.settle()
    walls = len(bench.workspace.shop.room.walls)
    offered()["Split in two: wall A"]()
    assert len(bench.workspace.shop.room.walls) == walls + 1
