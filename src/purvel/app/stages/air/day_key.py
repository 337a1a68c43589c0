"""What the patterns in the chart of the day stand for."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QBrush, QColor, QResizeEvent
from PySide6.QtWidgets import QSizePolicy

from purvel.app.plan.pens import text_size
from purvel.app.plan.sheet import Sheet
from purvel.app.theme import Palette, Theme
from purvel.app.widgets.picture import Picture
from purvel.roomair.day import Day

FACTOR, EDGE = 0.85, 10.0  # of the text's size; px
LINES = ("all dust", "cleaner runs")
GROUPS: tuple[tuple[str, tuple[int, ...]], ...] = (
    ("under 2.5 µm", (0, 1)),
    ("2.5 to 10 µm", (2,)),
    ("over 10 µm", (3,)),
)


def style(palette: Palette, name: str) -> tuple[str, Qt.BrushStyle]:
    return {
        "under 2.5 µm": (palette.air_fine, Qt.BrushStyle.SolidPattern),
        "2.5 to 10 µm": (palette.air_mid, Qt.BrushStyle.Dense3Pattern),
        "over 10 µm": (palette.air_coarse, Qt.BrushStyle.BDiagPattern),
    }[name]


def shade(colour: str, pattern: Qt.BrushStyle, alpha: int = 110) -> QBrush:
    tint = QColor(colour)
    tint.setAlpha(alpha)
    return QBrush(tint, pattern)


class DayKey(Picture):
    """The swatches, in as many rows as they need."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self._day: Day | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_day(self, day: Day | None) -> None:
        """The day that is explained."""
        self._day = day
        self.updateGeometry()
        self.update()

    def sizeHint(self) -> QSize:
        rows = max(row for _, row in self._places()) + 1
        return QSize(200, round(self.theme.pixels * 1.5 * rows))

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.updateGeometry()

    def _places(self) -> list[tuple[float, int]]:
        """Where each entry begins [px] and in which row it stands."""
        found: list[tuple[float, int]] = []
        x, row = EDGE, 0
        for name in (*(name for name, _ in GROUPS), *self._lines()):
            wide = self._swatch() + text_size(name, round(FACTOR * self.theme.pixels))[0]
            if x + wide > self.width() and x > EDGE:
                x, row = EDGE, row + 1
            found.append((x, row))
            x += wide + self.theme.pixels
        return found

    def _lines(self) -> tuple[str, ...]:
        cleaned = self._day is not None and any(stretch.cleaner_on for stretch in self._day.stretches)
        return LINES if cleaned else LINES[:1]

    def _swatch(self) -> float:
        return 1.8 * FACTOR * self.theme.pixels + 5.0

    def draw(self, sheet: Sheet) -> None:
        palette, painter = sheet.palette, sheet.painter
        places, size = self._places(), sheet.pixels * FACTOR
        high = self.height() / (places[-1][1] + 1)
        for (x, row), (name, _) in zip(places, GROUPS):
            y = (row + 0.5) * high
            colour, pattern = style(palette, name)
            painter.setPen(sheet.pen(colour, 2))
            painter.setBrush(shade(colour, pattern))
            painter.drawRect(QRectF(x, y - size / 2, size * 1.8, size))
            sheet.text(QPointF(x + self._swatch(), y), name, palette.ink, factor=FACTOR, centre=False)
        lines = zip(places[len(GROUPS) :], self._lines(), (palette.ink, palette.accent), (2.5, 5.0))
        for (x, row), name, colour, width in lines:
            y = (row + 0.5) * high
            painter.setPen(sheet.pen(colour, width))
            painter.drawLine(QPointF(x, y), QPointF(x + size * 1.8, y))
            sheet.text(QPointF(x + self._swatch(), y), name, palette.ink, factor=FACTOR, centre=False)
