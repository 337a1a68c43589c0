"""What marked runs of work say by a balance of mass: how much got into the air, how much was caught, what of
a difference other conditions explain.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import exp, sqrt

from purvel.libraries import Array, np

LEAST = 12  # readings below which nothing is told
WIDEST = 0.6  # of a share: an interval wider than this tells nothing [choice]
BLOCKS = 8  # pieces of a run whose balances are held against each other


@dataclass(frozen=True, slots=True)
class Emitted:
    """What got into the room while a run lasted, by what a monitor saw [its mass unit per min if that is per
    m3]: with the ends of its 95 % interval; or why that cannot be told.
    """

    rate: float
    low: float
    high: float
    why_not: str = ""


def emitted(
    seconds: Array, values: Array, background: float, volume: float, removal: tuple[float, float, float]
) -> Emitted:
    """G = V (dC/dt + k C) over a run, C above the background: from readings [x/m3] at `seconds`, the room's
    `volume` [m3] and the rate `removal` [1/h] at which what the monitor sees leaves the room, central, low
    and high. The mean over the run, by its pieces; the interval from their scatter and that of the rate.

    Room air as evenly mixed; of a monitor that sees a part of the dust, of that part. 60 m3 in which 0.5
    mg/m3 stand at 4 changes an hour take 2 mg a minute:

    >>> t = np.arange(0.0, 1200.0, 10.0)
    >>> round(emitted(t, np.full(len(t), 0.5), 0.0, 60.0, (4.0, 4.0, 4.0)).rate, 3)
    2.0
    """
    seen = np.isfinite(values)
    t, c = seconds[seen] / 3600.0, values[seen] - background
    if len(t) < LEAST or volume <= 0:
        return Emitted(0.0, 0.0, 0.0, "there are too few readings")
    central, low, high = (_balances(t, c, volume, rate) for rate in removal)
    mean = float(central.mean())
    scatter = 2.3 * float(central.std(ddof=1)) / sqrt(len(central))
    ends = (float(low.mean()), float(high.mean()))
    if mean <= 0 or mean - scatter <= 0:
        return Emitted(mean, 0.0, mean + scatter, "what got into the air does not stand out from the scatter")
    return Emitted(mean, max(0.0, min(ends) - scatter), max(ends) + scatter)


def _balances(t: Array, c: Array, volume: float, rate: float) -> Array:
    """The balance of each piece of a run [x/min]."""
    edges = np.linspace(0, len(t) - 1, min(BLOCKS, len(t) // 3) + 1).astype(int)
    wide = max(1, len(t) // 60)
    at = [_level(t, c, max(0, edge - wide), edge + wide + 1, t[edge]) for edge in edges]
    found = []
    for a, b, start, end in zip(edges[:-1], edges[1:], at[:-1], at[1:]):
        lasts = t[b] - t[a]
        held = float(np.trapezoid(c[a : b + 1], t[a : b + 1])) / lasts
        found.append(volume * ((end - start) / lasts + rate * held) / 60.0)
    return np.array(found)


def _level(t: Array, c: Array, first: int, last: int, moment: float) -> float:
    """What a line through some readings says of a moment."""
    x, y = t[first:last] - moment, c[first:last]
    spread = float((x - x.mean()) @ (x - x.mean()))
    slope = float((x - x.mean()) @ y) / spread if spread > 0 else 0.0
    return float(y.mean() - slope * x.mean())


def mean_level(removal: float, minutes: float) -> float:
    """The mean over a run of `minutes` of what a steady source brings the air to, per unit of it, from clean
    air, at `removal` [1/h]: (1 - (1 - e^-kT) / kT) / k.

    Half an hour at 4 changes an hour:

    >>> round(mean_level(4.0, 30.0), 4)
    0.1419
    """
    hours = minutes / 60.0
    spent = removal * hours
    if spent < 1e-6:
        return hours / 2.0
    return (1.0 - (1.0 - exp(-spent)) / spent) / removal


def caught(with_hood: Emitted, without: Emitted) -> tuple[float, float, float] | str:
    """The share that a hood caught [-], central, low, high, from what got into the air with it and without;
    or why that cannot be told. The monitor's scale cancels.

    >>> caught(Emitted(20.0, 15.0, 25.0), Emitted(100.0, 90.0, 110.0))[0]
    0.8
    """
    if without.why_not:
        return f"without the hood, {without.why_not}"
    if with_hood.why_not and with_hood.high <= 0:
        return f"with the hood, {with_hood.why_not}"
    if without.low <= 0:
        return "without the hood, almost any figure would fit"
    there, most = max(0.0, with_hood.rate), max(0.0, with_hood.high)
    central = 1.0 - there / without.rate
    # the ends of two intervals that do not hang together
    relative = sqrt(
        ((most - there) / without.rate) ** 2
        + (most * (without.high - without.low) / 2 / without.rate**2) ** 2
    )
    low, high = central - relative, min(1.0, central + relative)
    if high <= 0:
        return "more got into the air with the hood than without it"
    if high - low > WIDEST:
        return f"anything from {max(0.0, low):.0%} to {high:.0%} would fit"
    return max(0.0, central), max(0.0, low), high


@dataclass(frozen=True, slots=True)
class Alongside:
    """Two monitors side by side: how many times the one reads what the other does, over the level, and how
    closely they move together (correlation).
    """

    times: float
    together: float
    minutes: float


def alongside(one: tuple[Array, Array], other: tuple[Array, Array]) -> Alongside | None:
    """Two logs (seconds of one clock, values) where they overlap; None where that is less than twelve
    readings of both.
    """
    start, end = max(one[0][0], other[0][0]), min(one[0][-1], other[0][-1])
    if end <= start:
        return None
    inside = (one[0] >= start) & (one[0] <= end) & np.isfinite(one[1])
    seen = np.isfinite(other[1])
    if inside.sum() < LEAST or ((other[0] >= start) & (other[0] <= end) & seen).sum() < LEAST:
        return None
    a = one[1][inside]
    b = np.interp(one[0][inside], other[0][seen], other[1][seen])
    if a.std() <= 0 or b.std() <= 0 or b.mean() == 0:
        return Alongside(float(a.mean() / b.mean()) if b.mean() else 0.0, 0.0, (end - start) / 60.0)
    return Alongside(float(a.mean() / b.mean()), float(np.corrcoef(a, b)[0, 1]), (end - start) / 60.0)
