"""Quotes in the pane of parts: taken in as a list, compared, bought, dropped."""

from pathlib import Path

from PySide6.QtWidgets import QPushButton, QTableWidget

from tests.app.conftest import Bench


def test_quotes_are_taken_in_compared_bought_and_dropped(bench: Bench, tmp_path: Path) -> None:
    bench.demo("garage-mended", "ducts")
    walk = bench.window.stages["ducts"].walk
    walk.panes.choose(6)
    path = tmp_path / "tin.csv"
    path.write_text("supplier,what,inside diameter mm,each\nTin & Sons,Gate,100,9.50\n")
    bench.window.filing.take_in(path)
    bench.settle()
    (table,) = [one for one in walk.parts.findChildren(QTableWidget) if one.isVisible()]
    assert table.horizontalHeaderItem(3).text() == "Tin & Sons"
    gates = [row for row in range(table.rowCount()) if table.item(row, 0).text() == "Gate"]
    assert sum("28.50" in table.item(row, 3).text() for row in gates) == 1  # three of 100 mm

    def press(text: str) -> None:
        next(one for one in walk.parts.findChildren(QPushButton) if one.text() == text).click()
        bench.settle()

    press("Plan to buy from Tin & Sons")
    assert any(one.name.startswith("Ducts from Tin & Sons") for one in bench.workspace.shop.budget.items)
    press("Drop Tin & Sons")
    assert bench.workspace.shop.ducts.quotes == ()
    bench.workspace.undo()
    assert len(bench.workspace.shop.ducts.quotes) == 1
