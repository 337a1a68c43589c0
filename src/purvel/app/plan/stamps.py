"""What is drawn once and then again as it is: while something is dragged, all but that stays where it is."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPainter, QPicture, QPixmap

from purvel.app.plan.label_layout import Key, Label, LabelLayout

_WORTH = 4  # so many stamps in a row are worth a picture of their own


@dataclass(frozen=True, slots=True, eq=False)
class Stamp:
    """Something drawn once, to be drawn again where nothing about it changed: the lines, what words keep off,
    and its words that wait to be set.
    """

    lines: QPicture
    board: LabelLayout
    words: Sequence[Label]
    of: object  # kept, so that nothing else comes to have its identity


_Run = tuple[int, ...]
"""Stamps that follow each other, by identity."""


class Stamps:
    """The stamps of a view, from one frame to the next. While something is dragged, stamps that follow each
    other as in the frame before become one picture, which is drawn much faster.
    """

    def __init__(self) -> None:
        self._known: dict[Key, Stamp] = {}
        self._used: dict[Key, Stamp] = {}
        self._waiting: list[Stamp] = []
        self._runs: dict[_Run, QPixmap | None] = {}
        self._runs_used: dict[_Run, QPixmap | None] = {}
        self._joins = False

    def begin(self, *, joins: bool) -> None:
        """Begins a frame; what the last one did not use is forgotten."""
        self._known, self._used = self._used, {}
        self._runs, self._runs_used = self._runs_used, {}
        self._waiting.clear()
        self._joins = joins

    def take(self, painter: QPainter, key: Key, make: Callable[[], Stamp]) -> Stamp:
        """The stamp for a key, to be drawn now or before anything else is."""
        known = self._used.get(key) or self._known.get(key)
        stamp = known or make()
        self._used[key] = stamp
        if known is None or not self._joins:  # what is new would make all beside it new too
            self.flush(painter)
        self._waiting.append(stamp)
        if known is None or not self._joins:
            self.flush(painter)
        return stamp

    def flush(self, painter: QPainter) -> None:
        """Draws what waits."""
        waiting, self._waiting = self._waiting, []
        if len(waiting) < _WORTH:
            _draw(painter, waiting)
            return
        run = tuple(map(id, waiting))
        picture = self._runs.get(run)
        if picture is None and run in self._runs:
            picture = _picture(painter, waiting)
        self._runs_used[run] = picture
        if picture is None:
            _draw(painter, waiting)
        else:
            painter.drawPixmap(QPointF(0.0, 0.0), picture)


def _draw(painter: QPainter, stamps: Sequence[Stamp]) -> None:
    for one in stamps:
        painter.drawPicture(QPointF(0.0, 0.0), one.lines)


def _picture(painter: QPainter, stamps: Sequence[Stamp]) -> QPixmap:
    """The stamps on a clear page as large as the painter's."""
    device = painter.device()
    ratio = device.devicePixelRatioF()
    picture = QPixmap(round(device.width() * ratio), round(device.height() * ratio))
    picture.setDevicePixelRatio(ratio)
    picture.fill(Qt.GlobalColor.transparent)
    other = QPainter(picture)
    other.setRenderHints(painter.renderHints())
    _draw(other, stamps)
    other.end()
    return picture
