"""What Purvel has to say, over the findings where it moves nothing on the plan: what the held tool waits for,
one sentence, and questions with their buttons.
"""

from collections.abc import Callable, Sequence

from PySide6.QtWidgets import QFrame, QPushButton, QVBoxLayout, QWidget

from purvel.app.widgets.flow import FlowRow, clear
from purvel.app.widgets.words import Words


class Notice(QFrame):
    """Says things without standing in the way."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("notice")
        self._column = column = QVBoxLayout(self)
        self._tray: QWidget | None = None
        column.setContentsMargins(12, 8, 8, 8)
        self.tool, self.said = Words(), Words()
        self.tool.setObjectName("tool")
        self._answers = FlowRow()
        self._row = self._answers.row
        self._row.setContentsMargins(0, 0, 0, 0)
        for label in (self.tool, self.said):
            label.setWordWrap(True)
            column.addWidget(label)
        column.addWidget(self._answers)
        self.buttons: list[QPushButton] = []
        self.waits = False
        self.guide("")
        self.say("")

    def guide(self, hint: str, tray: QWidget | None = None) -> None:
        """What the held tool waits for, over the tray of its choices; an empty hint where none is held."""
        self.tool.setText(hint)
        self.tool.setVisible(bool(hint))
        if self._tray is not None and tray is not self._tray:
            self._tray.hide()
        self._tray = tray
        if tray is not None:
            self._column.insertWidget(1, tray)
            tray.show()
        self._show()

    def say(self, sentence: str) -> None:
        """Shows a sentence; an empty one takes the last away, but no question that waits."""
        if sentence or not self.waits:
            self.ask(sentence, ())

    def ask(self, sentence: str, choices: Sequence[tuple[str, Callable[[], object]]]) -> None:
        """Shows a sentence with a button for each choice, and one to hide it."""
        clear(self._row)
        self.buttons = []
        self.waits = bool(choices)
        for label, act in (*choices, ("Hide", lambda: self.ask("", ()))):
            button = QPushButton(label)
            button.clicked.connect(lambda _=False, do=act: do())
            self._row.addWidget(button)
            self.buttons.append(button)
        self.said.setText(sentence)
        for part in (self.said, self._answers):
            part.setVisible(bool(sentence))
        self._show()

    def _show(self) -> None:
        self.setVisible(bool(self.tool.text() or self.said.text()))
