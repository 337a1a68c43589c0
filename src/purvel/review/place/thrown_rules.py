"""The rule of what is thrown: who stands where a board or a blank may fly, what glass or door is there."""

from __future__ import annotations

from collections.abc import Iterator

from purvel.catalogue import trade_operations
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.place.answers import PlaceAnswers
from purvel.shop import Shop
from purvel.shop.parts import name_of
from purvel.space.thrown import REACH, Thrown

_BACK = Basis("trade practice", "Kickback goes straight back from blade or cutter.")
_PLANE = Basis("trade practice", "What breaks on a lathe flies in the plane in which it turns.")
_AIMED = "Nobody stands in it while the machine runs; its guards stay on, on a saw the riving knife too."


def lines_of_throw(answers: Answers, say: Figures) -> Iterator[Finding]:
    """What should not be where a machine may throw: a person, glass, a door that opens there."""
    shop, lanes = answers.shop, answers.of(PlaceAnswers).lanes
    for one in answers.of(PlaceAnswers).thrown:
        saw, is_fed = name_of(shop, one.thing), one.thing in lanes
        line = (
            f"in line with the {cutter_of(shop, one.thing)} of {saw}"
            if is_fed
            else f"in the plane in which {saw} turns"
        )
        what = "a thrown board goes" if is_fed else "a blank that breaks goes"
        for item, sentence in (
            *(
                (item, f"Who stands at {name_of(shop, item)} stands {line}, where {what}.")
                for item in one.workers
            ),
            *((item, f"{name_of(shop, item)} has its glass {line}, where {what}.") for item in one.glass),
            *(
                (item, f"{name_of(shop, item)} opens {line}: who comes in stands where {what}.")
                for item in one.doors
            ),
        ):
            yield _in_the_line(one, item, sentence, is_fed, say)


def throw_grade(one: Thrown | None, item: str) -> Grade:
    """Whether something should not be where a machine throws."""
    is_there = one is not None and item in (*one.workers, *one.glass, *one.doors)
    return Grade.WATCH if is_there else Grade.GOOD


def cutter_of(shop: Shop, machine: str) -> str:
    """What cuts at a machine: a saw has a blade."""
    thing = shop.thing(machine)
    return "blade" if thing is not None and thing.kind in trade_operations()["rip"].by else "cutter"


def _in_the_line(one: Thrown, item: str, sentence: str, is_fed: bool, say: Figures) -> Finding:
    where = "straight back, as wide as the stock" if is_fed else "before the lathe, as wide as it is"
    return Finding(
        "kickback-line",
        throw_grade(one, item),
        (one.thing, item),
        sentence,
        f"The strip runs {say.length(REACH)} {where}, or to the wall. {_AIMED} The maker's manual decides.",
        _BACK if is_fed else _PLANE,
        Where((item, one.thing)),
    )
