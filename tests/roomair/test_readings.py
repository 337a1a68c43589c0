"""Readings of monitors: times as clocks write them, what is too little to tell, how a course is followed."""

import numpy as np
import pytest

from purvel.roomair.course import clear_after
from purvel.roomair.decays import Doubts, compare, doubts, proposed, puff
from purvel.roomair.logs import LogError, read_log


@pytest.mark.parametrize(
    ("first", "second", "apart"),
    [
        ("11:30:00 am", "1:05:00 pm", 95 * 60),
        ("12:10:00 am", "12:10:00 pm", 12 * 3600),
        ("12:00:00 pm", "1:00:00 pm", 3600),
        ("1764230400", "1764230460", 60),
        ("1764230400000", "1764230460000", 60),
        ("2026-11-27 09:59:30", "2026-11-27 10:00:15.5", 45.5),
    ],
)
def test_times_as_they_are_written(first: str, second: str, apart: float) -> None:
    log = read_log(f"time,pm2.5\n{first},10\n{second},11\n".encode())
    assert log.seconds[-1] - log.seconds[0] == pytest.approx(apart)


def test_a_column_of_times_that_rows_do_not_reach_is_no_time() -> None:
    with pytest.raises(LogError):
        read_log(b"a,b,time\n1,2\n3,4\n")


def test_a_puff_needs_two_readings_in_the_first_minute_and_enough_behind() -> None:
    slow = np.arange(0, 3600, 70.0)
    assert puff(slow, np.where(slow < 60, 100.0, 10.0), 0.0) == 0.0
    quick = np.arange(0, 70, 5.0)
    assert puff(quick, np.where(quick < 60, 100.0, 10.0), 0.0) == 0.0


def test_faint_stretches_are_compared_too() -> None:
    chance = np.random.default_rng(3)
    one, other = 0.5 + 0.01 * chance.normal(size=80), 0.2 + 0.01 * chance.normal(size=80)
    assert compare(one, other, 0.0).ratio == pytest.approx(2.5, rel=0.02)
    assert "does not stand out" in compare(-one, other, 0.0).why_not


def test_when_the_air_is_clear_by_hand() -> None:
    """From 4 to 1 in 10 min it passes 2 half way, on the logarithm; a level that is nothing at once is passed
    at the end of its step.
    """
    clock = np.array([0.0, 10.0, 20.0])
    assert clear_after(clock, np.array([4.0, 1.0, 0.0]), 0.0, 2.0) == pytest.approx(5.0)
    assert clear_after(clock, np.array([4.0, 0.0, 0.0]), 0.0, 2.0) == pytest.approx(10.0)
    assert clear_after(clock, np.array([4.0, 4.0, 4.0]), 0.0, 2.0) is None
    assert clear_after(clock, np.array([1.0, 1.0, 1.0]), 0.0, 2.0) == 0.0


def test_the_calmest_tenth_to_the_reading() -> None:
    """Of 200 readings the calmest 20 in a row: those from 60 to 79, every 10 s."""
    seconds, values = np.arange(0.0, 2000.0, 10.0), np.full(200, 50.0)
    values[60:80] = 10.0
    assert proposed(seconds, values, "background") == (600.0, 790.0)


def test_work_begins_where_the_level_has_risen_by_a_quarter() -> None:
    """From 0 at minute 20 to 100 at minute 30 it has risen by a quarter at 22.5."""
    minutes = np.arange(0.0, 40.0, 1 / 6)
    levels = np.clip(10.0 * (minutes - 20.0), 0.0, 100.0)
    start, _ = proposed(minutes * 60, levels, "work")
    assert start / 60 == pytest.approx(22.5, abs=0.4)


def test_a_reading_may_be_stuck_from_the_first_to_the_last() -> None:
    """Every 10 s: the first 50 stand for 490 s; then all of them; nothing (0) may stand."""
    seconds, values = np.arange(0.0, 1000.0, 10.0), np.arange(100.0) + 1.0
    values[:50] = 7.0
    assert doubts(seconds, values).stuck == 490.0
    assert doubts(seconds, np.full(100, 7.0)).stuck == 990.0
    assert doubts(seconds, np.zeros(100)).stuck == 0.0
    assert doubts(seconds, np.full(100, np.nan)) == Doubts(0.0, 1.0, 0.0, 0.0)


def test_of_date_and_time_in_columns_of_their_own_the_first_two_are_taken() -> None:
    """A third that looks like a time too, as when the row was sent, is none of it."""
    rows = "date,time,value,sent time\n2026-11-27,09:59:30,10,10:30:00\n2026-11-27,10:00:15,11,10:31:00\n"
    log = read_log(rows.encode())
    assert log.seconds[-1] - log.seconds[0] == 45.0
    swapped = "time,date,value,sent time\n09:59:30,2026-11-27,10,10:30:00\n10:00:15,2026-11-27,11,10:31:00\n"
    other = read_log(swapped.encode())
    assert other.seconds[-1] - other.seconds[0] == 45.0 and other.begun == log.begun
