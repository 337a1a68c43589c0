"""The forms for duties, pages of the journal, parts and stock of the cut list."""

from dataclasses import replace
from datetime import date
from pathlib import Path
from typing import Any

from PySide6.QtWidgets import QFileDialog, QPlainTextEdit

from purvel.app.picked.form import Form
from purvel.app.picked.money import day_field
from purvel.app.widgets.fields import ChoiceField, number_field, text_field
from purvel.files.document import AttachmentError, attached
from purvel.shop.edits import put
from purvel.shop.upkeep import Duty, DutyReading, Entry

KINDS = (
    ("filter", "a filter"),
    ("bag", "a bag"),
    ("screen", "a screen"),
    ("belt", "a belt"),
    ("blade", "a blade or knives"),
    ("hose", "hoses and gates"),
    ("oil", "oil or wax"),
    ("other", "something else"),
)
GRAINS = (("any", "either way"), ("along", "along the grain"))
STOCKS = (("sheet", "a sheet"), ("stick", "a stick"))
LARGEST_PICTURE = 8 * 2**20  # bytes


def _things(form: Form) -> list[tuple[Any, str]]:
    return [(None, "no machine"), *((one.id, one.name or one.id) for one in form.workspace.shop.things)]


class DutyForm(Form):
    """Something that is due."""

    def build(self) -> None:
        self.field("Duty", text_field("Name of the duty", needed=True), "name")
        self.field("Is about", ChoiceField("What the duty is about", KINDS), "kind")
        self.field("At", ChoiceField("Machine of the duty", _things(self)), "thing")
        self.field(
            "Every", number_field("Every so many hours of use", "h", least=0, most=100_000), "every_hours"
        )
        by_days = number_field("Every so many days", "days", least=0, most=10_000, decimals=0)
        self.row(
            "or every",
            by_days,
            lambda one: one.every_days,
            lambda value: self.put("Days", every_days=round(value)),
        )
        self.field("Done on", day_field("Day it was done last"), "done_on")
        self.field("Reads", text_field("What is read: a pressure, a flow"), "reads")
        due_at = number_field("Figure at which it is due", "", least=-1e9, most=1e9, decimals=1)
        self.row(
            "Due at",
            due_at,
            lambda one: 0.0 if one.until is None else one.until,
            lambda value: self.put("Due at", until=value or None),
        )
        now = number_field("Read today", "", least=-1e9, most=1e9, decimals=1)
        self.row("Read today", now, lambda one: one.readings[-1].value if one.readings else 0.0, self._read)
        self.live(_readings)
        self.button("Done today", lambda: self.put("Done", done_on=date.today().isoformat()))
        self.note(
            "0: not by that. What is read is due by the line through the readings since it was done. Hours of use come from your jobs; the maker's manual decides."
        )

    def _read(self, value: float) -> None:
        today = date.today().isoformat()
        others = tuple(one for one in self.now.readings if one.day != today)
        self.put("Reading", readings=(*others, DutyReading(day=today, value=value)))

    def shape(self) -> object:
        return _things(self)


def _readings(duty: Duty) -> str:
    """The last readings of a duty."""
    last = duty.readings[-4:]
    return (
        "Read: " + ", ".join(f"{one.value:g} on {one.day}" for one in last)
        if last
        else "Nothing was read yet."
    )


class EntryForm(Form):
    """A page of the journal."""

    def build(self) -> None:
        self.field("Day", day_field("Day of the entry"), "day")
        self.field("About", ChoiceField("Machine of the entry", _things(self)), "thing")
        self._long("What was done", "text")
        self.field("Why", text_field("Why it was done", 20_000), "why")
        self.button("Add a picture …", self._ask_picture, "A PNG or JPEG of at most 8 MB.")

    def _long(self, name: str, key: str) -> None:
        box = QPlainTextEdit(getattr(self.now, key))
        box.setAccessibleName(name)
        box.setTabChangesFocus(True)
        box.setMinimumHeight(110)
        self.rows.addRow(box)
        self.button("Keep these words", lambda: self.put(name, **{key: box.toPlainText()[:20_000]}))

    def _ask_picture(self) -> None:
        path, _ = QFileDialog.getOpenFileName(None, "Add a picture", "", "Pictures (*.png *.jpg *.jpeg)")
        if path:
            self.add_picture(Path(path))

    def add_picture(self, path: Path) -> None:
        """A picture beside the words; refused with a sentence where it is none, or too large."""
        try:
            data = path.read_bytes() if path.is_file() and path.stat().st_size <= LARGEST_PICTURE else b""
        except OSError as exc:
            self.refuse(f"{path.name} could not be read: {(exc.strerror or str(exc)).lower()}.")
            return
        if not data.startswith((b"\x89PNG\r\n", b"\xff\xd8\xff")):
            self.refuse(f"{path.name} is no PNG or JPEG of at most 8 MB.")
            return
        try:
            document = attached(self.workspace.document, path.name, data, "picture")
        except AttachmentError as exc:
            self.refuse(str(exc))
            return
        picture = document.shop.attachments[-1].id
        entry: Entry = self.now
        shown = replace(entry, pictures=(*entry.pictures, picture))
        self.workspace.attach(document, "Add a picture", lambda shop: put(shop, shown))

    def shape(self) -> object:
        entry: Entry = self.now
        return _things(self), entry.text, entry.pictures


class CutPartForm(Form):
    """A part to be cut."""

    def build(self) -> None:
        self.field("Part", text_field("Name of the part", needed=True), "name")
        for key, word in (("length", "Long"), ("width", "Wide"), ("thickness", "Thick")):
            most = 1.0 if key == "thickness" else 12.0
            self.field(word, self.length(f"How {word.lower()} the part is", 0.001, most), key)
        count = number_field("How many of the part", "pieces", least=1, most=500, decimals=0)
        self.row("So many", count, lambda one: one.count, lambda value: self.put("Count", count=round(value)))
        self.field("Its length runs", ChoiceField("Grain of the part", GRAINS), "grain")


class CutStockForm(Form):
    """A sheet or stick that parts come from."""

    def build(self) -> None:
        self.field("Stock", text_field("Name of the stock", needed=True), "name")
        self.field("Is", ChoiceField("Sheet or stick", STOCKS), "kind")
        for key, word in (("length", "Long"), ("width", "Wide"), ("thickness", "Thick")):
            most = 1.0 if key == "thickness" else 12.0
            self.field(word, self.length(f"How {word.lower()} the stock is", 0.001, most), key)
        self.note("Parts of the same thickness come from a sheet; from a stick if they have its width too.")
