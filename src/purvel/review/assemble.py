"""All findings of a shop."""

from collections.abc import Callable
from dataclasses import dataclass, replace

from purvel.review import air, ducts, place, room
from purvel.review.finding import STAGES, Finding, Grade, Stage
from purvel.review.reader import Reader
from purvel.review.results import Results, Reviewer
from purvel.shop import Shop

RULES: dict[Stage, Callable[[Results, Reader], list[Finding]]] = {
    "room": room.findings,
    "place": place.findings,
    "ducts": ducts.findings,
    "air": air.findings,
}


@dataclass(frozen=True, slots=True)
class Review:
    """A shop with what the engines say about it and the findings, worst first."""

    shop: Shop
    results: Results
    findings: tuple[Finding, ...]

    def of(self, stage: Stage) -> tuple[Finding, ...]:
        """The findings of one stage."""
        return tuple(one for one in self.findings if one.stage == stage)

    def to_mend(self) -> int:
        """How many are graded Stop or Mend."""
        return sum(one.grade <= Grade.MEND for one in self.findings)


def review(shop: Shop, reviewer: Reviewer | None = None, stages: tuple[Stage, ...] = STAGES) -> Review:
    """Reviews a shop, or only some stages of it."""
    results = (reviewer or Reviewer()).results(shop)
    say = Reader(shop.units)
    found = [one for stage in stages for one in RULES[stage](results, say)]
    found = [replace(one, sentence=_tidy(one.sentence), why=_tidy(one.why)) for one in found]
    return Review(shop, results, tuple(sorted(found, key=lambda one: (one.grade, STAGES.index(one.stage)))))


def _tidy(sentence: str) -> str:
    """A unit that ends in a full stop does not get a second one."""
    return sentence.replace("w.g..", "w.g.")
