"""Sizes as people of either system give them."""

from dataclasses import replace
from typing import Any, TypeVar

from purvel.quantities.systems import System
from purvel.shop import Fixture, Opening, Thing

Item = TypeVar("Item", Thing, Fixture, Opening)

_SIZES: dict[type, tuple[str, ...]] = {
    Thing: ("width", "depth", "height", "work_height", "z"),
    Fixture: ("width", "depth"),  # its bottom and top go by the ceiling
    Opening: ("offset", "width", "head", "sill"),
}
_STEPS: dict[type, dict[System, float]] = {  # m: 5 mm or 1/4 in; what is built in 10 mm or 1/2 in
    Thing: {"metric": 0.005, "imperial": 0.00635},
    Fixture: {"metric": 0.01, "imperial": 0.0127},
    Opening: {"metric": 0.01, "imperial": 0.0127},
}


def evenly(item: Item, units: System) -> Item:
    """What comes from the catalogue, with its sizes on even figures of the reader's units."""
    step = _STEPS[type(item)][units]
    sizes = {name: getattr(item, name) for name in _SIZES[type(item)]}
    even: dict[str, Any] = {name: _even(size, step) for name, size in sizes.items() if size}
    return replace(item, **even)


def _even(size: float, step: float) -> float:
    return round(max(1, round(size / step)) * step, 6)
