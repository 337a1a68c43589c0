"""The largest clear rectangle of floor, at any angle: room to put something together.

By search: a raster at many angles finds where large rectangles lie, and each of the best is then grown to the
millimetre. For a band of floor between two parallel lines the longest clear stretch is exact, so what is left
to search are the angle and the band's two edges.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, radians, sin

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
    return _largest(_blocks(shell, things), shell, _angles(shell, things), _BEST)


def costs(shell: Shell, things: Sequence[Thing], found: OpenFloor | None) -> dict[str, float]:
    """How much larger the largest rectangle would be without each thing [m2], the dearest first; what costs
    nothing is left out. At the commonest angles only, and that of what was found: so it is never too much.
    """
    few = _angles(shell, things, _FEW, turn=90.0)
    if found is not None:
        few = sorted({*few, radians(found.angle % 90.0)})
    now = 0.0 if found is None else found.area
    gained = {}
    for thing in things:
        go_on()
        if span(thing)[0] >= HEAD_HEIGHT or shell.floor.is_empty:
            continue
        rest = [one for one in things if one.id != thing.id]
        larger = _largest(_blocks(shell, rest), shell, few, _FEW, now + _NO_COST)
        if larger is not None:
            gained[thing.id] = larger.area - now
    return dict(sorted(gained.items(), key=lambda pair: -pair[1]))


def _largest(
    blocks: Array, shell: Shell, angles: Sequence[float], closely: int, least: float = 0.0
) -> OpenFloor | None:
    """The largest rectangle at any of the angles [rad] and near them; so many places are looked at closely.
    None where there is none of more than the `least` area [m2].
    """
    hull = shapely.get_coordinates(shell.floor.convex_hull)[:-1]
    rasters = [_Raster.of(blocks, hull, angle) for angle in angles]
    found = sorted(_roughly(rasters), reverse=True)[:closely]
    long_enough = [
        (angle, low, high)
        for rough, angle, low, high in found
        if (rough / (high - low) + _SHORT) * (high - low + _SHORT) > least  # else it cannot grow so far
    ]
    if not long_enough:
        return None
    best = max(_grown(blocks, np.array(long_enough), _FINE if least == 0.0 else _FAIR))
    area, angle, low, high = best
    if area <= least:
        return None
    left, right = (float(one[0]) for one in _stretches(blocks, np.array([[angle, low, high]])))
    c, s = cos(angle), sin(angle)
    u, v = (left + right) / 2, (low + high) / 2
    long, wide = right - left, high - low
    turned = 0.0 if long >= wide else 90.0
    degrees = (np.degrees(angle) + turned) % 180.0
    return OpenFloor((c * u - s * v, s * u + c * v), float(degrees), max(long, wide), min(long, wide))


def _blocks(shell: Shell, things: Sequence[Thing]) -> Array:
    """What is not clear, as convex pieces (n, 4, 2) [m]: bodies, and what lies round the floor; of a triangle
    one corner stands twice.
    """
    bodies: list[Thing | Fixture] = [*things, *(one for one in shell.room.fixtures if one.is_body)]
    standing = [one for one in bodies if span(one)[0] < HEAD_HEIGHT and span(one)[1] > 0.0]
    low = [corners for slope in shell.slopes if np.ptp(corners := shell.under_slope(slope, HEAD_HEIGHT)) > 0]
    frame = shapely.box(*shell.floor.bounds).buffer(1.0, join_style="mitre")
    outside = shapely.constrained_delaunay_triangles(frame.difference(shell.floor))
    round_it = [shapely.get_coordinates(one) for one in shapely.get_parts(outside)]
    return np.concatenate(
        [np.array(round_it), np.array(low).reshape(-1, 4, 2), footprints(standing).reshape(-1, 4, 2)]
    )


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
    """The floor as cells, turned by an angle [rad]: which are clear (up, across), where each row begins, and
    how wide and high they are [m].
    """

    angle: float
    clear: Mask
    rows: Array
    wide: float
    high: float

    @classmethod
    def of(cls, blocks: Array, hull: Array, angle: float) -> _Raster:
        """Cells are clear that nothing comes into, and that the floor's hull does."""
        go_on()
        turned = _turned(blocks, angle)
        x0, y0 = turned.reshape(-1, 2).min(axis=0)
        x1, y1 = turned.reshape(-1, 2).max(axis=0)
        wide, high = (max(_CELL, float(size) / _CELLS) for size in (x1 - x0, y1 - y0))
        across, up = int((x1 - x0) / wide) + 1, int((y1 - y0) / high) + 1
        rows = y0 + high * np.arange(up)
        here, there = _extents(_turned(hull[None], angle), rows[:, None], rows[:, None] + high)
        columns = x0 + wide * np.arange(across)
        clear = (columns >= here - wide) & (columns <= there)
        begin, end = _extents(turned, rows[:, None], rows[:, None] + high)
        first = np.floor((begin - x0) / wide + _LEAST)
        last = np.ceil((end - x0) / wide - _LEAST)
        band, piece = np.nonzero(last > first)
        taken = np.zeros((up, across + 1), dtype=int)
        np.add.at(taken, (band, np.clip(first[band, piece], 0, across).astype(int)), 1)
        np.add.at(taken, (band, np.clip(last[band, piece], 0, across).astype(int)), -1)
        return cls(angle, clear & (np.cumsum(taken, axis=1)[:, :-1] == 0), rows, wide, high)


def _roughly(rasters: Sequence[_Raster]) -> list[tuple[float, float, float, float]]:
    """The largest rectangles of clear cells at each angle, with their lower edge in different rows: area,
    angle and the band's edges; the best few of each.
    """
    up, across = np.max([one.clear.shape for one in rasters], axis=0)
    clear = np.zeros((len(rasters), up, across), dtype=bool)
    for k, one in enumerate(rasters):
        clear[k, : one.clear.shape[0], : one.clear.shape[1]] = one.clear
    cells, tall = _widest(clear)
    found = []
    for one, most, high in zip(rasters, cells, tall):
        for row in np.lexsort((high, most))[::-1][:_OF_EACH]:
            if most[row] > 0:
                low = float(one.rows[row])
                found.append(
                    (float(most[row]) * one.wide * one.high, one.angle, low, low + high[row] * one.high)
                )
    return found


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


def _stretches(blocks: Array, at: Array) -> tuple[Array, Array]:
    """The longest clear stretch of each band between two lines, from where to where along it [m]; exact. `at`
    (K, 3) are their angles [rad] and edges [m].
    """
    angle, low, high = at.T
    begin, end = _extents(_turned(blocks, angle), low[:, None], high[:, None])
    order = np.argsort(begin, axis=1)
    begin = np.take_along_axis(begin, order, axis=1)
    until = np.maximum.accumulate(np.take_along_axis(end, order, axis=1), axis=1)
    with np.errstate(invalid="ignore"):  # what comes into no band begins nowhere
        gaps = begin[:, 1:] - until[:, :-1]
    gaps = np.where(np.isfinite(gaps) & (high - low > _LEAST)[:, None], gaps, -np.inf)
    rows, best = np.arange(len(at)), gaps.argmax(axis=1)
    is_clear = gaps[rows, best] > 0
    return np.where(is_clear, until[rows, best], 0.0), np.where(is_clear, begin[rows, best + 1], 0.0)


def _grown(blocks: Array, at: Array, fine: float) -> list[tuple[float, float, float, float]]:
    """Rectangles grown from rough ones (P, 3) of an angle and the band's edges, each time by the best of some
    steps of these, which become ever smaller, down to a fine one: their area, angle and the band's edges.
    """

    def areas(at: Array) -> Array:
        left, right = _stretches(blocks, at)
        return np.asarray((right - left) * np.maximum(0.0, at[:, 2] - at[:, 1]))

    # the angle and both edges by themselves and together, either way
    some = [(0, 1, 0), (0, 0, 1), (0, 1, 1), (1, 0, 0), (1, 1, 1), (1, 1, -1), (0, 1, -1)]
    ways = np.concatenate([some, np.negative(some)])
    now, best, step = at.copy(), areas(at), np.full(len(at), _CELL)
    for _ in range(_MOST_ROUNDS):
        still = np.flatnonzero(step > fine)
        if not len(still):
            break
        go_on()
        tried = now[still, None] + step[still, None, None] * ways
        found = areas(tried.reshape(-1, 3)).reshape(tried.shape[:2])
        which = found.argmax(axis=1)
        larger = found[np.arange(len(still)), which]
        gains = larger > best[still] * (1.0 + _BETTER)
        now[still[gains]] = tried[gains, which[gains]]
        best[still[gains]] = larger[gains]
        step[still[~gains]] /= 2
    return [(float(area), float(a), float(b), float(c)) for area, (a, b, c) in zip(best, now)]
