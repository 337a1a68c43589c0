"""Adapters for hose and pipe."""

from dataclasses import dataclass
from functools import cache

from purvel.catalogue.toml import read
from purvel.shop.ducts import EndForm


@dataclass(frozen=True, slots=True)
class SoldAdapter:
    """A kind: its name, its ends as form, least and most diameter [mm], and the threads of those that have
    one.
    """

    name: str
    one: tuple[EndForm, float, float]
    other: tuple[EndForm, float, float]
    threads: tuple[str, str] = ("", "")


@dataclass(frozen=True, slots=True)
class _Sold:
    kinds: tuple[SoldAdapter, ...]


@cache
def sold_adapters() -> tuple[SoldAdapter, ...]:
    """The generic set."""
    return read("adapters.toml", _Sold).kinds


@cache
def threads() -> tuple[str, ...]:
    """The names of the threads that there are adapters for."""
    return tuple(sorted({thread for one in sold_adapters() for thread in one.threads if thread}))
