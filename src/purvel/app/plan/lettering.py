"""Lettering that keeps apart: words are collected while the plan is drawn, then each is set where it covers least."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF

SKIP = 0.12  # share of a word that may be covered before it is left out, where it may be


@dataclass(frozen=True, slots=True)
class Spot:
    """A place for a word: its middle, whether it reads upwards, and the box that it should lie in, if any."""

    middle: QPointF
    upright: bool = False
    home: QRectF | None = None


@dataclass(frozen=True, slots=True)
class Word:
    """Words to be set: `texts` are other ways to write the same, `spots` where it may go, the best first.

    `owner` is what it names, whose own body does not push it away. Where `must` is not set it may be left out of a crowd. `anchor` is what a thin line
    leads to if the word comes to lie away from it.
    """

    texts: tuple[str, ...]
    spots: tuple[Spot, ...]
    colour: str
    factor: float = 0.82
    bold: bool = False
    plate: bool = False
    rank: int = 1
    must: bool = True
    owner: str = ""
    anchor: QPointF | None = None
    then: Callable[[QRectF], None] | None = None


@dataclass(frozen=True, slots=True)
class Obstacle:
    """A box that words keep off: what it belongs to and how badly a word on it reads."""

    box: QRectF
    weight: float
    owner: str = ""


def _overlap(a: QRectF, b: QRectF) -> float:
    both = a.intersected(b)
    return max(0.0, both.width()) * max(0.0, both.height())


def cost(box: QRectF, spot: Spot, word: Word, taken: Sequence[QRectF], obstacles: Sequence[Obstacle], page: QRectF) -> float:
    """How badly a word would read in a box: shares of it that lie on other words, on obstacles, out of its home or off the page."""
    area = max(1.0, box.width() * box.height())
    total = 3.0 * sum(_overlap(box, other) for other in taken)
    total += sum(one.weight * _overlap(box, one.box) for one in obstacles if not one.owner or one.owner != word.owner)
    total += 8.0 * (area - _overlap(box, page))
    if spot.home is not None:
        total += 1.5 * (area - _overlap(box, spot.home))
    return total / area


def around(box: QRectF, width: float, height: float, gap: float = 3.0) -> tuple[Spot, ...]:
    """Spots below, above, right and left of a box for a word of this size."""
    x, y = box.center().x(), box.center().y()
    return (
        Spot(QPointF(x, box.bottom() + height / 2 + gap)),
        Spot(QPointF(x, box.top() - height / 2 - gap)),
        Spot(QPointF(box.right() + width / 2 + gap + 2, y)),
        Spot(QPointF(box.left() - width / 2 - gap - 2, y)),
    )
