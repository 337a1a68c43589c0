"""What is due when, from hours of use."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from math import ceil, inf

from purvel.shop.upkeep import Duty
from purvel.upkeep.bins import DAYS

LEARNT = 28  # days of counted hours from which they say how fast hours add up [choice]
FAR = 3650  # days: what is due later is not reckoned


@dataclass(frozen=True, slots=True)
class Due:
    """When a duty is due: the day (None: never by what is known), how many days from today, and the share of
    its time that has gone by (1: due).
    """

    duty: str
    day: date | None
    days: float
    gone: float


def hours_a_month(walks: Mapping[str, Sequence[tuple[float, float]]]) -> dict[str, float]:
    """Hours of use a month by thing, from minutes of work each time and times a month."""
    return {thing: sum(minutes * times for minutes, times in uses) / 60.0 for thing, uses in walks.items()}


def due(
    duty: Duty, hours: float, today: date, begun: date, counted: Mapping[date, float] | None = None
) -> Due:
    """When a duty is due, by hours of use, by days and by readings, whichever comes first.

    Counted from when it was done last, or from `begun`. A day that is none counts as never done. `hours` are
    those a month by plan; of days since a switch box `counted` them [h] that count holds instead, and from
    `LEARNT` days of it on it says how fast they add up, too.
    """
    since = day_of(duty.done_on) or begun
    used, rate = hours * (today - since).days / DAYS, hours
    if counted:
        first = min(counted)
        before = max(0, (min(first, today) - since).days)
        used = hours * before / DAYS + sum(many for day, many in counted.items() if day >= since)
        span = (today - first).days + 1
        if span >= LEARNT:
            rate = sum(counted.values()) / span * DAYS
    read, gone_by_reading = by_readings(duty, today)
    left = inf
    if duty.every_hours > 0:
        still = duty.every_hours - used
        left = still / rate * DAYS if rate > 0 else inf if still > 0 else 0.0
    by_days = float(duty.every_days) - (today - since).days if duty.every_days > 0 else inf
    if min(left, by_days, read) > FAR:
        return Due(duty.id, None, inf, gone_by_reading)
    days = ceil(min(left, by_days, read))
    by_use = used / duty.every_hours if duty.every_hours > 0 else 0.0
    by_calendar = (today - since).days / duty.every_days if duty.every_days > 0 else 0.0
    gone = max(by_use, by_calendar, gone_by_reading)
    return Due(duty.id, today + timedelta(days=days), float(days), gone)


def by_readings(duty: Duty, today: date) -> tuple[float, float]:
    """In how many days what is read comes to the figure at which the duty is due (inf: never by the line
    through the readings since it was done last), and the share of the way there that has gone by [-].

    The line of least squares through two readings or more; one reading alone is due or it is not. 200 Pa on
    the first and 300 Pa ten days later come to 500 Pa twenty days after that.
    """
    done = day_of(duty.done_on)
    dated = [(day, one.value) for one in duty.readings if (day := day_of(one.day)) is not None]
    found = sorted((day, value) for day, value in dated if done is None or day >= done)
    if duty.until is None or not found:
        return inf, 0.0
    first, last = found[0][1], found[-1][1]
    rises = duty.until >= first
    if (last >= duty.until) if rises else (last <= duty.until):
        return 0.0, 1.0
    span = abs(duty.until - first)
    gone = (
        min(1.0, max(0.0, abs(last - first) / span if (last >= first) == rises else 0.0)) if span > 0 else 1.0
    )
    days = [(day - found[0][0]).days for day, _ in found]
    mean_day, mean = sum(days) / len(days), sum(value for _, value in found) / len(found)
    spread = sum((day - mean_day) ** 2 for day in days)
    slope = (
        sum((day - mean_day) * (value - mean) for day, (_, value) in zip(days, found)) / spread
        if spread
        else 0.0
    )
    if slope == 0.0 or (slope > 0) != rises:
        return inf, gone
    at = mean_day + (duty.until - mean) / slope
    return max(0.0, at - (today - found[0][0]).days), gone


def day_of(text: str | None) -> date | None:
    """A day of the calendar; None for what is none."""
    try:
        return date.fromisoformat(text or "")
    except ValueError:
        return None
