"""Feed lanes: how far a board can run in and out of a machine here, and what stops it.

A lane is a straight strip as wide as the stock, centred on the feed line, in the height band from the table
to the top of the stock. What has its bottom below the band's top and its top above the band's bottom blocks
it; touching does not. Walls block at every height except through an opening that is open and tall enough. A
machine never blocks its own lane.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from purvel.libraries import Array, np
from purvel.shop import Stock, Thing
from purvel.space.ground import Ground, Kind
from purvel.space.shell import Shell
from purvel.space.traverse import Point

TOUCH = 1e-6  # m: closer than this is touching
LEVEL = 0.003  # m: a support may lie this much below the machine's table [trade practice]
PROUD = 0.001  # m: and this much above it, which is within what a rule reads
LEAST_GAP = 0.05  # m: a narrower gap lets nothing drop in
_BEYOND = 200.0  # m: nothing stops it within this

_FOOT = 0.3048  # m
SHEETS: tuple[tuple[float, float], ...] = tuple(
    (long * _FOOT, wide * _FOOT) for long, wide in ((8, 4), (5, 5), (6, 4), (4, 4), (4, 2), (2, 2))
)
"""Sheets as sold, whole and cut down [m], the largest first. Metric sheets of these names are 1 to 2 mm
larger.
"""
SHEET_WIDTHS = tuple(dict.fromkeys(side for size in SHEETS for side in size))


@dataclass(frozen=True, slots=True)
class FreeRun:
    """How far a strip runs without a block [m], and what it meets there."""

    length: float
    stopped_by: tuple[Kind, str] | None


@dataclass(frozen=True, slots=True)
class Sheet:
    """The largest sheet that can be fed: its side along the feed and across it [m]."""

    along: float
    across: float


@dataclass(frozen=True, slots=True)
class Lane:
    """One machine's lane for one stock. `low` and `high` bound the height band; `longest_board` is min(in,
    out) less the hand room.

    Where the board lies still and is cut `across`, in and out are the free strips left and right of the
    blade, no hand room is kept, and `longest_board` is the longest that can be cut anywhere, turned end for
    end: min(max(l, r), 2 min(l, r)). `held` is how far the machine's table and level tops next to it carry
    the board on either side of the blade [m].
    """

    thing: str
    origin: Point
    direction: float
    width: float
    low: float
    high: float
    into: FreeRun
    out: FreeRun
    hand_room: float
    stock_length: float
    longest_board: float
    largest_sheet: Sheet | None
    across: bool = False
    held: tuple[float, float] = (0.0, 0.0)

    @property
    def trims(self) -> float:
        """The longest board off whose end a piece can be cut across [m]."""
        return max(self.into.length, self.out.length)

    @property
    def board(self) -> tuple[float, float]:
        """From where to where along the lane the longest board that is worked here lies [m]: before the
        cutter, or with the cut as near its middle as it goes.
        """
        length = min(self.longest_board, self.stock_length)
        if not self.across:
            return -length, 0.0
        left = min(self.into.length, max(length / 2, length - self.out.length))
        return -left, length - left

    @property
    def fits(self) -> bool:
        """Whether the stock that is worked here can be fed."""
        return self.longest_board + TOUCH >= self.stock_length


def lanes(
    things: Sequence[Thing], stock: Stock, hand_room: float, plan: Ground, shell: Shell
) -> dict[str, Lane]:
    """The lanes of all machines for one stock, by machine; none for what has no feed or a round zone. Lengths
    in metres.
    """
    fed = [
        thing
        for thing in things
        if thing.feed is not None and thing.feed.how != "round" and thing.work_height is not None
    ]
    found: dict[str, Lane] = {}
    for with_sheets in (False, True):
        feeds = [
            feed_of(thing, thing.stock or stock)
            for thing in fed
            if thing.feed is not None and thing.feed.sheets is with_sheets
        ]
        widths = [(one.stock.width, *(SHEET_WIDTHS if with_sheets else ())) for one in feeds]
        for one, runs in zip(feeds, _free_runs(feeds, np.array(widths), plan, shell)):
            into, out = runs[0]
            room = 0.0 if one.across else hand_room
            tight, wide = sorted((into.length, out.length))
            longest = min(wide, 2 * tight) if one.across else max(0.0, tight - room)
            sheet = _largest_sheet(dict(zip(SHEET_WIDTHS, runs[1:])), room) if with_sheets else None
            found[one.thing] = Lane(
                one.thing,
                one.origin,
                one.direction,
                one.stock.width,
                one.low,
                one.high,
                into,
                out,
                room,
                one.stock.length,
                longest,
                sheet,
                one.across,
                _held(one, plan) if one.across else (0.0, 0.0),
            )
    return {thing.id: found[thing.id] for thing in fed}


@dataclass(frozen=True, slots=True)
class FeedLine:
    """Where a machine is fed, or where its board lies, in plan metres."""

    thing: str
    stock: Stock
    origin: Point
    direction: float
    low: float
    high: float
    across: bool


def feed_of(thing: Thing, stock: Stock) -> FeedLine:
    assert thing.feed is not None and thing.work_height is not None
    low = thing.z + thing.work_height
    direction = (thing.angle + thing.feed.direction) % 360.0
    return FeedLine(
        thing.id,
        stock,
        thing.spot(thing.feed.x, thing.feed.y),
        direction,
        low,
        low + stock.thickness,
        thing.feed.how == "across",
    )


def _held(one: FeedLine, plan: Ground) -> tuple[float, float]:
    """How far from the blade the machine and what lies level with it carry a board to the left and right [m];
    a gap of `LEAST_GAP` is bridged.
    """
    near, far = (
        ends[0, 0]
        for ends in extent_along(
            plan.pieces, np.array([one.origin]), np.array([one.direction]), np.array([[one.stock.width]])
        )
    )
    level = (plan.top >= one.low - LEVEL - TOUCH) & (plan.top <= one.low + PROUD + TOUCH)
    own = np.array([name == ("thing", one.thing) for name in plan.names], dtype=bool)
    carries = (level | own) & np.isfinite(near)
    reached = []
    for begins, ends in ((-far, -near), (near, far)):
        reach = max(0.0, float(ends[own].max(initial=0.0)))
        for index in np.flatnonzero(carries)[np.argsort(begins[carries])]:
            if begins[index] <= reach + LEAST_GAP:
                reach = max(reach, float(ends[index]))
        reached.append(reach)
    return reached[0], reached[1]


def _largest_sheet(runs: dict[float, tuple[FreeRun, FreeRun]], hand_room: float) -> Sheet | None:
    for size in SHEETS:
        for along, across in (size, size[::-1]):
            into, out = runs[across]
            if along <= min(into.length, out.length) - hand_room + TOUCH:
                return Sheet(along, across)
    return None


def _free_runs(
    feeds: Sequence[FeedLine], widths: Array, plan: Ground, shell: Shell
) -> list[list[tuple[FreeRun, FreeRun]]]:
    """In and out of each feed for strips of its `widths` (feeds, widths)."""
    if not feeds:
        return []
    low, high = (np.array([getattr(one, key) for one in feeds])[:, None] for key in ("low", "high"))
    names = list(plan.names)
    blocks = (plan.bottom < high - TOUCH) & (plan.top > low + TOUCH)
    index = {name: i for i, name in enumerate(names)}
    for row, one in zip(blocks, feeds):
        if ("thing", one.thing) in index:
            row[index["thing", one.thing]] = False
    blocks &= np.array([kind != "ceiling" for kind, _ in names], dtype=bool)
    pieces = np.broadcast_to(plan.pieces, (len(feeds), *plan.pieces.shape))
    for slope in shell.slopes:
        under = [shell.under_slope(slope, one.high) for one in feeds]
        pieces = np.concatenate([pieces, np.stack(under)[:, None]], axis=1)
        blocks = np.concatenate([blocks, slope.low < high], axis=1)
        names.append(("ceiling", slope.wall))
    near, far = extent_along(
        pieces, np.array([one.origin for one in feeds]), np.array([one.direction for one in feeds]), widths
    )
    out = np.where(blocks[:, None] & (far > TOUCH), np.maximum(near, 0.0), np.inf)
    into = np.where(blocks[:, None] & (near < -TOUCH), np.maximum(-far, 0.0), np.inf)
    runs = [list(zip(*ways)) for ways in zip(_nearest(into, names), _nearest(out, names))]
    under_all = FreeRun(0.0, ("ceiling", ""))
    return [
        [(under_all, under_all)] * widths.shape[1] if plan.ceiling < one.high - TOUCH else row
        for one, row in zip(feeds, runs)
    ]


def _nearest(distances: Array, names: Sequence[tuple[Kind, str]]) -> list[list[FreeRun]]:
    """The first block in each strip: distances (feeds, widths, pieces)."""
    if distances.shape[-1] == 0:
        return [[FreeRun(_BEYOND, None)] * distances.shape[1] for _ in distances]
    first = distances.argmin(axis=-1)
    shortest = np.take_along_axis(distances, first[..., None], axis=-1)[..., 0]
    return [
        [FreeRun(length, names[i]) if length < np.inf else FreeRun(_BEYOND, None) for length, i in zip(*row)]
        for row in zip(shortest.tolist(), first.tolist())
    ]


def extent_along(pieces: Array, origins: Array, directions: Array, widths: Array) -> tuple[Array, Array]:
    """Where along feed lines the part of each convex piece inside a strip begins and ends, for each width:
    two arrays (lines, widths, n) [m].

    `pieces` (lines, n, 4, 2) or (n, 4, 2) for all, `origins` (lines, 2), `directions` (lines,) [deg],
    `widths` (lines, widths). (inf, -inf) where a piece is clear of the strip.
    """
    turn = np.radians(directions)
    c, s = np.cos(turn)[:, None, None], np.sin(turn)[:, None, None]
    moved = pieces - origins[:, None, None, :]
    u = (moved[..., 0] * c + moved[..., 1] * s)[:, None]
    v = (-moved[..., 0] * s + moved[..., 1] * c)[:, None]
    half = (widths / 2 - TOUCH)[:, :, None, None]
    following = (1, 2, 3, 0)
    du, dv = u[..., following] - u, v[..., following] - v
    level = np.abs(dv) < 1e-12
    slope = np.where(level, 1.0, dv)
    a, b = (-half - v) / slope, (half - v) / slope
    early, late = np.minimum(a, b), np.maximum(a, b)
    start = np.where(level, 0.0, np.clip(early, 0.0, 1.0))
    end = np.where(level, 1.0, np.clip(late, 0.0, 1.0))
    within = np.where(level, np.abs(v) < half, (late > 0.0) & (early < 1.0))
    first, last = u + start * du, u + end * du
    near = np.where(within, np.minimum(first, last), np.inf).min(axis=-1, initial=np.inf)
    far = np.where(within, np.maximum(first, last), -np.inf).max(axis=-1, initial=-np.inf)
    return near, far
