"""Routes are proposed behind the window; one is drawn with one press and taken back with one."""

import pytest
from pytestqt.qtbot import QtBot

from purvel.review.ducts import routes
from purvel.shop.edits import change, remove
from tests.app.conftest import Bench


@pytest.fixture(autouse=True)
def quick(monkeypatch: pytest.MonkeyPatch) -> None:
    real = routes.sizings
    monkeypatch.setattr(routes, "sizings", lambda *args: [next(iter(real(*args)))])


def test_a_proposal_is_chosen_drawn_and_taken_back(bench: Bench, qtbot: QtBot) -> None:
    bench.demo("garage-mended", "ducts")
    walk = bench.window.stages["ducts"].walk
    walk.panes.choose(9)
    pane = walk.routes
    before = bench.workspace.shop
    assert pane.isVisible() and not pane.take.isVisible() and "clear of doors" in pane.label.text()
    pane.button.click()
    qtbot.waitUntil(lambda: pane.button.text() == "Propose routes", timeout=30_000)
    assert pane.which.count() == len(pane.found.routes) > 1
    assert "1. " in pane.label.text() and "USD" in pane.label.text()
    pane.which.setCurrentIndex(1)
    wanted = pane.found.routes[1].shop.ducts
    pane.take.click()
    assert bench.workspace.shop.ducts == wanted != before.ducts
    bench.settle()
    assert "has changed since" in pane.label.text() and not pane.take.isVisible()
    bench.workspace.undo()
    assert bench.workspace.shop == before


def test_it_leads_from_the_picked_source_and_says_when_there_is_none(bench: Bench, qtbot: QtBot) -> None:
    bench.demo("spare-room", "ducts")
    walk = bench.window.stages["ducts"].walk
    walk.panes.choose(9)
    vac = next(thing.id for thing in bench.workspace.shop.things if thing.source)
    bench.workspace.apply(lambda shop: change(shop, vac, name="Old vac"), "Name it")
    for run in bench.workspace.shop.ducts.runs:
        bench.workspace.apply(lambda shop, run=run: remove(shop, run.id), "Take a run away")  # type: ignore[misc]
    bench.settle()
    walk.routes.button.click()
    qtbot.waitUntil(lambda: walk.routes.button.text() == "Propose routes", timeout=30_000)
    assert walk.routes.found.routes  # also where nothing is drawn yet
    bench.workspace.apply(lambda shop: remove(shop, vac), "Take it away")
    bench.settle()
    walk.routes.button.click()
    assert "Set a collector, cyclone or vac down first" in walk.routes.label.text()
