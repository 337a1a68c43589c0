"""What a log says: background, peak, mean, decay with its interval, and two stretches compared.

A monitor's own scale cancels in a decay and in a ratio, so neither asks how it was calibrated.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable
from dataclasses import dataclass
from math import exp, inf, log

from purvel.libraries import Array, np

LEAST = 12  # readings below which nothing is told
_WIDE = 2.1  # standard errors from the middle to an end of the interval
WIDEST = 3.0  # times from end to end: an interval wider than this tells nothing
HOPELESS = 10.0  # times, either way
SHORTEST = 0.7  # of a time constant that the decay must be seen, else its end is not known
PUFF = 60.0  # s
_GOLDEN = (5**0.5 - 1) / 2  # of a stretch: the golden section
_FINE = 1e-6  # of a rate, to which it is found
RISE = 4.0  # times the scatter that the decay must start above its end


@dataclass(frozen=True, slots=True)
class Summary:
    """A stretch: readings, mean, median, peak, and the level that it is above nine tenths of the time."""

    readings: int
    mean: float
    median: float
    peak: float
    low: float


@dataclass(frozen=True, slots=True)
class Doubts:
    """What speaks against a log: the longest time without a reading [s], the share of readings that are not
    there, the longest time for which the very same reading stood [s], the share of readings at the highest
    figure.
    """

    gap: float
    missing: float
    stuck: float
    capped: float


@dataclass(frozen=True, slots=True)
class Decay:
    """An exponential decay: its rate [1/h] with the ends of its 95 % interval, what it starts from above the
    level that it ends at; or why that cannot be told.
    """

    rate: float
    low: float
    high: float
    start: float
    end: float
    why_not: str = ""


@dataclass(frozen=True, slots=True)
class Ratio:
    """One stretch over another, above the background: with the ends of its 95 % interval; or why that cannot
    be told.
    """

    ratio: float
    low: float
    high: float
    why_not: str = ""


def summary(values: Array) -> Summary:
    """A stretch in figures; readings that are missing are passed over."""
    seen = values[np.isfinite(values)]
    if not len(seen):
        return Summary(0, 0.0, 0.0, 0.0, 0.0)
    return Summary(
        len(seen),
        float(seen.mean()),
        float(np.median(seen)),
        float(seen.max()),
        float(np.percentile(seen, 10)),
    )


def doubts(seconds: Array, values: Array) -> Doubts:
    """What is odd in a log; a reading of nothing (0) may stand as long as it will."""
    seen = np.isfinite(values)
    t, c = seconds[seen], values[seen]
    if len(c) < LEAST:
        return Doubts(0.0, 1.0 - float(seen.mean()), 0.0, 0.0)
    usual = float(np.median(np.diff(seconds)))
    expected = (seconds[-1] - seconds[0]) / usual + 1.0
    changes = np.flatnonzero(np.concatenate([[True], np.diff(c) != 0, [True]]))
    begins, ends = changes[:-1], changes[1:] - 1
    runs = (t[ends] - t[begins])[c[begins] > 0]
    top = float(c.max())
    return Doubts(
        float(np.diff(t).max()),
        max(0.0, 1.0 - len(c) / float(expected)),
        float(runs.max(initial=0.0)),
        float((c == top).mean()) if top > 0 else 0.0,
    )


def puff(seconds: Array, values: Array, background: float) -> float:
    """How many times the first minute of a stretch stands above what follows, both over the background: a bag
    lets fine dust through when the blower starts. 0 where the readings are too few, or what follows does not
    stand out.
    """
    seen = np.isfinite(values)
    t, c = seconds[seen], values[seen] - background
    if len(c) < LEAST:
        return 0.0
    first = t < t[0] + PUFF
    if first.sum() < 2 or (~first).sum() < LEAST // 2:
        return 0.0
    after = float(np.median(c[~first]))
    return float(c[first].max()) / after if after > 0 else 0.0


def proposed(seconds: Array, values: Array, shows: str) -> tuple[float, float]:
    """Where a stretch of a kind may lie [s]: for a decay from the highest (smoothed) level to the end or to
    where it rises again; for a background the calmest tenth; for work from where it first rises to the
    highest level.
    """
    seen = np.isfinite(values)
    t, c = seconds[seen], values[seen]
    if len(c) < LEAST:
        return float(seconds[0]), float(seconds[-1])
    t, c = _thinned(t, c)
    smooth = np.convolve(np.pad(c, 2, mode="edge"), np.ones(5) / 5, mode="valid")
    top = int(np.argmax(smooth))
    if shows == "decay":
        lowest = np.minimum.accumulate(smooth[top:])
        risen = np.flatnonzero(smooth[top:] > lowest + 0.25 * (smooth[top] - lowest))
        risen = risen[risen > np.argmax(smooth[top:] < 0.7 * smooth[top])]
        end = top + int(np.argmin(smooth[top : top + risen[0]])) if len(risen) else len(t) - 1
        return float(t[top]), float(t[end])
    wide = max(2, len(c) // 10)
    levels = np.convolve(c, np.ones(wide) / wide, mode="valid")
    calm = int(np.argmin(levels))
    if shows == "background":
        return float(t[calm]), float(t[calm + wide - 1])
    half = smooth[: top + 1] < levels[calm] + 0.25 * (smooth[top] - levels[calm])
    start = int(np.flatnonzero(half)[-1]) if half.any() else 0
    return float(t[start]), float(t[max(top, start + 1)])


def _cannot(why: str) -> Decay:
    return Decay(0.0, 0.0, 0.0, 0.0, 0.0, why)


def fit_decay(seconds: Array, values: Array, background: float | None = None) -> Decay:
    """The rate of a decay C = B + A e^(-k t), by least squares on readings weighed by their level.

    `seconds` rising, `background` B where it was measured, else fitted too. The interval is the sandwich's
    (White 1980; Newey and West 1987), which holds where the scatter goes with the level and where readings
    hang together. Example: 100 e^(-4 t) + 5 read each 10 s for 30 min gives 4.0 per hour.
    """
    seen = np.isfinite(values)
    t, c = (seconds[seen] - seconds[seen][0]) / 3600.0 if seen.any() else seconds[:0], values[seen]
    if len(t) < LEAST:
        return _cannot("there are too few readings")
    t, c = _thinned(t, c)
    found = _fitted(t, c, background)
    if found is None:
        return _cannot("the readings do not fall off as a decay does")
    (a, b, k), weight = found
    left = c - b - a * np.exp(-k * t)
    last = slice(-max(6, len(c) // 5), None)
    if a <= RISE * max(float(np.std(left[last])), 1e-12) or k <= 0:
        return _cannot("what decays does not stand out from the scatter")
    if k * float(t[-1]) < SHORTEST and background is None:
        return _cannot("it was watched for less than a time constant and the level it ends at is not known")
    spread = exp(min(_WIDE * _error_of_rate(t, left, weight, (a, k), is_free=background is None) / k, 50.0))
    if spread > HOPELESS:
        return _cannot("almost any rate would fit")
    if spread**2 > WIDEST:
        return _cannot(f"anything from {k / spread:.1f} to {k * spread:.1f} an hour would fit")
    return Decay(k, k / spread, k * spread, a, b)


def _thinned(t: Array, c: Array) -> tuple[Array, Array]:
    """At most some hundred means of neighbours: a decay needs no more."""
    most = 240
    if len(t) <= most:
        return t, c
    edges = np.linspace(0, len(t), most + 1).astype(int)
    means = [(t[a:b].mean(), c[a:b].mean()) for a, b in itertools.pairwise(edges) if b > a]
    return np.array([one[0] for one in means]), np.array([one[1] for one in means])


def _fitted(t: Array, c: Array, background: float | None) -> tuple[tuple[float, float, float], Array] | None:
    """A, B and k with the weights that the readings had: by their level in a first fit, not by the readings
    themselves, which would pull the fit down.
    """
    weight = np.ones(len(t))
    found = None
    for _ in range(3):
        found = _fit(t, c, weight, background)
        if found is None:
            return None
        a, b, k = found
        level = np.abs(b + a * np.exp(-k * t))
        weight = 1.0 / np.maximum(level, float(level.max()) * 1e-3 + 1e-12)
    return None if found is None else (found, weight)


def _fit(t: Array, c: Array, weight: Array, background: float | None) -> tuple[float, float, float] | None:
    """A, B and k for given weights; for every k the best A and B are a line's, so only k is searched."""

    def solved(k: float) -> tuple[float, float, float]:
        e = np.exp(-k * t)
        if background is not None:
            a = float((weight * e * (c - background)).sum() / (weight * e * e).sum())
            return a, background, float((weight * (c - background - a * e) ** 2).sum())
        root = np.sqrt(weight)
        (a, b), *_ = np.linalg.lstsq(np.stack([e * root, root], axis=1), c * root, rcond=None)
        return float(a), float(b), float((weight * (c - a * e - b) ** 2).sum())

    span = float(t[-1])
    grid = np.geomspace(0.05 / span, 60.0 / span, 40)
    best = float(min(grid, key=lambda k: solved(float(k))[2]))
    k = exp(_least(lambda x: solved(exp(x))[2], log(best) - 0.3, log(best) + 0.3))
    a, b, _ = solved(k)
    return (a, b, k) if a > 0 and np.isfinite(a) and np.isfinite(b) else None


def _least(of: Callable[[float], float], low: float, high: float) -> float:
    """Where a function with one valley between two places is least, by golden section (Kiefer 1953). SciPy
    has this too, but takes longer to load than all decays of a day to fit.
    """
    a, b = high - _GOLDEN * (high - low), low + _GOLDEN * (high - low)
    at_a, at_b = of(a), of(b)
    while high - low > _FINE:
        if at_a < at_b:
            high, b, at_b = b, a, at_a
            a = high - _GOLDEN * (high - low)
            at_a = of(a)
        else:
            low, a, at_a = a, b, at_b
            b = low + _GOLDEN * (high - low)
            at_b = of(b)
    return (low + high) / 2


def _error_of_rate(t: Array, left: Array, weight: Array, fit: tuple[float, float], *, is_free: bool) -> float:
    """Standard error of k: (J'WJ)^-1 M (J'WJ)^-1, M summed over lags as long as readings hang together."""
    a, k = fit
    e = np.exp(-k * t)
    slopes = np.stack([e, -a * t * e, np.ones(len(t))][: 3 if is_free else 2], axis=1)
    bread = np.linalg.pinv(slopes.T @ (weight[:, None] * slopes))
    scores = (weight * left)[:, None] * slopes
    n, many = scores.shape
    plain = scores.T @ scores * n / (n - many)
    lags = max(2, round(1.5 * n ** (1 / 3)))
    together = plain.copy()
    for lag in range(1, lags + 1):
        both = scores[lag:].T @ scores[:-lag]
        together += (1 - lag / (lags + 1)) * (both + both.T)
    # with a first-order course of the scatter, for which few lags are too few
    scaled = left * np.sqrt(weight)
    hang = float((scaled[1:] * scaled[:-1]).sum() / max(float((scaled**2).sum()), 1e-30))
    hang = min(max(hang + (1 + 3 * hang) / n, 0.0), 0.95)
    found = [bread @ one @ bread for one in (together, plain * (1 + hang) / (1 - hang))]
    most = max(float(one[1, 1]) for one in found)
    return float(np.sqrt(most)) if most >= 0.0 else inf  # nan, too: nothing is known


def compare(one: Array, other: Array, background: float) -> Ratio:
    """The mean of one stretch over that of another, both above the background.

    The interval is from means of blocks of a tenth of each stretch; where it holds 1, or the other does not
    stand out from the background, nothing can be told.
    """
    a, b = one[np.isfinite(one)] - background, other[np.isfinite(other)] - background
    if len(a) < LEAST or len(b) < LEAST:
        return Ratio(0.0, 0.0, 0.0, "there are too few readings")
    if b.mean() <= 2 * _error(b) or b.mean() <= 0:
        return Ratio(0.0, 0.0, 0.0, "the one it is held against does not stand out from the background")
    if a.mean() <= 0:
        return Ratio(0.0, 0.0, 0.0, "it does not stand out from the background")
    ratio = float(a.mean() / b.mean())
    spread = float(np.hypot(_error(a) / a.mean(), _error(b) / b.mean()))
    low, high = ratio * exp(-2.2 * spread), ratio * exp(2.2 * spread)
    if low < 1.0 < high:
        return Ratio(ratio, low, high, "the difference is within what the readings scatter")
    return Ratio(ratio, low, high)


def _error(values: Array) -> float:
    """Of a mean, from the means of ten blocks, which hang together less than single readings."""
    blocks = np.array_split(values, 10)
    means = np.array([block.mean() for block in blocks if len(block)])
    return float(means.std(ddof=1) / np.sqrt(len(means)))
