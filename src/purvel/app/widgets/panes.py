"""Panes that share a tray: side by side where there is room for all, else as many as fit, the chosen one
first.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial

from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from purvel.app.theme import Theme
from purvel.app.widgets.flow import FlowRow
from purvel.app.widgets.words import set_tip

MARGIN = 4  # px


@dataclass(frozen=True, slots=True)
class Pane:
    """A pane: its name on the button that chooses it, the least width it can be read at [letters' sizes], its
    share of what is left.
    """

    name: str
    widget: QWidget
    least: float
    share: int


class Panes(QWidget):
    """The tray."""

    def __init__(self, theme: Theme, panes: Sequence[Pane], chosen: int) -> None:
        super().__init__()
        self.theme, self.panes, self.chosen = theme, panes, chosen
        theme.changed.connect(self._share)
        self.setMinimumWidth(200)
        self.chooser = FlowRow()
        names = self.chooser.row
        names.setContentsMargins(MARGIN, MARGIN, MARGIN, 0)
        names.setSpacing(MARGIN // 2)
        row = QHBoxLayout()
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        group = QButtonGroup(self)
        self.buttons: list[QPushButton] = []
        for number, pane in enumerate(panes):
            button = QPushButton(pane.name)
            button.setCheckable(True)
            button.setChecked(number == chosen)
            button.setObjectName("pane")
            button.setMinimumWidth(20)
            set_tip(button, "There is not room for everything at once.")
            button.clicked.connect(partial(self._chosen, number))
            group.addButton(button)
            self.buttons.append(button)
            names.addWidget(button)
            row.addWidget(pane.widget, pane.share)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.chooser)
        column.addLayout(row, 1)

    def _chosen(self, number: int, _: bool = False) -> None:
        self.choose(number)

    def choose(self, number: int) -> None:
        """Has a pane shown."""
        self.chosen = number
        self.buttons[number].setChecked(True)
        self._share()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._share()

    def _share(self) -> None:
        room = self.width() / self.theme.pixels
        order = sorted(range(len(self.panes)), key=lambda number: number != self.chosen)
        shown: set[int] = set()
        for number in order:
            if not shown or self.panes[number].least <= room:
                shown.add(number)
                room -= self.panes[number].least
        for number, pane in enumerate(self.panes):
            pane.widget.setMinimumWidth(min(round(pane.least * self.theme.pixels), self.width()))
            pane.widget.setVisible(number in shown)
        self.chooser.setVisible(len(shown) < len(self.panes))
