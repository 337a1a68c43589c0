"""How much work a change to the room and what stands in it is, so that what would help is told the easiest
first.

All minutes are guesses: they set an order and are not shown.
"""

from dataclasses import fields
from math import dist
from typing import Any

from purvel.shop import Shop, Thing
from purvel.space.traverse import turn_between

_OPENED = 0.5  # min to open a door
_ROLLED, _CARRIED = 2.0, 10.0  # min to begin to move what is on wheels, and what is not
_METRE = 1.0  # min for each metre that it goes
_HALF_TURN = 2.0  # min for half a turn, in proportion
_HEAVY = 0.1  # min for each kg of what is not on wheels
_FIXED = 60.0  # min more where it has been fixed
_RUN = 20.0  # min to lead the duct of one port anew
_LIFTED = 5.0  # min to set what stands on something higher
# min in wood and metal
_WORKED = {"height": 30.0, "z": 30.0, "slots": 60.0, "wheels": 45.0, "castors": 45.0}
_FOLLOWS = {"work_height", "settled", "built", "trial_since"}  # what goes with such a change


def effort(before: Shop, after: Shop) -> float | None:
    """The minutes that it takes to make one shop the other; None where more than things and doors changed."""
    minutes = 0.0
    doors = {one.id: one for one in before.room.openings}
    if _changed(before.room, after.room) - {"openings"} or len(after.room.openings) != len(doors):
        return None
    for opening in after.room.openings:
        was = doors.get(opening.id)
        if was is None or _changed(was, opening) - {"is_open"}:
            return None
        minutes += _OPENED if was.is_open != opening.is_open else 0.0
    there = {one.id: one for one in before.things}
    if len(after.things) != len(there) or _changed(before, after) - {"things", "room", "ducts"}:
        return None
    for thing in after.things:
        found = _of_thing(there.get(thing.id), thing, after)
        if found is None:
            return None
        minutes += found
    return minutes if minutes > 0 else None


def _of_thing(was: Thing | None, now: Thing, shop: Shop) -> float | None:
    if was is now:
        return 0.0
    changed = set() if was is None else _changed(was, now) - _FOLLOWS
    if was is None or changed - {"x", "y", "angle", *_WORKED}:
        return None
    minutes = sum(_LIFTED if name == "z" and was.z > 0 else _WORKED.get(name, 0.0) for name in changed)
    if not changed & {"x", "y", "angle"}:
        return minutes
    minutes += _ROLLED if was.wheels else _CARRIED + _HEAVY * (was.mass or 0.0)
    minutes += _METRE * dist((was.x, was.y), (now.x, now.y))
    minutes += _HALF_TURN * abs(turn_between(was.angle, now.angle)) / 180.0
    minutes += _FIXED if was.settled else 0.0
    return minutes + _RUN * sum(run.port is not None and run.port.thing == now.id for run in shop.ducts.runs)


def _changed(before: Any, after: Any) -> set[str]:
    """The names of the fields that differ between two of a kind."""
    names = (one.name for one in fields(before))
    return {name for name in names if getattr(before, name) != getattr(after, name)}
