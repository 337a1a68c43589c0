"""Whether a monitor may be believed: its zero, its answer to a source, another beside it, its drift, the
air's humidity; and what its other columns show of vapours.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterator

from purvel.libraries import np
from purvel.review.air.log_answers import LogAnswers
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.roomair.logs import Channel, Log
from purvel.roomair.runs import Alongside, alongside
from purvel.shop.air import LogStretch
from purvel.shop.parts import name_of

ZERO = 0.2  # of the background: what a monitor may show in clean air [choice]
SOURCE = 3.0  # times the background that it has to show before a source of dust [choice]
TOGETHER, TIMES = 0.8, 2.0  # correlation of two side by side, and times that they may differ [choice]
DRIFT = 1.5  # times that a background may move within a log [choice]
HUMID = 80.0  # % above which dust swells and fog is counted [published, medium confidence]
HALF_HOUR = 1800.0  # s
FORMALDEHYDE = 0.1  # mg/m3 over 30 min [WHO 2010]
VENTILATE, LEAVE = 1.0, 10.0  # mg/m3 of TVOC [German federal environment agency's grading, Seifert 1999]
STALE = 1400.0  # ppm of CO2: poor air [EN 16798 category IV, medium confidence]
_TESTS = ("zero", "source")
_OWN = Basis("your measurement", "What the log itself shows.")


def tests(answers: Answers, say: Figures) -> Iterator[Finding]:
    """What the tests of the monitor say; and that there is none."""
    logs = answers.of(LogAnswers)
    for one in logs.stretches:
        if one.shows in _TESTS:
            yield _test(logs, one)
    pairs = list(_pairs(answers))
    yield from pairs
    tested = pairs or any(one.shows in _TESTS for one in logs.stretches)
    told = [one.id for one in logs.stretches if one.shows in ("work", "decay")]
    if told and not tested:
        yield Finding(
            "log-untested",
            Grade.WATCH,
            ("monitor",),
            "The monitor was not tested: that it reads next to nothing in clean air, and rises before a source.",
            "Hold it in a closed bag with a filter or in a box until it is level, and mark that as “clean air”; then clap two"
            " dusty gloves before it, and mark that as “a source”. Or log two monitors side by side.",
            _OWN,
            Where(tuple(told[:1])),
        )


def _test(logs: LogAnswers, one: LogStretch) -> Finding:
    found, background = logs.summary(one), logs.background(one.log)
    level = background if background is not None else found.mean
    name = f"“{one.name or one.shows}”"
    if one.shows == "zero":
        limit = ZERO * level if background is not None else 0.05 * _peak(logs, one)
        is_good = found.readings > 0 and found.mean <= limit
        said = (
            f"{name}: in clean air it reads {Figures.reading(found.mean)}, next to nothing."
            if is_good
            else f"{name}: in clean air it still reads {Figures.reading(found.mean)}, where the background is"
            f" {Figures.reading(level)}: its zero is off, or the air was not clean."
        )
        figures = {"mean": found.mean, "limit": limit}
    else:
        is_good = background is not None and found.peak >= SOURCE * background
        said = (
            f"{name}: it rises to {Figures.reading(found.peak)} before a source, as it should."
            if is_good
            else f"{name}: it rises to no more than {Figures.reading(found.peak)} before a source; the background is"
            f" {'not marked' if background is None else Figures.reading(background)}."
        )
        figures = {"peak": found.peak}
    grade = Grade.GOOD if is_good else Grade.WATCH
    return Finding(
        "log-test",
        grade,
        (one.id,),
        said,
        "What it shows of your work is worth no more than this.",
        _OWN,
        Where((one.id,)),
        figures,
    )


def _peak(logs: LogAnswers, one: LogStretch) -> float:
    values = logs.channel(one.log).values
    seen = values[np.isfinite(values)]
    return float(seen.max()) if len(seen) else 0.0


def _pairs(answers: Answers) -> Iterator[Finding]:
    """Two logs of one time in one column."""
    logs = answers.of(LogAnswers)
    for (a, one), (b, other) in itertools.combinations(logs.logs.items(), 2):
        first, second = logs.channel(a), logs.channel(b)
        if (first.kind, first.size) != (second.kind, second.size):
            continue
        found = _alongside((one, first), (other, second))
        if found is None:
            continue
        is_good = found.together >= TOGETHER and 1 / TIMES <= found.times <= TIMES
        names = f"{name_of(answers.base, a)} and {name_of(answers.base, b)}"
        said = (
            f"{names} ran side by side for {found.minutes:.0f} min and go together: the one reads {found.times:.2f}"
            " times the other."
            if is_good
            else f"{names} ran side by side for {found.minutes:.0f} min and do not agree: the one reads {found.times:.2f} times"
            f" the other, and they go together by {found.together:.0%} only."
        )
        figures = {"times": found.times, "together": found.together}
        grade = Grade.GOOD if is_good else Grade.WATCH
        yield Finding(
            "log-pair",
            grade,
            (a, b),
            said,
            "Two that go together may still both be wrong in scale.",
            _OWN,
            Where((a, b)),
            figures,
        )


def _alongside(one: tuple[Log, Channel], other: tuple[Log, Channel]) -> Alongside | None:
    apart = (other[0].begun - one[0].begun).total_seconds()
    return alongside((one[0].seconds, one[1].values), (other[0].seconds + apart, other[1].values))


def drifts(answers: Answers, say: Figures) -> Iterator[Finding]:
    """A background that moved, and air so humid that dust swells."""
    logs = answers.of(LogAnswers)
    for key, log in logs.logs.items():
        calm = [one for one in logs.stretches if one.log == key and one.shows == "background"]
        levels = [logs.summary(one).median for one in calm]
        if len(levels) > 1 and min(levels) > 0 and max(levels) > DRIFT * min(levels):
            yield Finding(
                "log-drift",
                Grade.WATCH,
                tuple(one.id for one in calm),
                f"The background of {name_of(answers.base, key)} moved from {Figures.reading(levels[0])} to"
                f" {Figures.reading(levels[-1])}: the monitor drifts, or the air outdoors changed.",
                "What is compared across that time is above the lowest of them. Log the background before and after"
                " each run.",
                _OWN,
                Where(tuple(one.id for one in calm)),
                {"times": max(levels) / min(levels)},
            )
        damp = next((one for one in log.channels if one.kind == "humidity"), None)
        if damp is not None and (over := _share_over(damp, HUMID)) > 0.05:
            yield Finding(
                "log-humid",
                Grade.WATCH,
                (key,),
                f"In {name_of(answers.base, key)} the air was over {HUMID:.0f} % humid for {over:.0%} of the time: dust swells,"
                " and the monitor reads too much.",
                "Compare runs of like humidity; a decay in which it changed tells little.",
                Basis(
                    "published practice",
                    "Swelling of particles from 75 to 80 % relative humidity on (medium confidence).",
                ),
                Where((key,)),
                {"share": over},
            )


def _share_over(channel: Channel, level: float) -> float:
    seen = channel.values[np.isfinite(channel.values)]
    return float((seen > level).mean()) if len(seen) else 0.0


def vapours(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Formaldehyde, vapours and stale air in the columns that show them."""
    for key, log in answers.of(LogAnswers).logs.items():
        for channel in log.channels:
            level = _worst_mean(log, channel)
            if level is None:
                continue
            name = f"{name_of(answers.base, key)}, {channel.name}"
            if channel.kind == "formaldehyde" and level > FORMALDEHYDE:
                yield _vapour(
                    key,
                    f"{name}: {level:.2g} mg/m³ of formaldehyde over half an hour; WHO's guideline is {FORMALDEHYDE:g}.",
                    "Fibreboard, chipboard and some glues and finishes give it off. Air the room, take the boards out. Low-cost"
                    " sensors also answer to alcohol.",
                    "World Health Organization 2010, indoor air, 0.1 mg/m³ over 30 min",
                    {"level": level, "limit": FORMALDEHYDE},
                )
            elif channel.kind == "tvoc" and channel.unit == "mg/m³" and level > VENTILATE:
                word = "do not stay" if level > LEAVE else "ventilate"
                yield _vapour(
                    key,
                    f"{name}: {level:.2g} mg/m³ of vapours over half an hour: {word}.",
                    "There is no limit for the sum of vapours. Finish outdoors or with the doors open, keep flames away from"
                    " solvents; a dust filter holds none of it.",
                    "Grading of the German federal environment agency (Seifert 1999): over 1 mg/m³ ventilate, over 10 do not stay",
                    {"level": level, "limit": VENTILATE},
                )
            elif channel.kind == "tvoc" and channel.unit != "mg/m³":
                yield _vapour(
                    key,
                    f"{name}: vapours as {channel.unit}, which is no mass: not held against anything here.",
                    "Only its course tells: when it rises, and whether it falls again with the doors open.",
                    "Grades go by mg/m³ (Seifert 1999)",
                    {"level": level},
                )
            elif channel.kind == "co2" and level > STALE:
                yield _vapour(
                    key,
                    f"{name}: {level:.0f} ppm of carbon dioxide over half an hour: little fresh air comes in.",
                    "By itself it does no harm there, but all else that you breathe out or throw off stays as long.",
                    "Indoor air quality practice, over 1400 ppm poor (medium confidence)",
                    {"level": level, "limit": STALE},
                )


def _vapour(key: str, sentence: str, why: str, source: str, figures: dict[str, float]) -> Finding:
    basis = Basis("published limit", f"{source}. For a private person guidance.")
    return Finding("log-vapour", Grade.WATCH, (key,), sentence, why, basis, Where((key,)), figures)


def _worst_mean(log: Log, channel: Channel) -> float | None:
    """The highest mean over half an hour, over all of a shorter log; None for what has none to be held
    against.
    """
    if channel.kind not in ("formaldehyde", "tvoc", "co2"):
        return None
    seen = np.isfinite(channel.values)
    t, c = log.seconds[seen], channel.values[seen]
    if len(t) < 2 or t[-1] <= t[0]:
        return None
    summed = np.concatenate([[0.0], np.cumsum(np.diff(t) * (c[1:] + c[:-1]) / 2)])
    window = min(HALF_HOUR, float(t[-1] - t[0]))
    ends = t[t >= t[0] + window - 1e-9]
    held = np.interp(ends, t, summed) - np.interp(ends - window, t, summed)
    return float(held.max() / window)
