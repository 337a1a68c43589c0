"""The process that reviews what is in the hand, and the findings that follow a hand that never rests."""

import time

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from purvel.app.other_half import OtherHalf
from purvel.review import Grade, Memory
from purvel.review.apart import Found
from purvel.review.reviewing import AtFirst, first_review
from purvel.shop import Shop
from purvel.shop.edits import move_thing
from tests.app.conftest import Bench


def running(half: OtherHalf) -> bool:
    return half._process is not None


@pytest.fixture
def processors() -> int:
    return 2


@pytest.mark.parametrize("processors", [1, 2])
def test_findings_follow_a_hand_that_never_rests(bench: Bench, processors: int) -> None:
    """In another process, or in a thread where one processor does all; while the hand still moves."""
    bench.demo("spare-room", "place")
    bench.settle(whole=True)
    held = bench.workspace.shop.thing("cabinet")
    assert held is not None
    plan, start, kept = bench.window.plan, bench.at(held.x, held.y), bench.window.reviews
    QTest.mousePress(plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)
    latest, moves, came = kept.latest, iter(range(5, 40_000)), list[float]()

    def has_followed_three_times() -> bool:
        QTest.mouseMove(plan, start + QPoint(next(moves) % 40 + 50, 0))
        thing = kept.latest.shop.thing("cabinet")
        if kept.latest is not latest and thing is not None and thing.x not in came:
            came.append(thing.x)
        return len(came) >= 3

    bench.bot.waitUntil(has_followed_three_times, timeout=30_000)
    assert all(x > held.x for x in came) and plan.is_dragging
    assert running(kept._other) == (processors == 2)
    QTest.mouseMove(plan, start + QPoint(40, 0))
    QTest.mouseRelease(plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start + QPoint(40, 0))
    bench.settle()
    assert kept.latest.shop == bench.workspace.base
    assert kept.latest.findings == first_review(bench.workspace.base, Memory(), None, kept.latest).findings


def test_the_other_half_knows_the_shop_before_anything_is_taken_up(bench: Bench) -> None:
    half = bench.window.reviews._other
    bench.settle()
    assert not running(half)  # nothing stands there yet
    bench.demo("spare-room")
    bench.bot.waitUntil(lambda: half.is_ready, timeout=20_000)
    assert half._shop is bench.workspace.base
    bench.workspace.apply(lambda shop: move_thing(shop, "cabinet", 1.0, 1.0), "Move")
    bench.settle()
    bench.bot.waitUntil(lambda: half._shop is bench.workspace.base, timeout=5_000)
    bench.window.close()
    assert not running(half)


def test_what_the_other_half_cannot_review_is_said(bench: Bench, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(OtherHalf, "is_ready", True)
    bench.demo("spare-room", "place")
    kept, told = bench.window.reviews, list[str]()
    kept.failed.connect(told.append)
    monkeypatch.setattr(OtherHalf, "ask", lambda half, number, *_: half.answered.emit((number, "odd")))
    held = bench.workspace.shop.thing("cabinet")
    assert held is not None
    bench.drag((held.x, held.y), (held.x + 0.5, held.y), drop=False)
    assert told and "odd" in told[0] and kept.is_broken
    QTest.mouseRelease(bench.window.plan, Qt.MouseButton.LeftButton)
    bench.settle()
    assert not kept.is_broken and kept.latest.shop == bench.workspace.base


def test_where_it_cannot_be_begun_or_is_killed_the_thread_reviews(
    bench: Bench, monkeypatch: pytest.MonkeyPatch
) -> None:
    bench.demo("spare-room", "place")
    kept = bench.window.reviews
    for broken in (False, True):
        held = bench.workspace.shop.thing("cabinet")
        assert held is not None
        if broken:
            kept._other.end()
            monkeypatch.setattr("purvel.app.other_half.sys.executable", "/nowhere/python")
        bench.drag((held.x, held.y), (held.x + 0.2, held.y), drop=False)
        if not broken:
            bench.bot.waitUntil(lambda: kept._other.is_ready, timeout=20_000)  # until then the thread reviews
            bench.settle()
            bench.workspace.apply(lambda shop, x=held.x: move_thing(shop, "cabinet", x + 0.3, 1.0), "Move")
            assert kept._other._process is not None and kept.is_stale
            kept._other._process.kill()
        bench.settle()  # with the thing still in the hand
        assert bench.window.plan.is_dragging and kept.latest.shop == bench.workspace.shown_base
        QTest.mouseRelease(bench.window.plan, Qt.MouseButton.LeftButton)
        bench.settle()
        assert kept._other.works is not broken


def test_findings_follow_the_hand_while_the_other_half_only_begins(
    bench: Bench, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(OtherHalf, "ask", lambda *_: None)
    bench.demo("spare-room", "place")
    held = bench.workspace.shop.thing("cabinet")
    assert held is not None
    bench.drag((held.x, held.y), (held.x + 0.2, held.y), drop=False)
    kept = bench.window.reviews
    bench.bot.waitUntil(lambda: kept.latest.shop is bench.workspace.shown_base, timeout=20_000)
    assert bench.window.plan.is_dragging and not kept.is_stale
    QTest.mouseRelease(bench.window.plan, Qt.MouseButton.LeftButton)
    bench.drag((held.x + 0.2, held.y), (held.x + 0.4, held.y))
    bench.settle()  # once it is let go, too
    assert kept.latest.shop == bench.workspace.base


def test_one_that_ends_before_it_answers_is_not_begun_again(
    bench: Bench, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("purvel.app.other_half.sys.executable", "/bin/true")
    bench.demo("spare-room")
    half, lost = OtherHalf(bench.window), list[bool]()
    half.lost.connect(lambda: lost.append(True))
    half.ask(0, bench.workspace.shop, None)
    bench.bot.waitUntil(lambda: bool(lost), timeout=5_000)
    assert not half.works and not running(half)


def ask(half: OtherHalf, bench: Bench, *shops: Shop) -> list[Found]:
    """What comes of asking for all of these at once."""
    came = list[Found]()
    half.answered.connect(came.append)
    for number, shop in enumerate(shops):
        half.ask(number, shop, None)
    bench.bot.waitUntil(lambda: bool(came) and came[-1][0] == len(shops) - 1, timeout=20_000)
    return came


def test_of_questions_that_wait_the_latest_is_asked(bench: Bench) -> None:
    bench.demo("spare-room")
    shop, half = bench.workspace.shop, OtherHalf(bench.window)
    try:
        moved = [move_thing(shop, "cabinet", 1.0 + 0.1 * k, 1.0) for k in range(4)]
        came = ask(half, bench, *moved)
        assert [number for number, _ in came] in ([3], [0, 3])
        assert isinstance(came[-1][1], AtFirst)
        wanted = first_review(moved[3], Memory()).findings
        assert sorted(one.sentence for one in came[-1][1].findings) == sorted(one.sentence for one in wanted)
        assert any(one.grade == Grade.STOP for one in wanted)
    finally:
        half.end()


def test_another_is_begun_where_one_has_ended_by_itself(bench: Bench) -> None:
    bench.demo("spare-room")
    half = OtherHalf(bench.window)
    try:
        ask(half, bench, bench.workspace.shop)
        assert half._process is not None
        half._process.closeWriteChannel()  # its input ends
        bench.bot.waitUntil(lambda: not running(half), timeout=10_000)
        assert ask(half, bench, bench.workspace.shop)
    finally:
        half.end()
    began = time.monotonic()
    half.end()  # twice is no harm
    assert time.monotonic() - began < 1.0
    QApplication.processEvents()
