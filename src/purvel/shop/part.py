"""What is said of a collection of the document, and of what its items refer to."""

from collections.abc import Callable
from dataclasses import dataclass
from operator import attrgetter
from typing import Any, Generic, TypeVar

from purvel.shop.shop import Shop

T = TypeVar("T")


def one(item: T | None) -> tuple[T, ...]:
    """What may be none, as a tuple."""
    return () if item is None else (item,)


@dataclass(frozen=True, slots=True)
class Ref(Generic[T]):
    """What an item of a part refers to: items of the part `to` (of either where it says “a or b”), by ids.

    `drop` is the item without one of those ids, or None where it cannot be without and goes too. `says` is
    what a fault says between the item and the id. Only targets that `fits` holds for will do.
    """

    to: str
    ids: Callable[[T], tuple[str, ...]]
    drop: Callable[[T, str], T | None]
    says: str
    fits: Callable[[Any], bool] = lambda _: True


@dataclass(frozen=True, slots=True)
class Part(Generic[T]):
    """One collection: how it is read and written, how its items are told apart and named, what they refer to.

    `unique` says that no other item of the shop may have its id; the others only their owner tells apart.
    `rename` gives an item another id where `put` finds its place by the id.
    """

    key: str
    kind: type[T]
    get: Callable[[Shop], tuple[T, ...]]
    put: Callable[[Shop, tuple[T, ...]], Shop]
    name: Callable[[Shop, T], str] = lambda _, item: getattr(item, "name", "") or str(getattr(item, "id", ""))
    refs: tuple[Ref[T], ...] = ()
    pickable: bool = True
    id_of: Callable[[T], str] = attrgetter("id")
    unique: bool = False
    rename: Callable[[Shop, str, str], Shop] | None = None
    subject: Callable[[T], str] | None = None

    def spoken(self, item: T) -> str:
        """The item as a fault speaks of it."""
        return self.subject(item) if self.subject else f"The {self.key} “{self.id_of(item)}”"
