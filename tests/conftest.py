"""Shops to test with."""

import logging
import threading
from collections.abc import Iterator
from dataclasses import replace
from typing import Any

import pytest

from purvel.catalogue import make_thing
from purvel.shop import Opening, Room, Shop, Stock, Thing, Wall

KEPT = (
    "Dummy-",
    "ThreadPoolExecutor",
)  # threads of Qt's pools that Python has seen, and of the carrying search


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


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """The slow ones first: of two processes none is left alone with one at the end."""
    items.sort(key=lambda one: one.get_closest_marker("slow") is None)


@pytest.fixture(autouse=True)
def nothing_is_said_or_left(caplog: pytest.LogCaptureFixture) -> Iterator[None]:
    """A test fails for what it logs at WARNING or above without asking for it, and for threads that it
    leaves running; workers of pools that are kept for the whole process may stay.
    """
    before = set(threading.enumerate())
    yield
    said = [one for one in caplog.get_records("call") if one.levelno >= logging.WARNING]
    assert said == []
    left = [one for one in threading.enumerate() if one not in before and not one.name.startswith(KEPT)]
    for one in left:
        one.join(timeout=2.0)
    assert [one.name for one in left if one.is_alive()] == []


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
