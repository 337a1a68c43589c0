"""What is drawn once and then again as it is: while something moves, all but that stays where it is."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

from PySide6.QtCore import QPoint, QRect, QRectF, Qt
from PySide6.QtGui import QPainter, QPicture, QPixmap

from purvel.app.plan.label_layout import Key, Label, LabelLayout

_EDGE = 3  # px: what a wide pen may draw beyond the bounds that a picture gives


@dataclass(slots=True, eq=False)
class Stamp:
    """Something drawn once, to be drawn again where nothing about it changed: the lines, what words keep off,
    and its words that wait to be set.
    """

    lines: QPicture
    board: LabelLayout
    words: Sequence[Label]
    of: object  # kept, so that nothing else comes to have its identity
    image: QPixmap | None = field(default=None, init=False)  # the lines in dots, which are drawn much faster
    corner: QPoint = field(default_factory=QPoint, init=False)  # where the image lies


class Stamps:
    """The stamps of a view, from one frame to the next; what is drawn a second time becomes an image."""

    def __init__(self) -> None:
        self._known: dict[Key, Stamp] = {}
        self._used: dict[Key, Stamp] = {}

    def begin(self) -> None:
        """Begins a frame; what the last one did not use is forgotten."""
        self._known, self._used = self._used, {}

    def draw(self, painter: QPainter, key: Key, make: Callable[[], Stamp]) -> Stamp:
        """Draws the stamp for a key, made if it is not known."""
        known = self._used.get(key) or self._known.get(key)
        stamp = self._used[key] = known or make()
        if known is not None and stamp.image is None:
            _make_image(stamp, painter)
        if stamp.image is not None:
            painter.drawPixmap(stamp.corner, stamp.image)
        else:
            painter.drawPicture(QPoint(0, 0), stamp.lines)
        return stamp


def _make_image(stamp: Stamp, painter: QPainter) -> None:
    """The lines on a clear page as large as they need, on the dots that the painter would hit."""
    device = painter.device()
    bounds = QRectF(stamp.lines.boundingRect())  # these leave out what is lettered
    for left, top, right, bottom in stamp.board.taken:
        bounds |= QRectF(left, top, right - left, bottom - top)
    box = bounds.toAlignedRect().adjusted(-_EDGE, -_EDGE, _EDGE, _EDGE)
    box = box.intersected(QRect(0, 0, device.width(), device.height()))
    ratio = device.devicePixelRatioF()
    image = QPixmap(max(1, round(box.width() * ratio)), max(1, round(box.height() * ratio)))
    image.setDevicePixelRatio(ratio)
    image.fill(Qt.GlobalColor.transparent)
    other = QPainter(image)
    other.setRenderHints(painter.renderHints())
    other.drawPicture(-box.topLeft(), stamp.lines)
    other.end()
    stamp.image, stamp.corner = image, box.topLeft()
