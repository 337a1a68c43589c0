"""Opening, saving, writing sheets, and getting back what a crash or a closed window left."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path

from PySide6.QtCore import QObject, QSettings, Signal
from PySide6.QtWidgets import QApplication, QFileDialog, QWidget

from purvel.app.keeping import Keeper
from purvel.app.widgets.fields import TextField
from purvel.app.workspace import Workspace
from purvel.demo import demo_bytes
from purvel.files import Document, FileError, load, loads
from purvel.files.autosave import Leftover, discard, leftovers
from purvel.shop.edits import empty_shop

RECENT = 6  # shops that the menu lists

Choices = Sequence[tuple[str, Callable[[], object]]]
Ask = Callable[[str, Choices], None]


class Filing(QObject):
    """The workspace's files. `ask` shows a sentence with choices; `opened` tells of another shop, `leaving`
    that the one at hand is about to be left.
    """

    opened = Signal()
    leaving = Signal()

    def __init__(
        self, window: QWidget, keeper: Keeper, settings: QSettings, autosave_folder: Path | None, ask: Ask
    ) -> None:
        super().__init__(window)
        self.window, self.keeper, self.settings = window, keeper, settings
        self.workspace: Workspace = keeper.workspace
        self.autosave_folder, self.ask = autosave_folder, ask

    def say(self, sentence: str) -> None:
        """One sentence without choices."""
        self.ask(sentence, ())

    # ---- shops

    def new(self) -> None:
        """An empty shop."""
        self.take(Document(empty_shop(self.workspace.shop.units)), None)

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
            document = load(path)
        except FileError as exc:
            self.say(f"{exc} What is open stays as it is.")
            return
        self.take(document, path)

    def begin(self, document: Document | None, path: Path | None, refused: str) -> None:
        """Begins with a document, else with the last shop; offers what was left. Says with that why something
        else is not open: it was `refused`, or the last shop cannot be read, and then the page stays empty.
        """
        said = [refused]
        if document is not None:
            self.take(document, path)
        elif (last := next(iter(self.recent()), None)) is not None:
            try:
                self.take(load(last), last)
            except FileError as exc:
                self._set_recent([path for path in self.recent() if path != last])
                said.append(f"{exc} Open another shop from the ☰ menu, or begin a new one.")
        self.offer_recovery(" ".join(filter(None, said)))

    def recent(self) -> list[Path]:
        """The shops that were opened or saved of late, the last first."""
        kept = self.settings.value("recent", [])
        names = kept if isinstance(kept, list) else [kept]
        return [Path(name) for name in names if isinstance(name, str) and name and "\0" not in name]

    def _remember(self, path: Path) -> None:
        """That this file was opened or saved, at once on the disk: nobody knows how this run ends."""
        path = path.absolute()
        self.settings.setValue("folder", str(path.parent))
        self._set_recent([path, *(one for one in self.recent() if one != path)][:RECENT])

    def _set_recent(self, paths: list[Path]) -> None:
        self.settings.setValue("recent", [str(path) for path in paths])
        self.settings.sync()

    def take(self, document: Document, path: Path | None) -> None:
        """Another shop into the workspace, unless what is there would be lost."""
        self.leaving.emit()
        if not self._put_aside():
            return
        self.keeper.open(document, path)
        if path is not None:
            self._remember(path)
        self.opened.emit()
        if document.said:
            self.say(document.said)

    def _put_aside(self) -> bool:
        """Keeps unsaved work for the next start; says so, and whether it could."""
        if not self.keeper.is_dirty:
            return True
        if not self.keeper.put_aside():
            self.say("Your unsaved work could not be put aside; save it first (Ctrl+S). Nothing was opened.")
            return False
        self.say("Your unsaved work was put aside; the next start offers it again.")
        return True

    # ---- saving

    def save(self) -> bool:
        """Saves, asking for a name the first time."""
        return self._save_to(self.keeper.path) if self.keeper.path else self.save_as()

    def save_as(self) -> bool:
        """Saves under a name."""
        name = self.workspace.shop.name
        stem = "".join(c if c.isalnum() or c in " -_" else "-" for c in name).strip() or "shop"
        suggestion = str(Path(self._folder()) / f"{stem}.purvel")
        typed, _ = QFileDialog.getSaveFileName(self.window, "Save the shop", suggestion, "Shops (*.purvel)")
        if not typed:
            return False
        path = Path(typed if typed.endswith(".purvel") else typed + ".purvel")
        if str(path) != typed and path.exists():  # the dialog asked about the name without its ending
            over = ("Write over it", partial(self._save_to, path, over_others=True))
            self.ask(f"There is a {path.name} already. Nothing was saved yet.", [over, _other_name(self)])
            return False
        return self._save_to(path)

    def _save_to(self, path: Path, *, over_others: bool = False) -> bool:
        if not over_others and self.keeper.was_written_by_others(path):
            sentence = f"{path.name} was written by another window or program since it was opened here."
            over = ("Write over it", partial(self._save_to, path, over_others=True))
            self.ask(f"{sentence} Nothing was saved yet.", [_other_name(self), over])
            return False
        unread = self._take_typing()
        reason = self.keeper.save(path)
        if reason:
            self.say(reason)
            return False
        self._remember(path)
        left_out = f", without what stands in “{unread}”: it cannot be read" if unread else ""
        self.say(f"Saved {path.name}{left_out}.")
        return True

    def _take_typing(self) -> str:
        """Takes what is being typed in a field; the field's name where it cannot be read."""
        widget = QApplication.focusWidget()
        while widget is not None and not isinstance(widget, TextField):
            widget = widget.parentWidget()
        return "" if widget is None or widget.finish() else widget.name

    def _folder(self) -> str:
        return str(self.settings.value("folder", str(Path.home())))

    # ---- sheets

    def print_binder(self) -> None:
        """The binder, on a printer or as a file."""
        choices: list[tuple[str, Callable[[], object]]] = [
            ("On a printer", self._to_printer),
            ("As a PDF file", partial(self.write_as, "binder.pdf")),
            ("Plan in tiles to scale", partial(self.write_as, "tiles.pdf")),
            ("Paper cut-outs", partial(self.write_as, "cutouts.pdf")),
            ("Patterns of hoods", partial(self.write_as, "hoods.pdf")),
        ]
        self.ask(
            "The binder: plans to scale, set-out, cards, lists and findings. Or the plan in tiles and the machines to"
            " cut out, both to one scale.",
            choices,
        )

    def _to_printer(self) -> None:
        """Asks which printer, and draws the binder on it."""
        try:
            from PySide6.QtPrintSupport import QPrintDialog, QPrinter
        except ImportError:
            self.say("This computer has no printing. Write the binder as a PDF file instead.")
            return
        from purvel.app.sheets.binder import draw_binder
        from purvel.review import Memory, review

        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        printer.setDocName(self.workspace.shop.name)
        if QPrintDialog(printer, self.window).exec() != QPrintDialog.DialogCode.Accepted:
            return
        document = self.workspace.document
        checked = review(
            document.shop, Memory(attachments=document.blobs), scene=self.workspace.view.now.scene
        )
        draw_binder(printer, checked)
        self.say(f"The binder went to {printer.printerName() or 'the printer'}.")

    def write_dialog(self) -> None:
        """Any of the things that can be written."""
        self.write_as("plan.svg")

    def write_as(self, suggestion: str) -> None:
        """Asks for a name, this one being suggested, and writes what its ending says."""
        from purvel.app.sheets import ExportError, write  # not for the first window

        kinds = "Binder (*.pdf);;Plan (*.svg *.dxf);;Lists (*.csv);;Calendar (*.ics)"
        place = str(Path(self._folder()) / suggestion)
        name, _ = QFileDialog.getSaveFileName(self.window, "Write", place, kinds)
        if not name:
            return
        try:
            write(self.workspace.document, Path(name), self.workspace.view.now.scene)
        except ExportError as exc:
            self.say(str(exc))
            return
        self.say(f"Wrote {Path(name).name}.")

    def take_in_dialog(self) -> None:
        """Asks for a list and takes it in."""
        kinds = "Lists (*.csv *.txt)"
        name, _ = QFileDialog.getOpenFileName(self.window, "Take in a list", self._folder(), kinds)
        if name:
            self.take_in(Path(name))

    def take_in(self, path: Path) -> None:
        """A list of tools, of what is to be bought or of parts to cut; a bad one changes nothing."""
        from purvel.lists import ListError, read_list, take_in

        try:
            shop, said = take_in(self.workspace.base, read_list(path))
        except ListError as exc:
            self.say(f"{exc} Nothing was changed.")
            return
        self.workspace.apply_to_document(shop, f"Take in {path.name}")
        self.say(said)

    # ---- what was left

    def offer_recovery(self, said: str = "") -> None:
        """Offers what a crash or a window closed without saving left, the newest first, behind what is said
        anyway.
        """
        found = leftovers(self.autosave_folder)
        if not found:
            if said:
                self.say(said)
            return
        left = found[0]
        where = f" ({left.origin.path.name})" if left.origin.path else ""
        sentence = f"{said} Unsaved work on “{left.shop.name}”{where} was kept from last time.".lstrip()
        choices = [
            ("Open that work", partial(self._recover, left)),
            ("Throw it away", partial(self._discard, left)),
        ]
        self.ask(sentence, choices)

    def _recover(self, left: Leftover) -> None:
        if not self._put_aside():
            return
        self.keeper.recover(left)
        if self.keeper.keep_now():
            discard(left.slot)
        self.say(f"Here is “{left.shop.name}” as it was. Save it to keep it.")
        self.opened.emit()

    def _discard(self, left: Leftover) -> None:
        discard(left.slot)
        self.say("")
        self.offer_recovery()


def _other_name(filing: Filing) -> tuple[str, Callable[[], object]]:
    return ("Save under another name", filing.save_as)
