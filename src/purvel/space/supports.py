"""What carries the board behind a machine: how level, how near, how far it reaches."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from purvel.libraries import Array, np
from purvel.shop import Thing
from purvel.space.ground import footprints
from purvel.space.lanes import Lane
from purvel.space.strips import extent_along

Uses = Mapping[str, str]
"""What kinds are for: those for "outfeed" and the "bench" are set up to carry stock."""
_NEAR = 0.30  # m: what stands within this behind a machine is there to carry the board [trade practice]
_NEAR_OUTFEED = 0.60  # m: for what is made for it
_LOW = {"outfeed": 0.30, "bench": 0.15}  # m below the table, by what it is for
_OTHER_LOW = 0.03  # m: beyond this a cabinet or a box is no support
_HIGH = 0.05  # m above it: more is in the way of the lane


@dataclass(frozen=True, slots=True)
class Support:
    """Something behind a machine that carries its board or is meant to: how much higher it is than the
    machine's table [m], the gap between both, and how far from the cutter it reaches [m].
    """

    machine: str
    other: str
    step: float
    gap: float
    far: float

    @property
    def longest_that_stays(self) -> float:
        """A board of even weight stays while its middle lies over the support [m] (statics)."""
        return 2.0 * self.far

    @property
    def shortest_that_passes(self) -> float:
        """A board that does not drop into the gap is twice as long as that is wide [m] (statics)."""
        return 2.0 * max(self.gap, 0.0)


def supports(lanes: Mapping[str, Lane], things: Sequence[Thing], uses: Uses) -> list[Support]:
    """All supports behind machines through which boards are fed, by machine, nearest first."""
    fed = [lane for lane in lanes.values() if not lane.across]
    others = [thing for thing in things if thing.feed is None]
    if not fed or not others:
        return []
    near, far = _extents(fed, others)
    tops = np.array([thing.z + thing.height for thing in others])
    low = np.array([_LOW.get(uses.get(thing.kind, ""), _OTHER_LOW) for thing in others])
    reach = np.array([_NEAR_OUTFEED if uses.get(thing.kind) == "outfeed" else _NEAR for thing in others])
    size = np.array([max(thing.width, thing.depth) for thing in others])
    edges = own_reach(fed, things)[:, None]
    steps, gaps = tops - np.array([[lane.low] for lane in fed]), near - edges
    carry = np.isfinite(near) & (far > edges) & (gaps >= -size) & (gaps <= reach)
    carry &= (steps >= -low) & (steps <= _HIGH)
    found = []
    for row in range(len(fed)):
        ordered = np.flatnonzero(carry[row])[
            np.argsort(np.maximum(gaps[row][carry[row]], 0.0), kind="stable")
        ]
        found += [
            Support(
                fed[row].thing,
                others[k].id,
                float(steps[row, k]),
                max(float(gaps[row, k]), 0.0),
                float(far[row, k]),
            )
            for k in ordered
        ]
    return found


def own_reach(lanes: Sequence[Lane], things: Sequence[Thing]) -> Array:
    """How far behind the cutter the machine's own table reaches in each lane (n,) [m]."""
    by_id = {thing.id: thing for thing in things}
    _, far = _extents(lanes, [by_id[lane.thing] for lane in lanes])
    return np.maximum(far.diagonal(), 0.0)


def _extents(lanes: Sequence[Lane], things: Sequence[Thing]) -> tuple[Array, Array]:
    """From where to where along each lane each thing lies within its strip [m from the cutter]: two arrays
    (lanes, things).
    """
    near, far = extent_along(
        footprints(things),
        np.array([lane.origin for lane in lanes]),
        np.array([lane.direction for lane in lanes]),
        np.array([[lane.width] for lane in lanes]),
    )
    return near[:, 0], far[:, 0]
