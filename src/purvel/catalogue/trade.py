"""Operations of the trade and ready jobs."""

from dataclasses import dataclass, replace
from functools import cache
from typing import Literal

from purvel.catalogue.toml import read
from purvel.quantities.lengths import INCH
from purvel.quantities.systems import System
from purvel.shop.jobs import Held, Job, JobStep
from purvel.shop.things import Lies, Stock, Thing

HowWell = Literal["well", "fair", "rough"]
RANK: dict[HowWell, int] = {"well": 0, "fair": 1, "rough": 2}


@dataclass(frozen=True, slots=True, kw_only=True)
class StandIn:
    """What does an operation where no machine for it stands: how well, and what it cannot do."""

    name: str
    how: HowWell
    lacks: str


@dataclass(frozen=True, slots=True, kw_only=True)
class TradeOperation:
    """An operation of the trade: what it is done to, which kinds of machine or bench do it, and stand-ins.
    At the kinds `on_edge` the board stands on its edge while it is fed, at those `across` it lies across
    the feed.
    """

    name: str
    what: str
    by: dict[str, HowWell]
    on_edge: tuple[str, ...] = ()
    across: tuple[str, ...] = ()
    stand_ins: tuple[StandIn, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadyJob:
    """A job to start from."""

    name: str
    stock: Stock
    held: Held
    density: float
    steps: tuple[JobStep, ...]

    def job(self, job_id: str, system: System = "metric") -> Job:
        """The job for a document, with stock in even figures of the reader's system."""
        steps = (replace(one, stock=one.stock and _even(one.stock, system)) for one in self.steps)
        return Job(
            id=job_id,
            name=self.name,
            stock=_even(self.stock, system),
            held=self.held,
            density=self.density,
            steps=tuple(steps),
        )


def _even(stock: Stock, system: System) -> Stock:
    """To the next inch in feet and inches, the thickness to the next eighth."""
    if system == "metric":
        return stock

    def to(value: float, step: float) -> float:
        return round(round(value / step) * step, 6)

    sides = {"length": to(stock.length, INCH), "width": to(stock.width, INCH)}
    return replace(stock, thickness=max(INCH / 8, to(stock.thickness, INCH / 8)), **sides)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Trade:
    operations: dict[str, TradeOperation]
    jobs: dict[str, ReadyJob]


@cache
def _trade() -> _Trade:
    return read("trade.toml", _Trade)


def trade_operations() -> dict[str, TradeOperation]:
    """Operations of the trade by key, in the order of the work."""
    return _trade().operations


@cache
def other_ways() -> dict[str, tuple[tuple[str, Lies], ...]]:
    """Operations at which the board lies otherwise than the feed says, and how, by kind."""
    found = dict[str, list[tuple[str, Lies]]]()
    for key, one in trade_operations().items():
        ways: tuple[tuple[tuple[str, ...], Lies], ...] = ((one.on_edge, "on edge"), (one.across, "across"))
        for kinds, lies in ways:
            for kind in kinds:
                found.setdefault(kind, []).append((key, lies))
    return {kind: tuple(ways) for kind, ways in found.items()}


def ready_jobs() -> dict[str, ReadyJob]:
    """Jobs to start from by key."""
    return _trade().jobs


def able(things: tuple[Thing, ...], operation: str) -> list[Thing]:
    """The things that do an operation, the one that does it best first; none for an unknown operation."""
    by = trade_operations()[operation].by if operation in trade_operations() else {}
    return sorted((thing for thing in things if thing.kind in by), key=lambda thing: RANK[by[thing.kind]])
