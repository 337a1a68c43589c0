"""Ducts: runs drawn by clicking, gates, the flows of every gate choice."""

from collections.abc import Callable
from functools import partial
from math import hypot

from PySide6.QtCore import QSignalBlocker
from PySide6.QtWidgets import QPushButton, QWidget

from purvel.airflow.drawing import gate_under, move_corner, run_under, with_corner_at, without_corner
from purvel.app.plan import draw_ducts, draw_room, draw_things
from purvel.app.plan.drag_handles import DragHandle, step_of
from purvel.app.plan.prompt import Choice
from purvel.app.plan.sheet import Sheet
from purvel.app.reviews import Reviews
from purvel.app.stages import entry_of
from purvel.app.stages.ducts import drawing
from purvel.app.stages.ducts.instrument import DuctInstrument
from purvel.app.stages.ducts.tool import REACH, DuctTool, Mode
from purvel.app.stages.stage import Stage
from purvel.app.theme import Theme
from purvel.app.widgets.fields import ChoiceField
from purvel.app.widgets.words import set_tip
from purvel.app.workspace import Workspace
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Run, Shop
from purvel.shop.edits import change_ducts, put
from purvel.shop.parts import item_of


class DuctsStage(Stage):
    """Does this gate choice keep chips moving?"""

    entry = entry_of("ducts")

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__(workspace, reviews, theme)
        self.instrument = self.walk = DuctInstrument(workspace, theme)
        self.tool = DuctTool(workspace, reviews, theme)
        self.tool.changed.connect(self._tool_changed)
        self._fill_strip()

    def _fill_strip(self) -> None:
        self.draw_button = self._tool_button("Draw a run", "draw")
        set_tip(
            self.draw_button,
            "Click a collector's inlet or a run to begin, corners along the way, a machine to end. Enter ends"
            " free, Esc gives up.",
        )
        self.gate_button = self._tool_button("Set a gate", "gate")
        targets = [("fine", "hoods: fine dust too"), ("chips", "hoods: clear the chips")]
        self.target = ChoiceField("What each hood is asked for", targets, widest=22)
        self.target.entered.connect(self._set_target)
        self.row.addWidget(self.target)

    def _tool_button(self, text: str, mode: Mode) -> QPushButton:
        button = QPushButton(text)
        button.setCheckable(True)
        button.toggled.connect(partial(self._toggle, mode))
        self.row.addWidget(button)
        return button

    def _toggle(self, mode: Mode, on: bool) -> None:
        if on or self.tool.mode == mode:
            self.tool.take(mode if on else "none")

    def _tool_changed(self) -> None:
        for button, mode in ((self.draw_button, "draw"), (self.gate_button, "gate")):
            with QSignalBlocker(button):
                button.setChecked(self.tool.mode == mode)
        self.tool_changed.emit()

    def _set_target(self, target: str) -> None:
        self.workspace.apply(lambda shop: change_ducts(shop, target=target), "Set what hoods are asked for")

    def rebuild(self) -> None:
        self.tool.rebuild()
        self.tool_changed.emit()

    def refresh(self) -> None:
        self.tool.check()
        self.tool.show_choices()
        self.target.show_value(self.workspace.shop.ducts.target)
        self.walk.show_system(self.review, self.view, is_stale=not self.reviews.is_settled)

    def finish(self) -> None:
        self.walk.sizes.give_up()
        self.walk.routes.give_up()
        self.walk.switch.give_up()

    def put_down(self) -> None:
        self.tool.take("none")

    # ---- drawing on the plan

    def draw(self, sheet: Sheet) -> None:
        self.tool.slack = REACH / sheet.scale
        shop, answers = self.workspace.shown, self.answers()
        draw_room.room(sheet, answers.of(RoomAnswers).shell, None)
        draw_things.things(sheet, shop, self.view.picked, self.trouble(), quiet=True)
        draw_ducts.ducts(sheet, answers, self.view.gate_set, self.view.picked, self.say)
        if shop.ducts.runs:
            draw_ducts.state_key(sheet, answers.of(RoomAnswers).shell.traverse.corners)
        run = self._picked_run()
        if run is not None and self.tool.mode != "draw":
            drawing.corners(sheet, run)
        drawing.tool_in_hand(sheet, shop, self.tool)

    def _picked_run(self) -> Run | None:
        item = item_of(self.workspace.shop, self.view.picked)
        return item if isinstance(item, Run) else None

    def pickable(self) -> list[str]:
        piped = [thing.id for thing in self.workspace.shop.things if thing.source or thing.ports]
        return [*(run.id for run in self.workspace.shop.ducts.runs), *piped]

    def handle_at(self, x: float, y: float) -> DragHandle | None:
        """A corner of the picked run; what hangs straight above or below it goes along."""
        run = self._picked_run()
        if run is None or self.tool.mode != "none":
            return None
        near = [point for point in run.points if hypot(point.x - x, point.y - y) < self.tool.slack]
        if not near:
            return None
        held = min(near, key=lambda point: hypot(point.x - x, point.y - y))
        grid = step_of(self.workspace.shop.units)

        def place(shop: Shop, px: float, py: float) -> Shop:
            return put(shop, move_corner(run, held, px, py, grid))

        return DragHandle(run.id, (held.x - x, held.y - y), place, f"Move a corner of {run.name}")

    def insert_at(self, x: float, y: float) -> bool:
        paths = self.answers().of(DuctAnswers).run_paths
        found = run_under(paths, x, y, self.tool.slack)
        if found is None or self.tool.mode != "none":
            return False
        run = next(one for one in self.workspace.shop.ducts.runs if one.id == found[0])
        bent = with_corner_at(run, paths[run.id], found[1])
        self.workspace.apply(lambda shop: put(shop, bent), f"Put a corner into {run.name or run.id}")
        self.workspace.pick(run.id)
        return True

    def take_out(self, x: float, y: float) -> bool:
        run = self._picked_run()
        near = [p for p in (run.points if run else ()) if hypot(p.x - x, p.y - y) < self.tool.slack]
        if run is None or not near:
            return False
        held = min(near, key=lambda point: hypot(point.x - x, point.y - y))
        straight = without_corner(run, held)
        self.workspace.apply(lambda shop: put(shop, straight), f"Take a corner out of {run.name or run.id}")
        return True

    def tool_lengths(self) -> list[Choice]:
        return self.tool.lengths()

    def tool_move(self, x: float, y: float) -> None:
        self.tool.move(x, y)

    def tool_hint(self) -> str:
        return self.tool.hint()

    def tool_tray(self) -> QWidget | None:
        return self.tool.tray if self.tool.mode == "draw" else None

    def tool_key(self, key: int, shift: bool) -> bool:
        return self.tool.key(key, shift)

    def tool_press(self, x: float, y: float) -> bool:
        if self.tool.mode != "none":
            self.tool.press(x, y)
            return True
        self.tool.move(x, y)
        return self._pick_under(x, y)

    def _pick_under(self, x: float, y: float) -> bool:
        """A gate is flipped, a run picked."""
        paths = self.answers().of(DuctAnswers).run_paths
        gate = gate_under(self.workspace.shop.ducts, paths, x, y, self.tool.slack * 0.8)
        run = run_under(paths, x, y, self.tool.slack)
        if gate is not None:
            self.walk.flip(gate)
        elif run is not None:
            self.workspace.pick(run[0])
        return gate is not None or run is not None

    def empty_hint(self) -> str:
        shop = self.workspace.shown
        if not any(thing.source for thing in shop.things):
            return (
                "There is no collector or vac yet.\n\nPress 2, then “Place”, and set one down; then come back"
                " and draw its main from the inlet."
            )
        if not shop.ducts.runs and self.tool.mode != "draw":
            return (
                "No duct yet.\n\nPress “Draw a run”, click the collector's inlet, then the corners, then a"
                " machine's port."
            )
        return ""

    def commands(self) -> list[tuple[str, Callable[[], object]]]:
        return [
            ("Draw a run", partial(self.tool.take, "draw")),
            ("Set a gate", partial(self.tool.take, "gate")),
        ]
