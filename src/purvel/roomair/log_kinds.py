"""What a column of a log is, told by its name: counts above a size, particulate mass, vapours, and what else
monitors write; and in which unit.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal

ChannelKind = Literal["count", "mass", "tvoc", "formaldehyde", "co2", "temperature", "humidity", "other"]

UNITS: dict[ChannelKind, dict[str, float]] = {
    "count": {
        "1/L": 1.0,
        "1/0.1 L": 10.0,
        "1/m³": 1e-3,
        "1/cm³": 1000.0,
        "1/ft³": 1 / 28.316846592,
        "1/0.01 ft³": 1 / 0.28316846592,
    },
    "mass": {"µg/m³": 1.0, "mg/m³": 1000.0},
    "tvoc": {"mg/m³": 1.0, "µg/m³": 1e-3, "ppb": 1.0, "ppm": 1000.0, "index": 1.0},
    "formaldehyde": {"mg/m³": 1.0, "µg/m³": 1e-3, "ppm": 1.227, "ppb": 1.227e-3},
    "co2": {"ppm": 1.0, "%": 1e4},
    "temperature": {"°C": 1.0, "°F": 5 / 9},
    "humidity": {"%": 1.0},
    "other": {},
}
"""Units that a kind may be written in, and how many of the first make one; degrees of Fahrenheit are also
moved. Formaldehyde at 25 degC: mg/m3 = 30.03 / 24.465 of a ppm. What is given in ppb of TVOC stays so: its
mass is not known.
"""
SIZES = (0.05, 100.0)  # um, that a column may count from
_SIZE = re.compile(r"(\d+(?:[.,]\d+)?)\s*(?:µm|um|micron)?", re.IGNORECASE)
_COUNT_WORDS = ("count", "partic", "um", "µm", "bin", "n0", "n1", "n2", "n5", ">", "#")
_WRITTEN: tuple[tuple[str, str], ...] = (
    (r"(µg|ug|mcg)\s*(/|per|_)\s*m(3|³|\^3)", "µg/m³"),
    (r"mg\s*(/|per|_)\s*m(3|³|\^3)", "mg/m³"),
    (r"ppb", "ppb"),
    (r"ppm", "ppm"),
    (r"(/|per|_per_)\s*_?0[.,]1\s*l", "1/0.1 L"),
    (r"(/|per|_per_)\s*_?0[.,]01\s*(ft|cf)", "1/0.01 ft³"),
    (r"(/|per|_per_)\s*_?(ft(3|³|\^3)|cf\b|cu\.?\s?ft)", "1/ft³"),
    (r"(/|per|_per_)\s*_?(cm(3|³|\^3)|cc\b)", "1/cm³"),
    (r"(/|per|_per_)\s*_?(l\b|lit)", "1/L"),
    (r"(/|per|_per_|#/|pcs/)\s*_?m(3|³|\^3)", "1/m³"),
    (r"(°\s*f|deg\s*f|\bfahrenheit|\(f\)|_f\b)", "°F"),
    (r"(°\s*c|deg\s*c|\bcelsius|\(c\)|_c\b|\bc$)", "°C"),
    (r"(%|pct|percent)", "%"),
    (r"index", "index"),
)
_NAMED: tuple[tuple[str, ChannelKind], ...] = (
    (r"hcho|ch2o|formaldehyd", "formaldehyde"),
    (r"voc", "tvoc"),
    (r"co_?2|carbon dioxide", "co2"),
    (r"temp", "temperature"),
    (r"humid|\brh\b|_rh\b|feucht", "humidity"),
)


@dataclass(frozen=True, slots=True)
class Told:
    """What a column is: its kind, the size that it is about [um], its unit, and whether that is written there
    or only what is usual.
    """

    kind: ChannelKind
    size: float
    unit: str
    is_sure: bool


def told_of(head: str, unit: str = "") -> Told:
    """What a column's name tells of it, in the `unit` that is known from elsewhere where there is one.

    >>> told_of("PM2.5 (µg/m³)")
    Told(kind='mass', size=2.5, unit='µg/m³', is_sure=True)
    >>> told_of("count_0.5um_per_l").unit, told_of("PM10").is_sure
    ('1/L', False)
    """
    kind, size = _kind(head)
    units = UNITS[kind]
    written = unit if unit in units else _unit(head, units)
    usual = next(iter(units), "")
    sure = bool(written) or len(units) <= 1
    return Told(kind, size, written or usual, sure)


def _kind(head: str) -> tuple[ChannelKind, float]:
    low = head.lower().replace("_", ".").replace(",", ".")
    pm = re.search(r"pm\s*\.?\s*(10|1|2\.?5|4)(?!\d)", low)
    if pm and not re.search(r"count|partic|#|pcs|pm\.?2\.?5\s*num", low):
        return "mass", {"10": 10.0, "1": 1.0, "2.5": 2.5, "25": 2.5, "4": 4.0}[pm[1]]
    for pattern, kind in _NAMED:
        if re.search(pattern, head.lower()):
            return kind, 0.0
    if any(word in low for word in _COUNT_WORDS):
        for size in _SIZE.finditer(low):
            value = float(size[1].replace(",", "."))
            if SIZES[0] <= value <= SIZES[1]:
                return "count", value
    return "other", 0.0


def _unit(head: str, units: dict[str, float]) -> str:
    low = head.lower().replace("μ", "µ")
    return next((unit for pattern, unit in _WRITTEN if unit in units and re.search(pattern, low)), "")
