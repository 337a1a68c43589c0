"""Rolling machines to their places: corridors, corners and gates of known width, order, castors and steps."""

from dataclasses import replace
from math import hypot, sqrt

import pytest
import shapely

from purvel.shop import Fixture, Room, Thing, Wall
from purvel.space.clearances import polygon
from purvel.space.loads import outline
from purvel.space.roll_out import RollOut, roll_outs
from purvel.space.shell import shell
from tests.conftest import block, box_room


def cart(
    x: float, y: float, angle: float = 0.0, width: float = 1.0, depth: float = 0.5, **more: object
) -> Thing:
    return replace(block("cart", x, y, width, depth, 0.9), wheels=True, angle=angle, **more)


def moved(room: Room, here: Thing, there: Thing, *others: Thing) -> RollOut:
    (found,) = roll_outs((here, *others), (there, *others), shell(room))
    return found


def gate(width: float, x: float = 3.0) -> tuple[Thing, Thing]:
    """Two blocks across a room 4 m deep that leave a gap in its middle."""
    half = (4.0 - width) / 2
    return (
        block("low", x, half / 2, 0.2, half, 2.0),
        block("high", x, 4.0 - half / 2, 0.2, half, 2.0),
    )


def test_through_a_gate_as_wide_as_it_is_and_no_narrower() -> None:
    """Lengthways it is 0.5 m wide; a gate of 0.52 m lets it through, one of 0.49 m does not."""
    room = box_room(6, 4)
    here, there = cart(1.0, 2.0), cart(5.0, 2.0)
    one = moved(room, here, there, *gate(0.52))
    assert one.fits and one.length == pytest.approx(4.0, abs=0.01) and one.turned == 0.0
    shut = moved(room, here, there, *gate(0.49))
    assert not shut.fits and set(shut.blocked_by) == {"low", "high"}


def test_it_turns_to_go_through_and_back_again() -> None:
    """Turned across, it turns by 90 degrees before the gate and by 90 behind it."""
    room = box_room(6, 4)
    here, there = cart(1.0, 2.0, 90.0), cart(5.0, 2.0, 90.0)
    one = moved(room, here, there, *gate(0.6))
    assert one.fits and one.turned >= 180.0 - 30.0
    still = moved(room, replace(here, castors=False), replace(there, castors=False), *gate(0.6))
    assert not still.fits and still.wants_castors and still.blocked_by == ()
    assert moved(room, replace(here, castors=False), replace(there, castors=False), *gate(1.02)).fits


def test_end_for_end_is_another_heading() -> None:
    """A bay 1.1 m wide and 3 m deep is too narrow to turn a cart with a diagonal of 1.118 m in, one of 1.2 m
    is not.
    """
    here, there = cart(0.6, 1.5, 90.0, depth=0.5), cart(0.6, 1.5, 270.0, depth=0.5)

    def turned_in(wide: float) -> RollOut:
        return moved(box_room(wide, 3), replace(here, x=wide / 2), replace(there, x=wide / 2))

    assert not turned_in(1.1).fits
    one = turned_in(1.2)
    assert one.fits and one.turned == pytest.approx(180.0, abs=1e-6)


def corner(wide: float) -> Room:
    """An L of two corridors, so wide, with outer legs of 4 m."""
    lengths = (4.0, 4.0, wide, 4.0 - wide, 4.0 - wide, wide)
    turns = (90.0, 90.0, 90.0, -90.0, 90.0, 90.0)
    return Room(
        walls=tuple(
            Wall(id=f"W{k}", length=length, turn=turn) for k, (length, turn) in enumerate(zip(lengths, turns))
        )
    )


def test_round_a_corner_as_geometry_has_it() -> None:
    """A rectangle L x w passes a right corner between corridors of width a if
    L <= 2 (sqrt(2) a - w) for the symmetric corner: a = 0.9, w = 0.5: 1.545 m.
    """
    a, w = 0.9, 0.5
    limit = 2 * (sqrt(2) * a - w)
    room = corner(a)

    def passes(length: float) -> bool:
        here = cart(length / 2 + 0.02, a / 2, 0.0, length, w)
        there = cart(4.0 - a / 2, 4.0 - length / 2 - 0.02, 90.0, length, w)
        return moved(room, here, there).fits

    assert passes(limit - 0.05) and not passes(limit + 0.01)


def test_what_is_parked_close_gets_out() -> None:
    """5 mm from two walls and from a neighbour."""
    room, neighbour = box_room(5, 4), block("neighbour", 1.01 + 0.2, 0.3, 0.4, 0.6, 1.0)
    one = moved(room, cart(0.505, 0.255), cart(3.0, 3.0, 30.0), neighbour)
    assert one.fits
    assert one.way[0].x == pytest.approx(0.505) and one.way[0].y == pytest.approx(0.255)
    assert one.way[-1].heading == pytest.approx(30.0)


def test_the_way_touches_nothing() -> None:
    """Every place on the way, its outline against the walls and the others, by Shapely alone."""
    room = box_room(6, 4)
    others = (*gate(0.8), block("post", 4.2, 2.2, 0.2, 0.2, 2.5))
    here, there = cart(0.6, 3.4, 90.0), cart(5.4, 0.7, 45.0)
    one = moved(room, here, there, *others)
    assert one.fits and one.length >= hypot(4.8, 2.7)
    inside = shapely.box(0, 0, 6, 4).buffer(1e-3)
    for place in one.way:
        body = shapely.Polygon(outline(1.0, 0.5, place))
        assert inside.covers(body)
        assert all(body.buffer(-2e-3).disjoint(polygon(other)) for other in others), place


def test_over_what_lies_lower_and_under_what_hangs_higher() -> None:
    room = box_room(6, 4)
    here, there = cart(1.0, 2.0), cart(5.0, 2.0)
    sill = block("sill", 3.0, 2.0, 0.2, 4.0, 0.009)
    assert moved(room, here, there, sill).fits
    assert moved(room, here, there, replace(sill, height=0.011)).blocked_by == ("sill",)
    assert moved(room, here, there, replace(sill, z=0.9, height=1.0)).fits
    step = Fixture(id="step", kind="steps", x=3.0, y=2.0, width=0.3, depth=4.0, top=0.15)
    stuck = moved(replace(room, fixtures=(step,)), here, there)
    assert not stuck.fits and stuck.blocked_by == ()


def test_one_makes_way_for_the_other() -> None:
    """In a corridor the first in the list stands behind the second, which has to go first."""
    room = box_room(8, 0.8)
    first, second = cart(1.0, 0.4), replace(cart(3.0, 0.4), id="second")
    before, after = (first, second), (replace(first, x=5.0), replace(second, x=7.0))
    found = roll_outs(before, after, shell(room))
    assert [(one.thing, one.turn) for one in found] == [("second", 1), ("cart", 2)]
    swapped = roll_outs(before, (replace(first, x=3.0), replace(second, x=1.0)), shell(room))
    assert [one.fits for one in swapped] == [False, False]
    assert {one.thing: one.blocked_by for one in swapped} == {"cart": ("second",), "second": ("cart",)}


def test_what_folds_is_rolled_folded_and_what_is_put_away_is_not_in_the_way() -> None:
    room = box_room(6, 0.7)
    wide = cart(1.0, 0.35, 0.0, 1.0, 0.6)
    folded = replace(wide, x=5.0, y=0.45, depth=0.2)
    thing = block("bench", 3.0, 0.6, 0.5, 0.2, 0.9)
    (one,) = roll_outs((wide, thing), (folded, thing), shell(room))
    assert one.fits  # 0.2 m deep it passes the bench, which leaves 0.5 m
    (stays,) = roll_outs((wide, thing), (replace(wide, x=5.0), thing), shell(room))
    assert stays.blocked_by == ("bench",)
    (free,) = roll_outs((wide, thing), (replace(wide, x=5.0),), shell(room))
    assert free.fits


def test_only_what_has_wheels_and_moves() -> None:
    room = shell(box_room(6, 4))
    here = cart(1.0, 2.0)
    assert roll_outs((here,), (here,), room) == []
    assert roll_outs((replace(here, wheels=False),), (replace(here, x=3.0, wheels=False),), room) == []
    assert roll_outs((here,), (), room) == []
    assert roll_outs((here,), (replace(here, x=3.0),), shell(Room())) == []
    into = moved(box_room(6, 4), here, cart(3.0, 2.0), block("there", 3.2, 2.0, 0.5, 0.5, 1.0))
    assert not into.fits and into.blocked_by == ("there",)
