"""The instruments agree with the review and with the plan: suction walk, curve, day, lane section."""

import pyqtgraph as pg
import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QCheckBox, QLineEdit, QPushButton

from purvel.app.widgets.fields import TextField
from purvel.catalogue import limits
from purvel.quantities import convert, format_number, units_for
from purvel.review.air.answers import AirAnswers
from purvel.review.ducts.answers import DuctAnswers
from purvel.shop import PartOpen
from purvel.shop.edits import change, change_session
from tests.app.conftest import Bench, enter, field


def test_the_suction_walk_adds_up_to_what_the_source_gives(bench: Bench) -> None:
    for demo in ("garage", "garage-mended", "spare-room-mended"):
        bench.demo(demo, "ducts")
        walk = bench.window.stages["ducts"].walk
        for one in walk.network.sets:
            walk.choose(one.id)
            for hood in one.hoods:
                bench.workspace.pick(hood.thing)
                total = sum(loss for _, loss in walk.walk.steps())
                # pieces under half a pascal are not shown
                assert total == pytest.approx(one.source_pressure, abs=4.0)


def test_the_walk_follows_what_is_picked_else_the_worst_hood(bench: Bench) -> None:
    bench.demo("garage", "ducts")
    walk = bench.window.stages["ducts"].walk
    walk.choose("set-all")
    assert walk.hood().thing == "planer"  # 220 of 400 cfm
    bench.workspace.pick("jointer")
    assert walk.hood().thing == "jointer" and walk.walk.steps()[0][0] == "hood of Jointer"
    bench.workspace.pick("saw-drop")
    assert walk.hood().thing == "table-saw"


def test_a_gate_is_opened_by_key_and_the_keyboard_stays_on_it(bench: Bench) -> None:
    bench.demo("garage", "ducts")
    walk = bench.window.stages["ducts"].walk
    walk.choose("alone/jointer/chute")
    QApplication.processEvents()

    def box() -> QCheckBox:
        return next(one for one in walk.choices.findChildren(QCheckBox) if one.text() == "Saw gate")

    for on in (True, False):
        box().setFocus()
        QTest.keyClick(box(), Qt.Key.Key_Space)
        bench.settle()
        assert box().hasFocus() and box().isChecked() == on == ("saw-gate" in walk.flow().open_gates)


def test_a_name_on_the_chart_stays_off_the_curve_and_inside(bench: Bench) -> None:
    bench.demo("garage", "ducts")
    walk = bench.window.stages["ducts"].walk
    chart = walk.chart
    for name in (
        "Jointer",
        "A jointer with a long name",
        "A jointer with a name so long that it fits nowhere",
    ):
        walk.choose("alone/jointer/chute")
        bench.workspace.apply(lambda shop, n=name: change(shop, "jointer", name=n), "Name")
        bench.settle()
        walk.choose("alone/jointer/chute")
        shown = [item for item in chart.plot.getPlotItem().items if isinstance(item, pg.TextItem)]
        (label,) = [item for item in shown if "clogged" not in item.toPlainText()]
        chosen = walk.flow()
        beside = (label.pos().x(), label.pos().y()) == pytest.approx(
            (
                convert(chosen.flow, units_for("imperial").flow),
                convert(chosen.source_pressure, units_for("imperial").pressure),
            )
        )
        assert beside == (len(name) < 20)
        if not beside:
            assert tuple(label.anchor) == (1.0, 0.0) and label.pos().y() == pytest.approx(
                chart.plot.viewRange()[1][1]
            )
            assert label.boundingRect().width() < chart.plot.getViewBox().width()


def test_a_gate_choice_is_named_and_two_names_are_not_one(bench: Bench) -> None:
    bench.demo("garage", "ducts")
    walk = bench.window.stages["ducts"].walk

    def field() -> TextField:
        return walk.choices.findChild(TextField)

    walk.choose("set-all")
    before = bench.workspace.shop
    for refused, words in (("  ", "one letter"), ("Planer alone", "taken"), ("x" * 201, "200")):
        enter(field(), refused)
        assert bench.workspace.shop is before and words in field().refusal.text()
    enter(field(), "Dust day")
    bench.settle()
    assert (
        walk.name_of(walk.flow()) == "Dust day"
        and [one.name for one in bench.workspace.shop.ducts.gate_sets].count("Dust day") == 1
    )


def test_opening_a_finding_shows_the_gate_choice_that_it_speaks_of(bench: Bench) -> None:
    bench.demo("garage", "ducts")
    walk = bench.window.stages["ducts"].walk
    for finding in bench.window.reviews.latest.of("ducts"):
        if finding.rule in ("chips-move", "hood-flow"):
            bench.window.findings.reveal(finding)
            assert (
                walk.flow().id == finding.where.gate_set
                and f"“{walk.name_of(walk.flow())}”" in finding.sentence + finding.why
            )
    walk.choose("alone/jointer/chute")
    walk.toggle("saw-gate", True)
    bench.settle()
    assert "saw-gate" in walk.flow().open_gates  # the open card does not take the choice back


def test_the_curve_shows_every_choice_and_marks_the_chosen_one(bench: Bench) -> None:
    bench.demo("garage", "ducts")
    walk = bench.window.stages["ducts"].walk
    walk.choose("alone/planer/hood")
    units = units_for("imperial")
    items = {item.name(): item for item in walk.chart.plot.listDataItems()}
    clogged = bench.window.reviews.answers().of(DuctAnswers).at_filter(walk.network, "clogged")
    loaded = sorted(items["clogged"].xData)
    assert loaded == pytest.approx(sorted(convert(one.flow, units.flow) for one in clogged.sets))
    shown = sorted([*items["choices"].xData, *items["chosen"].xData])
    assert shown == pytest.approx(sorted(convert(one.flow, units.flow) for one in walk.network.sets))
    (chosen,) = items["chosen"].xData
    assert chosen == pytest.approx(convert(walk.flow().flow, units.flow))
    assert items["chosen"].opts["symbolSize"] > items["choices"].opts["symbolSize"]
    assert max(items["most"].xData) > max(items["curve"].xData) > max(items["least"].xData)


def test_gates_in_the_list_make_a_choice_of_ones_own_which_can_be_named_and_forgotten(bench: Bench) -> None:
    bench.demo("garage-mended", "ducts")
    walk = bench.window.stages["ducts"].walk
    walk.choose("alone/planer/hood")
    boxes = {box.text(): box for box in walk.choices.findChildren(QCheckBox)}
    boxes["Saw gate"].click()
    bench.settle()
    (own,) = bench.workspace.shop.ducts.gate_sets
    assert set(own.open) == {"planer-gate", "saw-gate"} and bench.window.view.now.gate_set == own.id
    name = next(
        line
        for line in walk.choices.findChildren(QLineEdit)
        if line.accessibleName() == "Name of this gate choice"
    )
    name.setFocus()
    name.selectAll()
    QTest.keyClicks(name, "Two at once")
    QTest.keyClick(name, Qt.Key.Key_Return)
    bench.settle()
    assert bench.workspace.shop.ducts.gate_sets[0].name == "Two at once"
    assert any("Two at once" in one.sentence for one in bench.window.reviews.latest.of("ducts"))
    next(b for b in walk.choices.findChildren(QPushButton) if b.text() == "Forget this choice").click()
    assert bench.workspace.shop.ducts.gate_sets == ()


def test_a_gate_is_drawn_out_in_part_and_all_the_way_again(bench: Bench) -> None:
    bench.demo("garage-mended", "ducts")
    walk = bench.window.stages["ducts"].walk
    walk.choose("alone/planer/hood")
    bench.settle()
    before = walk.flow()
    enter(field(bench, "How far Planer gate is open"), "50 %")
    bench.settle()
    (own,) = bench.workspace.shop.ducts.gate_sets
    assert own.part == (PartOpen(gate="planer-gate", share=0.5),) and own.open == ("planer-gate",)
    half = walk.flow()
    assert half.part_open == (("planer-gate", 0.5),)
    gets = {hood.thing: hood.flow for hood in half.hoods}
    assert gets["planer"] < max(hood.flow for hood in before.hoods if hood.thing == "planer")
    assert any(word.endswith("gate in part") for word, _ in walk.walk.steps())
    enter(field(bench, "How far Planer gate is open"), "100")
    bench.settle()
    assert bench.workspace.shop.ducts.gate_sets[0].part == ()
    enter(field(bench, "How far Planer gate is open"), "120")
    assert bench.workspace.shop.ducts.gate_sets[0].part == ()  # refused
    bench.workspace.undo()
    assert bench.workspace.shop.ducts.gate_sets[0].part[0].share == 0.5


def test_in_a_narrow_place_the_panes_take_turns(bench: Bench) -> None:
    bench.demo("garage", "ducts")
    ducts = bench.window.stages["ducts"].walk
    gates, walk, curve, _, table, *_ = (pane.widget for pane in ducts.panes.panes)

    def seen() -> list[bool]:
        QApplication.processEvents()
        assert ducts.panes.chooser.isVisible() and not table.isVisible()
        return [gates.isVisible(), walk.isVisible(), curve.isVisible()]

    assert seen() == [True, True, True]
    bench.window.theme.set_text(24)
    assert seen() == [True, True, False]
    ducts.panes.buttons[2].click()
    assert seen() == [True, False, True]
    bench.window.resize(1024, 700)
    assert seen() == [False, False, True]
    ducts.panes.buttons[0].click()
    assert seen() == [True, False, False]
    assert gates.width() <= ducts.width()
    bench.window.theme.set_text(15)
    bench.window.resize(1280, 800)
    assert seen() == [True, True, True]
    ducts.panes.buttons[4].click()
    QApplication.processEvents()
    assert table.isVisible() and not curve.isVisible()


def test_the_chart_of_the_day_keeps_room_for_itself_at_large_text(bench: Bench) -> None:
    bench.demo("garage")
    bench.window.theme.set_text(24)
    bench.stage("air")
    day = bench.window.stages["air"].day
    bench.settle()
    QApplication.processEvents()
    assert day.plot.isVisible() and day.plot.height() > 100 and "of the limit" in day.verdict.text()


def test_the_day_says_what_the_finding_says_and_draws_what_was_simulated(bench: Bench) -> None:
    bench.demo("garage", "air")
    day = bench.window.stages["air"].day
    answers = bench.window.reviews.latest.answers
    (exposure,) = [one for one in bench.window.reviews.latest.of("air") if one.rule == "exposure"]
    average = format_number(answers.of(AirAnswers).day.courses["central"].personal_8h)
    assert average in day.verdict.text() and average in exposure.sentence
    share = f"{answers.of(AirAnswers).day.courses['central'].personal_8h / limits()[bench.workspace.shop.air.limit].value:.0%}"
    assert share in day.verdict.text() and share in exposure.sentence
    course = answers.of(AirAnswers).day.courses["central"]
    total = max(day.plot.listDataItems(), key=lambda item: float(item.yData.max()))
    assert float(total.yData.max()) == pytest.approx(course.peak, rel=1e-6)
    bench.workspace.apply(lambda shop: change_session(shop, work=()), "No work")
    bench.settle()
    assert "once there is work" in day.verdict.text() and not day.key.isVisible() and not day.plot.isVisible()


def test_the_limit_is_named_where_it_covers_least_of_the_course(bench: Bench) -> None:
    # the first is high at its end, the second is long clean by then
    for demo, is_right in (("garage", False), ("garage-mended", True)):
        bench.demo(demo, "air")
        label = limit_label(bench)
        assert (label.pos().x() > 100) == is_right, demo


def limit_label(bench: Bench) -> pg.TextItem:
    (label,) = [
        item
        for item in bench.window.stages["air"].day.plot.getPlotItem().items
        if isinstance(item, pg.TextItem) and "limit" in item.toPlainText()
    ]
    return label


def test_the_limit_is_named_whole_in_a_low_chart(bench: Bench) -> None:
    bench.window.theme.set_text(24)
    bench.window.resize(1024, 700)
    bench.demo("garage-mended", "air")
    bench.window.refresh()
    QApplication.processEvents()
    label, chart = limit_label(bench), bench.window.stages["air"].day.plot.getViewBox()
    words = label.mapRectToScene(label.boundingRect())
    assert chart.mapRectToScene(chart.rect()).adjusted(-1, -1, 1, 1).contains(words)


def test_work_is_added_from_the_menu_and_picked(bench: Bench) -> None:
    bench.demo("spare-room-mended", "air")
    before = len(bench.workspace.shop.air.session.work)
    bench.window.stages["air"].add_work("belt-sander")
    intervals = bench.workspace.shop.air.session.work
    assert (
        len(intervals) == before + 1
        and intervals[-1].operation == "belt-sander"
        and bench.workspace.picked == intervals[-1].id
    )
    assert bench.workspace.shop.air.session.minutes >= intervals[-1].start + intervals[-1].minutes
    bench.settle()


def test_switches_of_the_session(bench: Bench) -> None:
    bench.demo("spare-room-mended", "air")
    air = bench.window.stages["air"]

    def average() -> float:
        bench.settle()
        return bench.window.reviews.latest.answers.of(AirAnswers).day.courses["central"].personal_8h

    with_cleaner = average()
    air.cleaner.click()
    without = average()
    air.doors.click()
    with_doors = average()
    assert with_cleaner < without and with_doors < without
    air.limit.setCurrentIndex(3)
    air.limit.activated.emit(3)
    assert bench.workspace.shop.air.limit == "uk-softwood-2020"
    for _ in range(3):
        bench.workspace.undo()
    assert average() == pytest.approx(with_cleaner)
    assert air.cleaner.isChecked() and not air.doors.isChecked()


def test_the_lane_section_shows_the_worst_machine_until_one_is_picked(bench: Bench) -> None:
    bench.demo("garage", "place")
    section = bench.window.stages["place"].section
    picture = section.grab().toImage()
    bench.workspace.pick("table-saw")
    assert section.grab().toImage() == picture
    bench.workspace.pick("planer")
    assert section.grab().toImage() != picture
