"""Set-out by hand: which corner is marked and what is measured from it."""

from math import atan2, cos, degrees, radians, sin, sqrt

import pytest

from purvel.shop import AsBuilt, Fixture, FromWall, Opening, Room, Wall
from purvel.space.setout import built, set_out
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


def test_a_wall_that_crosses_well_is_measured_to_rather_than_a_nearer_one_that_does_not() -> None:
    """Wall B leans: it meets A at the angle whose tangent is 1 / 2, 27 degrees, and the corner at (4.0, 0.2)
    is 3.6 / sqrt 5 = 1.61 m from it; D, 4.0 m away, stands square to A.
    """
    lean = degrees(atan2(1.0, 2.0))
    sides = (("A", 8.0, 180.0 - lean), ("B", sqrt(20.0), lean), ("C", 4.0, 90.0), ("D", 2.0, 90.0))
    walls = tuple(Wall(id=name, length=length, turn=turn) for name, length, turn in sides)
    mark = set_out(block("b", 4.5, 0.5, 1.0, 0.6, 1.0), shell(Room(walls=walls)))
    assert mark is not None
    assert [(one.wall, one.distance) for one in mark.measures] == [
        ("A", pytest.approx(0.2)),
        ("D", pytest.approx(4.0)),
    ]


def test_jambs_and_posts_check_a_corner() -> None:
    """From (1.0, 1.7): the post's nearest corner at (1.3, 2.1) is 0.5 m away, the door's near jamb at (1.0,
    0.0) 1.7 m. A jamb behind the post is not seen.
    """
    post = Fixture(id="post", kind="post", x=1.35, y=2.15, width=0.1, depth=0.1, top=2.5)
    door = Opening(id="door", kind="swing", wall="A", offset=1.0, width=0.9, head=2.0)
    room = shell(box_room(6, 5, fixtures=(post,), openings=(door,)))
    mark = set_out(block("b", 1.5, 2.0, 1.0, 0.6, 1.0), room)
    assert mark is not None and mark.spot == pytest.approx((1.0, 1.7))
    assert [(one.item, one.distance) for one in mark.checks] == [
        ("post", pytest.approx(0.5)),
        ("door", pytest.approx(1.7)),
    ]
    assert mark.checks[1].to == pytest.approx((1.0, 0.0))


ROOM = shell(box_room(6, 5))
BENCH = block("bench", 2.0, 2.0, 1.0, 0.6, 0.9)  # its front left corner is at (1.5, 1.7)


def read(*distances: tuple[str, float], angle: float | None = None) -> AsBuilt:
    walls = tuple(FromWall(wall=wall, distance=distance) for wall, distance in distances)
    return AsBuilt(day="2026-11-01", corner="front left", distances=walls, angle=angle)


def test_where_two_readings_say_that_it_stands() -> None:
    """20 mm farther from the left wall and 15 mm nearer to the wall below."""
    found = built(BENCH, read(("D", 1.52), ("A", 1.685)), ROOM)
    assert found is not None
    assert (found.x, found.y, found.angle) == pytest.approx((2.02, 1.985, 0.0))
    assert (found.right, found.ahead, found.turned) == pytest.approx((0.02, -0.015, 0.0))
    assert found.off == pytest.approx(0.025) and not found.in_place
    near = built(BENCH, read(("D", 1.506), ("A", 1.706)), ROOM)
    assert near is not None and near.in_place
    as_drawn = built(BENCH, read(), ROOM)
    assert as_drawn is not None and as_drawn.off == pytest.approx(0.0, abs=1e-9)


def test_right_and_ahead_are_the_workers() -> None:
    """Turned by 90 degrees, right is up the plan and ahead to the left."""
    turned = block("bench", 2.0, 2.0, 1.0, 0.6, 0.9, angle=90.0)  # its front left corner is at (2.3, 1.5)
    found = built(turned, read(("D", 2.33), ("A", 1.54)), ROOM)
    assert found is not None and (found.right, found.ahead) == pytest.approx((0.04, -0.03))


def test_one_reading_leaves_the_other_way_as_drawn() -> None:
    found = built(BENCH, read(("A", 1.65)), ROOM)
    assert found is not None and (found.x, found.y) == pytest.approx((2.0, 1.95))


def test_a_turn_is_about_the_corner_that_was_read() -> None:
    """Turned by 90 degrees about its corner at (1.5, 1.7): the middle goes from half the length and half the
    depth away to (1.5 - 0.3, 1.7 + 0.5).
    """
    found = built(BENCH, read(("D", 1.5), ("A", 1.7), angle=90.0), ROOM)
    assert found is not None
    assert (found.x, found.y, found.turned) == pytest.approx((1.2, 2.2, 90.0))
    back = built(BENCH, read(("D", 1.5), ("A", 1.7), angle=359.0), ROOM)
    assert back is not None and back.turned == pytest.approx(-1.0) and not back.in_place


def test_what_readings_do_not_tell() -> None:
    assert built(BENCH, read(("D", 1.5), ("B", 4.5)), ROOM) is None  # along one and the same line
    assert built(BENCH, read(("gone", 1.5)), ROOM) is None
