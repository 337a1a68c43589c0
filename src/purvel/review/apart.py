"""A process that reviews shops for another, whose own processor then stays free: shops come in by its
standard input, findings go out by its standard output, each message pickled behind its length. Either side
sends only what it has not sent before: a moved thing, the findings that it changed.

Only the process that began it writes to it. It ends with its input. Long searches, which alone read what is
attached to a document, are not done here.
"""

from __future__ import annotations

import gc
import os
import pickle
import select
import sys
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, fields, replace
from struct import Struct
from typing import Any, BinaryIO, TypeVar

from purvel.review.finding import Finding
from purvel.review.memory import Memory
from purvel.review.reviewing import AtFirst, found_at_first
from purvel.review.scenes import answers_for
from purvel.shop import Shop, Thing

LENGTH = Struct("<Q")
_REST = 0.3  # s without a question, until all that is garbage is looked for
One = TypeVar("One")

Found = tuple[int, AtFirst | str]
"""The number of a question with what was found, or with why nothing could be."""


def processors() -> int:
    """How many processors this process may use."""
    return len(os.sched_getaffinity(0))


def packed(message: Asked | Told) -> bytes:
    """A message as it is sent."""
    data = pickle.dumps(message, pickle.HIGHEST_PROTOCOL)
    return LENGTH.pack(len(data)) + data


def unpacked(buffer: bytearray) -> Iterator[Any]:
    """The whole messages at the beginning of what has come, which are taken out of it."""
    while len(buffer) >= LENGTH.size:
        end = LENGTH.size + LENGTH.unpack_from(buffer)[0]
        if len(buffer) < end:
            return
        message = pickle.loads(bytes(buffer[LENGTH.size : end]))  # from our own other half
        del buffer[:end]
        yield message


def _new_in(parts: Sequence[One], last: Sequence[One]) -> tuple[One | int, ...]:
    """For each part its place in the last message, if it is the very same there; else itself."""
    places = {id(one): place for place, one in enumerate(last)}
    return tuple(places.get(id(one), one) for one in parts)


def _whole(parts: Sequence[One | int], last: Sequence[One]) -> tuple[One, ...]:
    """The parts again that `_new_in` told."""
    return tuple(last[one] if isinstance(one, int) else one for one in parts)


@dataclass(frozen=True, slots=True)
class Asked:
    """A question: a shop in a scene, told by what is not as in the shop that was asked of last."""

    number: int
    scene: str | None
    things: tuple[Thing | int, ...]
    others: dict[str, Any]

    @classmethod
    def of(cls, number: int, shop: Shop, scene: str | None, last: Shop) -> Asked:
        """The question about a shop, asked after one about the `last`."""
        names = (one.name for one in fields(Shop) if one.name != "things")
        pairs = ((name, getattr(shop, name), getattr(last, name)) for name in names)
        others = {name: now for name, now, was in pairs if now is not was}
        return cls(number, scene, _new_in(shop.things, last.things), others)

    def shop(self, last: Shop) -> Shop:
        """The whole shop, all that stayed being the very same as in the last: for what is remembered, that is
        seen at once.
        """
        things = _whole(self.things, last.things)
        things = last.things if things == last.things else things
        return replace(last, things=things, **self.others)


@dataclass(frozen=True, slots=True)
class Told:
    """An answer, told by what was not found the last time; or why there is none."""

    number: int
    findings: tuple[Finding | int, ...]
    waits: bool = False
    broken: str = ""

    def found(self, last: Sequence[Finding]) -> Found:
        """The whole answer."""
        if self.broken:
            return self.number, self.broken
        return self.number, AtFirst(_whole(self.findings, last), self.waits)


def _as_before(findings: Sequence[Finding], last: Sequence[Finding]) -> tuple[Finding, ...]:
    """The findings, the very same as the last wherever they are equal."""
    known = {one.key: one for one in last}
    return tuple(known[one.key] if known.get(one.key) == one else one for one in findings)


def serve(asked: BinaryIO, told: BinaryIO) -> None:
    """Answers questions until there are no more; of those that have come meanwhile the last only."""
    memory, buffer, is_first = Memory(), bytearray(), True
    shop, findings = Shop(), tuple[Finding, ...]()
    while data := asked.read1(1 << 20):  # type: ignore[attr-defined]  # of buffered readers
        buffer += data
        question: Asked | None = None
        for question in unpacked(buffer):
            shop = question.shop(shop)
        if question is None:
            continue
        try:
            found = found_at_first(answers_for(shop, question.scene, memory))
        except Exception as exc:  # noqa: BLE001  # said on the other side
            answer = Told(question.number, (), broken=f"{type(exc).__name__}: {exc}")
        else:
            was, findings = findings, _as_before(found.findings, findings)
            answer = Told(question.number, _new_in(findings, was), found.waits)
        told.write(packed(answer))
        told.flush()
        _tidy(asked, is_first=is_first)
        is_first = False


def _tidy(asked: BinaryIO, *, is_first: bool) -> None:
    """Collects garbage where that is left to us: what is young between two answers, which takes least when
    there is little of it, all of it when questions rest. By itself it would come in the midst of a review,
    and walk through all that is known.
    """
    if gc.isenabled():
        return
    if is_first:
        gc.collect()
        gc.freeze()
    else:
        gc.collect(1)
    if not select.select([asked], [], [], _REST)[0]:
        gc.collect()


def run() -> None:
    """The process; begun by this name, since what is sent must not be called after the program that it is."""
    gc.disable()
    try:
        serve(sys.stdin.buffer, sys.stdout.buffer)
    except BrokenPipeError:
        sys.exit(1)  # nobody is there to be told
