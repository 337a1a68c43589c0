"""What Purvel has to say, over a corner of the plan where it moves nothing: what the held tool waits for, one
sentence, and questions with their buttons.
"""

from collections.abc import Callable, Sequence

from PySide6.QtCore import QEvent, QObject, QPoint, QRect
from PySide6.QtGui import QCursor, QEnterEvent
from PySide6.QtWidgets import QApplication, QFrame, QPushButton, QVBoxLayout, QWidget

from purvel.app.widgets.flow import FlowRow, clear
from purvel.app.widgets.words import Words

EDGE = 8
"""Pixels between the notice and the edges of what it lies over."""
BROADEST = 34
"""Widths of an em that a sentence takes before it wraps."""
HIDES = 1 / 3
"""Share of the view's height that it may hide."""


class Notice(QFrame):
    """Says things without standing in the way: at the end of the plan where the hand is not."""

    def __init__(self) -> None:
        super().__init__()
        self._over: QWidget | None = None
        self._aside: QWidget | None = None
        self._is_low = False
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

    # ---- where it lies

    def lie_over(self, view: QWidget, aside: QWidget, board: QWidget) -> None:
        """Lies over a view from now on, or aside where it would hide too much of it; all on one board."""
        self.setParent(board)
        self._over, self._aside = view, aside
        for watched in (view, aside):
            watched.installEventFilter(self)
        self._show()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() in (QEvent.Type.Resize, QEvent.Type.Move):
            self._lie()
        elif event.type() == QEvent.Type.MouseMove:
            self._make_way()
        return super().eventFilter(watched, event)

    def event(self, event: QEvent) -> bool:
        heard = super().event(event)
        if event.type() == QEvent.Type.LayoutRequest:
            self._lie()  # its words changed, or their size
        return heard

    def enterEvent(self, event: QEnterEvent) -> None:
        self._make_way()

    def _make_way(self) -> None:
        """Leaves the hand its place, unless there is a button that the hand could be after."""
        if not self.said.text() and self._tray is None:
            self._lie()

    def _lie(self) -> None:
        """Takes its place: the upper end of the view, the lower where hand or keyboard would be under it."""
        if self._over is None or self._aside is None or self.isHidden():
            return
        for part in (self, *self.findChildren(QWidget)):
            part.ensurePolished()
        self._column.activate()
        area = self._on_board(self._over).adjusted(EDGE, EDGE, -EDGE, -EDGE)
        wide = min(area.width(), BROADEST * self.fontMetrics().horizontalAdvance("m"))
        high = self._column.totalHeightForWidth(wide)
        if high > area.height() * HIDES:
            area = self._on_board(self._aside)
            wide, high = area.width(), self._column.totalHeightForWidth(area.width())
        upper = QRect(area.right() + 1 - wide, area.top(), wide, high)
        lower = upper.translated(0, area.height() - high)
        places = (lower, upper) if self._is_low else (upper, lower)
        if self._is_under(places[0]) and not self._is_under(places[1]):
            self._is_low, places = not self._is_low, places[::-1]
        self.setGeometry(places[0])
        self.raise_()

    def _board(self) -> QWidget:
        board = self.parentWidget()
        assert board is not None
        return board

    def _on_board(self, area: QWidget) -> QRect:
        corner = area.mapTo(self._board(), QPoint())
        return QRect(corner, area.size())

    def _is_under(self, place: QRect) -> bool:
        """Whether the hand, or what has the keyboard on the view, would be under the notice there."""
        assert self._over is not None
        place = place.adjusted(-EDGE, -EDGE, EDGE, EDGE)
        hand = self._board().mapFromGlobal(QCursor.pos())
        typed = QApplication.focusWidget()
        if typed is None or typed is self._over or not self._over.isAncestorOf(typed):
            return place.contains(hand)
        return place.contains(hand) or place.intersects(self._on_board(typed))

    # ---- what it says

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
        self.setVisible(self._over is not None and bool(self.tool.text() or self.said.text()))
        self._lie()
