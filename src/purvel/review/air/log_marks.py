"""A monitor's log by itself, with stretches marked in minutes: what the command line tells of it."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

from purvel.libraries import Array
from purvel.roomair.decays import compare, doubts, fit_decay, summary
from purvel.roomair.logs import LogError, read_log


class MarkError(ValueError):
    """A log or a mark that cannot be read; the sentence says why."""


def told(data: bytes, marks: Sequence[tuple[str, str]], channel: str = "") -> dict[str, Any]:
    """The log with what each mark (what it shows, minutes as “20-50”) says.

    Raises MarkError.
    """
    try:
        log = read_log(data)
    except LogError as exc:
        raise MarkError(str(exc)) from None
    names = [one.name for one in log.channels]
    if channel and channel not in names:
        raise MarkError(f"The log has no column “{channel}”; it has {', '.join(names)}.")
    values = log.channel(channel).values

    def stretch(mark: str) -> tuple[Array, Array]:
        minutes = re.fullmatch(r"\s*(\d+(?:\.\d+)?)\s*[-–]\s*(\d+(?:\.\d+)?)\s*", mark)
        if minutes is None or float(minutes[1]) >= float(minutes[2]):
            raise MarkError(f"“{mark}” is no stretch of minutes, such as 20-50.")
        inside = (log.seconds >= 60 * float(minutes[1])) & (log.seconds <= 60 * float(minutes[2]))
        if not inside.any():
            raise MarkError(f"The log, of {log.minutes:.0f} minutes, has no reading in {mark}.")
        return log.seconds[inside], values[inside]

    parts = [(shows, mark, *stretch(mark)) for shows, mark in marks]
    calm = [summary(there).median for shows, _, _, there in parts if shows == "background"]
    background = min(calm, default=None)
    found = [
        {"shows": shows, "minutes": mark, **asdict(summary(there))}
        | ({"decay": asdict(fit_decay(seconds, there, background))} if shows == "decay" else {})
        for shows, mark, seconds, there in parts
    ]
    work = [there for shows, _, _, there in parts if shows == "work"]
    level = min((summary(there).low for there in work), default=0.0) if background is None else background
    return {
        "channel": log.channel(channel).name,
        "channels": names,
        "begun": log.begun.isoformat(timespec="seconds"),
        "minutes": log.minutes,
        "step": log.step,
        "left_out": log.left_out,
        "doubts": asdict(doubts(log.seconds, values)),
        "background": background,
        "marks": found,
        "against_the_first": [asdict(compare(one, work[0], level)) for one in work[1:]],
    }
