"""What to wear: who works, and the card for each piece of work."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from typing import Any

from PySide6.QtCore import QSignalBlocker
from PySide6.QtWidgets import QCheckBox, QWidget

from purvel.app.widgets.fields import ChoiceField, number_field
from purvel.app.widgets.flow import FlowRow
from purvel.app.widgets.scrolled import stack
from purvel.app.widgets.tables import PlainTable
from purvel.app.widgets.words import Words
from purvel.app.workspace import Workspace
from purvel.catalogue import respirators
from purvel.review import Answers, Figures
from purvel.review.air.protection import card
from purvel.shop.edits import change_air

_EMPTY = "What to wear for each piece of work appears here once the day has work in it: “Add work”."
TICKS = (("beard", "Beard"), ("glasses", "Glasses"), ("fit_tested", "Mask was fit-tested"))


class WearPane(QWidget):
    """Who works, and a table of what each piece of work asks for."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self.workspace = workspace
        self.row = FlowRow()
        self.ticks: dict[str, QCheckBox] = {}
        for key, words in TICKS:
            self.ticks[key] = QCheckBox(words)
            self.ticks[key].toggled.connect(partial(self._put, key))
            self.row.row.addWidget(self.ticks[key])
        worn = [("", "nothing"), *((key, one.name) for key, one in respirators().items())]
        self.worn: ChoiceField[str] = ChoiceField("Worn on the face", worn, widest=22)
        self.worn.entered.connect(partial(self._put, "respirator"))
        self.row.add_pair("On the face", self.worn)
        self.hearing = number_field(
            "Rating of the hearing protection (NRR; 0: none)", "dB", least=0, most=40, decimals=0
        )
        self.hearing.entered.connect(partial(self._put, "hearing"))
        self.row.add_pair("Ears, rated", self.hearing)
        self.text = Words(_EMPTY)
        self.text.setWordWrap(True)
        self.table = PlainTable("What to wear")
        stack(self, self.row, self.text, self.table)

    def fill(self, answers: Answers) -> None:
        """Shows the card of a review, and who works."""
        wearer = answers.base.air.wearer
        for key, tick in self.ticks.items():
            with QSignalBlocker(tick):
                tick.setChecked(getattr(wearer, key))
        self.worn.show_value(wearer.respirator)
        self.hearing.show_value(wearer.hearing)
        tables = list(card(answers, Figures(answers.shop.units)))
        for table in tables:
            self.table.show_table(table)
            self.table.as_high_as_it_is()
        self.table.setVisible(bool(tables))
        self.text.setVisible(not tables)

    def _put(self, key: str, value: Any) -> None:
        wearer = replace(self.workspace.shop.air.wearer, **{key: value})
        self.workspace.apply(lambda shop: change_air(shop, wearer=wearer), "Say who works")
