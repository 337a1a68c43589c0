"""A hood is designed with the flow of the machine that is picked."""

import re
from math import ceil
from pathlib import Path

import pytest
from PySide6.QtWidgets import QPushButton

from purvel.app.sheets import ExportError, write
from purvel.app.widgets.fields import ChoiceField
from purvel.files import Document
from purvel.review import Figures
from tests.app.conftest import Bench, choose, enter, field


def test_the_sheet_reckons_with_the_walked_hood_and_what_is_entered(bench: Bench) -> None:
    bench.demo("garage-mended", "ducts")
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


def test_a_hood_is_kept_printed_looked_at_and_dropped(bench: Bench, tmp_path: Path) -> None:
    bench.demo("garage-mended", "ducts")
    walk = bench.window.stages["ducts"].walk
    bench.workspace.pick("planer")
    walk.panes.choose(8)
    bench.settle()
    pane = walk.hood_sheet
    with pytest.raises(ExportError, match="There are no hoods yet"):
        write(Document(bench.workspace.shop), tmp_path / "hoods.pdf")
    enter(field(bench, "Diameter of its outlet"), "30 in")  # refused
    enter(field(bench, "Diameter of its outlet"), "4 in")
    enter(field(bench, "How deep its box is"), "6 in")
    pane.keep.click()
    bench.settle()
    (hood,) = bench.workspace.shop.ducts.hoods
    assert (hood.thing, hood.shape, hood.idea) == ("planer", "booth", "shroud")
    assert hood.outlet == pytest.approx(0.1016) and hood.depth == pytest.approx(0.1524)
    write(Document(bench.workspace.shop), tmp_path / "hoods.pdf")
    # 0.9 + 2 x 0.15 m wide, 0.6 + 2 x 0.15 high, in portrait Letter of 0.186 by 0.237 m without the overlap
    wide, high = 0.9 + 2 * hood.depth, 0.6 + 2 * hood.depth
    pages = len(re.findall(rb"/Type /Page\b", (tmp_path / "hoods.pdf").read_bytes()))
    assert pages == ceil((wide - 0.01) / 0.1859) * ceil((high - 0.01) / 0.2374)
    enter(field(bench, "Width of the opening, or length of the slot"), "3 in")
    pane.keep.click()  # the outlet does not fit
    assert len(bench.workspace.shop.ducts.hoods) == 1
    assert "does not fit a back" in bench.window.notice.said.text()

    def press(name: str) -> None:
        next(one for one in pane.findChildren(QPushButton) if one.accessibleName() == name).click()
        bench.settle()

    press(f"Look at {hood.name}")
    assert pane.opening.width == 0.9
    press(f"Drop {hood.name}")
    assert not bench.workspace.shop.ducts.hoods


def test_without_a_run_it_says_what_to_do(bench: Bench) -> None:
    bench.stage("ducts")
    walk = bench.window.stages["ducts"].walk
    walk.panes.choose(8)
    bench.settle()
    assert "draw a run" in walk.hood_sheet.text.text()
