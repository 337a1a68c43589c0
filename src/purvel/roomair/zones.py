"""Rooms that share their air: how much goes through a door, a stair or a hatch, and what dust does in all of
them together, solved exactly.
"""

from __future__ import annotations

from functools import lru_cache
from math import sqrt

from purvel.libraries import Array, np
from purvel.roomair.mixing import respond_apart
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


def respond_linked(
    removal: Array,
    exchanged: Array,
    volumes: Array,
    source: Array,
    start: Array,
    duration: float,
    step: float,
) -> tuple[Array, Array, Array]:
    """As `respond_apart`, for rooms that exchange air: `removal` (S, Z) [1/h] of each size in each room,
    `exchanged` (Z, Z) [m3/h] between each two, symmetric; `volumes` (Z,) [m3]; `source` and `start` (M, S,
    Z), and so (T, M, S, Z) the concentrations and integrals.

    What goes one way comes back, so scaled by the roots of the volumes the system is symmetric: in its own
    directions every course is that of one room, in closed form, however stiff.

    Two rooms of one volume that exchange it once an hour, all dust in one of them: after an hour half of 1 +
    e^-2 of it is there.

    >>> once = np.array([[0.0, 1.0], [1.0, 0.0]])
    >>> dust = np.array([[[1.0, 0.0]]])
    >>> _, states, _ = respond_linked(np.zeros((1, 2)), once, np.ones(2), 0 * dust, dust, 1.0, 1.0)
    >>> round(float(states[-1, 0, 0, 0]), 4)
    0.5677
    """
    many, zones = removal.shape
    rates, into, back = _directions(*(one.astype(float).tobytes() for one in (removal, exchanged, volumes)))
    clock, states, sums = respond_apart(
        rates, source.reshape(-1, many * zones) @ into, start.reshape(-1, many * zones) @ into, duration, step
    )
    states, sums = (
        (one.reshape(-1, many * zones) @ back).reshape(len(clock), -1, many, zones) for one in (states, sums)
    )
    return clock, states, sums


@lru_cache(maxsize=512)  # the same conditions come again over a day
def _directions(removal: bytes, exchanged: bytes, volumes: bytes) -> tuple[Array, Array, Array]:
    """The rates (S Z,) of the system's own directions [1/h], and the matrices from rooms to these and back,
    all sizes at once (S Z, S Z).
    """
    v = np.frombuffer(volumes)
    zones, root = len(v), np.sqrt(v)
    lost, linked = np.frombuffer(removal).reshape(-1, zones), np.frombuffer(exchanged).reshape(zones, zones)
    many = len(lost)
    matrix = np.zeros((many, zones, zones)) - linked / np.outer(root, root)
    matrix[:, np.arange(zones), np.arange(zones)] += lost + linked.sum(axis=1) / v
    rates, ways = np.linalg.eigh(matrix)
    into, back = np.zeros((many, zones, many, zones)), np.zeros((many, zones, many, zones))
    every = np.arange(many)
    into[every, :, every] = root[:, None] * ways
    back[every, :, every] = np.swapaxes(ways, 1, 2) / root
    side = many * zones
    return np.maximum(rates, 0.0).ravel(), into.reshape(side, side), back.reshape(side, side)
