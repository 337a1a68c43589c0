"""Spend: the list of what is to be bought, its order, what there is to spend."""

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from typing import Any

from PySide6.QtCore import QPointF

from purvel.app.plan import draw_room, draw_things
from purvel.app.plan.sheet import Sheet
from purvel.app.reviews import Reviews
from purvel.app.stages import entry_of
from purvel.app.stages.spend.money_steps import MoneySteps
from purvel.app.stages.stage import Stage
from purvel.app.theme import Theme
from purvel.app.widgets.fields import ChoiceField, number_field
from purvel.app.widgets.flow import clear
from purvel.app.workspace import Workspace
from purvel.catalogue import kinds
from purvel.catalogue.money import extras, prices, schools
from purvel.review.room.answers import RoomAnswers
from purvel.review.spend.answers import SpendAnswers
from purvel.review.spend.remedies import new_item, reordered
from purvel.shop import Shop
from purvel.shop.edits import fresh_id, put
from purvel.shop.money import Item

CURRENCIES = (("$", "$"), ("€", "€"), ("£", "£"), ("kr", "kr"))


class SpendStage(Stage):
    """What first, and what is left?"""

    entry = entry_of("spend")

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__(workspace, reviews, theme)
        self.instrument = self.steps = MoneySteps(theme)
        self._built: tuple[object, ...] = ()
        self.rebuild()

    def rebuild(self) -> None:
        clear(self.row)
        self._built = self._missing()
        entries = [*self._adders()]
        self.row.addWidget(
            self.menu_button("Add", [(a, b) for a, b, _ in entries], [c for _, _, c in entries])
        )
        orders: list[tuple[str, Callable[[], object]]] = [("Worked out for your jobs", self.take_best)]
        orders += [
            (f"{one.name}: {one.reason}", partial(self.take_school, key)) for key, one in schools().items()
        ]
        self.row.addWidget(self.menu_button("Order", orders))
        currency = self.workspace.shop.budget.currency
        self.start = number_field("Money to start with", currency, least=0, most=1e7, decimals=0)
        self.monthly = number_field("Money that comes in each month", currency, least=0, most=1e6, decimals=0)
        for field, key in ((self.start, "start"), (self.monthly, "monthly")):
            field.line.setFixedWidth(round(self.theme.pixels * 5.6))
            field.entered.connect(partial(self._set, key))
        self.pair("There is", self.start)
        self.pair("and a month", self.monthly)
        self.currency = ChoiceField("Currency", CURRENCIES)
        self.currency.entered.connect(lambda value: self._set("currency", value))
        self.row.addWidget(self.currency)

    def _missing(self) -> tuple[object, ...]:
        """What the menus depend on."""
        shop = self.workspace.shop
        listed = {item.thing for item in shop.budget.items}
        there = tuple(
            (thing.id, thing.name)
            for thing in shop.things
            if thing.id not in listed and thing.kind in prices()
        )
        return (shop.budget.currency, there)

    def _adders(self) -> list[tuple[str, Callable[[], object], str]]:
        shop = self.workspace.shop
        listed = {item.thing for item in shop.budget.items}
        found: list[tuple[str, Callable[[], object], str]] = [
            (thing.name or thing.id, partial(self.add, thing.kind, thing.id), "What stands in the plan")
            for thing in shop.things
            if thing.id not in listed and thing.kind in prices()
        ]
        for kind in prices():
            found.append((kinds()[kind].name, partial(self.add, kind, None), f"{kinds()[kind].group}"))
        found += [
            (one.name, partial(self.add_extra, key), "What goes with it") for key, one in extras().items()
        ]
        found.append(("The ducts, by the parts list", self.add_ducts, "What goes with it"))
        return found

    def _set(self, key: str, value: Any) -> None:
        changes: dict[str, Any] = {key: value}

        def edit(shop: Shop) -> Shop:
            return replace(shop, budget=replace(shop.budget, **changes))

        self.workspace.apply(edit, "Set the money")

    def refresh(self) -> None:
        if self._missing() != self._built:
            self.rebuild()
        budget = self.workspace.shop.budget
        self.start.show_value(budget.start)
        self.monthly.show_value(budget.monthly)
        self.currency.show_value(budget.currency)
        self.steps.show_spending(self.answers(), self.view.picked)

    # ---- edits

    def _add(self, item: Item) -> None:
        self.workspace.apply(lambda shop: put(shop, item), f"Put {item.name.lower()} on the list")
        self.workspace.pick(item.id)

    def add(self, kind: str, thing: str | None) -> None:
        """A kind on the list; for what stands in the plan already where that is named."""
        item = new_item(self.workspace.shop, kind, thing)
        standing = self.workspace.shop.thing(thing or "")
        self._add(item if standing is None else replace(item, name=standing.name or item.name))

    def add_extra(self, key: str) -> None:
        """Something that goes with machines."""
        one = extras()[key]
        item = Item(
            id=fresh_id(self.workspace.shop, f"item-{key}"),
            name=one.name,
            group=one.group,
            low=one.price[0],
            high=one.price[1],
        )
        self._add(item)

    def add_ducts(self) -> None:
        """The drawn ducts, priced by their parts list."""
        low, high = self.answers().of(SpendAnswers).duct_price()
        if high <= 0:
            self.workspace.said.emit(
                "No duct is drawn yet: press 5 and draw one; its parts list then has a price."
            )
            return
        item_id = fresh_id(self.workspace.shop, "item-ducts")
        self._add(
            Item(id=item_id, name="Ducts, by the parts list", group="ducts", low=round(low), high=round(high))
        )

    def take_best(self) -> None:
        """The worked-out order."""
        spend = self.answers().of(SpendAnswers)
        if len(spend.candidates) < 2:
            self.workspace.said.emit(
                "Put at least two things on the list; then their order can be worked out."
            )
            return
        if not spend.wants:
            self.workspace.said.emit("Your jobs say what is wanted: press 3 and add one.")
            return
        self.workspace.apply(reordered(spend.best().items), "Take the worked-out order")

    def take_school(self, key: str) -> None:
        """A school's order."""
        items = self.answers().of(SpendAnswers).school(key)
        self.workspace.apply(reordered(items), f"Order: {schools()[key].name.lower()}")
        self.workspace.said.emit(f"{schools()[key].name}: {schools()[key].reason}")

    # ---- the plan

    def pickable(self) -> list[str]:
        return [item.id for item in self.workspace.shop.budget.items]

    def draw(self, sheet: Sheet) -> None:
        shop, answers = self.workspace.shown, self.answers()
        draw_room.room(sheet, answers.of(RoomAnswers).shell, None)
        draw_things.things(sheet, shop, None, self.trouble(), quiet=True)
        spend = answers.of(SpendAnswers)
        for number, step in enumerate(spend.steps, start=1):
            item = next(one for one in shop.budget.items if one.id == step.item)
            thing = spend.thing_of(item) if item.kind is not None else None
            if thing is not None:
                self._badge(
                    sheet, sheet.at(thing.x, thing.y), str(number), picked=item.id == self.view.picked
                )

    def _badge(self, sheet: Sheet, at: QPointF, text: str, *, picked: bool) -> None:
        """The place in the list, on what stands for it."""
        width, height = sheet.size_of(text, 0.9, bold=True)
        radius = max(width, height) / 2 + 4
        sheet.painter.setPen(
            sheet.pen(sheet.palette.accent if picked else sheet.palette.ink, 2.6 if picked else 1.6)
        )
        sheet.painter.setBrush(sheet.brush(sheet.palette.sheet))
        sheet.painter.drawEllipse(at, radius, radius)
        sheet.text(at, text, sheet.palette.ink, factor=0.9, bold=True)

    def empty_hint(self) -> str:
        shop = self.workspace.shown
        if not shop.budget.items:
            return "The list is empty: type what there is to spend, and press “Add” for what you want to buy."
        return ""

    def commands(self) -> list[tuple[str, Callable[[], object]]]:
        added = [(f"Put on the list: {label.lower()}", act) for label, act, _ in self._adders()]
        orders = [
            (f"Order: {one.name.lower()}", partial(self.take_school, key)) for key, one in schools().items()
        ]
        return [*added, ("Order: worked out for your jobs", self.take_best), *orders]
