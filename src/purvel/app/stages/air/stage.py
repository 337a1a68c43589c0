"""Air: the session simulated, how long dust hangs, what it comes to against the chosen limit."""

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtWidgets import QCheckBox

from purvel.app.desk import Desk
from purvel.app.plan import draw_room, draw_things
from purvel.app.plan.lettering import Word, around
from purvel.app.plan.sheet import Sheet
from purvel.app.reviewing import ReviewBench
from purvel.app.stages import ENTRIES
from purvel.app.stages.air.day_chart import DayInstrument
from purvel.app.stages.stage import Stage
from purvel.app.theme import Look
from purvel.app.widgets.fields import ChoiceField, number_field
from purvel.app.widgets.flow import clear
from purvel.catalogue import captures, kinds, limits, operations
from purvel.review.air.answers import AirAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.roomair.day import past_hoods
from purvel.shop import Spell
from purvel.shop.edits import change_air, change_session, fresh_id, put


class AirStage(Stage):
    """How long does the dust hang?"""

    entry = ENTRIES[3]

    def __init__(self, desk: Desk, bench: ReviewBench) -> None:
        super().__init__(desk, bench)
        self.instrument = self.day = DayInstrument(desk, bench)
        self.rebuild()

    def rebuild(self) -> None:
        clear(self.row)
        self.row.addWidget(
            self.menu_button(
                "Add work", [(one.name, lambda k=key: self.add_work(k)) for key, one in operations().items()]
            )
        )
        self.minutes = number_field("Length of the session", "min", least=1, most=1440, decimals=0)
        self.minutes.entered.connect(lambda value: self._session("Set the session", minutes=float(value)))
        self.label_limit = ChoiceField(
            "Limit to hold it against",
            [(key, f"limit {one.value:g} mg/m³ {one.short}") for key, one in limits().items()],
            widest=18,
        )
        self.label_limit.entered.connect(
            lambda value: self.desk.apply(lambda shop: change_air(shop, limit=value), "Choose a limit")
        )
        self.cleaner = QCheckBox("Cleaner")
        self.cleaner.toggled.connect(lambda on: self._session("Switch the cleaner", cleaner_on=on))
        self.run_on = number_field(
            "Cleaner runs on after the last cut", "min", least=0, most=1440, decimals=0
        )
        self.run_on.entered.connect(
            lambda value: self._session("Set the cleaner's run-on", run_on=float(value))
        )
        self.doors = QCheckBox("Doors open")
        self.doors.toggled.connect(lambda on: self._session("Open or shut the doors", doors_open=on))
        self.minutes.line.setFixedWidth(round(self.pixels * 4.8))
        self.run_on.line.setFixedWidth(round(self.pixels * 4.3))
        self.pair("Session", self.minutes)
        self.row.addWidget(self.doors)
        self.row.addWidget(self.label_limit)
        self.row.addWidget(self.cleaner)
        self.pair("runs on", self.run_on)
        self.refresh()

    def _session(self, label: str, **changes: object) -> None:
        self.desk.apply(lambda shop: change_session(shop, **changes), label)

    def refresh(self) -> None:
        air = self.desk.shop.air
        self.minutes.show_value(air.session.minutes)
        self.run_on.show_value(air.session.run_on)
        self.label_limit.show_value(air.limit)
        for check, value in ((self.cleaner, air.session.cleaner_on), (self.doors, air.session.doors_open)):
            check.blockSignals(True)
            check.setChecked(value)
            check.blockSignals(False)
        self.day.refresh()

    def dress(self, look: Look, pixels: int) -> None:
        super().dress(look, pixels)
        self.day.dress(look, pixels)

    def add_work(self, operation: str) -> None:
        """A stretch of work after the last one, at the machine that does it if there is one."""
        session = self.desk.shop.air.session
        one = operations()[operation]
        start = max((spell.start + spell.minutes for spell in session.spells), default=0.0) + 5.0
        thing = next(
            (
                t.id
                for t in self.desk.shop.things
                if t.kind in kinds() and kinds()[t.kind].operation == operation
            ),
            None,
        )
        spell = Spell(
            id=fresh_id(self.desk.shop, "spell"),
            name=one.name,
            operation=operation,
            thing=thing,
            start=min(start, 1430.0),
            minutes=15.0,
            emission=one.band,
            capture=captures()["none"].share,
        )
        minutes = max(session.minutes, spell.start + spell.minutes + 10.0)
        self.desk.apply(
            lambda shop: change_session(put(shop, spell), minutes=min(1440.0, minutes)),
            f"Add {one.name.lower()}",
        )
        self.desk.pick(spell.id)

    def pickable(self) -> list[str]:
        return [
            *(spell.id for spell in self.desk.shop.air.session.spells),
            *(thing.id for thing in self.desk.shop.things if thing.cleaner),
        ]

    def draw(self, sheet: Sheet) -> None:
        shop, answers = self.desk.shown, self.answers()
        draw_room.room(sheet, answers.of(RoomAnswers).shell, None)
        picked = next(
            (spell.thing for spell in shop.air.session.spells if spell.id == self.desk.picked),
            self.desk.picked,
        )
        day = self.bench.latest.answers.of(AirAnswers).day
        draw_things.things(sheet, shop, picked, self.trouble(), quiet=True)
        for thing in shop.things:
            if thing.cleaner is not None:
                draw_things.cleaner_cone(sheet, thing)
        if day is not None:
            self._emitters(sheet)
            clear = self.say.minutes(day.courses["central"].clear_after)
            text = f"{self.say.volume(day.volume)} of air\nclear {clear} after\nthe last cut"
            sheet.text(
                QPointF(14, sheet.pixels * 2.3),
                text,
                sheet.look.ink,
                factor=0.87,
                bold=True,
                plate=True,
                centre=False,
            )

    def _emitters(self, sheet: Sheet) -> None:
        """Rings round machines for what gets past their hoods in the session, by area."""
        shop = self.desk.shown
        lost = past_hoods(shop.air)
        most = max(lost.values(), default=0.0)
        for item, amount in lost.items():
            thing = shop.thing(item)
            if thing is None or most <= 0:
                continue
            radius = (0.15 + 0.6 * (amount / most) ** 0.5) * sheet.scale
            sheet.painter.setPen(sheet.pen(sheet.look.air_coarse, 1.5, dashes=(2, 2)))
            sheet.painter.setBrush(sheet.brush(sheet.look.air_coarse, 0.22))
            sheet.painter.drawEllipse(sheet.at(thing.x, thing.y), radius, radius)
            middle, text = sheet.at(thing.x, thing.y), f"{amount / 1000:.2g} g past the hood"
            ring = QRectF(middle.x() - radius, middle.y() - radius, 2 * radius, 2 * radius)
            sheet.letter(
                Word(
                    (text,),
                    around(ring, *sheet.size_of(text, 0.8)),
                    sheet.look.ink,
                    factor=0.8,
                    plate=True,
                    rank=2,
                    owner=thing.id,
                )
            )

    def empty_hint(self) -> str:
        shop = self.desk.shown
        if not shop.room.walls:
            return "The air needs a room: press 1 and enter its walls."
        if not shop.air.session.spells:
            return (
                "No work in the session yet.\n\nPress “Add work”, choose what you do, and set its minutes and"
                " hood on the right. The day below then shows how the dust hangs."
            )
        return ""

    def commands(self) -> list[tuple[str, Callable[[], object]]]:
        return [
            (f"Add work: {one.name.lower()}", lambda k=key: self.add_work(k))
            for key, one in operations().items()
        ]
