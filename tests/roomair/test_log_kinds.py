"""Columns of logs by their names and units; times with zones and clocks that are set; a day over a log."""

from datetime import datetime, timedelta

import numpy as np
import pytest

from purvel.roomair.laid_over import envelope, laid
from purvel.roomair.log_kinds import UNITS, told_of
from purvel.roomair.log_times import in_order, times
from purvel.roomair.logs import read_log

ROWS = [f"2026-11-26 10:{m:02d}:00" for m in range(30)]


def column(head: str, value: str, units: dict[str, str] | None = None):
    text = "\n".join([f"time;{head}", *(f"{row};{value}" for row in ROWS)])
    return read_log(text.encode(), units).channels[0]


@pytest.mark.parametrize(
    ("head", "kind", "unit", "written", "shown"),
    [
        ("PM2.5 (µg/m³)", "mass", "µg/m³", "10", 10.0),
        ("pm2_5_mg_m3", "mass", "µg/m³", "0.01", 10.0),
        ("PM10 [ug/m3]", "mass", "µg/m³", "10", 10.0),
        ("particles >0.5um /ft3", "count", "1/L", "28316.846592", 1000.0),
        ("count_0.3um_per_0.1l", "count", "1/L", "5", 50.0),
        ("0.5 µm (#/m3)", "count", "1/L", "5000", 5.0),
        ("0.5um #/cm3", "count", "1/L", "5", 5000.0),
        ("0.5um per 0.01 ft3", "count", "1/L", "0.28316846592", 1.0),
        ("TVOC mg/m3", "tvoc", "mg/m³", "0.5", 0.5),
        ("tVOC (µg/m³)", "tvoc", "mg/m³", "500", 0.5),
        ("TVOC ppm", "tvoc", "ppb", "0.5", 500.0),
        ("VOC index", "tvoc", "index", "100", 100.0),
        ("HCHO (ppm)", "formaldehyde", "mg/m³", "0.1", 0.1227),
        ("Formaldehyde µg/m3", "formaldehyde", "mg/m³", "80", 0.08),
        ("CO2 (ppm)", "co2", "ppm", "600", 600.0),
        ("Temperature (°F)", "temperature", "°C", "68", 20.0),
        ("temp_c", "temperature", "°C", "20", 20.0),
        ("Relative humidity %", "humidity", "%", "55", 55.0),
    ],
)
def test_what_a_column_is_and_its_unit(head: str, kind: str, unit: str, written: str, shown: float) -> None:
    one = column(head, written)
    assert (one.kind, one.unit) == (kind, unit) and one.is_sure
    assert one.values[0] == pytest.approx(shown)


def test_a_unit_that_is_not_written_is_the_usual_one_until_it_is_told() -> None:
    usual = column("PM2.5", "0.02")
    assert (usual.written, usual.is_sure, usual.values[0]) == ("µg/m³", False, 0.02)
    told = column("PM2.5", "0.02", {"PM2.5": "mg/m³"})
    assert (told.written, told.is_sure) == ("mg/m³", True) and told.values[0] == pytest.approx(20.0)
    nonsense = column("PM2.5", "0.02", {"PM2.5": "miles"})
    assert (nonsense.written, nonsense.is_sure) == ("µg/m³", False)
    assert column("battery volts", "3").kind == "other" and column("battery volts", "3").unit == ""


def test_sizes_are_sizes_and_a_number_is_no_size() -> None:
    assert told_of("bin 7").kind == "count" and told_of("bin 7").size == 7.0
    assert told_of("count 20261126").kind == "other"
    assert told_of("PM2.5 count").kind == "count"
    assert all(next(iter(units.values()), 1.0) == 1.0 for units in UNITS.values())


def test_zones_are_told_by_the_first_and_the_end_of_summer_time_is_no_hour_lost() -> None:
    rows = ["2026-10-25T02:59:00+02:00", "2026-10-25T02:00:00+01:00", "2026-10-25T02:01:00+01:00"]
    seconds, good = times(rows)
    assert good.all() and np.diff(seconds).tolist() == [60.0, 60.0]
    seconds, _ = times(["2026-11-26 10:00:00Z", "2026-11-26 10:00:30Z"])
    assert seconds[0] == (datetime(2026, 11, 26, 10) - datetime(1970, 1, 1)).total_seconds()
    seconds, _ = times(["10:00:00 -0500", "10:00:30 -0500"])
    assert np.diff(seconds).tolist() == [30.0]


@pytest.mark.parametrize("zone", ["Z", "+01:00", "-05:00"])
def test_in_a_long_log_one_row_that_names_its_zone_is_found(zone: str) -> None:
    """Of so many rows some are looked at only; the zone of the first that has one is that of all."""
    plain = [f"2026-11-26 10:{k // 60:02d}:{k % 60:02d}" for k in range(3000)]
    told = [text + zone if k == 1 else text for k, text in enumerate(plain)]
    assert times(told)[0].tolist() == times(plain)[0].tolist()


def test_a_clock_that_is_set_back_goes_on_and_rows_in_another_order_are_sorted() -> None:
    clock = np.concatenate([np.arange(0, 600, 10.0), np.arange(100, 700, 10.0)])
    passed, order, back = in_order(clock)
    assert back == 1 and np.diff(passed).tolist() == [10.0] * (len(clock) - 1)
    assert order.tolist() == list(range(len(clock)))
    upside_down = np.arange(600, 0, -10.0)
    passed, order, back = in_order(upside_down)
    assert back == 0 and passed.tolist() == sorted(upside_down) and order[0] == len(upside_down) - 1
    shuffled = np.random.default_rng(1).permutation(np.arange(0, 600, 10.0))
    passed, order, back = in_order(shuffled)
    assert back == 0 and (np.diff(passed) > 0).all() and shuffled[order].tolist() == passed.tolist()
    few = np.array([0.0, 10.0, 20.0, 5.0, 15.0])
    assert in_order(few)[2] == 0  # too few between for a clock that was set
    for before, after, is_set in ((10, 10, 1), (9, 10, 0), (10, 9, 0)):  # ten are enough
        late = np.concatenate([1000.0 + 10 * np.arange(before), 10.0 * np.arange(after)])
        assert in_order(late)[2] == is_set


def test_a_log_whose_clock_was_set_back_says_so() -> None:
    begun = datetime(2026, 11, 26, 10)
    late = [begun + timedelta(seconds=10 * k - (3600 if k >= 60 else 0)) for k in range(120)]
    log = read_log(
        "\n".join(["time,pm2.5", *(f"{one:%Y-%m-%d %H:%M:%S},{k}" for k, one in enumerate(late))]).encode()
    )
    assert log.set_back == 1 and log.left_out == 0
    assert log.seconds.tolist() == [10.0 * k for k in range(120)]
    assert log.channels[0].values.tolist() == list(range(120))


def test_a_long_log_is_read_as_a_short_one(monkeypatch: pytest.MonkeyPatch) -> None:
    """By the quick way for what is regular, and row by row where a line is not; both say the same."""
    begun = datetime(2026, 11, 26)
    rows = [f"{begun + timedelta(seconds=k):%Y-%m-%d %H:%M:%S},{k % 7}.5,{k % 11}" for k in range(8000)]
    plain = "\n".join(["made in a shed", "", "time,PM1,PM10", *rows])
    regular = "\n".join(["made in,a,shed", "time,PM1,PM10", *rows])
    broken = "\n".join(["time,PM1,PM10", *rows[:4000], "2026-11-26 09:00:00,1", "x,1,2,3", *rows[4000:]])
    windows = read_log(regular.replace("\n", "\r\n").encode())
    assert np.array_equal(windows.channels[0].values, read_log(regular.encode()).channels[0].values)
    quick, slow, odd = (read_log(text.encode()) for text in (regular, plain, broken))
    for one in (quick, slow):
        assert len(one.seconds) == 8000 and [channel.name for channel in one.channels] == ["PM1", "PM10"]
        assert one.channels[0].values[:3].tolist() == [0.5, 1.5, 2.5]
    assert np.array_equal(quick.channels[1].values, slow.channels[1].values)
    assert odd.left_out >= 1 and len(odd.seconds) in (8000, 8001)


def test_a_log_of_the_other_unicode() -> None:
    text = "time;PM2,5\n" + "\n".join(f"26.11.2026 10:00:{s:02d};{s},5" for s in range(20))
    assert read_log(text.encode("utf-16")).channels[0].values[3] == 3.5


# ---- a day over a log


def test_a_day_is_found_in_a_log_with_its_scale() -> None:
    clock = np.arange(0.0, 3600.0, 10.0)
    expected = np.interp(clock, [0, 600, 1500, 1800, 3600], [0, 0, 50, 10, 0])
    seconds = np.arange(0.0, 7200.0, 5.0)
    chance = np.random.default_rng(2)
    values = (
        7.0
        + 0.4 * np.interp(seconds - 1500.0, clock, expected, left=0, right=0)
        + 0.3 * chance.normal(size=len(seconds))
    )
    place = laid(seconds, values, clock, expected)
    assert place is not None and place.is_believed
    assert place.at == pytest.approx(1500.0, abs=30.0)
    assert place.times == pytest.approx(0.4, rel=0.05) and place.level == pytest.approx(7.0, abs=0.3)


def test_a_day_that_is_not_there_is_not_believed() -> None:
    clock = np.arange(0.0, 3600.0, 10.0)
    expected = np.interp(clock, [0, 600, 1500, 3600], [0, 0, 50, 0])
    noise = 10 + np.random.default_rng(3).normal(size=700)
    place = laid(np.arange(700) * 10.0, noise, clock, expected)
    assert place is None or not place.is_believed
    assert laid(np.arange(5.0), np.ones(5), clock, expected) is None
    assert laid(np.arange(700) * 10.0, noise, clock, 0 * expected) is None
    assert laid(np.arange(700) * 10.0, np.full(700, np.nan), clock, expected) is None


def test_a_chart_of_a_long_log_keeps_its_peaks_and_its_holes() -> None:
    seconds = np.arange(100_000.0)
    values = np.sin(seconds / 1000)
    values[54_321] = 99.0
    values[70_000:72_000] = np.nan
    t, c = envelope(seconds, values, 500)
    assert len(t) == len(c) == 1000 and np.nanmax(c) == 99.0 and np.nanmin(c) == np.nanmin(values)
    assert t[np.nanargmax(c)] == pytest.approx(54_321, abs=200)
    inside = (t >= 70_000) & (t < 71_800)
    assert np.isnan(c[inside]).all() and np.isfinite(c[~inside]).sum() > 900
    assert (
        envelope(seconds[:100], values[:100], 500)[1] is not None
        and len(envelope(seconds[:100], values[:100], 500)[1]) == 100
    )


def test_a_year_that_no_calendar_has_is_a_row_left_out() -> None:
    rows = [f"26.11.2026 10:{m:02d}:00;{m}" for m in range(20)] + [f"26.11.{'9' * 40} 10:30:00;1"]
    log = read_log("\n".join(["time;PM1", *rows]).encode())
    assert len(log.seconds) == 20 and log.left_out == 1
