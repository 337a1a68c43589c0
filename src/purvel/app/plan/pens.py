"""Pens, brushes and lettering of the drawings, each made once."""

from functools import lru_cache

from PySide6.QtCore import Qt
from PySide6.QtGui import QBrush, QColor, QFont, QFontMetricsF, QPen

from purvel.app.theme import FAMILY


@lru_cache(maxsize=64)
def letters(pixels: int, bold: bool = False, tabular: bool = True) -> QFont:
    """Purvel's lettering at a size [px], with tabular figures; not on paper, where no PDF finds those."""
    font = QFont(FAMILY)
    font.setPixelSize(pixels)
    font.setWeight(QFont.Weight.Bold if bold else QFont.Weight.Normal)
    font.setFeature(QFont.Tag("tnum"), 1 if tabular else 0)  # 0: else the application's own comes through
    return font


@lru_cache(maxsize=4096)
def text_size(text: str, pixels: int, bold: bool = False) -> tuple[float, float]:
    """Width and height of a text of one or more lines [px]."""
    metrics = QFontMetricsF(letters(pixels, bold))
    lines = text.split("\n")
    return max(metrics.horizontalAdvance(line) for line in lines), metrics.height() * len(lines)


@lru_cache(maxsize=512)
def pen(colour: str, width: float, style: Qt.PenStyle, dashes: tuple[float, ...]) -> QPen:
    """A flat pen; `dashes` in units of its width."""
    made = QPen(QColor(colour), width, style, Qt.PenCapStyle.FlatCap, Qt.PenJoinStyle.MiterJoin)
    if dashes:
        made.setDashPattern(list(dashes))
    return made


@lru_cache(maxsize=256)
def brush(colour: str, alpha: float, style: Qt.BrushStyle) -> QBrush:
    """A brush, possibly hatched."""
    shade = QColor(colour)
    shade.setAlphaF(alpha)
    return QBrush(shade, style)


def shortened(text: str, font: QFont, width: float) -> str:
    """A text with an ellipsis in its middle where it is longer than `width` [px]; beginning and end tell it
    from others.
    """
    return QFontMetricsF(font).elidedText(text, Qt.TextElideMode.ElideMiddle, width)
