"""The panel that shows the form of what is picked."""

from PySide6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

from purvel.app.desk import Desk
from purvel.app.picked.form import Form
from purvel.app.picked.room import FixtureForm, OpeningForm, WallForm
from purvel.app.picked.runs import RunForm
from purvel.app.picked.things import ThingForm
from purvel.app.picked.work import SpellForm
from purvel.app.widgets.fields import form
from purvel.app.widgets.flow import refilling
from purvel.shop import Fixture, Opening, Run, Spell, Thing, Wall
from purvel.shop.edits import remove
from purvel.shop.parts import item_of

FORMS: dict[type, type[Form]] = {
    Thing: ThingForm,
    Wall: WallForm,
    Opening: OpeningForm,
    Fixture: FixtureForm,
    Run: RunForm,
    Spell: SpellForm,
}


class Inspector(QWidget):
    """A form for whatever is picked."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.desk = desk
        self.box = QVBoxLayout(self)
        self.box.setContentsMargins(6, 4, 6, 6)
        self._form: Form | None = None
        self._about: tuple[object, ...] = ()
        desk.picked_changed.connect(self.rebuild)
        desk.changed.connect(self.refresh)

    def rebuild(self) -> None:
        """Makes the form anew for what is picked now."""
        item = self.desk.picked
        kind = type(item_of(self.desk.shop, item))
        with refilling(self.box, same=self._about[:2] == (item, kind)):
            self._fill(item, kind)

    def _fill(self, item: str | None, kind: type) -> None:
        self._form = None
        self._about = (item, kind)
        if item is None or kind not in FORMS:
            hint = QLabel("Nothing is picked. Click a thing on the plan, or press N to go through them.")
            hint.setObjectName("small")
            hint.setWordWrap(True)
            self.box.addWidget(hint)
            self.box.addStretch(1)
            return
        widget, rows = form()
        self._form = FORMS[kind](self.desk, item, rows)
        self._about = (item, kind, self._form.shape())
        self.box.addWidget(widget)
        away = QPushButton("Take away")
        away.setToolTip("Delete")
        away.clicked.connect(self._remove)
        self.box.addWidget(away)
        self.box.addStretch(1)
        self._form.refresh()

    def refresh(self) -> None:
        """Shows the document's values in the fields; other rows where the item asks for them."""
        item = self.desk.picked
        kind = type(item_of(self.desk.shop, item))
        if self._about[:2] != (item, kind) or (
            self._form is not None and self._form.shape() != self._about[2]
        ):
            self.rebuild()
        elif self._form is not None:
            self._form.refresh()

    def _remove(self) -> None:
        item = self.desk.picked
        if item is not None:
            self.desk.pick(None)
            self.desk.apply(lambda shop: remove(shop, item), "Take away")
