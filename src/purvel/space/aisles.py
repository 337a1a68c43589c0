"""Aisles: the widest disc that can roll from the entry door to where someone stands at a machine."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, NamedTuple

from purvel.libraries import Array, Mask, np, shapely
from purvel.once import once
from purvel.shop import Opening, Thing
from purvel.space.clearances import HEAD_HEIGHT
from purvel.space.cut_off import Squeezed, without_which
from purvel.space.ground import Footprint, boxes, distances
from purvel.space.prepared import Prepared
from purvel.space.rolling import Density, covering, diagram, reaches
from purvel.space.shell import TOUCH_AREA, Shell
from purvel.space.traverse import Point
from purvel.space.triangles import Around, Triangles

# m: from point to point on the edges. At 0.5 m the first costs 1 cm of width, at 0.25 m it would cost more
# than is allowed, and so it does where a place to stand all but touches an edge; the next are taken there and
# about, and the last everywhere where that is not enough.
_STEP, _CLOSER, _EVERYWHERE = 0.1, (0.02, 0.004), 0.01
_AROUND = 0.25  # m: beyond the disc, where points lie closer
_ALLOWED = 0.018  # m that a width may be less than the truth, a little under the 2 cm that are promised
LEAST = 0.10  # m: thinner than this nobody is
# m: what is wider by less counts as thinner, and what is nearer to an edge as on it. Points 0.1 m apart on
# one edge are moved off it by less, and let no disc through between them that way.
_TIE = 1e-5
WAY_OUT = 0.71  # m; 28 in: what workplaces keep of the way out everywhere [OSHA 1910.36(g), high]
WITH_BOARD = 1.07  # m; 42 in: a person who walks with a board in hand [trade practice]
SQUEEZE = 0.61  # m; 24 in: a person can just squeeze through [trade practice]
ONE_PERSON = 0.914  # m; 36 in: one person walks freely [trade practice]
UNREACHED = 0.25  # m: through less than this nobody gets
_WIDEST = 3.0  # m: nobody asks for more


@dataclass(frozen=True, slots=True)
class Aisle:
    """The way to one machine: the diameter [m] of the widest disc that gets there, 0 if nothing does, how
    much wider it may be, and where it is narrowest; where nobody squeezes through, what alone cuts it off,
    if one thing does.
    """

    thing: str
    width: float
    error: float
    narrowest: Point | None
    cut_off_by: str | None = None

    @property
    def most(self) -> float:
        """The width [m] that there may be at the most."""
        return self.width + self.error


def rolls_through(aisle: Aisle, things: Sequence[Thing]) -> tuple[str, ...]:
    """The ids of the things on wheels that go through the way to a machine lengthways."""
    return tuple(one.id for one in things if one.wheels and min(one.width, one.depth) <= aisle.width)


class Entry(NamedTuple):
    """An opening that one comes in by: its wall, how far along it [m], and how wide [m]."""

    wall: str
    offset: float
    width: float


@dataclass(frozen=True, eq=False)
class WayIn:
    """What the room itself puts in the way: the edges (n, 2, 2) [m] of walls and low ceiling, the gaps
    (m, 2, 2) [m] of the entry openings, and the floor where no ceiling is lower than a head.
    """

    edges: Array
    gaps: Array
    floor: shapely.Polygon

    @once
    def on_floor(self) -> Prepared:
        """That floor, to ask what lies on it."""
        return Prepared(self.floor)

    @once
    def around(self) -> Around:
        """What has been asked about ways in it."""
        return Around(self.edges, _STEP)

    @once
    def squeezed(self) -> Squeezed:
        """Where the middle of a squeezing person may be."""
        return Squeezed(self.floor, self.gaps, self.lines, SQUEEZE)

    @once
    def lines(self) -> shapely.MultiLineString:
        """The edges as one shape."""
        return shapely.MultiLineString(list(self.edges))


def entries(openings: Sequence[Opening]) -> tuple[Entry, ...]:
    """The openings that one comes in by, open or shut."""
    return tuple(Entry(one.wall, one.offset, one.width) for one in openings if one.entry)


def way_in(shell: Shell, doors: tuple[Entry, ...]) -> WayIn | None:
    """How a room is entered, whatever stands in it; None without an entry door or a closed room."""
    sides = [(shell.sides[door.wall], door) for door in doors if door.wall in shell.sides]
    if not sides or shell.floor.is_empty:
        return None
    gaps = [[side.at(door.offset), side.at(door.offset + door.width)] for side, door in sides]
    open_at = shapely.union_all([shapely.LineString(gap) for gap in gaps]).buffer(1e-6)
    walls = shell.floor.exterior.difference(open_at)
    lows = [shapely.Polygon(shell.under_slope(slope, HEAD_HEIGHT)) for slope in shell.slopes]
    lows = [low for low in lows if low.area > TOUCH_AREA]
    # a corner stays where openings take up both its walls
    corners = [shapely.LineString([corner, corner]) for corner in shell.traverse.corners]
    lines = [*corners, *shapely.get_parts(walls), *(low.exterior for low in lows)]
    edges = [np.stack([line[:-1], line[1:]], axis=1) for line in map(shapely.get_coordinates, lines)]
    floor: Any = shell.floor.difference(shapely.union_all(lows))  # in one part or several
    return WayIn(np.concatenate(edges), np.array(gaps), floor)


def goals(things: Sequence[Thing]) -> dict[str, Point]:
    """The middle of the floor on which somebody stands at each thing that is worked at [m]."""
    return {thing.id: thing.spot(thing.stand.x, thing.stand.y) for thing in things if thing.stand}


def aisles(blockers: tuple[Footprint, ...], goals: Mapping[str, Point], entry: WayIn | None) -> list[Aisle]:
    """The aisle to the goal at every thing that has one; none without a way in.

    The disc's middle starts in the middle of an entry opening, the best of several; the blockers are in its
    way, low ceiling too; it has arrived when it covers the goal. Widths are never wide of the truth and at
    most 2 cm less; over 3 m is 3 m, under 10 cm 0.
    """
    if entry is None or not goals:
        return []
    triangles, density = entry.around.triangles(blockers), Density(_STEP)
    found = _found(triangles, density, blockers, goals, entry)
    for fine in (*_CLOSER, None):
        left = {name: goals[name] for name in goals if _is_vague(found[name].aisle)}
        if not left:
            break
        if fine:
            density = _closer(density, fine, [(found[name], at) for name, at in left.items()])
            closer = entry.around.closer(triangles, blockers, fine, density.middles, density.radii)
        else:
            density = Density(_EVERYWHERE)
            closer = Around(entry.edges, _EVERYWHERE).triangles(blockers)
        found |= _found(closer, density, blockers, left, entry)
    cut_off = {name: goals[name] for name in goals if found[name].aisle.most < UNREACHED}
    culprits = without_which(cut_off, blockers, entry.squeezed) if len(cut_off) > 1 else {}
    return [_told(replace(found[name].aisle, cut_off_by=culprits.get(name))) for name in goals]


def _is_vague(one: Aisle) -> bool:
    """Whether closer points are wanted."""
    return one.most >= LEAST and (one.error > _ALLOWED or one.width < LEAST)


def _told(aisle: Aisle) -> Aisle:
    """What is said of a way: over 3 m is 3 m, under 10 cm is none."""
    if aisle.width < LEAST:
        return replace(aisle, width=0.0, error=0.0, narrowest=None)
    return replace(aisle, width=_WIDEST, error=0.0) if aisle.width > _WIDEST else aisle


class _Way(NamedTuple):
    """What was found for a goal, and how large a disc [m] there is room for where it is covered."""

    aisle: Aisle
    room: float


def _closer(density: Density, fine: float, vague: Sequence[tuple[_Way, Point]]) -> Density:
    """Points closer also where ways are at their narrowest, and around their goals."""
    circles = [
        (at, across + _AROUND)
        for (way, room), goal in vague
        for at, across in ((way.narrowest, way.most), (goal, 2 * room))
        if at
    ]
    return Density(
        _STEP,
        fine,
        np.concatenate([density.middles, [at for at, _ in circles]]),
        np.concatenate([density.radii, [radius for _, radius in circles]]),
    )


def _found(
    triangles: Triangles,
    density: Density,
    blockers: Sequence[Footprint],
    goals: Mapping[str, Point],
    entry: WayIn,
) -> dict[str, _Way]:
    """All ways between some blockers, as triangles of so dense points on edges tell them."""
    ways = diagram(triangles, density, entry.on_floor, list(entry.gaps), (LEAST + _TIE) / 2)
    bodies, spots = boxes(blockers), np.array([*goals.values()])
    starts = np.array(ways.starts)
    is_free = _is_off(ways.places[ways.pairs[starts, 0]], bodies)
    between, surely = reaches(ways, starts[is_free].tolist())
    found = covering(ways, between, surely, spots)
    is_free = _is_off(spots, bodies) & (shapely.distance(shapely.points(spots), entry.lines) > _TIE)
    radius, most = np.where(is_free, (found.radius, found.most), 0.0)
    return {
        name: _Way(Aisle(name, wide, max(error, 0.0), (x, y) if wide else None), room)
        for name, wide, error, (x, y), room in zip(
            goals,
            (2 * radius).tolist(),
            (2 * (most - radius)).tolist(),
            found.narrowest.tolist(),
            found.room.tolist(),
        )
    }


def _is_off(points: Array, bodies: Array) -> Mask:
    """Which points (n, 2) [m] are neither in bodies nor on their edges."""
    away = distances(points[:, :1], points[:, 1:], bodies)
    return np.asarray(away.min(axis=1, initial=np.inf) > _TIE)
