"""A hood is designed with the flow of the machine that is picked."""

from purvel.app.widgets.fields import ChoiceField
from purvel.review import Figures
from tests.app.conftest import Bench, choose, enter, field


def test_the_sheet_reckons_with_the_walked_hood_and_what_is_entered(bench: Bench) -> None:
    bench.demo("garage-mended")
    bench.stage("ducts")
    walk = bench.window.stages["ducts"].walk
    bench.workspace.pick("planer")
    walk.panes.choose(8)
    bench.settle()
    pane, say = walk.hood_sheet, Figures("imperial")
    assert pane.text.text().startswith(f"With the {say.flow(walk.hood().flow)} of Planer:")
    kind = next(one for one in pane.findChildren(ChoiceField) if one.accessibleName() == "Kind of hood")
    choose(kind, "lathe")
    before = pane.text.text()
    assert "It catches to" in before
    enter(field(bench, "How far off the dust is made"), "1 in")
    assert pane.text.text() != before and 'At 1" off' in pane.text.text()
    enter(field(bench, "Width of the opening, or length of the slot"), "0")  # refused
    assert pane.opening.width == 0.3
    bench.workspace.pick("jointer")
    assert "of Jointer:" in pane.text.text()


def test_without_a_run_it_says_what_to_do(bench: Bench) -> None:
    bench.stage("ducts")
    walk = bench.window.stages["ducts"].walk
    walk.panes.choose(8)
    bench.settle()
    assert "draw a run" in walk.hood_sheet.text.text()
