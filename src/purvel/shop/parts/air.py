"""What the air has besides work, as parts: spells of the session, rooms beyond, passages, people."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from purvel.shop.air import NextRoom, Passage, Person, Spell
from purvel.shop.part import Part, Ref, one
from purvel.shop.shop import Shop


def _put(key: str) -> Callable[[Shop, tuple[Any, ...]], Shop]:
    def put(shop: Shop, items: tuple[Any, ...]) -> Shop:
        changes: dict[str, Any] = {key: items}
        return replace(shop, air=replace(shop.air, **changes))

    return put


def _put_spells(shop: Shop, spells: tuple[Spell, ...]) -> Shop:
    ordered = tuple(sorted(spells, key=lambda spell: spell.start))
    return replace(shop, air=replace(shop.air, session=replace(shop.air.session, spells=ordered)))


def _room(shop: Shop, item_id: str | None) -> str:
    """A room's name; the shop's own where it is none."""
    if item_id is None:
        return "the shop"
    return next((room.name for room in shop.air.rooms if room.id == item_id), "") or item_id


def _passage(shop: Shop, passage: Passage) -> str:
    return (
        passage.name or f"{passage.kind} between {_room(shop, passage.room)} and {_room(shop, passage.other)}"
    )


SPELLS = Part(
    "spell",
    Spell,
    lambda shop: shop.air.session.spells,
    _put_spells,
    lambda _, spell: spell.name or ("the cleaner's time" if spell.thing else "the open door"),
    refs=(
        Ref(
            "thing",
            lambda spell: one(spell.thing),
            lambda *_: None,
            "runs a cleaner",
            fits=lambda thing: thing.cleaner is not None,
        ),
    ),
    unique=True,
)

ROOMS = Part("room beyond", NextRoom, lambda shop: shop.air.rooms, _put("rooms"), unique=True)

PASSAGES = Part(
    "passage",
    Passage,
    lambda shop: shop.air.passages,
    _put("passages"),
    _passage,
    refs=(
        Ref("room beyond", lambda passage: (passage.room,), lambda *_: None, "leads to a room"),
        Ref("room beyond", lambda passage: one(passage.other), lambda *_: None, "leads to a room"),
        Ref(
            "opening",
            lambda passage: one(passage.opening),
            lambda passage, _: replace(passage, opening=None),
            "is an opening",
        ),
    ),
    unique=True,
)

PEOPLE = Part(
    "person",
    Person,
    lambda shop: shop.air.people,
    _put("people"),
    lambda _, person: person.name or "somebody",
    refs=(Ref("room beyond", lambda person: one(person.room), lambda *_: None, "is in a room"),),
    unique=True,
)
