"""Sizes for all runs, searched behind the window: how far it is, the best so far, and one button that takes
it.
"""

from __future__ import annotations

from functools import partial
from time import monotonic

from PySide6.QtCore import QThreadPool, Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QProgressBar, QPushButton, QVBoxLayout, QWidget

from purvel.airflow.flows import NetworkResult
from purvel.airflow.sizing import AIMS, Aim, Offer
from purvel.app.job import Job
from purvel.app.signals import Event
from purvel.app.widgets.fields import ChoiceField
from purvel.app.widgets.scrolled import scrolled
from purvel.app.widgets.words import Words
from purvel.app.workspace import Workspace
from purvel.review import Answers, Figures
from purvel.review.ducts.sizes import SPEEDS, Problem, Result, Speeds, problem, said, searched, taken
from purvel.stopping import while_wanted

_EVERY = 0.2  # s between two looks at how far it is
_HINT = (
    "Looks for the diameters with which every machine gets its flow and every run its speed, in all choices of gates."
    " What hoods are asked for is set above the plan."
)


class SizesPane(QWidget):
    """One search at a time; it is stopped when another is begun, and when the window closes."""

    _told = Signal(object)
    _failed = Signal(object)

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self.workspace = workspace
        self.told: Event[tuple[int, Result]] = Event(self._told)
        self.told.connect(self._take)
        self.failed: Event[str] = Event(self._failed)
        self.failed.connect(self._fail)
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._number = 0
        self._answers: Answers | None = None
        self._network: NetworkResult | None = None
        self._of: Answers | None = None
        self.offer: Offer | None = None
        self._build()
        self._show_state(is_searching=False)

    def _build(self) -> None:
        self.aim = ChoiceField("What is sought", [("cost", "least cost"), ("loss", "least loss")], widest=12)
        self.speeds = ChoiceField(
            "Speed that runs are asked for",
            [("want", "speeds: as wanted"), ("least", "speeds: at the least")],
            widest=18,
        )
        self.button = QPushButton("Find sizes")
        self.button.clicked.connect(self._pressed)
        self.bar = QProgressBar()
        self.bar.setRange(0, 100)
        self.bar.setAccessibleName("How far the search is")
        self.text = Words(_HINT)
        self.text.setWordWrap(True)
        self.take = QPushButton("Take these sizes")
        self.take.clicked.connect(self._take_sizes)
        top = QHBoxLayout()
        for widget in (self.aim, self.speeds, self.button):
            top.addWidget(widget)
        inner = QWidget()
        column = QVBoxLayout(inner)
        column.setContentsMargins(4, 0, 4, 0)
        column.addWidget(self.text)
        column.addStretch(1)
        box = QVBoxLayout(self)
        box.setContentsMargins(8, 4, 8, 4)
        box.addLayout(top)
        box.addWidget(self.bar)
        box.addWidget(scrolled(inner), 1)
        box.addWidget(self.take)

    @property
    def label(self) -> QLabel:
        """What is said."""
        return self.text

    def show_system(self, answers: Answers, network: NetworkResult | None) -> None:
        """Goes by another review; sizes that were found for other ducts are not offered any more."""
        self._answers, self._network = answers, network
        self.button.setEnabled(network is not None)
        was = answers.shop if self._of is None else self._of.shop
        if was.ducts != answers.shop.ducts or was.things != answers.shop.things:
            self.give_up()
            self._of, self.offer = None, None
            self.text.setText("The shop has changed since; find sizes anew.")
            self._show_state(is_searching=False)

    def give_up(self) -> None:
        """Stops the search that is under way."""
        self._number += 1

    # ---- the search

    def _pressed(self) -> None:
        if self.button.text() == "Stop":
            self.give_up()
            self._show_state(is_searching=False)
            return
        if self._answers is None or self._network is None:
            return
        self.give_up()
        answers, number = self._answers, self._number
        aim, speeds = AIMS[self.aim.currentIndex()], SPEEDS[self.speeds.currentIndex()]
        try:
            posed = problem(answers, self._network, speeds)
        except ValueError as exc:
            self.text.setText(str(exc))
            return
        self._of, self.offer = answers, None
        self.text.setText("Searching …")
        self._show_state(is_searching=True)
        self._pool.start(Job(partial(self._work, number, answers, posed, (aim, speeds)), self.failed))

    def _work(self, number: int, answers: Answers, posed: Problem, how: tuple[Aim, Speeds]) -> None:
        """In the thread: tells of the best so far now and then, and of the end."""
        told = 0.0
        with while_wanted(lambda: number == self._number):
            for result in searched(posed, answers, *how):
                if result.is_over or monotonic() - told > _EVERY:
                    told = monotonic()
                    self.told.emit((number, result))

    def _fail(self, why: str) -> None:
        self.text.setText(f"The search failed ({why}).")
        self._show_state(is_searching=False)

    def _take(self, told: tuple[int, Result]) -> None:
        number, result = told
        if number != self._number or self._of is None:
            return
        self.offer = result.sizing.best
        self.text.setText("\n".join(said(self._of, result, Figures(self._of.shop.units))))
        self.bar.setValue(round(100 * result.sizing.done))
        self._show_state(is_searching=not result.is_over)

    def _show_state(self, *, is_searching: bool) -> None:
        self.button.setText("Stop" if is_searching else "Find sizes")
        self.bar.setVisible(is_searching)
        self.take.setVisible(self.offer is not None)

    def _take_sizes(self) -> None:
        offer = self.offer
        if offer is not None:
            self.give_up()
            self._show_state(is_searching=False)
            self.workspace.apply(lambda shop: taken(shop, offer), "Take the sizes that were found")
