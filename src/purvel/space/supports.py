"""What carries the board behind a machine: how level, how near, how far it reaches."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from purvel.libraries import np
from purvel.shop import Thing
from purvel.space.ground import footprint
from purvel.space.lanes import Lane, extent_along

TABLES = ("outfeed-table", "workbench", "assembly-table")
"""Kinds that are set up to carry stock."""
_NEAR = 0.30  # m: what stands within this behind a machine is there to carry the board [trade practice]
_NEAR_OUTFEED = 0.60  # m: for what is made for it
_LOW = {"outfeed-table": 0.30, "workbench": 0.15, "assembly-table": 0.15}  # m below the table, by kind
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


def supports(lanes: Mapping[str, Lane], things: Sequence[Thing]) -> list[Support]:
    """All supports behind machines through which boards are fed, by machine, nearest first."""
    found = []
    for lane in lanes.values():
        if not lane.across:
            found += sorted(_behind(lane, things), key=lambda one: one.gap)
    return found


def own_reach(lane: Lane, things: Sequence[Thing]) -> float:
    """How far behind the cutter a machine's own table reaches [m]."""
    machine = next(thing for thing in things if thing.id == lane.thing)
    return max(0.0, _extent(lane, machine)[1])


def _behind(lane: Lane, things: Sequence[Thing]) -> Iterator[Support]:
    edge = own_reach(lane, things)
    for thing in things:
        if thing.id == lane.thing or thing.feed is not None:
            continue
        near, far = _extent(lane, thing)
        step, gap = thing.z + thing.height - lane.low, near - edge
        if not np.isfinite(near) or far <= edge or gap < -max(thing.width, thing.depth):
            continue
        reach = _NEAR_OUTFEED if thing.kind == "outfeed-table" else _NEAR
        if gap <= reach and -_LOW.get(thing.kind, _OTHER_LOW) <= step <= _HIGH:
            yield Support(lane.thing, thing.id, step, max(gap, 0.0), far)


def _extent(lane: Lane, thing: Thing) -> tuple[float, float]:
    """From where to where along the lane a thing lies within its strip [m from the cutter]."""
    line = (np.array([lane.origin]), np.array([lane.direction]), np.array([[lane.width]]))
    near, far = (ends[0, 0, 0] for ends in extent_along(footprint(thing)[None], *line))
    return float(near), float(far)
