"""A device that is listened to in a thread of its own, one at a time."""

from __future__ import annotations

import threading
from collections.abc import Callable

from PySide6.QtCore import QObject, Signal

from purvel.app.signals import Event
from purvel.devices.link import LinkError
from purvel.review.figures import sentence_case

Listen = Callable[[Callable[[], bool]], str]
"""Listens until it is told that it is over; returns why it ended. Raises LinkError."""


class DeviceLine(QObject):
    """`said` brings what there is to say of the line: why it ended, or could not begin."""

    _said = Signal(object)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.said: Event[str] = Event(self._said)
        self._over = threading.Event()
        self._thread: threading.Thread | None = None

    @property
    def is_on(self) -> bool:
        """Whether one is listened to."""
        return self._thread is not None and self._thread.is_alive()

    def begin(self, listen: Listen) -> None:
        """Begins to listen; what was listened to is let go."""
        self.stop()
        self._over = over = threading.Event()

        def run() -> None:
            try:
                why = listen(over.is_set)
            except LinkError as exc:
                self.said.emit(str(exc))
            else:
                if why:
                    self.said.emit(f"{sentence_case(why)}.")

        self._thread = threading.Thread(target=run, daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """Lets it go."""
        self._over.set()
        if self._thread is not None:
            self._thread.join(5.0)
        self._thread = None
