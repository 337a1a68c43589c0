"""What is said lies over the plan, where it moves nothing and is not under the hand."""

from PySide6.QtCore import QPoint, QPointF, QRect
from PySide6.QtGui import QCursor, QEnterEvent
from PySide6.QtWidgets import QApplication, QPushButton, QWidget

from tests.app.conftest import Bench

LONG = "The tape says one thing and the plan says another. " * 4


def places(bench: Bench) -> dict[int, QRect]:
    """Where every button and panel outside the notice lies in the window."""
    window = bench.window
    shown = [window.plan, window.found_panel, window.stage.instrument, *window.findings.findChildren(QWidget)]
    shown += [one for one in window.findChildren(QPushButton) if not window.notice.isAncestorOf(one)]
    return {
        id(one): QRect(one.mapTo(window, QPoint()), one.size()) for one in shown if one.isVisibleTo(window)
    }


def on_window(bench: Bench, part: QWidget) -> QRect:
    return QRect(part.mapTo(bench.window, QPoint()), part.size())


def test_a_sentence_a_question_and_a_tool_move_nothing(bench: Bench) -> None:
    bench.demo("garage", "ducts")
    bench.settle(whole=True)
    before = places(bench)
    for speak in (
        lambda: bench.window.notice.say("The collector and its hose went."),
        lambda: bench.window.notice.ask(LONG, [("Read it again", lambda: None)]),
        bench.window.help,
        bench.window.stages["ducts"].draw_button.click,
    ):
        speak()
        QApplication.processEvents()
        assert bench.window.notice.isVisible()
        assert places(bench) == before
    bench.window.stage.put_down()
    QApplication.processEvents()
    assert places(bench) == before


def test_it_lies_over_the_plan_or_over_the_findings_where_the_plan_is_small(bench: Bench) -> None:
    bench.demo("garage")
    notice, window = bench.window.notice, bench.window
    notice.say("The collector went.")
    QApplication.processEvents()
    plan, lies = on_window(bench, window.plan), on_window(bench, notice)
    assert plan.contains(lies) and lies.height() < plan.height() / 3
    assert lies.height() >= notice.heightForWidth(lies.width())

    window.theme.set_text(24)
    window.resize(1024, 700)
    window.help()
    bench.settle()
    lies = on_window(bench, notice)
    assert not lies.intersects(on_window(bench, window.plan))
    assert on_window(bench, window.found_panel).left() == lies.left() and lies.bottom() < window.height()
    said = notice.said
    bench.bot.waitUntil(lambda: said.height() >= said.heightForWidth(said.width()))


def test_it_makes_way_for_the_hand_that_holds_a_tool(bench: Bench) -> None:
    bench.demo("garage", "ducts")
    window = bench.window
    put_hand(window.plan, QPoint(20, window.plan.height() // 2))
    window.stages["ducts"].gate_button.click()
    QApplication.processEvents()
    first = on_window(bench, window.notice)
    hand = first.center() - on_window(bench, window.plan).topLeft()
    assert on_window(bench, window.plan).contains(first)
    put_hand(window.plan, hand)
    enter_event = QEnterEvent(QPointF(9, 9), QPointF(hand), QPointF(window.plan.mapToGlobal(hand)))
    QApplication.sendEvent(window.notice, enter_event)
    second = on_window(bench, window.notice)
    assert second.size() == first.size() and not second.intersects(first)
    QApplication.sendEvent(window.notice, enter_event)
    assert on_window(bench, window.notice) == second  # and does not jump to and fro


def put_hand(part: QWidget, at: QPoint) -> None:
    QCursor.setPos(part.mapToGlobal(at))
    QApplication.processEvents()
