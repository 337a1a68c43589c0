"""A widget that is one drawing on a sheet of its own."""

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from purvel.app.plan.sheet import Sheet
from purvel.app.theme import Theme


class Picture(QWidget):
    """Draws with the theme's colours and text size, in pixels from the upper left corner."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        try:
            sheet = Sheet(painter, self.theme.palette, 1.0, QPointF(0, 0), self.theme.pixels)
            self.draw(sheet)
            sheet.set_labels()
        finally:
            painter.end()

    def draw(self, sheet: Sheet) -> None:
        """Draws what is to be seen."""

    def say_nothing_yet(self, sheet: Sheet, sentence: str) -> None:
        """What will appear here, where there is nothing to see yet."""
        sheet.painter.setFont(sheet.font(0.9))
        sheet.painter.setPen(sheet.pen(sheet.palette.pencil))
        flags = int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap)
        sheet.painter.drawText(self.rect().adjusted(10, 10, -10, -10), flags, sentence)
