"""Balances of runs, what is caught, monitors side by side."""

from math import exp

import numpy as np
import pytest

from purvel.roomair.runs import Emitted, alongside, caught, emitted, mean_level

VOLUME, RATE, STEP = 60.0, 3.0, 10.0


def course(rate: float, minutes: float, start: float = 0.0, noise: float = 0.0, seed: int = 1) -> tuple:
    """Readings of a room of 60 m3 in which `rate` a minute is thrown off, at 3 changes an hour."""
    t = np.arange(0.0, minutes * 60, STEP)
    end = rate * 60 / VOLUME / RATE
    level = end + (start - end) * np.exp(-RATE * t / 3600)
    return t, level * (1 + noise * np.random.default_rng(seed).normal(size=len(t)))


def test_a_balance_gives_back_what_was_thrown_off_whatever_hung_there_before() -> None:
    for start in (0.0, 5.0, 30.0):
        t, values = course(10.0, 20.0, start)
        found = emitted(t, values + 4.0, 4.0, VOLUME, (RATE, RATE, RATE))
        assert found.rate == pytest.approx(10.0, rel=0.03) and found.low < 10.0 < found.high


def test_the_truth_is_within_the_interval_of_noisy_runs_most_times() -> None:
    inside = 0
    for seed in range(60):
        t, values = course(10.0, 20.0, 2.0, 0.08, seed)
        found = emitted(t, values, 0.0, VOLUME, (RATE, RATE, RATE))
        inside += found.low <= 10.0 <= found.high
    assert inside >= 54


def test_the_interval_holds_what_is_not_known_of_the_removal() -> None:
    t, values = course(10.0, 20.0)
    known = emitted(t, values, 0.0, VOLUME, (RATE, RATE, RATE))
    guess = emitted(t, values, 0.0, VOLUME, (RATE, RATE / 2, RATE * 2))
    assert guess.low < known.low and guess.high > known.high and guess.rate == known.rate


def test_nothing_thrown_off_is_told_as_such() -> None:
    t, values = course(0.0, 20.0, 8.0, 0.02)
    found = emitted(t, values, 0.0, VOLUME, (RATE, RATE, RATE))
    assert "does not stand out" in found.why_not and found.low == 0.0
    assert "too few" in emitted(t[:5], values[:5], 0.0, VOLUME, (RATE,) * 3).why_not
    assert "too few" in emitted(t, values, 0.0, 0.0, (RATE,) * 3).why_not
    assert "too few" in emitted(t, np.full(len(t), np.nan), 0.0, VOLUME, (RATE,) * 3).why_not


def test_the_mean_of_a_run_by_hand() -> None:
    """At 2 an hour over an hour: (1 - (1 - e^-2) / 2) / 2."""
    assert mean_level(2.0, 60.0) == pytest.approx((1 - (1 - exp(-2)) / 2) / 2)
    assert mean_level(0.0, 60.0) == pytest.approx(0.5) and mean_level(1e-9, 60.0) == pytest.approx(0.5)
    assert mean_level(4.0, 30.0) < mean_level(2.0, 30.0)


def test_what_was_caught_with_its_interval() -> None:
    """20 of 100: 80 %; half a width of 5 with and of 10 without: sqrt(0.05^2 + (0.25 x 0.1)^2) = 5.6 %."""
    share = caught(Emitted(20.0, 15.0, 25.0), Emitted(100.0, 90.0, 110.0))
    assert share == pytest.approx((0.8, 0.8 - 0.0559, 0.8 + 0.0559), abs=1e-3)
    nothing = caught(Emitted(-3.0, 0.0, 4.0, "it does not stand out"), Emitted(100.0, 90.0, 110.0))
    assert not isinstance(nothing, str) and nothing[0] == 1.0 and 0.9 < nothing[1] < 1.0
    for with_hood, without, says in (
        (Emitted(20.0, 15.0, 25.0), Emitted(0.0, 0.0, 0.0, "no background is marked"), "no background"),
        (Emitted(0.0, 0.0, 0.0, "no background is marked"), Emitted(100.0, 90.0, 110.0), "with the hood, no"),
        (Emitted(20.0, 15.0, 25.0), Emitted(10.0, 0.0, 40.0), "almost any"),
        (Emitted(200.0, 190.0, 210.0), Emitted(100.0, 90.0, 110.0), "more got into the air"),
        (Emitted(50.0, 0.0, 120.0), Emitted(100.0, 60.0, 140.0), "would fit"),
    ):
        told = caught(with_hood, without)
        assert isinstance(told, str) and says in told


def test_two_side_by_side() -> None:
    t = np.arange(0.0, 1800.0, 10.0)
    level = 20 + 10 * np.sin(t / 200)
    found = alongside((t, level), (t + 300.0, 0.5 * (20 + 10 * np.sin((t + 300.0) / 200))))
    assert (
        found is not None
        and found.times == pytest.approx(2.0, rel=1e-6)
        and found.together == pytest.approx(1.0)
    )
    assert found.minutes == pytest.approx(1490.0 / 60)
    other = np.random.default_rng(1).normal(size=len(t)) + 20
    apart = alongside((t, level), (t, other))
    assert apart is not None and abs(apart.together) < 0.3
    assert alongside((t, level), (t + 5000.0, level)) is None
    assert alongside((t, level), (t + 1750.0, level)) is None
    flat = alongside((t, level), (t, np.full(len(t), 10.0)))
    assert flat is not None and flat.together == 0.0 and flat.times == pytest.approx(level.mean() / 10)
