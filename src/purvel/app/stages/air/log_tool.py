"""What is done with logs: brought in, recorded, marked, taken away."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import Literal

from PySide6.QtCore import QObject
from PySide6.QtGui import QKeySequence, QShortcut
from PySide6.QtWidgets import QFileDialog, QInputDialog

from purvel.app.reviews import Reviews
from purvel.app.stages.air.log_pane import LogPane, Span
from purvel.app.stages.air.reading import AT_ONCE, Reading
from purvel.app.stages.air.recorder import Recorder
from purvel.app.workspace import Workspace
from purvel.devices.link import Recording
from purvel.devices.monitor import PORT
from purvel.files.document import LARGEST, AttachmentError, attached
from purvel.review.air.log_answers import LogAnswers, read_attached
from purvel.roomair.decays import proposed
from purvel.roomair.logs import Log
from purvel.shop import Attachment, Shop
from purvel.shop.air import LogEvent, LogStretch
from purvel.shop.edits import fresh_id, put, remove
from purvel.shop.parts import item_of, name_of

SHORTEST_MARK = 0.2  # of the stretch before
Shows = Literal["background", "work", "decay", "zero", "source"]
MARKS: tuple[tuple[Shows, str], ...] = (
    ("background", "Mark the background"),
    ("work", "Mark work"),
    ("decay", "Mark how it decays"),
    ("zero", "Mark a test in clean air"),
    ("source", "Mark a test before a source"),
)


class LogTool(QObject):
    """Logs by hand."""

    def __init__(
        self, workspace: Workspace, reviews: Reviews, pane: LogPane, show: Callable[[], object]
    ) -> None:
        super().__init__(workspace)
        self.workspace, self.reviews, self.pane, self._show = workspace, reviews, pane, show
        self.recorder = Recorder(self)
        self.recorder.went_on.connect(self._went_on)
        self.recorder.ended.connect(self._recorded)
        self.recorder.failed.connect(self._no_monitor)
        self.reading = Reading(self)
        self.noted: list[tuple[float, str]] = []  # while recording: when [s], and what
        pane.dragged.connect(self._dragged)
        self.key = QShortcut(QKeySequence("E"), pane)
        self.key.activated.connect(self.note_event)

    def entries(self) -> list[tuple[str, Callable[[], object]]]:
        """The menu."""
        marks: list[tuple[str, Callable[[], object]]] = [
            (words, partial(self.mark, shows)) for shows, words in MARKS
        ]
        return [
            ("Import a monitor's CSV …", self.ask_file),
            ("Record from a monitor …", self.ask_port),
            ("End the recording", self.recorder.stop),
            ("Note an event (E)", self.note_event),
            *marks,
            ("Take this log away", self.take_away),
        ]

    # ---- bringing in

    def ask_file(self) -> None:
        """Asks for a CSV file."""
        path, _ = QFileDialog.getOpenFileName(
            None, "Import a log", "", "Logs (*.csv *.txt *.tsv);;All files (*)"
        )
        if path:
            self.take_file(Path(path))

    def take_file(self, path: Path) -> None:
        """Attaches a log; refused with a sentence where it is none."""
        try:
            if not path.is_file():
                self._refuse(f"{path.name} is no file.")
                return
            if path.stat().st_size > LARGEST:
                self._refuse(f"{path.name} is larger than {LARGEST // 2**20} MB.")
                return
            data = path.read_bytes()
        except OSError as exc:
            self._refuse(f"{path.name} could not be read: {(exc.strerror or str(exc)).lower()}.")
            return
        self._take(path.name, data, "Import a log")

    def _take(
        self, name: str, data: bytes, label: str, then: Callable[[str], object] = lambda _: None
    ) -> None:
        """Attaches a log once it is read; `then` is called with its id."""
        if self.reading.is_on:
            self._refuse("Another log is being read: wait for it.")
            return
        try:
            document = attached(self.workspace.document, name or "log.csv", data, "log")
        except AttachmentError as exc:
            self._refuse(str(exc))
            return
        made = document.shop.attachments[-1]
        if len(data) > AT_ONCE:
            self._tell(f"Reading {made.name}, {len(data) / 1e6:.0f} MB")
        memory = self.reviews.memory
        self.reading.start(
            len(data),
            lambda: memory.answer(read_attached, made, data, ()),
            lambda log: self._read(made, log, data, label, then),
        )

    def _read(
        self, made: Attachment, log: Log | str, data: bytes, label: str, then: Callable[[str], object]
    ) -> None:
        self.pane.live = ""
        if isinstance(log, str):
            self._refuse(f"{made.name}: {log}")
            self._tell("")
            return
        document = attached(self.workspace.document, made.name, data, "log")  # as the shop is now
        added = document.shop.attachments[-1]
        self.workspace.pick(None)
        self.workspace.attach(document, label)
        self.pane.log = added.id
        self._show()
        self.workspace.view.changed.emit()
        left = f" {log.left_out:,} lines could not be read and are left out." if log.left_out else ""
        self.workspace.said.emit(
            f"{made.name}: {len(log.seconds):,} readings over {log.minutes:.0f} min, by {log.channel().name}.{left}"
            " Now mark the background, work, and how it decays."
        )
        then(added.id)

    def _refuse(self, sentence: str) -> None:
        self.workspace.said.emit(f"{sentence} Nothing was changed.")

    # ---- recording

    def ask_port(self) -> None:
        """Asks where the monitor is."""
        port, is_set = QInputDialog.getInt(
            None, "Record from a monitor", "Port of this machine that the monitor speaks on", PORT, 1, 65535
        )
        if is_set:
            self.record(port)

    def record(self, port: int = PORT) -> None:
        """Begins to record."""
        if self.recorder.is_on:
            self.workspace.said.emit("A recording is under way: end it first.")
            return
        self.noted = []
        self.recorder.start(port)
        self._show()
        self._went_on(0)

    def _went_on(self, count: int) -> None:
        self._tell(f"Recording: {count:,} readings so far. “Log ▾” ends it, E notes an event")

    def _tell(self, live: str) -> None:
        self.pane.live = live
        self.workspace.view.changed.emit()

    def _no_monitor(self, sentence: str) -> None:
        self._tell("")
        self.workspace.said.emit(f"{sentence} “purvel simulate monitor” starts one that is simulated.")

    def _recorded(self, recording: Recording) -> None:
        self.pane.live = ""
        name = f"recording {recording.begun:%Y-%m-%d %H-%M}.csv"
        self._tell("")
        self.reading.finish()  # else there would be no place for what was recorded
        self._take(name, recording.as_csv(), "Record a log", partial(self._kept, name, recording))

    def _kept(self, name: str, recording: Recording, log: str) -> None:
        """The recording is in the shop, with what was noted while it ran."""
        self.recorder.forget_file()
        noted, self.noted = self.noted, []
        for at, words in noted:
            event = LogEvent(id=fresh_id(self.workspace.base, "event"), log=log, at=round(at, 1), name=words)
            self.workspace.apply(partial(_with_event, event), "Note an event", merge="events")
        self.workspace.end_merge()
        if recording.why_ended:
            self.workspace.said.emit(
                f"{name} is kept: {len(recording.rows):,} readings, then {recording.why_ended}."
            )

    def finish(self) -> None:
        """The shop is left: what was recorded is attached to it."""
        if self.recorder.is_on:
            self.recorder.stop()
        self.reading.finish()

    # ---- marking

    def note_event(self) -> None:
        """Notes that something happens now while it is recorded; else in the middle of a log, to be moved."""
        if self.recorder.is_on:
            words = f"event {len(self.noted) + 1}"
            self.noted.append((self.recorder.passed, words))
            self._tell(f"Noted “{words}” at {self.recorder.passed / 60:.1f} min. Recording goes on")
            return
        logs = self.reviews.answers().of(LogAnswers)
        log = self.pane.log if self.pane.log in logs.logs else next(iter(logs.logs), None)
        if log is None:
            self._refuse("There is no log to note something in, and nothing is recorded.")
            return
        at = round(float(logs.logs[log].seconds[-1]) / 2, 1)
        event = LogEvent(id=fresh_id(self.workspace.base, "event"), log=log, at=at, name="event")
        self._show()
        self.workspace.apply(lambda shop: put(shop, event), "Note an event")
        self.workspace.pick(event.id)

    def mark(self, shows: Shows) -> None:
        """Marks a stretch where it most likely is; its ends can be moved then."""
        logs = self.reviews.answers().of(LogAnswers)
        log = self.pane.log if self.pane.log in logs.logs else next(iter(logs.logs), None)
        if log is None:
            self._refuse("There is no log to mark.")
            return
        seconds, values = logs.logs[log].seconds, logs.channel(log).values
        taken = [one for one in logs.stretches if one.log == log and one.shows == shows]
        start, end = proposed(seconds, values, shows)
        if taken and shows == "work":  # a second one beside the first
            length = taken[-1].end - taken[-1].start
            start, end = taken[-1].end, min(taken[-1].end + length, float(seconds[-1]))
            if (
                end - start < SHORTEST_MARK * length
            ):  # no room is left behind the last: at the end, to be moved
                start, end = max(0.0, float(seconds[-1]) - length), float(seconds[-1])
        if end - start < 1.0:
            start, end = float(seconds[0]), float(seconds[-1])
        names = {
            "background": "Background",
            "work": "Work",
            "decay": "Decay",
            "zero": "Clean air",
            "source": "Source",
        }
        number = f" {len(taken) + 1}" if taken else ""
        stretch = LogStretch(
            id=fresh_id(self.workspace.base, "stretch"),
            log=log,
            name=f"{names[shows]}{number}",
            shows=shows,
            start=round(start, 1),
            end=round(end, 1),
        )
        self._show()
        self.workspace.apply(lambda shop: put(shop, stretch), f"Mark {shows}")
        self.workspace.pick(stretch.id)

    def _dragged(self, span: Span) -> None:
        stretch, start, end = span
        one = item_of(self.workspace.shop, stretch)
        if isinstance(one, LogStretch) and end - start >= 1.0:
            moved = replace(one, start=round(start, 1), end=round(end, 1))
            self.workspace.apply(lambda shop: put(shop, moved), f"Move the ends of {one.name or one.shows}")

    def take_away(self) -> None:
        """Takes the log that is looked at out of the shop, with its stretches."""
        log = self.pane.log
        if log is None or all(one.id != log for one in self.workspace.base.attachments):
            self._refuse("There is no log to take away.")
            return
        name = name_of(self.workspace.base, log)
        self.workspace.apply_to_document(remove(self.workspace.base, log), f"Take {name} away")


def _with_event(event: LogEvent, shop: Shop) -> Shop:
    return put(shop, event)
