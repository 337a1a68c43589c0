"""Version 4 to 5: a room may have diagonals, spots and heights that were read. What stands with its back to a
wall says so, and is no longer known by its kind.
"""

from typing import Any

ON_WALLS = ("panel", "heater", "freezer", "chimney")
"""Kinds that turned to walls."""


def step(document: dict[str, Any]) -> dict[str, Any]:
    """A document of version 4 as one of version 5."""
    shop = document.get("shop")
    room = shop.get("room") if isinstance(shop, dict) else None
    fixtures = room.get("fixtures") if isinstance(room, dict) else None
    if shop is None or room is None or not isinstance(fixtures, list):
        return document
    told = [
        {**one, "stands": "wall"} if isinstance(one, dict) and one.get("kind") in ON_WALLS else one
        for one in fixtures
    ]
    return {**document, "shop": {**shop, "room": {**room, "fixtures": told}}}
