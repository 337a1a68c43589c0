"""Editing where the thing is: corners in and out, what goes with what is taken away, what is set down."""

from dataclasses import replace

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QCheckBox

from purvel.app.plan.sheet import Sheet
from purvel.app.widgets.fields import ChoiceField
from purvel.catalogue import make_thing
from purvel.files import Document
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Fixture, Shop
from purvel.shop.edits import change_ducts, change_room, put
from purvel.space.clearances import overlaps, panel_space
from tests.app.conftest import Bench, choose, enter, field
from tests.conftest import block, box_room


def choice(bench: Bench, name: str) -> ChoiceField:
    return next(
        one for one in bench.window.inspector.findChildren(ChoiceField) if one.accessibleName() == name
    )


def tick(bench: Bench, words: str) -> QCheckBox:
    return next(one for one in bench.window.inspector.findChildren(QCheckBox) if one.text() == words)


def double_click(bench: Bench, x: float, y: float) -> None:
    QTest.mouseDClick(
        bench.window.plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, bench.at(x, y)
    )
    QApplication.processEvents()


def point(bench: Bench, x: float, y: float) -> None:
    QTest.mouseMove(bench.window.plan, bench.at(x, y))
    QApplication.processEvents()


def test_a_corner_goes_into_a_run_and_out_again(bench: Bench) -> None:
    """The main of the mended garage rises at (4.5, 0.38) and runs to (4.5, 5.4)."""
    bench.demo("garage-mended", "ducts")

    def main() -> list[tuple[float, float, float]]:
        run = next(run for run in bench.workspace.shop.ducts.runs if run.id == "main")
        return [(p.x, p.y, p.z) for p in run.points]

    before = main()
    double_click(bench, 4.5, 1.6)
    assert bench.workspace.picked == "main" and len(main()) == len(before) + 1
    new = main()[2]
    assert new == pytest.approx((4.5, 1.6, 2.35), abs=0.05) and main()[3] == before[2]
    point(bench, 4.5, 1.6)
    bench.keys(Qt.Key.Key_Delete)
    assert main() == before and any(run.id == "main" for run in bench.workspace.shop.ducts.runs)
    point(bench, 4.5, 1.2)
    bench.keys(Qt.Key.Key_Insert)
    assert len(main()) == len(before) + 1
    bench.workspace.undo()
    assert main() == before


def test_a_wall_is_split_where_it_is_clicked_twice(bench: Bench) -> None:
    bench.window.keeper.open(Document(Shop(units="metric", room=box_room())), None)
    bench.stage("room")
    double_click(bench, 2.0, 0.0)
    lengths = [(wall.length, wall.turn) for wall in bench.workspace.shop.room.walls]
    assert lengths[0] == (pytest.approx(2.0, abs=0.05), 0.0) and lengths[1][0] == pytest.approx(4.0, abs=0.05)
    assert len(lengths) == 5
    before = bench.workspace.shop
    double_click(bench, 3.0, 2.5)  # on the floor
    assert bench.workspace.shop is before


def test_taking_away_what_carries_others_says_what_goes_with_it(bench: Bench) -> None:
    bench.demo("garage-mended", "ducts")
    bench.workspace.pick("collector")
    bench.window.plan.pointer = None
    bench.keys(Qt.Key.Key_Delete)
    said = bench.window.notice.said.text().replace("\u00a0", " ")
    assert (
        said.startswith("Collector went, left without it: 1 run") and "Ctrl+Z brings all of it back" in said
    )
    bench.workspace.undo()
    bench.workspace.pick("planer-branch")
    bench.keys(Qt.Key.Key_Delete)
    said = bench.window.notice.said.text().replace("\u00a0", " ")
    assert "Planer branch went, with it 1 run and 1 gate" in said
    bench.workspace.undo()
    assert any(thing.id == "collector" for thing in bench.workspace.shop.things)
    bench.workspace.pick("outfeed-table")
    bench.workspace.said.emit("")
    bench.keys(Qt.Key.Key_Delete)
    assert "went" not in bench.window.notice.said.text()


def test_what_is_drawn_from_a_vac_is_hose(bench: Bench) -> None:
    vac, sander = make_thing("vac", "vac", 2.0, 2.0), make_thing("hand-sander", "sander", 4.0, 2.0)
    bench.window.keeper.open(Document(Shop(units="metric", room=box_room(), things=(vac, sander))), None)
    bench.stage("ducts")
    bench.window.stage.draw_button.click()
    assert vac.source is not None
    bench.click(*vac.spot(vac.source.inlet_x, vac.source.inlet_y))
    bench.click(*sander.spot(sander.ports[0].x, sander.ports[0].y))
    (run,) = bench.workspace.shop.ducts.runs
    assert run.material == "vac-hose" and run.diameter == pytest.approx(0.063)


def test_a_choice_of_gates_goes_by_the_gates_that_it_opens(bench: Bench) -> None:
    bench.demo("garage-mended", "ducts")
    stage = bench.window.stage
    network = stage.answers().of(DuctAnswers).networks[0]
    alone = next(one for one in network.sets if one.id.startswith("alone/"))
    stage.walk.choices.toggle(alone, "saw-gate", alone.open_gates != ("saw-gate",))
    bench.settle()
    own = next(one for one in bench.workspace.shop.ducts.gate_sets if one.id.startswith("set-"))
    named = stage.answers().of(DuctAnswers).choice_name(own.id)
    gates = {gate.id: gate.name for run in bench.workspace.shop.ducts.runs for gate in run.gates}
    assert own.name == "" and named == " + ".join(gates[gate] for gate in own.open)
    bench.workspace.apply(lambda shop: put(shop, replace(own, open=("planer-gate",))), "Other gates")
    assert stage.answers().of(DuctAnswers).choice_name(own.id).startswith("Planer gate")


@pytest.mark.parametrize(("units", "step"), [("metric", 0.005), ("imperial", 0.00635)])
def test_sizes_are_even_when_a_thing_is_set_down(bench: Bench, units: str, step: float) -> None:
    shop = replace(Shop(room=box_room()), units=units)  # type: ignore[arg-type]
    bench.window.keeper.open(Document(shop), None)
    bench.stage("place")
    for kind in ("table-saw", "outfeed-table", "bandsaw"):
        bench.window.stage.place(kind)
    for thing in bench.workspace.shop.things:
        for size in (thing.width, thing.depth, thing.height):
            assert size / step == pytest.approx(round(size / step), abs=1e-6)
    assert overlaps(bench.workspace.shop.things, ()) == []


def test_what_is_set_down_never_stands_in_something(bench: Bench) -> None:
    full = block("full", 1.5, 1.5, 2.9, 2.9, 1.0)
    bench.window.keeper.open(Document(Shop(units="metric", room=box_room(3, 3), things=(full,))), None)
    bench.stage("place")
    bench.window.stage.place("workbench")
    made = bench.workspace.shop.things[-1]
    assert overlaps(bench.workspace.shop.things, ()) == [] and made.x < 0
    assert "no free floor" in bench.window.notice.said.text().replace("\u00a0", " ")
    bench.stage("room")
    bench.window.stage.add_fixture("freezer")
    assert overlaps(bench.workspace.shop.things, bench.workspace.shop.room.fixtures) == []


@pytest.mark.parametrize(
    ("x", "y", "angle", "at"),
    [
        (0.3, 2.5, 90.0, (0.05, 2.5)),
        (5.8, 2.5, 270.0, (5.95, 2.5)),
        (3.0, 4.8, 0.0, (3.0, 4.95)),
        (3.0, 0.2, 180.0, (3.0, 0.05)),
    ],
)
def test_a_panel_dropped_on_a_wall_turns_to_it(
    bench: Bench, x: float, y: float, angle: float, at: tuple[float, float]
) -> None:
    panel = Fixture(
        id="p", kind="panel", stands="wall", x=3.0, y=2.5, width=0.4, depth=0.1, bottom=1.2, top=1.9
    )
    bench.window.keeper.open(Document(Shop(units="metric", room=box_room(fixtures=(panel,)))), None)
    bench.stage("room")
    bench.drag((3.0, 2.5), (x, y))
    moved = bench.workspace.shop.room.fixtures[0]
    assert moved.angle == pytest.approx(angle) and (moved.x, moved.y) == pytest.approx(at, abs=0.06)
    shell = bench.window.reviews.answers().of(RoomAnswers).shell
    assert panel_space(moved, shell).within(shell.floor.buffer(1e-6))


def test_nothing_picked_nothing_shown(bench: Bench) -> None:
    bench.demo("garage", "place")
    bench.workspace.pick(None)
    assert not bench.window.picked_panel.isVisible()
    bench.workspace.pick("table-saw")
    assert bench.window.picked_panel.isVisible()
    bench.keys(Qt.Key.Key_Escape)
    assert not bench.window.picked_panel.isVisible()


def test_the_units_in_use_stand_on_the_button(bench: Bench) -> None:
    bench.demo("garage")
    assert bench.window.header.units_button.text() == "Feet-inches"
    bench.window.header.units_button.click()
    assert bench.workspace.shop.units == "metric" and bench.window.header.units_button.text() == "Millimetres"


def test_a_vac_goes_through_a_separator(bench: Bench) -> None:
    bench.demo("spare-room", "place")
    bench.workspace.pick("vac")
    tick(bench, "Goes through a separator").click()
    source = bench.workspace.shop.thing("vac").source  # type: ignore[union-attr]
    assert source is not None and source.separator is not None and source.separator.kind == "bucket"
    choose(choice(bench, "Kind of separator"), "cyclone")
    enter(field(bench, "Loss, on the velocity pressure in its inlet"), "5")
    source = bench.workspace.shop.thing("vac").source  # type: ignore[union-attr]
    assert source is not None and source.separator is not None
    assert (source.separator.kind, source.separator.loss) == ("cyclone", 5.0)
    tick(bench, "Goes through a separator").click()
    assert bench.workspace.shop.thing("vac").source.separator is None  # type: ignore[union-attr]


def test_board_cutter_and_standing_room_have_fields(bench: Bench) -> None:
    bench.demo("spare-room", "place")
    bench.workspace.pick("router-table")
    tick(bench, "Works boards of its own size").click()
    QApplication.processEvents()
    enter(field(bench, "Board"), "600")
    enter(field(bench, "Cutter right of middle"), "100")
    enter(field(bench, "You need, wide"), "800")
    thing = bench.workspace.shop.thing("router-table")
    assert (
        thing is not None and thing.stock is not None and thing.feed is not None and thing.stand is not None
    )
    assert (thing.stock.length, thing.feed.x, thing.stand.width) == pytest.approx((0.6, 0.1, 0.8))
    choose(choice(bench, "How the board lies"), "across")
    assert bench.workspace.shop.thing("router-table").feed.how == "across"  # type: ignore[union-attr]
    choose(choice(bench, "Which way port box points"), "left")
    enter(field(bench, "Flow that clears the chips"), "300 m³/h")
    port = bench.workspace.shop.thing("router-table").ports[0]  # type: ignore[union-attr]
    assert port.faces == "left" and port.needs_from == "own"


def test_leaks_the_rooms_air_and_where_a_door_leads_have_fields(bench: Bench) -> None:
    bench.demo("spare-room-mended", "ducts")
    enter(field(bench, "Gap round a shut gate"), "0")
    bench.settle()
    enter(field(bench, "Opening of each joint"), "30")
    ducts = bench.workspace.shop.ducts
    assert ducts.gate_gap == 0.0 and ducts.joint_leak == pytest.approx(30e-6)
    bench.stage("air")
    bench.window.stage.room_button.click()
    enter(field(bench, "Outdoor air changes an hour, all shut"), "0.8")
    enter(field(bench, "Fine dust outdoors"), "12")
    enter(field(bench, "PM2.5 at which the air is called clear"), "25")
    air = bench.workspace.shop.air
    assert (air.ach_closed, air.outdoors, air.clean_fine) == pytest.approx((0.8, 0.012, 0.025))
    bench.stage("room")
    door = bench.workspace.shop.room.openings[0]
    bench.workspace.pick(door.id)
    choose(choice(bench, "Where it leads"), "house")
    assert next(one for one in bench.workspace.shop.room.openings if one.id == door.id).leads == "house"


def test_distances_to_neighbours_follow_the_hand(bench: Bench, monkeypatch: pytest.MonkeyPatch) -> None:
    things = (block("a", 1.0, 2.5, 0.5, 0.5, 1.0), block("b", 3.0, 2.5, 0.5, 0.5, 1.0))
    bench.window.keeper.open(Document(Shop(units="metric", room=box_room(), things=things)), None)
    bench.stage("place")
    told: list[str] = []
    real = Sheet.dimension

    def note(self: Sheet, a: object, b: object, text: str, colour: str, **_: object) -> None:
        told.append(text)
        real(self, a, b, text, colour)  # type: ignore[arg-type]

    monkeypatch.setattr(Sheet, "dimension", note)
    bench.drag((1.0, 2.5), (1.5, 2.5), drop=False)
    told.clear()
    bench.window.plan.repaint()
    assert "1000 mm" in told  # from 1.75 to 2.75
    monkeypatch.undo()


def test_sealed_settings_reach_the_figures(bench: Bench) -> None:
    bench.demo("garage-mended")
    bench.workspace.apply(lambda shop: change_ducts(shop, gate_gap=0.0), "Seal")
    bench.settle()
    (network,) = bench.window.reviews.latest.answers.of(DuctAnswers).networks
    one = network.sets[0]
    assert all(hood.flow == 0 for hood in one.hoods if not hood.is_open)
    assert change_room(bench.workspace.shop, x=0.0) == bench.workspace.shop


def test_plan_and_instrument_look_at_the_same_gates_after_another_shop_is_opened(bench: Bench) -> None:
    """Both demos have a choice “planer alone”; what was looked at in the first is not kept for the second."""
    bench.demo("garage-mended", "ducts")
    bench.workspace.view.look_at(gate_set="alone/planer/hood")
    bench.settle()
    assert bench.window.stage.walk.flow().id == "alone/planer/hood"
    bench.demo("garage", "ducts")
    (network,) = bench.window.stage.answers().of(DuctAnswers).networks
    assert bench.workspace.view.now.gate_set is None
    assert bench.window.stage.walk.flow().id == network.sets[0].id != "alone/planer/hood"
