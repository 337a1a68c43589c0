"""How documents of older versions become today's: one step a file, from version n to n + 1.

A step takes what it knows and leaves the rest alone: what is wrong in an old file is said by the reader, in
the same words as in a new one.
"""

from collections.abc import Callable
from typing import Any

from purvel.files.migrations import v1, v2, v3, v4, v5

Raw = dict[str, Any]

STEPS: dict[int, Callable[[Raw], Raw]] = {1: v1.step, 2: v2.step, 3: v3.step, 4: v4.step, 5: v5.step}


def migrate(document: Raw, version: int, target: int) -> Raw:
    """The document carried from `version` to `target` step by step."""
    for step in range(version, target):
        document = {**STEPS[step](document), "version": step + 1}
    return document
