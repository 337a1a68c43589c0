"""Logs of monitors: read from what monitors write, and what decays and ratios tell of them."""

from __future__ import annotations

from datetime import datetime

import numpy as np
import pytest

from purvel.roomair.decays import Decay, compare, doubts, fit_decay, proposed, puff, summary
from purvel.roomair.logs import LogError, read_log


def noisy(levels: np.ndarray, share: float, seed: int) -> np.ndarray:
    return levels * (1 + share * np.random.default_rng(seed).normal(size=len(levels)))


# ---- reading


@pytest.mark.parametrize(
    "text",
    [
        "time,PM2.5\n2026-11-26 10:15:00,12.5\n2026-11-26 10:15:10,13\n2026-11-26 10:15:30,14\n",
        "Zeit;PM2,5\n26.11.2026 10:15:00;12,5\n26.11.2026 10:15:10;13\n26.11.2026 10:15:30;14\n",
        "Date\tTime\tPM2.5 (ug/m3)\n11/26/2026\t10:15:00 AM\t12.5\n11/26/2026\t10:15:10 AM\t13\n"
        "11/26/2026\t10:15:30 AM\t14\n",
        "monitor 7, made in the shed\nserial,12345\n\ntimestamp,pm2.5\n2026-11-26T10:15:00Z,12.5\n"
        "2026-11-26T10:15:10Z,13\n2026-11-26T10:15:30Z,14\n",
        "timestamp|pm2_5\n1795688100|12.5\n1795688110|13\n1795688130|14\n",
    ],
)
def test_common_layouts_are_read_alike(text: str) -> None:
    log = read_log(text.encode())
    assert log.seconds.tolist() == [0.0, 10.0, 30.0]
    assert log.begun == datetime(2026, 11, 26, 10, 15)
    assert len(log.channels) == 1 and log.channels[0].kind == "mass" and log.channels[0].size == 2.5
    assert log.channels[0].values.tolist() == [12.5, 13.0, 14.0]
    assert log.left_out == 0


def test_channels_are_told_by_their_names() -> None:
    head = "time,Temp C,>0.3um,count_0.5um_per_l,>2.5 µm,PM1,PM10,PM4"
    rows = [f"2026-01-01 00:00:{s:02d},21,{s},{s},{s},{s},{s},{s}" for s in range(5)]
    log = read_log("\n".join([head, *rows]).encode())
    told = {one.name: (one.kind, one.size) for one in log.channels}
    assert told == {
        "Temp C": ("temperature", 0.0),
        ">0.3um": ("count", 0.3),
        "count_0.5um_per_l": ("count", 0.5),
        ">2.5 µm": ("count", 2.5),
        "PM1": ("mass", 1.0),
        "PM10": ("mass", 10.0),
        "PM4": ("mass", 4.0),
    }
    assert log.channel().name == "count_0.5um_per_l"
    assert log.channel("PM4").name == "PM4" and log.channel("none such").name == "count_0.5um_per_l"


def test_a_clock_without_a_day_goes_on_after_midnight() -> None:
    rows = ["23:59:40,1", "23:59:50,2", "00:00:00,3", "00:00:10,4"]
    log = read_log("\n".join(["time,count 0.5um", *rows]).encode())
    assert log.seconds.tolist() == [0.0, 10.0, 20.0, 30.0]


def test_days_first_is_told_by_a_number_over_twelve() -> None:
    rows = ["03/04/2026 10:00:00,1", "03/04/2026 10:00:10,2", "13/04/2026 10:00:00,3"]
    assert read_log("\n".join(["time,PM2.5", *rows]).encode()).begun == datetime(2026, 4, 3, 10)
    rows[2] = "04/13/2026 10:00:00,3"
    assert read_log("\n".join(["time,PM2.5", *rows]).encode()).begun == datetime(2026, 3, 4, 10)


def test_rows_that_cannot_be_read_are_counted_and_holes_stay_holes() -> None:
    rows = [
        "2026-01-01 00:00:00,5", "no time at all,6", "2026-01-01 00:00:20,", "2026-01-01 00:00:30,error",
        "2026-01-01 00:00:10,7", "2026-01-01 00:00:40,8", "2026-01-01 00:00:50,1e300", "2026-01-01 00:01:00,inf",
    ]  # fmt: skip
    log = read_log("\n".join(["time,PM2.5", *rows]).encode())
    assert log.left_out == 1
    assert log.seconds.tolist() == [0.0, 10.0, 20.0, 30.0, 40.0, 50.0, 60.0]
    assert log.channels[0].values[[0, 1, 4]].tolist() == [5.0, 7.0, 8.0]
    assert np.isnan(log.channels[0].values[[2, 3, 5, 6]]).all()


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "fewer than three lines"),
        (b"one\ntwo\nthree\n", "delimiter"),
        (b"\x00\x01\x02,\n" * 9, "no text file"),
        (b"a,b\nx,y\nz,w\n", "holds numbers"),
        (b"a,b\n1,2\n3,4\n", "holds a time"),
        (b"time,b\nnever,2\nsoon,4\nlater,4\n", "have a time"),
        (b"time,b\n1990-01-01 00:00:00,1\n2026-01-01 00:00:10,2\n2026-01-01 00:00:20,1\n", "36 years apart"),
        (b"time,b\n2026-01-01 00:00:00,x\n2026-01-01 00:00:10,y\n2026-01-01 00:00:20,1\n", "holds numbers"),
    ],
)
def test_what_is_no_log_is_refused_with_a_sentence(data: bytes, says: str) -> None:
    with pytest.raises(LogError, match=says):
        read_log(data)


def test_any_bytes_are_read_or_refused() -> None:
    whole = b"time,PM2.5\n" + b"".join(b"2026-01-01 00:%02d:00,%d\n" % (m, m) for m in range(30))
    chance = np.random.default_rng(3)
    for _ in range(300):
        data = bytearray(whole[: chance.integers(1, len(whole))])
        for _ in range(chance.integers(0, 12)):
            data[chance.integers(0, len(data))] = chance.integers(0, 256)
        try:
            log = read_log(bytes(data))
        except LogError:
            continue
        assert np.all(np.diff(log.seconds) > 0) and all(
            len(c.values) == len(log.seconds) for c in log.channels
        )


# ---- decays


def test_a_clean_decay_gives_its_rate_and_a_measured_background_is_kept() -> None:
    seconds = np.arange(0, 1800, 10.0)
    values = 100 * np.exp(-4.0 * seconds / 3600) + 5
    free, held = fit_decay(seconds, values), fit_decay(seconds, values, 5.0)
    assert free.rate == pytest.approx(4.0, rel=1e-3) and free.end == pytest.approx(5.0, rel=0.01)
    assert held.rate == pytest.approx(4.0, rel=1e-4) and held.start == pytest.approx(100, rel=1e-3)


def test_two_readings_by_hand() -> None:
    """By pocket calculator: 80 above the background at 0, 40 after 15 min: ln 2 / 0.25 h = 2.77 per hour."""
    seconds = np.arange(0, 3600, 20.0)
    values = 80 * 0.5 ** (seconds / 900)
    assert fit_decay(seconds, values, 0.0).rate == pytest.approx(2.7726, rel=1e-3)


@pytest.mark.parametrize("together", [0.0, 0.6])
def test_the_truth_is_within_the_interval_most_times(together: float) -> None:
    inside = told = 0
    chance = np.random.default_rng(5)
    for _ in range(40):
        k, seconds = chance.uniform(2, 10), np.arange(0, 1800, 10.0)
        error = np.zeros(len(seconds))
        for i in range(1, len(seconds)):
            error[i] = together * error[i - 1] + np.sqrt(1 - together**2) * chance.normal()
        found = fit_decay(seconds, (150 * np.exp(-k * seconds / 3600) + 6) * (1 + 0.1 * error), 6.0)
        if not found.why_not:
            told += 1
            inside += found.low <= k <= found.high
    assert told >= 36 and inside >= 0.85 * told


def test_the_scale_of_the_monitor_cancels() -> None:
    seconds = np.arange(0, 1800, 10.0)
    values = noisy(100 * np.exp(-4.0 * seconds / 3600) + 5, 0.05, 2)
    one, many = fit_decay(seconds, values, 5.0), fit_decay(seconds, values * 37.0, 185.0)
    assert (one.rate, one.low, one.high) == pytest.approx((many.rate, many.low, many.high), rel=1e-3)


@pytest.mark.parametrize(
    ("levels", "says"),
    [
        (lambda t: 50 + 0 * t, "stand out|fall off"),
        (lambda t: 50 + t / 100, "stand out|fall off"),
        (lambda t: 3 * np.exp(-3 * t / 3600) + 60, "stand out|fall off|would fit"),
        (lambda t: 100 * np.exp(-0.2 * t / 3600), "time constant|would fit|stand out|fall off"),
    ],
)
def test_where_the_data_cannot_tell_it_says_so(levels, says: str) -> None:
    seconds = np.arange(0, 1200, 10.0)
    found = fit_decay(seconds, noisy(levels(seconds), 0.08, 4))
    assert found.rate == 0.0
    with pytest.raises(AssertionError, match=says):
        raise AssertionError(found.why_not)


def test_a_rate_that_is_anybodys_guess_is_not_quoted() -> None:
    seconds = np.arange(0, 2400, 60.0)
    assert fit_decay(seconds, seconds / 60).why_not in (
        "almost any rate would fit", "the readings do not fall off as a decay does",
        "what decays does not stand out from the scatter",
    )  # fmt: skip
    assert all(len(fit_decay(seconds, np.full(40, level)).why_not) < 100 for level in (0.0, 5.0, -1e12, 1e12))


def test_few_readings_and_holes() -> None:
    seconds = np.arange(0, 110, 10.0)
    assert "too few" in fit_decay(seconds, np.exp(-seconds / 600)).why_not
    seconds = np.arange(0, 1800, 10.0)
    values = 100 * np.exp(-4.0 * seconds / 3600)
    values[::3] = np.nan
    assert fit_decay(seconds, values, 0.0).rate == pytest.approx(4.0, rel=1e-3)
    assert isinstance(fit_decay(seconds, np.full(len(seconds), np.nan)), Decay)


# ---- stretches


def test_a_stretch_in_figures() -> None:
    found = summary(np.array([1.0, 2.0, np.nan, 3.0, 10.0]))
    assert (found.readings, found.mean, found.median, found.peak) == (4, 4.0, 2.5, 10.0)
    assert summary(np.array([np.nan])).readings == 0


def test_two_stretches_compared_above_the_background() -> None:
    chance = np.random.default_rng(1)
    much, little = 105 + 5 * chance.normal(size=90), 25 + 2 * chance.normal(size=90)
    found = compare(little, much, 5.0)
    assert found.ratio == pytest.approx(0.2, rel=0.05) and found.low < 0.2 < found.high < 0.5
    again = compare(much, little, 5.0)
    assert again.ratio == pytest.approx(1 / found.ratio) and again.low == pytest.approx(1 / found.high)
    assert "scatter" in compare(much, 105 + 5 * chance.normal(size=90), 5.0).why_not
    assert "background" in compare(much, 5 + chance.normal(size=90), 5.0).why_not
    assert "few" in compare(much[:5], little, 5.0).why_not


def test_what_is_odd_in_a_log() -> None:
    seconds = np.arange(0, 3600, 10.0)
    values = 50 + np.random.default_rng(2).normal(size=len(seconds))
    fine = doubts(seconds, values)
    assert (fine.gap, fine.stuck, fine.missing) == (10.0, 0.0, 0.0) and fine.capped < 0.01
    values[100:160] = np.nan
    values[200:300] = 77.0
    odd = doubts(seconds, values)
    assert odd.gap == 610.0 and odd.stuck == 990.0
    assert odd.missing == pytest.approx(60 / 360) and odd.capped == pytest.approx(100 / 300)
    assert doubts(seconds, np.zeros(len(seconds))).stuck == 0.0


def test_a_puff_at_the_start_is_told_from_a_slow_rise() -> None:
    seconds = np.arange(0, 600, 10.0)
    flat = 10 + 20 * np.ones(len(seconds))
    assert puff(seconds, flat + 100 * np.exp(-seconds / 25), 10.0) == pytest.approx(6.0, rel=0.02)
    assert puff(seconds, 10 + 20 * (1 - np.exp(-seconds / 200)), 10.0) < 1.0
    assert puff(seconds[:6], flat[:6], 10.0) == 0.0


def test_where_a_stretch_may_lie() -> None:
    minutes = np.arange(0, 90, 1 / 6)
    levels = np.where(
        minutes < 20,
        5.0,
        np.where(minutes < 30, 5 + 10 * (minutes - 20), 5 + 100 * np.exp(-(minutes - 30) / 12)),
    )
    start, end = proposed(minutes * 60, levels, "decay")
    assert 29 < start / 60 < 31 and end / 60 > 85
    start, end = proposed(minutes * 60, levels, "background")
    assert 0 <= start < end <= 20 * 60
    start, end = proposed(minutes * 60, levels, "work")
    assert 19 < start / 60 < 24 and 29 < end / 60 < 31
    hazy = proposed(minutes * 60, levels + 100, "work")  # a quarter of the rise is there at 22.5 min
    assert hazy[0] / 60 == pytest.approx(22.5, abs=0.6) and hazy == (start, end)
    again = np.where(minutes > 60, levels + 60, levels)
    assert 55 < proposed(minutes * 60, again, "decay")[1] / 60 <= 60.5
