"""The tape walk: corners from what was read, the gap at the end and how readings are made to agree."""

from __future__ import annotations

from dataclasses import dataclass
from math import atan2, cos, degrees, hypot, radians, sin

from purvel.shop import Room
from purvel.space.adjusting import Adjusted, adjusted, spreads
from purvel.space.readings import Geometry, Key, What, readings_of
from purvel.space.slips import Closing, Proposed, Slip, closing

Point = tuple[float, float]

# of the tape walk: a wider gap means that walls are still missing [trade practice]
SHARE_OF_PERIMETER_STILL_OPEN = 0.05


def fair_gap(perimeter: float) -> float:
    """The closing gap [m] that careful taping still leaves: 10 mm and 1 mm for each metre walked [trade
    practice, low confidence].

    24 m walked:

    >>> round(fair_gap(24.0), 3)
    0.034
    """
    return 0.010 + 0.001 * perimeter


@dataclass(frozen=True, slots=True)
class Misfit:
    """What one reading was, what it comes to with all others, and its standard deviation [m, turns in deg]:
    `what` of which wall, diagonal or spot (`of`), from which corner where it is a spot's.
    """

    what: What
    of: str
    corner: str
    read: float
    adjusted: float
    spread: float

    @property
    def key(self) -> Key:
        """What tells the reading from others."""
        return self.of, self.what, self.corner


@dataclass(frozen=True, slots=True)
class Traverse:
    """The walk round the room.

    `raw` are the corners as read (one more than there are walls: the last is where the tape ended); `corners`
    the corners after the readings were made to agree, empty while the loop is open; `gap` the vector from the
    tape's end back to the start [m]. `fair` is the gap that such readings may leave; `holds` says whether all
    readings agree as well as such readings do, `slips` are the single readings that would explain it where
    they do not, and `proposed` is what tells those apart. `spots` are the places taken from corners.
    """

    raw: tuple[Point, ...]
    corners: tuple[Point, ...]
    gap: Point
    perimeter: float
    fair: float
    slips: tuple[Slip, ...] = ()
    holds: bool = True
    proposed: Proposed | None = None
    misfits: tuple[Misfit, ...] = ()
    spots: tuple[tuple[str, Point], ...] = ()

    @property
    def suspects(self) -> tuple[str, ...]:
        """The walls, diagonals and spots that a slip may be at, the likeliest first."""
        return tuple(dict.fromkeys(slip.of for slip in self.slips))

    @property
    def gap_length(self) -> float:
        """How far the tape ended from where it began [m]."""
        return hypot(*self.gap)

    @property
    def is_closed(self) -> bool:
        """Whether the walls make a room."""
        return bool(self.corners)


def walk(room: Room) -> Traverse:
    """Walks the walls as read.

    The gap is shared out by least squares over all readings: each gives way by the square of its spread, so a
    paced wall takes nearly all of it. A loop counts as closed with three walls and a gap under 5 % of the
    way.
    """
    raw = _as_read(room)
    perimeter = sum(wall.length for wall in room.walls)
    gap = (room.x - raw[-1][0], room.y - raw[-1][1])
    usual = fair_gap(perimeter)
    closes = len(room.walls) >= 3 and hypot(*gap) <= SHARE_OF_PERIMETER_STILL_OPEN * perimeter
    if not closes or _is_flat(raw[:-1]):
        return Traverse(raw, (), gap, perimeter, usual)
    geometry = Geometry(room, readings_of(room))
    agreed = adjusted(geometry, spreads(geometry.readings))
    corners = tuple((x, y) for x, y in agreed.corners.tolist())
    told = Closing(usual)
    if hypot(*gap) > usual or geometry.has_more:
        told = closing(geometry, gap)
    return Traverse(
        raw,
        corners,
        gap,
        perimeter,
        max(usual, told.fair) if hypot(*gap) > usual else usual,
        told.slips,
        told.holds,
        told.proposed,
        tuple(_misfits(agreed)),
        tuple(
            (spot, (x, y))
            for spot in geometry.spots
            for x, y in [geometry.spot(spot, agreed.values).tolist()]
        ),
    )


def _as_read(room: Room) -> tuple[Point, ...]:
    """The corners by the walls alone, and where the tape ended [m]."""
    found, heading = [(room.x, room.y)], room.heading
    for wall in room.walls:
        x, y = found[-1]
        found.append((x + wall.length * cos(radians(heading)), y + wall.length * sin(radians(heading))))
        heading += wall.turn
    return tuple(found)


def _misfits(agreed: Adjusted) -> list[Misfit]:
    return [
        Misfit(
            one.what,
            one.of,
            one.corner,
            *((degrees(value) if one.what == "turn" else value) for value in (one.value, now, one.spread)),
        )
        for one, now in zip(agreed.geometry.readings, agreed.values.tolist())
    ]


def _is_flat(corners: tuple[Point, ...]) -> bool:
    """Whether all corners lie on one line: a walk there and back encloses nothing."""
    if not corners:
        return True
    (x0, y0), far = corners[0], max(corners, key=lambda c: hypot(c[0] - corners[0][0], c[1] - corners[0][1]))
    return all(abs((far[0] - x0) * (y - y0) - (far[1] - y0) * (x - x0)) < 1e-4 for x, y in corners)


def turn_between(start: float, end: float) -> float:
    """From one heading to another the shorter way round [deg], left positive, from -180 up to 180.

    >>> turn_between(350.0, 20.0), turn_between(20.0, 350.0)
    (30.0, -30.0)
    """
    return (end - start + 180.0) % 360.0 - 180.0


def signed_area(corners: tuple[Point, ...]) -> float:
    """Area [m2] of a polygon, positive when its corners run counter-clockwise (shoelace formula).

    >>> signed_area([(0.0, 0.0), (6.0, 0.0), (6.0, 5.0), (0.0, 5.0)])
    30.0
    """
    return 0.5 * sum(x0 * y1 - x1 * y0 for (x0, y0), (x1, y1) in zip(corners, (*corners[1:], *corners[:1])))


def closing_wall(room: Room, traverse: Traverse) -> tuple[float, float]:
    """The wall that would close the loop: the turn [deg] to make at the end of the last wall and its length
    [m].
    """
    heading_now = room.heading + sum(wall.turn for wall in room.walls[:-1])
    needed = degrees(atan2(traverse.gap[1], traverse.gap[0]))
    return turn_between(heading_now, needed), traverse.gap_length
