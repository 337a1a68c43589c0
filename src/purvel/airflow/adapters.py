"""Chains of adapters between two ends that do not fit: outside into inside, tapers, threads.

An end that goes in is told by its outer diameter, one that goes over by its inner; both may be a range, for a
taper or what stretches. They fit where the one that goes over is wider by no more than the slack.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from heapq import heappop, heappush
from itertools import count
from math import inf

from purvel.shop.ducts import EndForm

SLACK = 0.0008  # m by which what goes over may be wider: a press fit or a turn of tape [trade practice]
MOST = 5  # adapters in a chain: beyond that nobody would
MOST_SANDED, MOST_FILLED = 0.0015, 0.006  # m in diameter that are still sanded off, or wrapped [a guess]
TAPE = 0.00015  # m, of a layer of tape that is wound round [trade practice]

_TOUCH = 1e-9  # m
MATES: dict[EndForm, EndForm] = {
    "spigot": "socket",
    "socket": "spigot",
    "male thread": "female thread",
    "female thread": "male thread",
}
"""What goes with each."""


@dataclass(frozen=True, slots=True)
class End:
    """An end: what it is, its outer (spigot) or inner (socket) diameter from `least` to `most` [m], or the
    name of its thread.
    """

    form: EndForm
    least: float = 0.0
    most: float = 0.0
    thread: str = ""

    @property
    def goes_in(self) -> bool:
        """Whether it goes into the other."""
        return self.form in ("spigot", "male thread")


@dataclass(frozen=True, slots=True)
class Adapter:
    """A kind of adapter: what it is called, and its two ends."""

    name: str
    one: End
    other: End

    def ways(self) -> Iterator[tuple[End, End]]:
        """It either way round: the end that is met first, and the one behind."""
        yield self.one, self.other
        yield self.other, self.one


@dataclass(frozen=True, slots=True)
class Misfit:
    """What has to be done at one joint of a chain, the joint before its adapter of that number: the one that
    goes in is too thick by `sand` [m], or too thin by `fill` [m] beyond the slack, in diameter.
    """

    joint: int
    sand: float
    fill: float

    @property
    def work(self) -> float:
        """How much is to be done [m]."""
        return self.sand + self.fill

    @property
    def layers(self) -> int:
        """How many layers of tape fill it."""
        return round(self.fill / 2 / TAPE + 0.499)


@dataclass(frozen=True, slots=True)
class Chain:
    """Adapters by their numbers, in order; and what does not fit without work, if anything."""

    adapters: tuple[int, ...]
    misfit: Misfit | None = None


def gap(one: End, other: End) -> float:
    """By how much two ends miss each other in diameter [m]: below 0 what goes in is too thick, above 0 it is
    too thin even with no slack at all, 0 where they can touch; infinite for ends that are no pair.

    >>> round(gap(End("spigot", 0.1, 0.1), End("socket", 0.1006, 0.1006)), 4)
    0.0006
    """
    if MATES[one.form] != other.form:
        return inf
    if one.thread or other.thread:
        return 0.0 if one.thread == other.thread else inf
    inside, over = (one, other) if one.goes_in else (other, one)
    if inside.least > over.most + _TOUCH:
        return over.most - inside.least
    return max(0.0, over.least - inside.most)


def fits(one: End, other: End, slack: float = SLACK) -> bool:
    """Whether two ends hold in each other with no more than the slack [m]."""
    return -_TOUCH <= gap(one, other) <= slack + _TOUCH


_State = tuple[float, int, int, End | None, tuple[int, ...], Misfit | None]
"""Work so far, adapters so far, a running number, the end that is open (None: all is joined), the adapters,
what was worked at.
"""


def chain(start: End, end: End, adapters: Sequence[Adapter], slack: float = SLACK) -> Chain | None:
    """The fewest adapters that lead from one end to another; a kind may be used more than once. Where nothing
    fits, the chain that takes least sanding or filling at one joint, then the fewest; None where there is no
    way at all.
    """
    order = count()
    waiting: list[_State] = [(0.0, 0, next(order), start, (), None)]
    seen: set[tuple[End, bool]] = set()
    while waiting:
        work, many, _, here, used, worked = heappop(waiting)
        if here is None:
            return Chain(used, worked)
        if (here, worked is None) in seen:
            continue
        seen.add((here, worked is None))
        nexts: list[tuple[End, End | None, tuple[int, ...]]] = [(end, None, used)]
        if many < MOST:
            ways = ((number, way) for number, one in enumerate(adapters) for way in one.ways())
            nexts += [(front, back, (*used, number)) for number, (front, back) in ways]
        for front, back, then in nexts:
            if fits(here, front, slack):
                heappush(waiting, (work, len(then), next(order), back, then, worked))
            elif worked is None and (misfit := _worked(here, front, many, slack)) is not None:
                heappush(waiting, (work + misfit.work, len(then), next(order), back, then, misfit))
    return None


def _worked(one: End, other: End, joint: int, slack: float) -> Misfit | None:
    """What makes two ends fit that do not; None where that is more than anybody would do."""
    miss = gap(one, other)
    misfit = Misfit(joint, max(0.0, -miss), max(0.0, miss - slack))
    return misfit if misfit.sand <= MOST_SANDED and misfit.fill <= MOST_FILLED else None
