"""What is to be bought, for the demo shops."""

from purvel.catalogue import kinds
from purvel.catalogue.money import extras, prices
from purvel.shop.money import Item


def buy(kind: str, thing: str | None = None, **changes: object) -> Item:
    low, high = prices()[kind]
    group = "dust" if kinds()[kind].source or kinds()[kind].cleaner else "machine"
    values = {
        "name": kinds()[kind].name,
        "group": group,
        "kind": kind,
        "thing": thing,
        "low": low,
        "high": high,
    } | changes
    return Item(id=f"item-{kind}", **values)


def extra(key: str, **changes: object) -> Item:
    one = extras()[key]
    values = {"name": one.name, "group": one.group, "low": one.price[0], "high": one.price[1]} | changes
    return Item(id=f"item-{key}", **values)
