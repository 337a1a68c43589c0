"""A wall seen from inside the room: what is in it and what stands before it, along the wall and up."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from purvel.libraries import np
from purvel.shop import Fixture, Run, Thing
from purvel.space.clearances import span
from purvel.space.ground import footprint
from purvel.space.shell import Side

BEFORE = 1.2  # m from the wall: what stands nearer is drawn before it
AGAINST = 0.15  # m: what stands nearer stands against it
NEAR_DUCT = 0.35  # m: a duct or gate nearer than this is on the wall


@dataclass(frozen=True, slots=True)
class Standing:
    """Something before a wall: its id, from where to where along the wall, from where to where up [m], how
    far off the wall it begins, and how far it reaches out.
    """

    id: str
    left: float
    right: float
    low: float
    high: float
    off: float
    out: float


def standing_before(side: Side, items: Sequence[Thing | Fixture]) -> list[Standing]:
    """What stands within reach before a wall, the farthest first."""
    found = []
    origin, along, inward = np.array(side.start), np.array(side.along), -np.array(side.out)
    for item in items:
        corners = footprint(item) - origin
        s, away = corners @ along, corners @ inward
        off = float(away.min())
        if off > BEFORE or float(away.max()) < 0 or float(s.max()) <= 0 or float(s.min()) >= side.length:
            continue
        low, high = span(item)
        found.append(
            Standing(item.id, float(s.min()), float(s.max()), low, high, max(0.0, off), float(away.max()))
        )
    return sorted(found, key=lambda one: -one.off)


def duct_lines(side: Side, run: Run) -> list[tuple[tuple[float, float], tuple[float, float]]]:
    """The legs of a run that lie on a wall: from and to, each along the wall and up [m]."""
    origin, along, inward = np.array(side.start), np.array(side.along), -np.array(side.out)
    places = []
    for point in run.points:
        spot = np.array([point.x, point.y]) - origin
        places.append((float(spot @ along), float(spot @ inward), point.z))
    found = []
    for (s, away, z), (t, further, y) in pairwise(places):
        near = max(abs(away), abs(further)) <= NEAR_DUCT
        if near and max(s, t) > 0 and min(s, t) < side.length:
            found.append(((s, z), (t, y)))
    return found


def bench_depth(before: Sequence[Standing], left: float, right: float) -> float:
    """How far one must reach over what stands against a wall between two places along it [m]: the depth of
    what is as high as a bench.
    """
    benches = [
        one.out
        for one in before
        if one.off <= AGAINST and 0.5 <= one.high <= 1.2 and one.left < right and one.right > left
    ]
    return max(benches, default=0.0)
