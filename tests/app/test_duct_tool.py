"""Drawing ducts with the mouse: what is recognised, what is refused, what can be taken back."""

from dataclasses import replace

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from purvel.catalogue import make_thing
from purvel.review.ducts.answers import DuctAnswers
from purvel.shop import Ceiling, Ducts, PortRef, Run, Shop, Vertex
from purvel.shop.edits import change_room
from purvel.shop.faults import faults
from tests.app.conftest import Bench, choose, enter
from tests.conftest import box_room

INLET = (1.5, 1.0)  # of a collector at (1, 1)


@pytest.fixture
def drawing(bench: Bench) -> Bench:
    things = (
        make_thing("collector", "collector", 1.0, 1.0),
        make_thing("planer", "planer", 5.0, 3.0),
        make_thing("table-saw", "saw", 5.0, 5.0),
    )
    bench.workspace.open(Shop(units="metric", room=box_room(8, 7), things=things))
    bench.stage("ducts")
    bench.window.stages["ducts"].draw_button.setChecked(True)
    QApplication.processEvents()
    bench.window.plan.fit()
    return bench


def port(bench: Bench, name: str) -> tuple[float, float]:
    thing = bench.workspace.shop.thing(name)
    assert thing is not None
    return thing.spot(thing.ports[0].x, thing.ports[0].y)


def said(bench: Bench) -> str:
    return bench.window.notice.said.text()


def test_a_run_begins_at_an_inlet_or_on_a_run_and_nowhere_else(drawing: Bench) -> None:
    drawing.click(4.0, 6.0)
    assert drawing.window.stages["ducts"].tool.run is None and "begins at" in said(drawing)
    drawing.click(*INLET)
    assert drawing.window.stages["ducts"].tool.run is not None and said(drawing) == ""


def test_a_leg_that_is_nearly_square_is_drawn_square(drawing: Bench) -> None:
    drawing.click(*INLET)
    drawing.click(4.0, 1.15)
    drawing.click(4.1, 4.0)
    drawing.keys(Qt.Key.Key_Return)
    (run,) = drawing.workspace.shop.ducts.runs
    ends = [point for point in run.points if point.z > 2.0]
    assert ends[-2].y == pytest.approx(1.0, abs=1e-3) and ends[-1].x == pytest.approx(ends[-2].x, abs=1e-3)


def test_a_rise_is_put_in_where_the_height_changes(drawing: Bench) -> None:
    ducts = drawing.window.stages["ducts"]
    drawing.click(*INLET)
    drawing.click(3.0, 1.0)
    assert ducts.tool.height.line.text() == "2286 mm"
    enter(ducts.tool.height, "400")
    drawing.click(3.0, 3.0)
    drawing.keys(Qt.Key.Key_Return)
    (run,) = drawing.workspace.shop.ducts.runs
    heights = [point.z for point in run.points]
    assert heights == pytest.approx([2.286, 2.286, 0.4, 0.4])
    assert (run.points[1].x, run.points[1].y) == pytest.approx((run.points[2].x, run.points[2].y))


def test_backspace_takes_a_corner_back_and_escape_gives_up(drawing: Bench) -> None:
    ducts = drawing.window.stages["ducts"]
    drawing.click(*INLET)
    drawing.click(3.0, 1.0)
    count = len(ducts.tool.run.points)
    drawing.click(3.0, 3.0)
    drawing.keys(Qt.Key.Key_Backspace)
    assert len(ducts.tool.run.points) == count
    drawing.keys(Qt.Key.Key_Escape)
    assert (
        ducts.tool.run is None and drawing.workspace.shop.ducts.runs == () and ducts.draw_button.isChecked()
    )
    drawing.keys(Qt.Key.Key_Escape)
    assert not ducts.draw_button.isChecked()


def test_a_branch_leaves_the_main_and_ends_at_a_port(drawing: Bench) -> None:
    ducts = drawing.window.stages["ducts"]
    drawing.click(*INLET)
    drawing.click(3.5, 1.0)
    drawing.click(3.5, 6.0)
    drawing.keys(Qt.Key.Key_Return)
    choose(ducts.tool.branch, 30.0)
    choose(ducts.tool.material, "ribbed-hose")
    drawing.click(6.5, 2.0)
    assert "begins at" in said(drawing)
    drawing.click(3.5, 2.5)
    assert said(drawing) == ""
    drawing.click(*port(drawing, "planer"))
    main, branch = drawing.workspace.shop.ducts.runs
    assert branch.joins is not None and branch.joins.run == main.id and branch.joins.angle == 30.0
    assert branch.port == PortRef(thing="planer", port="hood") and branch.material == "ribbed-hose"
    # along the main: 2.0 out, up to 2.286 m, 1.5 across
    assert branch.joins.at == pytest.approx(2.0 + 1.636 + 1.5, abs=0.1)
    drawing.settle()
    (network,) = drawing.window.reviews.latest.answers.of(DuctAnswers).networks
    assert [segment.role for segment in network.layout.segments if segment.run == branch.id] == ["hose"]


def test_a_run_from_the_free_end_of_another_carries_on_in_line(drawing: Bench) -> None:
    drawing.click(*INLET)
    drawing.click(3.5, 1.0)
    drawing.keys(Qt.Key.Key_Return)
    end = drawing.workspace.shop.ducts.runs[0].points[-1]
    drawing.click(end.x, end.y)
    drawing.click(*port(drawing, "planer"))
    joins = drawing.workspace.shop.ducts.runs[1].joins
    assert joins is not None and joins.at is None


def test_a_run_takes_the_size_of_its_inlet_until_a_size_is_chosen(drawing: Bench) -> None:
    ducts = drawing.window.stages["ducts"]
    drawing.click(*INLET)
    assert ducts.tool.size.value == pytest.approx(0.15)  # the collector's inlet
    drawing.click(3.5, 1.0)
    drawing.click(3.5, 6.0)
    drawing.keys(Qt.Key.Key_Return)
    assert ducts.tool.size.value == pytest.approx(0.1)
    drawing.click(3.5, 2.5)
    drawing.click(*port(drawing, "planer"))
    assert [run.diameter for run in drawing.workspace.shop.ducts.runs] == pytest.approx([0.15, 0.1])
    drawing.workspace.undo()
    drawing.workspace.undo()
    choose(ducts.tool.size, 0.125)
    drawing.click(*INLET)
    assert ducts.tool.size.value == pytest.approx(0.125) == ducts.tool.run.diameter


def test_a_taken_inlet_and_a_taken_port_are_refused(drawing: Bench) -> None:
    drawing.click(*INLET)
    drawing.click(*port(drawing, "planer"))
    drawing.click(*INLET)
    assert "inlet of" in said(drawing) and "is taken" in said(drawing)
    first = drawing.workspace.shop.ducts.runs[0]
    drawing.click(*(a + 0.4 * (b - a) for a, b in zip(INLET, port(drawing, "planer"))))
    assert drawing.window.stages["ducts"].tool.run is not None
    drawing.click(*port(drawing, "planer"))
    assert "has a run already" in said(drawing) and drawing.workspace.shop.ducts.runs == (first,)


def test_a_typed_leg_needs_a_direction(drawing: Bench) -> None:
    ducts = drawing.window.stages["ducts"]
    drawing.click(*INLET)
    ducts.tool.pointer = INLET
    drawing.keys("1")
    prompt = drawing.window.plan.prompt
    QTest.keyClicks(prompt.line, "000")
    QTest.keyClick(prompt.line, Qt.Key.Key_Return)
    assert "Point the way first" in said(drawing) and ducts.tool.run.points == ()


def test_gates_go_on_runs_only(drawing: Bench) -> None:
    drawing.click(*INLET)
    drawing.click(*port(drawing, "planer"))
    ducts = drawing.window.stages["ducts"]
    ducts.gate_button.setChecked(True)
    drawing.click(7.0, 6.5)
    assert "A gate goes on a run" in said(drawing)
    drawing.click(*(a + 0.5 * (b - a) for a, b in zip(INLET, port(drawing, "planer"))))
    (gate,) = drawing.workspace.shop.ducts.runs[0].gates
    assert gate.at > 0.5 and said(drawing) == ""
    drawing.click(*(a + 0.8 * (b - a) for a, b in zip(INLET, port(drawing, "planer"))))  # the tool stays on
    assert len(drawing.workspace.shop.ducts.runs[0].gates) == 2 and ducts.gate_button.isChecked()
    drawing.keys(Qt.Key.Key_Escape)
    assert ducts.tool.mode == "none" and not ducts.gate_button.isChecked()


def test_the_tools_words_and_choices_come_and_go_without_moving_the_plan(drawing: Bench) -> None:
    ducts, notice, plan = drawing.window.stages["ducts"], drawing.window.notice, drawing.window.plan

    def seen() -> tuple[bool, bool, str]:
        QApplication.processEvents()
        return (ducts.tool.size.isVisible(), ducts.tool.height.isVisible(), notice.tool.text())

    assert plan.hasFocus()  # so that Space and the arrows draw
    held, place, spot = seen(), plan.geometry(), plan.to_window(1.0, 1.0)
    assert held[:2] == (True, True) and "Click a collector's inlet" in held[2]
    drawing.click(4.0, 3.2)
    assert "A run begins at" in said(drawing) and notice.said.isVisible()
    drawing.click(*INLET)
    assert "Click the next corner" in seen()[2] and not notice.said.isVisible()
    enter(ducts.tool.height, "2.1 m")
    assert drawing.window.stage.say.length(2.1) in seen()[2]
    ducts.gate_button.setChecked(True)
    assert seen()[:2] == (False, False) and "where the gate goes" in seen()[2]
    ducts.gate_button.setChecked(False)
    assert seen()[:2] == (False, False) and seen()[2].startswith("No duct yet")
    assert plan.geometry() == place and plan.to_window(1.0, 1.0) == spot


def test_what_is_chosen_while_drawing_is_for_the_run_in_hand_and_outlives_a_change_of_units(
    drawing: Bench,
) -> None:
    ducts = drawing.window.stages["ducts"]
    drawing.click(*INLET)
    drawing.click(3.0, 1.0)
    choose(ducts.tool.size, 0.15)
    enter(ducts.tool.height, "2.0 m")
    drawing.window.switch_units()
    drawing.window.theme.set_text(18)
    assert (
        ducts.draw_button.isChecked()
        and ducts.tool.size.value == 0.15
        and ducts.tool.height_value == pytest.approx(2.0)
    )
    drawing.click(*port(drawing, "planer"))
    (run,) = drawing.workspace.shop.ducts.runs
    assert run.diameter == 0.15 and len(run.points) >= 2 and run.port == PortRef(thing="planer", port="hood")


def test_a_refusal_goes_with_the_tool_and_with_the_stage(drawing: Bench) -> None:
    drawing.click(4.0, 6.0)
    assert "A run begins at" in said(drawing)
    drawing.keys(Qt.Key.Key_Escape)
    assert said(drawing) == ""
    drawing.window.stages["ducts"].draw_button.setChecked(True)
    drawing.click(4.0, 6.0)
    assert "A run begins at" in said(drawing)
    drawing.window.show_stage("air")
    assert said(drawing) == ""


def test_a_run_is_not_drawn_above_the_ceiling(drawing: Bench) -> None:
    ducts = drawing.window.stages["ducts"]
    drawing.workspace.apply(lambda shop: change_room(shop, ceiling=Ceiling(height=2.0)), "Lower the ceiling")
    drawing.click(*INLET)
    drawing.click(3.0, 1.0)
    assert ducts.tool.height.line.text() == "1848 mm" and max(
        point.z for point in ducts.tool.run.points
    ) == pytest.approx(1.8476)


def test_a_half_drawn_run_goes_with_what_it_began_at(drawing: Bench) -> None:
    ducts = drawing.window.stages["ducts"]
    drawing.click(*INLET)
    drawing.click(*port(drawing, "planer"))
    drawing.click(*(a + 0.4 * (b - a) for a, b in zip(INLET, port(drawing, "planer"))))
    drawing.click(3.0, 5.0)
    assert ducts.tool.run.joins is not None
    drawing.workspace.undo()
    assert ducts.tool.run is None and "is not there any more" in said(drawing)
    drawing.window.plan.grab()
    drawing.keys(Qt.Key.Key_Return)
    assert faults(drawing.workspace.shop) == [] and drawing.workspace.shop.ducts.runs == ()
    drawing.click(*INLET)
    drawing.window.filing.new()
    assert ducts.tool.run is None and not ducts.draw_button.isChecked()


def test_a_machine_that_moves_takes_its_hose_along(drawing: Bench) -> None:
    drawing.click(*INLET)
    drawing.click(*port(drawing, "planer"))
    drawing.window.stages["ducts"].draw_button.setChecked(False)
    drawing.settle()
    before = drawing.window.reviews.latest.answers.of(DuctAnswers).networks[0].layout.segments[0].length
    planer = drawing.workspace.shop.thing("planer")
    assert planer is not None
    drawing.stage("place")
    drawing.drag((planer.x, planer.y), (planer.x + 1.5, planer.y))
    drawing.settle()
    assert (
        drawing.window.reviews.latest.answers.of(DuctAnswers).networks[0].layout.segments[0].length
        > before + 0.5
    )


def test_a_run_that_leads_nowhere_says_so(bench: Bench) -> None:
    loose = Run(id="loose", name="Loose", points=(Vertex(x=1, y=1, z=2.2), Vertex(x=3, y=1, z=2.2)))
    shop = replace(
        Shop(room=box_room(6, 5), things=(make_thing("collector", "c", 1, 4),)), ducts=Ducts(runs=(loose,))
    )
    bench.workspace.open(shop)
    bench.stage("ducts")
    assert [one.rule for one in bench.window.reviews.latest.of("ducts")] == ["run-loose"]
    bench.window.grab()


def test_the_plan_can_be_drawn_before_a_changed_system_is_reviewed(drawing: Bench) -> None:
    """A run taken away leaves a plan with fewer segments than the last review knew."""
    drawing.click(*INLET)
    drawing.click(3.5, 1.0)
    drawing.click(3.5, 6.0)
    drawing.keys(Qt.Key.Key_Return)
    drawing.click(3.5, 2.5)
    drawing.click(*port(drawing, "planer"))
    drawing.settle()
    drawing.workspace.undo()
    drawing.window.plan.grab()
    drawing.workspace.undo()
    drawing.window.plan.grab()
    drawing.settle()
    assert drawing.workspace.shop.ducts.runs == ()
