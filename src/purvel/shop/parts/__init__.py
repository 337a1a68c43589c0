"""The table of parts: every collection of the document, declared once in the modules beside this one.

What a part says of itself is all that ids, lookup, names in sentences, taking away with what hangs on it,
faults and picking go by. A new collection is one entry in `PARTS`.
"""

from collections.abc import Iterator
from functools import cache
from typing import Any, NamedTuple

from purvel.shop.part import Part, Ref
from purvel.shop.parts.air import PASSAGES, PEOPLE, ROOMS, SPELLS
from purvel.shop.parts.ducts import ADAPTERS, GATE_SETS, GATES, HOODS, QUOTES, RAN, RUNS, SWITCHED
from purvel.shop.parts.logs import EVENTS, STRETCHES
from purvel.shop.parts.logs import UNITS as LOG_UNITS
from purvel.shop.parts.money import ITEMS
from purvel.shop.parts.power import APPLIANCES, CIRCUITS, LUMINAIRES, OUTLETS
from purvel.shop.parts.room import DIAGONALS, FIXTURES, HEIGHTS, JOISTS, OPENINGS, SLOPES, SPOTS, WALLS
from purvel.shop.parts.scenes import ATTACHMENTS, SCENES
from purvel.shop.parts.storage import TOOLS, UNITS
from purvel.shop.parts.things import PORTS, THINGS, port_id
from purvel.shop.parts.upkeep import CUT_PARTS, CUT_STOCK, DUTIES, ENTRIES
from purvel.shop.parts.work import JOBS, WORK
from purvel.shop.shop import Shop
from purvel.shop.watched import Reads, Watched

__all__ = [
    "PARTS",
    "find",
    "ids_of",
    "item_of",
    "lost",
    "name_of",
    "part_of",
    "port_id",
    "reads_same",
    "targets_of",
    "without_lost",
]

PARTS: tuple[Part[Any], ...] = (
    THINGS, WALLS, OPENINGS, FIXTURES, SLOPES, JOISTS, DIAGONALS, SPOTS, HEIGHTS,
    RUNS, GATES, PORTS, GATE_SETS, SWITCHED, RAN, ADAPTERS, HOODS, QUOTES, WORK, SCENES, ATTACHMENTS, JOBS,
    CIRCUITS, OUTLETS, APPLIANCES, LUMINAIRES, UNITS, TOOLS, ITEMS,
    DUTIES, ENTRIES, CUT_PARTS, CUT_STOCK, STRETCHES, EVENTS, LOG_UNITS, SPELLS, ROOMS, PASSAGES, PEOPLE,
)  # fmt: skip


def ids_of(shop: Shop) -> set[str]:
    """Every id that something in the shop has."""
    return {part.id_of(item) for part in PARTS for item in part.get(shop)}


def find(shop: Shop, item_id: str) -> tuple[Part[Any], Any] | None:
    """The item with this id and the part it belongs to."""
    return _index(shop).items.get(item_id)


class _Index(NamedTuple):
    """All items of a shop by id, of two with one id the one in the earlier part; and the names asked for."""

    shop: Shop
    items: dict[str, tuple[Part[Any], Any]]
    names: dict[str, str]


_INDEXED: list[_Index] = []
"""Of the shops that were asked about last: every sentence asks for a few names."""


def _index(shop: Shop) -> _Index:
    for known in _INDEXED:
        if known.shop is shop:
            return known
    items = {part.id_of(item): (part, item) for part in PARTS[::-1] for item in part.get(shop)[::-1]}
    made = _Index(shop, items, {})
    _INDEXED[:] = [made, *_INDEXED[:3]]
    return made


def item_of(shop: Shop, item_id: str | None) -> Any:
    """Whatever has this id and can be picked; None where nothing has."""
    if item_id is None:
        return None
    for part in PARTS:
        if part.pickable:
            for item in part.get(shop):
                if part.id_of(item) == item_id:
                    return item
    return None


def name_of(shop: Shop, item_id: str) -> str:
    """What the item with this id is called in a sentence; the id itself where nothing has it."""
    if isinstance(shop, Watched):  # the name is what was read, not all in which it was looked for
        return shop.reads.names.setdefault(item_id, name_of(shop.real, item_id))
    _, items, names = _index(shop)
    name = names.get(item_id)
    if name is None:
        found = items.get(item_id)
        names[item_id] = name = item_id if found is None else found[0].name(shop, found[1])
    return name


def reads_same(reads: Reads, shop: Shop, now: Shop) -> bool:
    """Whether all that was read of a shop is still so."""
    return all(getattr(shop, name) == getattr(now, name) for name in reads.fields) and all(
        name_of(now, item_id) == name for item_id, name in reads.names.items()
    )


def part_of(item: object) -> Part[Any]:
    """The part that an item is of. Raises KeyError for what is in no part."""
    for part in PARTS:
        if isinstance(item, part.kind):
            return part
    raise KeyError(type(item).__name__)


def lost(shop: Shop) -> Iterator[tuple[Part[Any], Any, Ref[Any], str]]:
    """What is referred to and is not there: the part, the item of it that refers, how, and the id that is
    missing.
    """
    for part in PARTS:
        for ref in part.refs:
            known = _there(shop, ref)
            for item in part.get(shop):
                for wanted in ref.ids(item):
                    if wanted not in known:
                        yield part, item, ref, wanted


def _there(shop: Shop, ref: Ref[Any]) -> set[str]:
    return {part.id_of(item) for part in targets_of(ref) for item in part.get(shop) if ref.fits(item)}


@cache
def targets_of(ref: Ref[Any]) -> tuple[Part[Any], ...]:
    """The parts whose items a reference may lead to."""
    return tuple(part for part in PARTS if part.key in ref.to.split(" or "))


def without_lost(shop: Shop) -> Shop:
    """The shop without references to what is not there, and without what cannot do without them."""
    while True:
        after = shop
        for part in PARTS:
            if part.refs:
                after = _part_without_lost(after, part)
        if after is shop:
            return shop
        shop = after


def _part_without_lost(shop: Shop, part: Part[Any]) -> Shop:
    if not (items := part.get(shop)):
        return shop
    there = [(ref, _there(shop, ref)) for ref in part.refs]
    kept = tuple(left for item in items if (left := _item_without_lost(item, there)) is not None)
    same = len(kept) == len(items) and all(left is item for left, item in zip(kept, items))
    return shop if same else part.put(shop, kept)


def _item_without_lost(item: Any, there: list[tuple[Ref[Any], set[str]]]) -> Any:
    for ref, known in there:
        for wanted in ref.ids(item):
            if wanted not in known:
                item = ref.drop(item, wanted)
                if item is None:
                    return None
    return item
