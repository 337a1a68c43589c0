"""Kinds of the user's own at the window: kept from a placed thing, taken in and written out."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QFileDialog

from purvel.app.workspace import Workspace
from purvel.files import FileError
from purvel.files.own_kinds import Library
from purvel.shop import Thing

_KINDS = "Kinds (*.toml)"


class OwnKinds(QObject):
    """The library, and what is done with it. `changed` says that there are others now."""

    changed = Signal()

    def __init__(self, workspace: Workspace, library: Library | None = None) -> None:
        super().__init__(workspace)
        self.workspace = workspace
        self.library = library or Library()

    def kinds(self) -> dict[str, Thing]:
        """All own kinds by name; none where they cannot be read, which is said."""
        try:
            return self.library.kinds()
        except FileError as exc:
            self.workspace.said.emit(str(exc))
            return {}

    def entries(self, place: Callable[[Thing], object]) -> list[tuple[str, Callable[[], object]]]:
        """What the menu offers."""
        own = self.kinds()
        return [
            *((name, partial(place, thing)) for name, thing in own.items()),
            ("Keep the picked thing as a kind of your own", self.keep_picked),
            ("Take in kinds (TOML) …", self.ask_in),
            *([("Write out your kinds (TOML) …", self.ask_out)] if own else []),
            *((f"Forget {name}", partial(self.forget, name)) for name in own),
        ]

    def keep_picked(self) -> None:
        """The picked thing as it is, under its name."""
        thing = self.workspace.shop.thing(self.workspace.picked or "")
        if thing is None:
            self.workspace.said.emit(
                "Pick a thing first: it is kept as it is, with its sizes, ports and lane."
            )
            return
        name = thing.name or thing.kind
        self._do(
            lambda: self.library.keep({name: thing}), f"{name} is a kind of your own now: see “Place ▾”."
        )

    def forget(self, name: str) -> None:
        """Takes one out of the library; what is placed stays."""
        self._do(
            lambda: self.library.forget(name), f"{name} is no kind of yours any more. What is placed stays."
        )

    def ask_in(self) -> None:
        """Asks for a file of kinds."""
        path, _ = QFileDialog.getOpenFileName(None, "Take in kinds", "", _KINDS)
        if path:
            self.take_in(Path(path))

    def take_in(self, path: Path) -> None:
        """Kinds from a file, over those of the same name."""
        self._do(
            lambda: self.library.take_in(path), f"The kinds of {path.name} are yours now: see “Place ▾”."
        )

    def ask_out(self) -> None:
        """Asks where to write them."""
        path, _ = QFileDialog.getSaveFileName(None, "Write out your kinds", "my kinds.toml", _KINDS)
        if path:
            self.write_out(Path(path))

    def write_out(self, path: Path) -> None:
        """All own kinds as a file."""
        self._do(lambda: self.library.write_out(path), f"Written: {path.name}.")

    def _do(self, act: Callable[[], object], done: str) -> None:
        try:
            act()
        except FileError as exc:
            self.workspace.said.emit(f"{exc} Nothing was changed.")
            return
        self.workspace.said.emit(done)
        self.changed.emit()
