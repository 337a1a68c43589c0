"""A process that reviews for another: its messages, and what it takes for known."""

import io
from dataclasses import replace

from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review import Memory
from purvel.review.apart import as_before, packed, serve, unpacked
from purvel.review.reviewing import first_review
from purvel.shop.edits import move_thing


def test_messages_come_whole_however_they_are_cut() -> None:
    shop = loads(demo_bytes("spare-room")).shop
    sent = packed((7, shop, None)) + packed((8, shop, "night"))
    buffer, came = bytearray(), []
    for byte in sent:
        buffer.append(byte)
        came += list(unpacked(buffer))
    assert came == [(7, shop, None), (8, shop, "night")] and not buffer


class Pipe(io.BytesIO):
    """What comes piece by piece."""

    def __init__(self, *pieces: bytes) -> None:
        super().__init__()
        self.pieces = list(pieces)

    def read1(self, size: int | None = -1, /) -> bytes:
        return self.pieces.pop(0) if self.pieces else b""


def test_of_what_came_meanwhile_it_answers_the_last_only() -> None:
    shop, told = loads(demo_bytes("spare-room")).shop, io.BytesIO()
    cut = packed((4, shop, None))
    serve(Pipe(packed((1, shop, None)) + packed((2, shop, None)) + cut[:9], cut[9:]), told)
    assert [number for number, _ in unpacked(bytearray(told.getvalue()))] == [2, 4]


def test_it_answers_until_its_input_ends_and_says_what_it_could_not_do() -> None:
    shop = loads(demo_bytes("spare-room")).shop
    broken = replace(shop, room=None)  # type: ignore[arg-type]  # as no shop is
    told = io.BytesIO()
    serve(Pipe(packed((1, shop, None)), packed((2, broken, None)), packed((3, shop, None))), told)
    first, second, third = unpacked(bytearray(told.getvalue()))
    wanted = first_review(shop, Memory()).findings
    assert first[0] == 1 and sorted(one.sentence for one in first[1].findings) == sorted(
        one.sentence for one in wanted
    )
    assert second[0] == 2 and "Error" in second[1]
    assert third == (3, first[1])


def test_what_is_equal_is_the_very_same_as_before() -> None:
    """So that what is remembered of it is found at a glance; what changed is as it came."""
    last, again = loads(demo_bytes("garage")).shop, loads(demo_bytes("garage")).shop
    same = as_before(again, last)
    assert same == last and same.things is last.things and same.ducts is last.ducts
    moved = as_before(move_thing(again, "jointer", 1.0, 1.0), last)
    assert moved.room is last.room and moved.things is not last.things
    for was, now in zip(last.things, moved.things):
        assert (now is was) == (now.id != "jointer")
    jointer = moved.thing("jointer")
    assert jointer is not None and (jointer.x, jointer.y) == (1.0, 1.0)
    assert as_before(again, None) is again
