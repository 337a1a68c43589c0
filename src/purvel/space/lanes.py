"""Feed lanes: how far a board can run in and out of a machine here, and what stops it.

A lane is a straight strip as wide as the stock, centred on the feed line, in the height band from the table to the top of the stock. What has its
bottom below the band's top and its top above the band's bottom blocks it; touching does not. Walls block at every height except through an opening
that is open and tall enough. A machine never blocks its own lane.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, radians, sin

from purvel.libraries import Array, np
from purvel.shop import Room, Stock, Thing
from purvel.space.ground import Ground, Kind, Side, sides
from purvel.space.traverse import Point

TOUCH = 1e-6  # m: closer than this is touching
_BEYOND = 200.0  # m: nothing stops it within this

SHEETS: tuple[tuple[float, float], ...] = ((2.44, 1.22), (1.83, 1.22), (1.52, 1.52), (1.22, 1.22), (1.22, 0.61), (0.61, 0.61))
"""Sheets as sold, whole and cut down [m]: 8 x 4 ft, 6 x 4, 5 x 5, 4 x 4, 4 x 2, 2 x 2."""
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
    """One machine's lane for one stock. `low` and `high` bound the height band; `longest_board` is min(in, out) less the hand room."""

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

    @property
    def fits(self) -> bool:
        """Whether the stock that is worked here can be fed."""
        return self.longest_board + TOUCH >= self.stock_length


def lane(thing: Thing, stock: Stock, hand_room: float, plan: Ground, room: Room) -> Lane | None:
    """The lane of one machine for one stock; None for what has no feed. Lengths in metres."""
    if thing.feed is None or thing.work_height is None:
        return None
    stock = thing.stock or stock
    origin = thing.spot(thing.feed.x, thing.feed.y)
    direction = (thing.angle + thing.feed.direction) % 360.0
    low = thing.z + thing.work_height
    high = low + stock.thickness
    walls = sides(room) if room.ceiling.slopes else {}

    widths = (stock.width, *SHEET_WIDTHS) if thing.feed.sheets else (stock.width,)
    runs = _free_runs(thing.id, origin, direction, widths, low, high, plan, room, walls)
    into, out = runs[0]
    longest = max(0.0, min(into.length, out.length) - hand_room)
    sheet = _largest_sheet(dict(zip(SHEET_WIDTHS, runs[1:])), hand_room) if thing.feed.sheets else None
    return Lane(thing.id, origin, direction, stock.width, low, high, into, out, hand_room, stock.length, longest, sheet)


def _largest_sheet(runs: dict[float, tuple[FreeRun, FreeRun]], hand_room: float) -> Sheet | None:
    for size in SHEETS:
        for along, across in (size, size[::-1]):
            into, out = runs[across]
            if along <= min(into.length, out.length) - hand_room + TOUCH:
                return Sheet(along, across)
    return None


def _free_runs(
    own: str,
    origin: Point,
    direction: float,
    widths: tuple[float, ...],
    low: float,
    high: float,
    plan: Ground,
    room: Room,
    walls: dict[str, Side],
) -> list[tuple[FreeRun, FreeRun]]:
    """In and out for a strip of each width."""
    if plan.ceiling < high - TOUCH:
        under = FreeRun(0.0, ("ceiling", ""))
        return [(under, under)] * len(widths)
    in_band = (plan.bottom < high - TOUCH) & (plan.top > low + TOUCH)
    candidates = [i for i in np.flatnonzero(in_band) if plan.names[i] != ("thing", own) and plan.names[i][0] != "ceiling"]
    pieces = plan.pieces[candidates]
    names = [plan.names[i] for i in candidates]
    for slope in room.ceiling.slopes:
        if slope.low < high and slope.wall in walls:
            pieces = np.concatenate([pieces, _under_slope(walls[slope.wall], slope.low, slope.run, plan.ceiling, high)[None]])
            names.append(("ceiling", slope.wall))
    near, far = extent_along(pieces, origin, direction, widths)
    out = np.where(far > TOUCH, np.maximum(near, 0.0), np.inf)
    into = np.where(near < -TOUCH, np.maximum(-far, 0.0), np.inf)
    return [(_nearest(behind, names), _nearest(ahead, names)) for behind, ahead in zip(into, out)]


def _under_slope(side: Side, low: float, run: float, ceiling: float, height: float) -> Array:
    """The floor along a wall over which the sloping ceiling is below `height`."""
    reach = run * min(1.0, (height - low) / (ceiling - low))
    ends = (-50.0, side.length + 50.0)
    return np.array([side.at(ends[0]), side.at(ends[1]), side.at(ends[1], -reach), side.at(ends[0], -reach)])


def _nearest(distances: Array, names: list[tuple[Kind, str]]) -> FreeRun:
    if distances.size == 0 or not np.isfinite(distances).any():
        return FreeRun(_BEYOND, None)
    index = int(np.argmin(distances))
    return FreeRun(float(distances[index]), names[index])


def extent_along(pieces: Array, origin: Point, direction: float, widths: Sequence[float]) -> tuple[Array, Array]:
    """Where along the feed line the part of each convex piece (n, 4, 2) inside a strip begins and ends, for each width: two arrays (widths, n).

    (inf, -inf) where a piece is clear of the strip.
    """
    c, s = cos(radians(direction)), sin(radians(direction))
    moved = pieces - np.asarray(origin)
    u = moved[..., 0] * c + moved[..., 1] * s
    v = -moved[..., 0] * s + moved[..., 1] * c
    half = (np.asarray(widths) / 2 - TOUCH)[:, None, None]
    following = (1, 2, 3, 0)
    du, dv = u[:, following] - u, v[:, following] - v
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
