"""What is longer than its place."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QScrollArea, QWidget


def scrolled(widget: QWidget) -> QScrollArea:
    """An area that is as wide as its place, scrolls up and down, and is no stop for the keyboard."""
    area = QScrollArea()
    area.setWidgetResizable(True)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    area.setWidget(widget)
    return area
