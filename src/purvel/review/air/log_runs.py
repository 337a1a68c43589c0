"""Marked runs as measurements: what got into the air, what a hood caught, and what of a difference
between two runs their other conditions explain.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

from purvel.catalogue import operations, woods
from purvel.once import once
from purvel.review.air.answers import AirAnswers
from purvel.review.air.log_answers import Comparison, LogAnswers
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.room.answers import RoomAnswers
from purvel.review.stage import Candidate
from purvel.roomair.dust import FINE
from purvel.roomair.runs import Emitted, caught, emitted, mean_level
from purvel.shop import WorkInterval
from purvel.shop.air import LogStretch
from purvel.shop.edits import Edit, put
from purvel.shop.parts import item_of

LOW_SPEED = (0.4, 0.6, 0.8)  # of a cleaner's flow at its low setting [a guess]
UNKNOWN_RATE = 2.0  # times either way that an air change which was not measured may be off [a guess]
WOOD_SPREAD = (
    2.0  # times either way that one wood throws off more than another [trade practice, low confidence]
)
Known = tuple[float, float, float]
"""A figure with the ends of what is known of it, in any order."""
_SAME = ("work", "wood", "cleaner", "door", "place")
_STARTING = 120.0  # s that a collector takes to be through with its puff [choice]
_LEAST_PAST = 0.05  # share past a hood below which what is given off is not reckoned from it [choice]
_MOST = 4  # pieces of work that a measurement is offered to
_BASIS = Basis(
    "your measurement",
    "A balance of mass over the run; the room as evenly mixed. The monitor's own scale cancels in the share that is"
    " caught. What got in is what the monitor saw of it, and no inhalable dust.",
)


@dataclass(frozen=True, slots=True)
class Caught:
    """A run with the hood held against one without: what was caught, low, central, high; or why not."""

    with_hood: str
    without: str
    share: tuple[float, float, float] | None
    why_not: str = ""


class RunAnswers:
    """What the runs say."""

    def __init__(self, answers: Answers) -> None:
        self._shop, self._logs = answers.base, answers.of(LogAnswers)
        self._room = answers.of(RoomAnswers)

    @once
    def emissions(self) -> dict[str, Emitted]:
        """By stretch of work, what got into the air while it lasted."""
        return {
            one.id: self._emitted(one)
            for one in self._logs.stretches
            if one.shows == "work" and self._room.volume > 0
        }

    def _emitted(self, one: LogStretch) -> Emitted:
        rate, background = self.removal(one), self._logs.background(one.log)
        if isinstance(rate, str):
            return Emitted(0.0, 0.0, 0.0, rate)
        if background is None:
            return Emitted(0.0, 0.0, 0.0, "no background is marked")
        seconds, values = self._logs.readings(one)
        if one.hood == "on" and len(seconds) and seconds[-1] - seconds[0] > 4 * _STARTING:
            begun = seconds >= seconds[0] + _STARTING  # a puff of the collector's start is not the work's
            seconds, values = seconds[begun], values[begun]
        return emitted(seconds, values, background, self._room.volume, rate)

    def removal(self, one: LogStretch) -> tuple[float, float, float] | str:
        """How fast what the monitor sees leaves the air in a stretch's conditions [1/h], central, low, high:
        by a decay that was logged in the same, else as the plan reckons; or what has to be noted first.
        """
        for other in self._logs.stretches:
            alike = (other.log, other.cleaner, other.door) == (one.log, one.cleaner, one.door)
            if other.shows == "decay" and alike and one.cleaner != "not noted":
                decay = self._logs.decay(other)
                if not decay.why_not:
                    return decay.rate, decay.low, decay.high
        assumed, size = self._logs.assumed(one), self._logs.size(one.log)
        if isinstance(assumed, str) or size is None:
            return f"{assumed} is not noted" if isinstance(assumed, str) else "the room is not known"
        rate = assumed + size[1].settling
        return rate, rate / UNKNOWN_RATE, rate * UNKNOWN_RATE

    @once
    def captures(self) -> list[Caught]:
        """Every run with a hood against the first without one that was alike in all else."""
        runs = [one for one in self._logs.stretches if one.shows == "work"]
        found = []
        for one in runs:
            if one.hood != "on":
                continue
            bare = next((other for other in runs if _alike(one, other) and other.hood == "none"), None)
            if bare is not None:
                found.append(self._caught(one.id, bare.id))
        return found

    def _caught(self, with_hood: str, without: str) -> Caught:
        if not self.emissions:
            return Caught(with_hood, without, None, "the room is not known")
        share = caught(self.emissions[with_hood], self.emissions[without])
        if isinstance(share, str):
            return Caught(with_hood, without, None, share)
        return Caught(with_hood, without, share)

    # ---- what other conditions explain

    def explained(self, one: Comparison) -> list[tuple[str, tuple[float, float, float]]]:
        """Each difference of a comparison that can be reckoned, and how many times as much dust it alone
        would make of the first run's: low, central, high.
        """
        run, first = (item_of(self._shop, key) for key in (one.one, one.other))
        if not isinstance(run, LogStretch) or not isinstance(first, LogStretch):
            return []
        found = []
        minutes = [(each.end - each.start) / 60.0 for each in (first, run)]
        rates = [self._reckoned(each) for each in (first, run)]
        for key, words in (("cleaner", "the cleaner"), ("door", "the door")):
            if getattr(run, key) != getattr(first, key) and None not in rates:
                other = self._reckoned(replace(first, **{key: getattr(run, key)}))
                found.append((words, _times(rates[0], other, minutes[0], minutes[0])))
        if any(words.startswith("the minutes") for words in one.differs) and rates[0] is not None:
            found.append(("the minutes", _times(rates[0], rates[0], *minutes)))
        if run.wood and first.wood and run.wood != first.wood:
            times = _wood(run.wood) / _wood(first.wood)
            found.append(("the wood", (times / WOOD_SPREAD, times, times * WOOD_SPREAD)))
        return found

    def _reckoned(self, one: LogStretch) -> tuple[float, float, float] | None:
        """The removal in a stretch's conditions by the plan [1/h], central, low, high; None where something
        is not noted.
        """
        size = self._logs.size(one.log)
        if size is None or "not noted" in (one.door, one.cleaner):
            return None
        air, cleaner = self._shop.air, self._logs.cleaner()
        changes = air.ach_open if one.door == "open" else air.ach_closed
        mixing = 0.0 if cleaner is None else cleaner[1].mixing
        full = self._logs.cleaned(one.log, mixing)
        shares = {"off": (0.0, 0.0, 0.0), "low": LOW_SPEED, "high": (1.0, 1.0, 1.0)}[one.cleaner]
        known = air.ach_measured in ("both", "open" if one.door == "open" else "closed")
        off = 1.0 if known else UNKNOWN_RATE
        low, central, high = (
            changes * times + size[1].settling + share * full
            for times, share in zip((1 / off, 1.0, off), shares)
        )
        return central, low, high


def _times(
    first: tuple[float, float, float] | None,
    other: tuple[float, float, float] | None,
    before: float,
    after: float,
) -> tuple[float, float, float]:
    """How the mean over a run changes with the removal and the minutes: low, central, high."""
    assert first is not None and other is not None
    central, *ends = (mean_level(b, after) / mean_level(a, before) for a, b in zip(first, other))
    return min(central, *ends), central, max(central, *ends)


def _wood(name: str) -> float:
    """How many times the dust of solid wood a wood throws off, by words that are in its name."""
    low = name.lower()
    if "mdf" in low or "fibre" in low or "fiber" in low:
        return woods()["fibreboard"].times
    if "ply" in low or "chip" in low or "particle" in low:
        return woods()["board"].times
    return 1.0


def _alike(one: LogStretch, other: LogStretch) -> bool:
    return one.log == other.log and all(getattr(one, key) == getattr(other, key) for key in _SAME)


# ---- findings


def captured(answers: Answers, say: Figures) -> Iterator[Finding]:
    """What each hood caught, by two runs."""
    for one in answers.of(RunAnswers).captures:
        run, bare = (item_of(answers.base, key) for key in (one.with_hood, one.without))
        name = f"“{run.name or 'work'}” against “{bare.name or 'work'}”"
        where = Where((one.with_hood, one.without))
        about = (one.with_hood, one.without)
        if one.share is None:
            yield Finding(
                "log-capture",
                Grade.WATCH,
                about,
                f"{name}: what the hood caught cannot be told: {one.why_not}.",
                "Mark the background and a decay, and log the same cut once with the hood and once without.",
                _BASIS,
                where,
            )
            continue
        central, low, high = one.share
        work = _work_of(one.with_hood, answers)
        agree = any(each.measured and _meet(each.capture, one.share) for each in work)
        yield Finding(
            "log-capture",
            Grade.GOOD if agree or not work else Grade.WATCH,
            about,
            f"{name}: the hood caught {central:.0%} ({low:.0%} to {high:.0%}) of what the monitor sees.",
            "By a balance of mass over both runs, with the air changes that a decay shows, or else as the plan reckons."
            " Of the fine dust that the monitor sees; coarse dust is caught otherwise.",
            _BASIS,
            where,
            {"share": central, "low": low, "high": high},
        )


def take_capture(finding: Finding, answers: Answers, _: Figures) -> Iterator[Candidate]:
    """The share that was caught as the session's own, for work that the run may be of."""
    if "share" not in finding.figures:
        return
    low, central, high = (round(max(0.0, finding.figures[key]), 3) for key in ("low", "share", "high"))
    for one in _work_of(finding.about[0], answers):
        label = f"Take it over for “{one.name or _operation(one)}”: {central:.0%} caught, measured"
        yield label, _as(replace(one, hood="", capture=(low, central, high), measured=True))


def released(answers: Answers, say: Figures) -> Iterator[Finding]:
    """How much PM2.5 got into the air by each run, where the monitor told that."""
    for key, one in answers.of(RunAnswers).emissions.items():
        run = item_of(answers.base, key)
        channel = answers.of(LogAnswers).channel(run.log)
        if one.why_not or (channel.kind, channel.size) != ("mass", FINE):
            continue
        figures = {"low": one.low / 1000.0, "emitted": one.rate / 1000.0, "high": one.high / 1000.0}  # mg/min
        low, central, high = figures.values()
        name = run.name or "work"
        given = _given_off(run, figures, answers)
        agree = any(each.fine is not None and _meet(each.fine, fine) for each, fine in given)
        noted = "" if run.hood != "not noted" else " To take it over, note whether the hood was on."
        yield Finding(
            "log-emission",
            Grade.GOOD if agree or not given else Grade.WATCH,
            (key,),
            f"“{name}”: {central:.2g} mg of PM2.5 a minute got into the air ({low:.2g} to {high:.2g}), as your monitor reads"
            " it.",
            "By a balance of mass over the run, with the air changes that a decay shows, or else as the plan reckons."
            " A monitor's scale for wood dust is not known (0.3 to 1.5 of what it shows). Taken over, it counts for the"
            f" fine dust alone: most of the inhalable dust, which limits are about, is coarser than it sees.{noted}",
            _BASIS,
            Where((key,)),
            figures,
        )


def take_emission(finding: Finding, answers: Answers, _: Figures) -> Iterator[Candidate]:
    """The PM2.5 that is given off as the session's own, for work that the run may be of."""
    run = item_of(answers.base, finding.about[0])
    assert isinstance(run, LogStretch)
    for one, fine in _given_off(run, finding.figures, answers):
        label = f"Take it over for “{one.name or _operation(one)}”: {fine[1]:.2g} mg/min of PM2.5 given off, measured"
        yield label, _as(replace(one, fine=fine))


def _given_off(
    run: LogStretch, figures: Mapping[str, float], answers: Answers
) -> list[tuple[WorkInterval, Known]]:
    """For work that a run may be of, the PM2.5 that it gives off [mg/min], low, central, high: what got past
    a hood is reckoned back to what there would be without one. Nothing where it is not noted whether there
    was one.
    """
    if run.hood == "not noted":
        return []
    caught_of = {one.id: one.capture[1] for one in answers.of(AirAnswers).air.session.work}
    found = []
    for one in _work_of(run.id, answers):
        past = 1.0 - caught_of[one.id] if run.hood == "on" else 1.0
        if past >= _LEAST_PAST:
            low, central, high = (float(f"{figures[key] / past:.3g}") for key in ("low", "emitted", "high"))
            found.append((one, (low, central, high)))
    return found


def _meet(one: Known, other: Known) -> bool:
    """Whether two figures with their ends have some in common."""
    return min(one) <= max(other) and min(other) <= max(one)


def _work_of(stretch: str, answers: Answers) -> list[WorkInterval]:
    """The pieces of work that a run may be of: what it is named after, else any."""
    run = item_of(answers.base, stretch)
    said = run.work.lower() if isinstance(run, LogStretch) else ""
    work = answers.base.air.session.work
    named = [one for one in work if said and (said in one.name.lower() or said in _operation(one).lower())]
    return (named or list(work))[:_MOST]


def _operation(one: WorkInterval) -> str:
    known = operations().get(one.operation)
    return one.operation if known is None else known.name


def _as(one: WorkInterval) -> Edit:
    return lambda shop: put(shop, one)
