"""Adapters for hose and pipe."""

from dataclasses import dataclass
from functools import cache
from typing import Literal

from purvel.catalogue.toml import read

EndForm = Literal["spigot", "socket", "male thread", "female thread"]


@dataclass(frozen=True, slots=True)
class SoldAdapter:
    """A kind: its name, and its ends as form, least and most diameter [mm]."""

    name: str
    one: tuple[EndForm, float, float]
    other: tuple[EndForm, float, float]


@dataclass(frozen=True, slots=True)
class _Sold:
    kinds: tuple[SoldAdapter, ...]


@cache
def sold_adapters() -> tuple[SoldAdapter, ...]:
    """The generic set."""
    return read("adapters.toml", _Sold).kinds
