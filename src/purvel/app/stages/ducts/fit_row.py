"""Two ends that are to be brought together: what does it, and adapters of one's own that do."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from typing import Any

from PySide6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

from purvel.airflow.adapters import End
from purvel.app.widgets.fields import ChoiceField, length_field
from purvel.app.widgets.flow import FlowRow, beside, refilling
from purvel.app.widgets.words import Words
from purvel.app.workspace import Workspace
from purvel.catalogue.adapters import threads
from purvel.review import Answers, Figures
from purvel.review.ducts.fitted import between, fitted, own_set
from purvel.shop.ducts import EndForm
from purvel.shop.edits import put, remove

_FORMS: list[tuple[EndForm, str]] = [
    ("spigot", "outside (goes in)"),
    ("socket", "inside (goes over)"),
    ("male thread", "male thread"),
    ("female thread", "female thread"),
]


class FitRow(QWidget):
    """The ends are not in the shop; adapters of one's own are."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self.workspace = workspace
        self._answers: Answers | None = None
        self.ends = [End("spigot", 0.1, 0.1), End("socket", 0.0635, 0.0635)]
        self.box = QVBoxLayout(self)
        self.box.setContentsMargins(0, 0, 0, 0)
        self.box.setSpacing(4)
        self.chain: QLabel = Words("")

    def fill(self, answers: Answers) -> None:
        """Shows the ends in the reader's units, what leads from one to the other, and the own adapters."""
        self._answers = answers
        with refilling(self.box):
            fields = [field for number in (0, 1) for field in self._end(number, answers)]
            self.box.addWidget(beside(Words("Fit"), *fields[:2], Words("onto"), *fields[2:]))
            self.chain = Words(self._fitted(answers))
            self.chain.setWordWrap(True)
            self.box.addWidget(self.chain)
            have = QPushButton("I have one that does it")
            have.clicked.connect(self._keep)
            self.box.addWidget(have)
            for one in answers.shop.ducts.adapters:
                drop = QPushButton("Drop")
                drop.setAccessibleName(f"Drop {one.name}")
                drop.clicked.connect(partial(self._drop, one.id))
                row = FlowRow()
                row.row.addWidget(Words(one.name))
                row.row.addWidget(drop)
                self.box.addWidget(row)

    def _end(self, number: int, answers: Answers) -> tuple[QWidget, QWidget]:
        which, end = ("this", "that")[number], self.ends[number]
        kind = ChoiceField(f"What {which} end is", _FORMS, widest=11)
        kind.show_value(end.form)
        kind.entered.connect(partial(self._set_form, number))
        if "thread" in end.form:
            thread = ChoiceField(f"Thread of {which} end", [(one, one) for one in threads()], widest=8)
            thread.show_value(end.thread)
            thread.entered.connect(partial(self._set_end, number, "thread"))
            return kind, thread
        size = length_field(f"Diameter of {which} end", answers.shop.units, least=0.005, most=0.6)
        size.show_value(end.least)
        size.entered.connect(partial(self._set_end, number, "size"))
        return kind, size

    def _set_form(self, number: int, form: EndForm) -> None:
        """A thread has a name and no size, the others a size and no name."""
        size = self.ends[number].least or 0.05
        self.ends[number] = End(form, thread=threads()[0]) if "thread" in form else End(form, size, size)
        if self._answers is not None:
            self.fill(self._answers)

    def _set_end(self, number: int, what: str, value: Any) -> None:
        was = self.ends[number]
        changes = {"thread": value} if what == "thread" else {"least": value, "most": value}
        self.ends[number] = replace(was, **changes)
        if self._answers is not None:
            self.chain.setText(self._fitted(self._answers))

    def _fitted(self, answers: Answers) -> str:
        return " ".join(
            fitted(self.ends[0], self.ends[1], Figures(answers.shop.units), own_set(answers.shop))
        )

    def _keep(self) -> None:
        say = Figures(self.workspace.shop.units)
        self.workspace.apply(
            lambda shop: put(shop, between(self.ends[0], self.ends[1], shop, say)), "Keep an adapter"
        )

    def _drop(self, adapter: str, _: bool = False) -> None:
        self.workspace.apply(lambda shop: remove(shop, adapter), "Drop an adapter")
