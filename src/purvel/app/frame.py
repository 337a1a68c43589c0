"""The frame: what the desktop sees of Purvel, there at once, before what it holds is loaded."""

from __future__ import annotations

from PySide6.QtCore import QEventLoop, QSettings, Qt, QTimer
from PySide6.QtGui import QCloseEvent, QKeyEvent, QPaintEvent
from PySide6.QtWidgets import QMainWindow, QWidget

from purvel.app.theme import inked, style_sheet
from purvel.app.widgets.words import Words

PAINTED_WITHIN = 300  # ms: a desktop that shows it later does not keep the shop waiting


class Frame(QMainWindow):
    """The top-level window, in the user's colours, with one line in it until it holds the whole.

    It loads nothing but Qt. `held` is closed with it, and may refuse.
    """

    def __init__(self, name: str, settings: QSettings | None = None) -> None:
        settings = settings or QSettings()
        theme = inked(settings)
        super().__init__()
        self.settings, self.theme = settings, theme
        self.held: QWidget | None = None
        self._first_paint = QEventLoop(self)
        self.setWindowTitle("Purvel")
        self.resize(1280, 800)
        self.setStyleSheet(style_sheet(self.theme.palette, self.theme.pixels))
        line = Words(f"Opening {name} …" if name else "Opening …")
        line.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.setCentralWidget(line)

    def appear(self) -> None:
        """Shows it and waits until it is painted."""
        self.show()
        QTimer.singleShot(PAINTED_WITHIN, self._first_paint, self._first_paint.quit)
        self._first_paint.exec(QEventLoop.ProcessEventsFlag.ExcludeUserInputEvents)

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        if self.held is None:
            QTimer.singleShot(0, self._first_paint, self._first_paint.quit)

    def hold(self, held: QWidget) -> None:
        """Takes in what it is the frame of; that also says its title."""
        self.held = held
        held.windowTitleChanged.connect(self.setWindowTitle)
        self.setCentralWidget(held)
        held.show()  # at once, so that what takes the keyboard can have it

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Keys come here where nothing has the keyboard: a card that had it may be gone."""
        if self.held is not None and self.focusWidget() is None:
            self.held.keyPressEvent(event)
        else:
            super().keyPressEvent(event)

    def closeEvent(self, event: QCloseEvent) -> None:
        event.setAccepted(self.held is None or self.held.close())
