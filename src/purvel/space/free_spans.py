"""Where the middle of a rectangle may be on a floor among bodies: free pieces of floor, by its heading."""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import lru_cache, partial
from math import hypot, pi, radians

from purvel.libraries import Array, Indices, np, shapely
from purvel.once import once
from purvel.space.ground import rectangle
from purvel.space.in_the_way import Bodies, Yard
from purvel.space.loads import Load
from purvel.space.minkowski import core, grown, swept
from purvel.space.routes import FreeFloor
from purvel.space.traverse import Point

_HANDS = 2  # threads that grow obstacles at a time; Shapely lets go of the interpreter meanwhile
_HAIR = 1e-4  # of a shape's size, by which it is smaller where it is looked for again
_TOGETHER = 3  # shapes that are cut away at a time
_GRID = 1e-5  # m: shapes are cut on points this far apart, and the load is taken larger by as much
_SPECK = 1e-8  # m2: smaller pieces of floor are rounding


@dataclass(frozen=True, eq=False)
class FreeSpans:
    """Free pieces of floor for the middle, by span of heading; `span` (n,) says of which each is."""

    count: int
    parts: np.ndarray
    span: np.ndarray

    @once
    def joined(self) -> list[list[int]]:
        """For each piece the pieces of the next and the last span that it overlaps."""
        by_span = [np.flatnonzero(self.span == k) for k in range(self.count)]
        first, second = [], []
        for k in range(self.count):
            a, b = by_span[k], by_span[(k + 1) % self.count]
            pairs = np.stack(np.meshgrid(a, b, indexing="ij"), axis=-1).reshape(-1, 2)
            first.append(pairs[:, 0])
            second.append(pairs[:, 1])
        one, other = np.concatenate(first), np.concatenate(second)
        meet = np.asarray(shapely.intersects(self.parts[one], self.parts[other]))
        found: list[list[int]] = [[] for _ in self.parts]
        for a, b in zip(one[meet].tolist(), other[meet].tolist()):
            found[a].append(b)
            found[b].append(a)
        return found

    def heading(self, part: int) -> float:
        """The middle of a piece's span [deg]."""
        return float(self.span[part]) * 180.0 / self.count


def _less(floor: shapely.Geometry, corners: Array) -> np.ndarray:
    """The floor less every convex shape of a row: corners (rows, n, m, 2).

    An overlay of edges that nearly coincide can lose a shape, and would open a way that is none; so each is
    looked for again, a hair smaller, and where one is lost the row is cut on a grid, which is slow and sound.
    """
    shapes = np.asarray(shapely.polygons(corners))
    left = _cut(floor, shapes, None)
    middles = corners.mean(axis=2, keepdims=True)
    inner = np.asarray(shapely.polygons(middles + (1.0 - _HAIR) * (corners - middles)))
    shapely.prepare(left)
    lost = np.asarray(shapely.intersects(left[:, None], inner)).any(axis=1)
    if lost.any():
        left[lost] = _cut(floor, shapes[lost], _GRID)
    return left


def _cut(floor: shapely.Geometry, shapes: np.ndarray, grid: float | None) -> np.ndarray:
    """The floor less the shapes; on a grid if an overlay fails without."""
    try:
        return _cut_on(floor, shapes, grid)
    except shapely.GEOSException:
        return _cut_on(floor, shapes, _GRID)


def _cut_on(floor: shapely.Geometry, shapes: np.ndarray, grid: float | None) -> np.ndarray:
    """What takes most goes first, so that little is left to cut; a few at a time, which is fastest."""
    left = np.full(len(shapes), floor, dtype=object)
    most_first = np.argsort(-shapely.area(shapely.intersection(floor, shapes[len(shapes) // 2])))
    for first in range(0, len(most_first), _TOGETHER):
        some = shapes[:, most_first[first : first + _TOGETHER]]
        away = shapely.union_all(some, grid_size=grid, axis=1)
        left = shapely.difference(left, away, grid_size=grid)
    return left


class _Sweep:
    """A load that is carried over a floor among bodies, with headings in so many spans. It equals any other
    that sweeps the same, whatever it is and wherever it starts: its free pieces of floor are the same.
    """

    def __init__(
        self, load: Load, ground: Yard, bodies: Bodies, spans: int, hopeful: bool, some: int | None
    ) -> None:
        self.load, self.ground, self.bodies, self.spans, self.hopeful = load, ground, bodies, spans, hopeful
        self.some = some
        floor, pieces = shapely.to_wkb(ground.floor), bodies.pieces.tobytes()
        self._key = (load.length, load.across, spans, hopeful, some, floor, pieces)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Sweep) and self._key == other._key

    def __hash__(self) -> int:
        return hash(self._key)


def free_spans(
    load: Load, ground: Yard, bodies: Bodies, spans: int, hopeful: bool = False, some: int | None = None
) -> FreeSpans:
    """The free pieces of floor for the middle of a load, with headings in so many spans of half a turn, or in
    `some` of these, evenly apart; where it is hopeful, they are no smaller than those that are.
    """
    return _free(_Sweep(load, ground, bodies, spans, hopeful, some))


@lru_cache(maxsize=64)  # the same sheet goes to many stops
def _free(sweep: _Sweep) -> FreeSpans:
    load, spans = sweep.load, sweep.spans
    numbers = np.arange(spans) if sweep.some is None else evenly(spans, sweep.some)
    headings = numbers * pi / spans
    by = (
        core(max(load.length - 4 * _GRID, _GRID), max(load.across - 4 * _GRID, _GRID), spans)
        if sweep.hopeful
        else swept(load.length + 4 * _GRID, load.across + 4 * _GRID, spans)
    )
    corners = grown(sweep.bodies.pieces, by, headings)
    less = partial(_less, sweep.ground.floor)
    with ThreadPoolExecutor(_HANDS) as hands:
        free = np.concatenate(list(hands.map(less, np.array_split(corners, _HANDS))))
    parts, span = shapely.get_parts(free, return_index=True)
    kept = shapely.area(parts) > _SPECK
    return FreeSpans(spans, parts[kept], numbers[np.asarray(span)[kept]])


def evenly(spans: int, some: int) -> Indices:
    """The numbers of some spans of half a turn, as evenly apart as they can be."""
    return (2 * spans * np.arange(some) + some) // (2 * some)


def free_still(load: Load, ground: Yard, bodies: Bodies, heading: float, slack: float) -> np.ndarray:
    """The free pieces of floor for the middle of a load that keeps its heading [deg]; it is taken smaller by
    a slack [m].
    """
    shape = rectangle(0.0, 0.0, 0.0, load.length - slack, load.across - slack)
    corners = grown(bodies.pieces, shape, np.array([radians(heading)]))
    parts = shapely.get_parts(_less(ground.floor, corners))
    return np.asarray(parts[shapely.area(parts) > _SPECK])


def through(
    pieces: Sequence[shapely.Geometry], start: Point, stop: Point
) -> tuple[list[tuple[Point, ...]], float]:
    """A way through pieces of floor that overlap one after another, by its bends in each, and its length [m];
    in each piece it is the shortest to the next.
    """
    ways, length, at = list[tuple[Point, ...]](), 0.0, nearest_in(pieces[0], start)
    for number, piece in enumerate(pieces):
        onward = piece if number + 1 == len(pieces) else shapely.intersection(piece, pieces[number + 1])
        goal = nearest_in(onward, stop if number + 1 == len(pieces) else at)
        way = FreeFloor(piece).ways({"a": at, "b": goal}).get(("a", "b"))
        ways.append((at, goal) if way is None else way.points)
        length += hypot(goal[0] - at[0], goal[1] - at[1]) if way is None else way.length
        at = goal
    return ways, length


def nearest_in(area: shapely.Geometry, to: Point) -> Point:
    point = shapely.Point(to)
    if shapely.covers(area, point):
        return to
    x, y = shapely.shortest_line(area, point).coords[0]
    return (x, y)
