"""What is longer than its place."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QScrollArea, QVBoxLayout, QWidget


def scrolled(widget: QWidget) -> QScrollArea:
    """An area that is as wide as its place, scrolls up and down, and is no stop for the keyboard."""
    area = QScrollArea()
    area.setWidgetResizable(True)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    area.setWidget(widget)
    return area


def stack(pane: QWidget, *widgets: QWidget) -> None:
    """Lays widgets one above the other in a pane, which scrolls as a whole."""
    inner = QWidget()
    box = QVBoxLayout(inner)
    box.setContentsMargins(8, 4, 8, 4)
    for widget in widgets:
        box.addWidget(widget)
    box.addStretch(1)
    outer = QVBoxLayout(pane)
    outer.setContentsMargins(0, 0, 0, 0)
    outer.addWidget(scrolled(inner))
