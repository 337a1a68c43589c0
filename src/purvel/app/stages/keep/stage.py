"""Keep: what is due by use, the bin, the journal, the cut list."""

from collections.abc import Callable
from dataclasses import replace
from datetime import date
from functools import partial
from typing import Any

from PySide6.QtCore import QPointF
from PySide6.QtWidgets import QPushButton

from purvel.app.plan import draw_room, draw_things
from purvel.app.plan.sheet import Sheet
from purvel.app.reviews import Reviews
from purvel.app.stages import entry_of
from purvel.app.stages.keep.cut_diagram import CutDiagram
from purvel.app.stages.keep.due_chart import DueChart
from purvel.app.stages.keep.journal import Journal
from purvel.app.stages.stage import Stage
from purvel.app.theme import Theme
from purvel.app.widgets.fields import quantity_field
from purvel.app.widgets.flow import clear
from purvel.app.widgets.panes import Pane, Panes
from purvel.app.widgets.scrolled import scrolled
from purvel.app.workspace import Workspace
from purvel.quantities import units_for
from purvel.review.keep.answers import KeepAnswers
from purvel.review.keep.remedies import usual_duties
from purvel.review.keep.rules import due_grade
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Shop
from purvel.shop.edits import fresh_id, put
from purvel.shop.upkeep import Bin, CutPart, CutStock, Duty, Entry
from purvel.upkeep.due import Due

DUE, JOURNAL, CUTS = range(3)


class KeepStage(Stage):
    """What is due?"""

    entry = entry_of("keep")

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__(workspace, reviews, theme)
        self.due, self.journal, self.cuts = DueChart(theme), Journal(workspace, theme), CutDiagram(theme)
        panes = (
            Pane("What is due", scrolled(self.due), 24.0, 3),
            Pane("Journal", scrolled(self.journal), 16.0, 2),
            Pane("Cut list", scrolled(self.cuts), 20.0, 3),
        )
        self.instrument = self.panes = Panes(theme, panes, chosen=DUE)
        self._noted = 0  # how much of the undo history is in the journal already
        self.rebuild()

    def rebuild(self) -> None:
        clear(self.row)
        entries: list[tuple[str, Callable[[], object]]] = [
            ("A duty", self.add_duty),
            ("What is usually due at the machines", self.add_usual),
            ("A bin", self.add_bin),
            ("A part to cut", self.add_part),
            ("A sheet", partial(self.add_stock, "sheet")),
            ("A stick", partial(self.add_stock, "stick")),
        ]
        self.row.addWidget(self.menu_button("Add", entries))
        note = QPushButton("Note what I did")
        note.clicked.connect(lambda _=False: self.note())
        self.row.addWidget(note)
        units = units_for(self.workspace.shop.units)
        self.volume = quantity_field("Volume of the bin", units.bulk, least=0.001, most=10.0)
        self.kerf = quantity_field("Kerf of the saw", units.thickness, least=0.0, most=0.02)
        for field in (self.volume, self.kerf):
            field.line.setFixedWidth(round(self.theme.pixels * 5.2))
        self.volume.entered.connect(self._set_volume)
        self.kerf.entered.connect(lambda value: self._cuts("Set the kerf", kerf=value))
        self.pair("Bin", self.volume)
        self.pair("Kerf", self.kerf)

    def refresh(self) -> None:
        upkeep = self.workspace.shop.upkeep
        self.volume.setEnabled(upkeep.bin is not None)
        if upkeep.bin is not None:
            self.volume.show_value(upkeep.bin.volume)
        self.kerf.show_value(upkeep.cuts.kerf)
        answers = self.answers()
        self.due.show_due(answers, self.view.picked)
        self.journal.show_journal(self.shop, self.view.picked)
        found = self.searched()
        plans = None if found is None else found.of(KeepAnswers).cuts()
        self.cuts.show_cuts(plans, self.say, has_parts=bool(upkeep.cuts.parts and upkeep.cuts.stock))

    # ---- edits

    def _upkeep(self, label: str, **changes: Any) -> None:
        def edit(shop: Shop) -> Shop:
            return replace(shop, upkeep=replace(shop.upkeep, **changes))

        self.workspace.apply(edit, label)

    def _cuts(self, label: str, **changes: Any) -> None:
        self._upkeep(label, cuts=replace(self.workspace.shop.upkeep.cuts, **changes))

    def _set_volume(self, value: float) -> None:
        bin_ = self.workspace.shop.upkeep.bin
        if bin_ is not None:
            self._upkeep("Set the bin", bin=replace(bin_, volume=value))

    def _add(self, item: Duty | Entry | CutPart | CutStock, label: str, pane: int) -> None:
        self.workspace.apply(lambda shop: put(shop, item), label)
        self.workspace.pick(item.id)
        self.panes.choose(pane)

    def add_duty(self) -> None:
        """A duty of one's own."""
        thing = self.workspace.shop.thing(self.view.picked or "")
        duty = Duty(
            id=fresh_id(self.workspace.shop, "duty"),
            name="New duty",
            thing=None if thing is None else thing.id,
            every_days=90,
            done_on=date.today().isoformat(),
        )
        self._add(duty, "Add a duty", DUE)

    def add_usual(self) -> None:
        """What is usually due at the machines that stand here."""
        self.workspace.apply(usual_duties, "Note what is usually due")
        self.panes.choose(DUE)

    def add_bin(self) -> None:
        """A bin of 200 litres."""
        self._upkeep("Add a bin", bin=Bin(emptied_on=date.today().isoformat()))
        self.panes.choose(DUE)

    def add_part(self) -> None:
        """A part of the cut list."""
        number = len(self.workspace.shop.upkeep.cuts.parts) + 1
        part = CutPart(id=fresh_id(self.workspace.shop, "part"), name=f"Part {number}")
        self._add(part, "Add a part", CUTS)

    def add_stock(self, kind: str) -> None:
        """A sheet or a stick that parts come from."""
        item_id = fresh_id(self.workspace.shop, kind)
        if kind == "stick":
            stock = CutStock(id=item_id, name="Stick", kind="stick", length=2.44, width=0.1, thickness=0.02)
        else:
            stock = CutStock(id=item_id, name="Sheet")
        self._add(stock, f"Add a {kind}", CUTS)

    def note(self) -> None:
        """A page of the journal that begins with what was done since the last."""
        done = self.workspace.done_since(self._noted)
        thing = self.workspace.shop.thing(self.view.picked or "")
        entry = Entry(
            id=fresh_id(self.workspace.shop, "entry"),
            day=date.today().isoformat(),
            text="\n".join(done)[:20_000],
            thing=None if thing is None else thing.id,
        )
        self._add(entry, "Note in the journal", JOURNAL)
        self._noted = self.workspace.steps_done

    # ---- the plan

    def pickable(self) -> list[str]:
        upkeep = self.workspace.shop.upkeep
        groups: tuple[tuple[Any, ...], ...] = (
            upkeep.duties,
            upkeep.journal,
            upkeep.cuts.parts,
            upkeep.cuts.stock,
        )
        return [one.id for group in groups for one in group]

    def draw(self, sheet: Sheet) -> None:
        shop, answers = self.workspace.shown, self.answers()
        draw_room.room(sheet, answers.of(RoomAnswers).shell, None)
        draw_things.things(sheet, shop, self.view.picked, self.trouble(), quiet=True)
        pressing: dict[str, Due] = {}
        by_id = {duty.id: duty for duty in shop.upkeep.duties}
        for one in answers.of(KeepAnswers).due:
            at = by_id[one.duty].thing
            if at is not None:
                pressing[at] = max(pressing.get(at, one), one, key=lambda due: due.gone)
        for thing_id, due in pressing.items():
            thing = shop.thing(thing_id)
            if thing is not None:
                self._clock(sheet, sheet.at(thing.x, thing.y), due)

    def _clock(self, sheet: Sheet, at: QPointF, due: Due) -> None:
        """How much of the time of the most pressing duty has gone, as a dial."""
        palette = sheet.palette
        colour = palette.grade(due_grade(due))
        radius = 10.0
        sheet.painter.setPen(sheet.pen(colour, 2.0))
        sheet.painter.setBrush(sheet.brush(palette.sheet))
        sheet.painter.drawEllipse(at, radius, radius)
        sheet.painter.setBrush(sheet.brush(colour, 0.8))
        turn = min(max(due.gone, 0.0), 1.0) * 360 * 16
        x, y = at.x() - radius, at.y() - radius
        sheet.painter.drawPie(round(x), round(y), round(2 * radius), round(2 * radius), 90 * 16, -round(turn))

    def empty_hint(self) -> str:
        shop = self.workspace.shown
        upkeep = shop.upkeep
        if not (upkeep.duties or upkeep.bin or upkeep.journal or upkeep.cuts.parts):
            return "Nothing is kept yet. Press “Add” for what is usually due at the machines, a bin, or parts to cut."
        return ""

    def commands(self) -> list[tuple[str, Callable[[], object]]]:
        return [
            ("Add a duty", self.add_duty),
            ("Add what is usually due at the machines", self.add_usual),
            ("Add a bin", self.add_bin),
            ("Add a part to cut", self.add_part),
            ("Add a sheet to cut from", partial(self.add_stock, "sheet")),
            ("Add a stick to cut from", partial(self.add_stock, "stick")),
            ("Note what I did in the journal", self.note),
        ]
