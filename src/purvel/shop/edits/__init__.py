"""Edits: pure functions from one shop to the next, by part.

What an edit takes away, it also takes out of everything that refers to it.
"""

from collections.abc import Callable

from purvel.shop.edits.air import change_air, change_session, swap_days
from purvel.shop.edits.ducts import change_ducts
from purvel.shop.edits.parts import change, change_shop, fresh_id, gone_with, put, remove
from purvel.shop.edits.room import as_rectangle, change_room, fresh_wall_id, slope_ceiling, split_wall
from purvel.shop.edits.scenes import copy_scene, new_scene, set_state
from purvel.shop.edits.things import move_thing
from purvel.shop.edits.units import empty_shop, in_units
from purvel.shop.shop import Shop

Edit = Callable[[Shop], Shop]

__all__ = [
    "as_rectangle",
    "Edit",
    "change",
    "change_air",
    "change_ducts",
    "change_room",
    "change_session",
    "change_shop",
    "copy_scene",
    "empty_shop",
    "fresh_id",
    "fresh_wall_id",
    "gone_with",
    "in_units",
    "move_thing",
    "new_scene",
    "put",
    "remove",
    "set_state",
    "slope_ceiling",
    "split_wall",
    "swap_days",
]
