"""The table of all choices of gates agrees with the review and with the plan."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from purvel.app.stages.ducts.choice_table import ChoiceTable
from purvel.review import Figures
from tests.app.conftest import Bench


def rows(table: ChoiceTable) -> list[list[str]]:
    return [
        [table.item(row, column).text() for column in range(table.columnCount())]
        for row in range(table.rowCount())
    ]


def test_each_choice_has_a_row_and_the_worst_is_marked(bench: Bench) -> None:
    bench.demo("garage", "ducts")
    walk = bench.window.stages["ducts"].walk
    assert walk.table.rowCount() == 0  # nothing is made before it is seen
    walk.panes.choose(4)
    table, say = walk.table, Figures(bench.workspace.shop.units)
    found = rows(table)
    assert [row[0].split("\n")[0] for row in found] == [
        *(walk.name_of(one) for one in walk.network.sets),
        "All open",
        "All shut",
    ]
    worst = [row[0] for row in found if row[0].endswith("worst case")]
    assert worst == ["All gates open\nworst case"]
    assert found[0][3].startswith(say.flow(walk.network.sets[0].flow))
    assert found[-1][1] == found[-1][2] == "–"


def test_going_to_a_row_looks_at_its_choice(bench: Bench) -> None:
    bench.demo("garage", "ducts")
    walk = bench.window.stages["ducts"].walk
    walk.panes.choose(4)
    table = walk.table
    table.setFocus()
    assert table.currentRow() == 0  # the one that is looked at
    QTest.keyClick(table, Qt.Key.Key_Down)
    assert bench.window.view.now.gate_set == table.ids[1]
    assert walk.flow().id == table.ids[1]
    QTest.keyClick(table, Qt.Key.Key_Up)
    assert bench.window.view.now.gate_set == table.ids[0]
    walk.choose(table.ids[2])
    assert table.currentRow() == 2
    for _ in range(10):
        QTest.keyClick(table, Qt.Key.Key_Down)
    assert bench.window.view.now.gate_set in table.ids  # all open and all shut are no choices
