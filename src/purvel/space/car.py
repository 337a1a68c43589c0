"""The car in its bay: whether it drives in through a door, and whether somebody gets out of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, radians, sin

from purvel.libraries import np, shapely
from purvel.shop import Fixture, Opening, Thing
from purvel.space.clearances import HEAD_HEIGHT, polygon, span
from purvel.space.ground import rectangle
from purvel.space.shell import TOUCH_AREA, Shell

WIDE, HIGH = 1.85, 1.60  # m: a usual car [low]
_CLEARS = 0.15  # m: what is lower it drives over [low]
DOOR = 0.60  # m beside a car in which its door is opened and somebody gets out [trade practice, low]
_ENOUGH = 0.6  # share of a side of the car that has to be free for that [a guess]
_HAIR = 2e-3  # m by which the way may go past a jamb, by rounding


@dataclass(frozen=True, slots=True)
class CarWay:
    """How the car gets into a bay: the opening that it drives through (None: no door lies ahead of it that
    is wide enough), the floor that it drives over, what stands there, and the free shares of the floor
    beside it, left and right as it stands on the plan [-].
    """

    bay: str
    door: str | None
    floor: shapely.Polygon
    blocked_by: tuple[str, ...]
    sides: tuple[float, float]

    @property
    def lets_out(self) -> bool:
        """Whether somebody gets out of it."""
        return max(self.sides) >= _ENOUGH


def car_way(bay: Fixture, things: Sequence[Thing], shell: Shell) -> CarWay | None:
    """The way of a car straight into its bay, along the longer side of that. None while the room is open."""
    if shell.floor.is_empty:
        return None
    items: list[Thing | Fixture] = [*things, *(one for one in shell.room.fixtures if one.is_body)]
    others = [one for one in items if one.id != bay.id]
    lies = bay.angle if bay.width >= bay.depth else bay.angle + 90.0
    length, wide = max(bay.width, bay.depth), min(bay.width, bay.depth)
    ways = [way for turn in (0.0, 180.0) for way in _ways(bay, lies + turn, length, min(wide, WIDE), shell)]
    _, door, floor = min(ways, key=lambda way: way[0], default=(0.0, None, shapely.Polygon()))
    ahead = floor.difference(polygon(bay))  # what stands in the car itself is another matter
    met = [
        one.id
        for one in others
        if span(one)[0] < HIGH
        and span(one)[1] > _CLEARS
        and polygon(one).intersection(ahead).area > TOUCH_AREA
    ]
    standing = shapely.union_all(
        [polygon(one) for one in others if span(one)[0] < HEAD_HEIGHT and span(one)[1] > _CLEARS]
    )
    shares = [
        _free_beside(bay, lies, length, min(wide, WIDE) / 2 + DOOR / 2, turn, standing, shell)
        for turn in (90.0, -90.0)
    ]
    return CarWay(bay.id, door, floor, tuple(met), (shares[0], shares[1]))


def _ways(
    bay: Fixture, heading: float, length: float, wide: float, shell: Shell
) -> list[tuple[float, str | None, shapely.Polygon]]:
    """The ways straight ahead out of a bay through each opening there: how long, through which, over what."""
    c, s = cos(radians(heading)), sin(radians(heading))
    found: list[tuple[float, str | None, shapely.Polygon]] = []
    for one in shell.room.openings:
        side = shell.sides.get(one.wall)
        facing = 0.0 if side is None else c * side.out[0] + s * side.out[1]
        if side is None or one.kind == "window" or facing < 0.5:
            continue
        reach, inside = [], True
        for aside in (-wide / 2, wide / 2):
            x, y = bay.x - s * aside - side.start[0], bay.y + c * aside - side.start[1]
            far = -(x * side.out[0] + y * side.out[1]) / facing
            at = (x + far * c) * side.along[0] + (y + far * s) * side.along[1]
            inside &= _lets_in(one, at)
            reach.append(far)
        end = max(reach)
        if inside and min(reach) > 0:
            middle = (bay.x + c * end / 2, bay.y + s * end / 2)
            floor = shapely.Polygon(rectangle(*middle, heading, end, wide))
            found.append((end, one.id, floor))
    return found


def _lets_in(opening: Opening, at: float) -> bool:
    return opening.offset - _HAIR <= at <= opening.offset + opening.width + _HAIR and opening.head >= HIGH


def _free_beside(
    bay: Fixture,
    lies: float,
    length: float,
    off: float,
    turn: float,
    standing: shapely.Geometry,
    shell: Shell,
) -> float:
    aside = radians(lies + turn)
    beside = shapely.Polygon(
        rectangle(bay.x + off * cos(aside), bay.y + off * sin(aside), lies, length, DOOR)
    )
    left = shapely.difference(shapely.intersection(beside, shell.floor), standing)
    return float(np.clip(left.area / beside.area, 0.0, 1.0))
