"""A shop that keeps count of what is read of it: who read only what has not changed says the same again."""

from __future__ import annotations

from dataclasses import dataclass, field, fields
from typing import Any

from purvel.shop.shop import Shop

_FIELDS = frozenset(one.name for one in fields(Shop))


@dataclass(frozen=True, slots=True)
class Reads:
    """The fields of a shop that were looked at, and the names that were asked for, by id."""

    fields: set[str] = field(default_factory=set)
    names: dict[str, str] = field(default_factory=dict)


class Watched(Shop):
    """Stands in for a shop, and counts in `reads`. It equals no other, so that nothing that is remembered of
    the shop hides what would have been read.
    """

    real: Shop
    reads: Reads

    def __init__(self, **values: Any) -> None:
        super().__init__(**values)
        object.__setattr__(self, "real", Shop(**values))
        object.__setattr__(self, "reads", Reads())

    def __getattribute__(self, name: str) -> Any:
        if name in _FIELDS:
            self.reads.fields.add(name)
        return super().__getattribute__(name)

    def __eq__(self, other: object) -> bool:
        return self is other

    __hash__ = object.__hash__


def watched(shop: Shop) -> Watched:
    """The shop, watched from now on."""
    made = Watched(**{name: getattr(shop, name) for name in _FIELDS})
    object.__setattr__(made, "real", shop)  # the very same, of which more is remembered
    return made
