"""Ctrl+K: finds kinds, things, commands and findings by a few letters."""

from collections.abc import Callable

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QHideEvent, QKeyEvent
from PySide6.QtWidgets import QApplication, QFrame, QLineEdit, QListWidget, QVBoxLayout, QWidget
from shiboken6 import isValid

Entry = tuple[str, Callable[[], object]]


class Finder(QFrame):
    """A line and a list that come up over the plan."""

    def __init__(self, parent: QWidget, home: QWidget) -> None:
        """Over `parent`; `home` has the keyboard afterwards where what had it before is gone."""
        super().__init__(parent)
        self._around = parent
        self.setObjectName("tray")
        self.line = QLineEdit()
        self.line.setPlaceholderText("Find a machine, a command, a finding …")
        self.line.setAccessibleName("Find anything")
        self.list = QListWidget()
        self.list.setAccessibleName("What was found")
        box = QVBoxLayout(self)
        box.addWidget(self.line)
        box.addWidget(self.list)
        self._entries: list[Entry] = []
        self._found: list[Entry] = []
        self._home = self._before = home
        self.line.textChanged.connect(self._filter)
        self.line.installEventFilter(self)
        self.list.itemActivated.connect(lambda _: self._do())
        self.list.itemClicked.connect(lambda _: self._do())
        self.hide()

    def hideEvent(self, event: QHideEvent) -> None:
        """The keyboard goes back to where it was."""
        if self.line.hasFocus():
            (self._before if isValid(self._before) else self._home).setFocus()
        super().hideEvent(event)

    def begin(self, entries: list[Entry]) -> None:
        """Comes up with everything that can be found now."""
        self._entries = entries
        self._before = QApplication.focusWidget() or self._home
        parent = self._around
        width = min(620, parent.width() - 60)
        self.setGeometry((parent.width() - width) // 2, 70, width, min(420, parent.height() - 120))
        self.line.clear()
        self._filter("")
        self.show()
        self.raise_()
        self.line.setFocus()

    def _filter(self, text: str) -> None:
        words = text.lower().split()
        self._found = [entry for entry in self._entries if all(word in entry[0].lower() for word in words)][
            :60
        ]
        self.list.clear()
        self.list.addItems([name for name, _ in self._found] or ["Nothing by that name."])
        self.list.setCurrentRow(0)

    def _do(self) -> None:
        row = self.list.currentRow()
        self.hide()
        if 0 <= row < len(self._found):
            self._found[row][1]()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            if event.key() in (Qt.Key.Key_Down, Qt.Key.Key_Up):
                step = 1 if event.key() == Qt.Key.Key_Down else -1
                self.list.setCurrentRow(max(0, min(self.list.count() - 1, self.list.currentRow() + step)))
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._do()
                return True
            if event.key() == Qt.Key.Key_Escape:
                self.hide()
                return True
        return super().eventFilter(watched, event)
