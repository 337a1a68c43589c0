"""Hands on the plan beyond dragging things: posts, walls, duct corners, gates, and all of it by key."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QCheckBox

from purvel.app.widgets.fields import TextField
from purvel.catalogue import make_thing
from purvel.review.ducts.answers import DuctAnswers
from purvel.shop import Shop
from purvel.space.ground import footprint
from purvel.space.traverse import walk
from tests.app.conftest import Bench, enter
from tests.conftest import box_room


def field(bench: Bench, name: str) -> TextField:
    found = [
        one
        for one in bench.window.inspector.findChildren(TextField)
        if one.line.accessibleName().startswith(name)
    ]
    assert found, name
    return found[0]


def piped() -> Shop:
    """A collector at the left, a planer at the right, nothing between."""
    things = (make_thing("collector", "collector", 1.0, 1.0), make_thing("planer", "planer", 5.0, 3.0))
    return Shop(units="metric", room=box_room(8, 6), things=things)


def test_undo_in_a_field_takes_back_its_typing_and_then_the_last_change(bench: Bench) -> None:
    bench.stage("room")
    line = bench.window.stages["room"].wall_length.line

    def undo(*, back: bool = False) -> None:
        modifier = Qt.KeyboardModifier.ControlModifier | (
            Qt.KeyboardModifier.ShiftModifier if back else Qt.KeyboardModifier.NoModifier
        )
        QTest.keyClick(line, Qt.Key.Key_Z, modifier)

    line.setFocus()
    for text in ("5.8 m", "6.1 m"):
        QTest.keyClicks(line, text)
        QTest.keyClick(line, Qt.Key.Key_Return)

    def walls() -> list[float]:
        return [wall.length for wall in bench.workspace.shop.room.walls]

    undo()
    assert line.text() == "" and walls() == [5.8]
    undo(back=True)
    assert line.text() == "" and walls() == [5.8, 6.1]
    QTest.keyClicks(line, "4")
    undo()
    assert line.text() == "" and walls() == [5.8, 6.1]
    undo()
    assert line.text() == "" and walls() == [5.8]


def test_new_walls_that_run_out_of_the_picture_bring_it_back(bench: Bench) -> None:
    plan = bench.window.plan
    for length in (3.0, 40.0):
        bench.window.stages["room"].add_wall(length, 90.0)
        assert all(
            plan.rect().contains(plan.to_window(*corner).toPoint())
            for corner in walk(bench.workspace.shop.room).raw
        )


def test_a_post_is_set_by_its_distance_from_two_walls_and_turned(bench: Bench) -> None:
    bench.workspace.open(Shop(units="metric", room=box_room(5.8, 6.1)))
    bench.stage("room")
    bench.window.stages["room"].add_fixture("post")
    bench.window.plan.setFocus()
    prompt = bench.window.plan.prompt
    for presses in (0, 1):
        bench.keys("=")
        for _ in range(presses):
            QTest.keyClick(prompt.line, Qt.Key.Key_Tab)
        QTest.keyClicks(prompt.line, "1200")
        QTest.keyClick(prompt.line, Qt.Key.Key_Return)
    post = bench.workspace.shop.room.fixtures[0]
    corners = footprint(post)
    assert min(corners[:, 0].min(), 5.8 - corners[:, 0].max()) == pytest.approx(1.2)
    assert min(corners[:, 1].min(), 6.1 - corners[:, 1].max()) == pytest.approx(1.2)
    bench.keys(Qt.Key.Key_R, shift=True)
    assert bench.workspace.shop.room.fixtures[0].angle == 15.0


def test_n_goes_through_what_the_stage_is_about(bench: Bench) -> None:
    bench.demo("garage")
    for stage, expected in (
        ("room", "A"),
        ("place", bench.workspace.shop.things[0].id),
        ("ducts", bench.workspace.shop.ducts.runs[0].id),
        ("air", bench.workspace.shop.air.session.work[0].id),
    ):
        bench.stage(stage)
        bench.workspace.pick(None)
        bench.window.plan.setFocus()
        bench.keys(Qt.Key.Key_N)
        assert bench.workspace.picked == expected


def test_a_picked_wall_takes_a_sloping_ceiling(bench: Bench) -> None:
    bench.workspace.open(Shop(units="metric", room=box_room(6, 5)))
    bench.stage("room")
    bench.click(3.0, -0.05)
    assert bench.workspace.picked == "A"
    enter(field(bench, "Length"), "6.2 m")
    assert bench.workspace.shop.room.walls[0].length == pytest.approx(6.2)
    slopes = next(one for one in bench.window.inspector.findChildren(QCheckBox) if "slopes" in one.text())
    slopes.setChecked(True)
    enter(field(bench, "Height there"), "1.1 m")
    (slope,) = bench.workspace.shop.room.ceiling.slopes
    assert (slope.wall, slope.low) == ("A", pytest.approx(1.1))
    enter(field(bench, "Height there"), "9 m")
    assert bench.workspace.shop.room.ceiling.slopes == (slope,)
    assert "must begin below" in bench.window.notice.said.text()
    next(one for one in bench.window.inspector.findChildren(QCheckBox) if "slopes" in one.text()).setChecked(
        False
    )
    assert bench.workspace.shop.room.ceiling.slopes == ()


def test_a_machine_is_set_down_where_there_is_room(bench: Bench) -> None:
    bench.workspace.open(Shop(units="metric", room=box_room(6, 5)))
    bench.stage("place")
    for kind in ("table-saw", "planer", "workbench", "collector"):
        bench.window.stages["place"].place(kind)
    bench.settle()
    rules = {one.rule for one in bench.window.reviews.latest.of("place")}
    assert not rules & {"bodies-overlap", "outside-room", "standing-room"}


def test_a_run_is_drawn_by_key_alone(bench: Bench) -> None:
    """N to the inlet, Space; the way by arrows and its length by digits; N to the port, Space; a gate by N
    and Space.
    """
    bench.workspace.open(piped())
    bench.stage("ducts")
    ducts = bench.window.stages["ducts"]
    ducts.draw_button.setChecked(True)
    bench.window.plan.setFocus()
    bench.keys(Qt.Key.Key_N, Qt.Key.Key_Space)
    assert ducts.tool.run is not None and ducts.tool.run.source == "collector"
    bench.keys(Qt.Key.Key_Right, Qt.Key.Key_Right, Qt.Key.Key_Right)
    bench.keys("2")
    prompt = bench.window.plan.prompt
    assert prompt.isVisible() and "leg" in prompt.words.text()
    QTest.keyClicks(prompt.line, "345")
    QTest.keyClick(prompt.line, Qt.Key.Key_Return)
    start = (1.5, 1.0)
    corner = ducts.tool.run.points[-1]
    assert (corner.x - start[0], corner.y - start[1]) == pytest.approx((2.345, 0.0), abs=1e-3)
    bench.keys(Qt.Key.Key_N, Qt.Key.Key_Space)
    (run,) = bench.workspace.shop.ducts.runs
    assert run.port is not None and run.port.thing == "planer"
    ducts.gate_button.setChecked(True)
    bench.keys(Qt.Key.Key_N, Qt.Key.Key_Space)
    assert len(bench.workspace.shop.ducts.runs[0].gates) == 1
    bench.keys(Qt.Key.Key_Escape)
    assert ducts.tool.mode != "gate"


def test_a_corner_of_a_run_is_dragged_with_its_rise(bench: Bench) -> None:
    bench.demo("garage-mended", "ducts")
    main = next(run for run in bench.workspace.shop.ducts.runs if run.source)
    bench.workspace.pick(main.id)
    before = bench.workspace.shop
    corner = main.points[0]
    together = [
        i
        for i, point in enumerate(main.points)
        if abs(point.x - corner.x) < 1e-3 and abs(point.y - corner.y) < 1e-3
    ]
    bench.drag((corner.x, corner.y), (corner.x + 0.3, corner.y + 0.2))
    moved = next(run for run in bench.workspace.shop.ducts.runs if run.id == main.id).points
    assert all(
        (moved[i].x, moved[i].y) == pytest.approx((corner.x + 0.3, corner.y + 0.2), abs=0.09)
        for i in together
    )
    assert [point.z for point in moved] == [point.z for point in main.points]
    bench.workspace.undo()
    assert bench.workspace.shop == before


def test_a_click_on_a_gate_opens_or_shuts_it_in_the_chosen_set(bench: Bench) -> None:
    from purvel.airflow.paths import point_along

    bench.demo("garage-mended", "ducts")
    ducts = bench.window.stages["ducts"]
    ducts.walk.choose("Planer alone")
    run = next(
        run for run in bench.workspace.shop.ducts.runs if run.gates and run.gates[0].id != "planer-gate"
    )
    x, y, _ = point_along(ducts.answers().of(DuctAnswers).run_paths[run.id], run.gates[0].at)
    bench.click(x, y)
    chosen = next(
        one for one in bench.workspace.shop.ducts.gate_sets if one.id == bench.window.view.now.gate_set
    )
    assert set(chosen.open) == {"planer-gate", run.gates[0].id}


def test_a_gate_and_a_branch_are_moved_by_typing(bench: Bench) -> None:
    bench.demo("garage-mended", "ducts")
    run = next(
        run for run in bench.workspace.shop.ducts.runs if run.gates and run.joins and run.joins.at is not None
    )
    bench.workspace.pick(run.id)
    enter(field(bench, "Where it branches"), "1.5 m")
    enter(field(bench, f"Where {run.gates[0].name or run.gates[0].id}"), "0.45 m")
    now = next(one for one in bench.workspace.shop.ducts.runs if one.id == run.id)
    assert now.joins is not None and now.joins.at == pytest.approx(1.5)
    assert now.gates[0].at == pytest.approx(0.45)
