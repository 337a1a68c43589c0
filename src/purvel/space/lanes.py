"""Feed lanes: how far a board can run in and out of a machine here, and what stops it.

A lane is a straight strip as wide as the stock, centred on the feed line, in the height band from the table
to the top of the stock. What has its bottom below the band's top and its top above the band's bottom blocks
it; touching does not. Walls block at every height except through an opening that is open and tall enough. A
machine never blocks its own lane.

Where another operation at the machine has the board lie otherwise, that has a lane of its own: on edge the
strip is as wide as the board is thick, and the band as high as it is wide; across the feed the board lies
still left and right of the blade but is pushed past it, so the strip is twice as wide as the board.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from purvel.libraries import Array, Indices, np, shapely
from purvel.shop import Stock, Thing
from purvel.shop.things import Lies
from purvel.space.ground import Ground, Kind
from purvel.space.shell import TOUCH_AREA, Shell
from purvel.space.strips import TOUCH, extent_along, strip
from purvel.space.traverse import Point

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
    """How far a strip runs without a block [m], and what it meets there; how far it would run without that,
    and what it would meet then.
    """

    length: float
    stopped_by: tuple[Kind, str] | None
    then: float = 0.0
    then_by: tuple[Kind, str] | None = None


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
    the board on either side of the blade [m]. `operation` is what it is the lane of, "" for what the feed
    says; `throws` that a board may come back along it.
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
    operation: str = ""
    throws: bool = False

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
    lines = [feed_of(thing, thing.stock or stock) for thing in _fed(things)]
    return {one.thing: one for one in _lanes(lines, hand_room, plan, shell)}


Ways = Mapping[str, Sequence[tuple[str, Lies]]]
"""Operations at which a board lies otherwise than the feed says, and how, by kind."""


def other_lanes(
    things: Sequence[Thing], ways: Ways, stock: Stock, hand_room: float, plan: Ground, shell: Shell
) -> list[Lane]:
    """The lanes of the operations at which boards lie otherwise than their machine's feed says."""
    lines = [
        _turned(feed_of(thing, thing.stock or stock), operation, lies)
        for thing in _fed(things)
        if thing.feed is not None and thing.feed.how == "through"
        for operation, lies in ways.get(thing.kind, ())
    ]
    return _lanes(lines, hand_room, plan, shell)


def _fed(things: Sequence[Thing]) -> list[Thing]:
    return [
        thing
        for thing in things
        if thing.feed is not None and thing.feed.how != "round" and thing.work_height is not None
    ]


def _lanes(lines: Sequence[FeedLine], hand_room: float, plan: Ground, shell: Shell) -> list[Lane]:
    """The lanes of feed lines, in their order."""
    found: dict[int, Lane] = {}
    for with_sheets in (False, True):
        feeds = [(k, one) for k, one in enumerate(lines) if one.sheets is with_sheets]
        widths = [(one.width, *(SHEET_WIDTHS if with_sheets else ())) for _, one in feeds]
        for (k, one), runs in zip(
            feeds, _free_runs([one for _, one in feeds], np.array(widths), plan, shell)
        ):
            into, out = runs[0]
            room = 0.0 if one.across else hand_room
            longest = longest_of(into.length, out.length, room, one.across)
            sheet = _largest_sheet(dict(zip(SHEET_WIDTHS, runs[1:])), room) if with_sheets else None
            found[k] = Lane(
                one.thing,
                one.origin,
                one.direction,
                one.width,
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
                one.operation,
                one.throws,
            )
    return [found[k] for k in range(len(lines))]


def shared_floor(lanes: Mapping[str, Lane]) -> dict[str, tuple[str, ...]]:
    """By machine, the others whose boards go over floor that its own go over too: one is used at a time."""
    ids, found = list(lanes), {name: list[int]() for name in lanes}
    if len(ids) > 1:
        strips = np.asarray(shapely.polygons([used_floor(one) for one in lanes.values()]))
        one, other = shapely.STRtree(strips).query(strips, predicate="intersects")
        one, other = one[one < other], other[one < other]
        areas = shapely.area(shapely.intersection(strips[one], strips[other]))
        for a, b in zip(one[areas > TOUCH_AREA].tolist(), other[areas > TOUCH_AREA].tolist()):
            found[ids[a]].append(b)
            found[ids[b]].append(a)
    return {name: tuple(ids[k] for k in sorted(others)) for name, others in found.items()}


def used_floor(one: Lane) -> Array:
    """The floor that the machine's boards go over, hands included, as far as it is free."""
    reach = one.stock_length + one.hand_room
    return strip(
        one.origin, one.direction, -min(reach, one.into.length), min(reach, one.out.length), one.width
    )


def longest_of(into: float, out: float, hand_room: float, across: bool) -> float:
    """The longest board with these free runs [m]: fed through, or cut anywhere, turned end for end."""
    tight, wide = sorted((into, out))
    return min(wide, 2 * tight) if across else max(0.0, tight - hand_room)


@dataclass(frozen=True, slots=True)
class FeedLine:
    """Where a machine is fed, or where its board lies: in plan metres, the strip's width and height band."""

    thing: str
    stock: Stock
    origin: Point
    direction: float
    width: float
    low: float
    high: float
    across: bool
    sheets: bool = False
    throws: bool = False
    operation: str = ""


def feed_of(thing: Thing, stock: Stock) -> FeedLine:
    """The line along which a machine's feed says that stock lies."""
    assert thing.feed is not None and thing.work_height is not None
    low = thing.z + thing.work_height
    return FeedLine(
        thing.id,
        stock,
        thing.spot(thing.feed.x, thing.feed.y),
        (thing.angle + thing.feed.direction) % 360.0,
        stock.width,
        low,
        low + stock.thickness,
        thing.feed.how == "across",
        thing.feed.sheets,
        thing.feed.throws and thing.feed.how == "through",
    )


def _turned(line: FeedLine, operation: str, lies: Lies) -> FeedLine:
    """The line where the board lies otherwise; seen from where one feeds, left comes before right."""
    stock = line.stock
    if lies == "on edge":
        high = line.low + stock.width
        return replace(line, width=stock.thickness, high=high, sheets=False, operation=operation)
    direction, width = (line.direction - 90.0) % 360.0, 2 * stock.width
    return replace(
        line, direction=direction, width=width, across=True, sheets=False, throws=False, operation=operation
    )


def _held(one: FeedLine, plan: Ground) -> tuple[float, float]:
    """How far from the blade the machine and what lies level with it carry a board to the left and right [m];
    a gap of `LEAST_GAP` is bridged.
    """
    near, far = (
        ends[0, 0]
        for ends in extent_along(
            plan.pieces, np.array([one.origin]), np.array([one.direction]), np.array([[one.width]])
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
    under_all = FreeRun(0.0, ("ceiling", ""), 0.0, ("ceiling", ""))
    return [
        [(under_all, under_all)] * widths.shape[1] if plan.ceiling < one.high - TOUCH else row
        for one, row in zip(feeds, runs)
    ]


def _nearest(distances: Array, names: Sequence[tuple[Kind, str]]) -> list[list[FreeRun]]:
    """The first block in each strip, and in the first strip of each feed what comes behind it: distances
    (feeds, widths, pieces).
    """
    if distances.shape[-1] == 0:
        return [[FreeRun(_BEYOND, None, _BEYOND)] * distances.shape[1] for _ in distances]
    first, shortest = _least(distances)
    number = {name: i for i, name in enumerate(names)}
    body = np.array([number[name] for name in names])  # the same for all pieces of a body
    own = body[first[:, :1, None]] == body
    then, longer = _least(np.where(own, np.inf, distances[:, :1]))

    def met(length: float, i: int) -> tuple[float, tuple[Kind, str] | None]:
        return (length, names[i]) if length < np.inf else (_BEYOND, None)

    found = []
    for lengths, pieces, (far,), (behind,) in zip(
        shortest.tolist(), first.tolist(), longer.tolist(), then.tolist()
    ):
        row = [FreeRun(*met(length, i)) for length, i in zip(lengths, pieces)]
        row[0] = FreeRun(row[0].length, row[0].stopped_by, *met(far, behind))
        found.append(row)
    return found


def _least(distances: Array) -> tuple[Indices, Array]:
    """Along the last axis, which is the least and how much that is."""
    first = distances.argmin(axis=-1)
    return first, np.take_along_axis(distances, first[..., None], axis=-1)[..., 0]
