"""Set-out: what is measured on the floor to mark where a thing goes, from one corner of it to two walls."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from purvel.libraries import shapely
from purvel.shop import Fixture, Thing
from purvel.space.ground import footprint
from purvel.space.shell import Shell, Side
from purvel.space.traverse import Point

# as the worker sees them, in the order of a footprint's corners
CORNERS = ("front left", "front right", "back right", "back left")


@dataclass(frozen=True, slots=True)
class Measure:
    """The perpendicular distance [m] from the marked corner to a wall, and its foot there."""

    wall: str
    distance: float
    foot: Point


@dataclass(frozen=True, slots=True)
class SetOut:
    """The corner to mark, where it is, and its distances to one or two walls; the nearest wall first."""

    corner: str
    spot: Point
    measures: tuple[Measure, ...]


def set_out(item: Thing | Fixture, shell: Shell) -> SetOut | None:
    """The corner nearest to a wall, with its distance to that wall and to the nearest one not parallel to it
    whose foot can be seen from the corner.

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
        first = measures[0]
        across = [one for one in measures if not walls[one.wall].is_parallel(walls[first.wall])]
        found = SetOut(name, (float(x), float(y)), (first, *across[:1]))
        if best is None or (len(found.measures), -found.measures[0].distance) > (
            len(best.measures),
            -best.measures[0].distance + 1e-9,
        ):
            best = found
    return best


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
