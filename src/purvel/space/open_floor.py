"""The largest clear rectangle of floor, at any angle: room to put something together.

By search: a raster at many angles finds where large rectangles lie, and each of the best is then grown to the
millimetre. For a band of floor between two parallel lines the longest clear stretch is exact, so what is left
to search are the angle and the band's two edges.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import cos, radians, sin
from typing import TypeVar

from purvel.libraries import Array, Indices, Mask, np, shapely
from purvel.shop import Fixture, Thing
from purvel.space.clearances import HEAD_HEIGHT, span
from purvel.space.ground import footprints
from purvel.space.shell import Shell
from purvel.space.strips import extents
from purvel.space.traverse import Point
from purvel.stopping import go_on

_CELL, _CELLS = 0.08, 160  # m of the raster, and how many of them there are across at the most
_TURN = 5.0  # deg between angles that are tried beside those of walls and things
_MOST = 24  # angles of walls and things that are tried, the commonest first
_BEST = 12  # places that are looked at closely
_SHORT = 4 * _CELL  # m by which a side of a rough rectangle falls short at the most, and to spare
_FEW = 3  # angles, and places that are looked at closely, for what each thing costs
_NO_COST = 0.05  # m2: less is not told
_FAIR = 0.005  # m: to which they are grown for that
_FINE = 0.0005  # m and, as an arc of a metre, of angle: to which they are grown
_LEAST = 1e-9  # m
_BETTER, _MOST_ROUNDS = 1e-6, 400  # share by which a step must gain; steps
_OF_EACH = 3  # places that are kept of each angle
_TOGETHER = 16  # things, and places, that are tried at a time

T = TypeVar("T")


_Place = tuple[float, float, float]
"""A rectangle's angle [rad], and the edges of the band that it lies in [m]."""
_Rough = tuple[float, float, float, float]
"""Its area [m2], and these."""


@dataclass(frozen=True, slots=True)
class OpenFloor:
    """A rectangle of floor: its middle [m], how it is turned [deg], its length and its width [m]."""

    middle: Point
    angle: float
    length: float
    width: float

    @property
    def area(self) -> float:
        """[m2]"""
        return self.length * self.width

    @property
    def corners(self) -> list[Point]:
        """[m], counter-clockwise."""
        c, s = cos(radians(self.angle)), sin(radians(self.angle))
        half = ((-1, -1), (1, -1), (1, 1), (-1, 1))
        return [
            (
                self.middle[0] + c * a * self.length / 2 - s * b * self.width / 2,
                self.middle[1] + s * a * self.length / 2 + c * b * self.width / 2,
            )
            for a, b in half
        ]


def open_floor(shell: Shell, things: Sequence[Thing]) -> OpenFloor | None:
    """The largest clear rectangle of a closed room: clear of what reaches below head height; door swings and
    standing room do not count. None where there is no floor. Raises Stopped when nobody waits any more.
    """
    if shell.floor.is_empty:
        return None
    blocks, _ = _blocks(shell, things)
    return _largest(blocks, shell, _angles(shell, things))


def costs(shell: Shell, things: Sequence[Thing], found: OpenFloor | None) -> dict[str, float]:
    """How much larger the largest rectangle would be without each thing [m2], the dearest first; what costs
    nothing is left out. At the commonest angles only, and that of what was found: so it is never too much.
    """
    if shell.floor.is_empty:
        return {}
    few = _angles(shell, things, _FEW, turn=90.0)
    if found is not None:
        few = sorted({*few, radians(found.angle % 90.0)})
    now = 0.0 if found is None else found.area
    blocks, names = _blocks(shell, things)
    own = [k for k, name in enumerate(names) if name]
    rough = dict[int, list[_Rough]]((k, []) for k in own)
    for one in _rasters(blocks, shell, few):
        for some in _batched(own):
            cells, tall = _widest(one.without(np.array(some)))
            for k, most, high in zip(some, cells, tall):
                rough[k] += one.best(most, high)
    tried = [(k, place) for k in own for place in _promising(rough[k], _FEW, now + _NO_COST)]
    larger: dict[str, float] = {}
    for these in _batched(tried):
        which, places = np.array([k for k, _ in these]), np.array([place for _, place in these])
        for k, (area, *_) in zip(which, _grown(blocks, places, _FAIR, which)):
            if area > now + _NO_COST:
                larger[names[k]] = max(area - now, larger.get(names[k], 0.0))
    return dict(sorted(larger.items(), key=lambda pair: -pair[1]))


def _batched(all_of: list[T]) -> Iterator[list[T]]:
    """So many at a time that the arrays stay small."""
    return (all_of[k : k + _TOGETHER] for k in range(0, len(all_of), _TOGETHER))


def _promising(rough: list[_Rough], closely: int, least: float = 0.0) -> list[_Place]:
    """The best of some rough rectangles, so many at the most, that can be grown to more than an area [m2]."""
    return [
        (angle, low, high)
        for area, angle, low, high in sorted(rough, reverse=True)[:closely]
        if (area / (high - low) + _SHORT) * (high - low + _SHORT) > least
    ]


def _largest(blocks: Array, shell: Shell, angles: Sequence[float]) -> OpenFloor | None:
    """The largest rectangle at any of the angles [rad] and near them; None where there is none."""
    places = _promising(_roughly(list(_rasters(blocks, shell, angles))), _BEST)
    if not places:
        return None
    _, angle, low, high = max(_grown(blocks, np.array(places), _FINE))
    left, right = (float(one[0]) for one in _stretches(blocks, np.array([[angle, low, high]])))
    c, s = cos(angle), sin(angle)
    u, v = (left + right) / 2, (low + high) / 2
    long, wide = right - left, high - low
    turned = 0.0 if long >= wide else 90.0
    degrees = (np.degrees(angle) + turned) % 180.0
    return OpenFloor((c * u - s * v, s * u + c * v), float(degrees), max(long, wide), min(long, wide))


def _blocks(shell: Shell, things: Sequence[Thing]) -> tuple[Array, list[str]]:
    """What is not clear, as convex pieces (n, 4, 2) [m]: bodies, and what lies round the floor; of a triangle
    one corner stands twice. With them the ids of the things that they are, and "" for the rest.
    """
    bodies: list[Thing | Fixture] = [*things, *(one for one in shell.room.fixtures if one.is_body)]
    standing = [one for one in bodies if span(one)[0] < HEAD_HEIGHT and span(one)[1] > 0.0]
    low = [corners for slope in shell.slopes if np.ptp(corners := shell.under_slope(slope, HEAD_HEIGHT)) > 0]
    frame = shapely.box(*shell.floor.bounds).buffer(1.0, join_style="mitre")
    outside = shapely.constrained_delaunay_triangles(frame.difference(shell.floor))
    round_it = [shapely.get_coordinates(one) for one in shapely.get_parts(outside)]
    rest = np.concatenate([np.array(round_it), np.array(low).reshape(-1, 4, 2)])
    names = [one.id if isinstance(one, Thing) else "" for one in standing]
    return np.concatenate([rest, footprints(standing).reshape(-1, 4, 2)]), [*[""] * len(rest), *names]


def _angles(shell: Shell, things: Sequence[Thing], most: int = _MOST, turn: float = _TURN) -> list[float]:
    """The directions that are tried [rad], within a quarter turn: the commonest, and those a `turn` apart
    [deg].
    """
    told = [np.degrees(np.arctan2(side.along[1], side.along[0])) for side in shell.sides.values()]
    told += [one.angle for one in things] + [one.angle for one in shell.room.fixtures]
    common = Counter(round(float(one) % 90.0, 3) for one in told).most_common(most)
    return sorted({radians(one) for one in (*(angle for angle, _ in common), *np.arange(0.0, 90.0, turn))})


def _turned(blocks: Array, angle: Array | float) -> Array:
    """Pieces (n, 4, 2) as they lie along an angle [rad]; by each of some (K,) all of them (K, n, 4, 2)."""
    c, s = np.cos(angle), np.sin(angle)
    turn = np.stack([c, -s, s, c], axis=-1)
    return np.asarray(blocks @ turn.reshape(*turn.shape[:-1], *(1,) * (turn.ndim - 1), 2, 2))


@dataclass(frozen=True, slots=True, eq=False)
class _Raster:
    """The floor as cells, turned by an angle [rad]: which are of the floor's hull, and how many pieces come
    into each (up, across); from where to before where each piece takes them in each row (up, n); where each
    row begins, and how wide and high they are [m].
    """

    angle: float
    hull: Mask
    taken: Indices
    first: Indices
    last: Indices
    rows: Array
    wide: float
    high: float

    @classmethod
    def of(cls, blocks: Array, hull: Array, angle: float) -> _Raster:
        """The cells of a floor by the corners of its hull, and of what is not clear."""
        go_on()
        turned = _turned(blocks, angle)
        x0, y0 = turned.reshape(-1, 2).min(axis=0)
        x1, y1 = turned.reshape(-1, 2).max(axis=0)
        wide, high = (max(_CELL, float(size) / _CELLS) for size in (x1 - x0, y1 - y0))
        across, up = int((x1 - x0) / wide) + 1, int((y1 - y0) / high) + 1
        rows = y0 + high * np.arange(up)
        here, there = _extents(_turned(hull[None], angle), rows[:, None], rows[:, None] + high)
        columns = x0 + wide * np.arange(across)
        begin, end = _extents(turned, rows[:, None], rows[:, None] + high)
        first, last = np.floor((begin - x0) / wide + _LEAST), np.ceil((end - x0) / wide - _LEAST)
        first, last = (np.clip(one, 0, across).astype(int) for one in (first, last))
        band, piece = np.nonzero(last > first)
        taken = np.zeros((up, across + 1), dtype=int)
        np.add.at(taken, (band, first[band, piece]), 1)
        np.add.at(taken, (band, last[band, piece]), -1)
        within = (columns >= here - wide) & (columns <= there)
        return cls(angle, within, np.cumsum(taken, axis=1)[:, :-1], first, last, rows, wide, high)

    @property
    def clear(self) -> Mask:
        """The cells that nothing comes into."""
        return np.asarray(self.hull & (self.taken == 0))

    def without(self, pieces: Indices) -> Mask:
        """For each of some pieces (K,) the cells that nothing else comes into (K, up, across)."""
        columns = np.arange(self.hull.shape[1])
        first, last = (one[:, pieces].T[..., None] for one in (self.first, self.last))
        own = (first <= columns) & (columns < last)
        return np.asarray(self.hull & (self.taken == own))

    def best(self, cells: Indices, tall: Indices) -> list[_Rough]:
        """The best few of the largest rectangles with their lowest cells in each row: their cells, and how
        tall they are (up,).
        """
        return [
            (
                float(cells[row]) * self.wide * self.high,
                self.angle,
                float(self.rows[row]),
                float(self.rows[row]) + tall[row] * self.high,
            )
            for row in np.lexsort((tall, cells))[::-1][:_OF_EACH]
            if cells[row] > 0
        ]


def _rasters(blocks: Array, shell: Shell, angles: Sequence[float]) -> Iterator[_Raster]:
    hull = shapely.get_coordinates(shell.floor.convex_hull)[:-1]
    return (_Raster.of(blocks, hull, angle) for angle in angles)


def _roughly(rasters: Sequence[_Raster]) -> list[_Rough]:
    """The largest rectangles of clear cells at each angle, with their lower edge in different rows; the best
    few of each.
    """
    up, across = np.max([one.clear.shape for one in rasters], axis=0)
    clear = np.zeros((len(rasters), up, across), dtype=bool)
    for k, one in enumerate(rasters):
        clear[k, : one.clear.shape[0], : one.clear.shape[1]] = one.clear
    cells, tall = _widest(clear)
    return [place for one, most, high in zip(rasters, cells, tall) for place in one.best(most, high)]


def _widest(clear: Mask) -> tuple[Indices, Indices]:
    """The largest rectangle of clear cells whose lowest cells are in each row of some rasters (rasters, up,
    across): its cells, and how tall it is (rasters, up).

    It ends at some column above which no more cells are clear; so, from the top row down, all that is kept of
    each column is how many cells are clear above it, and between which columns as many are.

    >>> cells, tall = _widest(np.array([[[True, True, False], [True, True, True]]]))
    >>> cells.tolist(), tall.tolist()
    ([[4, 3]], [[2, 1]])
    """
    many, up, across = clear.shape
    columns = np.arange(across)
    begins = np.maximum.accumulate(np.where(clear, 0, columns + 1), axis=2)
    ends = np.minimum.accumulate(np.where(clear, across, columns)[..., ::-1], axis=2)[..., ::-1]
    tall, left = np.zeros((many, across), dtype=int), np.zeros((many, across), dtype=int)
    right, every = np.full((many, across), across), np.arange(many)
    most, high = np.zeros((many, up), dtype=int), np.zeros((many, up), dtype=int)
    for row in range(up - 1, -1, -1):
        here = clear[:, row]
        tall = np.where(here, tall + 1, 0)
        left = np.where(here, np.maximum(left, begins[:, row]), 0)
        right = np.where(here, np.minimum(right, ends[:, row]), across)
        cells = tall * (right - left)
        at = cells.argmax(axis=1)
        most[:, row], high[:, row] = cells[every, at], tall[every, at]
    return most, high


def _extents(pieces: Array, low: Array, high: Array) -> tuple[Array, Array]:
    """From where to where along x each piece (n, 4, 2) reaches within bands from `low` to `high`, which are
    (bands, 1) or plain; (inf, -inf) where it does not come into one.
    """
    low, high = (np.asarray(one, dtype=float)[..., None] for one in (low, high))
    x, y = pieces[..., 0], pieces[..., 1]
    begin, end = extents(x, y, low, high)
    touches = (y.max(axis=-1) <= low[..., 0] + _LEAST) | (y.min(axis=-1) >= high[..., 0] - _LEAST)
    return np.where(touches, np.inf, begin), np.where(touches, -np.inf, end)


def _stretches(blocks: Array, at: Array, without: Indices | None = None) -> tuple[Array, Array]:
    """The longest clear stretch of each band between two lines, from where to where along it [m]; exact. `at`
    (K, 3) are their angles [rad] and edges [m]; `without` (K,) the pieces that are left out of each.
    """
    angle, low, high = at.T
    begin, end = _extents(_turned(blocks, angle), low[:, None], high[:, None])
    if without is not None:
        each = np.arange(len(at))
        begin[each, without], end[each, without] = np.inf, -np.inf
    order = np.argsort(begin, axis=1)
    begin = np.take_along_axis(begin, order, axis=1)
    until = np.maximum.accumulate(np.take_along_axis(end, order, axis=1), axis=1)
    with np.errstate(invalid="ignore"):  # what comes into no band begins nowhere
        gaps = begin[:, 1:] - until[:, :-1]
    gaps = np.where(np.isfinite(gaps) & (high - low > _LEAST)[:, None], gaps, -np.inf)
    rows, best = np.arange(len(at)), gaps.argmax(axis=1)
    is_clear = gaps[rows, best] > 0
    return np.where(is_clear, until[rows, best], 0.0), np.where(is_clear, begin[rows, best + 1], 0.0)


def _grown(blocks: Array, at: Array, fine: float, without: Indices | None = None) -> list[_Rough]:
    """Rectangles grown from rough ones (P, 3) of an angle and the band's edges, each time by the best of some
    steps of these, which become ever smaller, down to a fine one; each `without` one of the pieces (P,).
    """

    def areas(at: Array, which: Indices) -> Array:
        left, right = _stretches(blocks, at, None if without is None else without[which])
        return np.asarray((right - left) * np.maximum(0.0, at[:, 2] - at[:, 1]))

    # the angle and both edges by themselves and together, either way
    some = [(0, 1, 0), (0, 0, 1), (0, 1, 1), (1, 0, 0), (1, 1, 1), (1, 1, -1), (0, 1, -1)]
    ways = np.concatenate([some, np.negative(some)])
    now, best, step = at.copy(), areas(at, np.arange(len(at))), np.full(len(at), _CELL)
    for _ in range(_MOST_ROUNDS):
        still = np.flatnonzero(step > fine)
        if not len(still):
            break
        go_on()
        tried = now[still, None] + step[still, None, None] * ways
        found = areas(tried.reshape(-1, 3), np.repeat(still, len(ways))).reshape(tried.shape[:2])
        which = found.argmax(axis=1)
        larger = found[np.arange(len(still)), which]
        gains = larger > best[still] * (1.0 + _BETTER)
        now[still[gains]] = tried[gains, which[gains]]
        best[still[gains]] = larger[gains]
        step[still[~gains]] /= 2
    return [(float(area), float(a), float(b), float(c)) for area, (a, b, c) in zip(best, now)]
