"""The rows of a form: each shows one value of the picked item as it is now and writes what is entered back
into the shop.
"""

from abc import ABC, abstractmethod
from collections.abc import Callable
from dataclasses import replace
from typing import Any

from PySide6.QtCore import QSignalBlocker
from PySide6.QtWidgets import QCheckBox, QFormLayout, QPushButton

from purvel.app.widgets.fields import TextField, length_field
from purvel.app.widgets.names import NameBox
from purvel.app.widgets.words import Words, set_tip
from purvel.app.workspace import Workspace
from purvel.quantities import Units, units_for
from purvel.review import Figures
from purvel.shop.edits import put
from purvel.shop.parts import item_of, name_of

PROVENANCES = (
    ("measured", "measured"),
    ("laser", "by distance meter"),
    ("plate", "read off it or its manual"),
    ("paced", "guessed"),
)


class Form(ABC):
    """A form for one item."""

    def __init__(self, workspace: Workspace, item: str, rows: QFormLayout) -> None:
        self.workspace, self.item, self.rows = workspace, item, rows
        self._binders: list[tuple[Callable[[Any], object], Any]] = []
        self.build()

    @abstractmethod
    def build(self) -> None:
        """Makes the rows."""

    def fault(self, changed: Any) -> str:
        """Why the item cannot be so, in one sentence; empty where it can."""
        return ""

    def put(self, label: str, **changes: Any) -> None:
        """Changes fields of the item, or says why not."""
        changed = replace(self.now, **changes)
        fault = self.fault(changed)
        if fault:
            self.refuse(fault)
        else:
            self.workspace.apply(
                lambda shop: put(shop, changed), f"{label} of {name_of(self.workspace.shop, self.item)}"
            )

    def shape(self) -> object:
        """What asks for other rows when it changes."""
        return None

    @property
    def now(self) -> Any:
        """The item as it is in the shop."""
        return item_of(self.workspace.shop, self.item)

    @property
    def say(self) -> Figures:
        """Figures in the reader's units."""
        return Figures(self.workspace.shop.units)

    @property
    def units(self) -> Units:
        """The reader's units."""
        return units_for(self.workspace.shop.units)

    def refresh(self) -> None:
        """Shows the item's values."""
        one = self.now
        for read, widget in self._binders:
            value = read(one)
            if isinstance(widget, Words):
                widget.setText(str(value))
            elif isinstance(widget, QCheckBox):
                with QSignalBlocker(widget):
                    widget.setChecked(bool(value))
            else:
                widget.show_value(value)

    def refuse(self, sentence: str) -> None:
        """Says why an entry is not taken, and shows what is there."""
        self.workspace.said.emit(f"{sentence} Nothing was changed.")
        self.refresh()

    # ---- rows

    def field(self, word: str, widget: Any, key: str) -> None:
        """A row for one field of the item."""
        self.row(word, widget, lambda one: getattr(one, key), lambda value: self.put(word, **{key: value}))

    def inner(
        self, word: str, widget: Any, owner: Callable[[Any], Any], key: str, put: Callable[..., object]
    ) -> None:
        """A row for one field of what the item owns; `put` writes it by its name."""
        self.row(word, widget, lambda one: getattr(owner(one), key), lambda value: put(**{key: value}))

    def tick(self, words: str, key: str) -> None:
        """A row for one yes or no of the item."""
        self.tick_row(words, lambda one: getattr(one, key), lambda on: self.put(words, **{key: on}))

    def row(
        self, word: str, widget: Any, read: Callable[[Any], object], write: Callable[[Any], object]
    ) -> None:
        """A row that reads and writes in its own way."""
        self.bind(widget, read, write)
        self.rows.addRow(word, widget)

    def tick_row(
        self,
        words: str,
        read: Callable[[Any], object],
        write: Callable[[Any], object],
        *,
        is_name: bool = False,
    ) -> None:
        """A tick that reads and writes in its own way; a name as its words may be shown shortened."""
        box = (NameBox if is_name else QCheckBox)(words)
        box.toggled.connect(write)
        self._binders.append((read, box))
        self.rows.addRow(box)

    def bind(self, widget: Any, read: Callable[[Any], object], write: Callable[[Any], object]) -> None:
        """A field that stands in a row of its own making."""
        widget.entered.connect(write)
        self._binders.append((read, widget))

    def length(self, name: str, least: float = 0.001, most: float = 50.0) -> TextField[float]:
        """A field for a length [m]."""
        return length_field(name, self.workspace.shop.units, least=least, most=most)

    def note(self, text: str) -> Words:
        """A small remark."""
        label = Words(text)
        label.setObjectName("small")
        label.setWordWrap(True)
        self.rows.addRow(label)
        return label

    def live(self, read: Callable[[Any], str]) -> None:
        """A small remark that follows the item."""
        self._binders.append((read, self.note(read(self.now))))

    def title(self, text: str) -> None:
        """What the form is about, where the item has no name to edit."""
        label = Words(text)
        label.setObjectName("heading")
        self.rows.addRow(label)

    def button(self, text: str, act: Callable[[], object], tip: str = "") -> QPushButton:
        """A row with a button."""
        button = QPushButton(text)
        set_tip(button, tip)
        button.clicked.connect(lambda: act())
        self.rows.addRow(button)
        return button
