"""Three duct systems as a new user would make them, the actions counted: a vac with a bucket and three hand
tools on a manifold, drawn by hand; a cyclone with five drops, and a new saw that is led to, both from
proposals. Each is drawn, sized, listed and printed.
"""

import csv
from dataclasses import replace
from pathlib import Path

import pytest
from PySide6.QtWidgets import QCheckBox, QPushButton
from pytestqt.qtbot import QtBot

from purvel.app.sheets import write
from purvel.catalogue import make_thing
from purvel.files import Document
from purvel.review.ducts import routes, sizes
from purvel.review.ducts.answers import DuctAnswers
from purvel.shop import Shop
from purvel.shop.edits import put
from tests.app.conftest import Bench
from tests.app.test_actions import Count
from tests.conftest import box_room


class Ducter(Count):
    """Hands in the stage Ducts, too."""

    def pane(self, name: str) -> None:
        walk = self.bench.window.stages["ducts"].walk
        self.actions += 1
        next(one for one in walk.panes.buttons if one.text() == name).click()
        self.bench.settle()

    def pushes(self, words: str, bot: QtBot, ready: str = "") -> None:
        """A button in the instrument; a search is waited for until its button says so."""
        self.actions += 1
        walk = self.bench.window.stages["ducts"].walk
        (button,) = [one for one in walk.findChildren(QPushButton) if one.text() == words and one.isVisible()]
        button.click()
        if ready:
            bot.waitUntil(lambda: button.text() == ready, timeout=40_000)
        self.bench.settle()

    def places(self, name: str, x: float, y: float) -> str:
        """A thing set down and dragged to its place; its id."""
        self.takes(name)
        thing = self.bench.workspace.shop.things[-1]
        self.drags((thing.x, thing.y), (x, y))
        return thing.id

    def sized(self, bot: QtBot) -> None:
        self.pane("Sizes")
        self.pushes("Find sizes", bot, "Find sizes")
        self.pushes("Take these sizes", bot)


def printed(shop: Shop, folder: Path) -> list[dict[str, str]]:
    """The binder, and the rows of the list to buy."""
    write(Document(shop), folder / "binder.pdf")
    assert (folder / "binder.pdf").stat().st_size > 20_000
    write(Document(shop), folder / "bill.csv")
    with (folder / "bill.csv").open(newline="") as file:
        return list(csv.DictReader(file))


def flows(bench: Bench) -> dict[str, float]:
    """What each machine gets at most in any choice [m3/s]."""
    found: dict[str, float] = {}
    for network in bench.window.reviews.answers().of(DuctAnswers).networks:
        for one in network.sets:
            for hood in one.hoods:
                found[hood.thing] = max(found.get(hood.thing, 0.0), hood.flow)
    return found


@pytest.fixture
def quick(monkeypatch: pytest.MonkeyPatch) -> None:
    """Proposals with the first sizes that are tried; sizes are sought for a short while afterwards."""
    real = routes.sizings
    monkeypatch.setattr(routes, "sizings", lambda *args: [next(iter(real(*args)))])
    monkeypatch.setattr(sizes, "sizings", lambda *args: real(*args[:4], 0.5))


def test_a_vac_a_bucket_and_three_hand_tools_on_a_manifold(
    bench: Bench, tmp_path: Path, qtbot: QtBot
) -> None:
    bench.workspace.apply(lambda shop: replace(shop, room=box_room(4.0, 3.0), units="metric"), "A room")
    hands = Ducter(bench)
    bench.stage("place")
    vac = hands.places("Wet/dry vac", 0.6, 0.6)
    tick = next(one for one in bench.window.findChildren(QCheckBox) if "eparator" in one.text())
    tick.click()
    hands.actions += 1
    bench.settle()
    tools = [hands.places("Hand sander at the bench", x, 2.3) for x in (1.2, 2.2, 3.2)]
    bench.stage("ducts")
    hands.actions += 1
    ducts = bench.window.stages["ducts"]
    shop = bench.workspace.shop
    inlet = shop.thing(vac).spot(shop.thing(vac).source.inlet_x, shop.thing(vac).source.inlet_y)
    hands.presses("Draw a run")
    hands.types(ducts.tool.height, "900")  # the manifold hangs at the bench
    hands.clicks(*inlet)
    hands.clicks(1.2, 1.3)
    hands.clicks(3.4, 1.3)
    bench.window.plan.setFocus()
    bench.keys(*["\r"])
    hands.actions += 1
    (manifold,) = bench.workspace.shop.ducts.runs
    for tool in tools:
        thing = bench.workspace.shop.thing(tool)
        x, y = thing.spot(thing.ports[0].x, thing.ports[0].y)
        hands.clicks(min(x, 3.3), 1.3)
        hands.clicks(x, y)
    runs = bench.workspace.shop.ducts.runs
    assert len(runs) == 4 and all(run.joins is not None and run.joins.run == manifold.id for run in runs[1:])
    assert {run.material for run in runs} == {"vac-hose"}
    assert bench.workspace.shop.thing(vac).source.separator.kind == "bucket"
    hands.sized(qtbot)
    assert set(flows(bench)) == set(tools) and min(flows(bench).values()) > 0
    rows = printed(bench.workspace.shop, tmp_path)
    assert any("hose" in row["what"].lower() and row["unit"] == "m" for row in rows)
    assert hands.actions <= 36


def test_a_cyclone_with_five_drops(bench: Bench, tmp_path: Path, qtbot: QtBot, quick: None) -> None:
    bench.workspace.apply(lambda shop: replace(shop, room=box_room(8.0, 6.0), units="metric"), "A room")
    hands = Ducter(bench)
    bench.stage("place")
    hands.places("Cyclone, 2.2 kW (3 hp)", 0.7, 5.3)
    five = [
        hands.places(name, x, y)
        for name, x, y in (
            ("Table saw", 3.4, 2.6),
            ("Thickness planer", 5.6, 2.2),
            ("Jointer", 6.4, 5.2),
            ("Bandsaw", 0.8, 2.4),
            ("Drum sander", 6.8, 0.8),
        )
    ]
    bench.stage("ducts")
    hands.actions += 1
    hands.pane("Routes")
    hands.pushes("Propose routes", qtbot, "Propose routes")
    hands.pushes("Draw this one", qtbot)
    served = {run.port.thing for run in bench.workspace.shop.ducts.runs if run.port}
    assert served == set(five)
    assert sum(len(run.gates) for run in bench.workspace.shop.ducts.runs) == 5
    hands.sized(qtbot)
    rows = printed(bench.workspace.shop, tmp_path)
    assert any(row["unit"] == "stick" for row in rows) and any(row["what"] == "Gate" for row in rows)
    assert sum(float(row["amount"]) for row in rows if row["what"] == "Gate") == 5
    bare = {one.rule for one in bench.window.reviews.latest.findings}
    assert not bare & {"run-loose", "no-hood", "duct-in-door", "duct-meets", "port-free"}
    assert hands.actions <= 32


def test_a_new_saw_is_led_to(bench: Bench, tmp_path: Path, qtbot: QtBot, quick: None) -> None:
    """All that is asked for is one search and one press; undone with one, too."""
    bench.demo("garage-mended")
    saw = make_thing("table-saw", "new-saw", 5.3, 5.0)
    bench.workspace.apply(lambda shop: put(shop, replace(saw, name="New saw")), "A new saw")
    bench.settle()
    before = bench.workspace.shop
    bench.stage("ducts")
    hands = Ducter(bench)
    hands.pane("Routes")
    hands.pushes("Propose routes", qtbot, "Propose routes")
    hands.pushes("Draw this one", qtbot)
    assert "new-saw" in {run.port.thing for run in bench.workspace.shop.ducts.runs if run.port}
    assert flows(bench)["new-saw"] > 0
    hands.sized(qtbot)
    assert any("New saw" in run.name for run in bench.workspace.shop.ducts.runs)
    assert printed(bench.workspace.shop, tmp_path)
    assert hands.actions == 6
    bench.workspace.undo()
    bench.workspace.undo()
    assert bench.workspace.shop == before
