"""What the ducts are bought as: how sticks are cut, what else is needed; stick, kerf and offcuts are set
here.
"""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

from purvel.app.stages.ducts.fit_row import FitRow
from purvel.app.widgets.fields import ChoiceField, length_field
from purvel.app.widgets.flow import FlowRow, beside, refilling
from purvel.app.widgets.scrolled import scrolled
from purvel.app.widgets.tables import PlainTable
from purvel.app.widgets.words import Words
from purvel.app.workspace import Workspace
from purvel.catalogue import materials
from purvel.review import Answers, Figures
from purvel.review.ducts.bill import sticks
from purvel.review.ducts.quotes import bought_from, compared, quote_table
from purvel.review.ducts.quotes import said as quotes_said
from purvel.review.ducts.report import to_buy
from purvel.shop import Offcut
from purvel.shop.edits import change_ducts


class PartsPane(QWidget):
    """Fields for what there is to cut from, and what comes of it."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self.workspace = workspace
        self._answers: Answers | None = None
        self.inner, lists = QWidget(), QWidget()
        self.fit = FitRow(workspace)
        self.box = QVBoxLayout(lists)
        self.box.setContentsMargins(0, 0, 0, 0)
        column = QVBoxLayout(self.inner)
        column.setContentsMargins(8, 4, 8, 4)
        column.addWidget(lists)
        column.addWidget(self.fit)
        column.addStretch(1)
        self.box.setSpacing(4)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(scrolled(self.inner))
        self.text: QLabel | None = None

    def fill(self, answers: Answers) -> None:
        """Shows what the ducts of a review are bought as."""
        self._answers = answers
        with refilling(self.box):
            if not answers.shop.ducts.runs:
                self._say("What is to be bought appears here once a run is drawn.")
            else:
                self._stock(answers)
                self._tables(answers)
                self._quotes(answers)
        self.fit.fill(answers)

    def _say(self, text: str) -> QLabel:
        words = Words(text)
        words.setWordWrap(True)
        self.box.addWidget(words)
        return words

    # ---- what there is to cut from

    def _stock(self, answers: Answers) -> None:
        ducts, units = answers.shop.ducts, answers.shop.units
        stick = length_field("Length of a stick of pipe", units, least=0.3, most=12.0)
        stick.show_value(ducts.stick)
        stick.entered.connect(lambda value: self._set("Length of a stick", stick=value))
        kerf = length_field("Kerf of the cut", units, least=0.0, most=0.02)
        kerf.show_value(ducts.kerf)
        kerf.entered.connect(lambda value: self._set("Kerf", kerf=value))
        self.box.addWidget(beside(Words("Stick"), stick, Words("kerf"), kerf))
        say = Figures(units)
        for number, one in enumerate(ducts.offcuts):
            made = materials()[one.material].short
            drop = QPushButton("Used up")
            drop.setAccessibleName(f"Used up: offcut {number + 1}")
            drop.clicked.connect(partial(self._drop, number))
            self.box.addWidget(
                beside(Words(f"Offcut: {made}, {say.size(one.diameter)}, {say.length(one.length)}"), drop)
            )
        pipes = [(one.material, one.size) for one in sticks(answers)]
        if pipes:
            named = [(pipe, f"{materials()[pipe[0]].short}, {say.size(pipe[1])}") for pipe in pipes]
            of = ChoiceField("Pipe that the offcut is of", named)
            length = length_field("Length of the offcut", units, least=0.05, most=12.0)
            length.entered.connect(lambda value: self._add(pipes[of.currentIndex()], value))
            self.box.addWidget(beside(Words("Add an offcut of"), of, length))

    def _set(self, what: str, **changes: float) -> None:
        self.workspace.apply(lambda shop: change_ducts(shop, **changes), f"{what} of pipe")

    def _add(self, pipe: tuple[str, float], length: float) -> None:
        offcut = Offcut(material=pipe[0], diameter=pipe[1], length=length)
        self.workspace.apply(
            lambda shop: change_ducts(shop, offcuts=(*shop.ducts.offcuts, offcut)), "Add an offcut of pipe"
        )

    def _drop(self, number: int, _: bool = False) -> None:
        offcuts = self.workspace.shop.ducts.offcuts
        left = (*offcuts[:number], *offcuts[number + 1 :])
        self.workspace.apply(lambda shop: change_ducts(shop, offcuts=left), "Use up an offcut of pipe")

    # ---- what comes of it

    def _tables(self, answers: Answers) -> None:
        lines = []
        for table in to_buy(answers, Figures(answers.shop.units)):
            lines.append(f"{table.title}:")
            lines += ["   " + ", ".join(cell for cell in row if cell) for row in table.rows]
        for one in sticks(answers):
            if not one.plan.is_proven:
                lines.append("A plan with fewer sticks was looked for only so long; there may be one.")
                break
        lines.append(
            "Pieces are from the end of an elbow to the middle of the next branch fitting or gate: fit dry, then cut."
        )
        self.text = self._say("\n".join(lines))

    # ---- what suppliers ask for it

    def _quotes(self, answers: Answers) -> None:
        table = quote_table(answers, Figures(answers.shop.units))
        if table is None:
            self._say(
                "Quotes: write “quote.csv” (☰), have each supplier's name and prices put in, and take the list in (Ctrl+I)."
            )
            return
        shown = PlainTable("Quotes of suppliers")
        shown.show_table(table)
        shown.as_high_as_it_is()
        self.box.addWidget(shown)
        self._say(" ".join(quotes_said(answers)))
        buttons = FlowRow()
        for name in compared(answers).suppliers:
            buy = QPushButton(f"Plan to buy from {name}")
            buy.clicked.connect(partial(self._buy, name))
            drop = QPushButton(f"Drop {name}")
            drop.setAccessibleName(f"Drop the quote of {name}")
            drop.clicked.connect(partial(self._forget, name))
            buttons.row.addWidget(buy)
            buttons.row.addWidget(drop)
        self.box.addWidget(buttons)

    def _buy(self, name: str, _: bool = False) -> None:
        answers = self._answers
        if answers is not None:
            self.workspace.apply(lambda shop: bought_from(shop, answers, name), f"Plan to buy from {name}")

    def _forget(self, name: str, _: bool = False) -> None:
        self.workspace.apply(
            lambda shop: change_ducts(
                shop, quotes=tuple(one for one in shop.ducts.quotes if one.name != name)
            ),
            f"Drop the quote of {name}",
        )
