"""Ducts: runs drawn by clicking, gates, the flows of every gate choice."""

from collections.abc import Callable
from dataclasses import replace
from math import hypot

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtWidgets import QPushButton, QWidget

from purvel.airflow.drawing import (
    DrawingError,
    begin,
    finished,
    gate_under,
    move_corner,
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
from purvel.app.desk import Desk
from purvel.app.plan import draw_ducts, draw_room, draw_things
from purvel.app.plan.hands import Grip, step_of
from purvel.app.plan.prompt import Choice
from purvel.app.plan.sheet import Sheet
from purvel.app.reviewing import ReviewBench
from purvel.app.stages import ENTRIES
from purvel.app.stages.ducts.instrument import DuctInstrument
from purvel.app.stages.stage import Stage
from purvel.app.theme import Look
from purvel.app.widgets.fields import ChoiceField, length_field
from purvel.app.widgets.flow import FlowRow, clear
from purvel.catalogue import duct_sizes, elbows, materials
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Run
from purvel.shop.edits import change, change_ducts, fresh_id, put

UNDER_CEILING = 0.1524  # m; 6 in: a run that is drawn hangs at least this far below it
REACH = 14.0  # px within which a click takes an inlet, a port or a run


class DuctsStage(Stage):
    """Does this gate choice keep chips moving?"""

    entry = ENTRIES[2]

    def __init__(self, desk: Desk, bench: ReviewBench) -> None:
        super().__init__(desk, bench)
        self.instrument = self.walk = DuctInstrument(desk, bench)
        self.tray = FlowRow()
        self.choices = self.tray.row
        self.choices.setContentsMargins(0, 0, 0, 0)
        self.chosen = {"diameter": 0.1, "material": "spiral", "elbow": "smooth-1.5", "angle": 45.0}
        self.sized_by_hand = False  # until then a run takes the size of the inlet that it begins at
        self.height_value = 2.286
        self.drawing: Run | None = None
        self.gating = False
        self.pointer: tuple[float, float] = (0.0, 0.0)
        self.by_key = False
        self.slack = REACH / 80.0  # m, as the plan is drawn
        self._fill_strip()
        self.rebuild()

    # ---- the strip, and the tray of the drawing tool

    def _fill_strip(self) -> None:
        self.draw_button = QPushButton("Draw a run")
        self.draw_button.setToolTip(
            "Click a collector's inlet or a run to begin, corners along the way, a machine to end. Enter ends"
            " free, Esc gives up."
        )
        self.draw_button.toggled.connect(self._toggle_drawing)
        self.gate_button = QPushButton("Set a gate")
        self.gate_button.toggled.connect(self._toggle_gating)
        self.target = ChoiceField(
            "What each hood is asked for",
            [("fine", "hoods: fine dust too"), ("chips", "hoods: clear the chips")],
            widest=22,
        )
        self.target.entered.connect(
            lambda value: self.desk.apply(
                lambda shop: change_ducts(shop, target=value), "Set what hoods are asked for"
            )
        )
        for button in (self.draw_button, self.gate_button):
            button.setCheckable(True)
            self.row.addWidget(button)
        self.row.addWidget(self.target)

    def rebuild(self) -> None:
        clear(self.choices)
        sizes = [(size, self.say.size(size)) for size in duct_sizes()]
        bends = [(key, one.short) for key, one in elbows().items() if key != "hose-bend"]
        self.fields = {
            "diameter": ChoiceField("Size of the run", sizes),
            "material": ChoiceField(
                "Material of the run", [(key, one.short) for key, one in materials().items()]
            ),
            "elbow": ChoiceField("Elbows of the run", bends),
            "angle": ChoiceField(
                "Branch fitting of the run",
                [(angle, f"{angle:.0f}° branch") for angle in (30.0, 45.0, 60.0, 90.0)],
            ),
        }
        for key, field in self.fields.items():
            field.show_value(self.chosen[key])
            field.entered.connect(lambda value, k=key: self._choose(k, value))
            self.choices.addWidget(field)
        self.height = length_field("Height of the next corners", self.desk.shop.units, most=12.0)
        self.height.line.setFixedWidth(self.pixels * 6)
        self.height.show_value(self.height_value)
        self.height.entered.connect(self._set_height)
        self.pair("Height", self.height, self.choices)
        self._show_size()
        self.walk.rebuild()
        self.refresh()
        self.tool_changed.emit()

    def _choose(self, key: str, value: object) -> None:
        """For the run in hand and those that follow."""
        self.chosen[key] = value
        self.sized_by_hand |= key == "diameter"
        if self.drawing is not None and key != "angle":
            self.drawing = replace(self.drawing, **{key: value})
        elif self.drawing is not None and self.drawing.joins is not None:
            self.drawing = replace(self.drawing, joins=replace(self.drawing.joins, angle=float(str(value))))

    def refresh(self) -> None:
        if self.drawing is not None and not stands(self.desk.shop, self.drawing):
            self._hold(None)
            self.desk.said.emit("What the run began at is not there any more; begin it anew.")
            self.tool_changed.emit()
        self.target.show_value(self.desk.shop.ducts.target)
        self.height_value = min(self.height_value, self.desk.shop.room.ceiling.height - UNDER_CEILING)
        self.height.show_value(self.height_value)
        self.walk.refresh()

    def dress(self, look: Look, pixels: int) -> None:
        super().dress(look, pixels)
        self.walk.dress(look, pixels)

    def _set_height(self, value: object) -> None:
        self.height_value = float(str(value))
        self.tool_changed.emit()

    def _toggle_drawing(self, on: bool) -> None:
        self._hold(None)
        if on:
            self.gate_button.setChecked(False)
        self.tool_changed.emit()

    def _toggle_gating(self, on: bool) -> None:
        self.gating = on
        if on:
            self.draw_button.setChecked(False)
        self.tool_changed.emit()

    def put_down(self) -> None:
        self.draw_button.setChecked(False)
        self.gate_button.setChecked(False)

    def show_gate_set(self, gate_set: str | None) -> None:
        if gate_set:
            self.walk.choose(gate_set)

    # ---- drawing on the plan

    def draw(self, sheet: Sheet) -> None:
        self.slack = REACH / sheet.scale
        shop, answers = self.desk.shown, self.bench.latest.answers
        if (
            answers.shop.ducts is not shop.ducts
            or answers.shop.things is not shop.things
            or answers.shop.room is not shop.room
        ):
            answers = self.answers()
        draw_room.room(sheet, answers.of(RoomAnswers).shell, None)
        draw_things.things(sheet, shop, self.desk.picked, self.trouble(), quiet=True)
        draw_ducts.ducts(sheet, answers, self.walk.chosen, self.desk.picked, self.say)
        if shop.ducts.runs:
            draw_ducts.state_key(sheet, 8.0, sheet.painter.viewport().height() - 8.0)
        self._draw_tool(sheet)

    def _draw_tool(self, sheet: Sheet) -> None:
        if self.by_key and (self.draw_button.isChecked() or self.gating):
            self._draw_pen(sheet)
        run = self._picked_run()
        if run is not None and not self.draw_button.isChecked():
            for point in run.points:
                c = sheet.at(point.x, point.y)
                sheet.painter.setPen(sheet.pen(sheet.look.accent, 2))
                sheet.painter.setBrush(sheet.brush(sheet.look.sheet))
                sheet.painter.drawRect(QRectF(c.x() - 5, c.y() - 5, 10, 10))
        if self.draw_button.isChecked():
            for thing in self.desk.shop.things:
                if thing.source is not None and self.drawing is None:
                    draw_room.mark(sheet, thing.spot(thing.source.inlet_x, thing.source.inlet_y))
                for port in thing.ports if self.drawing is not None else ():
                    draw_room.mark(sheet, thing.spot(port.x, port.y))
        if self.drawing is not None:
            path = self._path_so_far()
            if path:
                ahead = squared(path[-1][:2], self.pointer)
                sheet.line(
                    [*((p[0], p[1]) for p in path), ahead], sheet.pen(sheet.look.accent, 4, dashes=(3, 2))
                )
                sheet.text(
                    sheet.at(*ahead) + sheet.at(0, 0) - sheet.at(0, -18 / sheet.scale),
                    self.say.length(hypot(ahead[0] - path[-1][0], ahead[1] - path[-1][1])),
                    sheet.look.accent,
                    bold=True,
                    plate=True,
                )

    def _draw_pen(self, sheet: Sheet) -> None:
        """Where the arrow keys have the pen."""
        c = sheet.at(*self.pointer)
        sheet.painter.setPen(sheet.pen(sheet.look.accent, 1.5))
        for dx, dy in ((18, 0), (0, 18)):
            sheet.painter.drawLine(QPointF(c.x() - dx, c.y() - dy), QPointF(c.x() + dx, c.y() + dy))

    def _picked_run(self) -> Run | None:
        return next((run for run in self.desk.shop.ducts.runs if run.id == self.desk.picked), None)

    def pickable(self) -> list[str]:
        piped = [thing.id for thing in self.desk.shop.things if thing.source or thing.ports]
        return [*(run.id for run in self.desk.shop.ducts.runs), *piped]

    def grip_at(self, x: float, y: float) -> Grip | None:
        """A corner of the picked run; what hangs straight above or below it goes along."""
        run = self._picked_run()
        if run is None or self.draw_button.isChecked() or self.gating:
            return None
        near = [point for point in run.points if hypot(point.x - x, point.y - y) < self.slack]
        if not near:
            return None
        held = min(near, key=lambda point: hypot(point.x - x, point.y - y))
        grid = step_of(self.desk.shop.units)
        return Grip(
            run.id,
            (held.x - x, held.y - y),
            lambda shop, px, py: put(shop, move_corner(run, held, px, py, grid)),
            f"Move a corner of {run.name}",
        )

    def tool_lengths(self) -> list[Choice]:
        path = self._path_so_far()
        if not path:
            return []
        start = path[-1]

        def act(length: float) -> None:
            ahead = squared((start[0], start[1]), self.pointer)
            far = hypot(ahead[0] - start[0], ahead[1] - start[1])
            if far < 1e-6:
                self.desk.said.emit(
                    "Point the way first, with the mouse or the arrow keys; then type how far."
                )
                return
            self._corner(
                start[0] + (ahead[0] - start[0]) / far * length,
                start[1] + (ahead[1] - start[1]) / far * length,
            )
            self.tool_changed.emit()

        return [Choice("leg", "length of this leg", act)]

    def _path_so_far(self) -> Path:
        return path_of(self.desk.shop, self.drawing) if self.drawing is not None else ()

    def tool_move(self, x: float, y: float) -> None:
        self.pointer = (x, y)
        self.by_key = False

    def tool_hint(self) -> str:
        if self.gating:
            return "Click where the gate goes, or arrow keys and Space. Esc leaves."
        if not self.draw_button.isChecked():
            return ""
        if self.drawing is None:
            return (
                "Click a collector's inlet, or a run to branch off it. N goes through them, Space takes one,"
                " Esc leaves."
            )
        return (
            f"Click the next corner at {self.say.length(self.height_value)} height, or a machine's port (N,"
            " Space). Digits type the leg's length. Enter ends free, Backspace takes a corner back."
        )

    def tool_tray(self) -> QWidget | None:
        return self.tray if self.draw_button.isChecked() else None

    def tool_press(self, x: float, y: float) -> bool:
        self.pointer = (x, y)
        if not (self.gating or self.draw_button.isChecked()):
            return self._pick_under(x, y)
        self.desk.said.emit("")  # what was refused before this press is not true of it
        self._try(
            lambda: (
                self._set_gate(x, y)
                if self.gating
                else self._begin(x, y)
                if self.drawing is None
                else self._go_on(x, y)
            )
        )
        return True

    def _pick_under(self, x: float, y: float) -> bool:
        """A gate is flipped, a run picked."""
        paths = self.answers().of(DuctAnswers).run_paths
        gate = gate_under(self.desk.shop.ducts, paths, x, y, self.slack * 0.8)
        run = run_under(paths, x, y, self.slack)
        if gate is not None:
            self.walk.flip(gate)
        elif run is not None:
            self.desk.pick(run[0])
        return gate is not None or run is not None

    def _try(self, act: Callable[[], None]) -> None:
        """Does what a press asks for, or says why not."""
        try:
            act()
        except DrawingError as exc:
            self.desk.said.emit(str(exc))

    def tool_key(self, key: int, shift: bool) -> bool:
        if not (self.draw_button.isChecked() or self.gating):
            return False
        arrows = {
            Qt.Key.Key_Left: (-1, 0),
            Qt.Key.Key_Right: (1, 0),
            Qt.Key.Key_Up: (0, 1),
            Qt.Key.Key_Down: (0, -1),
        }
        if key in arrows:
            dx, dy = arrows[Qt.Key(key)]
            step = (0.05 if self.desk.shop.units == "metric" else 0.0508) * (10 if shift else 1)
            self._pen_to(self.pointer[0] + dx * step, self.pointer[1] + dy * step)
        elif key == Qt.Key.Key_N:
            self._next_target(-1 if shift else 1)
        elif key == Qt.Key.Key_Space:
            self.tool_press(*self.pointer)
        elif key == Qt.Key.Key_Escape and self.drawing is not None:
            self._hold(None)
        elif key == Qt.Key.Key_Escape:
            self.put_down()
            self.desk.said.emit("")
        elif self.drawing is not None and key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            run = self.drawing
            self._try(lambda: self._finish(run))
        elif self.drawing is not None and key == Qt.Key.Key_Backspace:
            self.drawing = replace(self.drawing, points=self.drawing.points[:-1])
        else:
            return False
        return True

    def _pen_to(self, x: float, y: float) -> None:
        self.pointer, self.by_key = (x, y), True

    def _next_target(self, by: int) -> None:
        """The pen at the next place that the tool can use: an inlet or a run to begin on, a port to end at, a
        run for a gate.
        """
        paths = self.answers().of(DuctAnswers).run_paths
        if self.drawing is not None:
            targets = places_to_end(self.desk.shop)
        else:
            targets = places_for_gates(paths) if self.gating else places_to_begin(self.desk.shop, paths)
        if not targets:
            self.desk.said.emit("There is nothing here that this tool can use.")
            return
        near = [
            i for i, (x, y) in enumerate(targets) if hypot(x - self.pointer[0], y - self.pointer[1]) < 1e-6
        ]
        self._pen_to(*targets[(near[0] + by if near else 0) % len(targets)])

    def _begin(self, x: float, y: float) -> None:
        run_id = fresh_id(self.desk.shop, "run")
        number = len(self.desk.shop.ducts.runs) + 1
        made = {key: value for key, value in self.chosen.items() if key != "angle"}
        new = Run(id=run_id, name="Main" if number == 1 else f"Run {number}", **made)
        run = begin(
            self.desk.shop,
            self.answers().of(DuctAnswers).run_paths,
            new,
            float(str(self.chosen["angle"])),
            x,
            y,
            self.slack,
        )
        size = run.diameter if self.sized_by_hand else size_at(self.desk.shop, run, duct_sizes())
        self._hold(replace(run, diameter=size))

    def _hold(self, run: Run | None) -> None:
        """A run in hand, or none; its size is shown, else that of the next branch."""
        self.drawing = run
        self._show_size()

    def _show_size(self) -> None:
        self.fields["diameter"].show_value(
            self.chosen["diameter"] if self.drawing is None else self.drawing.diameter
        )

    def _go_on(self, x: float, y: float) -> None:
        assert self.drawing is not None
        port = port_under(self.desk.shop, x, y, self.slack * 1.4)
        if port is not None:
            self._finish(replace(self.drawing, port=port))
            return
        path = self._path_so_far()
        self._corner(*(squared(path[-1][:2], (x, y)) if path else (x, y)))

    def _corner(self, x: float, y: float) -> None:
        """The next corner at the height set beside the plan."""
        assert self.drawing is not None
        self.drawing = with_corner(self.desk.shop, self.drawing, x, y, self.height_value)

    def _finish(self, run: Run) -> None:
        self._hold(None)
        run = finished(self.desk.shop, run)
        self.desk.apply(lambda shop: put(shop, run), f"Draw {run.name}")
        self.desk.pick(run.id)

    def _set_gate(self, x: float, y: float) -> None:
        found = run_under(self.answers().of(DuctAnswers).run_paths, x, y, self.slack)
        if found is None:
            raise DrawingError("A gate goes on a run: click one.")
        self.add_gate(*found)
        self.gate_button.setChecked(False)

    def add_gate(self, run_id: str, at: float) -> None:
        """A gate on a run, metres along it from the fan's end."""
        run = next(one for one in self.desk.shop.ducts.runs if one.id == run_id)
        gate = new_gate(self.desk.shop, run, at)
        self.desk.apply(
            lambda shop: change(shop, run_id, gates=(*run.gates, gate)), f"Set a gate on {run.name}"
        )
        self.desk.pick(run_id)

    def empty_hint(self) -> str:
        shop = self.desk.shown
        if not any(thing.source for thing in shop.things):
            return (
                "There is no collector or vac yet.\n\nPress 2, then “Place”, and set one down; then come back"
                " and draw its main from the inlet."
            )
        if not shop.ducts.runs and not self.draw_button.isChecked():
            return (
                "No duct yet.\n\nPress “Draw a run”, click the collector's inlet, then the corners, then a"
                " machine's port."
            )
        return ""

    def commands(self) -> list[tuple[str, Callable[[], object]]]:
        return [
            ("Draw a run", lambda: self.draw_button.setChecked(True)),
            ("Set a gate", lambda: self.gate_button.setChecked(True)),
        ]
