"""Sizes for all runs: the diameters with which every hood at work gets its flow and every run that carries
its speed, in all sets of gates that matter, at least cost or at least loss.

A small system is gone through as a whole, which proves the answer. In a larger one the search goes on from
the best known by one run, then by two, and from several beginnings; then all that would cost less is gone
through if there is time, which proves the least cost.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from math import pi
from time import monotonic
from typing import Literal, get_args

from purvel.airflow.sized import SizedSystem
from purvel.libraries import Array, np
from purvel.stopping import go_on

Aim = Literal["cost", "loss"]
AIMS: tuple[Aim, ...] = get_args(Aim)

HOLDS = 1.0 - 1e-6  # share of what is asked from which it counts as met: the solver's own width
MOST_PROVEN = 100_000  # assignments that are gone through as a whole
SECONDS = 15.0  # that a larger system is searched
_BINDS = 1.05  # share of what is asked up to which something is said to bind
_IDLE = 6  # beginnings in a row that led to nothing better, beyond one of each size
_MOST_LISTED = 4_000_000  # assignments whose costs are put in order
_CHUNK = 400  # assignments between two looks at whether anybody waits


@dataclass(frozen=True, slots=True, eq=False)
class Asked:
    """What is asked in every set of gates: of each hood its flow (B, H) [m3/s], in each segment its speed
    (B, S) [m/s]; 0 where nothing is asked.
    """

    flows: Array
    speeds: Array


@dataclass(frozen=True, slots=True)
class Bind:
    """Something that is met with little to spare, or not: the number of the set, of the hood or else of the
    segment, and what there is as a share of what is asked [-].
    """

    choice: int
    hood: int | None
    segment: int | None
    share: float


@dataclass(frozen=True, slots=True)
class Offer:
    """One assignment of sizes [m] to runs: what it costs, the sum of the suctions at the inlet over all sets
    [Pa], the factor by which all flows that are asked could grow [-], and the least share of anything asked.
    """

    sizes: dict[str, float]
    cost: float
    loss: float
    growth: float
    share: float

    @property
    def holds(self) -> bool:
        """Whether all that is asked is met."""
        return self.share >= HOLDS


@dataclass(frozen=True, slots=True)
class Sizing:
    """The best that is known so far: where something holds, that which is best by the aim, else that which
    comes nearest. `frontier` are the offers that hold and that none betters in both cost and growth, the
    cheapest first. `done` is the share of the search that is over.
    """

    best: Offer
    binds: tuple[Bind, ...]
    frontier: tuple[Offer, ...]
    tried: int
    done: float
    is_proven: bool


def sizings(
    system: SizedSystem,
    asked: Asked,
    prices: Array,
    aim: Aim = "cost",
    seconds: float = SECONDS,
    most_proven: int | None = None,
) -> Iterator[Sizing]:
    """The best sizes as they are found; the last is the answer. `prices` (R, sizes) is what each run costs in
    each size; up to `most_proven` (None: `MOST_PROVEN`) assignments are gone through as a whole, more are
    searched for so many `seconds`. Raises Stopped when nobody waits any more.
    """
    search = _Search(system, asked, prices, aim)
    total = len(system.sizes) ** len(system.runs)
    if total <= (MOST_PROVEN if most_proven is None else most_proven):
        yield from search.through_all(total)
    else:
        yield from search.onwards(seconds)


class _Search:
    def __init__(self, system: SizedSystem, asked: Asked, prices: Array, aim: Aim) -> None:
        self.system, self.asked, self.prices, self.aim = system, asked, prices, aim
        self.known: dict[tuple[int, ...], tuple[float, float, Offer]] = {}
        self.best: tuple[float, float, Offer] | None = None
        self.frontier: list[Offer] = []

    def through_all(self, total: int) -> Iterator[Sizing]:
        """Every assignment, the smallest sizes first."""
        everything = itertools.product(range(len(self.system.sizes)), repeat=len(self.system.runs))
        tried = 0
        while chunk := list(itertools.islice(everything, _CHUNK)):
            self._score(chunk)
            tried += len(chunk)
            yield self._sizing(tried / total, is_proven=tried == total)

    def onwards(self, seconds: float) -> Iterator[Sizing]:
        """From several beginnings on, each time to the best neighbour, until nothing better was found for a
        while or the time is over; then, where that is to be had, the proof that nothing costs less.
        """
        began, idle = monotonic(), 0

        def over() -> float:
            return (monotonic() - began) / seconds

        for at in itertools.chain(self._beginnings(), self._shaken()):
            was = self.best
            self._score([at])
            while over() < 1.0 and (better := self._step(at, began + seconds)) is not None:
                at = better
                yield self._sizing(over(), is_proven=False)
            idle = idle + 1 if self.best is was else 0
            if over() >= 1.0 or idle > _IDLE + len(self.system.sizes):
                break
        yield from self._cheaper(began + seconds, over)

    def _cheaper(self, until: float, over: Callable[[], float]) -> Iterator[Sizing]:
        """Everything that costs less than the best, the cheapest first; if none of it holds, that is
        proven.
        """
        assert self.best is not None  # something was scored
        left = self._costing_less(self.best[1]) if self.aim == "cost" and self.best[2].holds else None
        is_proven = left is not None
        for begin in range(0, 0 if left is None else len(left), _CHUNK):
            if monotonic() > until:
                is_proven = False
                break
            assert left is not None
            self._score([tuple(one) for one in left[begin : begin + _CHUNK].tolist()])
            yield self._sizing(min(over(), 1.0), is_proven=False)
        yield self._sizing(1.0, is_proven=is_proven)

    def _costing_less(self, cost: float) -> Array | None:
        """All assignments that cost less, the cheapest first; None where there are too many to list."""
        sums = np.zeros(1)
        for prices in self.prices:
            if len(sums) * len(prices) > _MOST_LISTED:
                return None
            sums = (sums[:, None] + prices).ravel()
        order = np.argsort(sums, kind="stable")
        below = order[: int(np.searchsorted(sums[order], cost - 1e-9))]
        return np.stack(np.unravel_index(below, [len(prices) for prices in self.prices]), axis=1)

    # ---- neighbours

    def _step(self, at: tuple[int, ...], until: float) -> tuple[int, ...] | None:
        """The best neighbour that is better: one run by a size, then by any, then two runs by a size each."""
        for near in (self._by_one, self._by_any, self._by_two):
            others = near(at)
            for begin in range(0, len(others), _CHUNK):
                if monotonic() > until:
                    return None
                self._score(others[begin : begin + _CHUNK])
            best = min((one for one in others if one in self.known), key=self._rank, default=None)
            if best is not None and self._rank(best) < self._rank(at):
                return best
        return None

    def _rank(self, at: tuple[int, ...]) -> tuple[float, float]:
        short, objective, _ = self.known[at]
        return short, objective

    def _by_one(self, at: tuple[int, ...]) -> list[tuple[int, ...]]:
        return self._moved([((run, step),) for run in range(len(at)) for step in (-1, 1)], at)

    def _by_any(self, at: tuple[int, ...]) -> list[tuple[int, ...]]:
        most = len(self.system.sizes)
        return self._moved(
            [((run, to - at[run]),) for run in range(len(at)) for to in range(most) if to != at[run]], at
        )

    def _by_two(self, at: tuple[int, ...]) -> list[tuple[int, ...]]:
        pairs = itertools.combinations(range(len(at)), 2)
        return self._moved(
            [((a, i), (b, j)) for a, b in pairs for i, j in itertools.product((-1, 1), repeat=2)], at
        )

    def _moved(
        self, moves: Sequence[tuple[tuple[int, int], ...]], at: tuple[int, ...]
    ) -> list[tuple[int, ...]]:
        found = []
        for move in moves:
            other = list(at)
            for run, by in move:
                other[run] += by
            if all(0 <= size < len(self.system.sizes) for size in other):
                found.append(tuple(other))
        return found

    # ---- beginnings

    def _beginnings(self) -> Iterator[tuple[int, ...]]:
        """By speed at the flows that are asked, as it is done by hand; as drawn; all in one size."""
        yield self._by_speed()
        drawn = {one.run: one.diameter for one in self.system.layout.segments}
        sizes = np.array(self.system.sizes)
        yield tuple(int(np.argmin(np.abs(sizes - drawn[run]))) for run in self.system.runs)
        for size in range(len(sizes)):
            yield (size,) * len(self.system.runs)

    def _by_speed(self) -> tuple[int, ...]:
        """The largest size in which the least flow that a run is asked for still has its speed."""
        hoods = len(self.system.arrays.hoods)
        flows = self.asked.flows @ self.system.arrays.passes[:, :hoods].T  # (B, S)
        areas = pi / 4 * np.array(self.system.sizes) ** 2
        found = [len(areas) - 1] * len(self.system.runs)
        for index, segment in enumerate(self.system.layout.segments):
            run = self.system.runs.index(segment.run)
            for flow, speed in zip(flows[:, index], self.asked.speeds[:, index]):
                if speed > 0 and flow > 0:
                    fits = np.flatnonzero(flow / areas >= speed)
                    found[run] = min(found[run], int(fits[-1]) if len(fits) else 0)
        return tuple(found)

    def _shaken(self) -> Iterator[tuple[int, ...]]:
        """The best known with a third of its runs in other sizes, again and again."""
        random = np.random.default_rng(1)
        while True:
            at = np.array(min(self.known, key=self._rank))
            others = random.integers(0, len(self.system.sizes), len(at))
            yield tuple(int(size) for size in np.where(random.random(len(at)) < 1 / 3, others, at))

    # ---- what an assignment is worth

    def _score(self, assignments: Sequence[tuple[int, ...]]) -> None:
        go_on()
        new = [one for one in dict.fromkeys(assignments) if one not in self.known]
        if not new:
            return
        numbers = np.array(new)
        found = self.system.evaluate(numbers)
        flow, speed = (
            self._shares(found.flows, self.asked.flows),
            self._shares(found.speeds, self.asked.speeds),
        )
        every = np.concatenate([flow, speed], axis=2).reshape(len(new), -1)
        every = np.where(found.solved[:, None], every, 0.0)
        short = np.maximum(HOLDS - every, 0.0).sum(axis=1)
        share, growth = every.min(axis=1), flow.reshape(len(new), -1).min(axis=1)
        cost = self.prices[np.arange(numbers.shape[1]), numbers].sum(axis=1)
        loss = found.suction.sum(axis=1)
        for k, one in enumerate(new):
            sizes = {run: self.system.sizes[size] for run, size in zip(self.system.runs, one)}
            offer = Offer(sizes, float(cost[k]), float(loss[k]), float(growth[k]), float(share[k]))
            objective = offer.cost if self.aim == "cost" else offer.loss
            scored = float(short[k]), objective, offer
            self.known[one] = scored
            self._keep(scored)

    def _keep(self, scored: tuple[float, float, Offer]) -> None:
        _, objective, offer = scored
        rank = (0.0, objective) if offer.holds else (1.0, -offer.share)
        was = self.best
        if was is None or rank < ((0.0, was[1]) if was[2].holds else (1.0, -was[2].share)):
            self.best = scored
        if offer.holds and not any(
            one.cost <= offer.cost and one.growth >= offer.growth for one in self.frontier
        ):
            left = [one for one in self.frontier if one.cost < offer.cost or one.growth > offer.growth]
            self.frontier = [*left, offer]

    @staticmethod
    def _shares(there: Array, asked: Array) -> Array:
        """What there is as a share of what is asked, below 0 where air is blown back; infinite where nothing
        is asked.
        """
        return np.asarray(np.where(asked > 0, there / np.where(asked > 0, asked, 1.0), np.inf))

    def _sizing(self, done: float, *, is_proven: bool) -> Sizing:
        assert self.best is not None  # something was scored
        offer = self.best[2]
        frontier = tuple(sorted(self.frontier, key=lambda one: one.cost))
        return Sizing(offer, self._binds(offer), frontier, len(self.known), done, is_proven)

    def _binds(self, offer: Offer) -> tuple[Bind, ...]:
        """What is met with least to spare, the tightest first; at the least one thing."""
        at = [self.system.sizes.index(offer.sizes[run]) for run in self.system.runs]
        found = self.system.evaluate(np.array([at]))
        flows = self._shares(found.flows, self.asked.flows)[0]
        speeds = self._shares(found.speeds, self.asked.speeds)[0]
        binds = [
            Bind(b, hood, None, float(flows[b, hood])) for b, hood in np.argwhere(np.isfinite(flows)).tolist()
        ]
        binds += [Bind(b, None, k, float(speeds[b, k])) for b, k in np.argwhere(np.isfinite(speeds)).tolist()]
        binds.sort(key=lambda one: one.share)
        limit = max(_BINDS, binds[0].share) if binds else 0.0
        return tuple(one for one in binds if one.share <= limit)[:6]
