"""Machines are set to be switched, and a simulated box is worked with from the window."""

from collections.abc import Iterator

import pytest
from PySide6.QtWidgets import QApplication, QPushButton
from pytestqt.qtbot import QtBot

from purvel.app.stages.ducts.switch_pane import SwitchPane
from purvel.app.widgets.fields import ChoiceField
from purvel.devices.gauge import Gauge, GaugeServer
from purvel.devices.switch_box import SwitchBox, SwitchServer
from purvel.review.ducts.switching import switches
from purvel.shop import Switched
from tests.app.conftest import Bench, choose, enter, field
from tests.devices.serving import serving


@pytest.fixture
def pane(bench: Bench) -> SwitchPane:
    bench.demo("garage-mended", "ducts")
    walk = bench.window.stages["ducts"].walk
    walk.panes.choose(7)
    bench.settle()
    return walk.switch


@pytest.fixture
def server(bench: Bench, pane: SwitchPane) -> Iterator[SwitchServer]:
    box = SwitchBox(switches(bench.window.reviews.answers()))
    with serving(SwitchServer(box, 0, speed=200.0)) as made:
        yield made
        pane.give_up()


def button(pane: SwitchPane, name: str) -> QPushButton:
    QApplication.processEvents()
    found = (one for one in pane.findChildren(QPushButton) if one.accessibleName() == name)
    return next(one for one in found if one.isVisible())


def test_how_a_machine_is_switched_is_set_in_its_row(bench: Bench, pane: SwitchPane) -> None:
    enter(field(bench, "Source runs on after Planer"), "25 s")
    bench.settle()
    how = next(
        one for one in pane.findChildren(ChoiceField) if one.accessibleName() == "How Planer is switched"
    )
    choose(how, "remote")
    bench.settle()
    assert bench.workspace.shop.ducts.switched == (Switched(thing="planer", how="remote", run_on=25.0),)
    assert not button(pane, "Switch Planer on or off").isEnabled()  # nothing is connected
    bench.workspace.undo()
    bench.workspace.undo()
    assert bench.workspace.shop.ducts.switched == ()


def test_a_box_is_connected_switches_and_its_hours_are_kept(
    bench: Bench, pane: SwitchPane, server: SwitchServer, qtbot: QtBot
) -> None:
    enter(pane.port, str(server.port))
    pane.connect_button.click()
    qtbot.waitUntil(lambda: "everything is off" in pane.status.text(), timeout=10_000)
    assert pane.connect_button.text() == "Let it go" and not pane.keep_button.isEnabled()
    button(pane, "Switch Planer on or off").click()
    qtbot.waitUntil(lambda: "Collector runs" in pane.status.text(), timeout=10_000)
    assert "Planer on" in pane.status.text() and "Planer gate open" in pane.status.text()
    button(pane, "Switch Planer on or off").click()
    qtbot.waitUntil(lambda: "Collector" in pane.status.text().partition("Ran:")[2], timeout=10_000)
    pane.keep_button.click()
    ran = {one.thing: one.hours for one in bench.workspace.shop.ducts.ran}
    assert set(ran) == {"planer", "collector"} and all(hours > 0 for hours in ran.values())
    assert not pane.keep_button.isEnabled()  # kept once
    pane.connect_button.click()
    assert not pane.line.is_on and "let go" in pane.status.text()


def test_nobody_on_the_port_is_said(bench: Bench, pane: SwitchPane, qtbot: QtBot) -> None:
    enter(pane.port, "9")
    pane.connect_button.click()
    qtbot.waitUntil(lambda: "No switch box answers on port 9" in pane.status.text(), timeout=10_000)
    assert pane.connect_button.text() == "Connect a switch box"


def test_a_gauge_reads_a_source_into_the_shop(bench: Bench, pane: SwitchPane, qtbot: QtBot) -> None:
    with serving(GaugeServer(Gauge({"collector": (2600.0, 0.5)}, 3))) as gauge:
        enter(field(bench, "Port on which the gauge answers"), str(gauge.port))
        pane.gauge.blocked.click()
        qtbot.waitUntil(lambda: "with its inlet blocked" in pane.status.text(), timeout=10_000)
        pane.gauge.opened.click()
        qtbot.waitUntil(lambda: "with its inlet open" in pane.status.text(), timeout=10_000)
    source = bench.workspace.shop.thing("collector").source
    assert source.sealed == pytest.approx(2600.0, rel=0.4) and source.open_flow == pytest.approx(0.5, rel=0.4)
    bench.workspace.undo()
    assert bench.workspace.shop.thing("collector").source.open_flow is None
    pane.gauge.blocked.click()  # it has gone
    qtbot.waitUntil(lambda: "No gauge answers on port" in pane.status.text(), timeout=10_000)
