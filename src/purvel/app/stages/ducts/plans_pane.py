"""Ways to collect the dust of the same machines, side by side; small and large bore at the walked machine."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from purvel.airflow.flows import HoodFlow
from purvel.app.widgets.fields import ChoiceField
from purvel.app.widgets.scrolled import stack
from purvel.app.widgets.tables import PlainTable
from purvel.app.widgets.words import Words
from purvel.review import Answers, Figures
from purvel.review.ducts.plan_words import bore_table, plan_tables, said
from purvel.review.stage import Table
from purvel.shop import Port, Thing

_SHOWN = [
    ("plans", "ways to collect it"),
    ("machines", "what each machine gets"),
    ("bore", "small and large bore"),
]


class PlansPane(QWidget):
    """One of three tables, and what it leaves unsaid."""

    def __init__(self) -> None:
        super().__init__()
        self._answers: Answers | None = None
        self._hood: HoodFlow | None = None
        self.which: ChoiceField[str] = ChoiceField("What is held against each other", _SHOWN, widest=26)
        self.which.entered.connect(lambda _: self._show())
        self.table = PlainTable("Ways to collect the dust")
        self.text = Words("")
        self.text.setWordWrap(True)
        stack(self, self.which, self.table, self.text)

    def fill(self, answers: Answers, hood: HoodFlow | None) -> None:
        """Shows the plans of a review; the bores at the machine that is walked, or the first."""
        self._answers, self._hood = answers, hood
        self._show()

    def _show(self) -> None:
        if self._answers is None:
            return
        answers, say = self._answers, Figures(self._answers.shop.units)
        table = self._wanted(answers, say)
        self.table.setVisible(table is not None)
        if table is None:
            self.text.setText(
                "Ways to collect the dust are held against each other here once a machine has a port."
            )
            return
        self.table.show_table(table)
        self.table.as_high_as_it_is()
        lines = list(said(answers, say))
        self.text.setText(" ".join(lines) if self.which.value == "plans" else lines[0])

    def _wanted(self, answers: Answers, say: Figures) -> Table | None:
        tables = list(plan_tables(answers, say))
        if not tables:
            return None
        if self.which.value == "bore":
            return bore_table(answers, *self._machine(answers), say)
        return tables[1 if self.which.value == "machines" else 0]

    def _machine(self, answers: Answers) -> tuple[Thing, Port]:
        things = [thing for thing in answers.shop.things if thing.ports]
        at = self._hood
        for thing in things:
            for port in thing.ports:
                if at is not None and (thing.id, port.id) == (at.thing, at.port):
                    return thing, port
        return things[0], things[0].ports[0]
