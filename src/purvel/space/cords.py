"""Cords: how a machine's cord runs to an outlet, along the walls, and where it would lie in people's way."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot

from purvel.libraries import Array, np, shapely
from purvel.shop import Thing
from purvel.shop.power import Outlet
from purvel.space.ground import footprints
from purvel.space.routes import FreeFloor
from purvel.space.shell import Shell, Side
from purvel.space.traverse import Point

SLACK = 0.5  # m more than its way, so that it does not pull [trade practice]
LEAVES = 0.3  # m above its base: where a cord leaves a machine [a guess]
STEP_OVER = 0.30  # m of walking floor that a cord may cross, hard by what it comes from


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


def cords(
    things: Sequence[Thing], outlets: Sequence[Outlet], shell: Shell, floor: FreeFloor
) -> dict[tuple[str, str], Cord]:
    """The best cord of each thing to each outlet: out of people's way first, then the shortest.

    It goes straight to a wall, along that to the outlet, and up; to an outlet overhead straight there. Bodies
    on its way are gone round or under, and are not looked at.
    """
    found: dict[tuple[str, str], Cord] = {}
    sides = list(shell.sides.values())
    if not sides or not things:
        return found
    shapes = np.asarray(shapely.polygons(footprints(things)))
    feet = np.array([[_foot(side, thing) for side in sides] for thing in things])
    legs = shapely.shortest_line(shapes[:, None], shapely.points(feet))
    across = np.asarray(shapely.length(shapely.intersection(legs, floor.walked)))
    ring = _Ring(sides, shell)
    for number, thing in enumerate(things):
        ends = [shapely.get_coordinates(leg) for leg in legs[number]]
        near = [_Near(side, leg, float(far)) for side, leg, far in zip(sides, ends, across[number])]
        for outlet in outlets:
            cord = _overhead(thing, outlet) if outlet.wall is None else _on_a_wall(thing, outlet, ring, near)
            if cord is not None:
                found[thing.id, outlet.id] = cord
    return found


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

    def __init__(self, side: Side, leg: Array, across: float) -> None:
        (x0, y0), (x1, y1) = leg.tolist()
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


def along_walls(a: Point, wall: str, offset: float, shell: Shell) -> float:
    """How far it is along the walls from the place nearest to a point to a place on a wall [m]."""
    sides = list(shell.sides.values())
    ring = _Ring(sides, shell)
    here = shapely.Point(a)
    near = min(sides, key=lambda side: shapely.LineString([side.start, side.end]).distance(here))
    foot = (a[0] - near.start[0]) * near.along[0] + (a[1] - near.start[1]) * near.along[1]
    start, end = ring.at(near.wall, max(0.0, foot)), ring.at(wall, offset)
    return min(ring.far(start, end), ring.far(end, start))
