"""Set-out: what is measured on the floor to mark where a thing goes, from one corner of it to two walls."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from math import cos, hypot, radians, sin

from purvel.libraries import np, shapely
from purvel.shop import AsBuilt, Fixture, Thing
from purvel.shop.as_built import Corner
from purvel.space.ground import footprint
from purvel.space.shell import PARALLEL, Shell, Side
from purvel.space.traverse import Point, turn_between

# as the worker sees them, in the order of a footprint's corners
CORNERS: tuple[Corner, ...] = ("front left", "front right", "back right", "back left")
IN_PLACE = 0.010  # m: what stands so near its place stands there; a tape on a floor reads no better [a guess]
TRUE = 0.5  # deg: and what is turned by so little [the same]
_MOST_CHECKS = 2  # straight readings that check a corner
# sine of the angle (45 deg) from which two walls cross well: an error of either reading grows by 1 / sin
_CROSSES_WELL = 0.707

_LEVEL = 1e-6  # m


@dataclass(frozen=True, slots=True)
class Measure:
    """The perpendicular distance [m] from the marked corner to a wall, and its foot there."""

    wall: str
    distance: float
    foot: Point


@dataclass(frozen=True, slots=True)
class Check:
    """A straight reading [m] from the marked corner to something that stands out: the jamb of an opening or
    the corner of what cannot move.
    """

    item: str
    distance: float
    to: Point


@dataclass(frozen=True, slots=True)
class SetOut:
    """The corner to mark, where it is, its distances to one or two walls, the nearest wall first, and
    straight readings that check it.
    """

    corner: Corner
    spot: Point
    measures: tuple[Measure, ...]
    checks: tuple[Check, ...] = ()


def set_out(item: Thing | Fixture, shell: Shell) -> SetOut | None:
    """The corner nearest to a wall, with its distance to that wall and to the nearest one that crosses it
    well, else the nearest not parallel to it, whose foot can be seen from the corner.

    Corners outside the room are not marked; None where no corner is inside or the room is open.
    """
    inside = shell.floor
    if inside.is_empty:
        return None
    seen_from = inside.buffer(1e-6)
    walls = shell.sides
    best: SetOut | None = None
    for name, (x, y) in zip(CORNERS, footprint(item)):
        measures = _measures((float(x), float(y)), walls, seen_from)
        if not measures:
            continue
        first = walls[measures[0].wall]
        across = [one for one in measures if not walls[one.wall].is_parallel(first)]
        well = [one for one in across if walls[one.wall].crossing(first) >= _CROSSES_WELL]
        found = SetOut(name, (float(x), float(y)), (measures[0], *(well or across)[:1]))
        if best is None or (len(found.measures), -found.measures[0].distance) > (
            len(best.measures),
            -best.measures[0].distance + 1e-9,
        ):
            best = found
    return None if best is None else replace(best, checks=_checks(best.spot, item, shell, seen_from))


def _checks(spot: Point, item: Thing | Fixture, shell: Shell, inside: shapely.Geometry) -> tuple[Check, ...]:
    """The nearest jambs and corners of posts that can be seen from a spot."""
    marks = [
        (opening.id, shell.sides[opening.wall].at(along))
        for opening in shell.room.openings
        if opening.wall in shell.sides
        for along in (opening.offset, opening.offset + opening.width)
    ]
    posts = [one for one in shell.room.fixtures if one.is_body and one.id != item.id]
    marks += [(one.id, (float(x), float(y))) for one in posts for x, y in footprint(one)]
    found = [Check(name, hypot(x - spot[0], y - spot[1]), (x, y)) for name, (x, y) in marks]
    seen: list[Check] = []
    for one in sorted(found, key=lambda check: (check.distance, check.item)):
        line = shapely.LineString([spot, one.to])
        if (
            one.distance > _LEVEL
            and shapely.covers(inside, line)
            and all(one.item != other.item for other in seen)
        ):
            seen.append(one)
        if len(seen) == _MOST_CHECKS:
            break
    return tuple(seen)


@dataclass(frozen=True, slots=True)
class Built:
    """Where a thing was found: its middle [m] and its angle [deg]; how far that is from where it is drawn,
    to its right and ahead of whoever works at it [m], and how much it is turned against that [deg].
    """

    x: float
    y: float
    angle: float
    right: float
    ahead: float
    turned: float

    @property
    def off(self) -> float:
        """How far it is from its place [m]."""
        return hypot(self.right, self.ahead)

    @property
    def in_place(self) -> bool:
        """Whether it stands where it is drawn, as near as a tape tells."""
        return self.off <= IN_PLACE and abs(self.turned) <= TRUE


def built(thing: Thing, reading: AsBuilt, shell: Shell) -> Built | None:
    """Where a reading says that a thing stands. Along a wall that was not read from, its corner is where it
    is drawn. None where the walls are not there or are parallel.
    """
    sides = [shell.sides.get(one.wall) for one in reading.distances]
    angle = thing.angle if reading.angle is None else reading.angle
    number = CORNERS.index(reading.corner)
    drawn = np.array(footprint(thing)[number])
    rows = [np.array(side.out) for side in sides if side is not None]
    if len(rows) < len(sides):
        return None
    wanted = [
        float(np.dot(side.start, side.out)) - one.distance
        for side, one in zip(sides, reading.distances)
        if side is not None
    ]
    if len(rows) < 2:  # along the wall, or in both ways, as drawn
        kept = [np.array([-rows[0][1], rows[0][0]])] if rows else [np.array([1.0, 0.0]), np.array([0.0, 1.0])]
        rows += kept
        wanted += [float(drawn @ row) for row in kept]
    if abs(np.linalg.det(np.array(rows))) < PARALLEL:
        return None
    corner = np.linalg.solve(np.array(rows), np.array(wanted))
    turned = replace(thing, angle=angle)
    x, y = corner - (np.array(footprint(turned)[number]) - (thing.x, thing.y))
    c, s = cos(radians(thing.angle)), sin(radians(thing.angle))
    dx, dy = float(x) - thing.x, float(y) - thing.y
    apart = turn_between(thing.angle, angle)
    return Built(float(x), float(y), angle % 360.0, c * dx + s * dy, c * dy - s * dx, apart)


def _measures(corner: Point, walls: Mapping[str, Side], inside: shapely.Geometry) -> list[Measure]:
    """To every wall whose foot lies on it and can be seen, the nearest first."""
    if not shapely.covers(inside, shapely.Point(corner)):
        return []
    found = []
    for side in walls.values():
        ahead = (corner[0] - side.start[0], corner[1] - side.start[1])
        along = ahead[0] * side.along[0] + ahead[1] * side.along[1]
        distance = -(ahead[0] * side.out[0] + ahead[1] * side.out[1])
        if -1e-9 <= along <= side.length + 1e-9 and distance >= -1e-6:
            foot = side.at(along)
            if distance < 1e-6 or shapely.covers(inside, shapely.LineString([corner, foot])):
                found.append(Measure(side.wall, max(0.0, distance), foot))
    return sorted(found, key=lambda one: one.distance)
