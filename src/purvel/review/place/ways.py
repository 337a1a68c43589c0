"""The rules of ways: whether every machine can be walked to, how wide the narrowest spot is, and from which
sides a bench can be worked at.
"""

from __future__ import annotations

from collections.abc import Iterator

from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.place.answers import PlaceAnswers
from purvel.shop.parts import name_of
from purvel.shop.scenes import is_asleep
from purvel.space.aisles import LEAST, ONE_PERSON, SQUEEZE, UNREACHED, WAY_OUT, WITH_BOARD, Aisle
from purvel.space.around import SIDES


def aisles(answers: Answers, say: Figures) -> Iterator[Finding]:
    """How wide the ways from the way in to each machine are."""
    basis = Basis("trade practice", "0.61 m (24 in) is a squeeze, 0.91 m (36 in) one person walking.")
    narrow = [one for one in answers.of(PlaceAnswers).aisles if one.most < ONE_PERSON]
    by_culprit: dict[str, list[Aisle]] = {}
    for one in narrow:
        if one.cut_off_by is not None:
            by_culprit.setdefault(one.cut_off_by, []).append(one)
    together = {culprit: cut for culprit, cut in by_culprit.items() if len(cut) > 1}
    for culprit, cut in together.items():
        yield _cut_off(answers, culprit, cut, basis)
    for one in narrow:
        if one.most < SQUEEZE and one.cut_off_by not in together:
            yield _narrow(answers, one, basis, say)
    tight = [one for one in narrow if one.most >= SQUEEZE]
    if tight:
        yield _tight(answers, tight, basis, say)
    if answers.of(PlaceAnswers).aisles and not narrow:
        least = min(answers.of(PlaceAnswers).aisles, key=lambda one: one.width)
        sentence = (
            f"Every machine can be walked to; the narrowest way is {say.length(least.width)}, to"
            f" {name_of(answers.shop, least.thing)}."
        )
        why = (
            f"Measured by the widest disc that rolls there from the way in; {say.length(ONE_PERSON)} is"
            " wanted."
        ) + _boards(answers, say)
        yield Finding(
            "aisle",
            Grade.GOOD,
            (),
            sentence,
            why,
            basis,
            Where((least.thing,), least.narrowest),
            {"width": least.width},
        )


def way_out(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Whether the way out of every place to work is as wide as workplaces keep it."""
    found = answers.of(PlaceAnswers).aisles
    if not found:
        return
    short = [one for one in found if one.most < WAY_OUT]
    least = min(found, key=lambda one: one.width)
    names = ", ".join(name_of(answers.shop, one.thing) for one in short or [least])
    why = "Measured by the widest disc that rolls there from the way in; the way out is the same."
    if short:
        sentence = (
            f"The way out from {names} is narrower than the {say.length(WAY_OUT)} that workplaces keep."
        )
        why += " Whoever has to leave in the dark or in smoke is glad of it; local codes decide."
    else:
        sentence = f"The way out is kept: {say.length(least.width)} at its narrowest, from {names}."
    yield Finding(
        "way-out",
        Grade.WATCH if short else Grade.GOOD,
        (),
        sentence,
        why,
        Basis("published limit", "OSHA 1910.36(g): 28 in (0.71 m) at every point, in workplaces."),
        Where(tuple(one.thing for one in short or [least]), least.narrowest),
        {"width": least.width},
    )


def _boards(answers: Answers, say: Figures) -> str:
    """Whose way is too narrow for a person with a board in hand."""
    found = [one for one in answers.of(PlaceAnswers).aisles if SQUEEZE <= one.most < WITH_BOARD]
    if not found:
        return ""
    names = ", ".join(name_of(answers.shop, one.thing) for one in found)
    return f" With a board in hand {say.length(WITH_BOARD)} are wanted: the ways to {names} are narrower."


def _narrow(answers: Answers, one: Aisle, basis: Basis, say: Figures) -> Finding:
    """A way that is too narrow, or that is none."""
    name = name_of(answers.shop, one.thing)
    why = (
        f"The widest disc that rolls from the way in to where you stand at {name} is"
        f" {say.length(one.width)} across, at most {say.length(one.error)} more."
        if one.width
        else f"No disc of {say.length(LEAST)} across rolls from the way in to where you stand at {name}."
    )
    where, figures = Where((one.thing,), one.narrowest), {"width": one.width, "error": one.error}
    if one.most < UNREACHED:
        sentence = f"Nobody gets to {name} from the way in."
        return Finding("aisle", Grade.STOP, (one.thing,), sentence, why, basis, where, figures)
    sentence = f"The way to {name} is only {say.length(one.width)} wide at its narrowest."
    return Finding("aisle", Grade.MEND, (one.thing,), sentence, why, basis, where, figures)


def _cut_off(answers: Answers, culprit: str, cut: list[Aisle], basis: Basis) -> Finding:
    """All that one thing cuts off, on one card."""
    names = [name_of(answers.shop, one.thing) for one in cut]
    return Finding(
        "cut-off",
        Grade.STOP,
        (culprit,),
        f"{len(cut)} places to work are cut off by {name_of(answers.shop, culprit)}: {', '.join(names)}.",
        "Without it a person would squeeze through to each of them from the way in; with it nobody does.",
        basis,
        Where((culprit, *(one.thing for one in cut))),
        {"places": float(len(cut))},
    )


def _tight(answers: Answers, tight: list[Aisle], basis: Basis, say: Figures) -> Finding:
    """The ways that one person squeezes through, together."""
    least = min(tight, key=lambda one: one.width)
    names = ", ".join(name_of(answers.shop, one.thing) for one in tight)
    sentence = (
        f"The ways to {names} are narrower than {say.length(ONE_PERSON)}; the narrowest is"
        f" {say.length(least.width)}."
    )
    why = (
        f"Measured by the widest disc that rolls there from the way in; it may be {say.length(least.error)} more."
        f" One person walks freely in {say.length(ONE_PERSON)}."
    ) + _boards(answers, say)
    where = Where(tuple(one.thing for one in tight), least.narrowest)
    return Finding("aisle", Grade.WATCH, (), sentence, why, basis, where, {"width": least.width})


def benches(answers: Answers, say: Figures) -> Iterator[Finding]:
    """From which sides one can work at each bench or table on which things are put together."""
    if is_asleep(answers.base, answers.scene):
        return
    for one in answers.of(PlaceAnswers).around:
        name = name_of(answers.shop, one.thing)
        sides = [f"the {side}" for side in one.free]
        if len(sides) == len(SIDES):
            sentence = f"{name} can be walked round: work on it is reached from all sides."
        elif sides:
            listed = " and ".join(filter(None, (", ".join(sides[:-1]), sides[-1])))
            sentence = f"Work on {name} is reached from {listed}."
        else:
            sentence = f"Nobody can stand at any side of {name}."
        shares = ", ".join(f"{side} {share:.0%}" for side, share in zip(SIDES, one.shares))
        yield Finding(
            "sides",
            Grade.GOOD if sides else Grade.WATCH,
            (one.thing,),
            sentence,
            f"Free of the floor {say.length(SQUEEZE)} deep before each side: {shares}.",
            Basis(
                "trade practice", "0.61 m (24 in) is a squeeze; of a side that is used four fifths are free."
            ),
            Where((one.thing,)),
            {"sides": float(len(sides))},
        )
