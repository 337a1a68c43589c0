"""The stage of electricity and light, by hand."""

from PySide6.QtCore import Qt

from purvel.app.stages.power.stage import LIGHT, PowerStage
from purvel.review import Grade
from purvel.shop.power import Plate
from tests.app.conftest import Bench, choose, enter
from tests.app.test_flow import field


def stage(bench: Bench) -> PowerStage:
    bench.stage("power")
    shown = bench.window.stage
    assert isinstance(shown, PowerStage)
    return shown


def test_circuits_and_outlets_from_an_empty_plan(bench: Bench) -> None:
    bench.demo("spare-room")
    shown = stage(bench)
    circuits = len(bench.workspace.shop.power.circuits)
    shown.add_circuit(0)
    circuit = bench.workspace.shop.power.circuits[-1]
    assert len(bench.workspace.shop.power.circuits) == circuits + 1 and bench.workspace.picked == circuit.id
    enter(field(bench, "Rating of the breaker"), "13")
    assert bench.workspace.shop.power.circuits[-1].rating == 13.0
    bench.workspace.pick("B")
    shown.add_outlet()
    outlet = bench.workspace.shop.power.outlets[-1]
    assert outlet.wall == "B" and bench.workspace.picked == outlet.id
    choose(field(bench, "Circuit of the outlet"), circuit.id)
    assert bench.workspace.shop.power.outlets[-1].circuit == circuit.id
    bench.workspace.undo()
    assert bench.workspace.shop.power.outlets[-1].circuit != circuit.id


def test_ticking_what_runs_along_loads_the_bars(bench: Bench) -> None:
    bench.demo("garage")
    shown = stage(bench)
    bench.workspace.view.look_at(together="table-saw")
    before = shown.together()
    assert before is not None and before.key == "table-saw"
    shown.bars._ticks["drill-press"].click()
    bench.settle()
    assert "drill-press" in bench.workspace.shop.power.along
    now = shown.together()
    assert now is not None and "drill-press" in now.things
    bench.workspace.undo()
    assert "drill-press" not in bench.workspace.shop.power.along
    assert not shown.bars._ticks["drill-press"].isChecked()


def test_a_plate_is_typed_and_forgotten(bench: Bench) -> None:
    bench.demo("garage")
    stage(bench)
    bench.workspace.pick("table-saw")
    enter(field(bench, "Amps on the plate"), "12.5")
    thing = bench.workspace.shop.thing("table-saw")
    assert thing is not None and thing.plate == Plate(volts=120, amps=12.5)
    enter(field(bench, "Watts on the plate"), "1800")
    thing = bench.workspace.shop.thing("table-saw")
    assert thing is not None and thing.plate == Plate(volts=120, watts=1800.0)
    choose(field(bench, "Voltage on the plate"), 240)
    bench.settle()
    assert any(
        one.rule == "no-outlet" or one.about == ("table-saw",)
        for one in bench.window.reviews.latest.of("power")
    )
    before = bench.workspace.shop
    for text in ("-1", "lots", "1e9"):
        enter(field(bench, "Amps on the plate"), text)
        assert bench.workspace.shop == before


def test_an_outlet_is_dragged_along_the_walls(bench: Bench) -> None:
    bench.demo("garage")
    stage(bench)
    outlet = next(one for one in bench.workspace.shop.power.outlets if one.id == "outlet-2")
    assert outlet.wall == "C"
    shell_at = bench.window.stage.answers().shop  # what is drawn
    assert shell_at is bench.workspace.shop
    width = 6.5024
    bench.drag((width - outlet.offset, 6.2992), (0.03, 5.0))
    moved = next(one for one in bench.workspace.shop.power.outlets if one.id == "outlet-2")
    assert moved.wall == "D" and moved.offset != outlet.offset


def test_light_is_shown_on_the_plan_and_a_light_dragged(bench: Bench) -> None:
    bench.demo("garage")
    shown = stage(bench)
    shown.light.click()
    assert bench.workspace.view.now.layer == LIGHT
    one = bench.workspace.shop.power.luminaires[0]
    bench.drag((one.x, one.y), (one.x + 1.0, one.y + 0.5))
    moved = bench.workspace.shop.power.luminaires[0]
    assert abs(moved.x - one.x - 1.0) < 0.1 and abs(moved.y - one.y - 0.5) < 0.1
    shown.add_light("batten")
    assert bench.workspace.shop.power.luminaires[-1].kind == "batten"
    assert not bench.window.grab().isNull()


def test_the_service_changes_what_can_be_added(bench: Bench) -> None:
    bench.demo("garage")
    shown = stage(bench)
    choose(shown.service, "230")
    assert bench.workspace.shop.power.service == "230"
    shown.add_circuit(0)
    assert bench.workspace.shop.power.circuits[-1].volts == 230


def test_opening_a_tripping_breaker_shows_what_runs(bench: Bench) -> None:
    bench.demo("garage")
    stage(bench)
    worst = next(one for one in bench.window.reviews.latest.of("power") if one.grade == Grade.STOP)
    bench.window.findings.reveal(worst)
    bench.bot.waitUntil(lambda: not bench.window.findings.is_waiting, timeout=60_000)
    assert bench.window.findings.opened == worst


def test_with_the_keyboard_alone(bench: Bench) -> None:
    bench.demo("garage")
    stage(bench)
    bench.window.plan.setFocus()
    bench.keys("n")
    assert bench.workspace.picked == "circuit-1"
    bench.keys(Qt.Key.Key_Delete)
    assert "circuit-1" not in [one.id for one in bench.workspace.shop.power.circuits]
