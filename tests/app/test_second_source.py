"""A second source is drawn to the line of the first."""

from PySide6.QtCore import Qt

from purvel.catalogue import make_thing
from purvel.review.ducts.answers import DuctAnswers
from purvel.shop.edits import put
from purvel.shop.faults import faults
from tests.app.conftest import Bench
from tests.app.test_duct_tool import INLET, drawing, port, said

__all__ = ["drawing"]


def test_a_second_source_is_brought_to_the_line_of_the_first(drawing: Bench) -> None:
    """From the second collector's inlet to the free end of the main: one system with two sources."""
    workspace = drawing.workspace
    second = make_thing("collector", "second", 7.0, 6.0)
    workspace.apply(lambda shop: put(shop, second), "Add")
    drawing.click(*INLET)
    drawing.click(3.0, 1.0)
    drawing.keys(Qt.Key.Key_Return)
    drawing.click(2.0, 1.0)  # a drop to the planer
    drawing.click(*port(drawing, "planer"))
    inlet = (7.5, 6.0)
    drawing.click(*inlet)
    tool = drawing.window.stages["ducts"].tool
    assert tool.run is not None and tool.run.source == "second"
    drawing.click(2.6, 1.0)  # on the main, near its free end
    assert tool.run is None and said(drawing) == ""
    line = workspace.shop.ducts.runs[-1]
    assert (
        line.source == "second"
        and line.joins is not None
        and line.joins.run == workspace.shop.ducts.runs[0].id
    )
    assert line.name.endswith(" line") and faults(workspace.shop) == []
    drawing.settle()
    (network,) = drawing.window.reviews.answers().of(DuctAnswers).networks
    assert [one.thing for one in network.sets[0].sources] == ["collector", "second"]
    assert all(one.flow > 0.05 for one in network.sets[0].sources)
    workspace.undo()
    assert all(run.source != "second" for run in workspace.shop.ducts.runs)


def test_keys_go_to_the_lines_of_others_only_from_a_source(drawing: Bench) -> None:
    workspace = drawing.workspace
    workspace.apply(lambda shop: put(shop, make_thing("collector", "second", 7.0, 6.0)), "Add")
    drawing.click(*INLET)
    drawing.click(3.0, 1.0)
    drawing.keys(Qt.Key.Key_Return)
    tool = drawing.window.stages["ducts"].tool
    drawing.click(7.5, 6.0)
    seen = set()
    for _ in range(5):
        drawing.keys(Qt.Key.Key_N)
        seen.add(tuple(round(value, 2) for value in tool.pointer))
    assert len(seen) == 5  # two ports and three places on the first's main
    assert {(round(x, 2), round(y, 2)) for x, y in (port(drawing, "planer"), port(drawing, "saw"))} < seen
    drawing.keys(Qt.Key.Key_Escape)
    drawing.click(2.0, 1.0)  # a branch looks for ports alone
    for _ in range(3):
        drawing.keys(Qt.Key.Key_N)
    assert tuple(round(value, 2) for value in tool.pointer) in seen
