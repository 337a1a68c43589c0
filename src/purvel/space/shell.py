"""The shell of a room, worked out once: the tape walk, the walls, the floor, the ceiling over it.

Every engine of space takes it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import atan2, degrees, hypot

from purvel.libraries import Array, np, shapely
from purvel.once import once
from purvel.shop import Fixture, Room, Slope
from purvel.space.prepared import Prepared
from purvel.space.traverse import Point, Traverse, signed_area, walk

TOUCH_AREA = 1e-4  # m2: less than a square centimetre is touching
_ASKEW = 2.0  # deg up to which a room counts as along the axes of the plan
PARALLEL = 0.17  # sine of the angle (10 deg) up to which two walls count as parallel


@dataclass(frozen=True, slots=True)
class Side:
    """One wall between two adjusted corners; `out` is the unit vector that points out of the room."""

    wall: str
    start: Point
    end: Point
    out: Point

    @property
    def length(self) -> float:
        """Length after the gap was shared out [m]."""
        return hypot(self.end[0] - self.start[0], self.end[1] - self.start[1])

    @property
    def along(self) -> Point:
        """Unit vector from start to end."""
        length = self.length
        return ((self.end[0] - self.start[0]) / length, (self.end[1] - self.start[1]) / length)

    def crossing(self, other: Side) -> float:
        """The sine of the angle between two walls, 0 to 1."""
        return abs(self.along[0] * other.along[1] - self.along[1] * other.along[0])

    def is_parallel(self, other: Side) -> bool:
        """Whether two walls are too nearly parallel for distances to both to fix a place."""
        return self.crossing(other) <= PARALLEL

    def at(self, offset: float, outward: float = 0.0) -> Point:
        """The point `offset` metres along the inner face and `outward` metres out of the room."""
        ux, uy = self.along
        return (
            self.start[0] + ux * offset + self.out[0] * outward,
            self.start[1] + uy * offset + self.out[1] * outward,
        )


@dataclass(frozen=True, eq=False)
class Shell:
    """A room's shell. While the loop of walls is open there are no sides and the floor is empty."""

    room: Room
    traverse: Traverse

    @once
    def sides(self) -> Mapping[str, Side]:
        """The walls of a closed room by id."""
        corners = self.traverse.corners
        if not corners:
            return {}
        outward = 1.0 if signed_area(corners) > 0 else -1.0
        found = {}
        for wall, (x0, y0), (x1, y1) in zip(self.room.walls, corners, (*corners[1:], *corners[:1])):
            length = float(np.hypot(x1 - x0, y1 - y0))
            if length > 1e-9:
                out = (outward * (y1 - y0) / length, -outward * (x1 - x0) / length)
                found[wall.id] = Side(wall.id, (x0, y0), (x1, y1), out)
        return found

    @once
    def lies(self) -> float:
        """By how much the longest wall is turned from the plan's axes [deg], from -45 to 45; 0 where that is
        less than two degrees, as in a room that is a little askew, or while the loop is open.
        """
        if not self.sides:
            return 0.0
        x, y = max(self.sides.values(), key=lambda side: side.length).along
        turn = (degrees(atan2(y, x)) + 45.0) % 90.0 - 45.0
        return turn if abs(turn) >= _ASKEW else 0.0

    @once
    def floor(self) -> shapely.Polygon:
        """The floor inside the walls, empty while the loop is open or crosses itself."""
        polygon = shapely.Polygon(self.traverse.corners or None)
        return polygon if polygon.is_valid else shapely.Polygon()

    @once
    def on_floor(self) -> Prepared:
        """The floor, to ask what lies on it."""
        return Prepared(self.floor)

    @once
    def area(self) -> float:
        """Of the floor [m2]."""
        return float(self.floor.area) if self.traverse.is_closed else 0.0

    @once
    def volume(self) -> float:
        """Volume [m3]: floor area times ceiling height, less the wedge over each sloping ceiling and what
        hangs from the ceiling: beams, ducts, dropped ceilings.

        Exact where these do not meet; 0 while the loop is open.
        """
        if not self.traverse.is_closed:
            return 0.0
        ceiling = self.room.ceiling
        wedges = sum(
            0.5 * slope.run * (ceiling.height - slope.low) * self.sides[slope.wall].length
            for slope in ceiling.slopes
            if slope.wall in self.sides
        )
        hanging = sum(
            _outline(one).intersection(self.floor).area * max(0.0, min(one.top, ceiling.height) - one.bottom)
            for one in self.room.fixtures
            if one.stands == "ceiling" and one.is_body
        )
        return max(0.0, self.area * ceiling.height - wedges - hanging)

    @once
    def slopes(self) -> tuple[Slope, ...]:
        """The sloping ceilings of a closed room."""
        return tuple(slope for slope in self.room.ceiling.slopes if slope.wall in self.sides)

    def under_slope(self, slope: Slope, height: float) -> Array:
        """The corners (4, 2) [m] of the floor over which a sloping ceiling is below `height`: that which
        faces its wall, within the wall's length. Without area where it is nowhere so low.
        """
        side, ceiling = self.sides[slope.wall], self.room.ceiling.height
        reach = slope.run * min(1.0, max(0.0, height - slope.low) / max(ceiling - slope.low, 1e-6))
        return np.array(
            [side.at(0.0), side.at(side.length), side.at(side.length, -reach), side.at(0.0, -reach)]
        )

    def ceilings_over(self, shapes: Sequence[shapely.Polygon]) -> Array:
        """The height of the lowest ceiling over each shape on the plan (n,) [m]."""
        ceiling = self.room.ceiling.height
        lowest = np.full(len(shapes), ceiling)
        for slope in self.slopes if len(shapes) else ():
            side = self.sides[slope.wall]
            under = shapely.intersection(
                np.asarray(shapes), shapely.Polygon(self.under_slope(slope, ceiling))
            )
            points, shape = shapely.get_coordinates(under, return_index=True)
            away = np.full(len(shapes), slope.run)  # nowhere under it farther from the wall
            np.minimum.at(away, shape, (points - np.array(side.start)) @ -np.array(side.out))
            heights = slope.low + (ceiling - slope.low) * np.maximum(0.0, away) / slope.run
            lowest = np.where(shapely.area(under) > TOUCH_AREA, np.minimum(lowest, heights), lowest)
        return lowest


def _outline(one: Fixture) -> shapely.Polygon:
    """What a fixture covers on the plan."""
    box = shapely.box(
        one.x - one.width / 2, one.y - one.depth / 2, one.x + one.width / 2, one.y + one.depth / 2
    )
    return shapely.affinity.rotate(box, one.angle, origin=(one.x, one.y))


def shell(room: Room) -> Shell:
    """The shell of a room as it was taped."""
    return Shell(room, walk(room))
