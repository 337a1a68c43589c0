"""Keeping the work: the file it is of, saving, and autosave off the interface's thread.

Nothing here loses work.
"""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QObject, QRunnable, QThreadPool, QTimer, Signal

from purvel.app.signals import Event
from purvel.app.workspace import Workspace
from purvel.files import Document, FileError, save
from purvel.files.autosave import Leftover, Origin, Slot
from purvel.files.stamp import stamp_of
from purvel.shop import Shop

AUTOSAVE_AFTER = 500  # ms after a change
TRY_AGAIN_AFTER = 10_000  # ms after an autosave that failed

Outcome = tuple[Shop, str]  # of which shop, and why it failed; empty where it did not


class _Keep(QRunnable):
    def __init__(self, keeper: Keeper, slot: Slot, document: Document, origin: Origin) -> None:
        super().__init__()
        self._keeper, self._slot, self._document, self._origin = keeper, slot, document, origin

    def run(self) -> None:
        reason = ""
        try:
            self._slot.keep(self._document, self._origin)
        except Exception as exc:  # noqa: BLE001  # whatever goes wrong is said, and tried again
            reason = (exc.strerror or str(exc)).lower() if isinstance(exc, OSError) else str(exc)
        self._keeper.outcome = (self._document.shop, reason)
        self._keeper.done.emit(self._keeper.outcome)


class Keeper(QObject):
    """Knows the open file and its stamp, what of the work is saved, and what is kept in the autosave slot."""

    saved = Signal()
    _done = Signal(object)

    def __init__(self, workspace: Workspace, folder: Path | None = None) -> None:
        super().__init__(workspace)
        self.workspace, self._folder = workspace, folder
        self.done: Event[Outcome] = Event(self._done)
        self.done.connect(self._took)
        self.outcome: Outcome | None = None  # of the last autosave, as its thread left it
        self.origin = Origin()
        self._saved: Shop | None = workspace.base
        self._kept: Shop | None = None
        self._said_failed = False
        self.slot: Slot | None = None
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._autosave)
        self._new_slot()
        workspace.changed.connect(self._changed)

    @property
    def path(self) -> Path | None:
        """The open file."""
        return self.origin.path

    @property
    def is_dirty(self) -> bool:
        """Whether there is work that is not in the file."""
        return self.workspace.base is not self._saved

    @property
    def is_kept(self) -> bool:
        """Whether all work is either in the file or in the autosave slot."""
        return not self.is_dirty or self.workspace.base is self._kept

    # ---- autosave

    def _changed(self) -> None:
        if not self._timer.isActive() and (self.is_dirty or self._kept is not None):
            self._timer.start(AUTOSAVE_AFTER)

    def _autosave(self) -> None:
        """Has the work kept by the pool's thread; forgets what is kept once all of it is undone or saved."""
        if not self.is_dirty:
            self._forget()
        elif self.workspace.base is not self._kept:
            self._start()

    def _start(self) -> None:
        if self.slot is None:
            self._new_slot()
        if self.slot is not None:
            document = Document(self.workspace.base, dict(self.workspace.blobs))
            self._pool.start(_Keep(self, self.slot, document, self.origin))

    def _took(self, outcome: Outcome) -> None:
        shop, reason = outcome
        if not reason:
            self._kept = shop
            self._said_failed = False
            if shop is not self.workspace.base:
                self._changed()
            return
        if not self._said_failed:
            self.workspace.said.emit(
                f"Autosave failed ({reason}) and is tried again. Save your work with Ctrl+S."
            )
        self._said_failed = True
        self._timer.start(TRY_AGAIN_AFTER)

    def _forget(self) -> None:
        self._pool.waitForDone()
        self._kept = None
        if self.slot is not None:
            try:
                self.slot.clear()
            except OSError:
                return  # what stays is offered again, which loses nothing

    def keep_now(self) -> bool:
        """Has the work kept and waits for it; whether nothing would be lost now."""
        self._timer.stop()
        self._pool.waitForDone()
        if not self.is_kept:
            self.outcome = None
            self._start()
            self._pool.waitForDone()
            if self.outcome is not None:
                self._took(self.outcome)
        return self.is_kept

    def _new_slot(self) -> None:
        self.slot = None
        try:
            self.slot = Slot(self._folder)
        except OSError as exc:
            if not self._said_failed:
                reason = exc.strerror or str(exc)
                sentence = f"Autosave is off: the data folder cannot be written ({reason}). Save your work with Ctrl+S."
                QTimer.singleShot(0, self, lambda: self.workspace.said.emit(sentence))
            self._said_failed = True

    # ---- opening and saving

    def open(self, document: Document, path: Path | None) -> None:
        """Takes a document from a file, or one that is of no file, into the workspace."""
        self._leave_slot()
        self.origin = Origin(path, None if path is None else stamp_of(path))
        self._saved = document.shop
        self.workspace.open(document.shop, document.blobs)

    def recover(self, left: Leftover) -> None:
        """Takes work that was left into the workspace; its file counts as it was when the work was read from
        it.
        """
        self._leave_slot()
        self.origin = left.origin
        self._saved = None
        self.workspace.open(left.shop, left.document.blobs)

    def _leave_slot(self) -> None:
        self._timer.stop()
        self._pool.waitForDone()
        self._kept = None
        if self.slot is not None and not self.is_dirty:
            self._forget()

    def put_aside(self) -> bool:
        """Leaves the work in its slot for the next start and goes on with a new slot; whether that could be
        done.
        """
        if not self.keep_now() or self.slot is None:
            return False
        self.slot.let_go()
        self._kept = None
        self._saved = self.workspace.base  # it is the slot's now
        self._new_slot()
        return True

    def was_written_by_others(self, path: Path) -> bool:
        """Whether the open file is not as it was when it was last read or written here."""
        return path == self.path and stamp_of(path) not in (None, self.origin.stamp)

    def save(self, path: Path) -> str:
        """Writes the file; why it could not be done, empty where it was. Nothing is lost where it fails."""
        try:
            save(self.workspace.document, path)
        except FileError as exc:
            return str(exc)
        self._timer.stop()
        self.origin = Origin(path, stamp_of(path))
        self._saved = self.workspace.base
        self._forget()
        self.saved.emit()
        return ""

    def close(self) -> None:
        """Ends the work: what is not saved stays in the slot for the next start."""
        self.keep_now()
        self._timer.stop()
        if self.slot is not None:
            if self.is_dirty:
                self.slot.let_go()
            else:
                self.slot.close()
        self.slot = None
