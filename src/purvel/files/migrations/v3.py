"""Version 3 to 4: names stand on one line and print. Two items of different kinds may no longer have one id,
which the reader sees to.
"""

from typing import Any

from purvel.shop.fields import one_line

NAMES = ("name", "wood", "work", "channel")


def step(document: dict[str, Any]) -> dict[str, Any]:
    """A document of version 3 as one of version 4."""
    return {**document, "version": 4, "shop": _on_one_line(document.get("shop"))}


def _on_one_line(value: Any) -> Any:
    if isinstance(value, dict):
        return {
            key: one_line(inner) if key in NAMES and isinstance(inner, str) else _on_one_line(inner)
            for key, inner in value.items()
        }
    return [_on_one_line(inner) for inner in value] if isinstance(value, list) else value
