"""What the command line tells of a log by itself: stretches marked in minutes."""

import numpy as np
import pytest

from purvel.review.air.log_marks import MarkError, told

MINUTES = np.arange(0, 90, 1 / 6)


def log(levels: np.ndarray) -> bytes:
    rows = [
        f"2026-11-26 {10 + int(at) // 60}:{int(at) % 60:02}:{round(at % 1 * 60) % 60:02},{level:.3f},40"
        for at, level in zip(MINUTES, levels)
    ]
    return ("time,PM2.5,humidity_pct\n" + "\n".join(rows) + "\n").encode()


def scattered(levels: np.ndarray) -> np.ndarray:
    return levels * (1 + 0.01 * np.random.default_rng(3).normal(size=len(levels)))


DAY = log(
    scattered(
        np.select(
            [MINUTES < 10, MINUTES < 25, MINUTES < 40, MINUTES < 55],
            [5.0, 105.0, 55.0, 205.0],
            5.0 + 200.0 * np.exp(-6.0 * (MINUTES - 55) / 60),
        )
    )
)


def test_each_mark_is_told_and_work_is_held_against_the_first() -> None:
    """100 over a background of 5, then 50, then 200; at last a decay of 6 an hour."""
    marks = [
        ("background", "1-9"),
        ("work", "11-24"),
        ("work", "26 – 39"),
        ("work", "41-54"),
        ("decay", "55-89.5"),
    ]
    said = told(DAY, marks)
    assert said["channel"] == "PM2.5" and said["channels"] == ["PM2.5", "humidity_pct"]
    assert said["begun"] == "2026-11-26T10:00:00" and said["step"] == 10.0 and said["left_out"] == 0
    assert said["background"] == pytest.approx(5.0, rel=0.01)
    assert [(one["shows"], one["minutes"]) for one in said["marks"]] == marks
    assert [one["median"] for one in said["marks"][:4]] == pytest.approx([5, 105, 55, 205], rel=0.01)
    assert [one["ratio"] for one in said["against_the_first"]] == pytest.approx([0.5, 2.0], rel=0.02)
    assert said["marks"][4]["decay"]["rate"] == pytest.approx(6.0, rel=0.03)
    assert "decay" not in said["marks"][0]


def test_without_a_background_work_is_reckoned_from_the_lowest_of_it() -> None:
    said = told(DAY, [("work", "41-54"), ("work", "11-24")])
    assert said["background"] is None
    low = said["marks"][1]["low"]  # of 105 with 1 % of scatter
    assert 101.0 < low < 105.0
    assert said["against_the_first"][0]["ratio"] == pytest.approx((105.0 - low) / (205.0 - low), rel=0.1)
    assert told(DAY, [], "humidity_pct")["channel"] == "humidity_pct"
    two = [("background", "1-9"), ("background", "11-24")]
    assert told(DAY, two)["background"] == pytest.approx(5.0, rel=0.01)  # the lowest of several


@pytest.mark.parametrize(
    ("data", "mark", "channel", "why"),
    [
        (b"rubbish", "1-9", "", "The log has fewer than three lines"),
        (DAY, "1-9", "CO2", "no column “CO2”; it has PM2.5, humidity_pct"),
        (DAY, "9-1", "", "“9-1” is no stretch of minutes, such as 20-50"),
        (DAY, "9-9", "", "is no stretch"),
        (DAY, "early", "", "“early” is no stretch"),
        (DAY, "95-99", "", "The log, of 90 minutes, has no reading in 95-99"),
    ],
)
def test_what_cannot_be_told_is_said(data: bytes, mark: str, channel: str, why: str) -> None:
    with pytest.raises(MarkError, match=why):
        told(data, [("work", mark)], channel)
