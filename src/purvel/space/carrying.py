"""Carrying: whether a board or a sheet can be walked, held flat or on edge, from where it comes in to where
it is worked, and where it jams.

What is carried is a rectangle on the plan between two heights. For a span of headings, the places where its
middle may be are the floor less every obstacle grown by the rectangle swept through that span (a Minkowski
sum); from one span it turns into the next wherever both leave its middle free. The swept rectangle is never
smaller than the real one, so a way that is found is one (no false yes); the finer the spans, the nearer to
the limit a way is still found. A coarse search comes first: what it reaches needs no finer one. Nor does what
not even a hopeful one reaches, which grows the obstacles only by what the rectangle covers throughout a span.

A board turned end for end is the same board, so headings run over half a turn. Whoever carries it is not
looked at.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import lru_cache, partial
from itertools import pairwise
from math import ceil, hypot, pi

from purvel.libraries import Array, np, shapely
from purvel.once import once
from purvel.shop import Thing
from purvel.space.ground import Ground
from purvel.space.in_the_way import TOUCH, Bodies, Yard, bodies_for, yard
from purvel.space.loads import Load, Place, Start
from purvel.space.minkowski import core, grown, swept
from purvel.space.routes import FreeFloor
from purvel.space.shell import Shell
from purvel.space.traverse import Point
from purvel.stopping import go_on

REACH = 1.0  # m: the middle of what is carried comes as near as this to where one stands at the machine
COARSE = 24  # spans of heading in half a turn: 7.5 degrees
SLIP = 0.0075  # m that an end moves sideways within half a span of the fine search
_LEAST_SPANS, _MOST_SPANS = 48, 480  # of the fine search
_HANDS = 2  # threads that grow obstacles at a time; Shapely lets go of the interpreter meanwhile
_HAIR = 1e-4  # of a shape's size, by which it is smaller where it is looked for again
_TOGETHER = 3  # shapes that are cut away at a time
_GRID = 1e-5  # m: shapes are cut on points this far apart, and the load is taken larger by as much
_SPECK = 1e-8  # m2: smaller pieces of floor are rounding


@dataclass(frozen=True, slots=True)
class Setting:
    """Where something is carried: from where, in which room, among which things, which are on the plan."""

    start: Start
    shell: Shell
    things: tuple[Thing, ...]
    plan: Ground

    def laid_out(self, load: Load) -> tuple[Yard, Bodies] | None:
        """The floor that a load goes over and what is in its way; None where it cannot start."""
        ground = yard(self.shell, self.things, self.start, load)
        if ground is None:
            return None
        return ground, bodies_for(self.plan, ground, self.shell, load, self.start.item)


@dataclass(frozen=True, slots=True)
class Carried:
    """Whether it gets to a stop, and how: the places on its way, how far its middle goes [m] and how much it
    is turned [deg]; `tried` is the fine search that did not come there, if it took one to see that.
    """

    fits: bool
    way: tuple[Place, ...] = ()
    length: float = 0.0
    turned: float = 0.0
    tried: Search | None = None


@dataclass(frozen=True, eq=False)
class _Spans:
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

    def __init__(self, load: Load, ground: Yard, bodies: Bodies, spans: int, hopeful: bool) -> None:
        self.load, self.ground, self.bodies, self.spans, self.hopeful = load, ground, bodies, spans, hopeful
        floor, pieces = shapely.to_wkb(ground.floor), bodies.pieces.tobytes()
        self._key = (load.length, load.across, spans, hopeful, floor, pieces)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Sweep) and self._key == other._key

    def __hash__(self) -> int:
        return hash(self._key)


@lru_cache(maxsize=64)  # the same sheet goes to many stops
def _free(sweep: _Sweep) -> _Spans:
    load, spans = sweep.load, sweep.spans
    headings = np.arange(spans) * pi / spans
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
    return _Spans(spans, parts[kept], np.asarray(span)[kept])


@dataclass(frozen=True, eq=False)
class Search:
    """All that one search found: the free pieces, from which piece each was come to, and those begun from."""

    load: Load
    spans: _Spans
    came_from: Mapping[int, int | None]
    start: Point

    def reaches(self, stop: Point) -> list[int]:
        """The pieces that were come to within reach of a stop."""
        come = np.array(sorted(self.came_from), dtype=int)
        if not len(come):
            return []
        near = shapely.dwithin(self.spans.parts[come], shapely.Point(stop), REACH)
        return [int(part) for part in come[near]]


def search(load: Load, ground: Yard, bodies: Bodies, spans: int, hopeful: bool = False) -> Search:
    """Everywhere that it can be carried to, with headings in this many spans of half a turn; where it is
    hopeful, nowhere else can it be carried to. Raises Stopped when nobody waits any more.
    """
    go_on()
    free = _free(_Sweep(load, ground, bodies, spans, hopeful))
    begun = _begun(free, load, ground, hopeful)
    came: dict[int, int | None] = dict.fromkeys(begun)
    queue = deque(begun)
    while queue:
        part = queue.popleft()
        for other in free.joined[part]:
            if other not in came:
                came[other] = part
                queue.append(other)
    return Search(load, free, came, ground.start)


def _begun(free: _Spans, load: Load, ground: Yard, hopeful: bool) -> list[int]:
    """The pieces that it starts in: at the start with its heading; in the open also turned, or, where it does
    not fit there, near by.
    """
    if not len(free.parts):
        return []
    start = shapely.Point(ground.start)
    at = [int(i) for i in np.flatnonzero(shapely.dwithin(free.parts, start, TOUCH))]
    if ground.heading is not None:
        half = 90.0 / free.count + 1e-9
        return [i for i in at if _apart(free.heading(i), ground.heading) <= half]
    if at and not hopeful:
        return at
    return [int(i) for i in np.flatnonzero(shapely.dwithin(free.parts, start, load.length))]


def _apart(a: float, b: float) -> float:
    """Between two headings of something without a front [deg]."""
    return abs((a - b + 90.0) % 180.0 - 90.0)


def fine_spans(load: Load) -> int:
    """How many spans the fine search has, so that an end moves by `SLIP` within half of one."""
    return min(_MOST_SPANS, max(_LEAST_SPANS, ceil(pi * load.radius / (2 * SLIP))))


def carry(load: Load, setting: Setting, stops: Mapping[str, Point]) -> dict[str, Carried]:
    """Whether it can be carried to each stop, and how. Empty where the start lets nothing through."""
    laid = setting.laid_out(load)
    if laid is None:
        return dict.fromkeys(stops, Carried(False))
    ground, bodies = laid
    coarse = search(load, ground, bodies, COARSE)
    found = _arrived(coarse, stops)
    doubtful = {name: stops[name] for name in stops.keys() - found}
    doubtful = _hoped_for(load, ground, bodies, doubtful) if doubtful else {}
    fine = search(load, ground, bodies, fine_spans(load)) if doubtful else None
    if fine is not None:
        found |= _arrived(fine, doubtful)
    return {name: found.get(name, Carried(False, tried=fine)) for name in stops}


def _arrived(tried: Search, stops: Mapping[str, Point]) -> dict[str, Carried]:
    return {name: _way(tried, near, spot) for name, spot in stops.items() if (near := tried.reaches(spot))}


def _hoped_for(load: Load, ground: Yard, bodies: Bodies, stops: Mapping[str, Point]) -> dict[str, Point]:
    """The stops that it may be carried to; to the others it cannot."""
    hoped = search(load, ground, bodies, COARSE, hopeful=True)
    return {name: spot for name, spot in stops.items() if hoped.reaches(spot)}


def coarsely(load: Load, setting: Setting, stops: Mapping[str, Point]) -> dict[str, bool | None]:
    """Whether it can be carried to each stop, as far as coarse searches tell; None where that is in doubt."""
    laid = setting.laid_out(load)
    if laid is None:
        return dict.fromkeys(stops, False)
    ground, bodies = laid
    coarse = search(load, ground, bodies, COARSE)
    found: dict[str, bool | None] = {name: bool(coarse.reaches(spot)) for name, spot in stops.items()}
    left = {name: stops[name] for name, fits in found.items() if not fits}
    return found | dict.fromkeys(_hoped_for(load, ground, bodies, left) if left else ())


def finely(load: Load, setting: Setting, stops: Mapping[str, Point]) -> dict[str, bool]:
    """Whether it can be carried to each stop, by the fine search."""
    laid = setting.laid_out(load)
    if laid is None:
        return dict.fromkeys(stops, False)
    found = search(load, *laid, fine_spans(load))
    return {name: bool(found.reaches(spot)) for name, spot in stops.items()}


def _way(found: Search, near: Sequence[int], stop: Point) -> Carried:
    """The way with the fewest turns to one of the pieces near a stop, each stretch as short as it can be."""

    def trail(part: int) -> list[int]:
        steps: list[int] = []
        at: int | None = part
        while at is not None:
            steps.append(at)
            at = found.came_from[at]
        return steps[::-1]

    steps = min((trail(part) for part in near), key=len)
    parts = found.spans.parts
    places: list[Place] = []
    at = nearest_in(parts[steps[0]], found.start)
    length = 0.0
    for number, part in enumerate(steps):
        heading = found.spans.heading(part)
        if number + 1 < len(steps):
            goal = nearest_in(shapely.intersection(parts[part], parts[steps[number + 1]]), at)
        else:
            goal = nearest_in(parts[part], stop)
        way = FreeFloor(parts[part]).ways({"a": at, "b": goal}).get(("a", "b"))
        bends = (at, goal) if way is None else way.points
        length += hypot(goal[0] - at[0], goal[1] - at[1]) if way is None else way.length
        places.extend(Place(x, y, heading) for x, y in bends)
        at = goal
    headings = [found.spans.heading(part) for part in steps]
    turned = sum(_apart(a, b) for a, b in pairwise(headings))
    return Carried(True, tuple(dict.fromkeys(places)), length, turned)


def nearest_in(area: shapely.Geometry, to: Point) -> Point:
    point = shapely.Point(to)
    if shapely.covers(area, point):
        return to
    x, y = shapely.shortest_line(area, point).coords[0]
    return (x, y)
