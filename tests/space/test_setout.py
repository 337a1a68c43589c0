"""Set-out by hand: which corner is marked and what is measured from it."""

from math import cos, radians, sin

import pytest

from purvel.shop import Room, Wall
from purvel.space.setout import set_out
from purvel.space.shell import shell
from tests.conftest import block, box_room


def test_the_corner_nearest_to_a_wall_is_marked() -> None:
    """A 1.0 x 0.6 m body about (1.5, 2.0): its left corners are 1.0 m from wall D, its front ones 1.7 m from
    wall A.
    """
    mark = set_out(block("b", 1.5, 2.0, 1.0, 0.6, 1.0), shell(box_room(6, 5)))
    assert mark is not None
    assert mark.corner == "front left" and mark.spot == pytest.approx((1.0, 1.7))
    assert [(one.wall, one.distance) for one in mark.measures] == [
        ("D", pytest.approx(1.0)),
        ("A", pytest.approx(1.7)),
    ]
    assert mark.measures[1].foot == pytest.approx((1.0, 0.0))


def test_a_turned_body_is_measured_from_one_and_the_same_corner() -> None:
    """Turned by 30 degrees the lowest corner is the front left one: (3 - 0.5 cos 30 + 0.3 sin 30, 1 - 0.5 sin
    30 - 0.3 cos 30).
    """
    mark = set_out(block("b", 3.0, 1.0, 1.0, 0.6, 1.0, angle=30.0), shell(box_room(6, 5)))
    c, s = cos(radians(30)), sin(radians(30))
    x, y = 3 - 0.5 * c + 0.3 * s, 1 - 0.5 * s - 0.3 * c
    assert mark is not None and mark.corner == "front left" and mark.spot == pytest.approx((x, y))
    assert [(one.wall, one.distance) for one in mark.measures] == [
        ("A", pytest.approx(y)),
        ("D", pytest.approx(x)),
    ]


def test_a_wall_round_the_corner_is_not_measured_to() -> None:
    """In an L the foot on the far wall is hidden behind the nook: the measure goes to a wall that is seen."""
    walls = tuple(
        Wall(id=name, length=length, turn=turn)
        for name, length, turn in (
            ("A", 6.0, 90.0),
            ("B", 2.0, 90.0),
            ("C", 3.0, -90.0),
            ("D", 3.0, 90.0),
            ("E", 3.0, 90.0),
            ("F", 5.0, 90.0),
        )
    )
    mark = set_out(block("b", 2.2, 4.4, 0.6, 0.6, 1.0), shell(Room(walls=walls)))
    assert mark is not None
    seen = {one.wall: one.distance for one in mark.measures}
    assert seen == {"E": pytest.approx(0.3), "D": pytest.approx(0.5)}
    low = set_out(block("b", 5.4, 1.0, 0.6, 0.6, 1.0), shell(Room(walls=walls)))
    assert low is not None and {one.wall for one in low.measures} == {"B", "A"}


def test_a_body_flush_with_two_walls_is_at_nought_and_one_outside_is_not_marked() -> None:
    mark = set_out(block("b", 0.5, 0.3, 1.0, 0.6, 1.0), shell(box_room(6, 5)))
    assert mark is not None and [one.distance for one in mark.measures] == pytest.approx([0.0, 0.0])
    assert set_out(block("b", -4.0, -4.0, 1.0, 0.6, 1.0), shell(box_room(6, 5))) is None
    assert set_out(block("b", 1.0, 1.0, 1.0, 0.6, 1.0), shell(Room())) is None


def test_only_one_wall_is_measured_where_all_seen_are_parallel() -> None:
    room = box_room(6, 5)
    mark = set_out(block("b", 3.0, 2.5, 0.5, 0.5, 1.0), shell(room))
    assert mark is not None and len(mark.measures) == 2
    assert {one.wall for one in mark.measures} & {"A", "C"} and {one.wall for one in mark.measures} & {
        "B",
        "D",
    }
