"""Sizes are searched behind the window, told as they come, taken with one press and taken back."""

import pytest
from pytestqt.qtbot import QtBot

from purvel.app.stages.ducts.sizes_pane import SizesPane
from purvel.shop.edits import change
from tests.app.conftest import Bench


@pytest.fixture
def pane(bench: Bench) -> SizesPane:
    bench.demo("single-garage-mended", "ducts")
    walk = bench.window.stages["ducts"].walk
    walk.panes.choose(5)
    assert walk.sizes.isVisible() and "in all choices of gates" in walk.sizes.label.text()
    return walk.sizes


def test_sizes_are_found_and_taken_in_one_edit(bench: Bench, pane: SizesPane, qtbot: QtBot) -> None:
    before = {run.id: run.diameter for run in bench.workspace.shop.ducts.runs}
    assert not pane.take.isVisible()
    pane.button.click()
    assert pane.button.text() == "Stop" and pane.bar.isVisible()
    qtbot.waitUntil(lambda: pane.button.text() == "Find sizes", timeout=30_000)
    assert "All flows and speeds hold" in pane.label.text() and "Manifold 63 mm → 50 mm" in pane.label.text()
    assert pane.offer is not None and pane.take.isVisible() and not pane.bar.isVisible()
    sizes = pane.offer.sizes
    pane.take.click()
    after = {run.id: run.diameter for run in bench.workspace.shop.ducts.runs}
    assert after == sizes != before
    bench.workspace.undo()
    assert {run.id: run.diameter for run in bench.workspace.shop.ducts.runs} == before


def test_a_search_is_stopped_and_what_changed_is_not_overwritten(
    bench: Bench, pane: SizesPane, qtbot: QtBot
) -> None:
    pane.button.click()
    pane.button.click()
    assert pane.button.text() == "Find sizes"
    pane.button.click()
    qtbot.waitUntil(lambda: pane.button.text() == "Find sizes", timeout=30_000)
    run = bench.workspace.shop.ducts.runs[0]
    bench.workspace.apply(lambda shop: change(shop, run.id, diameter=0.1), "Other size")
    bench.settle()
    assert pane.offer is None and not pane.take.isVisible()
    assert "has changed since" in pane.label.text()


def test_what_cannot_be_searched_is_said_in_the_pane(bench: Bench, pane: SizesPane) -> None:
    for run in bench.workspace.shop.ducts.runs[1:]:
        bench.workspace.apply(lambda shop, run=run: change(shop, run.id, port=None), "Off its port")  # type: ignore[misc]
    bench.settle()
    pane.button.click()
    assert "No run leads to a machine yet." in pane.label.text() and pane.button.text() == "Find sizes"
