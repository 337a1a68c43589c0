"""Work in a pool of threads."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QRunnable

from purvel.app.signals import Event
from purvel.stopping import Stopped


class Job(QRunnable):
    """Something done in the pool; what goes wrong there is said on the screen, not lost in a thread."""

    def __init__(self, act: Callable[[], None], failed: Event[str]) -> None:
        super().__init__()
        self._act, self._failed = act, failed

    def run(self) -> None:
        try:
            self._act()
        except Stopped:
            pass  # nobody waits for it
        except Exception as exc:  # noqa: BLE001
            self._failed.emit(f"{type(exc).__name__}: {exc}")
