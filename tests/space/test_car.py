"""The car in its bay, by hand: which door it drives through, what stands there, who gets out."""

from dataclasses import replace

import pytest

from purvel.shop import Fixture, Opening, Thing
from purvel.space.car import CarWay, car_way
from purvel.space.shell import shell
from tests.conftest import block, box_room

BAY = Fixture(id="bay", kind="parking bay", x=2.0, y=3.0, width=2.4, depth=4.8, top=2.0, taken=True)
DOOR = Opening(id="door", kind="roll-up", wall="A", offset=0.8, width=2.4, head=2.1)


def way(*things: Thing, bay: Fixture = BAY, door: Opening = DOOR) -> CarWay:
    found = car_way(bay, things, shell(box_room(6, 6, openings=(door,), fixtures=(bay,))))
    assert found is not None
    return found


def test_it_drives_straight_through_the_door_before_it() -> None:
    """From the middle of its bay, 3 m from wall A, 1.85 m wide."""
    one = way()
    assert one.door == "door" and one.floor.bounds == pytest.approx((1.075, 0.0, 2.925, 3.0))
    assert one.blocked_by == () and one.lets_out
    for other in (
        replace(DOOR, offset=1.1),  # its jamb stands 25 mm in the way
        replace(DOOR, head=1.5),
        replace(DOOR, kind="window"),
        replace(DOOR, wall="B"),
    ):
        assert way(door=other).door is None, other
    assert way(bay=replace(BAY, angle=90.0), door=replace(DOOR, wall="D", offset=1.8)).door == "door"
    assert way(bay=replace(BAY, angle=90.0)).door is None


def test_what_stands_where_it_drives() -> None:
    assert way(block("box", 1.0, 0.3, 0.3, 0.3, 0.5)).blocked_by == ("box",)
    assert way(block("box", 0.9, 0.3, 0.3, 0.3, 0.5)).blocked_by == ()
    assert way(block("box", 2.0, 0.3, 0.3, 0.3, 0.14)).blocked_by == ()
    assert way(block("box", 2.0, 0.3, 0.3, 0.3, 0.5, z=1.6)).blocked_by == ()
    assert way(block("box", 2.0, 2.0, 0.3, 0.3, 0.5)).blocked_by == ()  # it stands in the car


def test_somebody_gets_out_on_one_side_at_least() -> None:
    """0.6 m beside the car, from x = 0.475 to 1.075 and from 2.925 to 3.525, 4.8 m long."""
    assert way().sides == pytest.approx((1.0, 1.0))
    left = block("left", 0.775, 3.0, 0.6, 4.8, 1.0)
    right = block("right", 3.225, 4.3, 0.6, 2.2, 1.0)
    assert way(left).sides == pytest.approx((0.0, 1.0)) and way(left).lets_out
    shut = way(left, right)
    assert shut.sides == pytest.approx((0.0, 1 - 2.2 / 4.8)) and not shut.lets_out
    near = way(bay=replace(BAY, x=1.225), door=replace(DOOR, offset=0.0))  # 0.3 m from the wall
    assert near.sides == pytest.approx((0.5, 1.0))


def test_an_open_room_has_no_way() -> None:
    room = box_room(6, 6)
    assert car_way(BAY, (), shell(replace(room, walls=room.walls[:2]))) is None
