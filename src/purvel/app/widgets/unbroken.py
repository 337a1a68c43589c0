"""Sentences whose figures stay whole where lines break."""

import re

from purvel.quantities import labels

_UNITS = "|".join(re.escape(label) for label in (*labels(), "µg/m³", "m", "g", "min", "h", "hp"))
_INSIDE = re.compile(
    rf"(?<=\d') (?=\d)|(?<=\d) (?=\d+/\d)|(?<=\d) (?=(?:{_UNITS})(?!\w))|(?<=\bin\.) (?=w\.g\.)"
)
_SLASH = re.compile(r"(?<=\w)/(?=\w)")


def unbroken(sentence: str) -> str:
    """The sentence with no line break inside a length, between a number and its unit, or after a slash."""
    return whole_units(_INSIDE.sub("\u00a0", sentence))


def whole_units(words: str) -> str:
    """The words with no line break after a slash, for where there is no room for a number with its unit."""
    return _SLASH.sub("/\u2060", words)
