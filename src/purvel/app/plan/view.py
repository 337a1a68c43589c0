"""The plan in the middle of the window: shows what the stage draws, takes the hand's drags, keys and clicks."""

from typing import Protocol

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QWheelEvent
from PySide6.QtWidgets import QLineEdit, QWidget

from purvel.app.desk import Desk
from purvel.app.plan import hands
from purvel.app.plan.draw_room import paper_grid
from purvel.app.plan.draw_things import distances
from purvel.app.plan.hands import Grip, item_at, take
from purvel.app.plan.sheet import Sheet
from purvel.app.reviewing import ReviewBench
from purvel.app.theme import LIGHT, Look
from purvel.quantities import LengthError, format_length, parse_length
from purvel.shop.edits import change_thing, move_thing, remove
from purvel.space.clearances import wall_distances

DRAG_START = 4  # px


class PlanStage(Protocol):
    """What the plan asks of a stage."""

    takes_fixtures: bool

    def draw(self, sheet: Sheet) -> None: ...
    def empty_hint(self) -> str: ...
    def tool_press(self, x: float, y: float) -> bool: ...
    def tool_move(self, x: float, y: float) -> None: ...
    def tool_key(self, key: int) -> bool: ...
    def tool_hint(self) -> str: ...


class PlanView(QWidget):
    """The drawing board."""

    pointed = Signal(float, float)

    def __init__(self, desk: Desk, bench: ReviewBench) -> None:
        super().__init__()
        self.desk, self.bench = desk, bench
        self.stage: PlanStage | None = None
        self.look: Look = LIGHT
        self.pixels = 15
        self.scale = 80.0
        self.origin = QPointF(60, 500)
        self.pointer: tuple[float, float] | None = None
        self._grip: Grip | None = None
        self._pressed_at: QPointF | None = None
        self._panning: QPointF | None = None
        self._dragging = False
        self._fit_when_shown = True
        self.measured_wall = 0
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setMinimumSize(320, 200)
        self.setAccessibleName("Plan")
        self.distance = _DistanceField(self)
        self._walls = desk.shop.room.walls
        desk.changed.connect(self._follow_walls)
        desk.changed.connect(self.update)
        desk.previewed.connect(self.update)
        desk.picked_changed.connect(self.update)
        bench.reviewed.connect(self.update)

    # ---- drawing

    @property
    def is_dragging(self) -> bool:
        """Whether something is in the hand."""
        return self._dragging

    def sheet(self, painter: QPainter) -> Sheet:
        """A sheet for what is seen now."""
        return Sheet(painter, self.look, self.scale, self.origin, round(15 + 0.6 * (self.pixels - 15)))  # the drawing has less room than the page

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(self.look.paper))
        sheet = self.sheet(painter)
        paper_grid(sheet, self.width(), self.height(), 0.5 if self.desk.shop.units == "metric" else 0.6096)
        if self.stage is not None:
            self.stage.draw(sheet)
            if self._dragging and self._grip is not None:
                self._draw_distances(sheet)
            sheet.set_words()
            hint = self.stage.empty_hint() or ""
            if hint:
                centre = QPointF(self.width() / 2, self.height() / 2)
                _wrapped(sheet, centre, hint, min(self.width() - 80, 560))
            tool = self.stage.tool_hint()
            if tool:
                sheet.text(QPointF(self.width() / 2, self.height() - self.pixels * 1.4), tool, self.look.accent, bold=True, plate=True)
        if self.hasFocus():
            painter.setPen(sheet.pen(self.look.accent, 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))
        painter.end()

    def _draw_distances(self, sheet: Sheet) -> None:
        thing = self.desk.shown.thing(self._grip.item) if self._grip else None
        if thing is not None:
            distances(sheet, self.desk.shown, thing)

    def _follow_walls(self) -> None:
        """New walls that run out of the picture bring it back to fit."""
        walls = self.desk.shop.room.walls
        if walls is self._walls:
            return
        self._walls = walls
        seen = QRectF(self.rect())
        if not all(seen.contains(self.to_window(*corner)) for corner in self.bench.quick().traverse.raw):
            self.fit()

    def fit(self) -> None:
        """Shows the whole room."""
        shop = self.desk.shown
        points = list(self.bench.quick().traverse.raw) + [(thing.x, thing.y) for thing in shop.things]
        if len(points) < 2:
            points = [(0.0, 0.0), (6.0, 5.0)]
        self.show_area(min(p[0] for p in points), min(p[1] for p in points), max(p[0] for p in points), max(p[1] for p in points), 0.5)

    def show_area(self, x0: float, y0: float, x1: float, y1: float, margin: float) -> None:
        """Zooms to a part of the plan [m]."""
        wide, high = x1 - x0 + 2 * margin, y1 - y0 + 2 * margin
        self.scale = max(5.0, min(self.width() / wide, self.height() / high))
        cx, cy = (x0 + x1) / 2, (y0 + y1) / 2
        self.origin = QPointF(self.width() / 2 - cx * self.scale, self.height() / 2 + cy * self.scale)
        self.update()

    def look_at_picked(self) -> None:
        """Zooms to the picked thing."""
        thing = self.desk.shown.thing(self.desk.picked or "")
        if thing is not None:
            self.show_area(thing.x, thing.y, thing.x, thing.y, 1.6)

    def to_plan(self, position: QPointF) -> tuple[float, float]:
        """Window pixels to plan metres."""
        return ((position.x() - self.origin.x()) / self.scale, (self.origin.y() - position.y()) / self.scale)

    def to_window(self, x: float, y: float) -> QPointF:
        """Plan metres to window pixels."""
        return QPointF(self.origin.x() + x * self.scale, self.origin.y() - y * self.scale)

    def resizeEvent(self, event: object) -> None:
        if self._fit_when_shown or self.desk.shop.room.walls:
            self.fit()
            self._fit_when_shown = False

    # ---- hands

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        self.distance.hide()
        position = event.position()
        if event.button() == Qt.MouseButton.MiddleButton or (
            event.button() == Qt.MouseButton.LeftButton and event.modifiers() & Qt.KeyboardModifier.AltModifier
        ):
            self._panning = position
            return
        if event.button() != Qt.MouseButton.LeftButton or self.stage is None:
            return
        x, y = self.to_plan(position)
        if self.stage.tool_press(x, y):
            self.update()
            return
        results = self.bench.quick()
        item = item_at(results, x, y, hands.GRAB / self.scale, fixtures=self.stage.takes_fixtures)
        self.desk.pick(item)
        self._pressed_at = position
        self._grip = take(results, item, x, y) if item else None
        self.desk.end_merge()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        position = event.position()
        if self._panning is not None:
            self.origin += position - self._panning
            self._panning = position
            self.update()
            return
        x, y = self.to_plan(position)
        self.pointer = (x, y)
        if self.stage is not None:
            self.stage.tool_move(x, y)
        if self._grip is not None and self._pressed_at is not None:
            if not self._dragging and (position - self._pressed_at).manhattanLength() < DRAG_START:
                return
            self._dragging = True
            grip = self._grip
            px, py = x + grip.offset[0], y + grip.offset[1]
            self.desk.apply(lambda shop: grip.place(shop, px, py), grip.label, merge=f"drag {grip.item}")
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._panning = None
        self._grip = None
        self._pressed_at = None
        if self._dragging:
            self._dragging = False
            self.desk.end_merge()
        self.update()

    def wheelEvent(self, event: QWheelEvent) -> None:
        before = self.to_plan(event.position())
        self.scale = min(600.0, max(10.0, self.scale * 1.0015 ** event.angleDelta().y()))
        after = self.to_window(*before)
        self.origin += event.position() - after
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        if self.stage is not None and self.stage.tool_key(key):
            self.update()
            return
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        plain = not event.modifiers() & ~(Qt.KeyboardModifier.ShiftModifier | Qt.KeyboardModifier.KeypadModifier)
        if not plain or not self._handle_key(key, event.text(), shift):
            super().keyPressEvent(event)

    def _handle_key(self, key: int, text: str, shift: bool) -> bool:
        thing = self.desk.shop.thing(self.desk.picked or "")
        arrows = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, 1), Qt.Key.Key_Down: (0, -1)}
        if key == Qt.Key.Key_F:
            self.fit()
        elif key == Qt.Key.Key_Z:
            self.look_at_picked()
        elif key == Qt.Key.Key_Escape:
            self.desk.preview(None)
            self.desk.pick(None)
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and self.desk.picked:
            item = self.desk.picked
            self.desk.pick(None)
            self.desk.apply(lambda shop: remove(shop, item), "Take away")
        elif key == Qt.Key.Key_N:
            self._pick_next(-1 if shift else 1)
        elif key in arrows and self.desk.picked:
            self._nudge(*arrows[Qt.Key(key)], large=shift)
        elif key == Qt.Key.Key_R and thing is not None:
            turn = 15.0 if shift else 90.0
            self.desk.apply(lambda shop: change_thing(shop, thing.id, angle=(thing.angle + turn) % 360), f"Turn {thing.name}")
        elif text.isdigit() and thing is not None and self._dragging:
            self.distance.begin(text)
        elif text in ("=", "'") and thing is not None:
            self.distance.begin("")
        else:
            return False
        return True

    def _pick_next(self, by: int) -> None:
        ids = [thing.id for thing in self.desk.shop.things]
        if not ids:
            return
        now = ids.index(self.desk.picked) if self.desk.picked in ids else -1 if by > 0 else 0
        self.desk.pick(ids[(now + by) % len(ids)])

    def _nudge(self, dx: int, dy: int, *, large: bool) -> None:
        shop = self.desk.shop
        step = hands.step_of(shop.units) * (10 if large else 1)
        thing = shop.thing(self.desk.picked or "")
        if thing is not None:
            self.desk.apply(
                lambda s: move_thing(s, thing.id, thing.x + dx * step, thing.y + dy * step), f"Nudge {thing.name}", merge=f"nudge {thing.id}"
            )
            return
        results = self.bench.quick()
        fixture = next((one for one in shop.room.fixtures if one.id == self.desk.picked), None)
        opening = next((one for one in shop.room.openings if one.id == self.desk.picked), None)
        if fixture is not None:
            grip = take(results, fixture.id, fixture.x, fixture.y)
            x, y = fixture.x + dx * step, fixture.y + dy * step
        elif opening is not None and opening.wall in results.sides:
            side = results.sides[opening.wall]
            middle = side.at(opening.offset + opening.width / 2)
            grip = take(results, opening.id, *middle)
            x, y = middle[0] + dx * step, middle[1] + dy * step
        else:
            return
        if grip is not None:
            self.desk.apply(lambda s: grip.place(s, x, y), grip.label, merge=f"nudge {grip.item}")

    def walls_of_picked(self) -> list[tuple[str, float]]:
        """The two walls that the picked thing's distance can be set to: id and distance now [m]."""
        thing = self.desk.shop.thing(self.desk.picked or "")
        return [] if thing is None else [(wall, distance) for wall, distance, _, _ in wall_distances(thing, self.desk.shop.room)]


class _DistanceField(QLineEdit):
    """Typed while dragging: the exact distance to a wall. Tab goes to the other wall, Enter sets, Esc leaves it."""

    def __init__(self, view: PlanView) -> None:
        super().__init__(view)
        self.view = view
        self.setAccessibleName("Exact distance to the wall")
        self.hide()
        self.returnPressed.connect(self._set)

    def begin(self, text: str) -> None:
        """Opens at the picked thing with the first digit in it."""
        walls = self.view.walls_of_picked()
        if not walls:
            return
        self.view.measured_wall %= len(walls)
        self.view._grip = None
        self.view._dragging = False
        self.setText(text)
        self._say()
        self.adjustSize()
        self.setFixedWidth(max(240, self.view.pixels * 18))
        thing = self.view.desk.shop.thing(self.view.desk.picked or "")
        assert thing is not None
        spot = self.view.to_window(thing.x, thing.y)
        self.move(round(min(spot.x(), self.view.width() - self.width() - 6)), round(max(4.0, spot.y() - 60)))
        self.show()
        self.setFocus()
        self.deselect()

    def _say(self) -> None:
        walls = self.view.walls_of_picked()
        wall, now = walls[self.view.measured_wall % len(walls)]
        self.setPlaceholderText(f"to wall {wall}, now {format_length(now, self.view.desk.shop.units)}")
        self.setToolTip(f"Distance to wall {wall}. Tab for the other wall, Enter sets it.")

    def event(self, event: object) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QKeyEvent.Type.KeyPress and event.key() in (Qt.Key.Key_Tab, Qt.Key.Key_Escape):
            if event.key() == Qt.Key.Key_Tab:
                self.view.measured_wall += 1
                self._say()
            else:
                self.hide()
                self.view.setFocus()
            return True
        return super().event(event)

    def _set(self) -> None:
        view = self.view
        thing = view.desk.shop.thing(view.desk.picked or "")
        walls = view.walls_of_picked()
        if thing is None or not walls:
            self.hide()
            return
        try:
            distance = parse_length(self.text(), view.desk.shop.units)
        except LengthError as exc:
            self.setProperty("refused", True)
            self.style().polish(self)
            view.desk.said.emit(str(exc))
            return
        self.setProperty("refused", False)
        self.style().polish(self)
        wall = walls[view.measured_wall % len(walls)][0]
        edit = hands.set_distance(thing, view.bench.quick(), wall, distance)
        if edit is not None:
            view.desk.apply(edit, f"Set {thing.name} from wall {wall}")
        self.hide()
        view.setFocus()


def _wrapped(sheet: Sheet, centre: QPointF, text: str, width: float) -> None:
    painter = sheet.painter
    painter.setFont(sheet.font(1.1))
    rect = QRectF(centre.x() - width / 2, centre.y() - 200, width, 400)
    flags = int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap)
    box = painter.boundingRect(rect, flags, text)
    painter.setPen(sheet.pen(sheet.look.rule, 1))
    painter.setBrush(sheet.brush(sheet.look.sheet, 0.95))
    painter.drawRoundedRect(box.adjusted(-18, -14, 18, 14), 4, 4)
    painter.setPen(sheet.pen(sheet.look.ink))
    painter.drawText(rect, flags, text)
