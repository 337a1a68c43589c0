"""A review with what would help: the same by one process as by several, and what may stay unlooked at."""

import threading
from concurrent.futures import Future, ProcessPoolExecutor
from dataclasses import fields, replace
from typing import Any

import pytest

from purvel.demo import NAMES, demo_bytes
from purvel.files import loads
from purvel.review import Memory, remedies_for, review
from purvel.review.answers import Answers
from purvel.review.reviewing import findings_of, grades_of, worst_of
from purvel.review.scenes import answers_for
from purvel.review.stages import STAGES
from purvel.review.told import advising
from purvel.review.trying import can_try
from purvel.shop import Shop
from purvel.shop.edits import change, move_thing
from purvel.shop.parts import name_of, reads_same
from purvel.shop.watched import watched


def test_several_processes_tell_what_one_does() -> None:
    shop = loads(demo_bytes("spare-room")).shop
    alone = review(shop)
    with advising(shop, Memory()) as found:
        assert [one.sentence for one in found.review.findings] == [one.sentence for one in alone.findings]
        for ours, its in zip(alone.findings, found.review.findings):
            told = [(one.label, one.outcome) for one in remedies_for(ours, alone.answers)]
            assert list(found.of(its).remedies) == told
        assert any(found.of(one).remedies for one in found.review.findings)


@pytest.fixture
def pools(monkeypatch: pytest.MonkeyPatch) -> list[list[Future[object]]]:
    """What pools were asked for, of two processors."""
    asked: list[list[Future[object]]] = []

    class Counting(ProcessPoolExecutor):
        def __init__(self, *given: Any) -> None:
            super().__init__(*given)
            asked.append([])

        def submit(self, *given: Any, **named: Any) -> Future[object]:  # type: ignore[override]
            asked[-1].append(super().submit(*given, **named))
            return asked[-1][-1]

    monkeypatch.setattr("purvel.review.told.ProcessPoolExecutor", Counting)
    monkeypatch.setattr("purvel.review.told._hands", lambda: 2)
    return asked


def test_on_two_processors_two_processes_try(pools: list[list[Future[object]]]) -> None:
    with advising(loads(demo_bytes("spare-room")).shop, Memory()) as found:
        tried = sum(can_try(one) for one in found.review.findings)
    assert len(pools) == 1 and 0 < len(pools[0]) <= tried and all(one.done() for one in pools[0])


def test_what_nobody_waits_for_is_not_tried(
    pools: list[list[Future[object]]], monkeypatch: pytest.MonkeyPatch
) -> None:
    def fail(_: object) -> None:
        raise KeyError

    monkeypatch.setattr("purvel.review.told.whole_review", fail)
    with pytest.raises(KeyError), advising(loads(demo_bytes("garage")).shop, Memory()):
        pass
    assert any(one.cancelled() for one in pools[0])


def test_where_a_thread_runs_nothing_is_split_off(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("purvel.review.told.ProcessPoolExecutor", None)
    shop, done = loads(demo_bytes("spare-room-mended")).shop, threading.Event()
    other = threading.Thread(target=done.wait)
    other.start()
    try:
        with advising(shop, Memory()) as found:
            for one in found.review.findings:
                told = [(cure.label, cure.outcome) for cure in remedies_for(one, found.review.answers)]
                assert list(found.of(one).remedies) == told
                assert found.of(one) is found.of(one)  # tried once, however often it is told
    finally:
        done.set()
        other.join()


def test_what_is_read_is_counted_by_field_and_name() -> None:
    shop = loads(demo_bytes("garage")).shop
    seen = watched(shop)
    assert seen.room is shop.room and seen.reads.fields == {"room"}
    saw = shop.things[0]
    assert name_of(seen, saw.id) == saw.name and seen.reads.fields == {"room"}
    moved = move_thing(shop, saw.id, saw.x + 0.3, saw.y)
    assert reads_same(seen.reads, shop, moved)
    assert not reads_same(seen.reads, shop, change(shop, saw.id, name="Another"))
    assert not reads_same(seen.reads, shop, replace(shop, room=replace(shop.room, fixtures=())))
    assert replace(seen, notes="x").notes == "x"  # all was read, for a copy
    assert seen.reads.fields == {one.name for one in fields(Shop)} - {"notes"}


@pytest.mark.parametrize("name", NAMES)
def test_a_stage_finds_the_same_in_a_shop_that_is_watched(name: str) -> None:
    shop, memory = loads(demo_bytes(name)).shop, Memory()
    for scene in (None, *(one.id for one in shop.scenes)):
        answers = answers_for(shop, scene, memory)
        for stage in STAGES:
            seen = Answers(watched(answers.shop), memory.scratch(), watched(answers.base), scene)
            assert findings_of(stage, seen) == findings_of(stage, answers)
            assert grades_of(stage, answers) == worst_of(findings_of(stage, answers))


def test_a_stage_that_read_nothing_of_a_change_would_find_the_same() -> None:
    """Every field changed in turn: where a stage's findings change, it had read that field."""
    shop, memory, apart, untouched = loads(demo_bytes("garage")).shop, Memory(), Memory(), 0
    other = loads(demo_bytes("single-garage")).shop
    for one in fields(Shop):
        changed = replace(shop, **{one.name: getattr(other, one.name)})
        for stage in STAGES:
            seen = watched(shop)
            before = findings_of(stage, Answers(seen, memory.scratch()))
            if reads_same(seen.reads, shop, changed):
                untouched += 1
                assert findings_of(stage, Answers(changed, apart)) == before, (one.name, stage.key)
    assert untouched > 40  # of 18 fields in 9 stages
