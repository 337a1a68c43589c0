"""The units that a shop is written in, and what a shop begins with in them."""

from dataclasses import replace

from purvel.quantities.systems import System
from purvel.shop.ducts import Ducts
from purvel.shop.room import Ceiling, Room
from purvel.shop.shop import Shop
from purvel.shop.things import Stock


def empty_shop(units: System) -> Shop:
    """A shop with nothing in it: its board, ceiling and hand room in even figures of these units."""
    if units == "imperial":
        return Shop()
    return Shop(
        units=units,
        stock=Stock(length=2.4, width=0.2, thickness=0.02),
        hand_room=0.6,
        room=Room(ceiling=Ceiling(height=2.4)),
        ducts=Ducts(stick=3.0, kerf=0.003),
    )


def in_units(shop: Shop, units: System) -> Shop:
    """The shop written in other units. What is in it keeps its sizes; one in which nothing has been set yet
    begins anew.
    """
    is_new = replace(shop, name=Shop().name) == empty_shop(shop.units)
    return replace(empty_shop(units), name=shop.name) if is_new else replace(shop, units=units)
