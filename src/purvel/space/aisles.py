"""Aisles: the widest disc that can roll from the entry door to where someone stands at a machine."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import cos, hypot, radians, sin, sqrt

from purvel.libraries import Array, np, shapely
from purvel.shop import Fixture, Thing
from purvel.space.clearances import HEAD_HEIGHT, span
from purvel.space.shell import TOUCH_AREA, Shell
from purvel.space.traverse import Point

_CELL = 0.025  # m: the grid that aisles are searched on
_CELLS = 400_000  # about as many at the most: in a hall the grid is coarser
_OFF = 1.2  # cells that a width may be off, measured against a grid four times as fine
_RIDGE = 0.35  # cells: how far the middle of a gap may lie off the grid, on the average of all slants
_STEP = 0.005  # m of radius from disc to disc
_THINNEST = 0.05  # m of radius: thinner than this nobody is
SQUEEZE = 0.61  # m; 24 in: a person can just squeeze through [trade practice]
ONE_PERSON = 0.914  # m; 36 in: one person walks freely [trade practice]
UNREACHED = 0.25  # m: through less than this nobody gets
_WIDEST = 3.0  # m: nobody asks for more


@dataclass(frozen=True, slots=True)
class Aisle:
    """The way to one machine: the diameter [m] of the widest disc that gets there, 0 if nothing does, how far
    it may be off, and where it is narrowest; where nobody squeezes through, what alone cuts it off, if one
    thing does.
    """

    thing: str
    width: float
    error: float
    narrowest: Point | None
    cut_off_by: str | None = None


@dataclass(frozen=True, slots=True, eq=False)
class Grid:
    """Points of the floor [m], how far each is from the walls (0 off the floor), which of them a disc starts
    from, and the step between them.
    """

    x: Array
    y: Array
    to_walls: Array
    at_door: Array
    cell: float


def aisles(things: tuple[Thing, ...], shell: Shell, grid: Grid | None) -> list[Aisle]:
    """The aisle to every thing that has standing room, on the room's grid; none without an entry door or a
    closed room.

    The disc rolls in through the entry opening; what stands between the floor and head height is in its way;
    it has arrived when it covers the middle of the standing zone. Searched on a 2.5 cm grid of connected
    floor, so widths are good to about 3 cm; coarser in a hall.
    """
    if grid is None:
        return []
    items: list[Thing | Fixture] = [*things, *(fixture for fixture in shell.room.fixtures if fixture.is_body)]
    in_the_way = [item for item in items if span(item)[0] < HEAD_HEIGHT and span(item)[1] > 0.02]
    away = [_distance_to(item, grid) for item in in_the_way]
    clearance = grid.to_walls.copy()
    for one in away:
        np.minimum(clearance, one, out=clearance)
    goals = {
        thing.id: thing.spot(thing.stand.x, thing.stand.y) for thing in things if thing.stand is not None
    }
    found = _widest(goals, clearance, grid)
    cut_off = {one.thing: goals[one.thing] for one in found if one.width < UNREACHED}
    if len(cut_off) < 2:
        return found
    culprits = _culprits(in_the_way, away, cut_off, grid)
    return [replace(one, cut_off_by=culprits.get(one.thing)) for one in found]


def _culprits(
    items: Sequence[Thing | Fixture], away: Sequence[Array], goals: dict[str, Point], grid: Grid
) -> dict[str, str]:
    """For each goal that is cut off the one thing without which a person would squeeze through to it; of
    several the one that cuts off most.
    """
    from scipy import ndimage

    ahead = [grid.to_walls]  # the clearance left by all items before each
    for one in away:
        ahead.append(np.minimum(ahead[-1], one))
    behind, freed = np.full_like(grid.to_walls, np.inf), dict[str, set[str]]()
    radius = SQUEEZE / 2
    for item, before, own in reversed(list(zip(items, ahead, away))):
        labels, count = ndimage.label(np.minimum(before, behind) >= radius, structure=np.ones((3, 3)))
        begun = np.zeros(count + 1, dtype=bool)
        begun[labels[grid.at_door]] = True
        begun[0] = False
        rolled = begun[labels]
        freed[item.id] = {
            name
            for name, (x, y) in goals.items()
            if name != item.id and (rolled & (np.hypot(grid.x - x, grid.y - y) <= radius)).any()
        }
        behind = np.minimum(behind, own)
    worst_first = sorted(freed, key=lambda one: -len(freed[one]))
    return {
        name: next(one for one in worst_first if name in freed[one]) for name in set().union(*freed.values())
    }


def aisle_grid(shell: Shell) -> Grid | None:
    """The grid on which a room's aisles are searched, whatever stands in it; None without an entry door or a
    closed room.
    """
    walls, inside = shell.sides, shell.floor
    doors = [opening for opening in shell.room.openings if opening.entry and opening.wall in walls]
    if not doors or inside.is_empty:
        return None
    x0, y0, x1, y1 = inside.bounds
    cell = max(_CELL, sqrt((x1 - x0) * (y1 - y0) / _CELLS))
    gx, gy = np.meshgrid(np.arange(x0 - cell, x1 + 2 * cell, cell), np.arange(y0 - cell, y1 + 2 * cell, cell))
    gaps = [
        shapely.LineString([walls[door.wall].at(door.offset), walls[door.wall].at(door.offset + door.width)])
        for door in doors
    ]
    edge = inside.exterior.difference(shapely.union_all(gaps).buffer(1e-6))
    shapely.prepare(edge)
    points = shapely.points(gx, gy)
    to_walls: Array = np.asarray(shapely.distance(points, edge), dtype=float)
    to_walls[~shapely.dwithin(points, inside, 2 * cell)] = 0.0
    for slope in shell.slopes:  # nobody walks where the ceiling is lower than a head
        low = shapely.Polygon(shell.under_slope(slope, HEAD_HEIGHT))
        if low.area > TOUCH_AREA:
            shapely.prepare(low)
            np.minimum(to_walls, np.asarray(shapely.distance(points, low)), out=to_walls)
    at_door = np.zeros_like(to_walls, dtype=bool)
    for door in doors:
        x, y = walls[door.wall].at(door.offset + door.width / 2)
        away = np.hypot(gx - x, gy - y)
        at_door |= away <= max(cell, float(away.min()) + 1e-9)
    return Grid(gx, gy, to_walls, at_door, cell)


def _distance_to(item: Thing | Fixture, grid: Grid) -> Array:
    """How far each point is from a footprint [m], 0 in it."""
    c, s = cos(radians(item.angle)), sin(radians(item.angle))
    dx, dy = grid.x - item.x, grid.y - item.y
    across = np.maximum(np.abs(c * dx + s * dy) - item.width / 2, 0.0)
    along = np.maximum(np.abs(c * dy - s * dx) - item.depth / 2, 0.0)
    return np.asarray(np.hypot(across, along))


def _widest(goals: dict[str, Point], clearance: Array, grid: Grid) -> list[Aisle]:
    """Discs from wide to narrow, for all goals together; the first that covers a goal from floor that it can
    roll to is the goal's.
    """
    from scipy import ndimage  # slow to load: not before the first aisle

    away = {thing: np.hypot(grid.x - x, grid.y - y) for thing, (x, y) in goals.items()}
    found: dict[str, Aisle] = {}
    ridge, error = _RIDGE * grid.cell, _OFF * grid.cell
    widest = min(_WIDEST / 2, float(clearance[grid.at_door].max()) + ridge)
    for radius in np.arange(widest, _THINNEST, -_STEP):
        labels, count = ndimage.label(clearance >= radius - ridge, structure=np.ones((3, 3)))
        begun = np.zeros(count + 1, dtype=bool)
        begun[labels[grid.at_door]] = True
        begun[0] = False
        rolled = begun[labels]
        for thing in goals.keys() - found.keys():
            if (rolled & (away[thing] <= radius)).any():
                found[thing] = Aisle(
                    thing, 2 * float(radius), error, _narrowest(float(radius), clearance, grid, goals[thing])
                )
        if len(found) == len(goals):
            break
    return [found.get(thing, Aisle(thing, 0.0, error, None)) for thing in goals]


def _narrowest(radius: float, clearance: Array, grid: Grid, goal: Point) -> Point | None:
    """A point of free floor about as wide as the limit, the one nearest to the machine."""
    tight = np.abs(clearance - radius) < grid.cell / 2
    if not tight.any():
        return None
    index = np.flatnonzero(tight)[np.argmin(np.hypot(grid.x[tight] - goal[0], grid.y[tight] - goal[1]))]
    point = (float(grid.x.flat[index]), float(grid.y.flat[index]))
    return point if hypot(point[0] - goal[0], point[1] - goal[1]) < 20 else None
