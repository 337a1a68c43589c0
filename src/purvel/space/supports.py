"""What carries the board behind a machine, and sheets beside it: how level, how near, how far it reaches."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from purvel.libraries import Array, np
from purvel.shop import Thing
from purvel.space.ground import footprints
from purvel.space.lanes import Lane
from purvel.space.strips import extent_along

Uses = Mapping[str, str]
"""What kinds are for: those for "outfeed" and the "bench" are set up to carry stock."""
At = Literal["behind", "left", "right"]
"""Where a support stands, as seen by whoever feeds the machine."""
TURNS: Mapping[At, float] = {"behind": 0.0, "left": 90.0, "right": -90.0}  # deg from the feed
_BESIDE = 0.60  # m of a sheet, about the blade, that what stands beside carries [a guess]
_NEAR = 0.30  # m: what stands within this behind a machine is there to carry the board [trade practice]
_NEAR_OUTFEED = 0.60  # m: for what is made for it
_LOW = {"outfeed": 0.30, "bench": 0.15}  # m below the table, by what it is for
_OTHER_LOW = 0.03  # m: beyond this a cabinet or a box is no support
_HIGH = 0.05  # m above it: more is in the way of the lane


@dataclass(frozen=True, slots=True)
class Support:
    """Something behind or beside a machine that carries its stock or is meant to: how much higher it is than
    the machine's table [m], the gap between both, and how far from the cutter it reaches [m].
    """

    machine: str
    other: str
    step: float
    gap: float
    far: float
    at: At = "behind"

    @property
    def longest_that_stays(self) -> float:
        """A board of even weight stays while its middle lies over the support [m] (statics)."""
        return 2.0 * self.far

    @property
    def shortest_that_passes(self) -> float:
        """A board that does not drop into the gap is twice as long as that is wide [m] (statics)."""
        return 2.0 * max(self.gap, 0.0)


def supports(lanes: Mapping[str, Lane], things: Sequence[Thing], uses: Uses) -> list[Support]:
    """All supports of machines through which stock is fed, by machine, nearest first: behind each, and beside
    those that take sheets.
    """
    fed = [lane for lane in lanes.values() if not lane.across]
    found = _at("behind", fed, [thing for thing in things if thing.feed is None], things, uses)
    tables = [thing for thing in things if thing.feed is None and uses.get(thing.kind) in _LOW]
    by_sheets = {thing.id for thing in things if thing.feed is not None and thing.feed.sheets}
    sheets = [lane for lane in fed if lane.thing in by_sheets]
    sides: tuple[At, At] = ("left", "right")
    for side in sides:
        found += _at(side, sheets, tables, things, uses)
    order = list(lanes)
    return sorted(found, key=lambda one: order.index(one.machine))


def _at(
    at: At, fed: Sequence[Lane], others: Sequence[Thing], things: Sequence[Thing], uses: Uses
) -> list[Support]:
    """The supports at one side of each machine."""
    if not fed or not others:
        return []
    near, far = _extents(fed, others, at)
    tops = np.array([thing.z + thing.height for thing in others])
    low = np.array([_LOW.get(uses.get(thing.kind, ""), _OTHER_LOW) for thing in others])
    reach = np.array([_NEAR_OUTFEED if uses.get(thing.kind) == "outfeed" else _NEAR for thing in others])
    size = np.array([max(thing.width, thing.depth) for thing in others])
    edges = own_reach(fed, things, at)[:, None]
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
                at,
            )
            for k in ordered
        ]
    return found


def own_reach(lanes: Sequence[Lane], things: Sequence[Thing], at: At = "behind") -> Array:
    """How far from the cutter the machine's own table reaches to one side of each lane (n,) [m]."""
    by_id = {thing.id: thing for thing in things}
    _, far = _extents(lanes, [by_id[lane.thing] for lane in lanes], at)
    return np.maximum(far.diagonal(), 0.0)


def _extents(lanes: Sequence[Lane], things: Sequence[Thing], at: At) -> tuple[Array, Array]:
    """From where to where from each cutter to one side each thing lies within the strip of the stock [m]: two
    arrays (lanes, things).
    """
    near, far = extent_along(
        footprints(things),
        np.array([lane.origin for lane in lanes]),
        np.array([lane.direction + TURNS[at] for lane in lanes]),
        np.array([[lane.width if at == "behind" else _BESIDE] for lane in lanes]),
    )
    return near[:, 0], far[:, 0]


# kg/m3/Pa: what a board weighs for what it is stiff, density over modulus, from stiff softwood (450 / 9.5e9)
# over oak (700 / 12.5e9) to birch plywood (680 / 9e9) [wood handbook, medium]; MDF is three times softer
_WEIGHT_TO_STIFFNESS = (4.7e-8, 7.6e-8)
GRAVITY = 9.80665  # m/s2, standard
_HELD, _LYING = 0.125, 0.243  # of w a4 / EI: the end of a board held down at the edge, or lying on the table


def droop(overhang: float, thickness: float) -> tuple[float, float]:
    """How far the free end of a board of solid wood hangs down under its own weight [m], at the least and at
    the most: c 12 rho g a^4 / (E t^2), c between that of a cantilever held down (1/8) and that of a board
    that only lies on its table with as much behind the edge (0.243).

    `overhang` a and `thickness` t in m. Equation: beam theory, w a^4 / 8 EI (any handbook, high).

    >>> [round(1000 * sag, 1) for sag in droop(1.2, 0.019)]
    [4.0, 12.5]
    """
    bent = 12 * GRAVITY * overhang**4 / thickness**2
    low, high = _WEIGHT_TO_STIFFNESS
    return _HELD * low * bent, _LYING * high * bent


def thinnest(gap: float, drop: float) -> float:
    """The thinnest board of solid wood that crosses a gap before its end hangs down by more than a drop [m],
    reckoned at the most that it may hang.

    >>> round(1000 * thinnest(0.3, 0.002), 1)
    3.0
    """
    return float(np.sqrt(droop(gap, 1.0)[1] / drop))


SLOT_FIT = 0.0015  # m by which two mitre slots may be out of line and a bar still runs [trade practice, low]
SLOT_DEPTH = 0.010  # m: a support that lies lower lets the bar pass over it [usual slots are 9.5 mm deep]
BAR = 0.25  # m that the bar of a mitre gauge sticks out behind the table [usual lengths, low]
_AGAINST = 45.0  # deg: what is turned by more has slots that run across


@dataclass(frozen=True, slots=True)
class Slots:
    """Where the bar of a machine's mitre gauge comes out over what stands behind it: how far from its middle
    that needs slots [m], to the right of who feeds, and by how much its own are out of line there [m]; None
    where it has none that run with the feed.
    """

    machine: str
    other: str
    wanted: tuple[float, ...]
    off: tuple[float, ...] | None


def mitre_slots(found: Sequence[Support], things: Sequence[Thing]) -> list[Slots]:
    """The slots that supports need which a bar meets. Slots run along the depth of what has them."""
    by_id = {thing.id: thing for thing in things}
    said = []
    for one in found:
        machine, other = by_id[one.machine], by_id[one.other]
        if one.at != "behind" or one.gap > BAR or one.step < -SLOT_DEPTH or not machine.slots:
            continue
        turn = np.radians(machine.angle)
        right = np.array([np.cos(turn), np.sin(turn)])
        middle = np.array([other.x, other.y])
        wanted = np.array([(np.array(machine.spot(x, 0.0)) - middle) @ right for x in machine.slots])
        off = None
        if other.slots and abs((machine.angle - other.angle + 90.0) % 180.0 - 90.0) < _AGAINST:
            half = other.depth / 2
            ends = np.array([[other.spot(x, y) for y in (-half, half)] for x in other.slots])
            away = (ends - middle) @ right - wanted[:, None, None]  # wanted, slots, ends
            worst = np.take_along_axis(away, np.abs(away).argmax(axis=2)[..., None], axis=2)[..., 0]
            nearest = np.abs(worst).argmin(axis=1)
            off = tuple(worst[np.arange(len(wanted)), nearest].tolist())
        said.append(Slots(one.machine, one.other, tuple(wanted.tolist()), off))
    return said
