"""What is due when, from hours of use."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from math import ceil, inf

from purvel.shop.upkeep import Duty
from purvel.upkeep.bins import DAYS

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


def due(duty: Duty, hours: float, today: date, begun: date) -> Due:
    """When a duty is due, by hours a month at its thing and by days, whichever comes first.

    Counted from when it was done last, or from `begun`. A day that is none counts as never done.
    """
    since = day_of(duty.done_on) or begun
    by_use = duty.every_hours / hours * DAYS if duty.every_hours > 0 and hours > 0 else inf
    by_days = float(duty.every_days) if duty.every_days > 0 else inf
    every = min(by_use, by_days)
    if every > FAR:
        return Due(duty.id, None, inf, 0.0)
    day = since + timedelta(days=ceil(every))
    return Due(duty.id, day, float((day - today).days), (today - since).days / max(every, 1e-9))


def day_of(text: str | None) -> date | None:
    """A day of the calendar; None for what is none."""
    try:
        return date.fromisoformat(text or "")
    except ValueError:
        return None
