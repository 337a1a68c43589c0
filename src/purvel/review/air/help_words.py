"""What helps the air, in words."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from math import inf

from purvel.review.air.answers import AirAnswers
from purvel.review.air.helps import (
    Measure,
    assumptions,
    breathed,
    clean_air,
    measures,
    smallest_cleaner,
    together,
)
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.stage import Table
from purvel.roomair.cleaner import changes_for

_FIRST = 3  # measures that are tried together [choice]
AIR_CHANGES = (6, 8, 10)  # 1/h of clean air, the usual advice for a shop [trade practice, medium confidence]


def help_tables(answers: Answers, say: Figures) -> Iterator[Table]:
    """Measures by what they save, and assumptions by what they move."""
    found = measures(answers)
    if not found:
        return
    rows = [(one.name, f"{one.saved:.0%}", _band(one.breathed, say), _cost(one)) for one in found]
    yield Table("What helps the air most", ("Measure", "Saves", "Leaves, 8 h", "Costs"), rows)
    yield Table(
        "Which cleaner", ("More clean air", "Air changes an hour", "Leaves, 8 h", "For"), sized(answers, say)
    )
    moved = [(one.name, say.dust(one.low), say.dust(one.high)) for one in assumptions(answers)]
    yield Table(
        "What is assumed: measure the first of these first", ("Assumed", "At its low", "At its high"), moved
    )


def sized(answers: Answers, say: Figures) -> list[tuple[str, str, str, str]]:
    """Flows of clean air of one more cleaner: by the usual air changes, and by the dose it leaves."""
    air = answers.of(AirAnswers)
    day = air.day
    if day is None:
        return []
    has = changes_for(day.clean_delivery, day.volume)
    wanted = [
        (max(0.0, changes - has) * day.volume / 3600.0, f"{changes} air changes an hour")
        for changes in AIR_CHANGES
    ]
    smallest = smallest_cleaner(answers)
    if 0 < smallest < inf:
        wanted.append((smallest, "the 8 h average under your limit"))
    rows = []
    for flow, what in sorted(wanted):
        then = breathed(air.simulated_with(clean_air(flow))) if flow > 0 else breathed(day)
        rows.append((say.flow(flow), f"{has + changes_for(flow, day.volume):.1f}", _band(then, say), what))
    return rows


def said(answers: Answers, found: Sequence[Measure], say: Figures) -> Iterator[str]:
    """What the tables come to."""
    now = breathed(answers.of(AirAnswers).day)
    yield f"Now you breathe {_band(now, say)} over 8 h."
    first = [one for one in found if one.edit is not None and one.saved > 0][:_FIRST]
    if len(first) > 1:
        yield f"The first {len(first)} changes together leave {_band(together(answers, first), say)}."
    flow = smallest_cleaner(answers)
    if flow == inf:
        yield "No cleaner brings it under your limit: what you breathe comes from the tool itself. Catch it there."
    elif flow > 0:
        yield f"The smallest further cleaner that keeps it under your limit moves {say.flow(flow)} of clean air."
    moved = assumptions(answers)
    if moved:
        yield f"Measure first: {moved[0].name.lower()}; it alone moves the answer from {say.dust(moved[0].low)} to {say.dust(moved[0].high)}."
    yield "Figures of a model, good to a factor of five: the order is worth more than the numbers. Costs are our own rough guesses."


def _band(three: tuple[float, float, float], say: Figures) -> str:
    return f"{say.dust(three[1])} ({say.dust(three[0])} to {say.dust(three[2])})"


def _cost(one: Measure) -> str:
    low, high = one.cost
    return "nothing" if high <= 0 else f"{low:,.0f} to {high:,.0f} USD"
