"""The review's thread and the window's: who answers, and who clears up."""

import gc
import threading
import weakref

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from purvel.app import reviews
from purvel.shop.edits import move_thing
from tests.app.conftest import Bench
from tests.test_speed import crowded, median, yardstick


class Loop:
    """Garbage that only a collection finds."""

    def __init__(self) -> None:
        self.me = self


def test_garbage_is_collected_but_never_in_the_reviews_thread(bench: Bench) -> None:
    bench.demo("garage")
    bench.stage("air")
    threads: set[int] = set()

    def note(phase: str, info: dict[str, int]) -> None:
        if phase == "start":
            threads.add(threading.get_ident())

    gc.callbacks.append(note)
    try:
        litter = [Loop() for _ in range(2 * gc.get_threshold()[0])]
        last = weakref.ref(litter[-1])
        del litter
        for step in range(12):
            bench.workspace.apply(
                lambda shop, x=step: move_thing(shop, "jointer", 2.0 + 0.01 * x, 1.5), "Move"
            )
            bench.settle()
        bench.bot.waitUntil(lambda: last() is None, timeout=10_000)
    finally:
        gc.callbacks.remove(note)
    assert threads == {threading.get_ident()}


def test_the_latest_of_many_requests_is_the_one_that_is_answered(bench: Bench) -> None:
    bench.demo("garage")
    for step in range(30):
        bench.workspace.apply(lambda shop, x=step: move_thing(shop, "jointer", 2.0 + 0.01 * x, 1.5), "Move")
    bench.settle()
    assert bench.window.reviews.latest.answers.shop is bench.workspace.shop


def test_while_a_thing_is_in_the_hand_the_review_waits_and_then_comes_at_once(bench: Bench) -> None:
    bench.demo("garage")
    bench.stage("place")
    jointer = bench.workspace.shop.thing("jointer")
    assert jointer is not None
    before = bench.window.reviews.latest
    bench.drag((jointer.x, jointer.y), (jointer.x - 0.8, jointer.y - 0.3), drop=False)
    review = bench.window.reviews
    assert review.is_stale and review.latest is before and review._rest.isActive()
    assert review.answers().shop is bench.workspace.shop  # lanes and distances follow the hand
    QTest.mouseRelease(
        bench.window.plan,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
        bench.at(jointer.x - 0.8, jointer.y - 0.3),
    )
    assert not review._rest.isActive()
    bench.settle()
    assert review.latest.answers.shop is bench.workspace.shop


def test_a_thing_held_still_is_reviewed_in_the_hand(bench: Bench) -> None:
    bench.demo("garage")
    bench.stage("place")
    jointer = bench.workspace.shop.thing("jointer")
    assert jointer is not None
    bench.drag((jointer.x, jointer.y), (jointer.x - 0.8, jointer.y - 0.3), drop=False)
    bench.settle()
    assert bench.window.plan.is_dragging and bench.window.reviews.latest.answers.shop is bench.workspace.shop


def test_a_frame_of_a_drag_in_a_crowd_is_drawn_before_the_hand_has_gone_on(bench: Bench) -> None:
    """Sixty things: 0.11 s a frame where the yardstick takes 0.04 s; it was 0.94 s while words were weighed
    one by one and reviews ran beside.
    """
    bench.workspace.open(crowded())
    bench.stage("place")
    plan, thing = bench.window.plan, bench.workspace.shop.thing("planer-2")
    assert thing is not None
    start = bench.at(thing.x, thing.y)
    QTest.mousePress(plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)
    moves = iter(range(4, 40, 3))

    def frame() -> None:
        QTest.mouseMove(plan, start + QPoint(next(moves), 2))
        QApplication.processEvents()

    assert median(frame, 9) < 12 * yardstick()
    QTest.mouseRelease(plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start + QPoint(40, 2))


def test_a_review_that_fails_says_so_and_the_next_one_is_made(
    bench: Bench, monkeypatch: pytest.MonkeyPatch
) -> None:
    bench.demo("garage")

    def broken(*_: object) -> None:
        raise RuntimeError("a slip of ours")

    monkeypatch.setattr(reviews, "review", broken)
    name = bench.workspace.shop.name
    bench.workspace.apply(lambda shop: move_thing(shop, "jointer", 2.0, 1.5), "Move")
    bench.bot.waitUntil(lambda: "a slip of ours" in bench.window.notice.said.text(), timeout=5_000)
    assert (
        "Your work is kept" in bench.window.notice.said.text()
        and bench.window.header.mend.text() == "not checked"
    )
    monkeypatch.undo()
    bench.workspace.undo()
    bench.settle()
    assert bench.workspace.shop.name == name and "to mend" in bench.window.header.mend.text()
