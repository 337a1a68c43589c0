"""The plan in the middle of the window: shows what the stage draws, takes the hand's drags, keys and clicks."""

from collections.abc import Callable
from dataclasses import replace
from typing import Protocol

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QWheelEvent
from PySide6.QtWidgets import QWidget

from purvel.app.desk import Desk
from purvel.app.plan import hands
from purvel.app.plan.draw_room import mark, paper_grid
from purvel.app.plan.draw_things import distances, ghost
from purvel.app.plan.hands import Grip, item_at, take
from purvel.app.plan.prompt import Choice, LengthPrompt
from purvel.app.plan.sheet import Sheet
from purvel.app.reviewing import ReviewBench
from purvel.app.theme import LIGHT, Look
from purvel.quantities import format_length
from purvel.review.finding import Where
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Fixture, Opening, Thing
from purvel.shop.edits import change, move_thing, put, remove
from purvel.shop.parts import item_of
from purvel.space.clearances import wall_distances
from purvel.space.ground import footprint

DRAG_START = 4  # px


class PlanStage(Protocol):
    """What the plan asks of a stage."""

    takes_fixtures: bool
    edge_lines: float

    def draw(self, sheet: Sheet) -> None: ...
    def empty_hint(self) -> str: ...
    def pickable(self) -> list[str]: ...
    def grip_at(self, x: float, y: float) -> Grip | None: ...
    def tool_press(self, x: float, y: float) -> bool: ...
    def tool_move(self, x: float, y: float) -> None: ...
    def tool_key(self, key: int, shift: bool) -> bool: ...
    def tool_lengths(self) -> list[Choice]: ...


class PlanView(QWidget):
    """The drawing board."""

    tool_used = Signal()

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
        self._is_fitted = True
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setMinimumSize(200, 150)
        self.setAccessibleName("Plan")
        self.prompt = LengthPrompt(self)
        self.prompt.refused.connect(desk.said)
        self.prompt.done.connect(self.setFocus)
        self._where: Where | None = None
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
        return Sheet(painter, self.look, self.scale, self.origin, self._lettering())

    def _lettering(self) -> int:
        """Text on the plan [px]: the drawing has less room than the page."""
        return round(15 + 0.6 * (self.pixels - 15))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(self.look.paper))
        sheet = self.sheet(painter)
        paper_grid(sheet, self.width(), self.height(), 0.5 if self.desk.shop.units == "metric" else 0.6096)
        if self.stage is not None:
            self.stage.draw(sheet)
            self._draw_distances(sheet)
            self._draw_where(sheet)
            sheet.set_words()
            # where things stand it is said beside the plan
            hint = "" if self.desk.shown.things else self.stage.empty_hint()
            if hint:
                wide = min(self.width() - 80, 560)
                _wrapped(sheet, hint, QRectF((self.width() - wide) / 2, 0, wide, self.height()))
        if self.hasFocus():
            painter.setPen(sheet.pen(self.look.accent, 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))
        painter.end()

    def _draw_distances(self, sheet: Sheet) -> None:
        """While something is in the hand, or its distance is being typed."""
        item = self.desk.picked_body
        if item is not None and (self._dragging or self.prompt.isVisible()):
            shell = self.bench.quick().of(RoomAnswers).shell
            wanted = self.prompt.chosen.key if self.prompt.isVisible() else None
            distances(sheet, shell, self.desk.shown.units, item, wanted)

    def point_at(self, where: Where | None) -> None:
        """Shows where the open finding is: its point, and what it is about besides what is picked."""
        self._where = where
        self.update()

    def _draw_where(self, sheet: Sheet) -> None:
        if self._where is None:
            return
        shop = self.desk.shown
        for item in (*shop.things, *shop.room.fixtures):
            if item.id in self._where.items and item.id != self.desk.picked:
                ghost(sheet, footprint(item))
        if self._where.point is not None:
            mark(sheet, self._where.point)

    def _follow_walls(self) -> None:
        """New walls that run out of the picture bring it back to fit."""
        walls = self.desk.shop.room.walls
        if walls is self._walls:
            return
        self._walls = walls
        seen = QRectF(self.rect())
        if not all(
            seen.contains(self.to_window(*corner))
            for corner in self.bench.quick().of(RoomAnswers).traverse.raw
        ):
            self.fit()

    def fit_again(self) -> None:
        """Fits once more, unless the user looks at a part of their own choice."""
        if self._is_fitted:
            self.fit()
        self.update()

    def fit(self) -> None:
        """Shows the whole room."""
        shop = self.desk.shown
        points = list(self.bench.quick().of(RoomAnswers).traverse.raw) + [
            (thing.x, thing.y) for thing in shop.things
        ]
        if len(points) < 2:
            points = [(0.0, 0.0), (6.0, 5.0)]
        self._is_fitted = True
        self.show_area(
            min(p[0] for p in points),
            min(p[1] for p in points),
            max(p[0] for p in points),
            max(p[1] for p in points),
            self._edge(),
        )

    def _edge(self) -> float:
        """Room round the plan for lettering [px]: the walls' lengths, where the stage shows them, else
        little.
        """
        lines = self.stage.edge_lines if self.stage is not None else 1.0
        return min(
            10.0 + lines * 1.5 * self._lettering(), max(lines * 1.4 * self._lettering(), 0.15 * self.height())
        )

    def show_area(self, x0: float, y0: float, x1: float, y1: float, edge: float) -> None:
        """Zooms to a part of the plan [m], with an `edge` [px] round it for lettering."""
        wide, high = max(x1 - x0, 0.5), max(y1 - y0, 0.5)
        self.scale = max(5.0, min((self.width() - 2 * edge) / wide, (self.height() - 2 * edge) / high))
        cx, cy = (x0 + x1) / 2, (y0 + y1) / 2
        self.origin = QPointF(self.width() / 2 - cx * self.scale, self.height() / 2 + cy * self.scale)
        self.update()

    def look_at_picked(self) -> None:
        """Zooms to the picked thing or fixture."""
        item = self.desk.picked_body
        if item is not None:
            self._is_fitted = False
            self.show_area(item.x - 1.6, item.y - 1.6, item.x + 1.6, item.y + 1.6, 0.0)

    def to_plan(self, position: QPointF) -> tuple[float, float]:
        """Window pixels to plan metres."""
        return ((position.x() - self.origin.x()) / self.scale, (self.origin.y() - position.y()) / self.scale)

    def to_window(self, x: float, y: float) -> QPointF:
        """Plan metres to window pixels."""
        return QPointF(self.origin.x() + x * self.scale, self.origin.y() - y * self.scale)

    def resizeEvent(self, event: object) -> None:
        if not self._dragging:
            self.fit_again()

    # ---- hands

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        self.prompt.hide()
        position = event.position()
        if event.button() == Qt.MouseButton.MiddleButton or (
            event.button() == Qt.MouseButton.LeftButton
            and event.modifiers() & Qt.KeyboardModifier.AltModifier
        ):
            self._panning = position
            return
        if event.button() != Qt.MouseButton.LeftButton or self.stage is None:
            return
        x, y = self.to_plan(position)
        self._pressed_at = position
        self._grip = self.stage.grip_at(x, y)
        if self._grip is not None:
            self.desk.end_merge()
            return
        if self.stage.tool_press(x, y):
            self.tool_used.emit()
            self.update()
            return
        answers = self.bench.quick()
        item = item_at(answers, x, y, hands.GRAB / self.scale, fixtures=self.stage.takes_fixtures)
        self.desk.pick(item)
        self._grip = take(answers, item, x, y) if item else None
        self.desk.end_merge()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        position = event.position()
        if self._panning is not None:
            self._is_fitted = False
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
            self._hold(True)
            grip = self._grip
            px, py = x + grip.offset[0], y + grip.offset[1]
            self.desk.apply(lambda shop: grip.place(shop, px, py), grip.label, merge=f"drag {grip.item}")
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._panning = None
        self._grip = None
        self._pressed_at = None
        if self._dragging:
            self._hold(False)
            self.desk.end_merge()
        self.update()

    def _hold(self, on: bool) -> None:
        self._dragging = on
        self.bench.hold(on)

    def wheelEvent(self, event: QWheelEvent) -> None:
        self._zoom(event.position(), 1.0015 ** event.angleDelta().y())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if self.stage is not None and self.stage.tool_key(key, shift):
            self.tool_used.emit()
            self.update()
            return
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier and self._pan_by_key(key):
            return
        plain = not event.modifiers() & ~(
            Qt.KeyboardModifier.ShiftModifier | Qt.KeyboardModifier.KeypadModifier
        )
        if not plain or not self._handle_key(key, event.text(), shift):
            super().keyPressEvent(event)

    def _pan_by_key(self, key: int) -> bool:
        ways = {
            Qt.Key.Key_Left: (1, 0),
            Qt.Key.Key_Right: (-1, 0),
            Qt.Key.Key_Up: (0, 1),
            Qt.Key.Key_Down: (0, -1),
        }
        if key not in ways:
            return False
        dx, dy = ways[Qt.Key(key)]
        self._is_fitted = False
        self.origin += QPointF(dx * 60.0, dy * 60.0)
        self.update()
        return True

    def _zoom(self, spot: QPointF, factor: float) -> None:
        """Nearer or farther about a spot of the window."""
        before = self.to_plan(spot)
        self._is_fitted = False
        self.scale = min(600.0, max(10.0, self.scale * factor))
        self.origin += spot - self.to_window(*before)
        self.update()

    def _handle_key(self, key: int, text: str, shift: bool) -> bool:
        arrows = {
            Qt.Key.Key_Left: (-1, 0),
            Qt.Key.Key_Right: (1, 0),
            Qt.Key.Key_Up: (0, 1),
            Qt.Key.Key_Down: (0, -1),
        }
        if key == Qt.Key.Key_F:
            self.fit()
        elif text in ("+", "-"):
            self._zoom(QPointF(self.width() / 2, self.height() / 2), 1.25 if text == "+" else 0.8)
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
        elif key == Qt.Key.Key_R and self.desk.picked_body is not None:
            self._turn(15.0 if shift else 90.0)
        elif text and text in "0123456789='" and self._ask_length(text.strip("='")):
            pass
        else:
            return False
        return True

    def _pick_next(self, by: int) -> None:
        ids = self.stage.pickable() if self.stage is not None else []
        if not ids:
            return
        now = ids.index(self.desk.picked) if self.desk.picked in ids else -1 if by > 0 else 0
        self.desk.pick(ids[(now + by) % len(ids)])

    def _turn(self, by: float) -> None:
        item = self.desk.picked_body
        if isinstance(item, Thing):
            self.desk.apply(
                lambda shop: change(shop, item.id, angle=(item.angle + by) % 360), f"Turn {item.name}"
            )
        elif item is not None:
            self.desk.apply(
                lambda shop: put(shop, replace(item, angle=(item.angle + by) % 360)),
                f"Turn {item.name or item.kind}",
            )

    def _ask_length(self, text: str) -> bool:
        """A length typed on the plan: a tool's, or the picked item's distance from a wall.

        Bare digits need something in the hand.
        """
        choices = self.stage.tool_lengths() if self.stage is not None else []
        item = self.desk.picked_body
        spot = QPointF(self.width() / 2, self.height() / 2)
        if choices:
            spot = self.to_window(*self.pointer) if self.pointer is not None else spot
        elif item is not None and (self._dragging or not text):
            choices = self.wall_choices(item)
            spot = self.to_window(item.x, item.y)
        else:
            choices = []
        if not choices:
            return False
        self._grip = None
        self._hold(False)
        self.desk.end_merge()
        self.prompt.ask(spot, text, self.desk.shop.units, choices, self.pixels)
        return True

    def wall_choices(self, item: Thing | Fixture) -> list[Choice]:
        """The walls that an item's distance can be set from."""
        units = self.desk.shop.units

        def setter(wall: str) -> Callable[[float], None]:
            def act(distance: float) -> None:
                edit = hands.set_distance(item, self.bench.quick(), wall, distance)
                if edit is not None:
                    self.desk.apply(edit, f"Set {item.name or item.id} from wall {wall}")

            return act

        found = wall_distances(item, self.bench.quick().of(RoomAnswers).shell)
        return [
            Choice(wall, f"from wall {wall}, now {format_length(distance, units)}", setter(wall))
            for wall, distance, _, _ in found
        ]

    def _nudge(self, dx: int, dy: int, *, large: bool) -> None:
        shop = self.desk.shop
        step = hands.step_of(shop.units) * (10 if large else 1)
        item, answers = item_of(shop, self.desk.picked), self.bench.quick()
        if isinstance(item, Thing):  # by the step alone: nudging does not snap
            self.desk.apply(
                lambda s: move_thing(s, item.id, item.x + dx * step, item.y + dy * step),
                f"Nudge {item.name}",
                merge=f"nudge {item.id}",
            )
            return
        if isinstance(item, Fixture):
            x, y = item.x, item.y
        elif isinstance(item, Opening) and item.wall in answers.of(RoomAnswers).sides:
            x, y = answers.of(RoomAnswers).sides[item.wall].at(item.offset + item.width / 2)
        else:
            return
        grip = take(answers, item.id, x, y)
        if grip is not None:
            self.desk.apply(
                lambda s: grip.place(s, x + dx * step, y + dy * step), grip.label, merge=f"nudge {grip.item}"
            )


def _wrapped(sheet: Sheet, text: str, place: QRectF) -> None:
    """Words in the middle of a place, broken into lines, on a plate."""
    painter = sheet.painter
    painter.setFont(sheet.font(1.1))
    flags = int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap)
    pad = sheet.pixels
    box = painter.boundingRect(place.adjusted(pad, pad, -pad, -pad), flags, text)
    painter.setPen(sheet.pen(sheet.look.rule, 1))
    painter.setBrush(sheet.brush(sheet.look.sheet, 0.95))
    painter.drawRoundedRect(box.adjusted(-pad, -pad * 0.7, pad, pad * 0.7), 4, 4)
    painter.setPen(sheet.pen(sheet.look.ink))
    painter.drawText(box, flags, text)
