"""Rules of keeping: what is due, how full the bin is, whether parts come out of their stock."""

from __future__ import annotations

from collections.abc import Iterator

from purvel.catalogue.upkeep import duty_kinds
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.keep.answers import KeepAnswers, StockPlan
from purvel.review.stage import Rule
from purvel.shop.parts import name_of
from purvel.upkeep.bins import DAYS, FULL
from purvel.upkeep.due import Due, day_of
from purvel.upkeep.sheets import SheetsPlan

SOON = 14.0  # days: what is due within is said
LIFT = 23.0  # kg: load constant of the revised NIOSH lifting equation (1994)
_USE = Basis("trade practice", "Hours of use from your jobs; the maker's manual decides.")
_BULK = Basis(
    "trade practice", "What operations take off, and the bulk of loose dry waste, which varies twofold."
)


def days(value: float) -> str:
    """A time from today."""
    if value <= -1.5:
        return f"{-value:.0f} days ago"
    if value < 1.5:
        return "now"
    return f"in {value:.0f} days" if value < 90 else f"in {value / DAYS:.0f} months"


def due_grade(one: Due) -> Grade:
    """What is to be thought of a duty; findings, bars and dials go by it."""
    return Grade.MEND if one.days <= 0 else Grade.WATCH if one.days <= SOON else Grade.GOOD


def bin_grade(left: tuple[float, float]) -> Grade:
    """What is to be thought of a bin that is full after so many days at the earliest and at the latest."""
    return Grade.MEND if left[1] <= 0 else Grade.WATCH if left[0] <= 0 else Grade.GOOD


def _due(answers: Answers, say: Figures) -> Iterator[Finding]:
    keep = answers.of(KeepAnswers)
    over = [one for one in keep.due if due_grade(one) == Grade.MEND]
    soon = [one for one in keep.due if due_grade(one) == Grade.WATCH]
    for grade, found, word in ((Grade.MEND, over, "due"), (Grade.WATCH, soon, "due soon")):
        if found:
            yield _duties(answers, grade, found, word)
    if keep.due and not over and not soon:
        first = keep.due[0]
        yield Finding(
            "duty",
            Grade.GOOD,
            (),
            f"Nothing is due; next is {name_of(answers.shop, first.duty).lower()}, {days(first.days)}.",
            f"{len(keep.due)} duties by hours of use and by days.",
            _USE,
            Where((first.duty,)),
            {"days": min(first.days, 1e6)},
        )


def _duties(answers: Answers, grade: Grade, found: list[Due], word: str) -> Finding:
    named = [f"{name_of(answers.shop, one.duty)} ({days(one.days)})" for one in found]
    things = {duty.id: duty.thing for duty in answers.shop.upkeep.duties}
    items = [item for one in found for item in (one.duty, things.get(one.duty)) if item]
    is_one = len(found) == 1
    return Finding(
        "duty",
        grade,
        (word,),
        f"{'One thing is' if is_one else f'{len(found)} things are'} {word}: {'; '.join(named)}.",
        "By hours of use since it was done last, or by days, whichever comes first." + counting(answers),
        _USE,
        Where(tuple(dict.fromkeys(items))),
        {"duties": float(len(found))},
    )


def counting(answers: Answers) -> str:
    """What is said of hours that a switch box counted; empty where none did."""
    counted = answers.of(KeepAnswers).counted
    if not counted:
        return ""
    names = ", ".join(name_of(answers.shop, thing) for thing in counted)
    return (
        f" Hours of {names} are those that the switch box counted since it counts, before that by your jobs."
    )


def _bin(answers: Answers, say: Figures) -> Iterator[Finding]:
    keep, bin_ = answers.of(KeepAnswers), answers.shop.upkeep.bin
    found = keep.bin
    if bin_ is None or found is None:
        return
    since = day_of(bin_.emptied_on) or keep.begun
    gone = (keep.today - since).days
    low, high = found.days
    left = (low - gone, high - gone)
    grade = bin_grade(left)
    states = {
        Grade.MEND: "is full",
        Grade.WATCH: "may be full",
        Grade.GOOD: f"is to be emptied between {days(left[0])} and {days(left[1])}",
    }
    by = "jobs" if answers.base.jobs else "days in Air"
    yield Finding(
        "bin",
        grade,
        (),
        f"The bin {states[grade]}: your {by} fill {found.share[0]:.0%} to {found.share[1]:.0%} of it a month.",
        f"They take off {say.mass(keep.removed.mass)} of wood a month ({say.bulk(keep.removed.solid)}), loose"
        f" {say.bulk(keep.removed.low)} to {say.bulk(keep.removed.high)}. At {FULL:.0%} a separator begins to let"
        " chips through.",
        _BULK,
        Where(),
        {"low": left[0], "high": left[1], "share": found.share[1]},
    )
    if found.mass[1] > LIFT:
        yield Finding(
            "bin-heavy",
            Grade.WATCH,
            (),
            f"Full, the bin weighs {say.mass(found.mass[0])} to {say.mass(found.mass[1])}: two lift it, or it is rolled.",
            f"{FULL:.0%} of {say.bulk(bin_.volume)} and {say.mass(bin_.tare)} of drum; one person lifts at most"
            f" {say.mass(LIFT)} in the best posture.",
            Basis("published practice", "NIOSH revised lifting equation (1994): load constant 23 kg."),
            Where(),
            {"mass": found.mass[1]},
        )


def _undone(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Machines of which nothing is noted."""
    noted = {duty.thing for duty in answers.shop.upkeep.duties}
    bare = [
        thing
        for thing in answers.shop.things
        if thing.id not in noted and any(kind.is_for(thing) for kind in duty_kinds().values())
    ]
    if bare:
        yield Finding(
            "no-duty",
            Grade.WATCH,
            (),
            f"No upkeep is noted for {', '.join(thing.name or thing.id for thing in bare)}.",
            "Filters, blades, belts and hoses wear by hours of use.",
            _USE,
            Where(tuple(thing.id for thing in bare)),
            {"things": float(len(bare))},
        )


def _stockless(answers: Answers, say: Figures) -> Iterator[Finding]:
    parts = answers.of(KeepAnswers).without_stock
    if parts:
        names = ", ".join(f"{part.name or part.id} ({say.length(part.thickness)} thick)" for part in parts)
        yield Finding(
            "no-stock",
            Grade.MEND,
            (),
            f"There is no sheet or stick for {names}.",
            "A part comes from a sheet of its thickness, or from a stick of its thickness and width.",
            Basis("geometry", "Sizes as they stand in the cut list."),
            Where(tuple(part.id for part in parts)),
            {"parts": float(len(parts))},
        )


# ---- by a long search


def _cuts(answers: Answers, say: Figures) -> Iterator[Finding]:
    for one in answers.of(KeepAnswers).cuts():
        lost = one.plan.too_large if isinstance(one.plan, SheetsPlan) else one.plan.too_long
        name = one.stock.name or one.stock.id
        if lost:
            names = ", ".join(dict.fromkeys(one.pieces[k].name or one.pieces[k].id for k in lost))
            yield Finding(
                "part-too-large",
                Grade.MEND,
                (one.stock.id,),
                f"{names} do{'es' if len(lost) == 1 else ''} not come out of {name}.",
                f"{say.length(one.stock.length)} × {say.length(one.stock.width)}, with grain and trim as they are set.",
                Basis("geometry", "Sizes as they stand in the cut list."),
                Where(tuple(dict.fromkeys(one.pieces[k].id for k in lost))),
                {"parts": float(len(lost))},
            )
        else:
            yield _enough(answers, one, name, say)


def _enough(answers: Answers, one: StockPlan, name: str, say: Figures) -> Finding:
    count = len(one.plan.sheets) if isinstance(one.plan, SheetsPlan) else len(one.plan.sticks)
    proof = "fewer cannot do" if one.plan.is_proven else "the best that was found; fewer are not ruled out"
    return Finding(
        "cuts",
        Grade.GOOD,
        (one.stock.id,),
        f"{count} × {name} give{'s' if count == 1 else ''} all {len(one.pieces)} parts ({proof}).",
        f"Straight cuts with {say.thickness(answers.shop.upkeep.cuts.kerf)} of kerf.",
        Basis("geometry", "Sizes as they stand in the cut list."),
        Where((one.stock.id,)),
        {"count": float(count), "pieces": float(len(one.pieces))},
    )


RULES: tuple[Rule, ...] = (_due, _bin, _undone, _stockless)
SEARCHES: tuple[Rule, ...] = (_cuts,)
