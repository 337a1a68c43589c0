"""Edits of what stands on the floor."""

from dataclasses import replace

from purvel.shop.shop import Shop
from purvel.shop.things import Thing


def move_thing(shop: Shop, thing_id: str, x: float, y: float, angle: float | None = None) -> Shop:
    """The thing set down at (x, y) [m], turned to `angle` [deg] if given."""
    things = (_moved(thing, x, y, angle) if thing.id == thing_id else thing for thing in shop.things)
    return replace(shop, things=tuple(things))


def _moved(thing: Thing, x: float, y: float, angle: float | None) -> Thing:
    return replace(thing, x=x, y=y, angle=thing.angle if angle is None else angle % 360)
