"""The stage of walls, by hand."""

from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from purvel.app.stages.walls.stage import WallsStage
from purvel.walls.hanging import box_of
from tests.app.conftest import Bench, choose, enter
from tests.app.test_flow import field


def stage(bench: Bench) -> WallsStage:
    bench.stage("walls")
    shown = bench.window.stage
    assert isinstance(shown, WallsStage)
    return shown


def test_twenty_tools_hung_and_found_again(bench: Bench) -> None:
    bench.demo("garage-mended")
    shown = stage(bench)
    before = {tool.id for tool in bench.workspace.shop.storage.tools}
    for key in ("rasps", "scrapers", "hacksaw", "coping-saw", "sliding-bevel", "steel-rule"):
        shown.add_tool(key)
    bench.settle()
    shown.add_unit("cleat")
    shown.hang_button.click()
    hung = [tool for tool in bench.workspace.shop.storage.tools if tool.id not in before and tool.home]
    assert hung and "found a place" in bench.window.notice.said.text()
    label, act = next(pair for pair in shown.commands() if pair[0].startswith("Where is the rasps"))
    act()
    assert bench.workspace.picked is not None
    tool = next(one for one in bench.workspace.shop.storage.tools if one.id == bench.workspace.picked)
    unit = next(one for one in bench.workspace.shop.storage.units if one.id == tool.home)
    assert shown.wall == unit.wall and label
    bench.workspace.undo()
    assert {t.home for t in bench.workspace.shop.storage.tools if t.id not in before} == {None}


def spot(shown: WallsStage, x: float, y: float) -> QPoint:
    return shown.elevation.to_window(x, y).toPoint()


def test_a_tool_is_dragged_along_its_cleat_and_to_another(bench: Bench) -> None:
    bench.demo("garage-mended")
    shown = stage(bench)
    bench.workspace.pick("cleat-c")
    QApplication.processEvents()
    shown.elevation.fit()
    tool = next(one for one in bench.workspace.shop.storage.tools if one.home == "cleat-c")
    unit = next(one for one in bench.workspace.shop.storage.units if one.id == "cleat-c")
    box = box_of(tool, unit, tool.along)
    elevation, side = shown.elevation, shown.elevation.side
    assert side is not None
    a = spot(shown, side.length - (box.left + box.right) / 2, (box.low + box.high) / 2 - 0.02)
    b = a + QPoint(-round(0.3 * elevation.scale), 0)
    QTest.mousePress(elevation, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, a)
    assert bench.workspace.picked == tool.id
    for k in range(1, 6):
        QTest.mouseMove(elevation, a + (b - a) * k / 5)
    QTest.mouseRelease(elevation, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, b)
    moved = next(one for one in bench.workspace.shop.storage.tools if one.id == tool.id)
    assert abs(moved.along - tool.along - 0.3) < 0.05  # to the left in the picture is on along the wall
    bench.workspace.undo()
    assert next(one for one in bench.workspace.shop.storage.tools if one.id == tool.id) == tool


def test_a_wall_is_picked_on_the_plan(bench: Bench) -> None:
    bench.demo("garage")
    shown = stage(bench)
    bench.click(3.0, 0.02)
    assert bench.workspace.picked == "A" and shown.wall == "A"
    shown.add_unit("shelf")
    unit = bench.workspace.shop.storage.units[-1]
    assert unit.wall == "A" and unit.kind == "shelf"
    choose(field(bench, "What the unit is made of"), "mdf")
    enter(field(bench, "Load besides the tools"), "30 kg")
    unit = bench.workspace.shop.storage.units[-1]
    assert unit.material == "mdf" and abs(unit.load - 30.0) < 0.1
    before = bench.workspace.shop
    for text in ("-5", "heavy", "9e9 kg"):
        enter(field(bench, "Load besides the tools"), text)
        assert bench.workspace.shop == before


def test_keys_in_the_elevation(bench: Bench) -> None:
    bench.demo("garage-mended")
    shown = stage(bench)
    bench.workspace.pick("cleat-c")
    shown.elevation.setFocus()
    QTest.keyClick(shown.elevation, Qt.Key.Key_N)
    picked = bench.workspace.picked
    assert picked is not None and picked != "cleat-c"
    tool = next(one for one in bench.workspace.shop.storage.tools if one.id == picked)
    QTest.keyClick(shown.elevation, Qt.Key.Key_Left)
    moved = next(one for one in bench.workspace.shop.storage.tools if one.id == picked)
    assert moved.along > tool.along
    QTest.keyClick(shown.elevation, Qt.Key.Key_Delete)
    assert picked not in [one.id for one in bench.workspace.shop.storage.tools]


def test_forty_tools_at_once_and_nothing_to_hang_them_on(bench: Bench) -> None:
    bench.demo("spare-room")
    shown = stage(bench)
    shown.add_all()
    assert len(bench.workspace.shop.storage.tools) >= 40
    shown.hang_these()
    assert "No place for" in bench.window.notice.said.text()
    assert not bench.window.grab().isNull()
