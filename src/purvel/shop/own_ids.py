"""Ids that items of different kinds share, as older files may have them: all but the first are called
otherwise, and what refers to them follows.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import fields, is_dataclass, replace
from typing import Any

from purvel.shop.part import Part, Ref
from purvel.shop.parts import PARTS, ids_of, targets_of
from purvel.shop.shop import Shop


def with_own_ids(shop: Shop) -> tuple[Shop, str]:
    """The shop with an id of its own for every item, and a sentence that names what was called otherwise.

    Ids that stand twice within one kind are left: nobody can tell which of them is meant.
    """
    seen: set[str] = set()
    said = []
    for part in PARTS:
        if not part.unique:
            continue
        own = [part.id_of(item) for item in part.get(shop)]
        for old in dict.fromkeys(own):
            if old in seen and own.count(old) == 1:
                new = _fresh(shop, old)
                shop = _renamed(shop, part, old, new)
                said.append(f"the {part.key} “{old}” is now “{new}”")
        seen |= set(own)
    if not said:
        return shop, ""
    more = f" and {len(said) - 3} more" if len(said) > 3 else ""
    return shop, f"Two things had one id: {', '.join(said[:3])}{more}."


def _fresh(shop: Shop, old: str) -> str:
    taken = ids_of(shop)
    return next(new for number in range(2, len(taken) + 3) if (new := f"{old[:56]}-{number}") not in taken)


def _renamed(shop: Shop, part: Part[Any], old: str, new: str) -> Shop:
    if part.rename is not None:
        shop = part.rename(shop, old, new)
    else:
        own = part.get(shop)
        shop = part.put(
            shop, tuple(replace(item, id=new) if part.id_of(item) == old else item for item in own)
        )
    for other in PARTS:
        for ref in other.refs:
            if part in targets_of(ref) and not _is_there(shop, ref, old):
                kept = tuple(_refers(item, ref, old, new) for item in other.get(shop))
                shop = other.put(shop, kept) if kept != other.get(shop) else shop
    return shop


def _is_there(shop: Shop, ref: Ref[Any], item_id: str) -> bool:
    """Whether a reference still finds another item under the old id."""
    return any(part.id_of(item) == item_id for part in targets_of(ref) for item in part.get(shop))


def _refers(item: Any, ref: Ref[Any], old: str, new: str) -> Any:
    """The item with that one of its words changed by which it refers in this way."""
    while old in ref.ids(item):
        changed = next((one for one in _changed(item, old, new) if new in ref.ids(one)), None)
        if changed is None:
            return item
        item = changed
    return item


def _changed(value: Any, old: str, new: str) -> Iterator[Any]:
    """The value with one of its words changed, each way that there is."""
    if isinstance(value, str):
        if value == old:
            yield new
    elif isinstance(value, tuple):
        for index, inner in enumerate(value):
            for other in _changed(inner, old, new):
                yield (*value[:index], other, *value[index + 1 :])
    elif is_dataclass(value) and not isinstance(value, type):
        for field in fields(value):
            for other in _changed(getattr(value, field.name), old, new):
                yield replace(value, **{field.name: other})
