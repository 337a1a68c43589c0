"""Edits of the air and of the session."""

from dataclasses import replace
from typing import Any

from purvel.shop.parts import without_lost
from purvel.shop.shop import Shop


def change_air(shop: Shop, **changes: Any) -> Shop:
    """Fields of the air changed."""
    return replace(shop, air=replace(shop.air, **changes))


def swap_days(shop: Shop) -> Shop:
    """The second day as the session, and the session as the second day; as it is without a second."""
    air = shop.air
    return shop if air.other is None else without_lost(change_air(shop, session=air.other, other=air.session))


def change_session(shop: Shop, **changes: Any) -> Shop:
    """Fields of the session changed."""
    return change_air(shop, session=replace(shop.air.session, **changes))
