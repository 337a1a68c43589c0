"""Times of a log, as clocks write them: seconds, whatever the format, the zone and what the clock did."""

from __future__ import annotations

import re
from collections.abc import Sequence
from datetime import datetime

from purvel.libraries import Array, Indices, Mask, np

_ISO = re.compile(r"\d{4}-\d{2}-\d{2}[ T]\d{2}:\d{2}(:\d{2}(\.\d+)?)?", re.ASCII)
_ZONE = re.compile(r"\s*(Z|UTC|GMT|[+-]\d{2}:?\d{2})$", re.IGNORECASE)
_DAY = 86_400.0  # s
_LOOKED_AT = 997  # rows of a long log whose times are looked at before all are read at once
_SET_BACK = 5  # times that a clock may have been set back; more often, and rows stand in another order
_LEAST_RUN = 10  # readings between two settings of a clock


def times(texts: Sequence[str]) -> tuple[Array, Mask]:
    """Seconds since 1970 as if the clock were UTC, and which rows have a time. Where rows name their zone,
    all are told by that of the first.
    """
    found = _iso(texts)
    if found is None:
        texts, shifts = _zones([text.strip() for text in texts])
        days_first = _days_first(texts)
        days: dict[str, float] = {}
        found = np.array([_time(text, days, days_first) for text in texts], dtype=float) - shifts
    good = np.isfinite(found)
    if good.any() and found[good].max() <= _DAY:  # a clock without a day: it begins anew after midnight
        found[good] += _DAY * np.cumsum(np.diff(found[good], prepend=found[good][0]) < -_DAY / 2)
    return found, good


def in_order(seconds: Array) -> tuple[Array, Indices, int]:
    """Seconds as they passed, the order of the rows (n,), and how often the clock was set back. Rows that
    stand in another order are sorted; a clock that was set back a few times goes on from where it was, by the
    usual step.
    """
    steps = np.diff(seconds)
    back = np.flatnonzero(steps < 0)
    runs = np.diff(np.concatenate([[0], back + 1, [len(seconds)]]))
    if not len(back) or len(back) > _SET_BACK or runs.min() < _LEAST_RUN:
        order = np.argsort(seconds, kind="stable")
        return seconds[order], order, 0
    usual = float(np.median(steps[steps > 0])) if (steps > 0).any() else 1.0
    passed = np.array(seconds, dtype=float)
    for at in back:
        passed[at + 1 :] += passed[at] + usual - passed[at + 1]
    return passed, np.arange(len(seconds)), len(back)


def _iso(texts: Sequence[str]) -> Array | None:
    """All at once where every row has its time as 2026-11-26 10:15:00; else None."""
    step = max(1, len(texts) // _LOOKED_AT)
    if not all(map(_ISO.fullmatch, texts[::step])):
        return None
    whole = "".join(texts)
    if any(mark in whole for mark in "+Zz") or whole.count("-") != 2 * len(texts):
        return None  # zones are told one by one
    try:
        moments = np.array(texts, dtype="datetime64[ms]")
    except ValueError:
        return None
    found: Array = moments.astype("int64") / 1000.0
    return found


def _zones(texts: Sequence[str]) -> tuple[Sequence[str], Array]:
    """The times without their zones, and by how many seconds each zone is ahead of the first row's."""
    ends = [
        _ZONE.search(text)
        if text[-1:] not in "0123456789" or text[-6:-5] in "+-" or text[-5:-4] in "+-"
        else None
        for text in texts
    ]
    shifts, first = np.zeros(len(texts)), None
    bare = list(texts)
    for row, end in enumerate(ends):
        if end is not None and ":" in texts[row][: end.start()]:
            ahead = _ahead(end[1])
            first = ahead if first is None else first
            shifts[row], bare[row] = ahead - first, texts[row][: end.start()]
    return bare, shifts


def _ahead(zone: str) -> float:
    """By how many seconds a zone is ahead of UTC."""
    digits = zone.replace(":", "")
    if not digits[1:].isdecimal():
        return 0.0
    return (-1.0 if digits[0] == "-" else 1.0) * (3600.0 * int(digits[1:3]) + 60.0 * int(digits[3:5]))


def _days_first(texts: Sequence[str]) -> bool:
    """Whether 3/4 is the third of April: where any first number is over 12, or dots divide."""
    for text in texts[:: max(1, len(texts) // 500)]:
        match = re.match(r"(\d{1,2})([/.\-])(\d{1,2})\2\d{4}", text)
        if match:
            if match[2] == "." or int(match[1]) > 12:
                return True
            if int(match[3]) > 12:
                return False
    return False


_CLOCK = re.compile(r"(\d{1,2}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?\s*([ap]m)?", re.IGNORECASE)


def _time(text: str, days: dict[str, float], days_first: bool) -> float:
    """One time [s]; nan where it cannot be read."""
    if (
        text[-3:-2] == ":" == text[-6:-5]
        and text[-8:-6].isdecimal()
        and text[-5:-3].isdecimal()
        and text[-2:].isdecimal()
    ):
        hour, minute, second = int(text[-8:-6]), int(text[-5:-3]), float(text[-2:])
        return _moment(text[:-8], hour, minute, second, days, days_first)
    if re.fullmatch(r"\d{9,10}(?:\.\d+)?|\d{12,13}", text):
        value = float(text)
        return value / 1000 if value > 1e11 else value
    clock = _CLOCK.search(text)
    if clock is None:
        return _seconds(text)
    hour = int(clock[1]) % (12 if clock[4] else 100) + (12 if (clock[4] or "").lower() == "pm" else 0)
    minute, second = int(clock[2]), float((clock[3] or "0").replace(",", "."))
    return _moment(text[: clock.start()], hour, minute, second, days, days_first)


def _moment(
    day: str, hour: int, minute: int, second: float, days: dict[str, float], days_first: bool
) -> float:
    if hour > 23 or minute > 59 or second >= 61:
        return float("nan")
    if day not in days:
        days[day] = _day(day.strip(" T"), days_first)
    return days[day] + hour * 3600 + minute * 60 + second


def _day(text: str, days_first: bool) -> float:
    """The start of a day [s]; 0 where only the clock is given."""
    if not text:
        return 0.0
    parts = re.findall(r"\d+", text)
    if len(parts) < 3:
        return float("nan")
    a, b, c = (int(one) for one in parts[:3])
    year, month, day = (a, b, c) if len(parts[0]) == 4 else (c, b, a) if days_first else (c, a, b)
    try:
        moment = datetime(year + 2000 if year < 100 else year, month, day)
    except (ValueError, OverflowError):
        return float("nan")
    return (moment - datetime(1970, 1, 1)).total_seconds()


def _seconds(text: str) -> float:
    """Seconds from the start of a log; nan where it is no such number."""
    try:
        plain = float(text.replace(",", "."))
    except ValueError:
        return float("nan")
    return plain if 0 <= plain < 1e8 else float("nan")
