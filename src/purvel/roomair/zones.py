"""Rooms that share their air: how much goes through a door, a stair or a hatch."""

from __future__ import annotations

from math import sqrt

from purvel.shop.air import Passage

GRAVITY = 9.80665  # m/s2
ABSOLUTE = 293.0  # K, of a room at 20 degC
# m3/s that people who walk and fans push through an opening besides: little, usually, much [low confidence]
PUSHED = (0.02, 0.05, 0.1)
_SHARP = 0.61  # [-], discharge coefficient of a doorway as of a sharp edge [textbook], the most it may be
_HATCH = 0.1  # [-], of a level vent (Cooper 1989)
_SPREAD = 0.7  # of the central figure: the least that a door may exchange [a guess]


def doorway(width: float, height: float, warmer: float, discharge: float | None = None) -> float:
    """What goes each way through an open door [m3/s] of `width` and `height` [m] for a difference of
    temperature [K]: Q = Cd/3 W H sqrt(g H dT/T), with Cd = 0.40 + 0.0045 dT where none is given (Kiel &
    Wilson 1989).

    A door of 0.9 by 2.03 m and 1 K, as of a sharp edge 0.097 m3/s, by Kiel and Wilson 0.064:

    >>> round(doorway(0.9, 2.03, 1.0, 0.61), 3), round(doorway(0.9, 2.03, 1.0), 3)
    (0.097, 0.064)
    """
    difference = abs(warmer)
    share = min(0.40 + 0.0045 * difference, _SHARP) if discharge is None else discharge
    return share / 3.0 * width * height * sqrt(GRAVITY * height * difference / ABSOLUTE)


def hatch(area: float, warmer: float) -> float:
    """What goes each way through a level opening of `area` [m2] with air below it that is `warmer` [K]: 0.1
    sqrt(2 g dT A^2.5 / (T1 + T2)) (Cooper 1989); nothing where the warm air is above.

    1 m2 and 5 K:

    >>> round(hatch(1.0, 5.0), 3), hatch(1.0, -5.0)
    (0.041, 0.0)
    """
    return _HATCH * sqrt(2.0 * GRAVITY * max(warmer, 0.0) * area**2.5 / (2.0 * ABSOLUTE))


def exchange(passage: Passage) -> tuple[float, float, float]:
    """What a passage exchanges each way while it is open [m3/s]: low, central, high. What is given is taken
    as it is.
    """
    if passage.kind == "given":
        return (passage.exchange,) * 3
    if passage.kind == "hatch":
        middle = most = hatch(passage.width * passage.height, passage.warmer)
    else:
        middle = doorway(passage.width, passage.height, passage.warmer)
        most = doorway(passage.width, passage.height, passage.warmer, _SHARP)
    low, usual, high = PUSHED
    return _SPREAD * middle + low, middle + usual, most + high
