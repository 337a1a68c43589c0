"""Duties, the journal and the cut list, as parts."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from purvel.shop.part import Part, Ref, one
from purvel.shop.shop import Shop
from purvel.shop.upkeep import CutPart, CutStock, Duty, Entry


def _put(field: str) -> Callable[[Shop, tuple[Any, ...]], Shop]:
    """Writes one collection of the upkeep."""

    def put(shop: Shop, items: tuple[Any, ...]) -> Shop:
        changed: Any = {field: items}
        return replace(shop, upkeep=replace(shop.upkeep, **changed))

    return put


def _put_cuts(field: str) -> Callable[[Shop, tuple[Any, ...]], Shop]:
    """Writes one collection of the cut list."""

    def put(shop: Shop, items: tuple[Any, ...]) -> Shop:
        changed: Any = {field: items}
        return replace(shop, upkeep=replace(shop.upkeep, cuts=replace(shop.upkeep.cuts, **changed)))

    return put


def _loose(item: Any, _: str) -> Any:
    """It is at no thing."""
    return replace(item, thing=None)


def _without_picture(entry: Entry, gone: str) -> Entry:
    return replace(entry, pictures=tuple(one for one in entry.pictures if one != gone))


DUTIES = Part(
    "duty",
    Duty,
    lambda shop: shop.upkeep.duties,
    _put("duties"),
    refs=(Ref("thing", lambda duty: one(duty.thing), _loose, "is due at a thing"),),
    unique=True,
)
ENTRIES = Part(
    "journal entry",
    Entry,
    lambda shop: shop.upkeep.journal,
    _put("journal"),
    lambda _, entry: f"the entry of {entry.day}",
    refs=(
        Ref("thing", lambda entry: one(entry.thing), _loose, "is about a thing"),
        Ref("attachment", lambda entry: entry.pictures, _without_picture, "shows a picture"),
    ),
    unique=True,
)
CUT_PARTS = Part("cut part", CutPart, lambda shop: shop.upkeep.cuts.parts, _put_cuts("parts"), unique=True)
CUT_STOCK = Part("cut stock", CutStock, lambda shop: shop.upkeep.cuts.stock, _put_cuts("stock"), unique=True)
