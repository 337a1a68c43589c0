"""The day in blocks: dragged, stretched, moved by keys; rooms and days from the strip."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QPushButton

from purvel.app.stages.air.planner import Planner
from purvel.review.air.answers import AirAnswers
from purvel.shop import Thing, WorkInterval
from purvel.shop.edits import put
from tests.app.conftest import Bench, choose, enter, field


@pytest.fixture
def planner(bench: Bench) -> Planner:
    """The blocks of the mended garage, shown."""
    bench.demo("garage-mended", "air")
    day = bench.window.stages["air"].day
    day.panes.choose(0)
    QApplication.processEvents()
    return day.planner


def work(bench: Bench) -> WorkInterval:
    return bench.workspace.shop.air.session.work[0]


def pull(planner: Planner, at: QPoint, by: int) -> None:
    QTest.mousePress(planner, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at)
    for step in range(1, 5):
        QTest.mouseMove(planner, at + QPoint(round(by * step / 4), 0))
        QApplication.processEvents()
    QTest.mouseRelease(planner, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at + QPoint(by, 0))
    QApplication.processEvents()


def box(planner: Planner, item: str):
    return next(
        planner._box(row, block)
        for row, (_, blocks) in enumerate(planner.rows)
        for block in blocks
        if block.item == item
    )


def test_a_block_is_dragged_and_stretched_and_each_drag_is_one_step(bench: Bench, planner: Planner) -> None:
    before = work(bench)
    minute = planner._per_minute
    place = box(planner, before.id)
    pull(planner, place.center().toPoint(), round(20 * minute))
    moved = next(one for one in bench.workspace.shop.air.session.work if one.id == before.id)
    assert moved.start == pytest.approx(before.start + 20, abs=1) and moved.minutes == before.minutes
    assert bench.workspace.picked == before.id
    place = box(planner, before.id)
    pull(planner, QPoint(round(place.right()) - 2, round(place.center().y())), round(10 * minute))
    longer = next(one for one in bench.workspace.shop.air.session.work if one.id == before.id)
    assert longer.minutes == pytest.approx(moved.minutes + 10, abs=1) and longer.start == moved.start
    place = box(planner, before.id)
    pull(planner, QPoint(round(place.left()) + 2, round(place.center().y())), round(-5 * minute))
    earlier = next(one for one in bench.workspace.shop.air.session.work if one.id == before.id)
    assert earlier.start == pytest.approx(longer.start - 5, abs=1)
    assert earlier.start + earlier.minutes == pytest.approx(longer.start + longer.minutes)
    for _ in range(3):
        bench.workspace.undo()
    assert work(bench) == before


def test_a_block_that_is_dragged_beyond_the_session_makes_it_longer_and_back_again(
    bench: Bench, planner: Planner
) -> None:
    last = bench.workspace.shop.air.session.work[-1]
    session = bench.workspace.shop.air.session.minutes
    place = box(planner, last.id)
    at = place.center().toPoint()
    QTest.mousePress(planner, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at)
    QTest.mouseMove(planner, at + QPoint(round(40 * planner._per_minute), 0))
    air = bench.workspace.shop.air.session
    assert air.minutes == air.work[-1].start + air.work[-1].minutes > session
    QTest.mouseMove(planner, at)
    assert bench.workspace.shop.air.session.minutes == session
    QTest.mouseRelease(planner, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at)


def test_keys_choose_move_and_stretch_blocks(bench: Bench, planner: Planner) -> None:
    planner.setFocus()
    bench.workspace.pick(None)
    QTest.keyClick(planner, Qt.Key.Key_Down)
    first = work(bench)
    assert bench.workspace.picked == first.id
    bench.settle()
    QTest.keyClick(planner, Qt.Key.Key_Right)
    QTest.keyClick(planner, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    bench.settle()
    assert (work(bench).start, work(bench).minutes) == (first.start + 1, first.minutes + 1)
    QTest.keyClick(planner, Qt.Key.Key_Left, Qt.KeyboardModifier.ControlModifier)
    assert work(bench).start == max(0.0, first.start + 1 - 10)
    QTest.keyClick(planner, Qt.Key.Key_Down)
    assert bench.workspace.picked == bench.workspace.shop.air.session.work[1].id


def test_what_is_switched_and_who_is_about_have_blocks_too(bench: Bench, planner: Planner) -> None:
    menu = dict(bench.window.stages["air"].menu.adding())
    for words in ("Time that a cleaner runs", "Time that doors stand open", "Person who is about"):
        menu[words]()
        bench.settle()
    assert [name for name, _ in planner.rows] == ["Work", "Cleaner", "Doors", "People"]
    spell = next(one for one in bench.workspace.shop.air.session.spells if one.thing)
    bench.workspace.pick(spell.id)
    bench.settle()
    enter(field(bench, "Share of its flow"), "50")
    bench.settle()
    day = bench.window.reviews.latest.answers.of(AirAnswers).day
    on = [one for one in day.stretches if one.cleaner_on]
    assert on[-1].end == spell.start + spell.minutes
    assert next(one for one in bench.workspace.shop.air.session.spells if one.thing).speed == 0.5


def test_a_cleaner_that_is_not_there_has_no_times(bench: Bench) -> None:
    bench.demo("garage", "air")
    bench.window.stages["air"].menu.add_cleaner_time()
    assert bench.workspace.shop.air.session.spells == ()


def test_a_room_next_door_is_added_and_its_door_made_a_stair(bench: Bench, planner: Planner) -> None:
    air = bench.window.stages["air"]
    air.menu.add_passage()
    assert bench.workspace.shop.air.passages == ()  # to no room
    air.menu.add_room()
    bench.settle()
    shop = bench.workspace.shop
    assert bench.workspace.picked == shop.air.rooms[0].id
    bench.workspace.pick(shop.air.passages[0].id)
    bench.settle()
    from purvel.app.widgets.fields import ChoiceField

    kind = next(one for one in bench.window.findChildren(ChoiceField) if one.accessibleName() == "What it is")
    choose(kind, "hatch")
    bench.settle()
    assert bench.workspace.shop.air.passages[0].kind == "hatch"
    day = bench.window.reviews.latest.answers.of(AirAnswers).day
    assert day.rooms[shop.air.rooms[0].id]["central"].peak > 0
    air.day.panes.choose(4)
    QApplication.processEvents()
    rows = air.day.rooms.table
    assert rows.rowCount() == 2 and rows.item(1, 0).text() == shop.air.rooms[0].name
    button = next(b for b in air.day.rooms.findChildren(QPushButton) if b.text() == shop.air.rooms[0].name)
    button.click()
    assert bench.workspace.picked == shop.air.rooms[0].id


def test_day_b_is_kept_and_shown_beside_a(bench: Bench, planner: Planner) -> None:
    air = bench.window.stages["air"]
    days = dict(air.menu.days())
    days["Change between A and B"]()
    assert bench.workspace.shop.air.other is None
    days["Keep as day B, and change on"]()
    air.doors.click()
    bench.settle()
    air.day.panes.choose(1)
    QApplication.processEvents()
    assert "day B" in air.day.verdict.text() and "2 of A and 1 of B" in air.day.verdict.text()
    now, other = bench.workspace.shop.air.session, bench.workspace.shop.air.other
    days["Change between A and B"]()
    assert (bench.workspace.shop.air.session, bench.workspace.shop.air.other) == (other, now)
    days["Drop day B"]()
    assert bench.workspace.shop.air.other is None


def test_the_day_is_made_from_the_jobs(bench: Bench, planner: Planner) -> None:
    words = "From the jobs, shared out to 2 days a week"
    bench.settle(whole=True)
    dict(bench.window.stages["air"].menu.days())[words]()
    session = bench.workspace.shop.air.session
    things = {thing.id: thing for thing in bench.workspace.shop.things}
    assert session.work and all(isinstance(things[one.thing or ""], Thing) for one in session.work)
    assert bench.workspace.undo_label == "Make the day from the jobs" or callable(bench.workspace.undo_label)
    assert put(bench.workspace.shop, session.work[0]) == bench.workspace.shop


def test_who_works_is_told_in_the_pane_and_counts(bench: Bench, planner: Planner) -> None:
    air = bench.window.stages["air"]
    air.day.panes.choose(5)
    QApplication.processEvents()
    pane = air.day.wear
    assert pane.table.rowCount() == len(bench.workspace.shop.air.session.work)
    assert pane.ticks["fit_tested"].isChecked() and pane.worn.value == "half"
    pane.ticks["beard"].click()
    bench.settle()
    assert bench.workspace.shop.air.wearer.beard
    told = [one for one in bench.window.reviews.latest.of("air") if one.rule == "respirator-worn"]
    assert "beard" in told[0].sentence
    choose(pane.worn, "hood")
    enter(field(bench, "Rating of the hearing protection (NRR; 0: none)"), "0")
    bench.settle()
    assert (
        bench.workspace.shop.air.wearer.respirator == "hood"
        and bench.workspace.shop.air.wearer.hearing == 0.0
    )
    for _ in range(3):
        bench.workspace.undo()
    assert not bench.workspace.shop.air.wearer.beard
