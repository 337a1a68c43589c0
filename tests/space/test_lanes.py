"""Lanes by hand on simple plans, and what must hold for any."""

from dataclasses import replace
from math import cos, radians, sin

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from purvel.shop import Ceiling, Fixture, Opening, Room, Slope, Stock, Thing
from purvel.space.ground import ground
from purvel.space.lanes import Lane, lanes
from purvel.space.shell import shell
from tests.conftest import block, box_room, saw

BOARD = Stock(length=1.5, width=0.2, thickness=0.02)


def of(room: Room, machine: Thing, *others: Thing, stock: Stock = BOARD, hand: float = 0.5) -> Lane:
    found = lanes([machine], stock, hand, ground(shell(room), (machine, *others)), shell(room)).get(
        machine.id
    )
    assert found is not None
    return found


def test_walls_stop_the_board() -> None:
    one = of(box_room(6, 5), saw(3.0, 2.0))
    assert (one.into.length, one.out.length) == pytest.approx((2.0, 3.0))
    assert one.into.stopped_by == ("wall", "A") and one.out.stopped_by == ("wall", "C")
    assert one.longest_board == pytest.approx(1.5)
    assert one.fits


def test_a_board_is_carried_over_what_is_exactly_as_high() -> None:
    room, machine = box_room(6, 5), saw(3.0, 2.0)
    level = block("bench", 3.0, 3.5, 1.0, 1.0, 0.86)
    assert of(room, machine, level).out.length == pytest.approx(3.0)
    assert of(room, machine, replace(level, height=0.8605)).out.length == pytest.approx(1.0)
    assert of(room, machine, replace(level, height=0.8605)).out.stopped_by == ("thing", "bench")


def test_a_shelf_above_the_stock_does_not_stop_it() -> None:
    shelf = block("shelf", 3.0, 3.5, 1.0, 1.0, 0.5, z=0.88)
    assert of(box_room(6, 5), saw(3.0, 2.0), shelf).out.length == pytest.approx(3.0)
    thick = replace(BOARD, thickness=0.021)
    assert of(box_room(6, 5), saw(3.0, 2.0), shelf, stock=thick).out.length == pytest.approx(1.0)


def test_the_strip_is_as_wide_as_the_stock() -> None:
    post = block("post", 3.15, 3.5, 0.1, 0.1, 2.0)  # its edge is 0.10 m beside the feed line
    room, machine = box_room(6, 5), saw(3.0, 2.0)
    assert of(room, machine, post).out.length == pytest.approx(3.0)  # touches the 0.2 m strip
    assert of(room, machine, post, stock=replace(BOARD, width=0.21)).out.length == pytest.approx(1.45)


def test_through_an_open_door_as_far_as_is_allowed() -> None:
    door = Opening(
        id="door", kind="roll-up", wall="A", offset=2.5, width=1.0, head=2.0, is_open=True, outside=3.0
    )
    assert of(box_room(6, 5, openings=(door,)), saw(3.0, 2.0)).into.length == pytest.approx(5.0)
    assert of(box_room(6, 5, openings=(door,)), saw(3.0, 2.0)).into.stopped_by == ("outside", "door")
    for shut in (
        replace(door, is_open=False),
        replace(door, head=0.87),
        replace(door, sill=0.87),
        replace(door, offset=2.95),
        replace(door, width=0.55),
    ):
        assert of(box_room(6, 5, openings=(shut,)), saw(3.0, 2.0)).into.length == pytest.approx(2.0), shut
    window = replace(door, kind="window", sill=0.86, head=0.88)
    assert of(box_room(6, 5, openings=(window,)), saw(3.0, 2.0)).into.length == pytest.approx(5.0)


def test_ceilings() -> None:
    assert of(box_room(6, 5, ceiling=Ceiling(height=0.87)), saw(3.0, 2.0)).longest_board == 0.0
    # the slope is 0.88 m high where (0.88 - 0.5)/(2.5 - 0.5) of 2 m = 0.38 m from wall C
    sloped = box_room(6, 5, ceiling=Ceiling(height=2.5, slopes=(Slope(wall="C", low=0.5, run=2.0),)))
    one = of(sloped, saw(3.0, 2.0))
    assert one.out.length == pytest.approx(3.0 - 0.38)
    assert one.out.stopped_by == ("ceiling", "C")


def test_fixtures_block_at_their_height_and_a_parking_bay_never() -> None:
    room = box_room(
        6, 5, fixtures=(Fixture(id="post", kind="post", x=3.0, y=4.0, width=0.1, depth=0.1, top=2.5),)
    )
    assert of(room, saw(3.0, 2.0)).out.length == pytest.approx(1.95)
    bay = box_room(
        6, 5, fixtures=(Fixture(id="bay", kind="parking bay", x=3.0, y=4.0, width=1, depth=1, top=2.5),)
    )
    assert of(bay, saw(3.0, 2.0)).out.length == pytest.approx(3.0)


def test_the_largest_sheet() -> None:
    """5.8 m either way of the blade less 0.5 m takes a whole sheet lengthways; a narrow room only a cut-down
    one.
    """
    sheets = [of(box_room(6, deep), saw(3.0, deep / 2)).largest_sheet for deep in (8.0, 3.5)]
    assert [(one.along, one.across) for one in sheets if one is not None] == [
        pytest.approx((2.4384, 1.2192)),
        pytest.approx((1.2192, 2.4384)),
    ]
    assert of(box_room(6, 1.2), saw(3.0, 0.6)).largest_sheet is None


def test_a_turned_saw_sees_along_its_own_line() -> None:
    one = of(box_room(6, 5), saw(2.0, 2.5, -90.0))
    assert (one.into.length, one.out.length) == pytest.approx((2.0, 4.0))
    assert one.direction == pytest.approx(0.0)


def outsider(
    room_box: tuple[float, float], machine: Thing, others: tuple[Thing, ...], width: float
) -> tuple[float, float]:
    """Free runs by another route: the strip as a polygon, cut with each body and with the outside of the room
    by Shapely.
    """
    angle = radians(machine.angle + 90.0)
    c, s = cos(angle), sin(angle)
    reaches = []
    outside = shapely.box(-60, -60, 60, 60).difference(shapely.box(0, 0, *room_box))
    for sign in (-1, 1):
        corners = [
            (0, -width / 2 + 1e-6),
            (50 * sign, -width / 2 + 1e-6),
            (50 * sign, width / 2 - 1e-6),
            (0, width / 2 - 1e-6),
        ]
        strip = shapely.Polygon([(machine.x + c * u - s * v, machine.y + s * u + c * v) for u, v in corners])
        nearest = 50.0
        for body in (
            outside,
            *(
                shapely.box(o.x - o.width / 2, o.y - o.depth / 2, o.x + o.width / 2, o.y + o.depth / 2)
                for o in others
            ),
        ):
            hit = strip.intersection(body)
            if not hit.is_empty:
                along = [
                    sign * ((x - machine.x) * c + (y - machine.y) * s)
                    for x, y in shapely.get_coordinates(hit)
                ]
                nearest = min(nearest, max(0.0, min(along)))
        reaches.append(nearest)
    return reaches[0], reaches[1]


bodies = st.tuples(st.floats(0.5, 5.5), st.floats(0.5, 4.5), st.floats(0.1, 1.0), st.floats(0.1, 1.0))


@settings(max_examples=60, deadline=None)
@given(
    st.floats(1, 5), st.floats(1, 4), st.floats(-180, 180), st.lists(bodies, max_size=5), st.floats(0.05, 0.6)
)
def test_lanes_agree_with_polygons_cut_by_another_route(
    x: float, y: float, angle: float, others: list[tuple[float, ...]], width: float
) -> None:
    machine = saw(x, y, angle)
    things = tuple(block(f"b{i}", bx, by, w, d, 2.0) for i, (bx, by, w, d) in enumerate(others))
    one = of(box_room(6, 5), machine, *things, stock=replace(BOARD, width=width))
    assert (one.into.length, one.out.length) == pytest.approx(
        outsider((6, 5), machine, things, width), abs=0.002
    )


@settings(max_examples=40, deadline=None)
@given(st.floats(0.05, 1.0), st.floats(0.05, 1.0))
def test_wider_stock_never_runs_farther(a: float, b: float) -> None:
    others = (block("p", 3.3, 4.0, 0.2, 0.2, 2.0), block("q", 2.4, 0.8, 0.4, 0.2, 2.0))
    narrow, wide = (
        of(box_room(6, 5), saw(3.0, 2.5, 10.0), *others, stock=replace(BOARD, width=w))
        for w in sorted((a, b))
    )
    assert wide.longest_board <= narrow.longest_board + 1e-9
