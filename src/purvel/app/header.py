"""The header: the shop's name, units, undo, what is to mend, the commands that are always at hand."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QMenu, QPushButton, QSizePolicy, QToolButton

from purvel.app.reviews import Reviews
from purvel.app.scene_chooser import SceneChooser
from purvel.app.theme import Theme
from purvel.app.widgets.fields import text_field
from purvel.app.widgets.flow import FitRow
from purvel.app.widgets.words import set_tip
from purvel.app.workspace import Workspace
from purvel.review import Review
from purvel.shop import Shop
from purvel.shop.edits import change_shop


@dataclass(frozen=True, slots=True)
class Actions:
    """What the header's buttons do beyond the workspace."""

    find: Callable[[], object]
    print_binder: Callable[[], object]
    show_worst: Callable[[], object]
    switch_units: Callable[[], object]


class Header(FitRow):
    """One row; what was added last is left out where it grows too long."""

    def __init__(
        self, workspace: Workspace, reviews: Reviews, theme: Theme, menu: QMenu, actions: Actions
    ) -> None:
        super().__init__(8)
        self.workspace, self.reviews, self.theme = workspace, reviews, theme
        self.setObjectName("header")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.menu_button = QToolButton()
        self.menu_button.setText("☰")
        self.menu_button.setAccessibleName("Shop menu")
        set_tip(self.menu_button, "Open, save, print, demo shops")
        self.menu_button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.menu_button.setMenu(menu)
        self.row.addWidget(self.menu_button)
        self.name = text_field("Name of the shop")
        self.name.entered.connect(self._name_shop)
        self.name.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.row.addWidget(self.name)
        self.scene = SceneChooser(workspace, reviews)
        self.row.addWidget(self.scene)
        self.mend = self._button("", actions.show_worst, "Go to the worst finding")
        self.undo_button = self._button("Undo", workspace.undo, "Ctrl+Z")
        self.redo_button = self._button("Redo", workspace.redo, "Ctrl+Shift+Z")
        other_units = "The units in use; press to switch (U)"
        self.units_button = self._button("", actions.switch_units, other_units)
        self._button("Find", actions.find, "Ctrl+K")
        self._button("Print", actions.print_binder, "Ctrl+P: a binder as PDF")
        self._button("A+", theme.larger, "Larger text (Ctrl++)")
        self._button("A−", theme.smaller, "Smaller text (Ctrl+-)")
        self._dressed_for = 0

    def _button(self, text: str, act: Callable[[], object], tip: str) -> QPushButton:
        button = QPushButton(text)
        set_tip(button, tip)
        button.clicked.connect(lambda _=False: act())
        self.row.addWidget(button)
        return button

    def _name_shop(self, name: str) -> None:
        self.workspace.apply(lambda shop: change_shop(shop, name=name), "Name the shop")

    def show_shop(self, shop: Shop, review: Review, scene: str | None) -> None:
        """The shop's name and units, what can be undone, what is to mend."""
        pixels = self.theme.pixels
        if pixels != self._dressed_for:
            self._dressed_for = pixels
            self.name.line.setFixedWidth(pixels * 15 - max(0, pixels - 17) * 12)
            # whatever these say, the buttons after them stay where they are
            for button, widest in ((self.mend, "nothing to mend"), (self.units_button, "Feet-inches")):
                button.setMinimumWidth(button.fontMetrics().horizontalAdvance(widest) + round(1.6 * pixels))
        self.name.show_value(shop.name)
        self.scene.show_scene(shop, scene)
        self.units_button.setText("Feet-inches" if shop.units == "imperial" else "Millimetres")
        for button, verb, label, keys in (
            (self.undo_button, "undo", self.workspace.undo_label, "Ctrl+Z"),
            (self.redo_button, "redo", self.workspace.redo_label, "Ctrl+Shift+Z"),
        ):
            button.setEnabled(bool(label))
            set_tip(button, f"{verb.capitalize()}: {label} ({keys})" if label else f"Nothing to {verb}")
        self.mend.setText(self._to_mend(review))

    def _to_mend(self, review: Review) -> str:
        if self.reviews.is_broken:
            return "not checked"
        if self.reviews.is_stale:
            return "checking …"
        count = review.to_mend()
        none = "nothing to mend" if review.findings else "nothing to check yet"
        return f"{count} to mend" if count else none
