"""Display units: SI inside, the reader's unit on the screen, three significant figures, the unit always
shown.

The factors are exact by definition (the international yard and pound of 1959), but for the inch of water; a
test holds every one of them against Pint, which takes a second to load and so is not used here.
"""

import re
from dataclasses import dataclass, fields
from functools import lru_cache
from math import floor, isfinite, log10
from typing import Literal

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


_INCH, _FOOT, _POUND = 0.0254, 0.3048, 0.45359237  # exact
# Conventional water, 1000 kg/m3, under standard gravity 9.80665 m/s2: an inch of it is 249.08891 Pa, exact by
# that convention.
_WATER = 1000 * 9.80665  # Pa a metre of water

# What may be written, by the SI unit that it is kept in: how many of that unit make one.
WRITTEN: dict[str, dict[str, float]] = {
    "m³/s": {
        "m³/s": 1.0,
        "m³/h": 1 / 3600,
        "m³/hr": 1 / 3600,
        "m³/min": 1 / 60,
        "l/s": 1e-3,
        "l/min": 1e-3 / 60,
        "cfm": _FOOT**3 / 60,
        "ft³/min": _FOOT**3 / 60,
    },
    "Pa": {
        "pa": 1.0,
        "hpa": 100.0,
        "kpa": 1e3,
        "mbar": 100.0,
        "bar": 1e5,
        "in. w.g.": _WATER * _INCH,
        "mm w.g.": _WATER * 1e-3,
        "psi": _POUND * 9.80665 / _INCH**2,
    },
    "m/s": {
        "m/s": 1.0,
        "m/min": 1 / 60,
        "km/h": 1 / 3.6,
        "fpm": _FOOT / 60,
        "ft/min": _FOOT / 60,
        "ft/s": _FOOT,
    },
    "m³": {
        "m³": 1.0,
        "l": 1e-3,
        "ft³": _FOOT**3,
        "in³": _INCH**3,
        "yd³": (3 * _FOOT) ** 3,
        "gal": 231 * _INCH**3,
    },
    "kg/m³": {
        "kg/m³": 1.0,
        "g/m³": 1e-3,
        "mg/m³": 1e-6,
        "µg/m³": 1e-9,
        "g/cm³": 1e3,
        "lb/ft³": _POUND / _FOOT**3,
    },
    "m²": {"m²": 1.0, "cm²": 1e-4, "mm²": 1e-6, "ft²": _FOOT**2, "in²": _INCH**2},
    "m": {"m": 1.0, "cm": 1e-2, "mm": 1e-3, "µm": 1e-6, "in": _INCH, "ft": _FOOT, "yd": 3 * _FOOT},
    "kg": {"kg": 1.0, "g": 1e-3, "t": 1e3, "lb": _POUND, "oz": _POUND / 16},
    "K": {"k": 1.0, "°c": 1.0, "°f": 5 / 9},  # differences of temperature
}
_ALSO = {
    '"': "in",
    "”": "in",
    "inch": "in",
    "inches": "in",
    "'": "ft",
    "’": "ft",
    "foot": "ft",
    "feet": "ft",
    "metre": "m",
    "meter": "m",
    "metres": "m",
    "meters": "m",
    "litre": "l",
    "liter": "l",
    "litres": "l",
    "liters": "l",
    "gallon": "gal",
    "gallons": "gal",
    "lbs": "lb",
    "pound": "lb",
    "pounds": "lb",
    "pascal": "pa",
    "inwg": "in. w.g.",
    "in wg": "in. w.g.",
    "in w.g.": "in. w.g.",
    '"wg': "in. w.g.",
    '" wg': "in. w.g.",
    "mmwg": "mm w.g.",
    "mm wg": "mm w.g.",
    "cu ft": "ft³",
    "sq ft": "ft²",
    "ug/m³": "µg/m³",
    "c": "°c",
    "f": "°f",
}


@dataclass(frozen=True, slots=True)
class Unit:
    """A unit as shown, for a quantity that is kept in `si`; `example` is what one may write in it."""

    label: str
    si: str
    decimals: int = 9  # at most this many places, so that small readings are not over-precise
    example: str = "350"


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


_MG = Unit("mg/m³", "mg/m³", example="1.5")
_IMPERIAL = Units(
    system="imperial",
    flow=Unit("cfm", "m³/s", 0),
    pressure=Unit("in. w.g.", "Pa", 2, "2.5"),
    speed=Unit("fpm", "m/s", 0, "4,000"),
    volume=Unit("ft³", "m³", 0, "1,200"),
    bulk=Unit("ft³", "m³", 1, "2.5"),
    density=Unit("lb/ft³", "kg/m³", 1, "40"),
    area=Unit("ft²", "m²", 1, "250"),
    concentration=_MG,
    diameter=Unit("in", "m", 2, "4"),
    thickness=Unit("in", "m", 3, "0.125"),
    mass=Unit("lb", "kg", 1, "250"),
    temperature_difference=Unit("°F", "K", 1, "10"),
    distance=Unit("ft", "m", 0, "12"),
)
_METRIC = Units(
    system="metric",
    flow=Unit("m³/h", "m³/s", 0, "600"),
    pressure=Unit("Pa", "Pa", 0, "600"),
    speed=Unit("m/s", "m/s", 1, "20"),
    volume=Unit("m³", "m³", 1, "60"),
    bulk=Unit("l", "m³", 0, "120"),
    density=Unit("kg/m³", "kg/m³", 0, "650"),
    area=Unit("m²", "m²", 2, "25"),
    concentration=_MG,
    diameter=Unit("mm", "m", 0, "100"),
    thickness=Unit("mm", "m", 1, "3.2"),
    mass=Unit("kg", "kg", 1, "120"),
    temperature_difference=Unit("K", "K", 1, "5"),
    distance=Unit("m", "m", 1, "3.5"),
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


def factor(unit: Unit) -> float:
    """How many of the unit that a quantity is kept in make one of `unit`."""
    return 1.0 if unit.label == unit.si else WRITTEN[unit.si][unit.label.lower()]


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


@lru_cache(maxsize=4096)  # most figures are said again at every movement
def _three_figures(value: float, decimals: int) -> str:
    if not isfinite(value):
        return "–"
    if value == 0:
        return "0"
    tens = floor(log10(abs(float(f"{value:.3g}"))))  # of what it is rounded to: 9.996 is 10.0
    places, digits = min(max(2 - tens, 0), decimals), max(tens - 2, 0)
    rounded = round(value, places) if places else round(value / 10**digits) * 10**digits
    text = f"{rounded:,.{places}f}"
    return text.lstrip("-") if float(rounded) == 0 else text


_TYPED = re.compile(r"\s*(?P<number>[-+]?\d+(?:[.,]\d+)*)\s*(?P<unit>.*?)\s*")


def parse_quantity(text: str, unit: Unit) -> float:
    """The SI value that `text` says; a bare number is in `unit`. Raises UnitError with one plain sentence."""
    example = f"Write for example {unit.example} {unit.label.removesuffix('.')}."
    match = _TYPED.fullmatch(text)
    if match is None:
        raise UnitError(f"“{text.strip()}” is not a number. {example}")
    try:
        number = read_number(match["number"])
    except ValueError as exc:
        raise UnitError(f"“{match['number']}” is not a number. {example}") from exc
    spelled = match["unit"].lower()
    if not spelled or spelled == unit.label.lower():
        return to_si(number, unit)
    factor = _written(spelled, unit.si)
    if factor is None:
        raise UnitError(f"“{match['unit']}” is not a unit for this. {example}")
    return number * factor


def _written(spelled: str, si: str) -> float | None:
    """How many of the unit `si` make one of what is `spelled` in small letters."""
    if si == "mg/m³":
        in_kilograms = _written(spelled, "kg/m³")
        return None if in_kilograms is None else in_kilograms / 1e-6
    plain = spelled.replace("**", "").replace("^", "").replace("μ", "µ")
    plain = re.sub(r"(?<=[a-z])[23]", lambda digit: "²³"[int(digit[0]) - 2], plain)
    return WRITTEN[si].get(_ALSO.get(plain, plain))
