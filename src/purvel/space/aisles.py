"""Aisles: the widest disc that can roll from the entry door to where someone stands at a machine."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot

from purvel.libraries import Array, np, shapely
from purvel.shop import Fixture, Room, Thing
from purvel.space.clearances import HEAD_HEIGHT, polygon, span
from purvel.space.ground import floor, sides
from purvel.space.traverse import Point

CELL = 0.025  # m: the grid that aisles are searched on; widths are good to about 3 cm
ERROR = 0.03  # m: what a width may be off, measured against a grid four times as fine
_RIDGE = 0.35 * CELL  # m: how far the middle of a gap may lie off the grid, on the average of all slants
_STEP = 0.005  # m of radius from disc to disc
_THINNEST = 0.05  # m of radius: thinner than this nobody is
SQUEEZE = 0.61  # m; 24 in: a person can just squeeze through [trade practice]
ONE_PERSON = 0.914  # m; 36 in: one person walks freely [trade practice]
_WIDEST = 3.0  # m: nobody asks for more


@dataclass(frozen=True, slots=True)
class Aisle:
    """The way to one machine: the diameter [m] of the widest disc that gets there, 0 if nothing does, and where it is narrowest."""

    thing: str
    width: float
    narrowest: Point | None


def aisles(things: tuple[Thing, ...], room: Room) -> list[Aisle]:
    """The aisle to every thing that has standing room; none without an entry door or a closed room.

    The disc rolls in through the entry opening; what stands between the floor and head height is in its way; it has arrived when it covers the
    middle of the standing zone. Searched on a 2.5 cm grid of connected floor, so widths are good to about 3 cm.
    """
    walls = sides(room)
    inside = floor(room)
    doors = [opening for opening in room.openings if opening.entry and opening.wall in walls]
    if not doors or inside.is_empty:
        return []
    items: list[Thing | Fixture] = [*things, *(fixture for fixture in room.fixtures if fixture.is_body)]
    bodies = [polygon(item) for item in items if span(item)[0] < HEAD_HEIGHT and span(item)[1] > 0.02]
    gaps = [shapely.LineString([walls[door.wall].at(door.offset), walls[door.wall].at(door.offset + door.width)]) for door in doors]
    shell = inside.exterior.difference(shapely.union_all(gaps).buffer(1e-6))
    blocked = shapely.union_all([shell, *bodies])
    shapely.prepare(blocked)
    x0, y0, x1, y1 = inside.bounds
    xs, ys = np.arange(x0 - CELL, x1 + 2 * CELL, CELL), np.arange(y0 - CELL, y1 + 2 * CELL, CELL)
    gx, gy = np.meshgrid(xs, ys)
    points = shapely.points(gx, gy)
    clearance: Array = np.asarray(shapely.distance(points, blocked), dtype=float)
    solid = shapely.union_all(bodies)
    shapely.prepare(solid)
    clearance[shapely.intersects(solid, points)] = 0.0
    near_room = shapely.dwithin(points, inside, 2 * CELL)
    clearance[~near_room] = 0.0
    starts = [walls[door.wall].at(door.offset + door.width / 2) for door in doors]
    at_door = np.zeros_like(clearance, dtype=bool)
    for start in starts:
        to_start = np.hypot(gx - start[0], gy - start[1])
        at_door |= to_start <= max(CELL, float(to_start.min()) + 1e-9)
    goals = {thing.id: thing.spot(thing.stand.x, thing.stand.y) for thing in things if thing.stand is not None}
    return _widest(goals, clearance, at_door, gx, gy)


def _widest(goals: dict[str, Point], clearance: Array, at_door: Array, gx: Array, gy: Array) -> list[Aisle]:
    """Discs from wide to narrow, for all goals together; the first that covers a goal from floor that it can roll to is the goal's."""
    from scipy import ndimage  # slow to load: not before the first aisle

    away = {thing: np.hypot(gx - x, gy - y) for thing, (x, y) in goals.items()}
    found: dict[str, Aisle] = {}
    widest = min(_WIDEST / 2, float(clearance[at_door].max()) + _RIDGE)
    for radius in np.arange(widest, _THINNEST, -_STEP):
        labels, count = ndimage.label(clearance >= radius - _RIDGE, structure=np.ones((3, 3)))
        begun = np.zeros(count + 1, dtype=bool)
        begun[labels[at_door]] = True
        begun[0] = False
        rolled = begun[labels]
        for thing in goals.keys() - found.keys():
            if (rolled & (away[thing] <= radius)).any():
                found[thing] = Aisle(thing, 2 * float(radius), _narrowest(float(radius), clearance, gx, gy, goals[thing]))
        if len(found) == len(goals):
            break
    return [found.get(thing, Aisle(thing, 0.0, None)) for thing in goals]


def _narrowest(radius: float, clearance: Array, gx: Array, gy: Array, goal: Point) -> Point | None:
    """A point of free floor about as wide as the limit, the one nearest to the machine."""
    tight = np.abs(clearance - radius) < CELL / 2
    if not tight.any():
        return None
    index = np.flatnonzero(tight)[np.argmin(np.hypot(gx[tight] - goal[0], gy[tight] - goal[1]))]
    point = (float(gx.flat[index]), float(gy.flat[index]))
    return point if hypot(point[0] - goal[0], point[1] - goal[1]) < 20 else None
