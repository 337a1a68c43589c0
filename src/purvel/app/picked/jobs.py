"""The form for a job: its stock, where that comes in, and its steps."""

from dataclasses import replace
from functools import partial
from typing import Any

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from purvel.app.picked.form import Form
from purvel.app.widgets.fields import ChoiceField, number_field, quantity_field, text_field
from purvel.app.widgets.words import Words, set_tip
from purvel.catalogue import able, trade_operations
from purvel.shop import Stock
from purvel.shop.edits import change_shop
from purvel.shop.jobs import Job, JobStep
from purvel.shop.parts import name_of

HOLDS = (("flat", "flat"), ("on edge", "on edge"))
SIDES = (("length", "long", 0.05, 12.0), ("width", "wide", 0.005, 4.0), ("thickness", "thick", 0.001, 0.6))


class JobForm(Form):
    """A job."""

    def build(self) -> None:
        job, shop = self.now, self.workspace.shop
        self.field("Job", text_field("Name of the job", needed=True), "name")
        racks = [thing for thing in shop.things if thing.kind in ("timber-rack", "sheet-rack")]
        doors = [one for one in shop.room.openings if one.kind != "window"]
        ids = [*(one.id for one in doors), *(one.id for one in racks)]
        sources = [(None, "the widest door"), *((one, name_of(shop, one)) for one in ids)]
        self.field("Stock comes from", ChoiceField("Where the stock comes from", sources), "comes_from")
        self.tick("Room to turn outside", "yard")
        self._sides(lambda one: one.stock, self._put_stock, "Stock")
        self.field("Carried", ChoiceField("How it is carried", HOLDS), "held")
        stature = self.length("How tall you are", 1.2, 2.3)
        self.row("You are tall", stature, lambda _: self.workspace.shop.person.stature, self._set_stature)

        density = quantity_field("Density", self.units.density, least=50.0, most=2000.0)
        self.field("Density", density, "density")
        self.field("Done", number_field("How often", "a month", least=0, most=1000), "per_month")
        for number in range(len(job.steps)):
            self._step(number)
        self.button("Add a step", self._add_step)

    def shape(self) -> object:
        shop = self.workspace.shop
        job: Job = self.now
        return (
            [(step.operation, step.stock is None) for step in job.steps],
            [(thing.id, thing.name) for thing in shop.things],
            [(one.id, one.kind, one.wall) for one in shop.room.openings],
        )

    def _sides(self, read: Any, put: Any, whose: str) -> None:
        """Length, width and thickness of a stock in one row each."""
        for key, word, least, most in SIDES:
            field = self.length(f"{whose}: how {word}", least, most)
            self.inner(f"{whose} {word}" if key == "length" else word, field, read, key, put)

    def _set_stature(self, value: float) -> None:
        person = replace(self.workspace.shop.person, stature=value)
        self.workspace.apply(lambda shop: change_shop(shop, person=person), "Set how tall you are")

    def _put_stock(self, **changes: float) -> None:
        self.put("Stock", stock=replace(self.now.stock, **changes))

    # ---- steps

    def _step(self, number: int) -> None:
        row = QWidget()
        line = QHBoxLayout(row)
        line.setContentsMargins(0, 8, 0, 0)
        head = Words(f"Step {number + 1}")
        head.setObjectName("heading")
        line.addWidget(head, 1)
        for text, tip, by in (("↑", "Earlier", -1), ("↓", "Later", 1)):
            button = QPushButton(text)
            button.setAccessibleName(f"Step {number + 1} {tip.lower()}")
            set_tip(button, tip)
            button.clicked.connect(partial(self._move, number, by))
            line.addWidget(button)
        away = QPushButton("Take out")
        away.setAccessibleName(f"Take out step {number + 1}")
        away.clicked.connect(partial(self._take_out, number))
        line.addWidget(away)
        self.rows.addRow(row)
        step: JobStep = self.now.steps[number]
        operations = [(key, one.name) for key, one in trade_operations().items()]
        self._of(number, "What", ChoiceField(f"What step {number + 1} does", operations), "operation")
        here = [(thing.id, thing.name or thing.id) for thing in self.workspace.shop.things if thing.stand]
        best = next(iter(able(self.workspace.shop.things, step.operation)), None)
        nearest = "nothing here does it" if best is None else f"the best here: {best.name}"
        stations = ChoiceField(f"Where step {number + 1} is done", [(None, nearest), *here])
        self._of(number, "At", stations, "station")
        walks = number_field(f"Walks for step {number + 1}", "walks", least=1, most=1000, decimals=0)
        self.row(
            "Goes there",
            walks,
            lambda one: one.steps[number].walks,
            lambda value: self._put_step(number, walks=round(value)),
        )
        minutes = number_field(f"Minutes of step {number + 1}", "min", least=0, most=1440)
        self._of(number, "Takes", minutes, "minutes")
        self.tick_row(
            "Other sizes from here on",
            lambda one: one.steps[number].stock is not None,
            lambda on: self._put_step(number, stock=self._stock_before(number) if on else None),
        )
        if step.stock is not None:
            self._sides(lambda one: one.steps[number].stock, partial(self._put_step_stock, number), "Piece")

    def _of(self, number: int, word: str, widget: Any, key: str) -> None:
        self.inner(word, widget, lambda one: one.steps[number], key, partial(self._put_step, number))

    def _stock_before(self, number: int) -> Stock:
        stock: Stock = self.now.stock
        for step in self.now.steps[:number]:
            stock = step.stock or stock
        return stock

    def _put_step(self, number: int, **changes: Any) -> None:
        steps = list(self.now.steps)
        steps[number] = replace(steps[number], **changes)
        self.put(f"Step {number + 1}", steps=tuple(steps))

    def _put_step_stock(self, number: int, **changes: float) -> None:
        self._put_step(number, stock=replace(self.now.steps[number].stock, **changes))

    def _move(self, number: int, by: int, _: bool = False) -> None:
        steps, to = list(self.now.steps), number + by
        if 0 <= to < len(steps):
            steps[number], steps[to] = steps[to], steps[number]
            self.put("Order of steps", steps=tuple(steps))

    def _take_out(self, number: int, _: bool = False) -> None:
        steps = list(self.now.steps)
        del steps[number]
        self.put("Take a step out", steps=tuple(steps))

    def _add_step(self) -> None:
        self.put("Add a step", steps=(*self.now.steps, JobStep(operation="crosscut")))
