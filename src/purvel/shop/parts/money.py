"""What is to be bought, as a part."""

from dataclasses import replace

from purvel.shop.money import Item
from purvel.shop.part import Part, Ref, one
from purvel.shop.shop import Shop


def _put_items(shop: Shop, items: tuple[Item, ...]) -> Shop:
    return replace(shop, budget=replace(shop.budget, items=items))


def _without_need(item: Item, gone: str) -> Item:
    return replace(item, needs=tuple(need for need in item.needs if need != gone))


ITEMS = Part(
    "item",
    Item,
    lambda shop: shop.budget.items,
    _put_items,
    refs=(
        Ref(
            "thing", lambda item: one(item.thing), lambda item, _: replace(item, thing=None), "is for a thing"
        ),
        Ref("item", lambda item: item.needs, _without_need, "needs an item"),
    ),
    unique=True,
)
