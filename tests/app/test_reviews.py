"""The review's thread and the window's: who answers, and who clears up."""

import gc
import os
import subprocess
import sys
import threading
import time
import weakref
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from purvel.app import application, reviews
from purvel.review import Finding, Review
from purvel.shop.edits import move_thing
from purvel.stopping import Stopped, go_on
from tests.app.conftest import Bench
from tests.crowd import crowded_shop
from tests.test_speed import times_as_much, yardstick


class Loop:
    """Garbage that only a collection finds."""

    def __init__(self) -> None:
        self.me = self


def test_garbage_is_collected_but_never_in_the_reviews_thread(bench: Bench) -> None:
    bench.demo("garage", "air")
    bench.bot.waitUntil(
        lambda: gc.get_freeze_count() > 0, timeout=10_000
    )  # what is there to stay is set apart
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


@pytest.mark.parametrize(
    ("held", "count", "looks"),
    [
        (Qt.MouseButton.NoButton, (5000, 0, 51), [2]),
        (Qt.MouseButton.LeftButton, (5000, 0, 51), [1]),  # all of it takes some frames
        (Qt.MouseButton.NoButton, (5000, 0, 50), [1]),
        (Qt.MouseButton.NoButton, (700, 0, 50), []),
        (Qt.MouseButton.LeftButton, (700, 0, 51), []),
    ],
)
def test_all_garbage_is_looked_for_only_while_the_hand_rests(
    monkeypatch: pytest.MonkeyPatch, held: Qt.MouseButton, count: tuple[int, ...], looks: list[int]
) -> None:
    looked: list[int] = []
    monkeypatch.setattr(application.QApplication, "mouseButtons", lambda: held)
    monkeypatch.setattr(application.gc, "get_count", lambda: count)
    monkeypatch.setattr(application.gc, "collect", lambda generation=2: looked.append(generation))
    application._collect_due()
    monkeypatch.undo()
    assert looked == looks


def test_the_latest_of_many_requests_is_the_one_that_is_answered(bench: Bench) -> None:
    bench.demo("garage")
    for step in range(30):
        bench.workspace.apply(lambda shop, x=step: move_thing(shop, "jointer", 2.0 + 0.01 * x, 1.5), "Move")
    bench.settle()
    assert bench.window.reviews.latest.answers.shop is bench.workspace.shop


def test_a_thing_held_still_is_reviewed_in_the_hand(bench: Bench) -> None:
    bench.demo("garage", "place")
    jointer = bench.workspace.shop.thing("jointer")
    assert jointer is not None
    bench.drag((jointer.x, jointer.y), (jointer.x - 0.8, jointer.y - 0.3), drop=False)
    bench.settle()
    assert bench.window.plan.is_dragging and bench.window.reviews.latest.answers.shop is bench.workspace.shop


def test_a_frame_of_a_drag_in_a_crowd_is_drawn_before_the_hand_has_gone_on(bench: Bench) -> None:
    """Sixty things: one and a half times the yardstick a frame; it was forty times while words were weighed
    one by one and reviews ran beside.
    """
    bench.workspace.open(crowded_shop())
    bench.stage("place")
    plan, thing = bench.window.plan, bench.workspace.shop.thing("machine-2")
    assert thing is not None
    start = bench.at(thing.x, thing.y)
    QTest.mousePress(plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)
    moves = iter(range(4, 40, 3))

    def frame() -> None:
        QTest.mouseMove(plan, start + QPoint(next(moves), 2))
        QApplication.processEvents()

    assert times_as_much(frame, yardstick(), 9) < 6
    QTest.mouseRelease(plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start + QPoint(40, 2))


def test_closing_with_a_thing_in_the_hand_begins_no_other_review(
    bench: Bench, monkeypatch: pytest.MonkeyPatch
) -> None:
    bench.demo("spare-room", "place")
    cabinet, own, begun = bench.workspace.shop.thing("cabinet"), reviews.first_review, list[object]()
    kept = bench.window.reviews
    assert cabinet is not None

    def slow(*given: Any) -> Review:
        begun.append(given)
        # so that it is behind the hand when the window is closed
        until = time.monotonic() + 10.0
        while kept._in_hand and time.monotonic() < until:
            time.sleep(0.005)
        return own(*given)

    monkeypatch.setattr(reviews, "first_review", slow)
    bench.drag((cabinet.x, cabinet.y), (cabinet.x + 0.5, cabinet.y), drop=False)
    before = len(begun)
    assert before and kept._under_way != kept.serial
    bench.window.close()
    QApplication.processEvents()
    assert len(begun) == before and kept._pool.activeThreadCount() == 0


def test_a_review_that_fails_says_so_and_the_next_one_is_made(
    bench: Bench, monkeypatch: pytest.MonkeyPatch
) -> None:
    bench.demo("garage")

    def broken(*_: object) -> None:
        raise RuntimeError("a slip of ours")

    monkeypatch.setattr(reviews, "review", broken)
    name = bench.workspace.shop.name
    bench.workspace.apply(lambda shop: move_thing(shop, "jointer", 2.0, 1.5), "Move")
    bench.bot.waitUntil(lambda: "a slip of ours" in bench.window.notice.said.text(), timeout=30_000)
    assert (
        "Your work is kept" in bench.window.notice.said.text()
        and bench.window.header.mend.text() == "not checked"
    )
    monkeypatch.undo()
    bench.workspace.undo()
    bench.settle()
    assert bench.workspace.shop.name == name and "to mend" in bench.window.header.mend.text()


def test_closing_while_cures_are_tried_says_nothing_on_the_terminal(tmp_path: Path) -> None:
    """In a process of its own, that ends at once after the window."""
    code = f"""
import os, sys
from pathlib import Path
from PySide6.QtCore import QSettings, QTimer
from purvel.app.application import make_application
from purvel.app.window import Window
from purvel.demo import demo_bytes
from purvel.files import loads
application = make_application(["purvel"])
window = Window(Path({str(tmp_path)!r}), QSettings({str(tmp_path / "s.ini")!r}, QSettings.Format.IniFormat))
window.show()
window.keeper.open(loads(demo_bytes("garage")), None)
while window.reviews.is_stale:
    application.processEvents()
window.show_stage("place")
for finding in window.reviews.latest.of("place")[:3]:
    window.reviews.ask_remedies(finding)
QTimer.singleShot(50, window.close)
application.exec()
"""
    done = subprocess.run(
        [sys.executable, "-c", code],
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
        capture_output=True,
        text=True,
        timeout=60,
        check=False,
    )
    assert done.returncode == 0 and done.stderr == "", done.stderr


def test_cures_are_tried_again_when_a_change_stopped_them(bench: Bench) -> None:
    """A change that changes no finding stops the trying; the open card does not wait for ever."""
    bench.demo("garage", "place")
    bench.window.findings.cards[0].opened.emit(bench.window.findings.cards[0].finding)
    bench.workspace.apply(lambda shop: replace(shop, notes="Oil the vice"), "Note")
    bench.settle()
    bench.bot.waitUntil(lambda: not bench.window.findings.is_waiting, timeout=20_000)
    opened = bench.window.findings.cards[0]
    assert opened.details is not None and len(opened.controls) > 1  # with what would help


def test_what_is_no_longer_asked_for_is_stopped(bench: Bench, monkeypatch: pytest.MonkeyPatch) -> None:
    bench.demo("garage")
    ended = []

    def endless(finding: Finding, _: object) -> tuple[()]:
        if finding.key == first.key:
            try:
                while True:
                    go_on()
            except Stopped:
                ended.append(finding.key)
                raise
        return ()

    first, second = bench.window.reviews.latest.of("place")[:2]
    monkeypatch.setattr(reviews, "remedies_as_found", endless)
    bench.window.reviews.ask_remedies(first)
    bench.window.reviews.ask_remedies(second)
    bench.bot.waitUntil(lambda: bool(ended) and not bench.window.reviews.is_trying, timeout=10_000)
    assert ended == [first.key]
