"""Air: the session simulated, how long dust hangs, what it comes to against the chosen limit."""

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QMarginsF, QPointF, QRectF, QSignalBlocker, QSizeF
from PySide6.QtWidgets import QCheckBox, QPushButton, QWidget

from purvel.app.plan import draw_room, draw_things
from purvel.app.plan.label_layout import Label, around
from purvel.app.plan.sheet import Sheet
from purvel.app.reviews import Reviews
from purvel.app.stages import entry_of
from purvel.app.stages.air.day_chart import LOG, DayInstrument
from purvel.app.stages.air.day_menu import DayMenu
from purvel.app.stages.air.log_pane import LogPane
from purvel.app.stages.air.log_tool import LogTool
from purvel.app.stages.stage import Stage
from purvel.app.theme import Theme
from purvel.app.widgets.fields import ChoiceField, TextField, number_field
from purvel.app.widgets.flow import FlowRow, clear
from purvel.app.widgets.number_list import numbers_field
from purvel.app.workspace import Workspace
from purvel.catalogue import kinds, limits, operations
from purvel.review.air.answers import AirAnswers
from purvel.review.air.hanging import hung
from purvel.review.air.hoods import AS_DRAWN
from purvel.review.room.answers import RoomAnswers
from purvel.roomair.day import Day
from purvel.roomair.stretches import past_hoods
from purvel.shop import Shop, WorkInterval
from purvel.shop.edits import change_air, change_session, fresh_id, put

LEVELS = (
    ("ach_closed", "Air changes, shut", "Outdoor air changes an hour, all shut", "1/h"),
    ("ach_open", "with doors open", "Outdoor air changes an hour, doors open", "1/h"),
    ("outdoors", "Fine dust outdoors", "Fine dust outdoors", "µg/m³"),
    ("clean_level", "Clear at", "Inhalable dust at which the air is called clear", "µg/m³"),
    ("clean_fine", "fine dust at", "PM2.5 at which the air is called clear", "µg/m³"),
)
"""The fields of the room's air: which of them, the word before it, its name, its unit."""
BY_SIZE = (
    ("outdoor_sizes", "Outdoors by size", "Shares of the dust outdoors by size, fine to coarse", "%", 100.0),
    ("at_start", "At the start", "Hangs at the start by size, fine to coarse", "µg/m³", 1e6),
)
"""Its fields by size: which, the word before it, its name, its unit, the most of each."""
ROOM_HINT = (
    "How the room breathes, and when its air is called clear. Press “Room's air” again to put this away."
)


class AirStage(Stage):
    """How long does the dust hang?"""

    entry = entry_of("air")

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__(workspace, reviews, theme)
        self.log = LogPane(workspace, theme)
        self.instrument = self.day = DayInstrument(workspace, theme, self.log)
        self._picked: str | None = None
        self.menu = DayMenu(workspace, self.answers)
        self.tray = FlowRow()
        self.tray.row.setContentsMargins(0, 0, 0, 0)
        self.log_tool = LogTool(workspace, reviews, self.log, partial(self.day.panes.choose, LOG))
        self.rebuild()

    def rebuild(self) -> None:
        clear(self.row)
        kinds_of_work = [(one.name, partial(self.add_work, key)) for key, one in operations().items()]
        self.row.addWidget(self.menu_button("Add work", kinds_of_work))
        adding, days = self.menu.adding(), self.menu.days()
        groups = ["Add"] * len(adding) + ["Whole day"] * len(days)
        self.row.addWidget(self.menu_button("Day", [*adding, *days], groups))
        self.log.set_menu(self.menu_button("Log", self.log_tool.entries()))
        self.minutes = number_field("Length of the session", "min", least=1, most=1440, decimals=0)
        self.minutes.entered.connect(lambda value: self._session("Set the session", minutes=value))
        named = [(key, f"limit {one.value:g} mg/m³ {one.short}") for key, one in limits().items()]
        self.limit = ChoiceField("Limit to hold it against", named, widest=18)
        self.limit.entered.connect(self._choose_limit)
        self.cleaner = QCheckBox("Cleaner")
        self.cleaner.toggled.connect(lambda on: self._session("Switch the cleaner", cleaner_on=on))
        after = "Cleaner runs on after the last cut"
        self.run_on = number_field(after, "min", least=0, most=1440, decimals=0)
        self.run_on.entered.connect(lambda value: self._session("Set the cleaner's run-on", run_on=value))
        self.doors = QCheckBox("Doors open")
        self.doors.toggled.connect(lambda on: self._session("Open or shut the doors", doors_open=on))
        self.minutes.line.setFixedWidth(round(self.theme.pixels * 4.8))
        self.run_on.line.setFixedWidth(round(self.theme.pixels * 4.3))
        self.pair("Session", self.minutes)
        self.row.addWidget(self.doors)
        self.row.addWidget(self.limit)
        self.row.addWidget(self.cleaner)
        self.pair("runs on", self.run_on)
        self._make_levels()
        self.row.addWidget(self.room_button)

    def _make_levels(self) -> None:
        """The fields of the room's air, which its button brings up beside the plan."""
        clear(self.tray.row)
        self.levels: dict[str, TextField[float]] = {}

        for key, word, words, unit in LEVELS:
            is_rate = key.startswith("ach")
            most, least = (200.0, 0.0) if is_rate else (100_000.0, 0.001 if key.startswith("clean") else 0.0)
            field = number_field(words, unit, least=least, most=most, decimals=2 if is_rate else 1)
            field.entered.connect(partial(self._set_level, key))
            field.line.setFixedWidth(round(self.theme.pixels * (4.8 if is_rate else 6.6)))
            self.levels[key] = field
            self.tray.add_pair(word, field)
        self.by_size: dict[str, TextField[tuple[float, ...]]] = {}
        for key, word, name, unit, most in BY_SIZE:
            sizes = numbers_field(name, unit, 4, least=0.0, most=most)
            sizes.entered.connect(partial(self._set_sizes, key))
            sizes.line.setFixedWidth(round(self.theme.pixels * 8.5))
            self.by_size[key] = sizes
            self.tray.add_pair(word, sizes)
        self.days = [
            number_field(f"Days a week like {name}", "a week", least=0, most=7, decimals=0) for name in "AB"
        ]
        for number, (name, field) in enumerate(zip("AB", self.days)):
            field.entered.connect(partial(self._set_days, number))
            field.line.setFixedWidth(round(self.theme.pixels * 5.2))
            self.tray.add_pair(f"Days like {name}", field)
        self.room_button = QPushButton("Room's air")
        self.room_button.setCheckable(True)
        self.room_button.toggled.connect(lambda _: self.tool_changed.emit())

    def _set_level(self, key: str, value: float) -> None:
        per = 1.0 if key.startswith("ach") else 1e-3
        self.workspace.apply(lambda shop: change_air(shop, **{key: value * per}), "Set the room's air")

    def _set_sizes(self, key: str, values: tuple[float, ...]) -> None:
        per = 1e-3 if key == "at_start" else 1e-2
        if key == "outdoor_sizes" and abs(sum(values) - 100.0) > 1.0:
            self.workspace.said.emit("The shares of the sizes come to 100 % together. Nothing was changed.")
            self.refresh()
            return
        sizes = tuple(per * value for value in values)
        self.workspace.apply(lambda shop: change_air(shop, **{key: sizes}), "Set the room's air")

    def _set_days(self, number: int, value: float) -> None:
        def edit(shop: Shop) -> Shop:
            one, other = shop.air.days
            return change_air(shop, days=(one, round(value)) if number else (round(value), other))

        self.workspace.apply(edit, "Set the days of the week")

    def _choose_limit(self, limit: str) -> None:
        self.workspace.apply(lambda shop: change_air(shop, limit=limit), "Choose a limit")

    def _session(self, label: str, **changes: float | bool) -> None:
        self.workspace.apply(lambda shop: change_session(shop, **changes), label)

    def refresh(self) -> None:
        air = self.workspace.shop.air
        self.minutes.show_value(air.session.minutes)
        self.run_on.show_value(air.session.run_on)
        for key, field in self.levels.items():
            field.show_value(getattr(air, key) * (1.0 if key.startswith("ach") else 1e3))
        for key, sizes in self.by_size.items():
            per = 1e3 if key == "at_start" else 1e2
            sizes.show_value(tuple(per * value for value in getattr(air, key)))
        for field, days in zip(self.days, air.days):
            field.show_value(days)
        self.limit.show_value(air.limit)
        for check, value in ((self.cleaner, air.session.cleaner_on), (self.doors, air.session.doors_open)):
            with QSignalBlocker(check):
                check.setChecked(value)
        self.day.show_day(self.shop, self.review, self.view)
        if self.view.picked != self._picked:
            self._picked = self.view.picked
            if any(stretch.id == self._picked for stretch in air.stretches):
                self.day.panes.choose(LOG)
        self.log.show_log(self.answers(), self.review, self.view.picked)

    def add_work(self, operation: str) -> None:
        """A stretch of work after the last one, at the machine that does it if there is one."""
        session = self.workspace.shop.air.session
        one = operations()[operation]
        start = max((interval.start + interval.minutes for interval in session.work), default=0.0) + 5.0
        thing = next(
            (
                t.id
                for t in self.workspace.shop.things
                if t.kind in kinds() and kinds()[t.kind].operation == operation
            ),
            None,
        )
        interval = WorkInterval(
            id=fresh_id(self.workspace.shop, "interval"),
            name=one.name,
            operation=operation,
            thing=thing,
            start=min(start, 1430.0),
            minutes=15.0,
            emission=one.band,
            cutting=one.cutting,
            hood=AS_DRAWN,
        )
        minutes = max(session.minutes, interval.start + interval.minutes + 10.0)
        self.workspace.apply(
            lambda shop: change_session(put(shop, interval), minutes=min(1440.0, minutes)),
            f"Add {one.name.lower()}",
        )
        self.workspace.pick(interval.id)

    def tool_hint(self) -> str:
        return ROOM_HINT if self.room_button.isChecked() else ""

    def tool_tray(self) -> QWidget | None:
        return self.tray if self.room_button.isChecked() else None

    def put_down(self) -> None:
        self.room_button.setChecked(False)

    def finish(self) -> None:
        self.log_tool.finish()

    def pickable(self) -> list[str]:
        return [
            *(interval.id for interval in self.workspace.shop.air.session.work),
            *(thing.id for thing in self.workspace.shop.things if thing.cleaner),
            *(stretch.id for stretch in self.workspace.shop.air.stretches),
            *(one.id for one in self.workspace.shop.air.session.spells),
            *(one.id for one in self.workspace.shop.air.rooms),
            *(one.id for one in self.workspace.shop.air.passages),
            *(one.id for one in self.workspace.shop.air.people),
        ]

    def draw(self, sheet: Sheet) -> None:
        shop, answers = self.workspace.shown, self.answers()
        draw_room.room(sheet, answers.of(RoomAnswers).shell, None)
        picked = next(
            (interval.thing for interval in shop.air.session.work if interval.id == self.workspace.picked),
            self.workspace.picked,
        )
        day = self.review.answers.of(AirAnswers).day
        draw_things.things(sheet, shop, picked, self.trouble(), quiet=True)
        for thing in shop.things:
            if thing.cleaner is not None:
                place = hung(answers.of(RoomAnswers).shell, shop.things, thing).place
                draw_things.cleaner_cone(sheet, thing, min(place.throw, place.before))
        if day is not None:
            self._emitters(sheet)
            self._answer(sheet, day)

    def seen_of_review(self) -> object:
        found = self.review.answers.of(AirAnswers)
        return self.trouble(), found.day, past_hoods(found.air)

    def _answer(self, sheet: Sheet, day: Day) -> None:
        """How much air there is and when it is clear, beside the room where there is a corner for it."""
        clear = self.say.minutes(day.courses["central"].clear_after)
        text = f"{self.say.volume(day.volume)} of air\nclear {clear} after\nthe last cut"
        size = QSizeF(*sheet.size_of(text, 0.87, bold=True)).grownBy(QMarginsF(6, 2, 6, 2))
        corners = self.answers().of(RoomAnswers).shell.traverse.corners
        box = sheet.clear_corner(size, corners, upper=True) or QRectF(QPointF(8, 8), size)
        where = QPointF(box.left() + 6, box.center().y())
        sheet.text(where, text, sheet.palette.ink, factor=0.87, bold=True, plate=True, centre=False)

    def _emitters(self, sheet: Sheet) -> None:
        """Rings round machines for what gets past their hoods in the day that is drawn below, by area."""
        shop = self.workspace.shown
        lost = past_hoods(self.review.answers.of(AirAnswers).air)
        most = max(lost.values(), default=0.0)
        for item, amount in lost.items():
            thing = shop.thing(item)
            if thing is None or most <= 0:
                continue
            radius = (0.15 + 0.6 * (amount / most) ** 0.5) * sheet.scale
            sheet.painter.setPen(sheet.pen(sheet.palette.air_coarse, 1.5, dashes=(2, 2)))
            sheet.painter.setBrush(sheet.brush(sheet.palette.air_coarse, 0.22))
            sheet.painter.drawEllipse(sheet.at(thing.x, thing.y), radius, radius)
            middle, text = sheet.at(thing.x, thing.y), f"{amount / 1000:.2g} g past the hood"
            ring = QRectF(middle.x() - radius, middle.y() - radius, 2 * radius, 2 * radius)
            sheet.label(
                Label(
                    (text,),
                    around(ring, *sheet.size_of(text, 0.8)),
                    sheet.palette.ink,
                    factor=0.8,
                    plate=True,
                    rank=2,
                    owner=thing.id,
                )
            )

    def empty_hint(self) -> str:
        shop = self.workspace.shown
        if not shop.room.walls:
            return "The air needs a room: press 1 and enter its walls."
        if not shop.air.session.work:
            return (
                "No work in the session yet.\n\nPress “Add work”, choose what you do, and set its minutes and"
                " hood on the right. The day below then shows how the dust hangs."
            )
        return ""

    def commands(self) -> list[tuple[str, Callable[[], object]]]:
        work: list[tuple[str, Callable[[], object]]] = [
            (f"Add work: {one.name.lower()}", partial(self.add_work, key))
            for key, one in operations().items()
        ]
        return [
            *work,
            *((f"Air: {words[0].lower()}{words[1:]}", act) for words, act in self.menu.adding()),
            *((f"Day: {words[0].lower()}{words[1:]}", act) for words, act in self.menu.days()),
            *((f"Log: {words[0].lower()}{words[1:]}", act) for words, act in self.log_tool.entries()),
        ]
