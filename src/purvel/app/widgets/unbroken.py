"""Sentences whose figures stay whole where lines break."""

import re

_UNITS = r"cfm|fpm|in\.|in\b|ft³|ft²|ft\b|mg/|m³|m²|m/s|m\b|mm\b|Pa\b|kg\b|g\b|lb\b|min\b|h\b|K\b|°F\b|hp\b"
_INSIDE = re.compile(rf"(?<=\d') (?=\d)|(?<=\d) (?=\d+/\d)|(?<=\d) (?=(?:{_UNITS}))|(?<=\bin\.) (?=w\.g\.)")
_SLASH = re.compile(r"(?<=\w)/(?=\w)")


def unbroken(sentence: str) -> str:
    """The sentence with no line break inside a length, between a number and its unit, or after a slash."""
    return _SLASH.sub("/\u2060", _INSIDE.sub("\u00a0", sentence))
