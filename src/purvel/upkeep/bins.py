"""What the jobs take off the wood, and how that fills the bin."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from purvel.catalogue import operations
from purvel.catalogue.upkeep import Removal, removals, waste
from purvel.shop import Stock, WorkInterval
from purvel.shop.jobs import Job
from purvel.shop.upkeep import Bin

FULL = 0.80  # of the bin: from here on a separator lets chips through [trade practice]
DAYS = 30.44  # in a month


@dataclass(frozen=True, slots=True)
class Removed:
    """What is removed a month: solid wood [m3], its mass [kg], and the room it takes loose, low and
    high [m3].
    """

    solid: float
    mass: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class Fill:
    """How the bin fills: share of it a month (low, high), days until it is as full as it may be, and the mass
    then with its drum (low, high) [kg].
    """

    share: tuple[float, float]
    days: tuple[float, float]
    mass: tuple[float, float]


def removed_from(stock: Stock, removal: Removal) -> float:
    """Solid wood that an operation takes off one piece [m3].

    A face over length and width, an edge over length and thickness, cuts by their kerf, a groove as wide as
    deep along the length, or a share of the piece.

    3 mm off a face of 2.4 x 0.15 m:

    >>> round(removed_from(Stock(length=2.4, width=0.15), Removal(how="face", size=0.003, waste="chips")), 5)
    0.00108
    """
    length, width, thick = stock.length, stock.width, stock.thickness
    return {
        "end cut": removal.size * width * thick,
        "long cut": removal.size * length * thick,
        "resaw": removal.size * length * width,
        "face": removal.size * length * width,
        "edge": removal.size * length * thick,
        "groove": removal.size**2 * length,
        "share": removal.size * length * width * thick,
    }[removal.how]


def removed(jobs: Sequence[Job], density: float) -> Removed:
    """What all jobs remove a month, each step from as many pieces as it has walks.

    Loose volume = mass / bulk density of the waste as which it falls.
    """
    solid = mass = low = high = 0.0
    for job in jobs:
        stock = job.stock
        for step in job.steps:
            stock = step.stock or stock
            removal = removals().get(step.operation)
            if removal is None:
                continue
            volume = removed_from(stock, removal) * step.walks * job.per_month
            solid, mass = solid + volume, mass + volume * density
            thin, dense = waste()[removal.waste]
            low, high = low + volume * density / dense, high + volume * density / thin
    return Removed(solid, mass, low, high)


def removed_by_day(work: Sequence[WorkInterval], days_a_month: float, density: float) -> Removed:
    """What a day's work takes off in a month of so many such days: minutes in the cut times what the
    operation takes off a minute; the mean of the low and the high figure for the mass.
    """
    mass = low = high = 0.0
    for one in work:
        operation = operations().get(one.operation)
        if operation is None:
            continue
        minutes = one.minutes * one.cutting * days_a_month
        least, most = (each / 1000.0 * minutes for each in operation.wood)
        thin, dense = waste()[operation.waste]
        mass, low, high = mass + (least + most) / 2, low + least / dense, high + most / thin
    return Removed(mass / density, mass, low, high)


def fill(bin_: Bin, gone: Removed) -> Fill | None:
    """How a bin fills by what is removed a month; None where nothing is."""
    if gone.mass <= 0:
        return None
    share = (gone.low / bin_.volume, gone.high / bin_.volume)
    days = (FULL / share[1] * DAYS, FULL / share[0] * DAYS)
    holds = FULL * bin_.volume
    mass = (bin_.tare + holds * gone.mass / gone.high, bin_.tare + holds * gone.mass / gone.low)
    return Fill(share, days, mass)
