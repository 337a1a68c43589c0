"""The workspace: the shop that is being worked on, its undo, its file. Holds no widget."""

from pathlib import Path

from PySide6.QtCore import QObject, QTimer, Signal

from purvel.app.signals import Event
from purvel.app.view import ViewState
from purvel.files import FileError, save
from purvel.files.autosave import Slot
from purvel.shop import Fixture, Shop, Thing
from purvel.shop.edits import Edit
from purvel.shop.parts import item_of

AUTOSAVE_AFTER = 2_000  # ms after a change
UNDO_DEPTH = 500


class Workspace(QObject):
    """Edits go through `apply`; everything on the screen follows `changed` and `previewed`."""

    changed = Signal()
    previewed = Signal()
    _said = Signal(object)

    def __init__(self, parent: QObject | None = None, autosave_folder: Path | None = None) -> None:
        super().__init__(parent)
        self.said: Event[str] = Event(self._said)
        self.view = ViewState(self)
        self.shop = Shop()
        self.path: Path | None = None
        self._preview: Shop | None = None
        self._undo: list[tuple[str, Shop]] = []
        self._redo: list[tuple[str, Shop]] = []
        self._merge: str | None = None
        self._saved: Shop = self.shop
        self._folder = autosave_folder
        self.slot: Slot | None = None
        self._new_slot()
        self._autosave = QTimer(self)
        self._autosave.setSingleShot(True)
        self._autosave.setInterval(AUTOSAVE_AFTER)
        self._autosave.timeout.connect(self.autosave)

    @property
    def shown(self) -> Shop:
        """The shop on the screen: the previewed one while a move is being looked at."""
        return self._preview or self.shop

    @property
    def is_previewing(self) -> bool:
        """Whether a move is being looked at."""
        return self._preview is not None

    @property
    def is_dirty(self) -> bool:
        """Whether there is work that is not in the file."""
        return self.shop is not self._saved

    # ---- edits

    def apply(self, edit: Edit, label: str, merge: str | None = None) -> None:
        """Makes an edit.

        Edits in a row with the same `merge` key are undone together, such as the steps of a drag.
        """
        after = edit(self.shop)
        self._preview = None
        if after == self.shop:
            return
        if merge is None or merge != self._merge:
            self._undo.append((label, self.shop))
            del self._undo[:-UNDO_DEPTH]
        self._redo.clear()
        self._merge = merge
        self._set(after)

    def end_merge(self) -> None:
        """The next edit is a step of its own."""
        self._merge = None

    def undo(self) -> None:
        """Back one step."""
        self._step(self._undo, self._redo)

    def redo(self) -> None:
        """Forward again."""
        self._step(self._redo, self._undo)

    def _step(self, source: list[tuple[str, Shop]], target: list[tuple[str, Shop]]) -> None:
        if not source:
            return
        label, shop = source.pop()
        target.append((label, self.shop))
        self._merge = None
        self._preview = None
        self._set(shop)

    @property
    def undo_label(self) -> str:
        """What undo would take back, empty if nothing."""
        return self._undo[-1][0] if self._undo else ""

    @property
    def redo_label(self) -> str:
        """What redo would bring back, empty if nothing."""
        return self._redo[-1][0] if self._redo else ""

    def preview(self, edit: Edit | None) -> None:
        """Shows what an edit would do without making it; None goes back to the shop."""
        self._preview = None if edit is None else edit(self.shop)
        self.previewed.emit()

    def _set(self, shop: Shop) -> None:
        self.shop = shop
        if not self._autosave.isActive():
            self._autosave.start()
        self.changed.emit()

    # ---- what is picked

    @property
    def picked(self) -> str | None:
        """The id of what is picked."""
        return self.view.now.picked

    def pick(self, item_id: str | None) -> None:
        """Picks one item, or none; the next edit is then a step of its own."""
        if item_id != self.picked:
            self.end_merge()
            self.view.pick(item_id)

    @property
    def picked_body(self) -> Thing | Fixture | None:
        """The picked thing or fixture; None where something else is picked, or nothing."""
        item = item_of(self.shop, self.picked)
        return item if isinstance(item, Thing | Fixture) else None

    # ---- files

    def open(self, shop: Shop, path: Path | None, *, dirty: bool = False) -> None:
        """Takes a shop onto the desk; what was there is given up."""
        self.path = path
        self._undo.clear()
        self._redo.clear()
        self._merge = None
        self._preview = None
        self._saved = Shop() if dirty else shop
        if self.slot is not None and not dirty:
            self.slot.clear()
        self.view.look_at(picked=None, gate_set=None, open_finding=None)
        self._set(shop)

    def save(self, path: Path) -> bool:
        """Writes the file; where that fails nothing is lost and it says why."""
        try:
            save(self.shop, path)
        except FileError as exc:
            self.said.emit(str(exc))
            return False
        self.path = path
        self._saved = self.shop
        self._autosave.stop()
        if self.slot is not None:
            self.slot.clear()
        self.said.emit(f"Saved {path.name}.")
        self.changed.emit()
        return True

    def autosave(self) -> bool:
        """Keeps the work in the autosave slot; whether nothing would be lost now."""
        if self.slot is None:
            return not self.is_dirty
        try:
            if self.is_dirty:
                self.slot.keep(self.shop, self.path)
            else:
                self.slot.clear()  # all is undone that was not saved
        except OSError as exc:
            self.said.emit(f"Autosave failed ({exc.strerror}). Save your work with Ctrl+S.")
            return False
        return True

    def put_aside(self) -> bool:
        """Leaves the work in its slot for the next start and goes on with a new slot; whether that could be
        done.
        """
        if self.slot is None or not self.autosave():
            return False
        self.slot.let_go()
        self._new_slot()
        return True

    def _new_slot(self) -> None:
        self.slot = None
        try:
            self.slot = Slot(self._folder)
        except OSError as exc:
            sentence = f"Autosave is off: the data folder cannot be written ({exc.strerror})."
            QTimer.singleShot(0, lambda: self.said.emit(sentence))

    def close(self) -> None:
        """Ends the work: what is not saved stays in the autosave slot for the next start."""
        self._autosave.stop()
        if self.slot is None:
            return
        if self.is_dirty:
            self.autosave()
            self.slot.let_go()
        else:
            self.slot.close()
        self.slot = None
