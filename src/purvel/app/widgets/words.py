"""Words on the screen: what the shop's own names hold is shown as it is written, never read as markup."""

from html import escape

from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QLabel, QWidget


class Words(QLabel):
    """A label of plain words. It remembers how high they are when broken into lines: a list asks all that is
    in it whenever one of them changes, and to lay text out takes long.
    """

    def __init__(self, text: str = "") -> None:
        self._heights = dict[int, int]()  # by width
        super().__init__()
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(text)

    def setText(self, text: str) -> None:
        self._heights.clear()
        super().setText(text)

    def setWordWrap(self, on: bool) -> None:
        self._heights.clear()
        super().setWordWrap(on)

    def heightForWidth(self, width: int) -> int:
        if width not in self._heights:
            self._heights[width] = super().heightForWidth(width)
        return self._heights[width]

    def changeEvent(self, event: QEvent) -> None:
        if event.type() in (QEvent.Type.FontChange, QEvent.Type.StyleChange):
            self._heights.clear()
        super().changeEvent(event)


def set_tip(widget: QWidget | QAction, text: str) -> None:
    """Gives a control its tip, in plain words."""
    widget.setToolTip(plain(text))


def plain(text: str) -> str:
    """The text as Qt shows it unchanged where it would read markup."""
    return f"<span>{escape(text)}</span>" if "<" in text else text
