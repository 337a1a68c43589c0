"""Display units: SI inside, the reader's unit on the screen, three significant figures, the unit always
shown.

Factors come from Pint, which is loaded at the first conversion and not before, so that the first window need
not wait for it.
"""

import re
from dataclasses import dataclass, fields
from functools import cache
from typing import Any, Literal

from purvel.quantities.numbers import read_number
from purvel.quantities.systems import System

Quantity = Literal[
    "flow",
    "pressure",
    "speed",
    "volume",
    "bulk",
    "density",
    "area",
    "concentration",
    "diameter",
    "thickness",
    "mass",
    "temperature_difference",
    "distance",
]


class UnitError(ValueError):
    """A text that cannot be read as the quantity asked for."""


@dataclass(frozen=True, slots=True)
class Unit:
    """A unit as shown (`label`) and as Pint knows it (`definition`), for a quantity kept in `si`."""

    label: str
    definition: str
    si: str
    decimals: int = 9  # at most this many places, so that small readings are not over-precise


@dataclass(frozen=True, slots=True)
class Units:
    """The units of one system."""

    system: System
    flow: Unit
    pressure: Unit
    speed: Unit
    volume: Unit
    bulk: Unit
    density: Unit
    area: Unit
    concentration: Unit
    diameter: Unit
    thickness: Unit
    mass: Unit
    temperature_difference: Unit
    distance: Unit


_MG = Unit("mg/m³", "milligram / meter ** 3", "milligram / meter ** 3")
_IMPERIAL = Units(
    system="imperial",
    flow=Unit("cfm", "foot ** 3 / minute", "meter ** 3 / second", 0),
    pressure=Unit("in. w.g.", "inch_water_gauge", "pascal", 2),
    speed=Unit("fpm", "foot / minute", "meter / second", 0),
    volume=Unit("ft³", "foot ** 3", "meter ** 3", 0),
    bulk=Unit("ft³", "foot ** 3", "meter ** 3", 1),
    density=Unit("lb/ft³", "pound / foot ** 3", "kilogram / meter ** 3", 1),
    area=Unit("ft²", "foot ** 2", "meter ** 2", 1),
    concentration=_MG,
    diameter=Unit("in", "inch", "meter", 2),
    thickness=Unit("in", "inch", "meter", 3),
    mass=Unit("lb", "pound", "kilogram", 1),
    temperature_difference=Unit("°F", "delta_degree_Fahrenheit", "delta_degree_Celsius", 1),
    distance=Unit("ft", "foot", "meter", 0),
)
_METRIC = Units(
    system="metric",
    flow=Unit("m³/h", "meter ** 3 / hour", "meter ** 3 / second", 0),
    pressure=Unit("Pa", "pascal", "pascal", 0),
    speed=Unit("m/s", "meter / second", "meter / second", 1),
    volume=Unit("m³", "meter ** 3", "meter ** 3", 1),
    bulk=Unit("l", "liter", "meter ** 3", 0),
    density=Unit("kg/m³", "kilogram / meter ** 3", "kilogram / meter ** 3", 0),
    area=Unit("m²", "meter ** 2", "meter ** 2", 2),
    concentration=_MG,
    diameter=Unit("mm", "millimeter", "meter", 0),
    thickness=Unit("mm", "millimeter", "meter", 1),
    mass=Unit("kg", "kilogram", "kilogram", 1),
    temperature_difference=Unit("K", "delta_degree_Celsius", "delta_degree_Celsius", 1),
    distance=Unit("m", "meter", "meter", 1),
)


def units_for(system: System) -> Units:
    """The display units of a system."""
    return _IMPERIAL if system == "imperial" else _METRIC


def labels() -> list[str]:
    """How the units of both systems are written, the longest first."""
    found = {
        unit.label
        for units in (_IMPERIAL, _METRIC)
        for field in fields(units)
        if isinstance(unit := getattr(units, field.name), Unit)
    }
    return sorted(found, key=len, reverse=True)


@cache
def _registry() -> Any:
    import pint

    registry: Any = pint.UnitRegistry()
    # Conventional water at 4 degC under standard gravity: 0.0254 m x 1000 kg/m3 x 9.80665 m/s2 = 249.089 Pa
    registry.define("inch_water_gauge = 249.08891 pascal = inwg")
    registry.define("cfm = foot ** 3 / minute")
    registry.define("fpm = foot / minute")
    return registry


@cache
def factor(unit: Unit) -> float:
    """How many SI units make one of `unit`."""
    registry = _registry()
    return float(registry.Quantity(1.0, unit.definition).to(unit.si).magnitude)


def convert(value: float, unit: Unit) -> float:
    """An SI value in `unit`."""
    return value / factor(unit)


def to_si(value: float, unit: Unit) -> float:
    """A value in `unit` as SI."""
    return value * factor(unit)


def format_number(value: float, unit: Unit | None = None) -> str:
    """An SI value with three significant figures and its unit: `472 cfm`, `9.37 in. w.g.`."""
    shown = value if unit is None else convert(value, unit)
    text = _three_figures(shown, 9 if unit is None else unit.decimals)
    return text if unit is None else f"{text} {unit.label}"


def _three_figures(value: float, decimals: int) -> str:
    if value != value or value in (float("inf"), float("-inf")):
        return "–"
    if value == 0:
        return "0"
    from math import floor, log10

    places = min(max(2 - floor(log10(abs(value))), 0), decimals)
    digits = max(floor(log10(abs(value))) - 2, 0)
    rounded = round(value, places) if places else round(value / 10**digits) * 10**digits
    text = f"{rounded:,.{places}f}"
    return text.lstrip("-") if float(rounded) == 0 else text


_TYPED = re.compile(r"\s*(?P<number>[-+]?\d+(?:[.,]\d+)*)\s*(?P<unit>.*?)\s*")
_SPELLING = {
    "in. w.g.": "inwg",
    "in wg": "inwg",
    "inwg": "inwg",
    '"wg': "inwg",
    "m³/h": "meter**3/hour",
    "m3/h": "meter**3/hour",
    "m³": "m**3",
}
_SPELLING |= {
    "m3": "m**3",
    "ft³": "ft**3",
    "ft3": "ft**3",
    "m²": "m**2",
    "m2": "m**2",
    "ft²": "ft**2",
    "ft2": "ft**2",
    "m/s": "m/s",
    "l/s": "liter/second",
    "in": "inch",
    '"': "inch",
}


def parse_quantity(text: str, unit: Unit) -> float:
    """The SI value that `text` says; a bare number is in `unit`. Raises UnitError with one plain sentence."""
    match = _TYPED.fullmatch(text)
    if match is None:
        raise UnitError(f"“{text.strip()}” is not a number. Write for example 350 {unit.label}.")
    try:
        number = read_number(match["number"])
    except ValueError as exc:
        raise UnitError(f"“{match['number']}” is not a number. Write for example 350 {unit.label}.") from exc
    spelled = match["unit"].lower()
    if not spelled or spelled == unit.label.lower():
        return to_si(number, unit)
    import pint

    registry = _registry()
    try:
        return float(registry.Quantity(number, _SPELLING.get(spelled, match["unit"])).to(unit.si).magnitude)
    except (pint.PintError, ValueError, AttributeError, TypeError) as exc:
        raise UnitError(
            f"“{match['unit']}” is not a unit for this. Write for example 350 {unit.label}."
        ) from exc
