"""Where work is thrown: straight back from a blade or a cutter, and in the plane of what turns on a lathe."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from purvel.libraries import np, shapely
from purvel.shop import Opening, Thing
from purvel.space.clearances import swing
from purvel.space.ground import standing_zones
from purvel.space.lanes import Lane
from purvel.space.shell import Shell, Side
from purvel.space.strips import strip
from purvel.space.traverse import Point

# m behind the blade in which a thrown board is to be reckoned with [trade practice, low confidence]
REACH = 3.0
_LEAST = 0.02  # m2 of standing room or of a door's swing in the line: less is a corner
_HAIR = 1e-6  # m: what is this near touches
_EDGE = 0.01  # m of an opening in the line: less is its edge
_RISE = 0.5  # m above the table up to which it may hit a window [a guess]


@dataclass(frozen=True, slots=True)
class Thrown:
    """Where a machine may throw what is worked: the floor of it inside the walls, and what should not be
    there: the machines whose workers stand in it, the windows in it, the doors that open into it.
    """

    thing: str
    floor: shapely.Geometry
    workers: tuple[str, ...]
    glass: tuple[str, ...]
    doors: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Flight:
    """Where what is thrown flies over the floor of a room, whatever stands in it, and what of the walls it
    meets.
    """

    floor: shapely.Geometry
    glass: tuple[str, ...]
    doors: tuple[str, ...]


def flights(lanes: Iterable[Lane], turning: Iterable[Thing], shell: Shell) -> dict[str, Flight]:
    """Where machines throw, by machine: as wide as the stock behind blades and cutters, as wide as its bed
    before a lathe. Walls stop what flies; what stands in the room is not counted on to.
    """
    if not shell.sides:
        return {}
    lines = {
        one.thing: (one.origin, one.direction + 180.0, one.width, one.low) for one in lanes if one.throws
    }
    for thing in turning:
        table = thing.work_height if thing.work_height is not None else thing.height
        edge = thing.spot(0.0, -thing.depth / 2)
        lines[thing.id] = (edge, thing.angle - 90.0, thing.width, thing.z + table)
    return {name: _flight(*line, shell) for name, line in lines.items()}


def thrown(
    lanes: Mapping[str, Lane], turning: Sequence[Thing], things: Sequence[Thing], shell: Shell
) -> list[Thrown]:
    """The lines of throw of all machines that have one, with who stands in them."""
    made = flights(lanes.values(), turning, shell)
    workers = [thing for thing in things if thing.stand is not None]
    met = [set[str]() for _ in made]
    if workers and made:
        zones = np.asarray(shapely.polygons(standing_zones(workers)))
        floors = np.array([line.floor for line in made.values()], dtype=object)
        which, who = shapely.STRtree(zones).query(floors, predicate="intersects")
        shared = shapely.area(shapely.intersection(floors[which], zones[who]))
        for k, worker, area in zip(which.tolist(), who.tolist(), shared.tolist()):
            if area >= _LEAST:
                met[k].add(workers[worker].id)
    return [
        Thrown(
            name,
            line.floor,
            tuple(one.id for one in workers if one.id in there and one.id != name),
            line.glass,
            line.doors,
        )
        for (name, line), there in zip(made.items(), met)
    ]


@lru_cache(maxsize=256)  # a machine's line is where it is while others are moved
def _flight(origin: Point, direction: float, width: float, height: float, shell: Shell) -> Flight:
    floor = _flown_over(origin, direction, width, shell)
    met = [
        one
        for one in shell.room.openings
        if one.wall in shell.sides and _is_met(one, shell.sides[one.wall], floor, height)
    ]
    return Flight(
        floor,
        tuple(one.id for one in met if one.kind == "window"),
        tuple(one.id for one in met if one.kind != "window"),
    )


def _flown_over(origin: Point, direction: float, width: float, shell: Shell) -> shapely.Geometry:
    """The floor over which it flies from the machine to the first wall."""
    corners = strip(origin, direction, 0.0, REACH, width)
    parts = shapely.get_parts(shapely.intersection(shapely.Polygon(corners), shell.floor))
    at = shapely.LineString([corners[0], corners[3]])
    near = [part for part in parts if part.area > 0 and shapely.distance(part, at) <= _HAIR]
    return shapely.union_all(near)


def _is_met(opening: Opening, side: Side, floor: shapely.Geometry, height: float) -> bool:
    """Whether what flies at a height meets an opening, or a door opens into its line."""
    if shapely.area(shapely.intersection(swing(opening, side), floor)) >= _LEAST:
        return True
    if opening.kind == "window" and not (opening.sill <= height + _RISE and opening.head >= height):
        return False
    gap = shapely.LineString([side.at(opening.offset), side.at(opening.offset + opening.width)])
    return float(shapely.intersection(gap, shapely.buffer(floor, _HAIR)).length) >= _EDGE
