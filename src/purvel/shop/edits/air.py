"""Edits of the air and of the session."""

from dataclasses import replace
from typing import Any

from purvel.shop.shop import Shop


def change_air(shop: Shop, **changes: Any) -> Shop:
    """Fields of the air changed."""
    return replace(shop, air=replace(shop.air, **changes))


def change_session(shop: Shop, **changes: Any) -> Shop:
    """Fields of the session changed."""
    return change_air(shop, session=replace(shop.air.session, **changes))
