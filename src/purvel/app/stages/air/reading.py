"""Reading a large log in a thread of its own, so that the window goes on."""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QTimer

LOOK = 30  # ms between looks whether it is done
AT_ONCE = 1_000_000  # bytes that are read while one waits


class Reading(QObject):
    """One file at a time: `work` in the thread, then `done` with what it gave, in the window's."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._thread: threading.Thread | None = None
        self._given: list[Any] = []
        self._done: Callable[[Any], object] = lambda _: None
        self._timer = QTimer(self)
        self._timer.setInterval(LOOK)
        self._timer.timeout.connect(self._look)

    @property
    def is_on(self) -> bool:
        """Whether something is being read."""
        return self._thread is not None

    def start(self, size: int, work: Callable[[], Any], done: Callable[[Any], object]) -> None:
        """Has `work` done, at once for a small file of `size` bytes. Not while another is under way. What
        goes wrong in it is given to `done` as a sentence.
        """
        if size <= AT_ONCE:
            done(work())
            return
        self._given, self._done = [], done
        self._thread = threading.Thread(target=self._run, args=(work,), daemon=True)
        self._thread.start()
        self._timer.start()

    def _run(self, work: Callable[[], Any]) -> None:
        try:
            self._given.append(work())
        except Exception as exc:  # noqa: BLE001 - else it would be read for ever
            self._given.append(f"It could not be read: {type(exc).__name__}.")

    def finish(self) -> None:
        """Waits for what is under way and brings it in."""
        if self._thread is not None:
            self._thread.join()
            self._look()

    def _look(self) -> None:
        if self._thread is None or self._thread.is_alive():
            return
        self._timer.stop()
        self._thread = None
        if self._given:
            self._done(self._given[0])
