"""What helps the air most: measures by the dose that they save; one is done with a press."""

from __future__ import annotations

from PySide6.QtWidgets import QPushButton, QWidget

from purvel.app.widgets.fields import ChoiceField
from purvel.app.widgets.flow import FlowRow
from purvel.app.widgets.scrolled import stack
from purvel.app.widgets.tables import PlainTable
from purvel.app.widgets.words import Words
from purvel.app.workspace import Workspace
from purvel.review import Answers, Figures
from purvel.review.air.help_words import help_tables, said
from purvel.review.air.helps import Measure, measures

_EMPTY = "What helps most appears here once the day has work in it: “Add work”."


class HelpsPane(QWidget):
    """A table of measures, what they come to, a table of what is assumed."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self.workspace = workspace
        self.found: list[Measure] = []
        self.measures, self.assumed = PlainTable("What helps most"), PlainTable("What is assumed")
        self.sizes = PlainTable("Which cleaner")
        self.text = Words(_EMPTY)
        self.text.setWordWrap(True)
        self.row = FlowRow()
        self.which: ChoiceField[int] = ChoiceField("Measure to take", [(0, "none")], widest=30)
        self.take = QPushButton("Do this")
        self.take.clicked.connect(self._take)
        self.row.row.addWidget(self.which)
        self.row.row.addWidget(self.take)
        stack(self, self.measures, self.row, self.text, self.sizes, self.assumed)

    def fill(self, answers: Answers) -> None:
        """Shows what would help the day of a review."""
        say, found = Figures(answers.shop.units), measures(answers)
        self.found = [one for one in found if one.edit is not None]
        tables = list(help_tables(answers, say))
        self.text.setText(" ".join(said(answers, found, say)) if tables else _EMPTY)
        for shown, table in zip((self.measures, self.sizes, self.assumed), tables):
            shown.show_table(table)
            shown.as_high_as_it_is()
        for widget in (self.measures, self.sizes, self.assumed):
            widget.setVisible(bool(tables))
        self.row.setVisible(bool(self.found))
        self.which.show_choices([(n, one.name) for n, one in enumerate(self.found)])

    def _take(self) -> None:
        at = self.which.value
        if at is None or at >= len(self.found):
            return
        one = self.found[at]
        if one.edit is not None:
            self.workspace.apply(one.edit, one.name)
