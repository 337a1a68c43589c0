"""Lengths as people write and read them, display units, and how a value was got."""

from purvel.quantities.lengths import LengthError, format_length, parse_length
from purvel.quantities.numbers import read_number
from purvel.quantities.units import (
    Unit,
    UnitError,
    Units,
    convert,
    format_number,
    labels,
    parse_quantity,
    units_for,
)

__all__ = [
    "LengthError",
    "Unit",
    "UnitError",
    "Units",
    "convert",
    "format_length",
    "format_number",
    "labels",
    "parse_length",
    "parse_quantity",
    "read_number",
    "units_for",
]
