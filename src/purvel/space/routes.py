"""Routes: the shortest ways over the free floor from one standing place to another.

The free floor is where the middle of a person may be: the room less all that stands between floor and head
height, everything kept half a body's width away. The shortest way there is a taut string: it bends only at
corners that stick out into the floor, and touches them. So it is found, exactly but for arcs drawn as short
chords, in the graph of those corners that see each other.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache
from itertools import permutations
from math import hypot

from purvel.libraries import Array, Indices, np, shapely
from purvel.once import once
from purvel.shop import Thing
from purvel.space.clearances import HEAD_HEIGHT, polygon
from purvel.space.ground import Footprint
from purvel.space.prepared import Prepared
from purvel.space.shell import Shell
from purvel.space.traverse import Point

BODY = 0.50  # m: the width of floor that one person walking takes [trade practice, confidence M]
BESIDE = 0.60  # m: a place that is taken is walked up to as near as this
_CHORDS = 3  # chords to a quarter circle round a corner: a way round it is at most 1 % too short there
_TOUCH = 1e-6  # m
_LEVEL = -1e-12  # m2: corners in one line with a string count as touched by it


@dataclass(frozen=True, slots=True)
class Way:
    """A way over the floor: its bends from start to end [m], and its length [m]."""

    points: tuple[Point, ...]
    length: float


class _Links:
    """Links between nodes that are gone both ways: nodes `reached` (k,) in rising order, those before them
    from `begin[i]` on in `source` (e,), and how far they are, `length` (e, 1) [m].
    """

    def __init__(self, first: Indices, second: Indices, length: Array) -> None:
        source, target = np.concatenate([first, second]), np.concatenate([second, first])
        order = np.argsort(target, kind="stable")
        self.reached, self.begin = np.unique(target[order], return_index=True)
        self.source, self.length = source[order], np.tile(length, 2)[order, None]

    def far(self, starts: int, count: int) -> Array:
        """How far it is from each of the first `starts` nodes to all `count` [m]; shape (count, starts).

        All lengths are handed on along all links at once until none gets shorter (Bellman and Ford): ways of
        people turn a few times only.
        """
        far = np.full((count, starts), np.inf)
        far[np.arange(starts), np.arange(starts)] = 0.0
        while len(self.reached):
            known = far[self.reached]
            handed = np.minimum.reduceat(far[self.source] + self.length, self.begin, axis=0)
            if (handed >= known).all():
                break
            far[self.reached] = np.minimum(handed, known)
        return far

    def before(self, node: int, far: Array) -> int:
        """The node before one on the shortest way there, by how far all are (m,) [m]."""
        place = int(np.searchsorted(self.reached, node))
        begin, *end = self.begin[place : place + 2].tolist()
        sources = self.source[slice(begin, *(end or [None]))]
        return int(sources[(far[sources] + self.length[begin:][: len(sources), 0]).argmin()])


class Ways(Mapping[tuple[str, str], Way]):
    """The ways from place to place by their names, in both orders; each is traced when it is asked for.

    `far` (m, n) [m] is how far it is from each of the n places to each of the m nodes (m, 2) [m], of which
    the places are the first.
    """

    def __init__(self, names: tuple[str, ...], far: Array, nodes: Array, links: _Links) -> None:
        self._number = {name: number for number, name in enumerate(names)}
        self._far, self._nodes, self._links = far, nodes, links
        self._traced: dict[tuple[str, str], Way] = {}

    def __getitem__(self, pair: tuple[str, str]) -> Way:
        if pair not in self._traced:
            if pair not in self:
                raise KeyError(pair)
            a, b = self._number[pair[0]], self._number[pair[1]]
            self._traced[pair] = Way(self._trace(a, b), max(float(self._far[b, a]), 0.0))
        return self._traced[pair]

    def _trace(self, start: int, end: int) -> tuple[Point, ...]:
        points = [end]
        while points[-1] != start:
            points.append(self._links.before(points[-1], self._far[:, start]))
        return tuple((float(x), float(y)) for x, y in self._nodes[points[::-1]])

    def __contains__(self, pair: object) -> bool:
        match pair:
            case (str(start), str(end)) if start in self._number and end in self._number and start != end:
                return bool(np.isfinite(self._far[self._number[end], self._number[start]]))
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
    def _seen_from(self) -> Prepared:
        """A hair wider, so that ways along its edge count as free."""
        return Prepared(shapely.buffer(self.area, _TOUCH, join_style="mitre"))

    @once
    def walked(self) -> Prepared:
        """All that a body covers where people walk."""
        return Prepared(shapely.buffer(self.area, BODY / 2))

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
    def _strings(self) -> tuple[Indices, Indices, Array]:
        """Pairs of corners with a taut string between them, and how long it is [m]."""
        spots, before, after = self.corners
        touches = _touches(spots[None] - spots[:, None], before - spots, after - spots)
        first, second = np.nonzero(np.triu(touches & touches.T, k=1))
        free = self._sees(spots[first], spots[second])
        first, second = first[free], second[free]
        return first, second, np.linalg.norm(spots[second] - spots[first], axis=1)

    def _sees(self, starts: Array, ends: Array) -> np.ndarray:
        lines = np.asarray(shapely.linestrings(np.stack([starts, ends], axis=1)))
        return self._seen_from.covers(lines)

    def nearest(self, stops: Mapping[str, Point]) -> dict[str, Point]:
        """Each stop itself where it is free, else the free point nearest to it; not where that is too far."""
        if shapely.is_empty(self.area) or not stops:
            return {}
        points = shapely.points(list(stops.values()))
        free = self._seen_from.covers(points)
        found: dict[str, Point] = {}
        for (name, (x, y)), point, is_free in zip(stops.items(), points, free.tolist()):
            if is_free:
                found[name] = (x, y)
                continue
            line = shapely.shortest_line(self.area, point)
            if line.length <= BESIDE:
                found[name] = (line.coords[0][0], line.coords[0][1])
        return found

    def ways(self, stops: Mapping[str, Point]) -> Ways:
        """The shortest way between any two of the stops, by their names in both orders.

        Pairs that nobody can walk between are left out. The stops must be on the free floor.
        """
        names = list(stops)
        if len(names) < 2:
            none = np.empty(0, dtype=int)
            return Ways((), none, none, _Links(none, none, none))
        spots, before, after = self.corners
        places = np.array([stops[name] for name in names], dtype=float)
        here, there, length = self._links(places, spots, before, after)
        first, second, taut = self._strings
        n = len(names)
        links = _Links(
            np.concatenate([here, first + n]),
            np.concatenate([there, second + n]),
            np.concatenate([length, taut]),
        )
        nodes = np.concatenate([places, spots])
        return Ways(tuple(names), links.far(n, len(nodes)), nodes, links)

    def _links(self, places: Array, spots: Array, before: Array, after: Array) -> tuple[Array, Array, Array]:
        """From each place straight to the others and to the corners it sees, numbered after them."""
        n = len(places)
        touches = _touches(spots[None] - places[:, None], before - spots, after - spots)
        here, corner = np.nonzero(touches)
        first, second = np.triu_indices(n, k=1)
        ends = np.concatenate([spots[corner], places[second]])
        here, there = np.concatenate([here, first]), np.concatenate([corner + n, second])
        free = self._sees(places[here], ends)
        length = np.linalg.norm(ends - places[here], axis=1)
        return here[free], there[free], np.maximum(length[free], 1e-12)


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


def _touches(along: Array, back: Array, ahead: Array) -> np.ndarray:
    """Whether strings in directions (m, n, 2) to each of n corners touch it without cutting it off; `back`
    and `ahead` (n, 2) lead from the corners to their neighbours.
    """
    return np.asarray(_cross(along, back) * _cross(along, ahead) >= _LEVEL)


def free_floor(shell: Shell, in_way: tuple[Footprint, ...], width: float = BODY) -> FreeFloor:
    """The floor on which the middle of a walker of this width [m] may be."""
    if shell.floor.is_empty:
        return FreeFloor(shapely.Polygon())
    bodies = [polygon(one) for one in in_way]
    taken = shapely.buffer(np.array(bodies, dtype=object), width / 2, quad_segs=_CHORDS)
    bare, low = _bare_floor(shell, width)
    return FreeFloor(shapely.difference(bare, shapely.union_all([*taken, *low])))


@lru_cache(maxsize=16)
def _bare_floor(shell: Shell, width: float) -> tuple[shapely.Geometry, list[shapely.Polygon]]:
    """Where the middle of a walker may be for the walls, and where it may not for low ceiling."""
    low = [shape.buffer(width / 2, quad_segs=_CHORDS) for shape in _under_slopes(shell)]
    return shell.floor.buffer(-width / 2, quad_segs=_CHORDS), low


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
    return floor.ways(floor.nearest(stops))


def standing_spot(thing: Thing) -> Point:
    """Where a person stands at a thing: in its standing room, or a step in front of it [m]."""
    if thing.stand is not None:
        return thing.spot(thing.stand.x, thing.stand.y)
    return thing.spot(0.0, -thing.depth / 2 - BODY / 2)


def detour(way: Way) -> float:
    """How much longer a way is than straight through [m]."""
    (ax, ay), (bx, by) = way.points[0], way.points[-1]
    return way.length - hypot(bx - ax, by - ay)
