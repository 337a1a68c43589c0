"""Scenes next to each other: what holds in all of them, and what is worse in one than in another."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from purvel.review.finding import Finding, Grade
from purvel.review.reviewing import About, worst_of


@dataclass(frozen=True, slots=True)
class Compared:
    """Of two scenes: what is worse in the first, what is worse in the second, and how many findings are alike
    in both; worst first.
    """

    first: tuple[Finding, ...]
    second: tuple[Finding, ...]
    alike: int


def compared(first: Sequence[Finding], second: Sequence[Finding]) -> Compared:
    """What differs in grade between the findings of two scenes; what one of them does not say holds there."""
    one, other = worst_of(first), worst_of(second)
    alike = sum(one.get(key) == other.get(key) for key in one.keys() | other.keys())
    return Compared(_worse(first, other), _worse(second, one), alike)


def _worse(found: Iterable[Finding], elsewhere: Mapping[About, Grade]) -> tuple[Finding, ...]:
    told = dict[About, Finding]()
    for finding in found:
        key = (finding.rule, finding.about)
        if finding.grade < elsewhere.get(key, Grade.GOOD) and (
            key not in told or finding.grade < told[key].grade
        ):
            told[key] = finding
    return tuple(sorted(told.values(), key=lambda finding: finding.grade))


def holds_in_every(scenes: Iterable[Sequence[Finding]]) -> tuple[int, int]:
    """How many of the questions that any of the scenes asks are answered Good wherever they are asked, and
    how many there are.
    """
    worst = dict[About, Grade]()
    for found in scenes:
        for key, grade in worst_of(found).items():
            worst[key] = min(grade, worst.get(key, Grade.GOOD))
    return sum(grade == Grade.GOOD for grade in worst.values()), len(worst)
