"""Air cleaners: what fans move through panels, how far a jet throws, how much of the room a cleaner
reaches by where it hangs.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import sqrt

THROW_SPEED = 0.25  # m/s: a jet whose middle has fallen to this stirs the room no more [trade practice]
JET = 5.0  # [-], of a free jet from a compact opening: v = JET v0 sqrt(A) / x [ASHRAE Fundamentals, 4 to 6]
BEST_SHARE, LEAST_SHARE = 0.9, 0.5  # of the room that a cleaner reaches, at best and at worst [guesses]
HIGH = 1.5  # m above the floor: dust hangs there as long as anywhere, and it is clear of what stands [choice]
CLOSE = 1.5  # m: a jet that meets something sooner turns back to the cleaner's own intake [a guess]
BEHIND = 0.15  # m free before an intake [trade practice]
NEAR_COLLECTOR = 1.5  # m from a collector: it takes what that blows out, or feeds what it takes in [a guess]
REACHES = 0.6  # of the longer side of the room that a throw should cover [a guess]
# what speaks against a place costs of the share [guesses]
_COSTS = {"low": 0.1, "blocked": 0.15, "intake": 0.1, "collector": 0.1, "short": 0.1}


def throw(flow: float, outlet: float) -> float:
    """How far a cleaner blows [m] until its jet is down to 0.25 m/s, from flow [m3/s] and outlet [m2]: x =
    5 Q / (0.25 sqrt(A)).

    Free jets from compact openings, K 4 to 6 (ASHRAE); medium confidence. 0.2 m3/s out of 0.16 m2:

    >>> throw(0.2, 0.16)
    10.0
    """
    return JET * flow / (THROW_SPEED * sqrt(outlet)) if outlet > 0 else 0.0


def built_flow(
    fans: int, free_flow: float, shut_off: float, panels: int, area: float, resistance: float
) -> tuple[float, float]:
    """What `fans` side by side move through `panels` side by side: flow [m3/s] and the pressure across both
    [Pa]. Each fan falls straight from `shut_off` [Pa] at no flow to `free_flow` [m3/s] at no pressure; a
    panel of `area` [m2] loses `resistance` [Pa s/m] times the speed through it.

    Plain axial fans against pleated paper; low confidence. One fan of 0.7 m3/s and 40 Pa, four panels of 0.23
    m2 and 50 Pa s/m: 40 = q (40 / 0.7 + 50 / 0.92):

    >>> round(built_flow(1, 0.7, 40.0, 4, 0.23, 50.0)[0], 4)
    0.3588
    """
    if not (fans and panels and free_flow > 0 and shut_off > 0 and area > 0):
        return 0.0, 0.0
    own, across = shut_off / (fans * free_flow), resistance / (panels * area)
    flow = shut_off / (own + across)
    return flow, flow * across


@dataclass(frozen=True, slots=True)
class Place:
    """Where a cleaner hangs: the height of its middle [m], free way before its outlet and behind its intake
    [m], its throw [m], the longer side of the room [m], how near a collector is [m].
    """

    height: float
    before: float
    behind: float
    throw: float
    longest: float
    collector: float


def against(place: Place) -> Iterator[str]:
    """What speaks against a place: keys of what it costs."""
    if place.height < HIGH:
        yield "low"
    if place.before < min(CLOSE, place.throw):
        yield "blocked"
    if place.behind < BEHIND:
        yield "intake"
    if place.collector < NEAR_COLLECTOR:
        yield "collector"
    if min(place.before, place.throw) < REACHES * place.longest:
        yield "short"


def reached(place: Place) -> float:
    """The share of the room that a cleaner's flow counts for by its place [-], 0.5 to 0.9: the usual 0.7 to
    0.9 for bypass and short circuits, less for what speaks against the place.

    A guess that keeps the order of places right; a decay measured with it running is worth more.

    >>> round(reached(Place(2.2, 4.0, 0.5, 6.0, 5.0, 4.0)), 2)
    0.9
    """
    return max(LEAST_SHARE, BEST_SHARE - sum(_COSTS[key] for key in against(place)))


def changes_for(flow: float, volume: float) -> float:
    """Air changes an hour [1/h] of a flow of clean air [m3/s] in a volume [m3].

    >>> changes_for(0.1, 60.0)
    6.0
    """
    return 3600.0 * flow / volume
