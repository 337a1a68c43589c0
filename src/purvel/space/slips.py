"""Which one reading, taken wrong, would explain that a tape walk does not close: a length or a turn.

Every reading has an uncertainty; what it does to the end of the walk and to the sum of the turns follows from
the geometry (least squares; detection of a single blunder as in surveying, Baarda 1968).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import degrees, hypot, radians, sqrt
from typing import Literal

from purvel.libraries import Array, np
from purvel.shop import Room

LENGTH_SPREAD = (0.003, 0.0003)  # m and m per m, standard deviation of a taped length [trade practice, low]
SQUARE_SPREAD = 0.1  # deg, of a corner taken as square in a room that is walked in 45 degree steps [low]
TURN_SPREAD = 0.3  # deg, of a turn read to a degree: evenly within half a degree [exact]
_BEYOND = {2: 13.8, 3: 16.3}  # chi squared that one walk in a thousand passes without a slip, by conditions
_WITHIN = {1: 6.6, 2: 9.2}  # and that one in a hundred passes, of what a slip leaves unexplained

Point = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Slip:
    """A reading that alone would explain the gap: the length of a wall [m] or the turn at its end [deg], and
    what it would be.
    """

    wall: str
    what: Literal["length", "turn"]
    value: float


@dataclass(frozen=True, slots=True)
class Closing:
    """The gap [m] that the readings' uncertainty leaves at the most in the direction in which the walk
    misses, and the slips that would explain a wider one, the likeliest first.
    """

    fair: float
    slips: tuple[Slip, ...]


def closing(room: Room, raw: Sequence[Point], gap: Point) -> Closing:
    """What a walk with these corners as read, that ends `gap` from its start [m], says of its readings.

    The sum of the turns counts as a third condition; where no slip explains all three, the last turn, which
    no corner hangs on, is left out. Guessed (paced) lengths are suspected before taped ones.
    """
    effects, spread, missed = _conditions(room, raw, gap)
    flat = effects[:2] * spread
    expected = flat @ flat.T
    chi = float(missed[:2] @ np.linalg.solve(expected, missed[:2]))
    size = hypot(*gap)
    fair = size * sqrt(_BEYOND[2] / chi) if chi > 0 else size
    if chi <= _BEYOND[2]:
        return Closing(max(fair, size), ())
    slips = _explaining(room, effects, spread, missed) or _explaining(room, effects[:2], spread, missed[:2])
    return Closing(fair, slips)


def _conditions(room: Room, raw: Sequence[Point], gap: Point) -> tuple[Array, Array, Array]:
    """What each reading does to the end of the walk [m] and to the sum of the turns [rad] (3, 2 n), lengths
    first; their spreads (2 n,); by how much all three miss (3,).
    """
    count = len(room.walls)
    heading = room.heading + np.cumsum([0.0, *(wall.turn for wall in room.walls[:-1])])
    end = np.array(raw[-1])
    effects = np.zeros((3, 2 * count))
    effects[0, :count], effects[1, :count] = np.cos(np.radians(heading)), np.sin(np.radians(heading))
    arms = end - np.array(raw[1:])
    effects[0, count:], effects[1, count:], effects[2, count:] = -arms[:, 1], arms[:, 0], 1.0
    fixed, each = LENGTH_SPREAD
    is_square = all(abs(wall.turn / 45.0 - round(wall.turn / 45.0)) < 1e-6 for wall in room.walls)
    turn = radians(SQUARE_SPREAD if is_square else TURN_SPREAD)
    spread = np.array([*(fixed + each * wall.length for wall in room.walls), *[turn] * count])
    turned = sum(wall.turn for wall in room.walls)
    around = turned - (360.0 if turned > 0 else -360.0)
    return effects, spread, np.array([-gap[0], -gap[1], radians(around)])


def _explaining(room: Room, effects: Array, spread: Array, missed: Array) -> tuple[Slip, ...]:
    """The readings that alone explain what is missed, the best first."""
    conditions, count = len(missed), len(room.walls)
    weighed = effects * spread
    inverse = np.linalg.inv(weighed @ weighed.T)
    whole = float(missed @ inverse @ missed)
    if whole <= _BEYOND[conditions]:
        return ()
    found: list[tuple[bool, float, Slip]] = []
    for index in range(2 * count):
        column = effects[:, index]
        weight = float(column @ inverse @ column)
        if weight < 1e-12:
            continue
        off = float(column @ inverse @ missed) / weight
        rest = whole - off**2 * weight
        wall = room.walls[index % count]
        is_length = index < count
        value = wall.length - off if is_length else round(wall.turn - degrees(off))
        if rest <= _WITHIN[conditions - 1] and (value > 0 if is_length else abs(value) < 180):
            what: Literal["length", "turn"] = "length" if is_length else "turn"
            found.append((not (is_length and wall.provenance == "paced"), rest, Slip(wall.id, what, value)))
    if any(not taped for taped, _, _ in found):
        found = [one for one in found if not one[0]]
    return tuple(slip for _, _, slip in sorted(found, key=lambda one: one[1]))
