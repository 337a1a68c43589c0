"""How documents of older versions become today's: one function for each step, from version n to n + 1."""

from collections.abc import Callable
from typing import Any

Document = dict[str, Any]

STEPS: dict[int, Callable[[Document], Document]] = {}


def migrate(document: Document, version: int, target: int) -> Document:
    """The document carried from `version` to `target` step by step."""
    for step in range(version, target):
        document = STEPS[step](document)
    return document
