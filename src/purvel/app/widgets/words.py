"""Words on the screen: what the shop's own names hold is shown as it is written, never read as markup."""

from html import escape

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QLabel, QWidget


class Words(QLabel):
    """A label of plain words."""

    def __init__(self, text: str = "") -> None:
        super().__init__()
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(text)


def set_tip(widget: QWidget | QAction, text: str) -> None:
    """Gives a control its tip, in plain words."""
    widget.setToolTip(plain(text))


def plain(text: str) -> str:
    """The text as Qt shows it unchanged where it would read markup."""
    return f"<span>{escape(text)}</span>" if "<" in text else text
