"""The order of the work along the side of the window."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QIcon, QResizeEvent
from PySide6.QtWidgets import QToolButton, QVBoxLayout, QWidget

from purvel.app.application import stage_icon
from purvel.app.signals import Event
from purvel.app.stages import ENTRIES, Entry
from purvel.app.theme import Theme
from purvel.app.view import View
from purvel.app.widgets.words import set_tip
from purvel.review import Review

COMPACT_FROM = 19  # px of text above which the rail gives room to the middle
GAP, MARGIN = 6, 8  # px
LEAST_GAP = 2  # px between buttons where there is little height


class Rail(QWidget):
    """A button for each stage, with how much there is to mend in it."""

    _chosen = Signal(object)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.chosen: Event[str] = Event(self._chosen)
        self.setObjectName("rail")
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(GAP, MARGIN, GAP, MARGIN)
        self.buttons: list[QToolButton] = []
        for number, entry in enumerate(ENTRIES, start=1):
            button = QToolButton()
            button.setObjectName("stage")
            button.setCheckable(True)
            set_tip(button, f"{entry.record.question}  (key {key_of(number)})")
            button.clicked.connect(partial(self._choose, entry.key))
            self.column.addWidget(button)
            self.buttons.append(button)
        self.column.addStretch(1)
        theme.changed.connect(self._dress)
        self._dress()

    def _choose(self, key: str, _: bool = False) -> None:
        self.chosen.emit(key)

    def show_review(self, review: Review, view: View) -> None:
        """The stage that is looked at, and what there is to mend in each."""
        for number, (button, entry) in enumerate(zip(self.buttons, ENTRIES), start=1):
            bad = review.to_mend(entry.key)
            title = entry.record.title
            button.setText(f"{key_of(number)} {title}{f' ({bad})' if bad else ''}")
            button.setAccessibleName(f"{title}, {bad} to mend")
            button.setChecked(entry.key == view.stage)

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._lay_out()

    def _dress(self) -> None:
        for button, entry in zip(self.buttons, ENTRIES):
            button.setIcon(_icon(entry, self.theme))
        self._lay_out()

    def _lay_out(self) -> None:
        """Icons beside the words at small text, above them at large text; none where there is no height for
        them.
        """
        pixels = self.theme.pixels
        compact = pixels > COMPACT_FROM
        icon = round(pixels * 1.3)
        needed = (icon if compact else 0) + round(pixels * 2.3) + GAP
        roomy = not compact or len(self.buttons) * needed < self.height() - 2 * MARGIN
        style = Qt.ToolButtonStyle.ToolButtonTextOnly
        if roomy:
            beside, under = (
                Qt.ToolButtonStyle.ToolButtonTextBesideIcon,
                Qt.ToolButtonStyle.ToolButtonTextUnderIcon,
            )
            style = under if compact else beside
        self.column.setSpacing(GAP if roomy else LEAST_GAP)
        for button in self.buttons:
            button.setIconSize(QSize(icon, icon))
            button.setToolButtonStyle(style)
            # room for the count, so that the plan does not shift under the hand
            button.setFixedWidth(round(pixels * (6.7 if compact else 9.4)))


def key_of(number: int) -> str:
    """The digit that goes to a stage; 0 for the tenth. Stages beyond have none."""
    return str(number % 10) if number <= 10 else ""


def _icon(entry: Entry, theme: Theme) -> QIcon:
    palette = theme.palette
    return stage_icon(entry.key, palette.wood_edge, palette.accent, palette.accent_text)
