"""What is made when it is seen, not before."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QVBoxLayout, QWidget


class WhenSeen(QWidget):
    """Holds a widget that `fill` fills, with what there was to show last when it comes to be seen."""

    def __init__(self, widget: QWidget, fill: Callable[..., None]) -> None:
        super().__init__()
        self._fill = fill
        self._waiting: tuple[Any, ...] | None = None
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.addWidget(widget)

    def show_these(self, *shown: Any) -> None:
        """Has `fill` called with these, at once or when they are seen."""
        self._waiting = shown
        self._catch_up()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self._catch_up()

    def _catch_up(self) -> None:
        if self._waiting is not None and self.isVisible():
            shown, self._waiting = self._waiting, None
            self._fill(*shown)
