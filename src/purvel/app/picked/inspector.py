"""The panel that shows the form of what is picked."""

from PySide6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from purvel.app.grouped import group_of
from purvel.app.last import Last
from purvel.app.picked.air import NextRoomForm, PassageForm, PersonForm, SpellForm
from purvel.app.picked.form import Form
from purvel.app.picked.group import GroupPanel
from purvel.app.picked.jobs import JobForm
from purvel.app.picked.log_stretch import LogEventForm, LogStretchForm
from purvel.app.picked.money import ItemForm
from purvel.app.picked.power import ApplianceForm, CircuitForm, LuminaireForm, OutletForm
from purvel.app.picked.room import FixtureForm, OpeningForm, WallForm
from purvel.app.picked.runs import RunForm
from purvel.app.picked.scene import SceneForm
from purvel.app.picked.storage import ToolForm, UnitForm
from purvel.app.picked.things import ThingForm
from purvel.app.picked.upkeep import CutPartForm, CutStockForm, DutyForm, EntryForm
from purvel.app.picked.work_interval import WorkForm
from purvel.app.theme import Theme
from purvel.app.view import View
from purvel.app.widgets.fields import form
from purvel.app.widgets.flow import refilling
from purvel.app.widgets.words import Words, set_tip
from purvel.app.workspace import Workspace
from purvel.shop import Fixture, Opening, Run, Shop, Thing, Wall, WorkInterval
from purvel.shop.air import LogEvent, LogStretch, NextRoom, Passage, Person, Spell
from purvel.shop.jobs import Job
from purvel.shop.money import Item
from purvel.shop.parts import item_of
from purvel.shop.power import Appliance, Circuit, Luminaire, Outlet
from purvel.shop.scene import Scene
from purvel.shop.storage import Tool, WallUnit
from purvel.shop.upkeep import CutPart, CutStock, Duty, Entry

FORMS: dict[type, type[Form]] = {
    Thing: ThingForm,
    Wall: WallForm,
    Opening: OpeningForm,
    Fixture: FixtureForm,
    Run: RunForm,
    WorkInterval: WorkForm,
    Scene: SceneForm,
    Job: JobForm,
    Circuit: CircuitForm,
    Outlet: OutletForm,
    Luminaire: LuminaireForm,
    Appliance: ApplianceForm,
    WallUnit: UnitForm,
    Tool: ToolForm,
    Item: ItemForm,
    Duty: DutyForm,
    Entry: EntryForm,
    CutPart: CutPartForm,
    CutStock: CutStockForm,
    LogStretch: LogStretchForm,
    LogEvent: LogEventForm,
    Spell: SpellForm,
    NextRoom: NextRoomForm,
    Passage: PassageForm,
    Person: PersonForm,
}


class Inspector(QWidget):
    """A form for whatever is picked."""

    def __init__(self, workspace: Workspace, theme: Theme) -> None:
        super().__init__()
        self.workspace, self.theme = workspace, theme
        self.box = QVBoxLayout(self)
        self.box.setContentsMargins(6, 4, 6, 6)
        self._form: Form | None = None
        self._shown = Last()
        self._about: tuple[object, ...] = ()

    def show_picked(self, shop: Shop, view: View) -> None:
        """The document's values in the fields; other rows where another item, its shape or the units ask for
        them. A review of what is in the hand changes nothing in them.
        """
        if self._shown.is_same(shop, view) and self.workspace.in_hand:
            return
        kind = type(item_of(shop, view.picked))
        about = (view.picked, view.also, kind, shop.units, self.theme.pixels)
        same = about == self._about[:5]
        if not same or (self._form is not None and self._form.shape() != self._about[5]):
            with refilling(self.box, same=about[:3] == self._about[:3]):
                self._fill(view.picked, kind)
            self._about = (*about, None if self._form is None else self._form.shape())
        if self._form is not None:
            self._form.refresh()

    @property
    def has_form(self) -> bool:
        """Whether there is a form for what is picked, or for several together."""
        return self._form is not None or bool(group_of(self.workspace))

    def _fill(self, item: str | None, kind: type) -> None:
        self._form = None
        if group_of(self.workspace):
            self.box.addWidget(GroupPanel(self.workspace))
        elif item is None or kind not in FORMS:
            hint = Words("Nothing is picked. Click a thing on the plan, or press N to go through them.")
            hint.setObjectName("small")
            hint.setWordWrap(True)
            self.box.addWidget(hint)
        else:
            widget, rows = form()
            self._form = FORMS[kind](self.workspace, item, rows)
            self.box.addWidget(widget)
            away = QPushButton("Take away")
            set_tip(away, "Delete")
            away.clicked.connect(lambda _=False: self._remove(item))
            self.box.addWidget(away)
        self.box.addStretch(1)

    def _remove(self, item: str) -> None:
        self.workspace.take_away(item)
