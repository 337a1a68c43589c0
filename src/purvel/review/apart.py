"""A process that reviews shops for another, whose own processor then stays free: shops come in by its
standard input, findings go out by its standard output, each message pickled behind its length.

Only the process that began it writes to it. It ends with its input. Long searches, which alone read what is
attached to a document, are not done here.
"""

from __future__ import annotations

import pickle
import sys
from collections.abc import Iterator
from dataclasses import fields, replace
from struct import Struct
from typing import Any, BinaryIO

from purvel.review.memory import Memory
from purvel.review.reviewing import AtFirst, found_at_first
from purvel.review.scenes import answers_for
from purvel.shop import Shop

LENGTH = Struct("<Q")

Asked = tuple[int, Shop, str | None]
"""The number of a question, the shop and the scene."""
Found = tuple[int, AtFirst | str]
"""The number of the question with what was found, or with why nothing could be."""


def packed(message: Asked | Found) -> bytes:
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


def as_before(shop: Shop, last: Shop | None) -> Shop:
    """The shop with the very objects of the last one wherever they are equal: for what is remembered, that is
    seen at once.
    """
    if last is None:
        return shop
    known = {thing.id: thing for thing in last.things}
    things = tuple(known[one.id] if known.get(one.id) == one else one for one in shop.things)
    shop = replace(shop, things=last.things if things == last.things else things)
    same = {
        one.name: getattr(last, one.name)
        for one in fields(Shop)
        if one.name != "things" and getattr(last, one.name) == getattr(shop, one.name)
    }
    return replace(shop, **same)


def serve(asked: BinaryIO, told: BinaryIO) -> None:
    """Answers questions until there are no more; of those that have come meanwhile the last only."""
    memory, last, buffer = Memory(), None, bytearray()
    while data := asked.read1(1 << 20):  # type: ignore[attr-defined]  # of buffered readers
        buffer += data
        for number, shop, scene in [*unpacked(buffer)][-1:]:
            last = as_before(shop, last)
            try:
                found: AtFirst | str = found_at_first(answers_for(last, scene, memory))
            except Exception as exc:  # noqa: BLE001  # said on the other side
                found = f"{type(exc).__name__}: {exc}"
            told.write(packed((number, found)))
            told.flush()


if __name__ == "__main__":
    serve(sys.stdin.buffer, sys.stdout.buffer)
