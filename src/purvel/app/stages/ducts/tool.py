"""The tools of the ducts: a run drawn corner by corner, a gate set on a run; by mouse and by key."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from math import hypot
from typing import Literal

from PySide6.QtCore import QObject, Qt, Signal

from purvel.airflow.drawing import (
    DrawingError,
    begin,
    finished,
    is_on_vac,
    line_under,
    new_gate,
    path_of,
    places_for_gates,
    places_to_begin,
    places_to_end,
    port_under,
    run_under,
    size_at,
    squared,
    stands,
    with_corner,
)
from purvel.airflow.paths import Path
from purvel.app.plan.prompt import Choice
from purvel.app.reviews import Reviews
from purvel.app.theme import Theme
from purvel.app.widgets.fields import ChoiceField, length_field
from purvel.app.widgets.flow import FlowRow, clear
from purvel.app.workspace import Workspace
from purvel.catalogue import duct_sizes, elbows, materials
from purvel.review import Figures
from purvel.review.ducts.answers import DuctAnswers
from purvel.shop import Run
from purvel.shop.edits import change, fresh_id, put

UNDER_CEILING = 0.1524  # m; 6 in: a run that is drawn hangs at least this far below it
REACH = 14.0  # px within which a click takes an inlet, a port or a run

Mode = Literal["none", "draw", "gate"]
ARROWS = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, 1),
    Qt.Key.Key_Down: (0, -1),
}


class DuctTool(QObject):
    """What is in hand: which tool, the half-drawn run, where the pen is, what the next runs are of."""

    changed = Signal()

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__(workspace)
        self.workspace, self.reviews, self.theme = workspace, reviews, theme
        self.mode: Mode = "none"
        self.run: Run | None = None
        self.made_of = Run(id="next", diameter=0.1)  # size, material and elbows of the next run
        self.angle = 45.0  # deg, of the next branch fitting
        self.made_by_hand = False  # until then what is drawn from a vac is hose
        self.sized_by_hand = False  # until then a run takes the size of the inlet that it begins at
        self.height_value = 2.286
        self.pointer: tuple[float, float] = (0.0, 0.0)
        self.by_key = False
        self.slack = REACH / 80.0  # m, as the plan is drawn
        self.tray = FlowRow()
        self.tray.row.setContentsMargins(0, 0, 0, 0)
        self.rebuild()

    # ---- the tray of its choices

    def rebuild(self) -> None:
        """Makes the choices anew, in the reader's units."""
        clear(self.tray.row)
        say = Figures(self.workspace.shop.units)
        self.size = ChoiceField("Size of the run", [(size, say.size(size)) for size in duct_sizes()])
        made = [(key, one.short) for key, one in materials().items()]
        self.material = ChoiceField("Material of the run", made)
        bends = [(key, one.short) for key, one in elbows().items() if key != "hose-bend"]
        self.elbow = ChoiceField("Elbows of the run", bends)
        branches = [(angle, f"{angle:.0f}° branch") for angle in (30.0, 45.0, 60.0, 90.0)]
        self.branch = ChoiceField("Branch fitting of the run", branches)
        self.size.entered.connect(self._choose_size)
        self.material.entered.connect(self._choose_material)
        self.elbow.entered.connect(lambda key: self._make(elbow=key))
        self.branch.entered.connect(self._choose_branch)
        self.height = length_field("Height of the next corners", self.workspace.shop.units, most=12.0)
        self.height.line.setFixedWidth(self.theme.pixels * 6)
        self.height.entered.connect(self._set_height)
        for field in (self.size, self.material, self.elbow, self.branch):
            self.tray.row.addWidget(field)
        self.tray.add_pair("Height", self.height)
        self.show_choices()

    def show_choices(self) -> None:
        """The choices as they are; the size is that of the run in hand, else of the next branch."""
        self.height_value = min(self.height_value, self.workspace.shop.room.ceiling.height - UNDER_CEILING)
        self.height.show_value(self.height_value)
        self.size.show_value((self.run or self.made_of).diameter)
        self.material.show_value((self.run or self.made_of).material)
        self.elbow.show_value(self.made_of.elbow)
        self.branch.show_value(self.angle)

    def _choose_material(self, material: str) -> None:
        self.made_by_hand = True
        self._make(material=material)

    def _choose_size(self, size: float) -> None:
        self.sized_by_hand = True
        self._make(diameter=size)

    def _make(self, **changes: float | str) -> None:
        """For the run in hand and those that follow."""
        self.made_of = replace(self.made_of, **changes)  # type: ignore[arg-type]
        if self.run is not None:
            self.run = replace(self.run, **changes)  # type: ignore[arg-type]

    def _choose_branch(self, angle: float) -> None:
        self.angle = angle
        if self.run is not None and self.run.joins is not None:
            self.run = replace(self.run, joins=replace(self.run.joins, angle=angle))

    def _set_height(self, height: float) -> None:
        self.height_value = height
        self.changed.emit()

    # ---- taking and putting down

    def take(self, mode: Mode) -> None:
        """Takes a tool into the hand, or none."""
        if mode != self.mode:
            self.mode = mode
            self._hold(None)
            self.changed.emit()

    def check(self) -> None:
        """Lets a half-drawn run go whose beginning is gone."""
        if self.run is not None and not stands(self.workspace.shop, self.run):
            self._hold(None)
            self.workspace.said.emit("What the run began at is not there any more; begin it anew.")
            self.changed.emit()

    def _hold(self, run: Run | None) -> None:
        self.run = run
        self.show_choices()

    def hint(self) -> str:
        """What it waits for."""
        if self.mode == "gate":
            return "Click where the gate goes, or arrow keys and Space. Esc leaves."
        if self.mode == "none":
            return ""
        if self.run is None:
            return (
                "Click a collector's inlet, or a run to branch off it. N goes through them, Space takes one, Esc"
                " leaves."
            )
        height = Figures(self.workspace.shop.units).length(self.height_value)
        return (
            f"Click the next corner at {height} height, or a machine's port (N, Space); from a second source"
            " another's line. Digits type the leg's length. Enter ends free, Backspace takes a corner back."
        )

    # ---- by mouse

    def path(self) -> Path:
        """The half-drawn run as it would lie."""
        return path_of(self.workspace.shop, self.run) if self.run is not None else ()

    def move(self, x: float, y: float) -> None:
        """The pen follows the pointer."""
        self.pointer = (x, y)
        self.by_key = False

    def press(self, x: float, y: float) -> None:
        """Does what a press asks for, or says why not."""
        self.pointer = (x, y)
        self.workspace.said.emit("")  # what was refused before this press is not true of it
        act = self._set_gate if self.mode == "gate" else self._begin if self.run is None else self._go_on
        self._try(partial(act, x, y))

    def _try(self, act: Callable[[], None]) -> None:
        try:
            act()
        except DrawingError as exc:
            self.workspace.said.emit(str(exc))

    def lengths(self) -> list[Choice]:
        """What a typed length is for: the next leg."""
        path = self.path()
        return [Choice("leg", "length of this leg", partial(self._leg, path))] if path else []

    def _leg(self, path: Path, length: float) -> None:
        start = path[-1]
        ahead = squared((start[0], start[1]), self.pointer)
        far = hypot(ahead[0] - start[0], ahead[1] - start[1])
        if far < 1e-6:
            self.workspace.said.emit(
                "Point the way first, with the mouse or the arrow keys; then type how far."
            )
            return
        self._corner(
            start[0] + (ahead[0] - start[0]) / far * length, start[1] + (ahead[1] - start[1]) / far * length
        )
        self.changed.emit()

    # ---- by key

    def key(self, key: int, shift: bool) -> bool:
        """Whether a key was for the tool."""
        if self.mode == "none":
            return False
        if key in ARROWS:
            dx, dy = ARROWS[Qt.Key(key)]
            step = (0.05 if self.workspace.shop.units == "metric" else 0.0508) * (10 if shift else 1)
            self._pen_to(self.pointer[0] + dx * step, self.pointer[1] + dy * step)
        elif key == Qt.Key.Key_N:
            self._next_target(-1 if shift else 1)
        elif key == Qt.Key.Key_Space:
            self.press(*self.pointer)
        elif key == Qt.Key.Key_Escape and self.run is not None:
            self._hold(None)
        elif key == Qt.Key.Key_Escape:
            self.take("none")
            self.workspace.said.emit("")
        elif self.run is not None and key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._try(partial(self._finish, self.run))
        elif self.run is not None and key == Qt.Key.Key_Backspace:
            self.run = replace(self.run, points=self.run.points[:-1])
        else:
            return False
        return True

    def _pen_to(self, x: float, y: float) -> None:
        self.pointer, self.by_key = (x, y), True

    def _next_target(self, by: int) -> None:
        """The pen at the next place that the tool can use: an inlet or a run to begin on, a port to end at, a
        run for a gate.
        """
        shop, paths = self.workspace.shop, self._paths()
        if self.run is not None:
            targets = places_to_end(shop, paths, self.run)
        else:
            targets = places_for_gates(paths) if self.mode == "gate" else places_to_begin(shop, paths)
        if not targets:
            self.workspace.said.emit("There is nothing here that this tool can use.")
            return
        here = self.pointer
        near = [i for i, (x, y) in enumerate(targets) if hypot(x - here[0], y - here[1]) < 1e-6]
        self._pen_to(*targets[(near[0] + by if near else 0) % len(targets)])

    # ---- what is drawn

    def _paths(self) -> dict[str, Path]:
        return self.reviews.answers().of(DuctAnswers).run_paths

    def _begin(self, x: float, y: float) -> None:
        shop = self.workspace.shop
        number = len(shop.ducts.runs) + 1
        new = replace(self.made_of, id=fresh_id(shop, "run"), name="Main" if number == 1 else f"Run {number}")
        run = begin(shop, self._paths(), new, self.angle, x, y, self.slack)
        size = run.diameter if self.sized_by_hand else size_at(shop, run, duct_sizes())
        if not self.made_by_hand and is_on_vac(shop, run):
            run = replace(run, material="vac-hose")
        self._hold(replace(run, diameter=size))

    def _go_on(self, x: float, y: float) -> None:
        assert self.run is not None
        port = port_under(self.workspace.shop, x, y, self.slack * 1.4)
        if port is not None:
            self._finish(replace(self.run, port=port))
            return
        brought = line_under(self.workspace.shop, self._paths(), self.run, self.angle, x, y, self.slack)
        if brought is not None:
            self._finish(brought)
            return
        path = self.path()
        self._corner(*(squared(path[-1][:2], (x, y)) if path else (x, y)))

    def _corner(self, x: float, y: float) -> None:
        """The next corner at the height set beside the plan."""
        assert self.run is not None
        self.run = with_corner(self.workspace.shop, self.run, x, y, self.height_value)

    def _finish(self, run: Run) -> None:
        self._hold(None)
        done = finished(self.workspace.shop, run)
        self.workspace.apply(lambda shop: put(shop, done), f"Draw {done.name}")
        self.workspace.pick(done.id)

    def _set_gate(self, x: float, y: float) -> None:
        found = run_under(self._paths(), x, y, self.slack)
        if found is None:
            raise DrawingError("A gate goes on a run: click one.")
        self.add_gate(*found)

    def add_gate(self, run_id: str, at: float) -> None:
        """A gate on a run, metres along it from the fan's end."""
        run = next(run for run in self.workspace.shop.ducts.runs if run.id == run_id)
        gate = new_gate(self.workspace.shop, run, at)
        self.workspace.apply(
            lambda shop: change(shop, run_id, gates=(*run.gates, gate)), f"Set a gate on {run.name}"
        )
        self.workspace.pick(run_id)
