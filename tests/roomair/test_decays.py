"""Decays and comparisons to the digit: held against sums written out here by their definitions."""

from math import exp, log, sqrt

import numpy as np
import numpy.typing as npt
import pytest

from purvel.roomair.decays import (
    Decay,
    Doubts,
    Ratio,
    Summary,
    compare,
    doubts,
    fit_decay,
    proposed,
    puff,
    summary,
)

Readings = npt.NDArray[np.float64]


def times(count: int, every: float = 30.0) -> Readings:
    return np.arange(count) * every


def scatter(count: int, hang: float, seed: int) -> Readings:
    """Scatter of which each reading keeps a share of the last."""
    fresh = np.random.default_rng(seed).normal(size=count)
    found = np.zeros(count)
    for k in range(count):
        found[k] = fresh[k] + (hang * found[k - 1] if k else 0.0)
    return found / found.std()


def far_hanging(count: int, seed: int) -> Readings:
    """Scatter in which a reading hangs together with the second and the fourth after it, not with the next:
    of that the share of the last reading tells nothing.
    """
    fresh = np.random.default_rng(seed).normal(size=count + 6)
    found = fresh[6:] + fresh[4:-2] + fresh[2:-4]
    return found / found.std()


def interval_by_sums(hours: Readings, values: Readings, found: Decay, *, is_free: bool) -> tuple[float, bool]:
    """How many times the rate's interval reaches up, from double sums over all pairs of readings, and whether
    that is by the second of two forms.

    White's sandwich (1980) with Newey and West's weights 1 - lag / (lags + 1) (1987), n / (n - p) on what a
    reading has with itself; or, where that is wider, the sandwich for a scatter that keeps a share r of the
    last reading, (1 + r) / (1 - r) times, r taken up for its bias by (1 + 3 r) / n.
    """
    n, rate = len(hours), found.rate
    level = found.end + found.start * np.exp(-rate * hours)
    weight = 1.0 / level
    left = values - level
    slopes = [[exp(-rate * t), -found.start * t * exp(-rate * t), 1.0][: 3 if is_free else 2] for t in hours]
    p = len(slopes[0])
    outer = np.zeros((p, p))
    for k in range(n):
        outer += weight[k] * np.outer(slopes[k], slopes[k])
    scores = [weight[k] * left[k] * np.array(slopes[k]) for k in range(n)]
    lags = max(2, round(1.5 * n ** (1 / 3)))
    together, plain = np.zeros((p, p)), np.zeros((p, p))
    for i in range(n):
        plain += np.outer(scores[i], scores[i]) * n / (n - p)
        for j in range(n):
            if 0 < abs(i - j) <= lags:
                together += (1 - abs(i - j) / (lags + 1)) * np.outer(scores[i], scores[j])
    together += plain
    root = [left[k] * sqrt(weight[k]) for k in range(n)]
    share = sum(root[k] * root[k - 1] for k in range(1, n)) / sum(one * one for one in root)
    share = min(max(share + (1 + 3 * share) / n, 0.0), 0.95)
    inverse = np.linalg.inv(outer)
    errors = [
        sqrt((inverse @ middle @ inverse)[1, 1]) for middle in (together, plain * (1 + share) / (1 - share))
    ]
    return exp(2.1 * max(errors) / rate), errors[1] > errors[0]


@pytest.mark.parametrize("is_free", [True, False])
@pytest.mark.parametrize(
    ("off", "by_course"),
    [
        (scatter(90, 0.0, 1), True),
        (scatter(90, 0.5, 2), True),
        (scatter(90, 0.9, 3), True),
        (far_hanging(90, 1), False),
        (far_hanging(90, 9), False),
    ],
)
def test_the_interval_is_the_sandwich_written_out(off: Readings, by_course: bool, is_free: bool) -> None:
    """In both of its forms: by lags, and by a first-order course where that is wider."""
    seconds = times(90)
    values = (80 * np.exp(-5.0 * seconds / 3600) + 6) * (1 + 0.03 * off)
    found = fit_decay(seconds, values, None if is_free else 6.0)
    spread, is_second = interval_by_sums(seconds / 3600, values, found, is_free=is_free)
    assert is_second == by_course
    # the readings' weights are of the fit before the last, so the last digits differ
    assert found.high / found.rate == pytest.approx(spread, rel=2e-3)
    assert found.low == pytest.approx(found.rate / (found.high / found.rate))


def test_readings_are_weighed_by_their_level() -> None:
    """Two levels without scatter but for one reading, off by a tenth: the weighed least squares by hand."""
    seconds = times(40)
    values = 60 * np.exp(-4.0 * seconds / 3600)
    values[0] *= 1.1
    found = fit_decay(seconds, values, 0.0)
    hours = seconds / 3600
    grid = np.linspace(3.8, 4.4, 6001)

    def misfit(k: float, weight: Readings) -> float:
        e = np.exp(-k * hours)
        a = (weight * e * values).sum() / (weight * e * e).sum()
        return float((weight * (values - a * e) ** 2).sum())

    weight = np.ones(40)
    for _ in range(3):
        best = min(grid, key=lambda k: misfit(float(k), weight))
        e = np.exp(-best * hours)
        level = (weight * e * values).sum() / (weight * e * e).sum() * e
        weight = 1.0 / np.maximum(level, level.max() * 1e-3)
    assert found.rate == pytest.approx(best, abs=2e-3) and abs(found.rate - 4.0) > 0.01


def test_an_end_that_is_not_known_must_be_near() -> None:
    """A decay of 1 an hour seen for 0.65 h, and for 0.75 h: seven tenths of a time constant are wanted."""
    short, long = times(79), times(91)
    assert "less than a time constant" in fit_decay(short, 50 * np.exp(-short / 3600) + 2).why_not
    assert fit_decay(short, 50 * np.exp(-short / 3600) + 2, 2.0).rate == pytest.approx(1.0, rel=1e-3)
    assert fit_decay(long, 50 * np.exp(-long / 3600) + 2).rate == pytest.approx(1.0, rel=1e-2)


@pytest.mark.parametrize(("start", "stands_out"), [(3.6, False), (4.4, True)])
def test_it_must_start_four_times_the_scatter_above_its_end(start: float, stands_out: bool) -> None:
    """The scatter is that of the last fifth of the readings: + 1 and - 1 in turn is 1."""
    seconds = times(200, 60.0)
    values = start * np.exp(-1.5 * seconds / 3600) + 20 + np.where(np.arange(200) % 2, 1.0, -1.0)
    found = fit_decay(seconds, values, 20.0)
    assert (found.why_not != "what decays does not stand out from the scatter") == stands_out


def test_why_a_rate_cannot_be_told() -> None:
    """More and more scatter: from a rate to a wide interval to anything."""
    seconds, said = times(60, 60.0), []
    for share in (0.05, 0.5, 0.75):
        values = (30 * np.exp(-2.0 * seconds / 3600)) * (1 + share * scatter(60, 0.6, 11)) + 3
        said.append(fit_decay(seconds, values).why_not)
    assert said[0] == ""
    assert any("an hour would fit" in one for one in said[1:])
    assert "too few" in fit_decay(times(11), np.exp(-times(11) / 300)).why_not
    assert fit_decay(times(12), 40 * np.exp(-times(12) / 100), 0.0).rate == pytest.approx(36.0, rel=1e-3)
    assert "do not fall off" in fit_decay(times(60), 5 - 5 * np.exp(-times(60) / 300)).why_not


def test_many_readings_are_taken_as_means_of_neighbours() -> None:
    """480 readings are 240 means of two, so what two neighbours share out does not matter."""
    seconds = times(480, 10.0)
    values = 90 * np.exp(-3.0 * seconds / 3600) + 4
    off = np.where(np.arange(480) % 2, 1.5, -1.5)
    one, other = fit_decay(seconds, values), fit_decay(seconds, values + off)
    assert other.rate == pytest.approx(one.rate, rel=1e-9) and other.high == pytest.approx(one.high, rel=1e-9)
    few = seconds[:240]
    assert fit_decay(few, (values + off)[:240], 4.0).high > fit_decay(few, values[:240], 4.0).high * 1.001


def test_one_stretch_over_another_by_hand() -> None:
    """Twenty readings each, over a background of 2. The blocks of two have means 8 and 12 in turn, above it:
    10, and 2.108 between them (ten of them), so 0.667 of the mean; the other is 40 throughout.
    """
    one, other = np.repeat([10.0, 14.0] * 5, 2), np.full(20, 42.0)
    error = sqrt(10 * 2.0**2 / 9) / sqrt(10)
    found = compare(other, one, 2.0)
    assert error == pytest.approx(0.6667, abs=1e-4)
    assert found.ratio == pytest.approx(4.0)
    assert found.low == pytest.approx(4.0 * exp(-2.2 * error / 10.0))
    assert found.high == pytest.approx(4.0 * exp(2.2 * error / 10.0))
    assert compare(one, one, 2.0).why_not == "the difference is within what the readings scatter"


def test_what_is_compared_must_stand_out() -> None:
    """Blocks of 1 and 3 in turn are 2 with an error of 1/3; over a background of 1.4 they stand 0.6 above it,
    less than two errors, over one of 1.2 more.
    """
    faint = np.repeat([1.0, 3.0] * 5, 2)
    much = np.full(20, 50.0)
    assert compare(much, faint, 1.4) == Ratio(0.0, 0.0, 0.0, compare(much, faint, 1.4).why_not)
    assert "held against does not stand out" in compare(much, faint, 1.4).why_not
    assert compare(much, faint, 1.2).ratio == pytest.approx(48.8 / 0.8)
    assert compare(np.full(20, 1.0), much, 2.0) == Ratio(
        0.0, 0.0, 0.0, "it does not stand out from the background"
    )
    few = Ratio(0.0, 0.0, 0.0, "there are too few readings")
    assert compare(much[:11], much, 0.0) == few == compare(much, much[:11], 0.0)
    assert not compare(much[:12], much[:12] / 2, 0.0).why_not


def test_a_level_below_one_may_be_stuck_too() -> None:
    seconds, values = times(40, 10.0), 0.01 * np.arange(40.0) + 0.1
    values[10:30] = 0.5
    assert doubts(seconds, values).stuck == 190.0
    eleven = np.where(np.arange(40) < 11, 1.0, np.nan)
    assert doubts(seconds, eleven) == Doubts(0.0, 29 / 40, 0.0, 0.0)


def test_gaps_and_readings_at_the_top_by_hand() -> None:
    """Every 10 s for 300 s, without the readings from 100 to 140: 5 of 31 are not there, 60 s are silent; of
    the 26 that are, 3 show the highest figure.
    """
    seconds = times(31, 10.0)
    values = np.arange(31.0)
    values[10:15] = np.nan
    values[[2, 20, 30]] = 30.0
    found = doubts(seconds, values)
    assert (
        found.gap == 60.0 and found.missing == pytest.approx(5 / 31) and found.capped == pytest.approx(3 / 26)
    )


def test_a_stretch_in_figures_by_hand() -> None:
    """Of 0 to 10 nine tenths are above 1."""
    values = np.append(np.arange(11.0), np.nan)
    assert summary(values) == Summary(11, 5.0, 5.0, 10.0, 1.0)
    assert summary(np.full(3, np.nan)) == Summary(0, 0.0, 0.0, 0.0, 0.0)


def test_a_puff_by_hand() -> None:
    """A first minute of 30 and then 12, over 4: 26 over 8; what does not stand out has none."""
    seconds = times(30, 10.0)
    values = np.where(seconds < 60.0, 30.0, 12.0)
    assert puff(seconds, values, 4.0) == pytest.approx(26 / 8)
    assert puff(seconds, values, 12.0) == 0.0
    assert puff(seconds[:11], values[:11], 4.0) == 0.0 < puff(seconds[:12], values[:12], 4.0)


def test_a_decay_ends_where_it_rises_by_a_quarter_of_what_it_fell() -> None:
    """From 100 down to 20, up to 36 (less than a quarter of 80) and down again, then up to 60: it ends at the
    lowest level before that.
    """
    minutes = np.arange(0.0, 90.0, 0.5)
    corners = [0.0, 5.0, 30.0, 40.0, 60.0, 80.0, 90.0]
    levels = np.interp(minutes, corners, [10.0, 100.0, 20.0, 36.0, 15.0, 60.0, 60.0])
    start, end = proposed(minutes * 60, levels, "decay")
    assert start / 60 == pytest.approx(5.5, abs=0.6) and end / 60 == pytest.approx(60.0, abs=0.6)
    higher = np.interp(minutes, corners, [10.0, 100.0, 20.0, 46.0, 15.0, 60.0, 60.0])
    assert proposed(minutes * 60, higher, "decay")[1] / 60 == pytest.approx(30.0, abs=0.6)
    assert proposed(times(11), np.ones(11), "decay") == (0.0, 300.0)


def test_a_half_life_is_ln_2_over_the_rate() -> None:
    """64 that halves every 15 min."""
    seconds = times(60)
    assert fit_decay(seconds, 64 * 0.5 ** (seconds / 900), 0.0).rate == pytest.approx(4 * log(2), rel=1e-4)
