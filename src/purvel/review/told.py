"""A review with what would help each finding, told in words; on all processors, since each finding's remedies
are tried by themselves.
"""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator, Mapping
from concurrent.futures import ProcessPoolExecutor
from contextlib import contextmanager
from dataclasses import dataclass
from functools import cache, partial
from multiprocessing import get_context

from purvel.review.apart import processors
from purvel.review.finding import Finding
from purvel.review.going import nothing_small
from purvel.review.memory import Memory
from purvel.review.reviewing import Review, first_review, whole_review
from purvel.review.stages import stage_of
from purvel.review.trying import can_try, make_ready, remedies_for
from purvel.shop import Shop

Told = tuple[str, str]
"""What a remedy does, and what comes of it."""


@dataclass(frozen=True, slots=True)
class Advice:
    """What would help a finding; where nothing small does, what would have to go, in a sentence."""

    remedies: tuple[Told, ...]
    none: str = ""


@dataclass(frozen=True, slots=True)
class Advised:
    """A whole review, and by finding how to come by what would help it; some of that may be under way."""

    review: Review
    tries: Mapping[int, Callable[[], Advice]]

    def of(self, finding: Finding) -> Advice:
        """What would help one of the review's findings, once that is known."""
        return self.tries[id(finding)]()


@contextmanager
def advising(shop: Shop, memory: Memory, scene: str | None = None) -> Iterator[Advised]:
    """Reviews a shop in a scene, and has what would help tried. While other processes try remedies, this one
    does the long searches, and whatever is done within.
    """
    first = first_review(shop, memory, scene)
    if (hands := _hands()) < 2:
        yield _behind(whole_review(first), {})
        return
    make_ready(first.answers)  # once, rather than once in each process
    with ProcessPoolExecutor(hands, get_context("fork"), _begin, (first,)) as pool:
        numbered = [pair for pair in enumerate(first.findings) if can_try(pair[1])]
        # the longest first, so that none is waited for at the end: places for things
        numbered.sort(key=lambda pair: not stage_of(pair[1].stage).about_things)
        tries = {id(one): pool.submit(_tell, number).result for number, one in numbered}
        try:
            advised = _behind(whole_review(first), tries)
            for one in advised.review.findings:
                if id(one) not in tries:
                    advised.of(one)  # now, while the others are busy
            yield advised
        except BaseException:
            pool.shutdown(cancel_futures=True)  # nobody waits for the rest
            raise


def _behind(whole: Review, tries: Mapping[int, Callable[[], Advice]]) -> Advised:
    """A review with tries that are under way; what is left is tried here, when it is asked for."""
    left = {id(one): cache(partial(_told, whole, one)) for one in whole.findings if id(one) not in tries}
    return Advised(whole, {**tries, **left})


def _hands() -> int:
    """How many processes may work: one where others cannot be split off a process that runs threads."""
    return processors() if threading.active_count() == 1 else 1


def _told(review: Review, finding: Finding) -> Advice:
    found = tuple((one.label, one.outcome) for one in remedies_for(finding, review.answers))
    return Advice(found, "" if found else nothing_small(finding, review.answers))


_REVIEWED: list[Review] = []
"""In a process that tries remedies, the review that they are for."""


def _begin(review: Review) -> None:
    _REVIEWED[:] = [review]


def _tell(number: int) -> Advice:
    (review,) = _REVIEWED
    return _told(review, review.findings[number])
