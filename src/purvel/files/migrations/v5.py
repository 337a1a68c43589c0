"""Version 5 to 6: a feed says whether its blade or cutter can throw stock back; till then only saws that take
sheets were known to.
"""

from typing import Any

THROW = (
    "table-saw", "jobsite-saw", "cabinet-saw", "planer", "floor-planer", "jointer", "bench-jointer",
    "planer-jointer", "router-table", "shaper", "flipped-tools",
)  # fmt: skip
"""Kinds of the catalogue of then that do."""


def step(document: dict[str, Any]) -> dict[str, Any]:
    """A document of version 5 as one of version 6."""
    shop = document.get("shop")
    things = shop.get("things") if isinstance(shop, dict) else None
    if shop is None or not isinstance(things, list):
        return document
    return {**document, "shop": {**shop, "things": [_told(one) for one in things]}}


def _told(thing: Any) -> Any:
    feed = thing.get("feed") if isinstance(thing, dict) else None
    if not isinstance(feed, dict) or feed.get("how", "through") != "through":
        return thing
    throws = bool(feed.get("sheets")) or thing.get("kind") in THROW
    return {**thing, "feed": {**feed, "throws": throws}}
