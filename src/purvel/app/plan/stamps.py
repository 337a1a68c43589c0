"""What is drawn once and then again as it is: while something moves, all but that stays where it is."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
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
    parts: tuple[Key, ...] = ()  # the stamps that were drawn together, the lowest first
    image: QPixmap | None = field(default=None, init=False)  # the lines in dots, which are drawn much faster
    corner: QPoint = field(default_factory=QPoint, init=False)  # where the image lies


Part = tuple[Key, Callable[[], Stamp]]
"""The key of a stamp, and how it is made."""


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
        if known is None:
            painter.drawPicture(QPoint(0, 0), stamp.lines)
        else:
            image = _image_of(stamp, painter)
            painter.drawPixmap(stamp.corner, image)
        return stamp

    def draw_together(self, painter: QPainter, key: Key, parts: Callable[[], Iterable[Part]]) -> Stamp:
        """Draws several stamps one over the other; what is drawn together a second time becomes one image."""
        known = self._used.get(key) or self._known.get(key)
        if known is None:
            asked = list(parts())
            known = _joined(asked, [self.draw(painter, *part) for part in asked])
        else:
            made = [self._used.get(part) or self._known[part] for part in known.parts]
            self._used.update(zip(known.parts, made))
            if known.image is None:
                _join_images(known, made, painter)
            if known.image is not None:
                painter.drawPixmap(known.corner, known.image)
        self._used[key] = known
        return known


def _joined(parts: Sequence[Part], made: Sequence[Stamp]) -> Stamp:
    """What several stamps come to; their lines stay with them."""
    board, words = LabelLayout(), list[Label]()
    for one in made:
        board.take_over(one.board)
        words += one.words
    return Stamp(QPicture(), board, words, None, tuple(key for key, _ in parts))


def _join_images(stamp: Stamp, parts: Sequence[Stamp], painter: QPainter) -> None:
    """The images of all parts in one."""
    images = [_image_of(part, painter) for part in parts]
    box = QRect()
    for part, image in zip(parts, images):
        box |= QRect(part.corner, image.deviceIndependentSize().toSize())
    if box.isEmpty():
        return
    whole = _clear(box, painter)
    other = QPainter(whole)
    for part, image in zip(parts, images):
        other.drawPixmap(part.corner - box.topLeft(), image)
    other.end()
    stamp.image, stamp.corner = whole, box.topLeft()


def _clear(box: QRect, painter: QPainter) -> QPixmap:
    """A clear page for what lies in a box, on the dots that the painter would hit."""
    ratio = painter.device().devicePixelRatioF()
    image = QPixmap(max(1, round(box.width() * ratio)), max(1, round(box.height() * ratio)))
    image.setDevicePixelRatio(ratio)
    image.fill(Qt.GlobalColor.transparent)
    return image


def _image_of(stamp: Stamp, painter: QPainter) -> QPixmap:
    """The lines on a clear page as large as they need, made once."""
    if stamp.image is not None:
        return stamp.image
    device = painter.device()
    bounds = QRectF(stamp.lines.boundingRect())  # these leave out what is lettered
    for left, top, right, bottom in stamp.board.taken:
        bounds |= QRectF(left, top, right - left, bottom - top)
    box = bounds.toAlignedRect().adjusted(-_EDGE, -_EDGE, _EDGE, _EDGE)
    box = box.intersected(QRect(0, 0, device.width(), device.height()))
    image = _clear(box, painter)
    other = QPainter(image)
    other.setRenderHints(painter.renderHints())
    other.drawPicture(-box.topLeft(), stamp.lines)
    other.end()
    stamp.image, stamp.corner = image, box.topLeft()
    return image
