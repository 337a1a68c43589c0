"""The form for something to be bought."""

from datetime import date
from functools import partial
from typing import Any

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from purvel.app.picked.form import Form
from purvel.app.widgets.fields import ChoiceField, TextField, number_field, text_field
from purvel.app.widgets.words import Words, set_tip
from purvel.catalogue import kinds
from purvel.catalogue.money import prices
from purvel.review.spend.remedies import reordered
from purvel.shop.money import Item

GROUPS = (
    ("machine", "a machine or bench"),
    ("tool", "a tool"),
    ("dust", "against dust"),
    ("wiring", "wiring"),
    ("ducts", "ducts"),
    ("board", "board and paint"),
    ("freight", "freight"),
    ("base", "a base"),
    ("blade", "blades"),
    ("other", "something else"),
)
KNOWN = (("guess", "a guess"), ("seen", "seen"), ("quote", "quoted"))


def day_field(name: str) -> TextField[str]:
    """A field for a day, as 2026-11-26."""

    def read(text: str) -> str:
        try:
            return date.fromisoformat(text.strip()).isoformat()
        except ValueError as exc:
            raise ValueError(
                f"“{text.strip()}” is not a day. Write it as {date.today().isoformat()}."
            ) from exc

    return TextField(name, read, lambda value: value or "")


class ItemForm(Form):
    """An item of the list."""

    def build(self) -> None:
        shop, item = self.workspace.shop, self.now
        self.field("To buy", text_field("Name of the item", needed=True), "name")
        self._moves()
        self.field("It is", ChoiceField("What it is", GROUPS), "group")
        listed: list[tuple[Any, str]] = [(None, "no machine")]
        listed += [(key, kinds()[key].name) for key in prices()]
        self.field("Kind", ChoiceField("Kind of the item", listed), "kind")
        things: list[tuple[Any, str]] = [(None, "nothing yet")]
        things += [(one.id, one.name or one.id) for one in shop.things]
        self.field("In the plan", ChoiceField("What stands for it in the plan", things), "thing")
        for key, word in (("low", "Costs from"), ("high", "up to")):
            self.field(
                word, number_field(f"Price, {word.lower()}", shop.budget.currency, least=0, most=1e7), key
            )
        self.field("Price is", ChoiceField("How the price is known", KNOWN), "known")
        others = [one for one in shop.budget.items if one.id != item.id]
        if others:
            self.note("Needs first:")
        for other in others:
            self._need(other)
        self._paid()
        self.field("Regret", text_field("What you would do otherwise", 20_000), "regret")

    def _moves(self) -> None:
        row = QWidget()
        line = QHBoxLayout(row)
        line.setContentsMargins(0, 0, 0, 0)
        line.addWidget(Words("On the list"), 1)
        for text, name, by in (("↑", "Earlier on the list", -1), ("↓", "Later on the list", 1)):
            button = QPushButton(text)
            button.setAccessibleName(name)
            set_tip(button, name)
            button.clicked.connect(partial(self._move, by))
            line.addWidget(button)
        self.rows.addRow(row)

    def _move(self, by: int, _: bool = False) -> None:
        ids = [item.id for item in self.workspace.shop.budget.items]
        at = ids.index(self.item)
        to = at + by
        if 0 <= to < len(ids):
            ids[at], ids[to] = ids[to], ids[at]
            self.workspace.apply(reordered(tuple(ids)), "Order of the list")

    def _need(self, other: Item) -> None:
        def write(on: bool) -> None:
            rest = tuple(one for one in self.now.needs if one != other.id)
            self.put("Needs", needs=(*rest, other.id) if on else rest)

        self.tick_row(other.name or other.id, lambda item: other.id in item.needs, write, is_name=True)

    def _paid(self) -> None:
        currency = self.workspace.shop.budget.currency
        self.tick_row("Bought", lambda item: item.paid is not None, self._set_bought)
        if self.now.paid is None:
            return
        self.field("Paid", number_field("Paid", currency, least=0, most=1e7, decimals=2), "paid")
        self.field("On", day_field("Day of paying"), "paid_on")
        claim = number_field("Days that a lower price can be claimed", "days", least=0, most=365, decimals=0)
        self.row(
            "Claim within",
            claim,
            lambda item: item.claim_days,
            lambda value: self.put("Claim", claim_days=round(value)),
        )
        seen = number_field("Lowest price seen since", currency, least=0, most=1e7, decimals=2)
        seen.may_be_blank = True
        self.row(
            "Seen since at",
            seen,
            lambda item: item.seen if item.seen is not None else item.paid,
            self._set_seen,
        )

    def _set_bought(self, on: bool) -> None:
        if on:
            price = (self.now.low + max(self.now.low, self.now.high)) / 2
            self.put("Bought", paid=round(price, 2), paid_on=date.today().isoformat())
        else:
            self.put("Not bought", paid=None, paid_on=None, seen=None)

    def _set_seen(self, value: float) -> None:
        self.put("Seen", seen=value)

    def shape(self) -> object:
        shop = self.workspace.shop
        return (
            self.now.paid is None,
            shop.budget.currency,
            [(one.id, one.name) for one in shop.budget.items],
            [(one.id, one.name) for one in shop.things],
        )

    def fault(self, changed: Item) -> str:
        return "The highest price is below the lowest." if changed.high < changed.low else ""
