"""The drawing sheet: from metres to pixels, and pens as on a good hand drawing. Used for the window and for print alike."""

from collections.abc import Iterable, Sequence

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QFont, QFontMetricsF, QPainter, QPen, QPolygonF

from purvel.app.application import FAMILY
from purvel.app.theme import Look

Point = tuple[float, float]


class Sheet:
    """A painter with a scale: plan metres (y up) to device units (y down)."""

    def __init__(self, painter: QPainter, look: Look, scale: float, origin: QPointF, pixels: int) -> None:
        self.painter, self.look, self.scale, self.origin, self.pixels = painter, look, scale, origin, pixels
        self.taken: list[QRectF] = []

    def at(self, x: float, y: float) -> QPointF:
        """A plan point on the sheet."""
        return QPointF(self.origin.x() + x * self.scale, self.origin.y() - y * self.scale)

    def polygon(self, points: Iterable[Sequence[float]]) -> QPolygonF:
        """Plan points as a polygon on the sheet."""
        return QPolygonF([self.at(float(p[0]), float(p[1])) for p in points])

    def pen(self, colour: str, width: float = 1.0, style: Qt.PenStyle = Qt.PenStyle.SolidLine, dashes: Sequence[float] = ()) -> QPen:
        """A round pen; `dashes` in units of its width."""
        pen = QPen(QColor(colour), width, style, Qt.PenCapStyle.FlatCap, Qt.PenJoinStyle.MiterJoin)
        if dashes:
            pen.setDashPattern(list(dashes))
        return pen

    def brush(self, colour: str, alpha: float = 1.0, style: Qt.BrushStyle = Qt.BrushStyle.SolidPattern) -> QBrush:
        """A brush, possibly hatched."""
        shade = QColor(colour)
        shade.setAlphaF(alpha)
        return QBrush(shade, style)

    def fill(self, points: Iterable[Sequence[float]], brush: QBrush | None, pen: QPen | None) -> None:
        """Draws a polygon."""
        self.painter.setBrush(brush or QBrush(Qt.BrushStyle.NoBrush))
        self.painter.setPen(pen or QPen(Qt.PenStyle.NoPen))
        self.painter.drawPolygon(self.polygon(points))

    def line(self, points: Sequence[Sequence[float]], pen: QPen) -> None:
        """Draws a polyline."""
        self.painter.setPen(pen)
        self.painter.setBrush(QBrush(Qt.BrushStyle.NoBrush))
        self.painter.drawPolyline(self.polygon(points))

    def font(self, factor: float = 0.87, *, bold: bool = False) -> QFont:
        """The drawing's lettering, with tabular figures."""
        font = QFont(FAMILY)
        font.setPixelSize(max(9, round(self.pixels * factor)))
        font.setWeight(QFont.Weight.Bold if bold else QFont.Weight.Normal)
        font.setFeature(QFont.Tag("tnum"), 1)
        return font

    def text(
        self,
        where: QPointF,
        text: str,
        colour: str,
        *,
        factor: float = 0.87,
        bold: bool = False,
        plate: bool = False,
        centre: bool = True,
        apart: bool = False,
    ) -> QRectF:
        """Letters lines at a point on the sheet, on a plate of paper where asked for. Returns the box."""
        font = self.font(factor, bold=bold)
        metrics = QFontMetricsF(font)
        lines = text.split("\n")
        width = max(metrics.horizontalAdvance(line) for line in lines)
        height = metrics.height() * len(lines)
        box = QRectF(where.x() - (width / 2 if centre else 0), where.y() - height / 2, width, height)
        if apart:
            box = self._apart(box)
        if plate:
            self.painter.setPen(Qt.PenStyle.NoPen)
            self.painter.setBrush(self.brush(self.look.sheet, 0.88))
            self.painter.drawRoundedRect(box.adjusted(-4, -1, 4, 1), 3, 3)
        self.painter.setFont(font)
        self.painter.setPen(QColor(colour))
        flags = Qt.AlignmentFlag.AlignHCenter if centre else Qt.AlignmentFlag.AlignLeft
        self.painter.drawText(box.adjusted(-2, 0, 2, 0), int(flags | Qt.AlignmentFlag.AlignVCenter), text)
        return box

    def _apart(self, box: QRectF) -> QRectF:
        """The box moved up or down until it is clear of lettering set apart before."""
        for step in range(10):
            for sign in (1, -1):
                moved = box.translated(0, sign * step * box.height() * 0.55)
                if not any(moved.adjusted(-3, -1, 3, 1).intersects(other) for other in self.taken):
                    self.taken.append(moved)
                    return moved
        return box

    def measure(self, text: str, factor: float = 0.87) -> float:
        """How wide a line of text is [device units]."""
        return QFontMetricsF(self.font(factor)).horizontalAdvance(text)

    def dimension(self, a: Point, b: Point, text: str, colour: str) -> None:
        """A thin dimension line with ticks and its figure."""
        pa, pb = self.at(*a), self.at(*b)
        painter = self.painter
        painter.setPen(self.pen(colour, 1.2))
        painter.drawLine(pa, pb)
        dx, dy = pb.x() - pa.x(), pb.y() - pa.y()
        size = max((dx * dx + dy * dy) ** 0.5, 1e-6)
        nx, ny = -dy / size * 5 + dx / size * 5, dx / size * 5 + dy / size * 5
        for end in (pa, pb):
            painter.drawLine(QPointF(end.x() - nx, end.y() - ny), QPointF(end.x() + nx, end.y() + ny))
        self.text(QPointF((pa.x() + pb.x()) / 2, (pa.y() + pb.y()) / 2), text, colour, bold=True, plate=True)
