"""A process that reviews for another: its messages, and what it takes for known."""

import gc
import io
import os
import weakref
from collections.abc import Sequence
from dataclasses import replace

import pytest

from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review import Memory
from purvel.review.apart import Asked, Told, packed, serve, unpacked
from purvel.review.finding import Finding
from purvel.review.reviewing import AtFirst, first_review
from purvel.shop import Shop
from purvel.shop.edits import move_thing


def question(number: int, shop: Shop, last: Shop | None = None, scene: str | None = None) -> bytes:
    """A question as it is sent, after one about the last shop."""
    return packed(Asked.of(number, shop, scene, last or Shop()))


def test_messages_come_whole_however_they_are_cut() -> None:
    shop = loads(demo_bytes("spare-room")).shop
    sent = question(7, shop) + question(8, shop, shop, "night")
    buffer, came = bytearray(), list[Asked]()
    for byte in sent:
        buffer.append(byte)
        came += list(unpacked(buffer))
    assert [(one.number, one.scene) for one in came] == [(7, None), (8, "night")] and not buffer
    assert came[0].shop(Shop()) == came[1].shop(shop) == shop


class Pipe(io.BytesIO):
    """What comes piece by piece."""

    def __init__(self, *pieces: bytes) -> None:
        super().__init__()
        self.pieces = list(pieces)

    def read1(self, size: int | None = -1, /) -> bytes:
        return self.pieces.pop(0) if self.pieces else b""


def said(findings: Sequence[Finding]) -> list[str]:
    """What is found, in an order of its own."""
    return sorted(f"{one.grade.word} {one.sentence}" for one in findings)


def answers(*pieces: bytes) -> list[Told]:
    """What is answered to what comes piece by piece."""
    told = io.BytesIO()
    serve(Pipe(*pieces), told)
    return list(unpacked(bytearray(told.getvalue())))


def test_of_what_came_meanwhile_it_answers_the_last_only() -> None:
    shop = loads(demo_bytes("spare-room")).shop
    cut = question(4, shop, shop)
    came = answers(question(1, shop) + question(2, shop, shop) + cut[:9], cut[9:])
    assert [one.number for one in came] == [2, 4]


def test_what_it_skipped_counts_for_what_it_is_asked_next() -> None:
    """A question is told by what differs from the one before, also where that is never answered."""
    shop = loads(demo_bytes("spare-room")).shop
    moved = move_thing(shop, "cabinet", 1.0, 1.0)
    renamed = replace(moved, name="Another")
    (only,) = answers(question(1, shop) + question(2, moved, shop) + question(3, renamed, moved))
    _, found = only.found(())
    assert isinstance(found, AtFirst)
    wanted, as_drawn = (first_review(one, Memory()).findings for one in (renamed, shop))
    assert said(found.findings) == said(wanted) != said(as_drawn)


def test_it_answers_until_its_input_ends_and_says_what_it_could_not_do() -> None:
    shop = loads(demo_bytes("spare-room")).shop
    broken = replace(shop, room=None)  # type: ignore[arg-type]  # as no shop is
    moved = move_thing(shop, "cabinet", 1.0, 1.0)
    came = answers(question(1, shop), question(2, broken, shop), question(3, moved, broken))
    (one, first), (two, second), (three, third) = (told.found(came[0].findings) for told in came)  # type: ignore[arg-type]
    assert (one, two, three) == (1, 2, 3)
    assert isinstance(first, AtFirst) and isinstance(third, AtFirst)
    assert said(first.findings) == said(first_review(shop, Memory()).findings)
    assert isinstance(second, str) and "Error" in second
    assert said(third.findings) == said(first_review(moved, Memory()).findings) != said(first.findings)


class Litter:
    """What only garbage collection takes away."""

    def __init__(self) -> None:
        self.itself = self


class Littering:
    """Questions that are asked one by one, and litter before each, each second time old."""

    def __init__(self, asked: list[bytes], fd: int) -> None:
        self.asked, self.fd, self.dropped = asked, fd, list[weakref.ref[Litter]]()
        self.lies: list[int] = []

    def fileno(self) -> int:
        return self.fd

    def read1(self, _: int) -> bytes:
        self.lies.append(sum(one() is not None for one in self.dropped))
        litter = Litter()
        if len(self.lies) % 2 == 0:
            gc.collect(1)  # it has been looked at, and was still held
        self.dropped.append(weakref.ref(litter))
        return self.asked.pop(0) if self.asked else b""


@pytest.mark.parametrize(("is_hasty", "lies"), [(True, [0, 0, 1, 1, 2, 2]), (False, [0, 0, 0, 0])])
def test_garbage_is_collected_between_questions(is_hasty: bool, lies: list[int]) -> None:
    """All at first and at rest, what is young in between; not within, as it would by itself."""
    shop = Shop()
    asked = [question(k, replace(shop, name=str(k)), shop) for k in range(len(lies) - 1)]
    end, begun = os.pipe()
    if is_hasty:
        os.write(begun, b"more")
    gc.disable()
    try:
        littering = Littering(asked, end)
        serve(littering, io.BytesIO())  # type: ignore[arg-type]  # as much of a stream as is read
        assert littering.lies == lies
        assert gc.get_freeze_count() > 0  # what is there to stay
    finally:
        gc.unfreeze()
        gc.enable()
        os.close(end)
        os.close(begun)


def test_only_what_is_new_is_sent() -> None:
    shop = loads(demo_bytes("garage")).shop
    moved = move_thing(shop, "jointer", 1.0, 1.0)
    asked = Asked.of(2, moved, None, shop)
    assert [one.id for one in asked.things if not isinstance(one, int)] == ["jointer"] and not asked.others
    assert len(packed(asked)) < 0.05 * len(question(1, shop))
    first, second = answers(question(1, shop), packed(asked))
    new = [one for one in second.findings if not isinstance(one, int)]
    assert any("jointer" in one.about for one in new) and len(new) < 0.5 * len(second.findings)
    assert not any(isinstance(one, int) for one in first.findings)


def test_what_stayed_is_the_very_same_as_before() -> None:
    """So that what is remembered of it is found at a glance; what changed is as it came."""
    last = loads(demo_bytes("garage")).shop
    same = Asked.of(1, replace(last, name="Another"), None, last).shop(last)
    assert same == replace(last, name="Another") and same.things is last.things and same.ducts is last.ducts
    moved = Asked.of(2, move_thing(last, "jointer", 1.0, 1.0), None, last).shop(last)
    assert moved.room is last.room and moved.things is not last.things
    for was, now in zip(last.things, moved.things):
        assert (now is was) == (now.id != "jointer")
    jointer = moved.thing("jointer")
    assert jointer is not None and (jointer.x, jointer.y) == (1.0, 1.0)
    fewer = replace(moved, things=moved.things[2:])
    assert Asked.of(3, fewer, None, moved).shop(moved).things == fewer.things
