"""The rooms beyond and who is in them: what hangs there, and each of them to pick."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QWidget

from purvel.app.widgets.flow import FlowRow, clear
from purvel.app.widgets.names import NameButton
from purvel.app.widgets.scrolled import stack
from purvel.app.widgets.tables import PlainTable
from purvel.app.widgets.words import Words
from purvel.app.workspace import Workspace
from purvel.review import Answers, Figures
from purvel.review.air.beyond import rooms_table
from purvel.shop.parts import name_of

_EMPTY = (
    "What gets into the house, or to somebody who is about, appears here: “Day”, “Add”, then a room next door, a door or"
    " stair to it, or a person."
)
_NO_DAY = "Rooms are there, but no work in the session yet: “Add work”."


class RoomsPane(QWidget):
    """A table of rooms and people, and a button for each thing that can be changed."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self.workspace = workspace
        self.text = Words(_EMPTY)
        self.text.setWordWrap(True)
        self.table = PlainTable("Rooms and people")
        self.row = FlowRow()
        stack(self, self.text, self.table, self.row)

    def fill(self, answers: Answers) -> None:
        """Shows the rooms of a review."""
        air = answers.base.air
        tables = list(rooms_table(answers, Figures(answers.shop.units)))
        for table in tables:
            self.table.show_table(table)
            self.table.as_high_as_it_is()
        self.table.setVisible(bool(tables))
        self.text.setText(_NO_DAY if air.rooms or air.people else _EMPTY)
        self.text.setVisible(not tables)
        clear(self.row.row)
        parts = (air.rooms, air.passages, air.people)
        for item in (one.id for part in parts for one in part):
            button = NameButton(name_of(answers.base, item))
            button.clicked.connect(partial(self._pick, item))
            self.row.row.addWidget(button)

    def _pick(self, item: str, _: bool = False) -> None:
        self.workspace.pick(item)
