"""A new user's way through the window: by clicks, drags and keys, asserting on the document and on what is
shown.
"""

from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QPushButton

from purvel.catalogue import make_thing
from purvel.files import load
from purvel.review import Finding, Grade
from purvel.review.air.answers import AirAnswers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.place.answers import PlaceAnswers
from purvel.shop import Shop
from purvel.shop.edits import change_shop, put
from tests.app.conftest import Bench, choose, enter, field


def type_wall(bench: Bench, text: str) -> None:
    line = bench.window.stages["room"].wall_length.line
    line.setFocus()
    line.clear()
    QTest.keyClicks(line, text)
    QTest.keyClick(line, Qt.Key.Key_Return)
    QApplication.processEvents()


def room_of(bench: Bench) -> None:
    """5.8 x 6.1 m typed off the tape in four ways of writing."""
    for text in ("5.8 m", "610 cm", "5800 mm", "6.1m"):
        type_wall(bench, text)
    bench.settle()
    bench.window.plan.fit()


def test_the_walls_are_typed_as_read_and_the_loop_closes(bench: Bench) -> None:
    room_of(bench)
    assert [wall.length for wall in bench.workspace.shop.room.walls] == pytest.approx([5.8, 6.1, 5.8, 6.1])
    assert [wall.id for wall in bench.workspace.shop.room.walls] == ["A", "B", "C", "D"]
    (gap,) = [one for one in bench.window.reviews.latest.of("room") if one.rule == "closing-gap"]
    assert gap.grade == Grade.GOOD


def test_a_wall_that_cannot_be_read_says_so_and_changes_nothing(bench: Bench) -> None:
    type_wall(bench, "twelve")
    field = bench.window.stages["room"].wall_length
    assert bench.workspace.shop.room.walls == ()
    assert field.line.text() == "twelve" and field.refusal.isVisible()
    assert "not a length" in field.refusal.text()


def test_closing_the_loop_reckons_the_last_wall(bench: Bench) -> None:
    for text in ("5.8 m", "6.1 m", "5.8 m"):
        type_wall(bench, text)
    bench.window.stages["room"].close_loop()
    last = bench.workspace.shop.room.walls[-1]
    assert last.length == pytest.approx(6.1) and last.provenance == "paced"
    bench.workspace.undo()
    assert len(bench.workspace.shop.room.walls) == 3


def lay_out_the_room(bench: Bench) -> None:
    room_of(bench)
    room = bench.window.stages["room"]
    room.add_opening("roll-up")
    room.add_opening("swing")
    room.add_fixture("post")
    bench.settle()
    post = bench.workspace.shop.room.fixtures[0]
    bench.drag((post.x, post.y), (1.5, 4.6))
    moved = bench.workspace.shop.room.fixtures[0]
    assert (moved.x, moved.y) == pytest.approx((1.5, 4.6), abs=0.03)


def set_the_machines(bench: Bench) -> None:
    bench.stage("place")
    place = bench.window.stages["place"]
    for kind, where in (
        ("table-saw", (3.2, 2.6)),
        ("planer", (1.2, 3.4)),
        ("workbench", (4.6, 5.6)),
        ("collector", (0.9, 0.6)),
    ):
        place.place(kind)
        bench.settle()
        thing = bench.workspace.shop.things[-1]
        bench.drag((thing.x, thing.y), where)
        thing = bench.workspace.shop.things[-1]
        assert (thing.x, thing.y) == pytest.approx(where, abs=0.1)
    bench.settle()
    lanes = bench.window.reviews.latest.answers.of(PlaceAnswers).lanes
    assert set(lanes) == {"table-saw-1", "planer-1"}
    bench.workspace.pick("table-saw-1")
    assert lanes["table-saw-1"].longest_board > 0.5


def draw_the_ducts(bench: Bench) -> None:
    """A main and two drops with gates."""
    bench.stage("ducts")
    ducts = bench.window.stages["ducts"]
    shop = bench.workspace.shop
    collector, planer, saw = (shop.thing(name) for name in ("collector-1", "planer-1", "table-saw-1"))
    assert collector and planer and saw and collector.source
    inlet = collector.spot(collector.source.inlet_x, collector.source.inlet_y)
    choose(ducts.tool.size, 0.15)
    ducts.draw_button.setChecked(True)
    bench.click(*inlet)
    bench.click(2.2, inlet[1])
    bench.click(2.2, 4.5)
    bench.keys(Qt.Key.Key_Return)
    assert [run.name for run in bench.workspace.shop.ducts.runs] == ["Main"]
    main = bench.workspace.shop.ducts.runs[0]
    assert main.source == "collector-1" and len(main.points) >= 3
    choose(ducts.tool.size, 0.1)
    for machine in (planer, saw):
        port = machine.ports[0]
        bench.click(2.2, machine.spot(port.x, port.y)[1] - 0.4)
        bench.click(*machine.spot(port.x, port.y))
    ducts.draw_button.setChecked(False)
    runs = bench.workspace.shop.ducts.runs
    assert [run.port.thing if run.port else None for run in runs] == [None, "planer-1", "table-saw-1"]
    ducts.tool.add_gate(runs[1].id, 0.2)
    ducts.tool.add_gate(runs[2].id, 0.2)
    bench.settle()
    sets = bench.window.reviews.latest.answers.of(DuctAnswers).networks[0].sets
    assert [ducts.walk.name_of(one) for one in sets] == ["Thickness planer alone", "Table saw alone"]


def starve_the_planer(bench: Bench) -> Finding:
    """With both gates open it gets less than alone; what the finding says of it."""
    ducts = bench.window.stages["ducts"]
    sets = bench.window.reviews.latest.answers.of(DuctAnswers).networks[0].sets
    ducts.walk.choose(sets[0].id)
    ducts.walk.toggle(bench.workspace.shop.ducts.runs[2].gates[0].id, True)
    bench.settle()
    both = next(
        one
        for one in bench.window.reviews.latest.answers.of(DuctAnswers).networks[0].sets
        if len(one.open_gates) == 2
    )
    alone = next(
        one
        for one in bench.window.reviews.latest.answers.of(DuctAnswers).networks[0].sets
        if ducts.walk.name_of(one) == "Thickness planer alone"
    )
    assert both.hoods[0].flow < alone.hoods[0].flow
    starved = [
        one
        for one in bench.window.reviews.latest.of("ducts")
        if one.rule == "hood-flow" and one.about[0].startswith("planer")
    ]
    assert starved[0].grade <= Grade.MEND and ducts.walk.name_of(both) in starved[0].sentence
    return starved[0]


def mend_by_the_first_remedy(bench: Bench, starved: Finding) -> None:
    panel = bench.window.findings
    panel.reveal(starved)
    bench.bot.waitUntil(
        lambda: any("Open only" in b.accessibleName() for b in panel.findChildren(QPushButton)),
        timeout=20_000,
    )
    button = next(b for b in panel.findChildren(QPushButton) if "Open only" in b.accessibleName())
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    bench.settle()
    assert all(
        one.grade > Grade.STOP for one in bench.window.reviews.latest.of("ducts") if one.key == starved.key
    )


def work_a_day(bench: Bench) -> None:
    bench.stage("air")
    bench.window.stages["air"].add_work("planer")
    bench.settle()
    day = bench.window.reviews.latest.answers.of(AirAnswers).day
    assert day is not None and day.courses["central"].clear_after is not None
    assert "Breathed over 8 h" in bench.window.stages["air"].day.verdict.text().replace("\u00a0", " ")


def test_from_bare_walls_to_a_duct_that_feeds_the_planer(bench: Bench, tmp_path: Path) -> None:
    """Room with a post and a roll-up door, three machines, a collector with a main and two drops; the choice
    that starves the planer; mended; saved.
    """
    lay_out_the_room(bench)
    set_the_machines(bench)
    draw_the_ducts(bench)
    mend_by_the_first_remedy(bench, starve_the_planer(bench))
    work_a_day(bench)
    assert bench.window.keeper.save(tmp_path / "mine.purvel") == ""
    assert load(tmp_path / "mine.purvel").shop == bench.workspace.shop


def test_units_switch_at_any_time_and_the_document_stays(bench: Bench) -> None:
    bench.demo("garage", "place")
    bench.workspace.pick("planer")
    things = bench.workspace.shop.things
    assert "'" in bench.window.stages["place"].fields["length"].line.text()
    bench.window.plan.setFocus()
    bench.keys(Qt.Key.Key_U)
    bench.settle()
    assert bench.workspace.shop.units == "metric" and bench.workspace.shop.things == things
    assert bench.window.stages["place"].fields["length"].line.text() == "1829 mm"
    assert any("mm" in one.sentence for one in bench.window.reviews.latest.of("place"))


def test_a_field_goes_both_ways_and_refuses_bad_values(bench: Bench) -> None:
    bench.demo("spare-room", "place")
    field = bench.window.stages["place"].fields["length"]
    field.line.setFocus()
    field.line.selectAll()
    QTest.keyClicks(field.line, "2.1 m")
    QTest.keyClick(field.line, Qt.Key.Key_Return)
    assert bench.workspace.shop.stock.length == pytest.approx(2.1)
    bench.workspace.apply(lambda shop: change_shop(shop, stock=shop.stock), "nothing")
    bench.workspace.undo()
    assert field.line.text() == "1000 mm"
    field.line.selectAll()
    QTest.keyClicks(field.line, "900 m")
    QTest.keyClick(field.line, Qt.Key.Key_Return)
    assert bench.workspace.shop.stock.length == pytest.approx(1.0)
    assert field.refusal.isVisible() and field.line.text() == "900 m"


def test_opening_a_bad_file_changes_nothing(bench: Bench, tmp_path: Path) -> None:
    bench.demo("spare-room")
    before = bench.workspace.shop
    bad = tmp_path / "half.purvel"
    bad.write_bytes(b"PK\x03\x04 half of something")
    bench.window.filing.open_path(bad)
    assert bench.workspace.shop == before
    assert "not a whole shop file" in bench.window.notice.said.text()


def test_a_curve_of_ones_own_replaces_the_representative_one(bench: Bench) -> None:
    bench.demo("garage")
    bench.workspace.pick("collector")
    from PySide6.QtWidgets import QPlainTextEdit

    editor = bench.window.inspector.findChild(QPlainTextEdit)
    use = next(b for b in bench.window.inspector.findChildren(QPushButton) if b.text() == "Use these points")
    before = bench.workspace.shop
    for bad in ("", "100", "a b", "100 5\n50 3", "0 5\n100 9"):
        editor.setPlainText(bad)
        QTest.mouseClick(use, Qt.MouseButton.LeftButton)
        assert bench.workspace.shop == before, bad
    editor.setPlainText("0 12\n600 9\n1200 0")
    QTest.mouseClick(use, Qt.MouseButton.LeftButton)
    collector = bench.workspace.shop.thing("collector")
    assert collector is not None and collector.source is not None
    assert len(collector.source.curve) == 3 and collector.source.curve_from == "maker"
    assert collector.source.curve[1].pressure == pytest.approx(9 * 249.08891)


def test_two_figures_of_a_plate_make_a_curve_with_a_band(bench: Bench) -> None:
    bench.demo("garage")
    bench.workspace.pick("collector")
    bench.settle()
    before = bench.workspace.shop.thing("collector")
    assert before is not None and before.source is not None
    enter(field(bench, "Most flow, nothing in its way"), "900 cfm")
    enter(field(bench, "Most suction, nothing flowing"), "9")
    enter(field(bench, "Speed, of that of its curve"), "0.5")
    bench.settle()
    source = bench.workspace.shop.thing("collector").source  # type: ignore[union-attr]
    assert source is not None and (source.curve_from, source.speed) == ("plate", 0.5)
    assert source.curve[-1].flow == pytest.approx(900 * 0.3048**3 / 60, rel=1e-3)
    assert source.curve[0].pressure == pytest.approx(9 * 249.08891, rel=1e-3)
    told = next(one for one in bench.window.reviews.latest.of("ducts") if one.rule == "curve-plate")
    assert told.about == ("collector",) and told.grade == Grade.WATCH
    for _ in range(3):
        bench.workspace.undo()
    assert bench.workspace.shop.thing("collector") == before


def test_the_finder_finds_kinds_things_commands_and_findings(bench: Bench) -> None:
    bench.demo("garage")
    bench.window.find_anything()
    finder = bench.window.finder
    for words, part in (
        ("place lath", "Place lathe"),
        ("pick plan", "Pick Planer in Place"),
        ("pick wall c", "Pick wall C in Room"),
        ("pick post", "Pick Steel post in Room"),
        ("pick main duct", "Pick Main in Ducts"),
        ("save as", "Save as"),
        ("fold flat", "Stop: Main can fold flat"),
    ):
        finder.line.setText(words)
        assert any(part in name for name, _ in finder._found), words
    finder.line.setText("place lath")
    QTest.keyClick(finder.line, Qt.Key.Key_Return)
    assert bench.workspace.shop.things[-1].kind == "lathe" and not finder.isVisible()
    assert bench.window.stage.entry.key == "place"


def test_all_gates_cannot_be_shut_in_a_choice(bench: Bench) -> None:
    bench.demo("garage-mended", "ducts")
    walk = bench.window.stages["ducts"].walk
    walk.choose("Planer alone")
    walk.toggle("planer-gate", False)
    assert bench.workspace.shop.ducts.gate_sets == ()
    assert "nothing flows" in bench.window.notice.said.text()


def test_writing_sheets_from_the_window(
    bench: Bench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    bench.demo("garage-mended")
    for name, starts in (
        ("plan.svg", b"<?xml"),
        ("binder.pdf", b"%PDF"),
        ("parts.csv", b"run,part"),
        ("setout.csv", b"thing,corner"),
        ("plan.dxf", b"  0"),
    ):
        target = tmp_path / name
        monkeypatch.setattr(
            "purvel.app.filing.QFileDialog.getSaveFileName", lambda *_, t=target: (str(t), "")
        )
        bench.window.filing.write_dialog()
        assert target.read_bytes().startswith(starts), name
        assert target.stat().st_size > 300
    monkeypatch.setattr(
        "purvel.app.filing.QFileDialog.getSaveFileName", lambda *_: (str(tmp_path / "what.doc"), "")
    )
    bench.window.filing.print_binder()
    as_file = next(
        one for one in bench.window.notice.findChildren(QPushButton) if one.text() == "As a PDF file"
    )
    as_file.click()
    assert "no kind of sheet" in bench.window.notice.said.text()


def test_previewed_and_stale_reviews_never_win_over_the_latest(bench: Bench) -> None:
    for k in range(6):
        bench.workspace.apply(lambda shop, k=k: put(shop, make_thing("cabinet", f"c{k}", k, 0)), "Place")
    assert bench.window.reviews.is_stale
    bench.settle()
    assert bench.window.reviews.latest.shop is bench.workspace.shop
    assert isinstance(bench.workspace.shop, Shop) and bench.window.findChild(QComboBox) is not None
