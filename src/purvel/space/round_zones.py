"""Round zones: in which directions stock can lie at a machine where it is turned about a mark, such as a
drill press, a scroll saw or a disc sander.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

from purvel.libraries import Array, np
from purvel.shop import Stock, Thing
from purvel.space.clearances import depths
from purvel.space.ground import Ground
from purvel.space.lanes import TOUCH, feed_of
from purvel.space.shell import Shell
from purvel.space.traverse import Point

_DIRECTIONS = 360  # whole degrees that are tried


@dataclass(frozen=True, slots=True)
class RoundZone:
    """The directions [deg, on the plan] in which the stock can lie: spans from, to; all round is (0, 360).

    `length` and `width` of the stock [m]; the mark is in its middle, or at the middle of its end.
    """

    thing: str
    mark: Point
    length: float
    width: float
    low: float
    high: float
    at_end: bool
    free: tuple[tuple[float, float], ...]

    @property
    def is_all_round(self) -> bool:
        """Whether it can be turned all round."""
        return self.free == ((0.0, 360.0),)

    @property
    def share(self) -> float:
        """The share of all directions that is free [-]."""
        return sum(end - start for start, end in self.free) / 360.0


def round_zones(things: Sequence[Thing], stock: Stock, plan: Ground, shell: Shell) -> dict[str, RoundZone]:
    """The round zones by machine, for the machine's own stock or the shop's, at table height.

    Directions are tried to 1 degree; a span holds all whole degrees that are free. Blocks as a lane is
    blocked; the machine never blocks its own.
    """
    found = {}
    for thing in things:
        if thing.feed is None or thing.feed.how != "round" or thing.work_height is None:
            continue
        line = feed_of(thing, thing.stock or stock)
        blocks = (plan.bottom < line.high - TOUCH) & (plan.top > line.low + TOUCH)
        blocks &= np.array([name[0] != "ceiling" and name != ("thing", thing.id) for name in plan.names])
        pieces = [plan.pieces[blocks]]
        pieces += [
            shell.under_slope(slope, line.high)[None] for slope in shell.slopes if slope.low < line.high
        ]
        boards = _boards(line.origin, line.stock.length, line.stock.width, at_end=thing.feed.at_end)
        free = _free(boards, _near(np.concatenate(pieces), line.origin, boards))
        if plan.ceiling < line.high - TOUCH:
            free[:] = False
        found[thing.id] = RoundZone(
            thing.id,
            line.origin,
            line.stock.length,
            line.stock.width,
            line.low,
            line.high,
            thing.feed.at_end,
            _spans(free),
        )
    return found


def _boards(mark: Point, length: float, width: float, *, at_end: bool) -> Array:
    """The corners of the stock in each direction (360, 4, 2)."""
    begins, ends = (0.0, length) if at_end else (-length / 2, length / 2)
    along, across = np.array([begins, ends, ends, begins]), width / 2 * np.array([-1.0, -1.0, 1.0, 1.0])
    turn = np.radians(np.arange(_DIRECTIONS))[:, None]
    x = mark[0] + along * np.cos(turn) - across * np.sin(turn)
    y = mark[1] + along * np.sin(turn) + across * np.cos(turn)
    return np.stack([x, y], axis=-1)


def _near(pieces: Array, mark: Point, boards: Array) -> Array:
    """The pieces that any of the boards could meet."""
    reach = float(np.linalg.norm(boards[0] - mark, axis=-1).max())
    low, high = pieces.min(axis=1), pieces.max(axis=1)
    away = np.linalg.norm(np.maximum(0.0, np.maximum(low - mark, mark - high)), axis=-1)
    return np.asarray(pieces[away < reach])


def _free(boards: Array, pieces: Array) -> Array:
    """Which boards meet no piece (360,). About its middle a board lies alike after half a turn."""
    half = len(boards) // 2
    if np.allclose(boards[half].mean(axis=0), boards[0].mean(axis=0)):
        return np.asarray(np.tile(_clear(boards[:half], pieces), 2))
    return _clear(boards, pieces)


def _clear(boards: Array, pieces: Array) -> Array:
    count, blocks = len(boards), len(pieces)
    shared = depths(np.repeat(boards, blocks, axis=0), np.tile(pieces, (count, 1, 1)))
    return np.asarray((shared.reshape(count, blocks) <= TOUCH).all(axis=1))


def _spans(free: Array) -> tuple[tuple[float, float], ...]:
    """Whole degrees that are free as spans round the circle; one that passes 0 ends beyond 360."""
    if free.all():
        return ((0.0, 360.0),)
    if not free.any():
        return ()
    start = int(np.flatnonzero(np.logical_not(free))[0])
    spans, at = [], start
    for is_free, run in itertools.groupby(np.roll(free, -start)):
        count = len(list(run))
        if is_free:
            spans.append((float(at), float(at + count - 1)))
        at += count
    return tuple(sorted((a - 360.0, b - 360.0) if a >= 360 else (a, b) for a, b in spans))
