"""The share of the logs in the report."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from purvel.review.air.log_answers import LogAnswers
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.stage import Table
from purvel.shop.air import LogStretch
from purvel.shop.parts import name_of


def logs_report(answers: Answers) -> list[dict[str, Any]]:
    """Each log with its channel, its marked stretches and what they say."""
    logs = answers.of(LogAnswers)
    return [
        {
            "log": key,
            "channel": logs.channel(key).name,
            "channels": [one.name for one in log.channels],
            "begun": log.begun.isoformat(timespec="seconds"),
            "readings": len(log.seconds),
            "left_out": log.left_out,
            "background": logs.background(key),
            "marked": [_marked(logs, one) for one in logs.stretches if one.log == key],
        }
        for key, log in logs.logs.items()
    ]


def _marked(logs: LogAnswers, one: LogStretch) -> dict[str, Any]:
    found = logs.summary(one)
    said: dict[str, Any] = {
        "stretch": one.id,
        "shows": one.shows,
        "from": one.start,
        "to": one.end,
        "readings": found.readings,
        "mean": found.mean,
        "median": found.median,
        "peak": found.peak,
    }
    if one.shows == "decay":
        decay, changes = logs.decay(one), logs.air_changes(one)
        rates = None if decay.why_not else [decay.low, decay.rate, decay.high]
        said |= {"rate": rates, "why_not": decay.why_not or None, "air_changes": changes and list(changes)}
    return said


def log_tables(answers: Answers, say: Figures) -> Iterator[Table]:
    """Marked stretches with their figures."""
    logs = answers.of(LogAnswers)
    for key in logs.logs:
        rows = [_row(logs, one) for one in logs.stretches if one.log == key]
        if rows:
            title = f"Log {name_of(answers.base, key)}, {logs.channel(key).name}"
            heads = ("Stretch", "Shows", "Minutes", "Mean", "Peak", "Cleaner", "Door", "Hood")
            yield Table(title, heads, rows)


def _row(logs: LogAnswers, one: LogStretch) -> list[str]:
    found = logs.summary(one)
    minutes = f"{one.start / 60:.0f}–{one.end / 60:.0f}"
    figures = (
        [Figures.reading(found.mean), Figures.reading(found.peak)] if found.readings else ["no readings", ""]
    )
    return [one.name or one.shows, one.shows, minutes, *figures, one.cleaner, one.door, one.hood]
