"""Where things go: flush with a wall and within it, and the first free spot, by hand."""

from dataclasses import replace

import pytest

from purvel.shop import Fixture, Opening, Room
from purvel.space.placing import (
    against_wall,
    at_distance,
    beside,
    free_offset,
    free_spot,
    snap,
    split_point,
)
from purvel.space.shell import shell
from tests.conftest import block, box_room


def fixture(x: float, y: float, width: float = 0.8, depth: float = 0.2) -> Fixture:
    return Fixture(id="one", kind="cupboard", x=x, y=y, width=width, depth=depth, top=1.0)


@pytest.mark.parametrize(("x", "along"), [(3.0, 3.0), (0.3, 0.4), (5.75, 5.6)])
def test_a_fixture_goes_flush_and_stays_within_its_wall(x: float, along: float) -> None:
    """Wall A runs from (0, 0) to (6, 0); 0.2 m deep, its middle comes to lie 0.1 m off, its back to it."""
    at = against_wall(fixture(x, 0.12), shell(box_room()))
    assert at == pytest.approx((along, 0.1, 180.0))


def test_one_as_wide_as_the_wall_lies_in_its_middle_and_far_from_all_walls_it_stays() -> None:
    room = shell(box_room())
    assert against_wall(fixture(2.0, 0.2, width=6.0), room)[0] == pytest.approx(3.0)
    assert against_wall(fixture(3.0, 2.5), room) == (3.0, 2.5, 0.0)


def test_the_first_free_spot_leaves_a_way_round_if_there_is_one() -> None:
    """The middle of the floor is (3, 2.5); with a block of 1 by 1 m there, another keeps 0.9 m off."""
    room, thing = shell(box_room()), block("new", 0.0, 0.0, 1.0, 1.0, 0.9)
    assert free_spot(thing, (), room) == (3.0, 2.5)
    spot = free_spot(thing, (block("old", 3.0, 2.5, 1.0, 1.0, 0.9),), room)
    assert spot is not None
    away = max(abs(spot[0] - 3.0), abs(spot[1] - 2.5)) - 1.0
    assert 0.9 <= away <= 0.9 + 0.25
    full = block("all", 3.0, 2.5, 5.9, 4.9, 0.9)
    assert free_spot(thing, (full,), room) is None


@pytest.mark.parametrize(
    ("x", "y", "dx", "dy"),
    [
        (3.0, 0.54, 0.0, -0.04),  # 4 cm off wall A
        (3.0, 0.46, 0.0, 0.04),  # 4 cm into it
        (0.55, 4.45, -0.05, 0.05),  # 5 cm off walls C and D: into the corner
        (3.0, 0.57, 0.0, 0.0),  # 7 cm off: too far
        (3.0, 0.5, 0.0, 0.0),  # flush already
        (3.0, 2.5, 0.0, 0.0),
        (7.0, 0.54, 0.0, 0.0),  # beside the end of wall A, and a metre beyond wall B
    ],
)
def test_a_thing_near_a_wall_is_set_flush_with_it(x: float, y: float, dx: float, dy: float) -> None:
    """1 by 1 m in a room of 6 by 5."""
    thing = block("it", x, y, 1.0, 1.0, 0.9)
    assert snap(thing, (thing,), shell(box_room())) == pytest.approx((dx, dy), abs=1e-9)


def test_a_thing_near_another_is_set_flush_with_it() -> None:
    """3 cm between two of 1 by 1 m; 5 cm is too far, and nothing is set flush with what hangs over it."""
    room, old = shell(box_room()), block("old", 3.0, 2.5, 1.0, 1.0, 0.9)
    near, far = block("it", 4.03, 2.5, 1.0, 1.0, 0.9), block("it", 4.05, 2.5, 1.0, 1.0, 0.9)
    assert snap(near, (near, old), room) == pytest.approx((-0.03, 0.0))
    assert snap(far, (far, old), room) == (0.0, 0.0)
    hung = block("old", 3.0, 2.5, 1.0, 1.0, 0.9, z=1.2)
    assert snap(near, (near, hung), room) == (0.0, 0.0)
    on_it = block("it", 4.03, 2.5, 1.0, 1.0, 0.9, z=0.5)
    assert snap(on_it, (on_it, old), room) == pytest.approx((-0.03, 0.0))


def test_a_wall_comes_before_a_neighbour() -> None:
    room, old = shell(box_room()), block("old", 2.0, 0.5, 1.0, 1.0, 0.9)
    thing = block("it", 3.02, 0.55, 1.0, 1.0, 0.9)
    assert snap(thing, (thing, old), room) == pytest.approx((0.0, -0.05))


def test_a_thing_at_a_distance_from_a_wall() -> None:
    """1 by 0.8 m at (2, 1.5): its nearest walls are A, 1.1 m from it, and D, 1.5 m."""
    room, thing = shell(box_room()), block("it", 2.0, 1.5, 1.0, 0.8, 0.9)
    assert at_distance(thing, room, "A", 0.3) == pytest.approx((2.0, 0.7))
    assert at_distance(thing, room, "D", 0.25) == pytest.approx((0.75, 1.5))
    assert at_distance(thing, room, "C", 0.3) == (2.0, 1.5)


def test_an_opening_goes_behind_those_that_are_there() -> None:
    """Doors from 1 to 2 m and from 3 to 4 m in a wall of 5 m; 4 in are left between two."""
    doors = [
        Opening(id=name, kind="swing", wall="A", offset=at, width=1.0, head=2.0)
        for name, at in (("a", 1.0), ("b", 3.0))
    ]
    room = box_room(5, 5, openings=tuple(doors))
    new = Opening(id="new", kind="swing", wall="A", offset=1.5, width=0.8, head=2.0)
    assert free_offset(room, room.walls[0], new) == 0.0
    assert free_offset(room, room.walls[0], replace(new, offset=2.1)) == 2.1
    assert free_offset(room, room.walls[0], replace(new, offset=2.0)) == 2.0  # it may touch
    assert free_offset(room, room.walls[0], replace(new, width=0.85)) == 0.0
    filled = box_room(5, 5, openings=(replace(doors[0], offset=0.2), doors[1]))
    assert free_offset(filled, filled.walls[0], replace(new, offset=1.0)) == pytest.approx(1.3016)
    assert free_offset(filled, filled.walls[0], replace(new, width=3.0)) == 0.0


def test_a_wall_is_parted_beside_the_door_in_its_middle() -> None:
    """The door from 2.4 to 3.2 m takes up the middle of 6 m: its far jamb is nearer to that, at 3.2 m."""
    door = Opening(id="d", kind="swing", wall="A", offset=2.4, width=0.8, head=2.0)
    room = box_room(6, 5, openings=(door,))
    assert split_point(room, room.walls[0]) == pytest.approx(3.2)
    room = box_room(6, 5, openings=(replace(door, offset=2.9),))
    assert split_point(room, room.walls[0]) == pytest.approx(2.9)
    at_the_middle = box_room(6, 5, openings=(replace(door, offset=3.0),))
    assert split_point(at_the_middle, at_the_middle.walls[0]) == pytest.approx(3.0)


def test_beside_the_room_is_beyond_its_lower_left() -> None:
    thing = block("it", 0.0, 0.0, 1.2, 0.8, 0.9)
    assert beside(thing, shell(box_room(x=1.0, y=2.0))) == pytest.approx((-0.2, 3.2))
    assert beside(thing, shell(Room())) == (-1.2, 1.2)
