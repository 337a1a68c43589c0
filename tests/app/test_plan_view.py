"""The plan under mouse, wheel and keys; what the header and the finder do."""

from dataclasses import replace

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QScrollArea

from purvel.app.plan.sheet import Sheet
from purvel.app.widgets.cards import FindingCard
from purvel.catalogue import make_thing
from purvel.review import Figures, Grade, Where
from purvel.review.finding import HURTS
from purvel.review.place.answers import PlaceAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.review.stages import ORDER
from purvel.shop import Room, Shop, Wall
from purvel.shop.edits import move_thing, put
from tests.app.conftest import Bench
from tests.conftest import box_room


def wheel(bench: Bench, at: QPoint, turn: int) -> None:
    plan = bench.window.plan
    nothing = Qt.MouseButton.NoButton
    event = QWheelEvent(
        QPointF(at),
        QPointF(plan.mapToGlobal(at)),
        QPoint(),
        QPoint(0, turn),
        nothing,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(plan, event)


def test_the_wheel_zooms_about_the_pointer(bench: Bench) -> None:
    bench.demo("garage")
    plan = bench.window.plan
    spot = QPoint(300, 150)
    there, scale = plan.to_plan(QPointF(spot)), plan.scale
    wheel(bench, spot, 240)
    assert plan.scale > scale * 1.2
    assert plan.to_plan(QPointF(spot)) == pytest.approx(there, abs=1e-6)
    for _ in range(60):
        wheel(bench, spot, 240)
    assert 2500.0 < plan.scale <= 3000.0
    for _ in range(120):
        wheel(bench, spot, -240)
    assert plan.scale >= 10.0


def test_keys_zoom_pan_fit_and_look_at_what_is_picked(bench: Bench) -> None:
    bench.demo("garage", "place")
    plan = bench.window.plan
    plan.setFocus()
    fitted, origin = plan.scale, QPointF(plan.origin)
    bench.keys("+")
    assert plan.scale == pytest.approx(1.25 * fitted)
    bench.keys("-")
    assert plan.scale == pytest.approx(fitted)
    QTest.keyClick(plan, Qt.Key.Key_Left, Qt.KeyboardModifier.ControlModifier)
    assert plan.origin.x() == pytest.approx(origin.x() + 60.0, abs=1.0)
    bench.workspace.pick("planer")
    bench.keys(Qt.Key.Key_Z)
    planer = bench.workspace.shop.thing("planer")
    assert planer is not None and plan.scale > fitted
    x, y = plan.to_plan(QPointF(plan.width() / 2, plan.height() / 2))
    assert (x, y) == pytest.approx((planer.x, planer.y), abs=0.01)
    bench.keys(Qt.Key.Key_F)
    assert plan.scale == pytest.approx(fitted) and plan.origin == origin


def test_a_view_of_ones_own_stays_when_the_window_changes_and_a_fitted_one_follows(bench: Bench) -> None:
    bench.demo("garage")
    plan = bench.window.plan
    before = plan.scale
    bench.window.resize(1400, 900)
    QApplication.processEvents()
    assert plan.scale > before
    wheel(bench, QPoint(200, 200), 240)
    own = plan.scale
    bench.window.resize(1280, 800)
    bench.window.show_stage("air")
    QApplication.processEvents()
    assert plan.scale == own


def test_the_middle_button_drags_the_paper_and_moves_nothing(bench: Bench) -> None:
    bench.demo("garage", "place")
    plan, before = bench.window.plan, bench.workspace.shop
    origin = QPointF(plan.origin)
    start = bench.at(3.0, 3.0)
    QTest.mousePress(plan, Qt.MouseButton.MiddleButton, Qt.KeyboardModifier.NoModifier, start)
    QTest.mouseMove(plan, start + QPoint(40, 25))
    QApplication.processEvents()
    QTest.mouseRelease(
        plan, Qt.MouseButton.MiddleButton, Qt.KeyboardModifier.NoModifier, start + QPoint(40, 25)
    )
    assert plan.origin - origin == QPointF(40, 25) and bench.workspace.shop == before


def test_a_click_picks_the_topmost_and_a_click_beside_picks_nothing(bench: Bench) -> None:
    bench.demo("spare-room", "place")
    top = next(one for one in bench.workspace.shop.things if one.z > 0.3)
    bench.click(top.x, top.y)
    assert bench.workspace.picked == top.id
    bench.click(-0.4, -0.4)
    assert bench.workspace.picked is None


def test_openings_slide_along_walls_and_never_past_their_ends(bench: Bench) -> None:
    bench.demo("garage", "room")
    window = next(one for one in bench.workspace.shop.room.openings if one.kind == "window")
    side = bench.window.reviews.answers().of(RoomAnswers).sides[window.wall]
    middle = side.at(window.offset + window.width / 2, 0.03)
    far = side.at(side.length + 2.0, 0.03)
    bench.drag(middle, far)
    moved = next(one for one in bench.workspace.shop.room.openings if one.id == window.id)
    assert moved.offset + moved.width <= side.length + 0.01 and moved.offset != window.offset
    bench.workspace.undo()
    assert next(one for one in bench.workspace.shop.room.openings if one.id == window.id) == window


def test_the_count_in_the_header_leads_to_the_worst_finding(bench: Bench) -> None:
    bench.demo("garage")
    assert bench.window.header.mend.text() == f"{bench.window.reviews.latest.to_mend()} to mend"
    bench.window.show_stage("air")
    bench.window.header.mend.click()
    QTest.keyClick(bench.window.finder.line, Qt.Key.Key_Return)
    opened = bench.window.findings.opened
    assert opened is not None and opened.grade == Grade.STOP and opened.rule in HURTS
    assert bench.window.stage.entry.key == opened.stage
    for number, button in enumerate(bench.window.rail.buttons):
        stage = ORDER[number]
        bad = sum(one.grade <= Grade.MEND for one in bench.window.reviews.latest.of(stage))
        assert (f"({bad})" in button.text()) == (bad > 0)


def test_findings_open_and_close_and_point_at_the_plan(bench: Bench) -> None:
    bench.demo("garage", "place")
    panel = bench.window.findings
    finding = next(one for one in bench.window.reviews.latest.of("place") if one.rule == "panel-space")
    panel._toggle(finding)
    assert bench.workspace.picked == "workbench" and panel.opened == finding
    assert bench.window.plan._where == finding.where
    panel._toggle(finding)
    assert panel.opened is None and bench.window.plan._where == Where()
    aisle = next(one for one in bench.window.reviews.latest.of("place") if one.rule == "aisle")
    before = bench.window.plan.grab().toImage()
    panel.reveal(aisle)
    assert aisle.where.point is not None
    spot = bench.window.plan.to_window(*aisle.where.point).toPoint() + QPoint(16, 0)
    assert bench.window.plan.grab().toImage().pixelColor(spot) != before.pixelColor(spot)


@pytest.mark.parametrize("demo", ["garage", "garage-mended"])
def test_plan_section_and_finding_say_one_figure(
    bench: Bench, demo: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    said: list[str] = []
    monkeypatch.setattr(Sheet, "label", lambda self, word: said.extend(word.texts))
    bench.demo(demo, "place")
    say = Figures("imperial")
    for name, one in bench.window.reviews.latest.answers.of(PlaceAnswers).lanes.items():
        said.clear()
        bench.workspace.pick(name)
        bench.window.plan.grab()
        figure, into = say.length(one.longest_board), say.length(one.into.length)
        assert f"longest board {figure}" in said and f"in {into}" in said
        finding = next(
            card
            for card in bench.window.reviews.latest.of("place")
            if card.rule == "lane" and card.about == (name,)
        )
        assert figure in finding.sentence + finding.why
        assert bench.window.stages["place"].section._stop_words(one)[0].startswith(f"in {into}, ")


def test_walls_are_mitred_and_stay_out_of_the_room(bench: Bench) -> None:
    turns = {
        "A": (6.0, 90.0),
        "B": (4.0, 90.0),
        "C": (2.0, -90.0),
        "D": (2.0, 90.0),
        "E": (4.0, 90.0),
        "F": (6.0, 90.0),
    }
    walls = tuple(Wall(id=name, length=length, turn=turn) for name, (length, turn) in turns.items())
    bench.workspace.open(Shop(units="metric", room=Room(walls=walls)))
    bench.stage("room")
    picture = bench.window.plan.grab().toImage()

    def colour(x: float, y: float) -> str:
        return picture.pixelColor(bench.at(x, y)).name()

    floor = colour(1.0, 1.0)
    wall = colour(3.0, -0.05)
    assert floor != wall
    for x, y in ((3.93, 4.05), (4.05, 3.93), (3.9, 3.9)):  # in the room, by the corner that points into it
        assert colour(x, y) == floor, (x, y)
    for x, y in ((4.08, 4.03), (6.08, -0.03), (-0.03, 6.08), (6.08, 4.03)):
        assert colour(x, y) == wall, (x, y)


def test_escape_lets_go_and_delete_takes_away_with_undo(bench: Bench) -> None:
    bench.demo("garage", "room")
    bench.workspace.pick("post")
    bench.window.plan.setFocus()
    bench.keys(Qt.Key.Key_Delete)
    assert all(one.id != "post" for one in bench.workspace.shop.room.fixtures)
    QTest.keyClick(bench.window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert any(one.id == "post" for one in bench.workspace.shop.room.fixtures)
    bench.workspace.pick("post")
    bench.keys(Qt.Key.Key_Escape)
    assert bench.workspace.picked is None


def test_posts_and_openings_are_nudged_by_key(bench: Bench) -> None:
    bench.demo("garage", "room")
    bench.window.plan.setFocus()
    post = next(one for one in bench.workspace.shop.room.fixtures if one.id == "post")
    bench.workspace.pick("post")
    bench.keys(Qt.Key.Key_Up, Qt.Key.Key_Up)
    now = next(one for one in bench.workspace.shop.room.fixtures if one.id == "post")
    assert now.y - post.y == pytest.approx(0.0254, abs=0.007)
    bench.workspace.undo()
    assert next(one for one in bench.workspace.shop.room.fixtures if one.id == "post") == post
    door = next(one for one in bench.workspace.shop.room.openings if one.id == "car-door")
    bench.workspace.pick("car-door")
    bench.keys(Qt.Key.Key_Right, shift=True)
    moved = next(one for one in bench.workspace.shop.room.openings if one.id == "car-door")
    assert moved.offset - door.offset == pytest.approx(0.127, abs=0.007)


def test_moves_that_come_late_find_a_card_that_has_changed_meanwhile(bench: Bench) -> None:
    bench.demo("garage", "place")
    panel = bench.window.findings
    places = bench.window.reviews.latest.of("place")
    bad, good = places[0], places[-1]
    panel.reveal(bad)
    panel.reveal(good)
    assert good.grade == Grade.GOOD
    bench.window.reviews.tried.emit((bad.key, (), True, ""))
    bench.window.reviews.tried.emit((good.key, (), True, ""))
    bench.settle()
    assert panel.opened == good


def test_a_collector_shows_where_its_inlet_faces(bench: Bench) -> None:
    collector = make_thing("collector", "collector", 3.0, 2.5)
    assert collector.source is not None
    bench.workspace.open(Shop(room=box_room(6, 5), things=(collector,)))
    bench.stage("place")
    before = bench.window.plan.grab().toImage()
    x, y = collector.spot(collector.source.inlet_x, collector.source.inlet_y)
    spot = bench.at(x + 0.04, y)
    paper = bench.at(x + 0.3, y + 0.3)
    assert before.pixelColor(spot) != before.pixelColor(paper)
    turned = replace(collector, source=replace(collector.source, inlet_direction=180.0))
    bench.workspace.apply(lambda shop: put(shop, turned), "Turn the inlet")
    assert bench.window.plan.grab().toImage().pixelColor(spot) == before.pixelColor(paper)


@pytest.mark.parametrize("row", [0, 5, -1])
def test_an_opened_finding_stays_in_sight(bench: Bench, row: int) -> None:
    bench.demo("garage", "place")
    panel = bench.window.findings
    area = next(one for one in bench.window.findChildren(QScrollArea) if one.widget() is panel)
    key = bench.window.reviews.latest.of("place")[row].key

    def card() -> FindingCard:
        return next(one for one in panel.findChildren(FindingCard) if one.finding.key == key)

    area.ensureWidgetVisible(card())
    card().sentence.setFocus()
    QTest.mouseClick(card().sentence, Qt.MouseButton.LeftButton)
    bench.bot.waitUntil(lambda: not panel.is_waiting, timeout=20_000)
    for _ in range(3):
        QApplication.processEvents()
    top = card().mapTo(area.viewport(), QPoint(0, 0)).y()
    assert card().details is not None and card().sentence.hasFocus()
    assert 0 <= top < area.viewport().height() - card().sentence.height()
    assert top + card().height() <= area.viewport().height() or top < 20


def test_a_card_opens_wherever_its_head_is_clicked(bench: Bench) -> None:
    bench.demo("garage", "place")
    panel = bench.window.findings
    first = panel.findChildren(FindingCard)[0]
    QTest.mouseClick(
        first, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, QPoint(first.width() - 20, 12)
    )
    assert bench.window.view.now.open_finding == first.finding.key
    bench.bot.waitUntil(lambda: not panel.is_waiting, timeout=20_000)
    card = panel.findChildren(FindingCard)[0]
    # reading on does not shut it
    QTest.mouseClick(
        card, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, QPoint(4, card.height() - 4)
    )
    assert bench.window.view.now.open_finding == first.finding.key


def test_the_list_of_findings_stays_where_it_was_scrolled_to(bench: Bench) -> None:
    bench.demo("garage", "place")
    bar = bench.window.findings.area.verticalScrollBar()
    bench.window.findings.reveal(bench.window.reviews.latest.of("place")[0])
    bench.bot.waitUntil(lambda: not bench.window.findings.is_waiting, timeout=20_000)
    QApplication.processEvents()
    bar.setValue(300)
    bench.workspace.apply(lambda shop: move_thing(shop, "jointer", 4.0, 5.9), "Move")
    bench.settle()
    QApplication.processEvents()
    assert bar.value() == 300
    bench.stage("ducts")
    assert bar.value() == 0
