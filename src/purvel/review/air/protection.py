"""What to wear: respirator, eyes and ears, by what is worked, what hangs in the air, and who works."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from purvel.catalogue import Respirator, kinds, limits, operations, respirators, woods
from purvel.libraries import np
from purvel.once import once
from purvel.review.air.answers import AirAnswers
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.stage import Rule, Table
from purvel.roomair.day import Day
from purvel.roomair.stretches import BANDS, Band, worked
from purvel.roomair.wear import IDLE, Noise, factor_needed, muffled, noise_dose, together
from purvel.shop import WorkInterval

LOUD = 85.0  # dB(A) over 8 h from which hearing is harmed [NIOSH 98-126; 2003/10/EC upper action value]
RED_CEDAR = 0.5  # times the limit that holds for western red cedar [ACGIH, 0.5 against 1 mg/m3]
EYES = frozenset(("lathe-turning", "lathe-sanding", "hand-work"))  # a full shield: what flies flies far
_CAUTION = (
    "Assigned protection factors hold for a mask that was fit-tested and is worn all the time that dust hangs. Masks are"
    " the last of all measures: catch the dust first. The maker's instructions and local rules hold."
)


@dataclass(frozen=True, slots=True)
class Task:
    """A piece of work with what it asks for: what is breathed at the tool at most while it lasts, low,
    central, high [mg/m3], the limit for its wood [mg/m3], and how loud it is where one stands, while it cuts
    [dB(A); 0: not known].
    """

    work: WorkInterval
    breathed: tuple[float, float, float]
    limit: float
    loud: float

    @property
    def factor(self) -> float:
        """The protection factor that keeps the central figure at the limit."""
        return factor_needed(self.breathed[1], self.limit)


class Protection:
    """Answers of what to wear."""

    def __init__(self, answers: Answers) -> None:
        self._shop, self._air = answers.base, answers.of(AirAnswers)

    @once
    def tasks(self) -> list[Task]:
        """Every piece of work of the session."""
        day = self._air.day
        if day is None:
            return []
        limit, near = limits()[self._shop.air.limit].value, _near(day)
        work, found = worked(self._air.air), []
        first = np.searchsorted(day.times, [one.start for one in work])
        last = np.searchsorted(day.times, [one.start + one.minutes for one in work], side="right")
        total = {band: day.courses[band].total for band in BANDS}
        for one, i, j in zip(work, first, last):
            low, central, high = (
                float(np.max(total[band][i:j], initial=0.0)) + near[one.id][band] for band in BANDS
            )
            own = limit * (RED_CEDAR if one.wood == "red-cedar" else 1.0)
            found.append(Task(one, (low, central, high), own, self._loud(one)))
        return found

    def _loud(self, one: WorkInterval) -> float:
        """How loud it is at a piece of work while it cuts, its collector included [dB(A)]."""
        thing = self._shop.thing(one.thing or "")
        own = thing.noise if thing is not None and thing.noise is not None else _usual(one.operation)
        blown = self._air.extractions.get(one.id)
        source = None if blown is None else self._shop.thing(blown.source)
        beside = source.noise - IDLE if source is not None and source.noise is not None else 0.0
        return together([own, beside])

    @once
    def noise(self) -> Noise:
        """The dose of the session, without hearing protection: louder while it cuts."""
        spells = []
        for task in self.tasks:
            hours = task.work.minutes / 60.0
            spells.append((task.loud, hours * task.work.cutting))
            spells.append((task.loud - IDLE, hours * (1.0 - task.work.cutting)))
        return noise_dose(spells)

    def factor(self, one: Respirator) -> float:
        """The protection factor that counts here for a respirator as this wearer wears it: none over a beard
        or without a fit test; 1 where it does nothing.
        """
        wearer = self._shop.air.wearer
        if one.tight and (wearer.beard or not wearer.fit_tested):
            return 1.0
        return max(1.0, self._assigned(one))

    def _assigned(self, one: Respirator) -> float:
        """The assigned factor of the country whose limit was chosen."""
        return one.eu if self._shop.air.limit.startswith(("eu", "uk")) else one.us

    def fitting(self, task: Task) -> list[Respirator]:
        """Respirators that would do for a task, were they fitted: no tight one over a beard."""
        bearded = self._shop.air.wearer.beard
        return [
            one
            for one in respirators().values()
            if self._assigned(one) >= task.factor and not (one.tight and bearded)
        ]


def _near(day: Day) -> Mapping[str, Mapping[Band, float]]:
    """By piece of work, how much more is in the air at the tool at most while it lasts [mg/m3]."""
    most: dict[str, dict[Band, float]] = defaultdict(lambda: dict.fromkeys(BANDS, 0.0))
    for stretch in day.stretches:
        for one in stretch.intervals:
            for band in BANDS:
                most[one][band] = max(most[one][band], stretch.near[band])
    return most


def _usual(operation: str) -> float:
    """How loud the loudest kind that does an operation usually is [dB(A)]; 0 where none is known."""
    return max((kind.noise or 0.0 for kind in kinds().values() if kind.operation == operation), default=0.0)


def is_loud(level: float) -> bool:
    """Whether hearing is to be protected from a level over 8 h [dB(A)]; what is shown as the limit counts."""
    return round(level, 1) >= LOUD


# ---- findings


def _noise(answers: Answers, say: Figures) -> Iterator[Finding]:
    """The day's noise, with and without what is worn."""
    protection, wearer = answers.of(Protection), answers.base.air.wearer
    dose = protection.noise
    if dose.niosh <= 0:
        return
    under = muffled(dose.level_8h, wearer.hearing)
    unknown = [task.work.name for task in protection.tasks if task.loud <= 0]
    basis = Basis(
        "published limit",
        "NIOSH 98-126: 85 dB(A) over 8 h, 3 dB; 29 CFR 1910.95: 90 dB(A), 5 dB; 2003/10/EC: 85 upper action value.",
    )
    sentence = (
        f"The day's noise comes to {dose.level_8h:.0f} dB(A) over 8 h, {dose.niosh:.0%} of what NIOSH allows"
        f" ({dose.osha:.0%} by OSHA's rule)"
    )
    if wearer.hearing > 0:
        sentence += f"; under your hearing protection about {under:.0f} dB(A)"
    elif is_loud(dose.level_8h):
        sentence += ": wear hearing protection while anything runs"
    why = (
        "From the levels where one stands at each machine, in the cut and idling, with the collector beside it; plus or minus 5"
        " dB. Plugs and muffs hold half of what is printed on them as they are worn. Ringing ears mean it was too much."
    )
    if unknown:
        why += f" Not counted, as nobody told how loud it is: {', '.join(unknown)}."
    worn = under if wearer.hearing > 0 else dose.level_8h
    grade = Grade.MEND if is_loud(worn) else Grade.GOOD
    figures = {"level_8h": dose.level_8h, "niosh": dose.niosh, "osha": dose.osha, "under": under}
    yield Finding("noise-dose", grade, ("session",), f"{sentence}.", why, basis, Where(), figures)


def _worn(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Whether what is worn on the face does for the dustiest piece of work."""
    protection, wearer = answers.of(Protection), answers.base.air.wearer
    tasks, one = protection.tasks, respirators().get(wearer.respirator)
    if not tasks or one is None:
        return
    task = max(tasks, key=lambda each: each.breathed[1] / each.limit)
    has, name = protection.factor(one), f"{one.name[:1].upper()}{one.name[1:]}"
    why_not = ""
    if one.tight and wearer.beard:
        why_not = "over a beard it does not seal: a loose, powered hood does not mind it"
    elif one.tight and not wearer.fit_tested:
        why_not = "it was not fit-tested, so nothing can be counted on"
    elif has <= 1.0:
        why_not = one.note
    figures = {"factor": has, "needed": task.factor, "leaves": task.breathed[1] / has}
    basis = Basis("published limit", "29 CFR 1910.134 table 1; EN 529, HSG53.")
    if why_not:
        yield Finding(
            "respirator-worn",
            Grade.MEND,
            ("wearer",),
            f"{name}: {why_not}.",
            _CAUTION,
            basis,
            Where(),
            figures,
        )
        return
    grade = (
        Grade.MEND
        if has < task.factor
        else Grade.WATCH
        if task.breathed[2] / has > task.limit
        else Grade.GOOD
    )
    work = task.work.name or task.work.operation
    sentence = (
        f"{name} lowers what you breathe {has:.0f} times: at “{work}” {say.dust(task.breathed[1])} becomes"
        f" {say.dust(task.breathed[1] / has)}, with {say.dust(task.limit)} as your limit."
    )
    if wearer.glasses and one.tight:
        sentence += " The arms of glasses must not lie under a full face seal."
    why = f"At the worst it may be {say.dust(task.breathed[2] / has)}. {one.note[:1].upper()}{one.note[1:]}. {_CAUTION}"
    yield Finding(
        "respirator-worn", grade, ("wearer",), sentence, why, basis, Where((task.work.id,)), figures
    )


def _species(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Woods and boards that ask for more than dust does."""
    named: dict[str, list[WorkInterval]] = {}
    for one in answers.base.air.session.work:
        if one.wood in ("red-cedar", "sensitising", "treated", "fibreboard", "board", "oak-beech"):
            named.setdefault(one.wood, []).append(one)
    for key, pieces in named.items():
        wood = woods()[key]
        also = " A dust filter holds no vapour: air the room." if wood.vapours else ""
        yield Finding(
            "wood-harms",
            Grade.MEND if key == "treated" else Grade.WATCH,
            (key,),
            f"{wood.name[:1].upper()}{wood.name[1:]}: {wood.harms[:1].lower()}{wood.harms[1:]}{also}",
            "Worked in the session as entered. Wash hands and change clothes before you eat; do not take the dust home.",
            Basis("published limit", wood.source or "IARC vol. 100C"),
            Where(tuple(one.id for one in pieces)),
        )


RULES: tuple[Rule, ...] = (_noise, _worn, _species)

HEADS = ("Work", "At the tool", "Respirator", "Eyes", "Ears", "Besides")


def card(answers: Answers, say: Figures) -> Iterator[Table]:
    """The protection card: what to wear for each piece of work."""
    protection = answers.of(Protection)
    rows = []
    for task in protection.tasks:
        one = task.work
        fits = protection.fitting(task)
        wood = woods().get(one.wood)
        besides = [wood.name] if wood is not None else []
        if wood is not None and wood.vapours:
            besides.append("vapours: air the room, cartridges")
        low, central, high = task.breathed
        rows.append(
            (
                one.name or _operation(one.operation),
                f"{say.dust(central)} ({say.dust(low)} to {say.dust(high)})",
                fits[0].name if fits else "none does: catch it first",
                "face shield" if one.operation in EYES else "glasses with side shields",
                f"{task.loud:.0f} dB(A)" + (", protect them" if is_loud(task.loud) else "")
                if task.loud > 0
                else "not known",
                ", ".join(besides) or "nothing",
            )
        )
    if rows:
        yield Table("What to wear", HEADS, rows)


def _operation(key: str) -> str:
    known = operations().get(key)
    return key if known is None else known.name


def report(answers: Answers) -> dict[str, Any]:
    """The tasks and the day's noise."""
    protection = answers.of(Protection)
    if not protection.tasks:
        return {"protection": None}
    dose = protection.noise
    return {
        "protection": {
            "tasks": [
                {
                    "work": task.work.id,
                    "breathed": list(task.breathed),
                    "limit": task.limit,
                    "factor": task.factor,
                    "loud": task.loud or None,
                    "fitting": [one.name for one in protection.fitting(task)],
                }
                for task in protection.tasks
            ],
            "noise": {"niosh": dose.niosh, "osha": dose.osha, "level_8h": dose.level_8h},
        }
    }
