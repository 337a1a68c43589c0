"""Where things go: a free spot for a new one, flush with what is near, a set distance from a wall."""

from __future__ import annotations

from collections.abc import Sequence
from math import atan2, degrees, hypot

from purvel.libraries import np, shapely
from purvel.shop import Fixture, Opening, Room, Thing, Wall
from purvel.space.clearances import polygon, wall_distances
from purvel.space.ground import footprint, footprints, standing_zone
from purvel.space.prepared import Prepared
from purvel.space.shell import Shell, Side
from purvel.space.traverse import Point

_SPOT_STEP, _SPOT_REACH = 0.25, 24  # m, steps either way: how closely and how far a free spot is looked for
_WAY_ROUND = 0.9  # m that a new thing leaves to the others where there is room
_JAMB = 0.1016  # m; 4 in between two openings


def free_spot(thing: Thing | Fixture, things: tuple[Thing, ...], shell: Shell) -> tuple[float, float] | None:
    """Where the thing and its standing room touch nothing, with a way round it if there is one, as near the
    middle of the floor as it goes [m]; without its standing room where there is none for both, None if there
    is no such place.
    """
    inside = shell.floor
    middle = (0.0, 0.0) if inside.is_empty else (float(inside.centroid.x), float(inside.centroid.y))
    items: list[Thing | Fixture] = [*things, *(fixture for fixture in shell.room.fixtures if fixture.is_body)]
    zones = [shapely.Polygon(zone) for one in things if (zone := standing_zone(one)) is not None]
    taken = shapely.union_all([*(polygon(item) for item in items), *zones])
    zone = standing_zone(thing) if isinstance(thing, Thing) else None
    body = polygon(thing)
    wanted = body if zone is None else body.union(shapely.Polygon(zone))
    bodies = shapely.union_all([polygon(item) for item in items])
    tries = (
        (_WAY_ROUND, wanted, taken),
        (_WAY_ROUND / 2, wanted, taken),
        (0.0, wanted, taken),
        (0.0, body, bodies),
    )
    for gap, shape, others in tries:
        here = shapely.affinity.translate(shape, middle[0] - thing.x, middle[1] - thing.y)
        found = _first_free(here, None if inside.is_empty else shell.on_floor, others.buffer(gap))
        if found is not None:
            return round(middle[0] + found[0], 3), round(middle[1] + found[1], 3)
    return None


def _first_free(
    shape: shapely.Geometry, inside: Prepared | None, around: shapely.Geometry
) -> tuple[float, float] | None:
    """The least shift that takes a shape inside, if there is an inside, and clear of what is around."""
    steps = np.arange(-_SPOT_REACH, _SPOT_REACH + 1) * _SPOT_STEP
    shifts = np.stack(np.meshgrid(steps, steps, indexing="ij"), axis=-1).reshape(-1, 2)
    shifts = shifts[np.argsort(np.hypot(*shifts.T), kind="stable")]
    shapely.prepare(around)  # which nobody else has
    parts = [shapely.get_coordinates(part.exterior) for part in shapely.get_parts(shape)]
    for some in np.array_split(shifts, _SPOT_REACH):
        free = np.ones(len(some), dtype=bool)
        for corners in parts:
            there = np.asarray(shapely.polygons(corners + some[:, None]))
            free &= ~shapely.intersects(around, there)
            if inside is not None:
                free &= inside.contains(there)
        if free.any():
            dx, dy = some[int(free.argmax())].tolist()
            return dx, dy
    return None


def beside(thing: Thing | Fixture, shell: Shell) -> tuple[float, float]:
    """A place outside the walls, beside the room [m]."""
    x0, y0 = (0.0, 0.0) if shell.floor.is_empty else shell.floor.bounds[:2]
    reach = max(thing.width, thing.depth)
    return round(x0 - reach, 3), round(y0 + reach, 3)


def against_wall(item: Fixture, shell: Shell, reach: float = 0.3) -> tuple[float, float, float]:
    """Where a fixture goes that is dropped near a wall: its back flush with it, facing the room: x, y [m] and
    angle [deg]. As it is where no wall is within `reach` of it.
    """
    best: tuple[float, Side] | None = None
    for side in shell.sides.values():
        out = np.array(side.out)
        gap = float((np.array(side.start) - (item.x, item.y)) @ out) - item.depth / 2
        along = float((np.array((item.x, item.y)) - side.start) @ side.along)
        if (
            abs(gap) < reach + item.width / 2
            and 0 <= along <= side.length
            and (best is None or abs(gap) < best[0])
        ):
            best = (abs(gap), side)
    if best is None:
        return item.x, item.y, item.angle
    side = best[1]
    along = float((np.array((item.x, item.y)) - side.start) @ side.along)
    along = min(max(along, item.width / 2), max(side.length - item.width / 2, item.width / 2))
    x, y = side.at(along, -item.depth / 2)
    return round(x, 4), round(y, 4), round(degrees(atan2(side.out[1], side.out[0])) - 90.0, 3) % 360.0


def free_offset(room: Room, wall: Wall, opening: Opening) -> float:
    """Where in a wall an opening overlaps no other: at its own offset, or behind one that is there; the start
    of the wall if it is full [m].
    """
    others = [one for one in room.openings if one.wall == wall.id]
    tries = [opening.offset, *(one.offset + one.width + _JAMB for one in others), 0.0]
    for offset in sorted(tries, key=lambda at: (at != opening.offset, at)):
        if offset + opening.width <= wall.length and all(
            offset + opening.width <= one.offset or offset >= one.offset + one.width for one in others
        ):
            return offset
    return 0.0


def split_point(room: Room, wall: Wall) -> float | None:
    """Where to part a wall in two, in no opening and as near to its middle as that goes [m from its start];
    None where openings fill it.
    """
    inside = [(one.offset, one.offset + one.width) for one in room.openings if one.wall == wall.id]
    middle = wall.length / 2
    tries = [middle, *(edge for pair in inside for edge in pair)]
    clear = [
        at
        for at in tries
        if _JAMB <= at <= wall.length - _JAMB
        and not any(near + 1e-9 < at < far - 1e-9 for near, far in inside)
    ]
    return min(clear, key=lambda at: abs(at - middle), default=None)


SNAP = 0.06  # m: closer than this to a wall or a neighbour, a thing goes flush


def snap(thing: Thing, things: Sequence[Thing], shell: Shell) -> Point:
    """The small shift that sets a thing flush with walls and neighbours near it."""
    corners = footprint(thing)
    shift = np.zeros(2)
    for side in shell.sides.values():
        out = np.array(side.out)
        gap = float((np.array(side.start) @ out) - (corners @ out).max())
        along = corners @ np.array(side.along) - np.array(side.start) @ np.array(side.along)
        if (
            0 < abs(gap) < SNAP
            and along.max() > 0
            and along.min() < side.length
            and abs(float(shift @ out)) < 1e-9
        ):
            shift += out * gap
    if hypot(*shift) > 0:
        return (float(shift[0]), float(shift[1]))
    shape = shapely.Polygon(corners)
    others = shapely.polygons(
        footprints([other for other in things if other.id != thing.id and other.z <= thing.z + thing.height])
    )
    distances = shapely.distance(shape, others)
    near = np.flatnonzero((distances > 0) & (distances < SNAP * 0.7))
    if not len(near):
        return (0.0, 0.0)
    a, b = shapely.get_coordinates(shapely.shortest_line(shape, np.asarray(others)[near[0]]))
    return (float(b[0] - a[0]), float(b[1] - a[1]))


def at_distance(item: Thing | Fixture, shell: Shell, wall: str, distance: float) -> Point:
    """Where an item's middle goes so that it is `distance` [m] from one of its two nearest walls.

    Where it is, if the wall is not one of them.
    """
    for name, now, _, _ in wall_distances(item, shell):
        if name == wall:
            out = shell.sides[name].out
            return item.x - out[0] * (distance - now), item.y - out[1] * (distance - now)
    return item.x, item.y
