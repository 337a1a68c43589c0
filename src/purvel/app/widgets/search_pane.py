"""A pane with a long search behind the window: one button that begins and stops it, how far it is, what is
best so far in words, and a button that takes it.
"""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Callable, Iterator
from functools import partial
from time import monotonic
from typing import Any

from PySide6.QtCore import QThreadPool, Signal
from PySide6.QtWidgets import QLabel, QProgressBar, QPushButton, QVBoxLayout, QWidget

from purvel.app.job import Job
from purvel.app.signals import Event
from purvel.app.widgets.flow import FlowRow
from purvel.app.widgets.scrolled import scrolled
from purvel.app.widgets.words import Words
from purvel.review import Answers
from purvel.stopping import while_wanted

_EVERY = 0.2  # s between two looks at how far it is


class SearchPane(QWidget):
    """One search at a time; it is stopped when another is begun, when the shop changes, and when the window
    closes. A search is an iterator of results of any kind, the best known so far; the last is the answer.
    """

    _told = Signal(object)
    _failed = Signal(object)

    def __init__(self, begin: str, take: str, hint: str) -> None:
        super().__init__()
        self.told: Event[tuple[int, Any]] = Event(self._told)
        self.told.connect(self._take)
        self.failed: Event[str] = Event(self._failed)
        self.failed.connect(self._fail)
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._number = 0
        self._begin_text = begin
        self.answers: Answers | None = None  # of the review that is shown
        self.of: Answers | None = None  # that what was found is of
        self.found: Any = None
        self._build(begin, take, hint)
        self._show_state(is_searching=False)

    def _build(self, begin: str, take: str, hint: str) -> None:
        self.top = FlowRow()
        self.button = QPushButton(begin)
        self.button.clicked.connect(self._pressed)
        self.bar = QProgressBar()
        self.bar.setRange(0, 100)
        self.bar.setAccessibleName("How far the search is")
        self.label: QLabel = Words(hint)
        self.label.setWordWrap(True)
        self.bottom = FlowRow()
        self.take = QPushButton(take)
        self.take.clicked.connect(self._taken)
        inner = QWidget()
        column = QVBoxLayout(inner)
        column.setContentsMargins(4, 0, 4, 0)
        column.addWidget(self.label)
        column.addStretch(1)
        box = QVBoxLayout(self)
        box.setContentsMargins(8, 4, 8, 4)
        box.addWidget(self.top)
        box.addWidget(self.bar)
        box.addWidget(scrolled(inner), 1)
        box.addWidget(self.bottom)

    # ---- what a search is, by the pane

    @abstractmethod
    def posed(self, answers: Answers) -> Callable[[], Iterator[Any]]:
        """The search as it would be begun now. Raises ValueError where there is nothing to search, and says
        why.
        """

    @abstractmethod
    def words(self, result: Any) -> str:
        """What a result says."""

    @abstractmethod
    def done(self, result: Any) -> tuple[float, bool]:
        """How far a search with this result is [-], and whether it is over."""

    @abstractmethod
    def is_offered(self, result: Any) -> bool:
        """Whether there is something to take."""

    @abstractmethod
    def take_it(self, result: Any) -> None:
        """Takes what was found into the shop."""

    # ---- one search

    def show_answers(self, answers: Answers) -> None:
        """Goes by another review; what was found for another shop is not offered any more."""
        self.answers = answers
        was = answers.shop if self.of is None else self.of.shop
        if (
            was.ducts != answers.shop.ducts
            or was.things != answers.shop.things
            or was.room != answers.shop.room
        ):
            self.give_up()
            self.of, self.found = None, None
            self.label.setText("The shop has changed since; search anew.")
            self._show_state(is_searching=False)

    def give_up(self) -> None:
        """Stops the search that is under way."""
        self._number += 1

    def _pressed(self) -> None:
        if self.button.text() == "Stop":
            self.give_up()
            self._show_state(is_searching=False)
            return
        if self.answers is None:
            return
        self.give_up()
        try:
            search = self.posed(self.answers)
        except ValueError as exc:
            self.label.setText(str(exc))
            return
        self.of, self.found = self.answers, None
        self.label.setText("Searching …")
        self._show_state(is_searching=True)
        self._pool.start(Job(partial(self._work, self._number, search), self.failed))

    def _work(self, number: int, search: Callable[[], Iterator[Any]]) -> None:
        """In the thread: tells of the best so far now and then, and of the end."""
        told = 0.0
        with while_wanted(lambda: number == self._number):
            for result in search():
                if self.done(result)[1] or monotonic() - told > _EVERY:
                    told = monotonic()
                    self.told.emit((number, result))

    def _fail(self, why: str) -> None:
        self.label.setText(f"The search failed ({why}).")
        self._show_state(is_searching=False)

    def _take(self, told: tuple[int, Any]) -> None:
        number, result = told
        if number != self._number or self.of is None:
            return
        self.found = result
        done, is_over = self.done(result)
        self.label.setText(self.words(result))
        self.bar.setValue(round(100 * done))
        self._show_state(is_searching=not is_over)

    def _show_state(self, *, is_searching: bool) -> None:
        self.button.setText("Stop" if is_searching else self._begin_text)
        self.bar.setVisible(is_searching)
        self.bottom.setVisible(self.found is not None and self.is_offered(self.found))

    def _taken(self) -> None:
        if self.found is not None:
            self.give_up()
            self._show_state(is_searching=False)
            self.take_it(self.found)
