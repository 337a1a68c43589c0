"""A length typed on the plan, where the hand is."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from PySide6.QtCore import QEvent, QObject, QPointF, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QFrame, QLineEdit, QVBoxLayout, QWidget

from purvel.app.signals import Event
from purvel.app.widgets.words import Words
from purvel.quantities import LengthError, parse_length
from purvel.quantities.systems import System


@dataclass(frozen=True, slots=True)
class Choice:
    """What a typed length can be: a key, its words, and what to do with it [m]."""

    key: str
    words: str
    act: Callable[[float], None]


class LengthPrompt(QFrame):
    """A small field: Enter takes the length, Tab takes it and asks for the next, Esc leaves it."""

    _refused = Signal(object)
    done = Signal()

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._around = parent
        self.refused: Event[str] = Event(self._refused)
        self.setObjectName("card")
        self._choices: Sequence[Choice] = ()
        self._number = 0
        self._system: System = "metric"
        self.words = Words()
        self.words.setObjectName("small")
        self.line = QLineEdit()
        self.line.setAccessibleName("Exact length")
        self.line.installEventFilter(self)
        box = QVBoxLayout(self)
        box.setContentsMargins(8, 4, 8, 6)
        box.setSpacing(2)
        box.addWidget(self.words)
        box.addWidget(self.line)
        self.hide()

    @property
    def chosen(self) -> Choice:
        """What the length is taken for."""
        return self._choices[self._number % len(self._choices)]

    def ask(self, spot: QPointF, text: str, system: System, choices: Sequence[Choice], pixels: int) -> None:
        """Opens near a spot of the parent with what was typed so far."""
        self._choices, self._system = choices, system
        self._number %= len(choices)
        self.line.setText(text)
        self._refuse(False)
        self._say()
        self.setFixedWidth(max(270, pixels * 20))
        self.adjustSize()
        around = self._around.rect()
        x = min(spot.x() + 24, around.width() - self.width() - 6)
        y = min(max(4.0, spot.y() - self.height() - 16), around.height() - self.height() - 6)
        self.move(round(max(4.0, x)), round(y))
        self.show()
        self.raise_()
        self.line.setFocus()
        self.line.deselect()

    def _say(self) -> None:
        more = ";  Tab: set it, and the next" if len(self._choices) > 1 else ""
        self.words.setText(f"{self.chosen.words}{more}")
        self._around.update()

    def _refuse(self, refused: bool) -> None:
        self.line.setProperty("refused", refused)
        self.line.style().polish(self.line)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QKeyEvent.Type.KeyPress:
            if event.key() == Qt.Key.Key_Tab:
                self._set_and_go_on()
                return True
            # a line edit would let Enter through to the plan
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._take()
                return True
            if event.key() == Qt.Key.Key_Escape:
                self.hide()
                self.done.emit()
                return True
        return False

    def _set_and_go_on(self) -> None:
        """Sets what is typed, if anything is, and asks for the next."""
        if self.line.text().strip():
            length = self._read()
            if length is None:
                return
            self.chosen.act(length)
            self.line.setText("")
        self._number += 1
        self._say()

    def _read(self) -> float | None:
        try:
            length = parse_length(self.line.text(), self._system)
        except LengthError as exc:
            self._refuse(True)
            self.refused.emit(str(exc))
            return None
        self._refuse(False)
        self.refused.emit("")
        return length

    def _take(self) -> None:
        length = self._read()
        if length is not None:
            self.hide()
            self.chosen.act(length)
            self.done.emit()
