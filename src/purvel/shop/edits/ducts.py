"""Edits of the duct system as a whole."""

from dataclasses import replace
from typing import Any

from purvel.shop.shop import Shop


def change_ducts(shop: Shop, **changes: Any) -> Shop:
    """Fields of the duct system changed."""
    return replace(shop, ducts=replace(shop.ducts, **changes))
