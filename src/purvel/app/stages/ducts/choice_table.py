"""All choices of gates in a table: what is worst off in each, the worst of all marked."""

from __future__ import annotations

from PySide6.QtCore import QSignalBlocker
from PySide6.QtGui import QColor, QFont
from PySide6.QtWidgets import QTableWidgetItem

from purvel.airflow.flows import GateSetFlow, NetworkResult
from purvel.app.theme import Theme
from purvel.app.widgets.tables import PlainTable, cell
from purvel.app.workspace import Workspace
from purvel.review import Answers, Figures, Grade
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.flow_rules import grade_of_choice
from purvel.review.ducts.standing import worst_of_choice
from purvel.shop.parts import name_of

HEADS = ("Choice of gates", "Worst hood, of its need", "Slowest run, of its speed", "In all")


class ChoiceTable(PlainTable):
    """A row for each choice, then all open and all shut; going to a row looks at it on the plan."""

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__("All choices of gates", HEADS)
        self.workspace, self.theme = workspace, theme
        self.ids: list[str] = []
        self.itemSelectionChanged.connect(self._look)

    def fill(self, answers: Answers, network: NetworkResult | None, chosen: str | None) -> None:
        """Shows the choices of one system, one of them looked at."""
        with QSignalBlocker(self):
            if network is None:
                self.ids = []
                self.setRowCount(0)
                return
            ducts = answers.of(DuctAnswers)
            bounds = ducts.bounds(network).sets if any(one.gates for one in network.layout.segments) else ()
            self.ids = [one.id for one in network.sets]
            self.setRowCount(len(self.ids) + len(bounds))
            ranks = [_rank(answers, network, one) for one in network.sets]
            worst = ranks.index(min(ranks))
            for row, one in enumerate((*network.sets, *bounds)):
                is_use = row < len(self.ids)
                is_worst = row == worst and ranks[row][0] < Grade.GOOD
                cells = _cells(answers, network, one, is_worst=is_worst)
                for column, text in enumerate(cells):
                    item = self._item(text, ranks[row][0] if is_use else None)
                    font = QFont(item.font())
                    font.setBold(is_worst and column == 0)
                    item.setFont(font)
                    self.setItem(row, column, item)
            self.resizeRowsToContents()
            if chosen in self.ids:
                self.selectRow(self.ids.index(chosen))

    def _item(self, text: str, grade: Grade | None) -> QTableWidgetItem:
        item = cell(text)
        colour = self.theme.palette.pencil if grade is None else self.theme.palette.grade(grade)
        item.setForeground(QColor(colour))
        return item

    def _look(self) -> None:
        row = self.currentRow()
        if 0 <= row < len(self.ids):
            self.workspace.view.look_at(gate_set=self.ids[row])


def _rank(answers: Answers, network: NetworkResult, one: GateSetFlow) -> tuple[Grade, float]:
    worst = worst_of_choice(answers.shop, network.layout, one)
    return grade_of_choice(answers.shop, network.layout, one), min(worst.hood_share, worst.speed_share)


def _cells(answers: Answers, network: NetworkResult, one: GateSetFlow, *, is_worst: bool) -> tuple[str, ...]:
    """What a row says."""
    say, layout = Figures(answers.shop.units), network.layout
    name = answers.of(DuctAnswers).choice_name(one.id)
    worst = worst_of_choice(answers.shop, layout, one)
    hood = slow = "–"
    if worst.hood is not None:
        end = one.hoods[worst.hood]
        hood = f"{name_of(answers.shop, end.thing)}: {say.flow(end.flow)}, {worst.hood_share:.0%}"
    if worst.segment is not None:
        run = name_of(answers.shop, layout.segments[worst.segment].run)
        speed = abs(one.segments[worst.segment].speed)
        slow = f"{run}: {say.speed(speed)}, {worst.speed_share:.0%}"
    called = f"{name}\nworst case" if is_worst else name
    return called, hood, slow, f"{say.flow(one.whole_flow)}, {say.pressure(one.source_pressure)}"
