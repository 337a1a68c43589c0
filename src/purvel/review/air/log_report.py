"""The share of the logs in the report."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from purvel.libraries import np
from purvel.review.air.log_answers import LogAnswers
from purvel.review.air.log_rules import comparisons
from purvel.review.air.log_runs import RunAnswers
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.stage import Table
from purvel.shop.air import LogStretch
from purvel.shop.parts import item_of, name_of

LEVELS = (15.0, 35.0, 150.0)  # ug/m3 of fine dust: WHO 24 h (2021), EPA 24 h, and ten times the first


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
            "set_back": log.set_back,
            "units": {one.name: one.unit for one in log.channels},
            "events": [{"at": one.at, "name": one.name} for one in answers.base.air.events if one.log == key],
            "background": logs.background(key),
            "marked": [_marked(answers, one) for one in logs.stretches if one.log == key],
        }
        for key, log in logs.logs.items()
    ]


def _marked(answers: Answers, one: LogStretch) -> dict[str, Any]:
    logs = answers.of(LogAnswers)
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
        "place": one.place or None,
        "over": {f"{level:g}": share for level, share in _over(logs, one)},
    }
    emitted = answers.of(RunAnswers).emissions.get(one.id)
    if emitted is not None:
        rates = None if emitted.why_not else [emitted.low, emitted.rate, emitted.high]
        said |= {"emitted": rates, "emitted_why_not": emitted.why_not or None}
    if one.shows == "decay":
        decay, changes = logs.decay(one), logs.air_changes(one)
        rates = None if decay.why_not else [decay.low, decay.rate, decay.high]
        said |= {"rate": rates, "why_not": decay.why_not or None, "air_changes": changes and list(changes)}
    return said


def _over(logs: LogAnswers, one: LogStretch) -> list[tuple[float, float]]:
    """Levels, and the share of a stretch's readings over each; none for what is no mass in ug/m3."""
    channel, (_, values) = logs.channel(one.log), logs.readings(one)
    seen = values[np.isfinite(values)]
    if channel.kind != "mass" or not len(seen):
        return []
    return [(level, float((seen > level).mean())) for level in LEVELS]


def log_tables(answers: Answers, say: Figures) -> Iterator[Table]:
    """Marked stretches with their figures."""
    logs = answers.of(LogAnswers)
    for key in logs.logs:
        rows = [_row(logs, one) for one in logs.stretches if one.log == key]
        if rows:
            title = f"Log {name_of(answers.base, key)}, {logs.channel(key).name}"
            heads = (
                "Stretch",
                "Shows",
                "Minutes",
                "Mean",
                "Peak",
                "Over 15, 35, 150",
                "Cleaner",
                "Door",
                "Hood",
            )
            yield Table(title, heads, rows)


def _row(logs: LogAnswers, one: LogStretch) -> list[str]:
    found = logs.summary(one)
    minutes = f"{one.start / 60:.0f}–{one.end / 60:.0f}"
    figures = (
        [Figures.reading(found.mean), Figures.reading(found.peak)] if found.readings else ["no readings", ""]
    )
    over = ", ".join(f"{share:.0%}" for _, share in _over(logs, one)) or "no mass"
    return [one.name or one.shows, one.shows, minutes, *figures, over, one.cleaner, one.door, one.hood]


CONDITIONS = (
    ("cleaner", "Cleaner"),
    ("door", "Door"),
    ("hood", "Hood"),
    ("wood", "Wood"),
    ("work", "Work"),
    ("place", "Monitor stood at"),
)


def comparison_tables(answers: Answers, say: Figures) -> Iterator[Table]:
    """Runs held against each other, with all their conditions side by side and what can be told."""
    logs = answers.of(LogAnswers)
    told = {one.about: one for one in comparisons(answers, say)}
    for one in logs.comparisons:
        first, then = (item_of(answers.base, key) for key in (one.other, one.one))
        pair = (first, then)
        rows = [(words, *(getattr(each, key) or "not noted" for each in pair)) for key, words in CONDITIONS]
        rows.append(("Minutes", *(f"{(each.end - each.start) / 60:.0f}" for each in pair)))
        levels = (logs.background(each.log) for each in pair)
        rows.append(
            ("Background", *("not marked" if level is None else Figures.reading(level) for level in levels))
        )
        rows.append(("Mean", *(Figures.reading(logs.summary(each).mean) for each in pair)))
        rows.append(("Told", "", told[one.one, one.other].sentence))
        names = [each.name or each.shows for each in pair]
        yield Table(f"Compared: {names[1]} against {names[0]}", ("Condition", *names), rows)
