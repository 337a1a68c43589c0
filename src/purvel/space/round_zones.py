"""Round zones: in which directions stock can lie at a machine where it is turned about a mark, such as a
drill press, a scroll saw or a disc sander.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from purvel.libraries import Array, Mask, np
from purvel.shop import Stock, Thing
from purvel.space.ground import Ground
from purvel.space.lanes import feed_of
from purvel.space.shell import Shell
from purvel.space.strips import TOUCH
from purvel.space.traverse import Point

_DIRECTIONS = 360  # whole degrees that are tried
_NO_EDGE = 1e-9  # m: corners this near are one
_REMEMBERED = 1024  # places of which the free directions are kept


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
    is_solid, own = np.array([kind != "ceiling" for kind, _ in plan.names], dtype=bool), plan.rows
    for thing in things:
        if thing.feed is None or thing.feed.how != "round" or thing.work_height is None:
            continue
        line = feed_of(thing, thing.stock or stock)
        blocks = (plan.bottom < line.high - TOUCH) & (plan.top > line.low + TOUCH)
        blocks &= is_solid
        blocks[own.get(("thing", thing.id), [])] = False
        begins, ends = (0.0, line.stock.length) if thing.feed.at_end else _halves(line.stock.length)
        blocks &= _is_near(plan.bounds, line.origin, np.hypot(ends, line.stock.width / 2))
        pieces = [plan.pieces[blocks]]
        pieces += [
            shell.under_slope(slope, line.high)[None] for slope in shell.slopes if slope.low < line.high
        ]
        near = np.concatenate(pieces) - line.origin
        is_low = plan.ceiling < line.high - TOUCH
        free = () if is_low else _free_spans(near.tobytes(), begins, ends, line.stock.width)
        found[thing.id] = RoundZone(
            thing.id,
            line.origin,
            line.stock.length,
            line.stock.width,
            line.low,
            line.high,
            thing.feed.at_end,
            free,
        )
    return found


@lru_cache(_REMEMBERED)
def _free_spans(pieces: bytes, begins: float, ends: float, width: float) -> tuple[tuple[float, float], ...]:
    """The free spans between pieces, as bytes; when something moves, nothing is new near most machines."""
    return _spans(_free(np.frombuffer(pieces).reshape(-1, 4, 2), begins, ends, width))


def _halves(length: float) -> tuple[float, float]:
    return -length / 2, length / 2


def _is_near(bounds: tuple[Array, Array], mark: Point, reach: float) -> Mask:
    """Which pieces, given by their bounds [m], come nearer to the mark than `reach`."""
    low, high = bounds
    away = np.maximum(0.0, np.maximum(low - mark, mark - high))
    return np.asarray(np.hypot(away[:, 0], away[:, 1]) < reach)


def _free(pieces: Array, begins: float, ends: float, width: float) -> Array:
    """In which directions (360,) a board that lies from `begins` to `ends` [m] from the mark meets no piece
    (n, 4, 2). About its middle a board lies alike after half a turn.

    Separating axes, as in `clearances.depths`: board and piece are apart if they are so along the normal of
    an edge of one of them.
    """
    count = _DIRECTIONS // 2 if begins == -ends else _DIRECTIONS
    turn = np.radians(np.arange(count))[:, None, None]
    c, s = np.cos(turn), np.sin(turn)
    u, v = pieces[..., 0] * c + pieces[..., 1] * s, pieces[..., 1] * c - pieces[..., 0] * s
    shared = np.minimum(ends - u.min(axis=-1), u.max(axis=-1) - begins)
    np.minimum(shared, width / 2 - v.min(axis=-1), out=shared)
    np.minimum(shared, width / 2 + v.max(axis=-1), out=shared)
    edges = np.roll(pieces, -1, axis=1) - pieces
    size = np.hypot(edges[..., 0], edges[..., 1])
    axes = np.stack([edges[..., 1], -edges[..., 0]], axis=-1) / np.maximum(size, _NO_EDGE)[..., None]
    own = np.einsum("pkc,pac->pak", pieces, axes)
    along, across = axes[..., 0] * c + axes[..., 1] * s, axes[..., 1] * c - axes[..., 0] * s
    middle, half = (
        along * (begins + ends) / 2,
        np.abs(along) * (ends - begins) / 2 + np.abs(across) * width / 2,
    )
    on_own = np.minimum(middle + half - own.min(axis=-1), own.max(axis=-1) - middle + half)
    on_own[:, size < _NO_EDGE] = np.inf
    np.minimum(shared, on_own.min(axis=-1), out=shared)
    free = (shared <= TOUCH).all(axis=1)
    return np.tile(free, _DIRECTIONS // count)


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
