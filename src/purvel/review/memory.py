"""Answers remembered by their arguments: what an engine is called with is what its answer depends on."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from threading import Lock
from typing import Any, ParamSpec, TypeVar

P = ParamSpec("P")
T = TypeVar("T")

KEPT = 8  # calls remembered for each engine and item, so that scenes and trials do not push each other out

Arguments = tuple[tuple[Any, ...], dict[str, Any]]
_Entry = tuple[Arguments, Any]


class Memory:
    """The last answers of every engine. One memory serves the review, the hand and the remedies.

    `attachments` are the bytes that lie beside the shop, by their hash.

    Arguments are compared with `==`, for which being the very same object is the short cut; what holds arrays
    has no `==` of its own and so is compared by identity. What is kept is replaced, never changed: looking up
    needs no lock.
    """

    def __init__(self, below: Memory | None = None, attachments: Mapping[str, bytes] | None = None) -> None:
        self._below = below
        self.attachments: Mapping[str, bytes] = attachments or {}
        self._kept: dict[tuple[object, str], tuple[_Entry, ...]] = {}
        self._lock = Lock()

    def answer(self, engine: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
        """What the engine says to these arguments, computed only if it is not remembered."""
        key = (engine, str(getattr(args[0], "id", "")) if args else "")
        known = self._look_up(key, (args, kwargs))
        if known is not None:
            found: T = known[1]
            return found
        computed = engine(*args, **kwargs)
        with self._lock:
            kept = self._kept.get(key, ())
            self._kept[key] = (((args, kwargs), computed), *kept[: KEPT - 1])
        return computed

    def _look_up(self, key: tuple[object, str], wanted: Arguments) -> _Entry | None:
        kept = self._kept.get(key, ())
        for known in kept:
            if known[0] == wanted:
                if known is not kept[0]:
                    with self._lock:  # used last, forgotten last
                        rest = (entry for entry in self._kept[key] if entry is not known)
                        self._kept[key] = (known, *rest)[:KEPT]
                return known
        return None if self._below is None else self._below._look_up(key, wanted)

    def scratch(self) -> Memory:
        """A memory that knows all that this one knows, and keeps what it learns to itself: for trying many
        changes.
        """
        return Memory(self, self.attachments)
