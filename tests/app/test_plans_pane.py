"""Ways to collect the dust, in the window."""

from purvel.shop.edits import remove
from tests.app.conftest import Bench, choose


def test_plans_machines_and_bores_take_turns_in_one_table(bench: Bench) -> None:
    bench.demo("garage", "ducts")
    walk = bench.window.stages["ducts"].walk
    walk.panes.choose(10)
    bench.workspace.pick("planer")
    bench.settle()
    pane = walk.plans

    def first_column() -> list[str]:
        return [pane.table.item(row, 0).text() for row in range(pane.table.rowCount())]

    assert pane.isVisible() and first_column()[0] == "Rolled to each, one hose"
    assert "stays useful" in pane.text.text()
    choose(pane.which, "machines")
    assert first_column() == ["Table saw", "Planer", "Jointer", "Bandsaw", "Drill press"]
    choose(pane.which, "bore")
    assert first_column()[0] == "Wet/dry vac"
    assert pane.table.item(2, 5).text() == "100%"  # the collector on the planer that is walked
    for thing in [one.id for one in bench.workspace.shop.things if one.ports]:
        bench.workspace.apply(lambda shop, thing=thing: remove(shop, thing), "Take it away")  # type: ignore[misc]
    bench.settle()
    assert not pane.table.isVisible() and "once a machine has a port" in pane.text.text()
