"""The journal: what was moved, bought, measured, and why."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtGui import QPixmap
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from purvel.app.theme import Theme
from purvel.app.widgets.flow import refilling
from purvel.app.widgets.names import NameButton
from purvel.app.widgets.words import Words, set_tip
from purvel.app.workspace import Workspace
from purvel.shop import Shop
from purvel.shop.parts import name_of

PICTURE = 72  # px, of a picture in the list


class Journal(QWidget):
    """The pages, the latest first."""

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__()
        self.workspace, self.theme = workspace, theme
        self.box = QVBoxLayout(self)
        self.box.setContentsMargins(8, 4, 8, 8)
        self.box.setSpacing(4)
        self._shown: tuple[object, ...] = ()

    def show_journal(self, shop: Shop, picked: str | None) -> None:
        """The pages as they are."""
        shown = (shop.upkeep.journal, shop.attachments, picked, self.theme.pixels)
        if shown == self._shown:
            return
        self._shown = shown
        with refilling(self.box):
            self._fill(shop, picked)

    def _fill(self, shop: Shop, picked: str | None) -> None:
        if not shop.upkeep.journal:
            none = Words(
                "Nothing is noted yet: “Note what I did” begins a page with what was done since the last."
            )
            none.setObjectName("small")
            none.setWordWrap(True)
            self.box.addWidget(none)
        for entry in sorted(shop.upkeep.journal, key=lambda one: one.day, reverse=True):
            at = f" · {name_of(shop, entry.thing)}" if entry.thing else ""
            first = entry.text.splitlines()[0] if entry.text else "nothing written yet"
            button = NameButton(f"{entry.day}{at}\n{first}")
            button.setObjectName("work")
            button.setCheckable(True)
            button.setChecked(entry.id == picked)
            set_tip(button, entry.text)
            button.clicked.connect(partial(self._pick, entry.id))
            self.box.addWidget(button)
            if entry.pictures:
                self.box.addWidget(self._pictures(shop, entry.pictures))
        self.box.addStretch(1)

    def _pick(self, entry: str, _: bool = False) -> None:
        self.workspace.pick(entry)

    def _pictures(self, shop: Shop, ids: tuple[str, ...]) -> QWidget:
        row = QWidget()
        line = QHBoxLayout(row)
        line.setContentsMargins(0, 0, 0, 0)
        by_id = {one.id: one for one in shop.attachments}
        for picture in ids:
            data = self.workspace.blobs.get(by_id[picture].sha256) if picture in by_id else None
            label, pixmap = Words(), QPixmap()
            if data is not None and pixmap.loadFromData(data):
                ratio = Qt.AspectRatioMode.KeepAspectRatio
                label.setPixmap(
                    pixmap.scaled(PICTURE, PICTURE, ratio, Qt.TransformationMode.SmoothTransformation)
                )
                set_tip(label, by_id[picture].name)
            else:
                label.setText("a picture that cannot be read")
            line.addWidget(label)
        line.addStretch(1)
        return row
