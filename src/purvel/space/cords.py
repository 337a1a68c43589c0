"""Cords: how a machine's cord runs to an outlet, along the walls, and where it would lie in people's way."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot

from purvel.libraries import Array, np, shapely
from purvel.shop import Fixture, Thing
from purvel.shop.power import Circuit, Outlet
from purvel.space.ground import footprint
from purvel.space.prepared import Prepared
from purvel.space.routes import FreeFloor
from purvel.space.shell import Shell, Side
from purvel.space.traverse import Point

SLACK = 0.5  # m more than its way, so that it does not pull [trade practice]
LEAVES = 0.3  # m above its base: where a cord leaves a machine [a guess]
STEP_OVER = 0.30  # m of walking floor that a cord may cross, hard by what it comes from

Leg = tuple[Point, Point]


@dataclass(frozen=True, slots=True)
class Cord:
    """A cord from a thing to an outlet: how long it is [m], its way on the plan, how much of the floor where
    people walk it crosses [m], and the doors that it lies before.
    """

    thing: str
    outlet: str
    length: float
    points: tuple[Point, ...]
    across: float
    doors: tuple[str, ...]

    @property
    def is_in_the_way(self) -> bool:
        """Whether somebody will step on it or trip."""
        return bool(self.doors) or self.across > STEP_OVER


def outlet_spot(outlet: Outlet, shell: Shell) -> Point | None:
    """Where an outlet is on the plan [m]; None where its wall is not there."""
    if outlet.wall is None:
        return (outlet.x, outlet.y)
    side = shell.sides.get(outlet.wall)
    return None if side is None else side.at(min(outlet.offset, side.length))


def legs(thing: Thing, shell: Shell) -> tuple[Leg, ...]:
    """The straight legs of a cord from a thing to each wall of the room [m]."""
    feet = [_foot(side, thing) for side in shell.sides.values()]
    shape = shapely.polygons(footprint(thing))
    found = shapely.shortest_line(shape, shapely.points(feet))
    return tuple(
        ((x0, y0), (x1, y1))
        for (x0, y0), (x1, y1) in shapely.get_coordinates(found).reshape(-1, 2, 2).tolist()
    )


def crossed(all_legs: Sequence[Sequence[Leg]], floor: FreeFloor) -> list[list[float]]:
    """How much walking floor each of the legs of each thing crosses [m]."""
    lines = np.array(all_legs, dtype=float).reshape(-1, 2, 2)
    found: list[list[float]] = lengths_inside(lines, floor.walked).reshape(len(all_legs), -1).tolist()
    return found


def lengths_inside(lines: Array, area: Prepared) -> Array:
    """How much of each straight line (n, 2, 2) [m] lies in an area [m].

    Lines are cut where they cross its edges; what lies between two cuts is in it or not.
    """
    start, along = lines[:, :1], lines[:, 1:] - lines[:, :1]
    corners, ring = shapely.get_coordinates(
        shapely.get_rings(shapely.get_parts(area.shape)), return_index=True
    )
    follows = ring[:-1] == ring[1:]
    begin, edge = corners[:-1][follows], (corners[1:] - corners[:-1])[follows]
    with np.errstate(divide="ignore", invalid="ignore"):  # of lines along an edge
        across = _cross(along, edge)
        share, place = _cross(begin - start, edge) / across, _cross(begin - start, along) / across
        cuts = (place >= 0) & (place <= 1) & (share > 0) & (share < 1)
    most = int(cuts.sum(axis=1).max(initial=0))
    cut_at = np.sort(np.where(cuts, share, 1.0), axis=1)[:, :most]
    ends = np.pad(cut_at, ((0, 0), (1, 1)), constant_values=(0.0, 1.0))
    middle = start + (ends[:, 1:, None] + ends[:, :-1, None]) / 2 * along
    inside = area.holds(middle[..., 0], middle[..., 1])
    return np.asarray((np.diff(ends, axis=1) * inside).sum(axis=1) * np.hypot(*along[:, 0].T))


def _cross(a: Array, b: Array) -> Array:
    return np.asarray(a[..., 0] * b[..., 1] - a[..., 1] * b[..., 0])


def cords(
    thing: Thing, outlets: Sequence[Outlet], shell: Shell, legs: Sequence[Leg], across: Sequence[float]
) -> dict[str, Cord]:
    """The best cord of a thing to each outlet, by outlet: out of people's way first, then the shortest.
    `across` is how much walking floor each of its `legs` to the walls crosses [m].

    It goes straight to a wall, along that to the outlet, and up; to an outlet overhead straight there. Bodies
    on its way are gone round or under, and are not looked at.
    """
    sides = list(shell.sides.values())
    if not sides:
        return {}
    ring = _Ring(sides, shell)
    near = [_Near(side, leg, far) for side, leg, far in zip(sides, legs, across)]
    made = {
        outlet.id: _overhead(thing, outlet) if outlet.wall is None else _on_a_wall(thing, outlet, ring, near)
        for outlet in outlets
    }
    return {outlet: cord for outlet, cord in made.items() if cord is not None}


def _foot(side: Side, thing: Thing) -> Point:
    """The place on a wall that the middle of a thing is nearest to."""
    along = (thing.x - side.start[0]) * side.along[0] + (thing.y - side.start[1]) * side.along[1]
    return side.at(min(max(along, 0.0), side.length))


def _overhead(thing: Thing, outlet: Outlet) -> Cord:
    far = hypot(outlet.x - thing.x, outlet.y - thing.y) + abs(outlet.height - thing.z - LEAVES)
    return Cord(thing.id, outlet.id, far + SLACK, ((thing.x, thing.y), (outlet.x, outlet.y)), 0.0, ())


@dataclass(frozen=True, slots=True)
class _Way:
    """A way along the walls from a place on, how far [m], past which doors; turned where it is gone the other
    way.
    """

    start: float
    far: float
    doors: tuple[str, ...]
    is_turned: bool


class _Near:
    """The straight leg of a cord from a thing to a wall, and how much walking floor it crosses [m]."""

    def __init__(self, side: Side, leg: Leg, across: float) -> None:
        (x0, y0), (x1, y1) = leg
        self.wall, self.across, self.start = side.wall, across, (x0, y0)
        self.foot = (x1 - side.start[0]) * side.along[0] + (y1 - side.start[1]) * side.along[1]
        self.straight = hypot(x1 - x0, y1 - y0)

    def place(self, ring: _Ring) -> float:
        """How far along the walls it comes to them [m]."""
        return ring.at(self.wall, self.foot)


class _Ring:
    """The walls as one line round the room, by the distance walked along it [m]."""

    def __init__(self, sides: Sequence[Side], shell: Shell) -> None:
        self.sides = sides
        self.starts = np.concatenate([[0.0], np.cumsum([side.length for side in sides])])
        self.whole = float(self.starts[-1])  # once round [m]
        self.index = {side.wall: number for number, side in enumerate(sides)}
        self.doors = [
            (
                opening.id,
                self.at(opening.wall, opening.offset),
                self.at(opening.wall, opening.offset + opening.width),
            )
            for opening in shell.room.openings
            if opening.kind != "window" and opening.wall in self.index
        ]

    def at(self, wall: str, offset: float) -> float:
        """How far along a place on a wall is."""
        number = self.index[wall]
        return float(self.starts[number] + min(offset, self.sides[number].length))

    def far(self, a: float, b: float) -> float:
        """How far it is onwards from a to b."""
        return (b - a) % self.whole

    def way(self, a: float, b: float, *, is_turned: bool) -> _Way:
        """Onwards from a to b; turned if that is gone the other way."""
        far = self.far(a, b)
        doors = tuple(door for door, s, e in self.doors if self._is_between(a, far, s, e))
        return _Way(a, far, doors, is_turned)

    def points(self, way: _Way) -> tuple[Point, ...]:
        """The places on the plan that a way goes by."""
        corners = [s for s in self.starts[:-1] if 0 < (s - way.start) % self.whole < way.far]
        corners.sort(key=lambda s: (s - way.start) % self.whole)
        points = tuple(self.point(s) for s in (way.start, *corners, way.start + way.far))
        return points[::-1] if way.is_turned else points

    def _is_between(self, a: float, far: float, start: float, end: float) -> bool:
        """Whether a stretch shares more than a touch with the way from a onwards."""
        s, e = (start - a) % self.whole, (end - a) % self.whole
        return s < far - 1e-6 or (e < s and e > 1e-6)

    def point(self, s: float) -> Point:
        """The place on the plan."""
        s %= self.whole
        number = int(np.searchsorted(self.starts, s, side="right")) - 1
        return self.sides[min(number, len(self.sides) - 1)].at(s - float(self.starts[number]))


def _on_a_wall(thing: Thing, outlet: Outlet, ring: _Ring, near: Sequence[_Near]) -> Cord | None:
    """The best cord by way of any wall: out of people's way first, then the shortest."""
    if outlet.wall not in ring.index:
        return None
    goal = ring.at(outlet.wall or "", outlet.offset)
    level = abs(outlet.height - thing.z - LEAVES)
    tried = []
    for number, one in enumerate(near):
        up, here = outlet.height + thing.z + LEAVES if one.straight > STEP_OVER else level, one.place(ring)
        for a, b, is_turned in ((here, goal, False), (goal, here, True)):
            tried.append((one.straight + ring.far(a, b) + up + SLACK, number, is_turned, a, b))
    best: tuple[float, _Near, _Way] | None = None
    for length, number, is_turned, a, b in sorted(tried):
        one, way = near[number], ring.way(a, b, is_turned=is_turned)
        is_clear = not way.doors and one.across <= STEP_OVER
        if best is None or is_clear:
            best = (length, one, way)
        if is_clear:
            break
    if best is None:
        return None
    length, one, way = best
    return Cord(thing.id, outlet.id, length, (one.start, *ring.points(way)), one.across, way.doors)


def conductors_run(
    circuit: Circuit, outlets: Sequence[Outlet], panel: Fixture, height: float, shell: Shell
) -> float:
    """How far a circuit's conductors go from the panel up to the ceiling's `height` [m], along the walls and
    down to its farthest outlet [m]; 0 without any.
    """
    ways = [
        along_walls((panel.x, panel.y), one.wall or "", one.offset, shell)
        + (height - panel.top)
        + max(0.0, height - one.height)
        for one in outlets
        if one.circuit == circuit.id and one.wall in shell.sides
    ]
    return max(ways, default=0.0)


def along_walls(a: Point, wall: str, offset: float, shell: Shell) -> float:
    """How far it is along the walls from the place nearest to a point to a place on a wall [m]."""
    sides = list(shell.sides.values())
    ring = _Ring(sides, shell)
    here = shapely.Point(a)
    near = min(sides, key=lambda side: shapely.LineString([side.start, side.end]).distance(here))
    foot = (a[0] - near.start[0]) * near.along[0] + (a[1] - near.start[1]) * near.along[1]
    start, end = ring.at(near.wall, max(0.0, foot)), ring.at(wall, offset)
    return min(ring.far(start, end), ring.far(end, start))
