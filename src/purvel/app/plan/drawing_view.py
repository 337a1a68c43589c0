"""A drawing that can be panned, zoomed and taken hold of: what the plan and its siblings share.

A sibling says what there is to fit, draws it, and tells what lies under a point; scale, lettering, picking,
dragging and the keys that move the paper are here.
"""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import (
    QColor,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from purvel.app.plan.drag_handles import DragHandle
from purvel.app.plan.label_layout import Lettering
from purvel.app.plan.sheet import Sheet
from purvel.app.plan.stamps import Stamps
from purvel.app.reviews import Reviews
from purvel.app.theme import Theme
from purvel.app.workspace import Workspace
from purvel.space.traverse import Point

DRAG_START = 4  # px
PAN_STEP = 60.0  # px
_NEAREST = 3000.0  # px to the metre: a millimetre is three of them
ARROWS = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, 1),
    Qt.Key.Key_Down: (0, -1),
}


class DrawingView(QWidget):
    """A sheet of paper in the window."""

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__()
        self.workspace, self.reviews, self.theme = workspace, reviews, theme
        self.scale = 80.0
        self.origin = QPointF(60, 500)
        self.pointer: Point | None = None
        self._handle: DragHandle | None = None
        self._pressed_at: QPointF | None = None
        self._panning: QPointF | None = None
        self._dragging = False
        self._lettered: Lettering | None = None
        self._look: tuple[object, ...] = ()
        self._stamps = Stamps()
        self._is_fitted = True
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)  # nothing is painted below the paper
        self.setMinimumSize(200, 150)

    # ---- what a sibling says

    def extent(self) -> Sequence[Point]:
        """The points that are to be seen when all is [m]."""
        return ((0.0, 0.0), (6.0, 5.0))

    def edge(self) -> float:
        """Room to keep free round them for lettering [px]."""
        return 20.0

    def draw(self, sheet: Sheet) -> None:
        """Draws what is to be seen."""

    def draw_over(self, sheet: Sheet) -> None:
        """Draws what lies over all lettering."""

    def hover(self, x: float, y: float) -> None:
        """The pointer moved to a place [m]."""

    def press(self, x: float, y: float) -> bool:
        """A press that is not for picking; whether it was taken."""
        return False

    def handle_at(self, x: float, y: float) -> DragHandle | None:
        """A handle that lies bare at a place."""
        return None

    def item_under(self, x: float, y: float) -> str | None:
        """The id of what lies there."""
        return None

    def handle_for(self, item: str, x: float, y: float) -> DragHandle | None:
        """How an item is taken hold of at a place."""
        return None

    def pick_also(self, x: float, y: float) -> bool:
        """Whether what lies at a place was picked together with what is picked, or let go."""
        return False

    def take(self, item: str | None) -> None:
        """Picks what a click took hold of."""
        self.workspace.pick(item)

    def take_key(self, event: QKeyEvent) -> bool:
        """Whether a key was for what is drawn."""
        return False

    # ---- drawing

    @property
    def is_dragging(self) -> bool:
        """Whether something is in the hand."""
        return self._dragging

    def lettering(self) -> int:
        """Text on the drawing [px]: it has less room than the page."""
        return round(15 + 0.6 * (self.theme.pixels - 15))

    def sheet(self, painter: QPainter) -> Sheet:
        """A sheet for what is seen now."""
        look = (self.theme.palette, self.scale, self.origin.x(), self.origin.y(), self.lettering())
        if look != self._look:
            self._look, self._stamps, self._lettered = look, Stamps(), None
        self._stamps.begin()
        return Sheet(
            painter,
            self.theme.palette,
            self.scale,
            self.origin,
            self.lettering(),
            before=self._lettered,
            keeps=self._dragging,  # what does not move keeps its words where they are
            stamps=self._stamps,
        )

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        try:
            painter.fillRect(self.rect(), QColor(self.theme.palette.paper))
            sheet = self.sheet(painter)
            self.draw(sheet)
            sheet.set_labels()
            self._lettered = sheet.lettering
            self.draw_over(sheet)
            if self.hasFocus():
                painter.setPen(sheet.pen(self.theme.palette.accent, 2))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRect(self.rect().adjusted(1, 1, -1, -1))
        finally:
            painter.end()

    # ---- where the paper lies

    def to_plan(self, position: QPointF) -> Point:
        """Window pixels to metres."""
        return ((position.x() - self.origin.x()) / self.scale, (self.origin.y() - position.y()) / self.scale)

    def to_window(self, x: float, y: float) -> QPointF:
        """Metres to window pixels."""
        return QPointF(self.origin.x() + x * self.scale, self.origin.y() - y * self.scale)

    def sees(self, points: Sequence[Point]) -> bool:
        """Whether all of these are in the picture."""
        seen = QRectF(self.rect())
        return all(seen.contains(self.to_window(*point)) for point in points)

    def fit(self) -> None:
        """Shows all of it."""
        points = self.extent()
        xs, ys = [x for x, _ in points], [y for _, y in points]
        self._is_fitted = True
        self.show_area(min(xs), min(ys), max(xs), max(ys), self.edge())

    def fit_again(self) -> None:
        """Fits once more, unless the user looks at a part of their own choice."""
        if self._is_fitted:
            self.fit()
        self.update()

    def show_area(self, x0: float, y0: float, x1: float, y1: float, edge: float) -> None:
        """Zooms to a part [m], with an `edge` [px] round it for lettering."""
        wide, high = max(x1 - x0, 0.5), max(y1 - y0, 0.5)
        self.scale = max(5.0, min((self.width() - 2 * edge) / wide, (self.height() - 2 * edge) / high))
        cx, cy = (x0 + x1) / 2, (y0 + y1) / 2
        self.origin = QPointF(self.width() / 2 - cx * self.scale, self.height() / 2 + cy * self.scale)
        self.update()

    def look_near(self, x: float, y: float, reach: float = 1.6) -> None:
        """Zooms to a place [m], `reach` metres about it."""
        self._is_fitted = False
        self.show_area(x - reach, y - reach, x + reach, y + reach, 0.0)

    def zoom(self, spot: QPointF, factor: float) -> None:
        """Nearer or farther about a spot of the window."""
        before = self.to_plan(spot)
        self._is_fitted = False
        self.scale = min(_NEAREST, max(10.0, self.scale * factor))
        self.origin += spot - self.to_window(*before)
        self.update()

    def _pan(self, by: QPointF) -> None:
        self._is_fitted = False
        self.origin += by
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        if not self._dragging:
            self.fit_again()

    def wheelEvent(self, event: QWheelEvent) -> None:
        self.zoom(event.position(), 1.0015 ** event.angleDelta().y())

    # ---- hands

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        position, left = event.position(), event.button() == Qt.MouseButton.LeftButton
        with_alt = bool(event.modifiers() & Qt.KeyboardModifier.AltModifier)
        if event.button() == Qt.MouseButton.MiddleButton or (left and with_alt):
            self._panning = position
        elif left:
            shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            if shift and self.pick_also(*self.to_plan(position)):
                return
            self._pressed_at = position
            self._take_hold(*self.to_plan(position))

    def _take_hold(self, x: float, y: float) -> None:
        self._handle = self.handle_at(x, y)
        if self._handle is None and self.press(x, y):
            self.update()
            return
        if self._handle is None:
            item = self.item_under(x, y)
            self.take(item)
            self._handle = self.handle_for(item, x, y) if item else None
        self.workspace.end_merge()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        position = event.position()
        if self._panning is not None:
            self._pan(position - self._panning)
            self._panning = position
            return
        self.pointer = x, y = self.to_plan(position)
        self.hover(x, y)
        handle = self._handle
        if handle is not None and self._pressed_at is not None:
            if not self._dragging and (position - self._pressed_at).manhattanLength() < DRAG_START:
                return
            self.hold(True)
            px, py = x + handle.offset[0], y + handle.offset[1]
            merge = f"drag {handle.item}"
            self.workspace.apply(lambda shop: handle.place(shop, px, py), handle.label, merge=merge)
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._panning = None
        self._pressed_at = None
        self.let_go()
        self.update()

    def hold(self, on: bool) -> None:
        """Something is in the hand, or is not any more."""
        self._dragging = on
        self.reviews.hold(on)

    def let_go(self) -> None:
        """Opens the hand; what it did is one step."""
        self._handle = None
        if self._dragging:
            self.workspace.end_merge()
            self.hold(False)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        control = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        if self.take_key(event):
            return
        if control and event.key() in ARROWS:
            dx, dy = ARROWS[Qt.Key(event.key())]
            self._pan(QPointF(-dx * PAN_STEP, dy * PAN_STEP))
        elif not control and event.key() == Qt.Key.Key_F:
            self.fit()
        elif not control and event.text() in ("+", "-"):
            self.zoom(QPointF(self.width() / 2, self.height() / 2), 1.25 if event.text() == "+" else 0.8)
        else:
            super().keyPressEvent(event)
