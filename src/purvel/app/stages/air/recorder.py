"""Recording from a monitor in a thread of its own; what is heard is written to a file at once."""

from __future__ import annotations

import threading
from pathlib import Path

from platformdirs import user_data_path
from PySide6.QtCore import QObject, QTimer, Signal

from purvel.app.signals import Event
from purvel.devices.link import LinkError, Recording, listen

LOOK = 500  # ms between looks at how far it is
WRITE_EACH = 6  # readings


def recordings_folder() -> Path:
    """Where recordings are until they are in a shop."""
    return user_data_path("purvel", appauthor=False) / "recordings"


class Recorder(QObject):
    """One recording at a time. `went_on` tells how many readings there are; `ended` brings the recording,
    `failed` the sentence that says why there is none.
    """

    went_on = Signal(int)
    _ended = Signal(object)
    _failed = Signal(object)

    def __init__(self, parent: QObject, folder: Path | None = None) -> None:
        super().__init__(parent)
        self.folder = folder or recordings_folder()
        self.ended: Event[Recording] = Event(self._ended)
        self.failed: Event[str] = Event(self._failed)
        self.path: Path | None = None
        self._over = threading.Event()
        self._thread: threading.Thread | None = None
        self._outcome: Recording | str | None = None
        self._count, self._passed = 0, 0.0
        self._timer = QTimer(self)
        self._timer.setInterval(LOOK)
        self._timer.timeout.connect(self._look)

    @property
    def is_on(self) -> bool:
        """Whether something is being recorded."""
        return self._thread is not None

    @property
    def passed(self) -> float:
        """How long it has gone on, by what the monitor says [s]."""
        return self._passed

    def start(self, port: int) -> None:
        """Begins to listen on a port of this machine."""
        if self.is_on:
            return
        self._over.clear()
        self._outcome, self._count, self._passed = None, 0, 0.0
        self._thread = threading.Thread(target=self._run, args=(port,), daemon=True)
        self._thread.start()
        self._timer.start()

    def stop(self) -> None:
        """Ends it; what was heard comes by `ended` before this returns."""
        self._over.set()
        if self._thread is not None:
            self._thread.join(5.0)
            self._look()

    def forget_file(self) -> None:
        """The recording is in the shop: its own file is not needed any more."""
        if self.path is not None:
            self.path.unlink(missing_ok=True)
        self.path = None

    def _run(self, port: int) -> None:
        try:
            self._outcome = listen(port, self._heard, self._over.is_set)
        except LinkError as exc:
            self._outcome = str(exc)

    def _heard(self, recording: Recording) -> None:
        """Keeps what is heard in a file, for a machine that stops in the middle."""
        self._count = len(recording.rows)
        self._passed = float(recording.rows[-1][0]) - float(recording.rows[0][0])
        if self._count % WRITE_EACH:
            return
        try:
            if self.path is None:
                self.folder.mkdir(parents=True, exist_ok=True)
                self.path = self.folder / f"recording {recording.begun:%Y-%m-%d %H-%M-%S}.csv"
                self.path.write_bytes(recording.as_csv())
            else:
                with self.path.open("ab") as file:
                    file.write(recording.lines(self._count - WRITE_EACH))
        except OSError:
            self.path = None  # the recording goes on without

    def _look(self) -> None:
        if self._outcome is None:
            self.went_on.emit(self._count)
            return
        self._timer.stop()
        outcome, self._outcome, self._thread = self._outcome, None, None
        if isinstance(outcome, str):
            self.failed.emit(outcome)
        else:
            self.ended.emit(outcome)
