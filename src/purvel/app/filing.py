"""Opening, saving, writing sheets, and getting back what a crash or a closed window left.

Nothing here loses work.
"""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject, QSettings, Signal
from PySide6.QtWidgets import QFileDialog, QWidget

from purvel.app.workspace import Workspace
from purvel.demo import demo_bytes
from purvel.files import FileError, load, loads
from purvel.files.autosave import Leftover, discard, leftovers
from purvel.shop import Shop

RECENT = 6  # shops that the menu lists

Ask = Callable[[str, list[tuple[str, Callable[[], object]]]], None]
Stamp = tuple[int, int]


def _stamp(path: Path) -> Stamp | None:
    """When a file was written [ns] and how long it is; None where there is none."""
    try:
        status = path.stat()
    except OSError:
        return None
    return status.st_mtime_ns, status.st_size


class Filing(QObject):
    """The desk's files. `ask` shows a sentence with choices; `opened` tells that another shop lies on the
    workspace.
    """

    opened = Signal()

    def __init__(
        self,
        window: QWidget,
        workspace: Workspace,
        settings: QSettings,
        autosave_folder: Path | None,
        ask: Ask,
    ) -> None:
        super().__init__(window)
        self.window, self.workspace, self.settings, self.autosave_folder, self.ask = (
            window,
            workspace,
            settings,
            autosave_folder,
            ask,
        )
        self._seen: Stamp | None = None  # how the open file was when it was last read or written

    def say(self, sentence: str) -> None:
        """One sentence without choices."""
        self.ask(sentence, [])

    # ---- shops

    def new(self) -> None:
        """An empty shop."""
        self.take(Shop(units=self.workspace.shop.units), None)

    def open_demo(self, name: str) -> None:
        """One of the shipped shops, not bound to a file."""
        self.take(loads(demo_bytes(name)), None)

    def open_dialog(self) -> None:
        """Asks for a file and opens it."""
        name, _ = QFileDialog.getOpenFileName(self.window, "Open a shop", self._folder(), "Shops (*.purvel)")
        if name:
            self.open_path(Path(name))

    def open_path(self, path: Path) -> None:
        """Opens a file; a bad one changes nothing."""
        try:
            shop = load(path)
        except FileError as exc:
            self.say(f"{exc} What is open stays as it is.")
            return
        self.take(shop, path)

    def resume(self) -> None:
        """A start that names no shop goes on with the last one; where that cannot be read the page stays
        empty.
        """
        last = next(iter(self.recent()), None)
        if last is None:
            return
        try:
            shop = load(last)
        except FileError as exc:
            self._set_recent([path for path in self.recent() if path != last])
            self.say(f"{exc} Open another shop from the ☰ menu, or begin a new one.")
            return
        self.take(shop, last)

    def recent(self) -> list[Path]:
        """The shops that were opened or saved of late, the last first."""
        kept = self.settings.value("recent", [])
        names = kept if isinstance(kept, list) else [kept]
        return [Path(name) for name in names if isinstance(name, str) and name and "\0" not in name]

    def _remember(self, path: Path) -> None:
        """That this file was opened or saved, at once on the disk: nobody knows how this run ends."""
        path = path.absolute()
        self._seen = _stamp(path)
        self.settings.setValue("folder", str(path.parent))
        self._set_recent([path, *(one for one in self.recent() if one != path)][:RECENT])

    def _set_recent(self, paths: list[Path]) -> None:
        self.settings.setValue("recent", [str(path) for path in paths])
        self.settings.sync()

    def take(self, shop: Shop, path: Path | None) -> None:
        """Another shop onto the desk, unless what lies there would be lost."""
        if not self._put_aside():
            return
        self.workspace.open(shop, path)
        if path is not None:
            self._remember(path)
        self.opened.emit()

    def _put_aside(self) -> bool:
        """Keeps unsaved work for the next start; says so, and whether it could."""
        if not self.workspace.is_dirty:
            return True
        if not self.workspace.put_aside():
            self.say("Your unsaved work could not be put aside; save it first (Ctrl+S). Nothing was opened.")
            return False
        self.say("Your unsaved work was put aside; the next start offers it again.")
        return True

    def save(self) -> bool:
        """Saves, asking for a name the first time."""
        return self._save_to(self.workspace.path) if self.workspace.path else self.save_as()

    def save_as(self) -> bool:
        """Saves under a name."""
        stem = (
            "".join(c if c.isalnum() or c in " -_" else "-" for c in self.workspace.shop.name).strip()
            or "shop"
        )
        name, _ = QFileDialog.getSaveFileName(
            self.window, "Save the shop", str(Path(self._folder()) / f"{stem}.purvel"), "Shops (*.purvel)"
        )
        if not name:
            return False
        return self._save_to(Path(name) if name.endswith(".purvel") else Path(name + ".purvel"))

    def _save_to(self, path: Path, *, over_others: bool = False) -> bool:
        now = _stamp(path)
        if not over_others and path == self.workspace.path and now not in (None, self._seen):
            self.ask(
                f"{path.name} was written by another window or program since it was opened here. Nothing was"
                " saved yet.",
                [
                    ("Save under another name", self.save_as),
                    ("Write over it", lambda: self._save_to(path, over_others=True)),
                ],
            )
            return False
        if not self.workspace.save(path):
            return False
        self._remember(path)
        return True

    def _folder(self) -> str:
        return str(self.settings.value("folder", str(Path.home())))

    # ---- sheets

    def print_binder(self) -> None:
        """The printed binder as a PDF."""
        self._write("binder.pdf")

    def write_dialog(self) -> None:
        """Any of the things that can be written."""
        self._write("plan.svg")

    def _write(self, suggestion: str) -> None:
        from purvel.app.sheets import ExportError, write  # not for the first window

        kinds = "Binder (*.pdf);;Plan (*.svg *.dxf);;Lists (*.csv)"
        name, _ = QFileDialog.getSaveFileName(
            self.window, "Write", str(Path(self._folder()) / suggestion), kinds
        )
        if not name:
            return
        try:
            write(self.workspace.shop, Path(name))
        except ExportError as exc:
            self.say(str(exc))
            return
        self.say(f"Wrote {Path(name).name}.")

    # ---- what was left

    def offer_recovery(self) -> None:
        """Offers what a crash or a window closed without saving left, the newest first."""
        found = leftovers(self.autosave_folder)
        if not found:
            return
        left = found[0]
        where = f" ({left.origin.name})" if left.origin else ""
        sentence = f"Unsaved work on “{left.shop.name}”{where} was kept from last time."
        self.ask(
            sentence,
            [("Open that work", lambda: self._recover(left)), ("Throw it away", lambda: self._discard(left))],
        )

    def _recover(self, left: Leftover) -> None:
        if not self._put_aside():
            return
        self.workspace.open(left.shop, left.origin, dirty=True)
        self._seen = _stamp(left.origin) if left.origin else None
        if self.workspace.autosave():
            discard(left.slot)
        self.say(f"Here is “{left.shop.name}” as it was. Save it to keep it.")
        self.opened.emit()

    def _discard(self, left: Leftover) -> None:
        discard(left.slot)
        self.say("")
        self.offer_recovery()
