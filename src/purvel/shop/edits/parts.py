"""Edits that any part takes: a fresh id, putting, changing, taking away."""

from dataclasses import replace
from typing import Any

from purvel.shop.parts import PARTS, find, ids_of, part_of, without_lost
from purvel.shop.shop import Shop


def fresh_id(shop: Shop, stem: str) -> str:
    """An id that nothing in the shop has yet: stem-1, stem-2 …"""
    taken = ids_of(shop)
    number = 1
    while f"{stem}-{number}" in taken:
        number += 1
    return f"{stem}-{number}"


def put(shop: Shop, item: Any) -> Shop:
    """The item changed in place, or added after the last of its part."""
    part = part_of(item)
    items = part.get(shop)
    if any(part.id_of(old) == part.id_of(item) for old in items):
        items = tuple(item if part.id_of(old) == part.id_of(item) else old for old in items)
    else:
        items = (*items, item)
    return part.put(shop, items)


def change(shop: Shop, item_id: str, **changes: Any) -> Shop:
    """Fields of one item changed; what it no longer has leaves what referred to it.

    An id that nothing has changes nothing.
    """
    found = find(shop, item_id)
    return shop if found is None else without_lost(put(shop, replace(found[1], **changes)))


def remove(shop: Shop, item_id: str) -> Shop:
    """Whatever has this id gone, with all that hangs on it. An id that nothing has changes nothing."""
    found = find(shop, item_id)
    if found is None:
        return shop
    part = found[0]
    return without_lost(part.put(shop, tuple(item for item in part.get(shop) if part.id_of(item) != item_id)))


def gone_with(before: Shop, after: Shop, item_id: str) -> tuple[dict[str, int], dict[str, int]]:
    """How many of which part went with an item that was taken away, besides itself, and how many were left
    without it.
    """
    gone, left = dict[str, int](), dict[str, int]()
    for part in PARTS:
        now = {part.id_of(item): item for item in part.get(after)}
        for item in part.get(before):
            name = part.id_of(item)
            if name not in now and name != item_id:
                gone[part.key] = gone.get(part.key, 0) + 1
            elif name in now and now[name] != item:
                left[part.key] = left.get(part.key, 0) + 1
    return gone, left


def change_shop(shop: Shop, **changes: Any) -> Shop:
    """Fields of the shop itself changed."""
    return replace(shop, **changes)
