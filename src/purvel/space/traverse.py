"""The tape walk: corners from walls as they were read, the gap at the end and how it is shared out."""

from dataclasses import dataclass
from math import atan2, cos, degrees, hypot, radians, sin

from purvel.shop import Room, Wall
from purvel.space.slips import Slip, closing

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
class Traverse:
    """The walk round the room.

    `raw` are the corners as read (one more than there are walls: the last is where the tape ended); `corners`
    the corners after the gap was shared out by the compass rule, empty while the loop is open; `gap` the
    vector from the tape's end back to the start [m]. `fair` is the gap that such readings may leave, and
    `slips` the single readings that would explain a wider one.
    """

    raw: tuple[Point, ...]
    corners: tuple[Point, ...]
    gap: Point
    perimeter: float
    fair: float
    slips: tuple[Slip, ...]

    @property
    def suspects(self) -> tuple[str, ...]:
        """The walls that a slip may be at, in the order of the walk."""
        return tuple(dict.fromkeys(slip.wall for slip in self.slips))

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

    The gap is shared out by the compass rule (Bowditch 1808): each wall takes a part in proportion to its
    length, so a rectangle read a few millimetres short stays a rectangle to the eye. A loop counts as closed
    with three walls and a gap under 5 % of the way.
    """
    raw = [(room.x, room.y)]
    heading = room.heading
    for wall in room.walls:
        x, y = raw[-1]
        raw.append((x + wall.length * cos(radians(heading)), y + wall.length * sin(radians(heading))))
        heading += wall.turn
    perimeter = sum(wall.length for wall in room.walls)
    gap = (room.x - raw[-1][0], room.y - raw[-1][1])
    closed = len(room.walls) >= 3 and hypot(*gap) <= SHARE_OF_PERIMETER_STILL_OPEN * perimeter
    corners = _share_out(room.walls, raw, gap, perimeter) if closed else ()
    if _is_flat(corners):
        corners = ()
    usual = fair_gap(perimeter)
    if not corners or hypot(*gap) <= usual:
        return Traverse(tuple(raw), corners, gap, perimeter, usual, ())
    told = closing(room, raw, gap)
    return Traverse(tuple(raw), corners, gap, perimeter, max(usual, told.fair), told.slips)


def _share_out(walls: tuple[Wall, ...], raw: list[Point], gap: Point, perimeter: float) -> tuple[Point, ...]:
    corners = []
    walked = 0.0
    for (x, y), wall in zip(raw, walls):
        corners.append((x + gap[0] * walked / perimeter, y + gap[1] * walked / perimeter))
        walked += wall.length
    return tuple(corners)


def _is_flat(corners: tuple[Point, ...]) -> bool:
    """Whether all corners lie on one line: a walk there and back encloses nothing."""
    if not corners:
        return True
    (x0, y0), far = corners[0], max(corners, key=lambda c: hypot(c[0] - corners[0][0], c[1] - corners[0][1]))
    return all(abs((far[0] - x0) * (y - y0) - (far[1] - y0) * (x - x0)) < 1e-4 for x, y in corners)


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
    return (needed - heading_now + 180.0) % 360.0 - 180.0, traverse.gap_length
