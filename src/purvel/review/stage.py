"""The record that a stage of the work is: all that the core needs to know of it."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Finding
from purvel.shop.edits import Edit

Rule = Callable[[Answers, Figures], Iterable[Finding]]
Candidate = tuple[str, Edit] | tuple[str, Edit, str]
"""What a button says and does; the third, if any, is of what it is one of several: one is offered."""
Proposer = Callable[[Finding, Answers, Figures], Iterator[Candidate]]
Progress = Callable[[Finding, Finding], bool]


@dataclass(frozen=True, slots=True)
class Table:
    """Rows that the text report and the binder print under a title."""

    title: str
    heads: Sequence[str]
    rows: Sequence[Sequence[str]]


def always(_: Answers) -> bool:
    """Whatever the shop is like."""
    return True


def no_report(_: Answers) -> dict[str, Any]:
    """Nothing of its own in the report."""
    return {}


def no_lines(_: Answers, __: Figures) -> Iterable[str]:
    """Nothing to say in a line."""
    return ()


def no_tables(_: Answers, __: Figures) -> Iterable[Table]:
    """Nothing to print in rows."""
    return ()


@dataclass(frozen=True, slots=True)
class Stage:
    """One stage: its key, its title on the rail, the question that its screen answers, and what it brings.

    `applies` says whether there is anything to check yet; `rules` yield its findings then. What is
    `about_work` alone is not looked at in scenes in which nobody works; findings `about_things` may end when
    a thing goes. `searches` are rules that wait for long searches; their findings follow behind. `remedies`
    propose changes for a rule's finding, and `progress` tells for a rule whether one of the same grade is
    much better; `next_steps` are rules that say what a remedy leaves still to be done; the remedies of
    `readings` take what was measured over, and are no worse for what that brings to light. `report` is its
    share of the JSON report, merged at the top; `summary` and `tables` are printed.
    """

    key: str
    title: str
    question: str
    applies: Callable[[Answers], bool] = always
    about_work: bool = False
    about_things: bool = False
    rules: tuple[Rule, ...] = ()
    searches: tuple[Rule, ...] = ()
    remedies: Mapping[str, Proposer] = field(default_factory=dict)
    progress: Mapping[str, Progress] = field(default_factory=dict)
    next_steps: frozenset[str] = frozenset()
    readings: frozenset[str] = frozenset()
    report: Callable[[Answers], dict[str, Any]] = no_report
    summary: Callable[[Answers, Figures], Iterable[str]] = no_lines
    tables: Callable[[Answers, Figures], Iterable[Table]] = no_tables
