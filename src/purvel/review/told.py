"""A review with what would help each finding, told in words; on all processors, since each finding's remedies
are tried by themselves.
"""

from __future__ import annotations

import os
import threading
from collections.abc import Mapping, Sequence
from concurrent.futures import Future, ProcessPoolExecutor
from dataclasses import dataclass
from multiprocessing import get_context

from purvel.review.finding import Finding
from purvel.review.memory import Memory
from purvel.review.reviewing import Review, first_review, whole_review
from purvel.review.trying import can_try, remedies_for
from purvel.shop import Shop

Told = tuple[str, str]
"""What a remedy does, and what comes of it."""


@dataclass(frozen=True, slots=True)
class Advised:
    """A whole review, and what would help each of its findings."""

    review: Review
    told: Mapping[int, Sequence[Told]]

    def remedies(self, finding: Finding) -> Sequence[Told]:
        """What would help one of the review's findings."""
        return self.told.get(id(finding), ())


def advised(shop: Shop, memory: Memory, scene: str | None = None) -> Advised:
    """Reviews a shop in a scene, and tries what would help. While other processes try remedies, this one does
    the long searches.
    """
    first = first_review(shop, memory, scene)
    hands = _hands()
    if hands < 2:
        whole = whole_review(first)
        return Advised(whole, {id(one): _told(whole, one) for one in whole.findings})
    quick = [one for one in first.findings if can_try(one)]
    with ProcessPoolExecutor(hands, get_context("fork"), _begin, (first,)) as pool:
        trying: list[Future[list[Told]]] = [pool.submit(_tell, first.findings.index(one)) for one in quick]
        whole = whole_review(first)
        told = {id(one): _told(whole, one) for one in whole.findings if one not in first.findings}
        told |= {id(one): said.result() for one, said in zip(quick, trying)}
    return Advised(whole, told)


def _hands() -> int:
    """How many processes may work: one where others cannot be split off a process that runs threads."""
    alone = threading.active_count() == 1 and hasattr(os, "fork")
    return len(os.sched_getaffinity(0)) if alone else 1


def _told(review: Review, finding: Finding) -> list[Told]:
    return [(one.label, one.outcome) for one in remedies_for(finding, review.answers)]


_REVIEWED: list[Review] = []
"""In a process that tries remedies, the review that they are for."""


def _begin(review: Review) -> None:
    _REVIEWED[:] = [review]


def _tell(number: int) -> list[Told]:
    (review,) = _REVIEWED
    return _told(review, review.findings[number])
