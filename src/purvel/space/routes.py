"""Routes: the shortest ways over the free floor from one standing place to another.

The free floor is where the middle of a person may be: the room less all that stands between floor and head
height, everything kept half a body's width away. The shortest way there is a taut string: it bends only at
corners that stick out into the floor, and touches them. So it is found, exactly but for arcs drawn as short
chords, in the graph of those corners that see each other.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from itertools import permutations
from math import hypot

from purvel.libraries import Array, Indices, np, shapely
from purvel.once import once
from purvel.shop import Fixture, Thing
from purvel.space.clearances import HEAD_HEIGHT, polygon, span
from purvel.space.shell import Shell
from purvel.space.traverse import Point

BODY = 0.50  # m: the width of floor that one person walking takes [trade practice, confidence M]
LOW = 0.02  # m: what is lower is stepped on
BESIDE = 0.60  # m: a place that is taken is walked up to as near as this
_CHORDS = 3  # chords to a quarter circle round a corner: a way round it is at most 1 % too short there
_TOUCH = 1e-6  # m
_LEVEL = -1e-12  # m2: corners in one line with a string count as touched by it


@dataclass(frozen=True, slots=True)
class Way:
    """A way over the floor: its bends from start to end [m], and its length [m]."""

    points: tuple[Point, ...]
    length: float


class Ways(Mapping[tuple[str, str], Way]):
    """The ways from place to place by their names, in both orders; each is traced when it is asked for.

    `far` (n, m) [m] is how far it is from each of the n places to each of the m nodes (m, 2) [m], of which
    the places are the first; `previous` (n, m) is the node before on that way.
    """

    def __init__(self, names: tuple[str, ...], far: Array, previous: Indices, nodes: Array) -> None:
        self._number = {name: number for number, name in enumerate(names)}
        self._far, self._previous, self._nodes = far, previous, nodes
        self._traced: dict[tuple[str, str], Way] = {}

    def __getitem__(self, pair: tuple[str, str]) -> Way:
        if pair not in self._traced:
            if pair not in self:
                raise KeyError(pair)
            a, b = self._number[pair[0]], self._number[pair[1]]
            points = _trace(self._previous[a], a, b, self._nodes)
            self._traced[pair] = Way(points, max(float(self._far[a, b]), 0.0))
        return self._traced[pair]

    def __contains__(self, pair: object) -> bool:
        match pair:
            case (str(start), str(end)) if start in self._number and end in self._number and start != end:
                return bool(np.isfinite(self._far[self._number[start], self._number[end]]))
        return False

    def __iter__(self) -> Iterator[tuple[str, str]]:
        return (pair for pair in permutations(self._number, 2) if pair in self)

    def __len__(self) -> int:
        return sum(1 for _ in self)


@dataclass(frozen=True, eq=False)
class FreeFloor:
    """Where the middle of a person, or of a load, may be, with the corners that a way may bend at."""

    area: shapely.Geometry

    @once
    def _seen_from(self) -> shapely.Geometry:
        """A hair wider, so that ways along its edge count as free."""
        wide = shapely.buffer(self.area, _TOUCH, join_style="mitre")
        shapely.prepare(wide)
        return wide

    @once
    def walked(self) -> shapely.Geometry:
        """All that a body covers where people walk."""
        wide = shapely.buffer(self.area, BODY / 2)
        shapely.prepare(wide)
        return wide

    @once
    def corners(self) -> tuple[Array, Array, Array]:
        """Corners that stick out into the floor, and their neighbours before and after; each (n, 2)."""
        found = [_corners(ring) for part in shapely.get_parts(self.area) for ring in _rings(part)]
        if not found:
            empty: Array = np.zeros((0, 2))
            return empty, empty, empty
        spots, before, after = (np.concatenate(one) for one in zip(*found))
        return spots, before, after

    @once
    def _strings(self) -> tuple[Array, Array, Array]:
        """Pairs of corners with a taut string between them, and how long it is [m]."""
        spots, before, after = self.corners
        first, second = np.triu_indices(len(spots), k=1)
        along = spots[second] - spots[first]
        taut = _touches(spots, before, after, first, along) & _touches(spots, before, after, second, along)
        first, second = first[taut], second[taut]
        free = self._sees(spots[first], spots[second])
        first, second = first[free], second[free]
        return first, second, np.linalg.norm(spots[second] - spots[first], axis=1)

    def _sees(self, starts: Array, ends: Array) -> np.ndarray:
        lines = shapely.linestrings(np.stack([starts, ends], axis=1))
        return np.asarray(shapely.covers(self._seen_from, lines))

    def nearest(self, x: float, y: float, within: float = BESIDE) -> Point | None:
        """A point itself where it is free, else the free point nearest to it; None if that is too far."""
        here = shapely.Point(x, y)
        if shapely.is_empty(self.area):
            return None
        if shapely.covers(self._seen_from, here):
            return (x, y)
        line = shapely.shortest_line(self.area, here)
        spot = line.coords[0]
        return (spot[0], spot[1]) if line.length <= within else None

    def ways(self, stops: Mapping[str, Point]) -> Ways:
        """The shortest way between any two of the stops, by their names in both orders.

        Pairs that nobody can walk between are left out. The stops must be on the free floor.
        """
        names = list(stops)
        if len(names) < 2:
            return Ways((), np.empty((0, 0)), np.empty((0, 0), dtype=int), np.empty((0, 2)))
        spots, before, after = self.corners
        places = np.array([stops[name] for name in names], dtype=float)
        nodes = np.concatenate([places, spots])
        here, there, length = self._links(places, spots, before, after)
        first, second, taut = self._strings
        n = len(names)
        far, previous = _shortest(
            np.concatenate([here, first + n]),
            np.concatenate([there, second + n]),
            np.concatenate([length, taut]),
            n,
            len(nodes),
        )
        return Ways(tuple(names), far, previous, nodes)

    def _links(self, places: Array, spots: Array, before: Array, after: Array) -> tuple[Array, Array, Array]:
        """From each place straight to the others and to the corners it sees, numbered after them."""
        n, m = len(places), len(spots)
        here, corner = (one.ravel() for one in np.meshgrid(np.arange(n), np.arange(m), indexing="ij"))
        along = spots[corner] - places[here]
        taut = _touches(spots, before, after, corner, along)
        first, second = np.triu_indices(n, k=1)
        here, there = np.concatenate([here[taut], first]), np.concatenate([corner[taut] + n, second])
        ends = np.concatenate([spots[corner[taut]], places[second]])
        free = self._sees(places[here], ends)
        length = np.linalg.norm(ends - places[here], axis=1)
        return here[free], there[free], np.maximum(length[free], 1e-12)


def _shortest(first: Array, second: Array, length: Array, starts: int, count: int) -> tuple[Array, Indices]:
    """How far it is from each of the first `starts` nodes to all `count` [m], and the node before each on the
    way; shape (starts, count). All lengths are handed on along all edges at once until none gets shorter
    (Bellman and Ford): ways of people turn a few times only.
    """
    source, target = np.concatenate([first, second]), np.concatenate([second, first])
    order = np.argsort(target, kind="stable")
    source, target, length = source[order], target[order], np.tile(length, 2)[order]
    reached, begin = np.unique(target, return_index=True)
    far = np.full((starts, count), np.inf)
    far[np.arange(starts), np.arange(starts)] = 0.0
    while len(reached):
        handed = np.minimum.reduceat(far[:, source] + length, begin, axis=1)
        if not (handed < far[:, reached]).any():
            break
        far[:, reached] = np.minimum(far[:, reached], handed)
    previous = np.full((starts, count), -1)
    rows, edges = np.nonzero((far[:, source] + length == far[:, target]) & np.isfinite(far[:, source]))
    previous[rows, target[edges]] = source[edges]
    return far, previous


def _rings(part: shapely.Polygon) -> list[Array]:
    """The edge of a piece of floor and of its holes, with the floor on the left."""
    found = []
    for number, ring in enumerate((part.exterior, *part.interiors)):
        coordinates = np.asarray(ring.coords)[:-1]
        if ring.is_ccw != (number == 0):
            coordinates = coordinates[::-1]
        found.append(coordinates)
    return found


def _corners(ring: Array) -> tuple[Array, Array, Array]:
    before, after = np.roll(ring, 1, axis=0), np.roll(ring, -1, axis=0)
    turn = _cross(ring - before, after - ring)
    out = turn < _LEVEL
    return ring[out], before[out], after[out]


def _cross(a: Array, b: Array) -> Array:
    crossed: Array = a[..., 0] * b[..., 1] - a[..., 1] * b[..., 0]
    return crossed


def _touches(spots: Array, before: Array, after: Array, index: np.ndarray, along: Array) -> np.ndarray:
    """Whether strings in these directions touch their corner without cutting it off."""
    a, b = _cross(along, before[index] - spots[index]), _cross(along, after[index] - spots[index])
    return np.asarray(a * b >= _LEVEL)


def _trace(previous: Array, start: int, end: int, nodes: Array) -> tuple[Point, ...]:
    points = [end]
    while points[-1] != start:
        points.append(int(previous[points[-1]]))
    return tuple((float(x), float(y)) for x, y in nodes[points[::-1]])


def free_floor(shell: Shell, things: tuple[Thing, ...], width: float = BODY) -> FreeFloor:
    """The floor on which the middle of a walker of this width [m] may be."""
    if shell.floor.is_empty:
        return FreeFloor(shapely.Polygon())
    items: list[Thing | Fixture] = [*things, *(one for one in shell.room.fixtures if one.is_body)]
    in_way = [polygon(one) for one in items if span(one)[0] < HEAD_HEIGHT and span(one)[1] > LOW]
    taken = shapely.buffer(np.array(in_way, dtype=object), width / 2, quad_segs=_CHORDS)
    low = [shape.buffer(width / 2, quad_segs=_CHORDS) for shape in _under_slopes(shell)]
    inside = shell.floor.buffer(-width / 2, quad_segs=_CHORDS)
    return FreeFloor(inside.difference(shapely.union_all([*taken, *low])))


def _under_slopes(shell: Shell) -> list[shapely.Polygon]:
    """The floor over which a sloping ceiling is below head height."""
    found = []
    for slope in shell.room.ceiling.slopes:
        side, rise = shell.sides.get(slope.wall), shell.room.ceiling.height - slope.low
        if side is not None and slope.low < HEAD_HEIGHT and rise > 0:
            reach = slope.run * min(1.0, (HEAD_HEIGHT - slope.low) / rise)
            corners = (side.at(0.0), side.at(side.length))
            found.append(shapely.Polygon([*corners, side.at(side.length, -reach), side.at(0.0, -reach)]))
    return found


def walks(floor: FreeFloor, stops: Mapping[str, Point]) -> Ways:
    """The ways between stops, each moved to the nearest free floor; what is too far from it has none."""
    free = {name: floor.nearest(*spot) for name, spot in stops.items()}
    return floor.ways({name: spot for name, spot in free.items() if spot is not None})


def standing_spot(thing: Thing) -> Point:
    """Where a person stands at a thing: in its standing room, or a step in front of it [m]."""
    if thing.stand is not None:
        return thing.spot(thing.stand.x, thing.stand.y)
    return thing.spot(0.0, -thing.depth / 2 - BODY / 2)


def detour(way: Way) -> float:
    """How much longer a way is than straight through [m]."""
    (ax, ay), (bx, by) = way.points[0], way.points[-1]
    return way.length - hypot(bx - ax, by - ay)
