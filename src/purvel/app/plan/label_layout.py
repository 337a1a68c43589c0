"""Lettering that keeps apart: words are collected while the plan is drawn, then each is set where it covers
least.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field

from PySide6.QtCore import QPointF, QRectF

from purvel.libraries import Array, np
from purvel.once import once

SKIP = 0.12  # share of a word that may be covered before it is left out, where it may be


@dataclass(frozen=True, slots=True)
class Spot:
    """A place for a word: its middle, whether it reads upwards, and the box that it should lie in, if any."""

    middle: QPointF
    upright: bool = False
    home: QRectF | None = None


@dataclass(frozen=True)
class Label:
    """Words to be set: `texts` are other ways to write the same, `spots` where it may go, the best first.

    `owner` is what it names, whose own body does not push it away. Where `must` is not set it may be left out
    of a crowd. `anchor` is what a thin line leads to if the word comes to lie away from it.
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
    then: Callable[[QRectF], None] | None = field(default=None, compare=False)

    @once
    def key(self) -> Key:
        """What tells it from others, and where it belongs: of one that stays there the place may be kept."""
        first = self.spots[0].middle if self.spots else QPointF()
        return self.texts, self.owner, self.rank, self.factor, self.bold, first.x(), first.y()


Key = tuple[object, ...]
Chosen = tuple[float, str, Spot] | None
"""How a label was set: its factor, text and spot; None where it was left out."""


def look_of(chosen: tuple[float, str, Spot]) -> Key:
    """What a label that was so set looks like."""
    factor, text, spot = chosen
    return factor, text, spot.middle.x(), spot.middle.y(), spot.upright


@dataclass(frozen=True, slots=True)
class Lettering:
    """How words were set: those that waited by rank, what they kept off, and what was chosen for each."""

    words: Sequence[Label]
    taken: Sequence[Edges]
    obstacles: Sequence[Obstacle]
    page: QRectF
    chosen: Sequence[Chosen] = field(default=(), compare=False)

    def by_key(self) -> dict[Key, Chosen]:
        """What was chosen for each, to be kept."""
        return {word.key: one for word, one in zip(self.words, self.chosen)}


@dataclass(frozen=True, slots=True)
class Obstacle:
    """A box that words keep off: what it belongs to and how badly a word on it reads."""

    box: QRectF
    weight: float
    owner: str = ""


class LabelLayout:
    """What words keep off: other words, obstacles, the page's edge.

    All boxes are weighed at once, for a crowd has hundreds.
    """

    def __init__(self) -> None:
        self.taken: list[Edges] = []  # where words lie
        self._weighed: Array | None = None  # those of them that were weighed already
        self._obstacles: list[Obstacle] = []
        self._fixed: tuple[Array, Array, Array] | None = None

    def wanted(self, words: Iterable[Label], page: QRectF) -> Lettering:
        """Words that are to be set on a page, by rank; nothing is chosen for them yet."""
        by_rank = tuple(sorted(words, key=lambda word: word.rank))
        return Lettering(by_rank, tuple(self.taken), tuple(self._obstacles), page)

    def take(self, box: QRectF) -> None:
        """A word lies here now."""
        self.taken.append(edges_of(box))

    def keep_clear(self, obstacle: Obstacle) -> None:
        """Words keep off this."""
        self._obstacles.append(obstacle)
        self._fixed = None

    def take_over(self, other: LabelLayout) -> None:
        """All that words keep off there."""
        self.taken += other.taken
        if other._obstacles:
            self._obstacles += other._obstacles
            self._fixed = None

    def costs(self, boxes: Sequence[Edges], homes: Sequence[Edges], owner: str, page: QRectF) -> list[float]:
        """How badly a word of an owner would read in each box: shares that lie on other words, on obstacles,
        out of its home or off the page.
        """
        if self._fixed is None:
            edges = np.array([edges_of(one.box) for one in self._obstacles]).reshape(-1, 4)
            self._fixed = (
                edges,
                np.array([one.weight for one in self._obstacles]),
                np.array([one.owner for one in self._obstacles], dtype=object),
            )
        places, weights, owners = self._fixed
        here = np.array(boxes)
        area = np.maximum(1.0, (here[:, 2] - here[:, 0]) * (here[:, 3] - here[:, 1]))
        total = 3.0 * _overlaps(here, self._words()).sum(axis=1)
        if len(weights):
            counts = np.where((owners == "") | (owners != owner), weights, 0.0)
            total = total + _overlaps(here, places) @ counts
        total = (
            total
            + 8.0 * (area - _overlaps(here, np.array([edges_of(page)]))[:, 0])
            + 1.5 * (area - _shared(here, np.array(homes)))
        )
        return [float(one) for one in total / area]

    def _words(self) -> Array:
        known = np.empty((0, 4)) if self._weighed is None else self._weighed
        if len(known) < len(self.taken):
            known = np.concatenate([known, np.array(self.taken[len(known) :])])
        self._weighed = known
        return known


Edges = tuple[float, float, float, float]
"""Left, top, right and bottom of a box."""


def edges_of(box: QRectF) -> Edges:
    """The edges of a box."""
    return box.left(), box.top(), box.right(), box.bottom()


def _shared(a: Array, b: Array) -> Array:
    """The area that boxes share, (..., 4) each."""
    wide = np.minimum(a[..., 2], b[..., 2]) - np.maximum(a[..., 0], b[..., 0])
    high = np.minimum(a[..., 3], b[..., 3]) - np.maximum(a[..., 1], b[..., 1])
    shared: Array = np.maximum(wide, 0.0) * np.maximum(high, 0.0)
    return shared


def _overlaps(a: Array, b: Array) -> Array:
    """The area that each of the first boxes shares with each of the second."""
    return _shared(a[:, None], b[None])


def around(box: QRectF, width: float, height: float, gap: float = 3.0) -> tuple[Spot, ...]:
    """Spots below, above, right and left of a box for a word of this size."""
    x, y = box.center().x(), box.center().y()
    return (
        Spot(QPointF(x, box.bottom() + height / 2 + gap)),
        Spot(QPointF(x, box.top() - height / 2 - gap)),
        Spot(QPointF(box.right() + width / 2 + gap + 2, y)),
        Spot(QPointF(box.left() - width / 2 - gap - 2, y)),
    )
