"""Ducts: runs drawn by clicking, gates, the flows of every gate choice."""

import itertools
from collections.abc import Callable
from dataclasses import replace
from math import atan2, cos, degrees, hypot, radians, sin

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtWidgets import QPushButton, QWidget

from purvel.airflow.layout import length_of, point_along, run_paths
from purvel.app.desk import Desk
from purvel.app.plan import draw_ducts, draw_room, draw_things
from purvel.app.plan.hands import Grip, step_of
from purvel.app.plan.prompt import Choice
from purvel.app.plan.sheet import Sheet
from purvel.app.reviewing import ReviewBench
from purvel.app.stages import STAGE_LIST
from purvel.app.stages.ducts.instrument import DuctInstrument
from purvel.app.stages.stage import Stage
from purvel.app.theme import Look
from purvel.app.widgets.fields import ChoiceField, length_field
from purvel.app.widgets.flow import FlowLayout, clear
from purvel.catalogue import duct_sizes, elbows, materials
from purvel.shop import Gate, Join, PortRef, Run, Shop, Vertex
from purvel.shop.edits import change_ducts, change_run, fresh_id, put_run

REACH = 14.0  # px within which a click takes an inlet, a port or a run
LINE_UP = 0.08  # m: a corner this near to being in line with another goes there
SQUARE = 9.0  # deg: a leg this near to square or 45° is drawn so


class DuctsStage(Stage):
    """Does this gate choice keep chips moving?"""

    entry = STAGE_LIST[2]

    def __init__(self, desk: Desk, bench: ReviewBench) -> None:
        super().__init__(desk, bench)
        self.instrument = self.walk = DuctInstrument(desk, bench)
        self.tray = QWidget()
        self.choices = FlowLayout(self.tray)
        self.choices.setContentsMargins(0, 0, 0, 0)
        self.drawing: Run | None = None
        self.gating = False
        self.pointer: tuple[float, float] = (0.0, 0.0)
        self.by_key = False
        self.slack_px = REACH
        self.rebuild()

    # ---- the strip

    def rebuild(self) -> None:
        clear(self.row)
        clear(self.choices)
        say = self.say
        self.draw_button = QPushButton("Draw a run")
        self.draw_button.setCheckable(True)
        self.draw_button.setToolTip(
            "Click a collector's inlet or a run to begin, corners along the way, a machine to end. Enter ends free, Esc gives up."
        )
        self.draw_button.toggled.connect(self._toggle_drawing)
        self.gate_button = QPushButton("Set a gate")
        self.gate_button.setCheckable(True)
        self.gate_button.toggled.connect(self._toggle_gating)
        self.row.addWidget(self.draw_button)
        self.row.addWidget(self.gate_button)
        self.size = ChoiceField("Size of the next run", [(size, say.size(size)) for size in duct_sizes()])
        self.material = ChoiceField("Material of the next run", [(key, one.short) for key, one in materials().items()])
        self.elbow = ChoiceField("Elbows of the next run", [(key, one.short) for key, one in elbows().items() if key != "hose-bend"])
        self.angle = ChoiceField("Branch fitting of the next run", [(angle, f"{angle:.0f}° branch") for angle in (30.0, 45.0, 60.0, 90.0)])
        for field, value in ((self.size, 0.1), (self.material, "spiral"), (self.elbow, "smooth-1.5"), (self.angle, 45.0)):
            field.show_value(value)
            self.choices.addWidget(field)
        self.height = length_field("Height of the next corners", self.desk.shop.units, most=12.0)
        self.height.line.setFixedWidth(self.pixels * 6)
        self.height_value = min(2.286, self.desk.shop.room.ceiling.height - 0.1524)
        self.height.show_value(self.height_value)
        self.height.entered.connect(self._set_height)
        self.pair("Height", self.height, self.choices)
        self._toggle_drawing(False)
        self.target = ChoiceField("What each hood is asked for", [("fine", "hoods: fine dust too"), ("chips", "hoods: clear the chips")], widest=22)
        self.target.entered.connect(lambda value: self.desk.apply(lambda shop: change_ducts(shop, target=value), "Set what hoods are asked for"))
        self.row.addWidget(self.target)
        self.walk.rebuild()
        self.refresh()

    def refresh(self) -> None:
        self.target.show_value(self.desk.shop.ducts.target)
        self.walk.refresh()

    def dress(self, look: Look, pixels: int) -> None:
        super().dress(look, pixels)
        self.walk.dress(look, pixels)

    def _set_height(self, value: object) -> None:
        self.height_value = float(str(value))
        self.tool_changed.emit()

    def _toggle_drawing(self, on: bool) -> None:
        self.drawing = None
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

    def show_gate_set(self, name: str) -> None:
        if name:
            self.walk.choose(name)

    # ---- drawing on the plan

    def draw(self, sheet: Sheet) -> None:
        self.slack_px = REACH / sheet.scale
        shop, results = self.desk.shown, self.bench.latest.results
        if results.shop.ducts is not shop.ducts or results.shop.things is not shop.things or results.shop.room is not shop.room:
            results = self.results()
        draw_room.room(sheet, shop, results.traverse, results.sides, None, measures=False)
        draw_things.things(sheet, shop, self.desk.picked, self.trouble(), quiet=True)
        draw_ducts.ducts(sheet, results, self.walk.chosen, self.desk.picked, self.say)
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
                ahead = self._squared(path[-1], self.pointer)
                sheet.line([*((p[0], p[1]) for p in path), ahead], sheet.pen(sheet.look.accent, 4, dashes=(3, 2)))
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
        near = [point for point in run.points if hypot(point.x - x, point.y - y) < self.slack_px]
        if not near:
            return None
        held = min(near, key=lambda point: hypot(point.x - x, point.y - y))
        grid = step_of(self.desk.shop.units)
        others = [point for point in run.points if hypot(point.x - held.x, point.y - held.y) > 1e-3]

        def put(shop: Shop, px: float, py: float) -> Shop:
            px, py = round(px / grid) * grid, round(py / grid) * grid
            px = next((other.x for other in others if abs(other.x - px) < LINE_UP), px)  # in line with its neighbours
            py = next((other.y for other in others if abs(other.y - py) < LINE_UP), py)
            points = tuple(replace(p, x=px, y=py) if hypot(p.x - held.x, p.y - held.y) <= 1e-3 else p for p in run.points)
            return change_run(shop, run.id, points=points)

        return Grip(run.id, (held.x - x, held.y - y), put, f"Move a corner of {run.name}")

    def tool_lengths(self) -> list[Choice]:
        path = self._path_so_far()
        if not path:
            return []
        start = path[-1]

        def act(length: float) -> None:
            ahead = self._squared(start, self.pointer)
            far = hypot(ahead[0] - start[0], ahead[1] - start[1])
            if far < 1e-6:
                self.desk.said.emit("Point the way first, with the mouse or the arrow keys; then type how far.")
                return
            self._corner(start[0] + (ahead[0] - start[0]) / far * length, start[1] + (ahead[1] - start[1]) / far * length)
            self.tool_changed.emit()

        return [Choice("leg", "length of this leg", act)]

    def _path_so_far(self) -> tuple[tuple[float, float, float], ...]:
        if self.drawing is None:
            return ()
        trial = put_run(self.desk.shop, self.drawing)
        return run_paths(trial.ducts, trial.things)[self.drawing.id]

    def _squared(self, start: tuple[float, ...], to: tuple[float, float]) -> tuple[float, float]:
        """The pointed place, drawn square or at 45° to the last corner where it nearly is."""
        dx, dy = to[0] - start[0], to[1] - start[1]
        far = hypot(dx, dy)
        heading = degrees(atan2(dy, dx))
        square = round(heading / 45.0) * 45.0
        if far < 1e-6 or abs(heading - square) > SQUARE:
            return to
        return (start[0] + far * cos(radians(square)), start[1] + far * sin(radians(square)))

    def tool_move(self, x: float, y: float) -> None:
        self.pointer = (x, y)
        self.by_key = False

    def tool_hint(self) -> str:
        if self.gating:
            return "Click where the gate goes, or arrow keys and Space. Esc leaves."
        if not self.draw_button.isChecked():
            return ""
        if self.drawing is None:
            return "Click a collector's inlet, or a run to branch off it. N goes through them, Space takes one, Esc leaves."
        return (
            f"Click the next corner at {self.say.length(self.height_value)} height, or a machine's port (N, Space). Digits type the leg's length. "
            "Enter ends free, Backspace takes a corner back."
        )

    def tool_tray(self) -> QWidget | None:
        return self.tray if self.draw_button.isChecked() else None

    def tool_press(self, x: float, y: float) -> bool:
        self.pointer = (x, y)
        if self.gating or self.draw_button.isChecked():
            self.desk.said.emit("")  # what was refused before this press is not true of it
        if self.gating:
            self._set_gate(x, y)
            return True
        if not self.draw_button.isChecked():
            gate = self._gate_at(x, y)
            run = self._run_at(x, y)
            if gate is not None:
                self.walk.flip(gate)
            elif run is not None:
                self.desk.pick(run[0])
            return gate is not None or run is not None
        if self.drawing is None:
            self._begin(x, y)
        else:
            self._go_on(x, y)
        return True

    def tool_key(self, key: int, shift: bool) -> bool:
        if not (self.draw_button.isChecked() or self.gating):
            return False
        arrows = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, 1), Qt.Key.Key_Down: (0, -1)}
        if key in arrows:
            dx, dy = arrows[Qt.Key(key)]
            step = (0.05 if self.desk.shop.units == "metric" else 0.0508) * (10 if shift else 1)
            self._pen_to(self.pointer[0] + dx * step, self.pointer[1] + dy * step)
        elif key == Qt.Key.Key_N:
            self._next_target(-1 if shift else 1)
        elif key == Qt.Key.Key_Space:
            self.tool_press(*self.pointer)
        elif key == Qt.Key.Key_Escape and self.drawing is not None:
            self.drawing = None
        elif key == Qt.Key.Key_Escape:
            self.put_down()
        elif self.drawing is not None and key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._finish(self.drawing)
        elif self.drawing is not None and key == Qt.Key.Key_Backspace:
            self.drawing = replace(self.drawing, points=self.drawing.points[:-1])
        else:
            return False
        return True

    def _pen_to(self, x: float, y: float) -> None:
        self.pointer, self.by_key = (x, y), True

    def _next_target(self, by: int) -> None:
        """The pen at the next place that the tool can use: an inlet or a run to begin on, a port to end at, a run for a gate."""
        shop, paths = self.desk.shop, self.results().run_paths
        taken = {(run.port.thing, run.port.port) for run in shop.ducts.runs if run.port}
        if self.drawing is not None:
            targets = [t.spot(port.x, port.y) for t in shop.things for port in t.ports if (t.id, port.id) not in taken]
        else:
            targets = [point_along(path, length_of(path) * share)[:2] for path in paths.values() if len(path) > 1 for share in (0.3, 0.6, 1.0)]
            if not self.gating:
                targets = [t.spot(t.source.inlet_x, t.source.inlet_y) for t in shop.things if t.source] + targets
        if not targets:
            self.desk.said.emit("There is nothing here that this tool can use.")
            return
        near = [i for i, (x, y) in enumerate(targets) if hypot(x - self.pointer[0], y - self.pointer[1]) < 1e-6]
        self._pen_to(*targets[(near[0] + by if near else 0) % len(targets)])

    def _begin(self, x: float, y: float) -> None:
        run_id = fresh_id(self.desk.shop, "run")
        number = len(self.desk.shop.ducts.runs) + 1
        new = Run(
            id=run_id,
            name="Main" if number == 1 else f"Run {number}",
            diameter=float(str(self.size.value)),
            material=str(self.material.value),
            elbow=str(self.elbow.value),
        )
        for thing in self.desk.shop.things:
            if thing.source is None:
                continue
            ix, iy = thing.spot(thing.source.inlet_x, thing.source.inlet_y)
            inside = abs(thing.x - x) < thing.width / 2 and abs(thing.y - y) < thing.depth / 2
            if hypot(ix - x, iy - y) < self.slack_px or inside:
                if any(run.source == thing.id for run in self.desk.shop.ducts.runs):
                    self.desk.said.emit(f"The inlet of {thing.name} is taken: branch off its run instead.")
                    return
                self.drawing = replace(new, source=thing.id)
                return
        found = self._run_at(x, y)
        if found is None:
            self.desk.said.emit("A run begins at a collector's or vac's inlet, or on another run. Click one of those.")
            return
        parent, at = found
        total = length_of(self.results().run_paths[parent])
        free_end = next(run for run in self.desk.shop.ducts.runs if run.id == parent).port is None
        angle = float(str(self.angle.value))
        join = Join(run=parent, angle=angle) if free_end and at > total - max(0.15, self.slack_px) else Join(run=parent, at=round(at, 3), angle=angle)
        self.drawing = replace(new, joins=join)

    def _go_on(self, x: float, y: float) -> None:
        assert self.drawing is not None
        taken = {(run.port.thing, run.port.port) for run in self.desk.shop.ducts.runs if run.port}
        for thing in self.desk.shop.things:
            for port in thing.ports:
                px, py = thing.spot(port.x, port.y)
                if hypot(px - x, py - y) < self.slack_px * 1.4:
                    if (thing.id, port.id) in taken:
                        self.desk.said.emit(f"That port of {thing.name} has a run already.")
                        return
                    self._finish(replace(self.drawing, port=PortRef(thing=thing.id, port=port.id)))
                    return
        path = self._path_so_far()
        self._corner(*(self._squared(path[-1], (x, y)) if path else (x, y)))

    def _corner(self, x: float, y: float) -> None:
        """The next corner at the height set above, with a rise or drop before it where that changed."""
        assert self.drawing is not None
        path = self._path_so_far()
        points = list(self.drawing.points)
        last = path[-1] if path else None
        if last is not None and abs(last[2] - self.height_value) > 0.02:
            points.append(Vertex(x=last[0], y=last[1], z=self.height_value))
        points.append(Vertex(x=round(x, 4), y=round(y, 4), z=self.height_value))
        self.drawing = replace(self.drawing, points=tuple(points))

    def _finish(self, run: Run) -> None:
        self.drawing = None
        trial = put_run(self.desk.shop, run)
        if length_of(run_paths(trial.ducts, trial.things)[run.id]) < 0.02:
            self.desk.said.emit("That run has no length; nothing was added.")
            return
        self.desk.apply(lambda shop: put_run(shop, run), f"Draw {run.name}")
        self.desk.pick(run.id)

    def _run_at(self, x: float, y: float) -> tuple[str, float] | None:
        """The run under a point and how far along it, the nearest."""
        best: tuple[float, str, float] | None = None
        for run_id, path in self.results().run_paths.items():
            walked = 0.0
            for a, b in itertools.pairwise(path):
                piece = ((b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2 + (b[2] - a[2]) ** 2) ** 0.5
                flat = hypot(b[0] - a[0], b[1] - a[1])
                t = 0.0 if flat < 1e-9 else min(1.0, max(0.0, ((x - a[0]) * (b[0] - a[0]) + (y - a[1]) * (b[1] - a[1])) / flat**2))
                distance = hypot(a[0] + t * (b[0] - a[0]) - x, a[1] + t * (b[1] - a[1]) - y)
                if distance < self.slack_px and (best is None or distance < best[0] - 1e-6):
                    best = (distance, run_id, walked + t * piece)
                walked += piece
        return None if best is None else (best[1], best[2])

    def _gate_at(self, x: float, y: float) -> str | None:
        """The gate under a point."""
        paths = self.results().run_paths
        for run in self.desk.shop.ducts.runs:
            for gate in run.gates:
                if len(paths[run.id]) > 1:
                    gx, gy, _ = point_along(paths[run.id], min(gate.at, length_of(paths[run.id])))
                    if hypot(gx - x, gy - y) < self.slack_px * 0.8:
                        return gate.id
        return None

    def _set_gate(self, x: float, y: float) -> None:
        found = self._run_at(x, y)
        if found is None:
            self.desk.said.emit("A gate goes on a run: click one.")
            return
        self.add_gate(*found)
        self.gate_button.setChecked(False)

    def add_gate(self, run_id: str, at: float) -> None:
        """A gate on a run, metres along it from the fan's end."""
        run = next(one for one in self.desk.shop.ducts.runs if one.id == run_id)
        gate = Gate(id=fresh_id(self.desk.shop, "gate"), name=f"{run.name or run.id} gate", at=round(at, 3))
        self.desk.apply(lambda shop: change_run(shop, run_id, gates=(*run.gates, gate)), f"Set a gate on {run.name}")
        self.desk.pick(run_id)

    def empty_hint(self) -> str:
        shop = self.desk.shown
        if not any(thing.source for thing in shop.things):
            return "There is no collector or vac yet.\n\nPress 2, then “Place”, and set one down; then come back and draw its main from the inlet."
        if not shop.ducts.runs and not self.draw_button.isChecked():
            return "No duct yet.\n\nPress “Draw a run”, click the collector's inlet, then the corners, then a machine's port."
        return ""

    def commands(self) -> list[tuple[str, Callable[[], object]]]:
        return [("Draw a run", lambda: self.draw_button.setChecked(True)), ("Set a gate", lambda: self.gate_button.setChecked(True))]
