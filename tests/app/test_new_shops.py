"""Whole shops entered from an empty page as a new user would, the actions counted: an L-shaped cellar with a
slope and a boiler; a one-car garage in which the car sleeps.
"""

import csv
import os
from pathlib import Path

import ezdxf
import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QCheckBox

from purvel.app.sheets.write import write
from purvel.app.widgets.cards import RemedyButton
from purvel.app.widgets.fields import ChoiceField
from purvel.review import Finding, Grade
from purvel.review.place.answers import PlaceAnswers
from purvel.review.room.answers import RoomAnswers
from tests.app.conftest import Bench, choose, enter, field

SHOTS = os.environ.get("PURVEL_SHOTS")  # a folder, to look at what the user sees


class User:
    """Somebody at the window, who counts what the hands do: a click, a drag, a figure typed, a choice made.
    What is in a menu takes two.
    """

    def __init__(self, bench: Bench) -> None:
        self.bench, self.actions = bench, 0
        self.room, self.place = (bench.window.stages[key] for key in ("room", "place"))
        bench.window.header.units_button.click()  # to millimetres
        self.actions += 1

    def did(self, actions: int = 1) -> None:
        QApplication.processEvents()
        self.bench.settle()
        self.actions += actions

    def look(self, name: str) -> None:
        if SHOTS:
            self.bench.settle(whole=True)
            self.bench.window.grab().save(str(Path(SHOTS) / f"{name}.png"))

    def wall(self, text: str, turn: int = 0) -> None:
        if self.room.turn.currentIndex() != turn:
            self.room.turn.setCurrentIndex(turn)
            self.actions += 1
        line = self.room.wall_length.line
        line.setFocus()
        QTest.keyClicks(line, text)
        QTest.keyClick(line, Qt.Key.Key_Return)
        self.did()

    def type(self, name: str, text: str) -> None:
        enter(field(self.bench, name), text)
        self.did()

    def choose(self, name: str, value: object) -> None:
        found = [one for one in self.bench.window.findChildren(ChoiceField) if one.accessibleName() == name]
        choose(next(one for one in found if one.isVisible()), value)
        self.did()

    def tick(self, words: str) -> None:
        boxes = self.bench.window.inspector.findChildren(QCheckBox)
        next(one for one in boxes if one.text() == words and one.isVisible()).click()
        self.did()

    def pick_wall(self, name: str) -> None:
        side = self.room.answers().of(RoomAnswers).sides[name]
        self.bench.click(*side.at(side.length * 0.2, 0.05))
        assert self.bench.workspace.picked == name
        self.did()

    def opening(self, kind: str, wall: str) -> None:
        self.pick_wall(wall)
        self.room.add_opening(kind)
        self.did(2)

    def fixture(self, kind: str, where: tuple[float, float]) -> None:
        self.room.add_fixture(kind)
        self.did(2)
        self._drag(self.bench.workspace.shop.room.fixtures[-1].id, where)

    def set_down(self, kind: str, where: tuple[float, float], turned: float = 0.0) -> None:
        self.place.place(kind)
        self.did(2)
        if turned:
            self.type("Angle", f"{turned:.0f}")
        self._drag(self.bench.workspace.shop.things[-1].id, where)

    def move(self, kind: str, where: tuple[float, float]) -> None:
        self._drag(next(one.id for one in self.bench.workspace.shop.things if one.kind == kind), where)

    def _drag(self, item: str, where: tuple[float, float]) -> None:
        shop = self.bench.workspace.shop
        found = next(one for one in (*shop.things, *shop.room.fixtures) if one.id == item)
        self.bench.drag((found.x, found.y), where)
        self.did()

    def findings(self, worst: Grade = Grade.MEND) -> list[Finding]:
        self.bench.settle(whole=True)
        return [one for one in self.bench.window.reviews.latest.of("place") if one.grade <= worst]

    def take_advice(self, most: int) -> None:
        """Opens the worst finding and does the first that would help, as often as there is some."""
        left_as_is, panel = set[object](), self.bench.window.findings
        for _ in range(most):
            open_ones = [one for one in self.findings() if one.key not in left_as_is]
            if not open_ones:
                return
            panel.reveal(open_ones[0])
            self.bench.bot.waitUntil(lambda: not panel.is_waiting, timeout=30_000)
            self.did()
            cures = [one for one in panel.findChildren(RemedyButton) if one.isVisible()]
            if cures:
                cures[0].click()
                self.did()
            else:
                left_as_is.add(open_ones[0].key)


@pytest.fixture
def user(bench: Bench) -> User:
    return User(bench)


def cellar_room(user: User) -> None:
    """An L with a slope at its longest wall, a door, a window and a boiler."""
    bench = user.bench
    for text, turn in (("6.4 m", 0), ("2.7 m", 0), ("2.5 m", 1), ("2.6 m", 0), ("3.9 m", 0), ("5.3 m", 0)):
        user.wall(text, turn)
    bench.window.plan.fit()
    user.type("Ceiling height", "2150 mm")
    user.pick_wall("F")
    user.tick("The ceiling slopes down to it")
    user.type("Height there", "1400 mm")
    user.type("Slopes for", "1200 mm")
    user.opening("swing", "A")
    user.type("From its start", "2.0 m")
    user.opening("window", "D")
    user.fixture("boiler", (2.0, 4.95))
    user.look("cellar-room")
    (slope,) = bench.workspace.shop.room.ceiling.slopes
    assert (slope.wall, slope.low, slope.run) == ("F", 1.4, 1.2)
    (walk,) = [one for one in bench.window.reviews.latest.of("room") if one.rule == "closing-gap"]
    assert walk.grade == Grade.GOOD


def test_an_l_shaped_cellar_with_a_slope_and_a_boiler(user: User, tmp_path: Path) -> None:
    bench = user.bench
    cellar_room(user)
    bench.stage("place")
    user.actions += 1
    user.type("Board length", "1200 mm")
    user.type("Board width", "150 mm")
    for kind, where in (
        ("table-saw", (3.0, 3.0)),
        ("bandsaw", (5.2, 0.6)),
        ("planer", (4.6, 1.9)),
        ("workbench", (2.9, 4.9)),
        ("drill-press", (5.9, 2.2)),
    ):
        user.set_down(kind, where)
    user.look("cellar-placed")
    before = {one.key for one in user.findings(Grade.STOP)}
    user.take_advice(6)
    user.look("cellar-advised")
    assert before and user.findings(Grade.STOP) == []
    lanes = bench.window.reviews.latest.answers.of(PlaceAnswers).lanes
    assert lanes["table-saw-1"].longest_board > 1.2 and lanes["bandsaw-1"].longest_board > 1.2
    assert user.actions <= 56
    printed(bench, tmp_path)

    while bench.workspace.undo_label:
        bench.workspace.undo()
    assert bench.workspace.shop.room.walls == () and bench.workspace.shop.things == ()


def garage_room(user: User) -> None:
    """3.2 by 6.2 m with a door for the car, one to the house, and a bay."""
    user.wall("3.2 m")
    user.wall("6.2 m")
    user.room.close_loop()
    user.did()
    user.bench.window.plan.fit()
    user.opening("roll-up", "A")
    user.type("Width", "2400 mm")
    user.type("From its start", "100 mm")
    user.opening("swing", "D")
    user.type("From its start", "300 mm")
    user.choose("Opens", "out")
    user.fixture("parking bay", (1.3, 2.45))
    user.look("garage-room")


def test_a_one_car_garage_in_which_all_folds_or_rolls(user: User, tmp_path: Path) -> None:
    bench = user.bench
    garage_room(user)
    bench.stage("place")
    user.actions += 1
    user.type("Board length", "1500 mm")
    for kind, where, turned in (
        ("jobsite-saw", (1.3, 2.6), 0.0),
        ("flipped-tools", (2.8, 2.8), 270.0),
        ("folding-bench", (2.2, 5.9), 0.0),
        ("small-vac", (0.5, 2.6), 0.0),
        ("hung-bicycle", (2.85, 5.0), 0.0),
    ):
        user.set_down(kind, where, turned)
    user.look("garage-day")
    user.take_advice(3)
    assert user.findings() == []
    lanes = bench.window.reviews.latest.answers.of(PlaceAnswers).lanes
    assert all(lanes[name].longest_board >= 1.5 for name in ("jobsite-saw-1", "flipped-tools-1"))

    bench.window.header.scene.new()
    user.did(2)
    user.type("Name of the scene", "Night")
    user.tick("Nobody works in it")
    user.tick("Parking bay")
    assert len(user.findings(Grade.STOP)) >= 3  # the car stands in the machines
    user.choose("Jobsite table saw is", "folded")
    user.choose("Folding wall bench is", "folded")
    user.move("flipped-tools", (2.1, 5.5))
    user.move("jobsite-saw", (1.2, 5.55))
    user.move("small-vac", (0.45, 5.6))
    user.look("garage-night")
    assert user.findings(Grade.WATCH) == []
    (way,) = [one for one in user.findings(Grade.GOOD) if one.rule == "roll-out"]
    assert way.where.items == ("jobsite-saw-1", "flipped-tools-1", "small-vac-1")
    assert user.place.searched() is not None  # the way of what is picked is drawn
    assert user.actions <= 52

    printed(bench, tmp_path)


def printed(bench: Bench, folder: Path) -> None:
    """What is taken to the floor: the set-out list, the plan in tiles, the cut-outs, the drawing."""
    document, names = bench.workspace.document, [one.name for one in bench.workspace.base.things]
    for name in ("setout.csv", "tiles.pdf", "cutouts.pdf", "plan.dxf", "binder.pdf"):
        write(document, folder / name)
        assert (folder / name).stat().st_size > 400
    with (folder / "setout.csv").open(encoding="utf-8", newline="") as opened:
        rows = list(csv.DictReader(opened))
    assert [row["thing"] for row in rows if row["thing"] in names] == names
    drawing = ezdxf.readfile(folder / "plan.dxf")
    assert not drawing.audit().errors and len(drawing.modelspace().query("DIMENSION")) >= 4
