"""Prices, schools of order, what goes with a machine."""

from dataclasses import dataclass
from functools import cache

from purvel.catalogue.toml import read
from purvel.shop.money import Group

Band = tuple[float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Extra:
    """Something that goes with machines."""

    name: str
    group: Group
    price: Band


@dataclass(frozen=True, slots=True, kw_only=True)
class DuctPrices:
    """By inside diameter up to 0.1 m and above."""

    metre: tuple[Band, Band]
    piece: tuple[Band, Band]


@dataclass(frozen=True, slots=True, kw_only=True)
class School:
    """An order of buying, with its reason: kinds, the first first."""

    name: str
    reason: str
    order: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class _Prices:
    prices: dict[str, Band]
    extras: dict[str, Extra]
    ducts: DuctPrices
    schools: dict[str, School]


@cache
def _money() -> _Prices:
    return read("money.toml", _Prices)


def prices() -> dict[str, Band]:
    """Low and high by kind."""
    return _money().prices


def extras() -> dict[str, Extra]:
    """What goes with machines, by key."""
    return _money().extras


def duct_prices() -> DuctPrices:
    """Of pipe, hose and fittings."""
    return _money().ducts


def schools() -> dict[str, School]:
    """Orders to start from, by key."""
    return _money().schools
