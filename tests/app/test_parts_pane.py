"""Stick, kerf and offcuts are set beside what comes of them."""

import pytest
from PySide6.QtWidgets import QPushButton

from purvel.app.stages.ducts.parts_pane import PartsPane
from purvel.app.widgets.fields import ChoiceField
from purvel.shop import Offcut
from tests.app.conftest import Bench, choose, enter, field


@pytest.fixture
def pane(bench: Bench) -> PartsPane:
    bench.demo("garage-mended", "ducts")
    walk = bench.window.stages["ducts"].walk
    walk.panes.choose(6)
    bench.settle()
    return walk.parts


def test_longer_sticks_and_offcuts_change_what_is_bought(bench: Bench, pane: PartsPane) -> None:
    assert pane.text is not None
    assert pane.text.text().count("stick 3") == 2 and "Spiral steel duct" in pane.text.text()
    enter(field(bench, "Length of a stick of pipe"), "20 ft")
    bench.settle()
    assert bench.workspace.shop.ducts.stick == pytest.approx(6.096)
    assert pane.text.text().count("stick 3") == 0
    enter(field(bench, "Length of the offcut"), "4 ft")
    bench.settle()
    (offcut,) = bench.workspace.shop.ducts.offcuts
    assert offcut == Offcut(material="spiral", diameter=0.1, length=pytest.approx(1.2192))
    assert "offcut of 4'" in pane.text.text()
    next(b for b in pane.findChildren(QPushButton) if b.text() == "Used up").click()
    bench.settle()
    assert bench.workspace.shop.ducts.offcuts == ()
    bench.workspace.undo()
    assert bench.workspace.shop.ducts.offcuts == (offcut,)


def test_a_stick_of_no_length_is_refused(bench: Bench, pane: PartsPane) -> None:
    enter(field(bench, "Length of a stick of pipe"), "0")
    assert bench.workspace.shop.ducts.stick == 3.048


def test_without_ducts_it_says_what_to_do(bench: Bench) -> None:
    bench.stage("ducts")
    walk = bench.window.stages["ducts"].walk
    walk.panes.choose(6)
    bench.settle()
    assert pane_says(walk.parts, "once a run is drawn")


def pane_says(pane: PartsPane, words: str) -> bool:
    from PySide6.QtWidgets import QLabel

    return any(words in one.text() for one in pane.findChildren(QLabel) if one.isVisible())


def test_two_ends_are_brought_together(bench: Bench, pane: PartsPane) -> None:
    assert pane.fit.chain.text() == "1 adapter: Reducer 100 to 63 mm."
    enter(field(bench, "Diameter of that end"), "100.4 mm")
    assert pane.fit.chain.text() == "They fit as they are."
    kind = next(one for one in pane.findChildren(ChoiceField) if one.accessibleName() == "What that end is")
    choose(kind, "spigot")
    assert pane.fit.chain.text().startswith("1 adapter: ")
    enter(field(bench, "Diameter of this end"), "0")  # refused
    assert pane.fit.ends[0].least == 0.1


def test_an_adapter_of_ones_own_is_kept_used_and_dropped(bench: Bench, pane: PartsPane) -> None:
    kind = next(one for one in pane.findChildren(ChoiceField) if one.accessibleName() == "What this end is")
    choose(kind, "male thread")
    bench.settle()
    thread = next(
        one for one in pane.findChildren(ChoiceField) if one.accessibleName() == "Thread of this end"
    )
    choose(thread, "G 1 1/2")
    before = pane.fit.chain.text()
    assert not before.startswith("1 adapter")
    next(one for one in pane.findChildren(QPushButton) if one.text() == "I have one that does it").click()
    bench.settle()
    (own,) = bench.workspace.shop.ducts.adapters
    assert pane.fit.chain.text() == f"1 adapter: {own.name}."
    next(one for one in pane.findChildren(QPushButton) if one.accessibleName() == f"Drop {own.name}").click()
    bench.settle()
    assert pane.fit.chain.text() == before
