"""Prices, schools of order, what goes with a machine."""

from dataclasses import dataclass
from functools import cache
from typing import Literal

from purvel.catalogue.toml import read
from purvel.libraries import np
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
    """Of a metre and of a piece, low and high, at inside diameters [m]; in between in proportion. `made` is
    what it costs of that by material.
    """

    size: tuple[float, ...]
    metre: tuple[Band, ...]
    piece: tuple[Band, ...]
    made: dict[str, float]

    def of(self, unit: Literal["m", "piece"], size: float, material: str = "") -> Band:
        """A metre of pipe or hose, or a fitting, of a size [m] and a material."""
        bands, share = self.metre if unit == "m" else self.piece, self.made.get(material, 1.0)
        low, high = (float(np.interp(size, self.size, [band[end] for band in bands])) for end in (0, 1))
        return low * share, high * share

    def middle(self, unit: Literal["m", "piece"], size: float, material: str = "") -> float:
        """The middle of that."""
        return sum(self.of(unit, size, material)) / 2


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
