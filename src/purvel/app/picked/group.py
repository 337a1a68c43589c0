"""Buttons for all that are picked together."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtWidgets import QGridLayout, QPushButton, QVBoxLayout, QWidget

from purvel.app.grouped import group_of, placings, switch_fixed, take_all_away
from purvel.app.widgets.words import Words, set_tip
from purvel.app.workspace import Workspace


class GroupPanel(QWidget):
    """Buttons for all that are picked together."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self.workspace = workspace
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        things = group_of(workspace)
        names = Words(f"{len(things)} things are picked: {', '.join(one.name or one.id for one in things)}.")
        names.setWordWrap(True)
        box.addWidget(names)
        grid = QGridLayout()
        for number, (words, act) in enumerate(placings(workspace)):
            grid.addWidget(self._button(words, act), number // 2, number % 2)
        box.addLayout(grid)
        box.addWidget(self._button("Fix or free all", partial(switch_fixed, workspace)))
        box.addWidget(self._button("Take all away", partial(take_all_away, workspace)))

    def _button(self, words: str, act: Callable[[], object]) -> QPushButton:
        made = QPushButton(words)
        set_tip(made, "Shift and click on the plan picks more things, or lets one go")
        made.clicked.connect(lambda: act())
        return made
