"""What is said of odd logs and of stretches, in words and in the report, by hand."""

import re
from dataclasses import replace

import numpy as np
import pytest

from purvel.review.air import log_rules
from purvel.review.air.log_report import log_tables, logs_report
from purvel.review.figures import Figures
from tests.review.test_logs import (
    CALM,
    FALL,
    FIRST,
    MINUTES,
    SECOND,
    checked,
    decaying,
    document,
    found,
    two_cuts,
)

SECONDS = MINUTES * 60


def odd(levels: np.ndarray) -> str:
    """What is said of a log with these levels; readings that are nan are not in it."""
    made = document(np.where(np.isnan(levels), 0.0, levels), CALM)
    lines = made.blobs[made.shop.attachments[0].sha256].decode().splitlines()
    kept = [lines[0], *(line for line, level in zip(lines[1:], levels) if not np.isnan(level))]
    data = "\n".join(kept).encode()
    key = made.shop.attachments[0].sha256
    one = checked(replace(made, blobs={**made.blobs, key: data}))
    said = found(one, "log-odd")
    return said[0].sentence if said else ""


def wavy() -> np.ndarray:
    return 50 + 10 * np.sin(SECONDS / 60)


@pytest.mark.parametrize(
    ("first", "count", "says"),
    [
        (100, 10, "2 min without a reading"),  # 11 steps of 10 s
        (100, 9, ""),  # ten steps may pass
        (100, 35, "6 min without a reading"),
    ],
)
def test_a_gap_of_more_than_ten_steps_is_said(first: int, count: int, says: str) -> None:
    levels = wavy()
    levels[first : first + count] = np.nan
    said = odd(levels)
    assert says in said if says else said == ""


def test_from_a_minute_and_a_half_on_times_are_told_in_minutes() -> None:
    assert [log_rules._time(seconds) for seconds in (89.0, 90.0, 190.0)] == ["89 s", "2 min", "3 min"]


def test_readings_that_are_missing_here_and_there_are_counted() -> None:
    """Every twelfth of 720 is not there: 60, 8 % of them; every thirtieth is no more than 3 %."""
    for every, says in ((12, "8% of its readings are missing"), (30, "")):
        levels = wavy()
        levels[5::every] = np.nan
        assert says in odd(levels) and bool(says) == bool(odd(levels))


def test_a_reading_that_stands_still_or_a_scale_that_ends() -> None:
    still = wavy()
    still[100:161] = 47.0  # 60 steps of 10 s
    assert odd(still) == ""
    still[161] = 47.0
    assert "one reading stood still for 10 min" in odd(still)
    capped = wavy()
    top = np.argsort(capped)[-40:]
    capped[top] = 61.0
    capped[top[::2]] = 60.5
    assert "highest figure" not in odd(capped)  # 20 of 720
    capped[top] = 61.0
    assert "6% of its readings are at its highest figure" in odd(capped)


def test_without_a_background_the_lowest_level_of_both_is_taken() -> None:
    """Cuts of 90 and 30 over 10: without the mark the calm moments are in neither stretch, so 28 of 98 is
    told from what either shows at its lowest tenth.
    """
    wide = [replace(FIRST, start=15 * 60.0), replace(SECOND, start=55 * 60.0)]
    one = checked(document(two_cuts(30), *wide))
    (said,) = found(one, "log-compare")
    assert said.figures["ratio"] == pytest.approx(30 / 90, rel=0.08)
    marked = found(checked(document(two_cuts(30), CALM, *wide)), "log-compare")[0]
    assert said.figures["ratio"] == pytest.approx(marked.figures["ratio"], rel=0.03)


def test_the_report_and_the_page_say_what_the_stretches_say() -> None:
    one = checked(
        document(decaying(3.0), CALM, FALL, replace(FALL, id="tail", start=70 * 60.0, end=71 * 60.0))
    )
    (log,) = logs_report(one.answers)
    assert log["background"] == pytest.approx(10.0, rel=0.02) and log["readings"] == 720
    calm, fall, tail = log["marked"]
    assert (calm["shows"], calm["from"], calm["to"], calm["readings"]) == ("background", 0.0, 1140.0, 115)
    assert "rate" not in calm and calm["peak"] >= calm["mean"] >= 9.0
    assert fall["rate"][1] == pytest.approx(3.0, rel=0.05) and fall["why_not"] is None
    assert fall["rate"][0] < fall["rate"][1] < fall["rate"][2]
    low, high = fall["air_changes"][1:]
    assert low < fall["air_changes"][0] < high
    assert tail["rate"] is None and tail["why_not"] == "there are too few readings"
    (table,) = log_tables(one.answers, Figures("metric"))
    assert table.title == "Log log.csv, count 0.5um per l" or table.title.startswith("Log log.csv, ")
    assert [row[:3] for row in table.rows] == [
        ["calm", "background", "0–19"],
        ["fall", "decay", "20–80"],
        ["fall", "decay", "70–71"],
    ]
    assert float(table.rows[0][3]) == pytest.approx(10.0, rel=0.02)
    assert all(re.fullmatch(r"[\d.]+", row[4]) for row in table.rows)


def test_a_stretch_without_readings_says_so() -> None:
    levels = decaying(3.0)
    one = checked(document(levels, replace(CALM, start=900 * 60.0, end=910 * 60.0)))
    (table,) = log_tables(one.answers, Figures("metric"))
    assert table.rows[0][3:5] == ["no readings", ""]
