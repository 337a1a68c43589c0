"""One sentence above the plan, with buttons where it asks something."""

from collections.abc import Callable, Sequence

from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QWidget


class Notice(QWidget):
    """Says things without standing in the way."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("strip")
        self.row = QHBoxLayout(self)
        self.row.setContentsMargins(10, 2, 10, 2)
        self.said = QLabel()
        self.said.setWordWrap(True)
        self.row.addWidget(self.said, 1)
        self.buttons: list[QPushButton] = []
        self.waits = False
        self.hide()

    def say(self, sentence: str) -> None:
        """Shows a sentence; an empty one takes the last away, but never a question that waits for its answer."""
        if sentence or not self.waits:
            self.ask(sentence, ())

    def ask(self, sentence: str, choices: Sequence[tuple[str, Callable[[], object]]]) -> None:
        """Shows a sentence with a button for each choice, and one to hide it."""
        for button in self.buttons:
            button.hide()
            button.deleteLater()
        self.buttons = []
        self.waits = bool(choices)
        for label, act in (*choices, ("Hide", lambda: self.ask("", ()))):
            button = QPushButton(label)
            button.clicked.connect(lambda _=False, do=act: do())
            self.row.addWidget(button)
            self.buttons.append(button)
        self.said.setText(sentence)
        self.setVisible(bool(sentence))
