"""Shops to test with."""

from dataclasses import replace
from typing import Any

import pytest

from purvel.catalogue import make_thing
from purvel.shop import Opening, Room, Shop, Stock, Thing, Wall


def box_room(width: float = 6.0, depth: float = 5.0, **changes: Any) -> Room:
    """A rectangle with its lower left corner at the origin: A below, B right, C above, D left."""
    walls = (
        Wall(id="A", length=width),
        Wall(id="B", length=depth),
        Wall(id="C", length=width),
        Wall(id="D", length=depth),
    )
    return replace(Room(walls=walls), **changes)


def block(name: str, x: float, y: float, width: float, depth: float, height: float, **changes: Any) -> Thing:
    """A plain body."""
    return replace(
        Thing(id=name, kind="cabinet", name=name, x=x, y=y, width=width, depth=depth, height=height),
        **changes,
    )


def saw(x: float, y: float, angle: float = 0.0, **changes: Any) -> Thing:
    """A table saw with its blade in the middle, so that sums are easy."""
    thing = make_thing("table-saw", "saw", x, y, angle)
    assert thing.feed is not None
    return replace(thing, feed=replace(thing.feed, x=0.0), **changes)


@pytest.fixture
def small_shop() -> Shop:
    """A 6 x 5 m room with a way in, a saw in the middle and a bench."""
    room = box_room(
        openings=(Opening(id="door", kind="swing", wall="D", offset=0.3, width=0.9, head=2.0, entry=True),)
    )
    things = (saw(3.0, 2.5), make_thing("workbench", "bench", 5.0, 0.5, 180.0))
    return Shop(
        name="Test",
        units="metric",
        room=room,
        things=things,
        stock=Stock(length=1.5, width=0.2, thickness=0.02),
        hand_room=0.5,
    )
