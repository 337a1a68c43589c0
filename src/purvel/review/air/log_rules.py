"""Rules of logs: what a decay says of the air changes, what two stretches say of each other, what
cannot be told.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from purvel.review.air.log_answers import Comparison, LogAnswers
from purvel.review.air.log_runs import RunAnswers
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.stage import Candidate
from purvel.roomair.decays import Doubts
from purvel.roomair.logs import Log
from purvel.shop import Air, Shop
from purvel.shop.air import LogStretch
from purvel.shop.edits import Edit, change_air
from purvel.shop.parts import item_of, name_of

NEAR = 0.25  # of what is assumed: a measurement nearer than this says the same
GAP, MISSING = 10.0, 0.05  # usual steps without a reading; share of readings that are not there
STUCK, CAPPED = 600.0, 0.05  # s that one reading stood; share of readings at the highest figure
PUFF = 3.0  # times what follows
_LOG = Basis(
    "your measurement",
    "Decays and ratios, in which the monitor's own scale cancels; interval of 95 %. Its figures"
    " are not held against a limit: low-cost monitors see little of what is larger than 2.5 µm.",
)
_ODD = Basis("your measurement", "What the log itself shows.")


def doubtful(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Logs that cannot be read, and what is odd in those that can."""
    logs = answers.of(LogAnswers)
    for item, why in logs.unread.items():
        sentence = f"The log {name_of(answers.base, item)} cannot be read, so nothing is told from it."
        yield Finding("log-unread", Grade.WATCH, (item,), sentence, why, _ODD, Where((item,)))
    for item, log in logs.logs.items():
        odd = list(_odd(logs.doubts(item), log))
        if odd:
            name = name_of(answers.base, item)
            yield Finding(
                "log-odd",
                Grade.WATCH,
                (item,),
                f"Look at the monitor before you trust {name}: {', '.join(odd)}.",
                "Hold it beside another, or in a closed box until it is level, and see whether it agrees. What"
                f" is missing is passed over; {log.left_out} lines could not be read.",
                _ODD,
                Where((item,)),
            )


def _times_said(count: int) -> str:
    return "once" if count == 1 else f"{count} times"


def _odd(found: Doubts, log: Log) -> Iterator[str]:
    if found.gap > GAP * log.step:
        yield f"{_time(found.gap)} without a reading"
    if found.missing > MISSING:
        yield f"{found.missing:.0%} of its readings are missing"
    if found.stuck > STUCK:
        yield f"one reading stood still for {_time(found.stuck)}"
    if log.set_back:
        yield f"its clock was set back {_times_said(log.set_back)}"
    if found.capped > CAPPED:
        yield f"{found.capped:.0%} of its readings are at its highest figure, which may be the end of its scale"


def _time(seconds: float) -> str:
    return f"{seconds / 60:.0f} min" if seconds >= 90 else f"{seconds:.0f} s"


def puffs(answers: Answers, say: Figures) -> Iterator[Finding]:
    """A start of the collector that throws off dust itself."""
    logs = answers.of(LogAnswers)
    for one in logs.stretches:
        times = logs.puff(one) if one.shows == "work" and one.hood == "on" else 0.0
        if times > PUFF:
            yield Finding(
                "log-puff",
                Grade.WATCH,
                (one.id,),
                f"{_name(one)} begins with a puff, {times:.0f} times what follows: what the filter lets through when"
                " the blower starts?",
                "A cloth bag sheds fine dust at every start. Start the collector before you go in, or fit a finer"
                " filter, and look again.",
                _ODD,
                Where((one.id,)),
                {"times": times},
            )


def decays(answers: Answers, say: Figures) -> Iterator[Finding]:
    """What each decay says, and how it stands to what the plan assumes."""
    for one in answers.of(LogAnswers).stretches:
        if one.shows == "decay":
            yield _decay(answers, one)


def _decay(answers: Answers, one: LogStretch) -> Finding:
    logs = answers.of(LogAnswers)
    decay, changes, assumed = logs.decay(one), logs.air_changes(one), logs.assumed(one)

    def found(grade: Grade, sentence: str, why: str, figures: dict[str, float] | None = None) -> Finding:
        return Finding("log-decay", grade, (one.id,), sentence, why, _LOG, Where((one.id,)), figures or {})

    if decay.why_not:
        return found(
            Grade.WATCH,
            f"{_name(one)}: the air changes cannot be told from it, as {decay.why_not}.",
            "Mark a stretch that begins at the peak and is watched until it is level, and one of the background.",
        )
    figures = {"rate": decay.rate, "low": decay.low, "high": decay.high}
    why = (
        f"The readings fall by {decay.rate:.2f} an hour ({decay.low:.2f} to {decay.high:.2f}) from"
        f" {Figures.reading(decay.start)} above {Figures.reading(decay.end)}; what settles of that size is taken off."
    )
    if changes is None:
        sentence = f"{_name(one)} falls by {decay.rate:.1f} an hour; without the room that is no air change."
        return found(Grade.WATCH, sentence, why, figures)
    said = f"{changes[0]:.1f} air changes an hour ({changes[1]:.1f} to {changes[2]:.1f})"
    figures["changes"] = changes[0]
    if isinstance(assumed, str):
        sentence = f"{_name(one)} shows {said}; to hold that against the plan, note {assumed}."
        return found(Grade.WATCH, sentence, why, figures)
    agrees = abs(changes[0] - assumed) <= NEAR * max(assumed, 0.2) or changes[1] <= assumed <= changes[2]
    return found(
        Grade.GOOD if agrees else Grade.WATCH,
        f"{_name(one)} shows {said}; the plan reckons with {assumed:.1f}.",
        why,
        figures | {"assumed": assumed},
    )


def _name(one: LogStretch) -> str:
    return f"“{one.name or one.shows}”"


def comparisons(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Two stretches of work: how much less, and every difference named before it is believed."""
    for one in answers.of(LogAnswers).comparisons:
        yield _compared(answers, one)


def _compared(answers: Answers, one: Comparison) -> Finding:
    a, b = (
        _name(item)
        for key in (one.one, one.other)
        if isinstance(item := item_of(answers.base, key), LogStretch)
    )
    noted = f" Not noted: {', '.join(one.not_noted)}." if one.not_noted else ""
    ratio = one.ratio
    figures = {"ratio": ratio.ratio, "low": ratio.low, "high": ratio.high}

    def found(grade: Grade, sentence: str, why: str) -> Finding:
        about = (one.one, one.other)
        return Finding("log-compare", grade, about, sentence, f"{why}{noted}", _LOG, Where(about), figures)

    if ratio.why_not:
        scatter = f"Above the background {ratio.ratio:.2f} times, {ratio.low:.2f} to {ratio.high:.2f}."
        return found(Grade.WATCH, f"{a} against {b}: cannot tell, as {ratio.why_not}.", scatter)
    said = _share(ratio.ratio, ratio.low, ratio.high)
    if len(one.differs) > 1:
        return found(
            Grade.WATCH,
            f"{a} has {said} than {b}, but cannot tell by what: {', '.join(one.differs)} differed.",
            f"{_explained(answers, one)}Change one thing at a time: the same cut, wood, minutes, door and cleaner.",
        )
    if one.not_noted:
        return found(
            Grade.WATCH,
            f"{a} has {said} than {b}; by what cannot be told until {', '.join(one.not_noted)} is noted.",
            f"What is noted to differ: {one.differs[0] if one.differs else 'nothing'}.",
        )
    by = f"; only {one.differs[0]} differed" if one.differs else ", though nothing that is noted differed"
    return found(
        Grade.GOOD if one.differs else Grade.WATCH,
        f"{a} has {said} than {b}{by}.",
        "Means above the background, with their scatter.",
    )


def _explained(answers: Answers, one: Comparison) -> str:
    """What each difference alone would do by the model, and what of the whole is left then."""
    parts = answers.of(RunAnswers).explained(one)
    if not parts:
        return ""
    said = [f"{words} alone would make it {b:.2g} times ({a:.2g} to {c:.2g})" for words, (a, b, c) in parts]
    low, central, high = one.ratio.low, one.ratio.ratio, one.ratio.high
    for _, (a, b, c) in parts:
        low, central, high = low / c, central / b, high / a
    left = f"{central:.2g} times ({low:.2g} to {high:.2g}) is left for the rest"
    return f"By the model {'; '.join(said)}; {left}. "


def _share(ratio: float, low: float, high: float) -> str:
    """A ratio in words: by how much less, or how many times as much."""
    if ratio >= 1:
        return f"{ratio:.1f} times as much dust ({low:.1f} to {high:.1f})"
    return f"{1 - ratio:.0%} less dust ({1 - high:.0%} to {1 - low:.0%})"


def take_over(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """The decay as your measurement: of the room's own air changes, or of how well the cleaner mixes."""
    logs, one = answers.of(LogAnswers), item_of(answers.base, finding.about[0])
    if not isinstance(one, LogStretch) or not isinstance(logs.assumed(one), float):
        return
    changes = logs.air_changes(one)
    if changes is None:
        return
    found = logs.cleaner()
    is_open = one.door == "open"
    if found is not None and one.cleaner == "high":
        air = answers.base.air
        whole = logs.cleaned(one.log, 1.0)
        share = (changes[0] - (air.ach_open if is_open else air.ach_closed)) / whole if whole > 0 else -1.0
        if 0 <= share <= 1:
            mixing = round(share, 3)
            yield f"Take it over: the cleaner reaches {mixing:.0%} of the room", _mixes(found[0], mixing)
    else:
        value = round(changes[0], 2)
        words = "open" if is_open else "shut"
        yield f"Take it over: {value:g} air changes an hour with the doors {words}", measured(value, is_open)


def _mixes(thing_id: str, mixing: float) -> Edit:
    def edit(shop: Shop) -> Shop:
        things = tuple(
            replace(thing, cleaner=replace(thing.cleaner, mixing=mixing, by_place=False))
            if thing.id == thing_id and thing.cleaner is not None
            else thing
            for thing in shop.things
        )
        return replace(shop, things=things)

    return edit


def measured(value: float, is_open: bool) -> Edit:
    """Air changes [1/h] that were measured, with the doors open or shut."""

    def edit(shop: Shop) -> Shop:
        known = shop.air.ach_measured
        both = known == "both" or known == ("closed" if is_open else "open")
        now: str = "both" if both else "open" if is_open else "closed"
        key = "ach_open" if is_open else "ach_closed"
        return change_air(shop, **{key: value, "ach_measured": now})

    return edit


def known_changes(air: Air) -> str:
    """How the air changes are known, in words."""
    shut = "measured" if air.ach_measured in ("closed", "both") else "a guess"
    opened = "measured" if air.ach_measured in ("open", "both") else "a guess"
    return f"Air changes: {air.ach_closed:g} an hour with the doors shut ({shut}), {air.ach_open:g} open ({opened})."
