"""Aisles: the widest disc that can roll from the entry door to where someone stands at a machine."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, NamedTuple

from purvel.libraries import Array, np, shapely
from purvel.once import once
from purvel.shop import Opening, Thing
from purvel.space.clearances import HEAD_HEIGHT
from purvel.space.cut_off import Squeezed, without_which
from purvel.space.ground import Footprint, boxes, distances
from purvel.space.prepared import Prepared
from purvel.space.rolling import covering, diagram, reach
from purvel.space.shell import TOUCH_AREA, Shell
from purvel.space.traverse import Point
from purvel.space.triangles import Around

# m: from point to point on the edges. At 0.5 m the first costs 1 cm of width, at 0.25 m it would cost more
# than is allowed, and so it does where a place to stand all but touches an edge; the next is taken there.
_STEPS = (0.1, 0.04, 0.01)
_ALLOWED = 0.018  # m that a width may be less than the truth, a little under the 2 cm that are promised
LEAST = 0.10  # m: thinner than this nobody is
# m: what is wider by less counts as thinner. Points 0.1 m apart on one edge are moved off it by less, and let
# no disc through between them that way.
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
    def around(self) -> dict[float, Around]:
        """What has been asked about ways in it, by how close [m] the points on edges are."""
        return {step: Around(self.edges, step) for step in _STEPS}

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
    left, found = dict(goals), dict[str, Aisle]()
    for step in _STEPS:
        search = _Search(blockers, left, entry, step)
        found |= search.aisles()
        left = {name: left[name] for name in left if _is_vague(found[name])}
        if not left:
            break
    cut_off = {one.thing: goals[one.thing] for one in found.values() if one.most < UNREACHED}
    culprits = without_which(cut_off, blockers, entry.squeezed) if len(cut_off) > 1 else {}
    return [_told(replace(one, cut_off_by=culprits.get(one.thing))) for one in map(found.__getitem__, goals)]


def _is_vague(one: Aisle) -> bool:
    """Whether closer points are wanted."""
    return one.most >= LEAST and (one.error > _ALLOWED or one.width < LEAST)


def _told(aisle: Aisle) -> Aisle:
    """What is said of a way: over 3 m is 3 m, under 10 cm is none."""
    if aisle.width < LEAST:
        return replace(aisle, width=0.0, error=0.0, narrowest=None)
    return replace(aisle, width=_WIDEST, error=0.0) if aisle.width > _WIDEST else aisle


class _Search:
    """All ways between some blockers, with points every `step` [m] on their edges."""

    def __init__(
        self, blockers: Sequence[Footprint], goals: dict[str, Point], entry: WayIn, step: float
    ) -> None:
        self.goals, self.step = goals, step
        triangles = entry.around[step].triangles(blockers)
        self._way = diagram(triangles, entry.on_floor, list(entry.gaps), (LEAST + _TIE) / 2)
        bodies, starts = boxes(blockers), np.array(self._way.starts)
        free = distances(*_columns(self._way.places[starts]), bodies).min(axis=1, initial=np.inf) > 0
        self._reached = reach(self._way, starts[free].tolist())
        self._spots = np.array([*goals.values()])
        self._free = distances(*_columns(self._spots), bodies).min(axis=1, initial=np.inf) > 0

    def aisles(self) -> dict[str, Aisle]:
        """The aisle to each goal, as found."""
        slack = self.step**2 / 4
        found = covering(self._way, self._reached, self._spots, slack)
        radius, most = np.where(self._free, (found.radius, found.most), 0.0)
        width = 2 * np.sqrt(np.maximum(radius**2 - slack, 0.0))
        return {
            name: Aisle(name, wide, max(error, 0.0), (x, y) if wide else None)
            for name, wide, error, (x, y) in zip(
                self.goals, width.tolist(), (2 * most - width).tolist(), found.narrowest.tolist()
            )
        }


def _columns(points: Array) -> tuple[Array, Array]:
    """The x and the y of points (n, 2), each in a column."""
    return points[:, :1], points[:, 1:]
