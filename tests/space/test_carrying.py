"""Carrying: exact limits of corners and doors, never a false yes, what is in the band of heights."""

from dataclasses import replace
from itertools import pairwise
from math import cos, hypot, pi, radians, sin

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from purvel.shop import Opening, Room, Stock, Thing, Wall
from purvel.space.carry_limits import FINENESS, LONGEST, jam, largest_sheets, longest
from purvel.space.carrying import REACH, Carried, Setting, carry, coarsely
from purvel.space.ground import ground
from purvel.space.in_the_way import yard
from purvel.space.loads import HANDS, Load, Start, load_of, outline
from purvel.space.minkowski import core, grown, swept
from purvel.space.shell import shell
from tests.conftest import block, box_room

DOOR = Start("door")
WITHIN = 0.05  # of the limit: no false no beyond it


def corner(a: float, b: float) -> Room:
    """An L of passages, one `a` wide that comes down from a door at its top, one `b` wide to the right."""
    lengths = (("A", 8 + a, 90), ("B", b, 90), ("C", 8, -90), ("D", 8, 90), ("E", a, 90), ("F", 8 + b, 90))
    walls = tuple(Wall(id=name, length=length, turn=turn) for name, length, turn in lengths)
    door = Opening(id="door", kind="roll-up", wall="E", offset=0.0, width=a, head=2.1)
    return Room(walls=walls, openings=(door,))


def board(length: float, width: float = 0.001, **changes: object) -> Load:
    return replace(Load(length, width, 0.02, "flat", 0.9), **changes)


def get(
    room: Room,
    load: Load,
    stop: tuple[float, float],
    things: tuple[Thing, ...] = (),
    start: Start = DOOR,
) -> Carried:
    walls = shell(room)
    return carry(load, Setting(start, walls, things, ground(walls, things)), {"stop": stop})["stop"]


def limit_of_corner(a: float, b: float, width: float) -> float:
    """The longest rectangle of a width that turns a right-angled corner [m].

    At the angle t it touches both outer walls and the inner corner:
    L = (a cos t + b sin t - w) / (sin t cos t), least over t; for w = 0 that is (a^(2/3) + b^(2/3))^(3/2).
    """
    t = np.linspace(0.001, pi / 2 - 0.001, 200_000)
    return float(((a * np.cos(t) + b * np.sin(t) - width) / (np.sin(t) * np.cos(t))).min())


def test_the_limit_of_a_corner_is_the_ladder_s() -> None:
    assert limit_of_corner(0.9, 1.2, 0.0) == pytest.approx((0.9 ** (2 / 3) + 1.2 ** (2 / 3)) ** 1.5, rel=1e-6)


@pytest.mark.parametrize(
    ("a", "b", "width"),
    [
        (0.9, 0.9, 0.001),
        (0.9, 1.2, 0.001),
        (1.2, 1.2, 0.2),
        (1.5, 1.0, 0.3),
        (1.8, 1.8, 1.22),
        (0.8, 0.8, 0.02),
    ],
)
def test_round_a_corner_it_passes_just_below_the_exact_limit_and_never_above(
    a: float, b: float, width: float
) -> None:
    limit, room, far = limit_of_corner(a, b, width), corner(a, b), (6.0 + a, b / 2)
    assert not get(room, board(limit * 1.002, width), far).fits
    assert get(room, board(limit * (1 - WITHIN), width), far).fits


def test_the_longest_that_passes_is_found_and_not_more() -> None:
    walls = shell(corner(0.9, 0.9))
    setting = Setting(DOOR, walls, (), ground(walls, ()))
    found = longest(board(3.0), setting, {"far": (6.9, 0.45), "near": (0.45, 6.0)})
    limit = limit_of_corner(0.9, 0.9, 0.001)
    assert limit * (1 - WITHIN - FINENESS) < found["far"] <= limit
    assert found["near"] == pytest.approx(LONGEST)  # straight in


def test_through_a_door_in_line_it_passes_as_wide_as_the_door() -> None:
    """A 0.8 m door; the sheet goes straight in and needs no turn."""
    door = Opening(id="door", kind="swing", wall="A", offset=2.0, width=0.8, head=2.0)
    room = box_room(openings=(door,))
    assert get(room, board(2.0, 0.77), (2.4, 2.0)).fits
    assert not get(room, board(2.0, 0.81), (2.4, 2.0)).fits


def test_a_yard_lets_it_turn_before_the_door() -> None:
    """A room only 1.2 m deep: 3.3 m go in only slanting, for which there must be room outside."""
    door = Opening(id="door", kind="sliding", wall="A", offset=0.3, width=1.2, head=2.0, outside=5.0)
    room = box_room(6.0, 1.2, openings=(door,))
    assert limit_of_corner(1.2, 1.2, 0.1) < 3.3  # in a passage as wide as the door
    assert not get(room, board(3.3, 0.1), (4.0, 0.6)).fits
    assert get(room, board(3.3, 0.1), (4.0, 0.6), start=Start("door", yard=True)).fits


def test_a_shut_window_and_a_low_head_let_nothing_through() -> None:
    door = Opening(id="door", kind="swing", wall="A", offset=2.0, width=0.9, head=2.0)
    room = box_room(openings=(door,))
    high = Load(1.0, 1.22, 0.02, "on edge", 0.9)  # up to 2.12 m
    assert not get(room, high, (2.4, 2.0)).fits
    assert get(room, replace(high, low=0.7), (2.4, 2.0)).fits
    window = replace(door, kind="window", sill=1.0)
    assert not get(box_room(openings=(window,)), board(1.0), (2.4, 2.0)).fits


def test_only_what_stands_in_the_band_of_heights_is_in_the_way() -> None:
    door = Opening(id="door", kind="sliding", wall="A", offset=2.5, width=1.0, head=2.0)
    room = box_room(openings=(door,))
    for height, fits in ((0.9, True), (0.95, False)):
        across = block("b", 3.0, 2.0, 5.9, 0.5, height)
        assert get(room, board(2.0), (3.0, 4.0), (across,)).fits is fits
    hung = block("b", 3.0, 2.0, 5.9, 0.5, 0.4, z=0.92)
    assert get(room, board(2.0), (3.0, 4.0), (hung,)).fits  # just over it
    assert not get(room, board(2.0), (3.0, 4.0), (replace(hung, z=0.91),)).fits


def test_from_a_rack_it_starts_in_front_of_it() -> None:
    rack = block("rack", 3.0, 4.7, 3.0, 0.5, 1.9, angle=0.0)  # its front faces down the plan
    got = get(box_room(), board(2.4, 0.2), (1.0, 1.0), (rack,), Start("rack"))
    assert got.fits and got.way[0].y < 4.45
    assert not get(box_room(), board(2.4, 0.2), (1.0, 1.0), (rack,), Start("nothing")).fits


def test_arrived_is_within_reach() -> None:
    """A wall of cupboards keeps a long board's middle from the far side."""
    door = Opening(id="door", kind="sliding", wall="A", offset=2.5, width=1.0, head=2.0)
    shelf = block("s", 3.0, 3.0, 6.0, 0.4, 1.5)
    room = box_room(openings=(door,))
    below = 2.8 - 0.1  # its edge lies against the cupboard: a middle at most there
    assert get(room, board(1.0, 0.2), (3.0, below + REACH - 0.02), (shelf,)).fits
    assert not get(room, board(1.0, 0.2), (3.0, below + REACH + 0.02), (shelf,)).fits


def test_a_way_goes_from_the_start_to_the_stop_without_touching() -> None:
    walls = shell(corner(1.0, 1.0))
    load = board(2.0, 0.1)
    got = get(corner(1.0, 1.0), load, (6.0, 0.5))
    free = yard(walls, (), Start("door"), load)
    assert free is not None and got.turned > 45.0
    for place in got.way:
        assert shapely.buffer(free.floor, 1e-6).covers(
            shapely.Polygon(outline(load.length, load.across, place))
        )
    assert hypot(got.way[-1].x - 6.0, got.way[-1].y - 0.5) <= REACH
    walked = sum(hypot(b.x - a.x, b.y - a.y) for a, b in pairwise(got.way))
    assert got.length == pytest.approx(walked, abs=0.02) and got.length > 9.0


def test_where_it_jams_and_on_what() -> None:
    door = Opening(id="door", kind="sliding", wall="A", offset=2.5, width=1.0, head=2.0, outside=6.0)
    left, right = (
        block("left", 1.2, 2.5, 2.4, 0.4, 1.9),
        block("right", 4.8, 2.5, 2.4, 0.4, 1.9),
    )  # 1.2 m between
    walls = shell(box_room(openings=(door,)))
    things = (left, right)
    among = Setting(Start("door", True), walls, things, ground(walls, things))
    wide = board(1.4, 1.3)
    assert not carry(wide, among, {"s": (3.0, 4.2)})["s"].fits
    before = jam(wide, among, ((3.0, 0.25), (3.0, 4.2)))  # in the door it would touch both jambs
    assert before is not None and before.place.y < 0.0 and before.on == (("wall", "A"),)
    wider = Setting(
        among.start, shell(box_room(openings=(replace(door, offset=2.0, width=2.0),))), things, among.plan
    )
    between = jam(wide, wider, ((3.0, 0.25), (3.0, 4.2)))  # turned, with a corner between them
    assert between is not None and 1.3 < between.place.y < 2.3
    assert set(between.on) == {("thing", "left"), ("thing", "right")}
    across = (block("across", 3.0, 3.0, 6.0, 0.3, 1.9),)
    small = jam(
        board(0.6, 0.5), Setting(among.start, walls, across, ground(walls, across)), ((3.0, 0.25), (3.0, 4.2))
    )
    assert small is not None and small.on == (("thing", "across"),)
    narrow = board(1.4, 0.9)  # gets in, and through
    assert carry(narrow, among, {"s": (3.0, 4.2)})["s"].fits
    long = board(3.4, 0.9)
    post = block("post", 3.0, 3.6, 0.6, 0.1, 1.9)
    with_post = Setting(Start("door", True), walls, (*things, post), ground(walls, (*things, post)))
    found = jam(long, with_post, ((3.0, 0.25), (3.0, 2.0), (3.9, 3.6), (3.9, 4.2)))
    assert found is not None
    assert found.place.y < 3.0 and ("thing", "post") in found.on


def test_the_largest_sheet_as_sold() -> None:
    door = Opening(id="door", kind="sliding", wall="A", offset=2.0, width=1.30, head=2.2)
    walls = shell(box_room(openings=(door,)))
    stops, plan = {"s": (2.6, 2.0)}, ground(walls, ())
    flat = load_of(Stock(length=2.44, width=1.22, thickness=0.018), "flat", 1.75)
    assert largest_sheets(flat, 1.75, Setting(Start("door"), walls, (), plan), stops) == {
        "s": pytest.approx((2.4384, 1.2192))
    }
    narrow = shell(box_room(openings=(replace(door, width=0.70),)))
    assert largest_sheets(flat, 1.75, Setting(Start("door"), narrow, (), plan), stops)["s"] == pytest.approx(
        (1.2192, 0.6096)
    )


def test_how_high_things_are_carried() -> None:
    sheet = Stock(length=2.44, width=1.22, thickness=0.018)
    flat, edge = load_of(sheet, "flat", 1.80), load_of(sheet, "on edge", 1.80)
    assert flat.low == pytest.approx(HANDS * 1.80) and flat.high - flat.low == pytest.approx(0.018)
    assert flat.across == 1.22 and edge.across == 0.018
    assert edge.high == pytest.approx(0.818 * 1.80)  # no higher than the shoulder
    thin = load_of(Stock(length=2.44, width=0.2, thickness=0.02), "on edge", 1.80)
    assert thin.low == pytest.approx(0.43 * 1.80)  # at the knuckles
    huge = load_of(Stock(length=2.44, width=1.83, thickness=0.02), "on edge", 1.60)
    assert huge.low == pytest.approx(0.10)


@pytest.mark.parametrize(
    ("length", "across", "spans"), [(2.0, 0.5, 24), (2.44, 1.22, 24), (4.9, 0.15, 24), (1.0, 1.0, 4)]
)
def test_a_core_is_held_by_the_rectangle_at_every_heading_of_its_span(
    length: float, across: float, spans: int
) -> None:
    corners, half = core(length, across, spans), pi / spans / 2
    for angle in np.linspace(-half, half, 41):
        x, y = corners @ [cos(angle), sin(angle)], corners @ [-sin(angle), cos(angle)]
        assert np.abs(x).max() <= length / 2 + 1e-12 and np.abs(y).max() <= across / 2 + 1e-12
    whole = shapely.box(-length / 2, -across / 2, length / 2, across / 2)
    turns = [
        shapely.affinity.rotate(whole, angle, use_radians=True) for angle in np.linspace(-half, half, 41)
    ]
    assert shapely.Polygon(corners).area > 0.96 * shapely.intersection_all(turns).area > 0  # and hardly less


def test_a_coarse_search_is_sure_far_from_the_limit_and_in_doubt_near_it() -> None:
    """In the passages of 1.2 m, boards 0.2 m wide turn up to 2.99 m."""
    walls = shell(corner(1.2, 1.2))
    limit, far = limit_of_corner(1.2, 1.2, 0.2), {"far": (7.2, 0.6)}

    def told(share: float) -> bool | None:
        return coarsely(board(limit * share, 0.2), Setting(DOOR, walls, (), ground(walls, ())), far)["far"]

    assert limit == pytest.approx(2.99, abs=0.01)
    assert [told(share) for share in (0.8, 1.0, 1.2)] == [True, None, False]


def test_a_swept_shape_holds_every_heading_of_its_span() -> None:
    for spans in (24, 90):
        hull = shapely.Polygon(swept(2.0, 0.3, spans)).buffer(1e-9)
        for turn in np.linspace(-90.0 / spans, 90.0 / spans, 41):
            c, s = cos(radians(turn)), sin(radians(turn))
            corners = [
                (c * x - s * y, s * x + c * y) for x, y in ((1, 0.15), (-1, 0.15), (-1, -0.15), (1, -0.15))
            ]
            assert hull.covers(shapely.Polygon(corners))


@pytest.mark.parametrize("turn", [0.0, 1e-12, -1e-12, 3e-10, -3e-10, 1e-7])
def test_grown_shapes_are_the_minkowski_sum(turn: float) -> None:
    """Against the hull of all sums of corners, also where edges are level but for rounding."""
    c, s = cos(turn), sin(turn)
    flat = np.array(
        [
            [[0.0, 0.0], [1.0, 0.0], [1.0, 0.5], [0.0, 0.5]],
            [[2.0, 1.0], [3.0, 2.0], [3.0, 2.0], [2.0, 1.0]],
            [[4.0, 0.0], [1.0, 0.0], [1.0, 0.0], [4.0, 0.0]],
        ]
    )
    pieces = flat @ np.array([[c, s], [-s, c]])
    for spans in (24, 284):
        shape, headings = swept(1.8, 1.2, spans), np.arange(spans) * pi / spans
        for heading, found in zip(headings, grown(pieces, shape, headings)):
            turned = shape @ np.array([[cos(heading), sin(heading)], [-sin(heading), cos(heading)]])
            sums = (pieces[:, :, None] + turned[None, None]).reshape(len(pieces), -1, 2)
            hulls = shapely.convex_hull(shapely.multipoints(sums))
            assert shapely.area(shapely.symmetric_difference(shapely.polygons(found), hulls)).max() < 1e-9


@settings(max_examples=15, deadline=None)
@given(
    st.lists(
        st.tuples(
            st.floats(0.6, 5.4),
            st.floats(1.0, 4.4),
            st.floats(0.2, 1.2),
            st.floats(0.2, 1.2),
            st.floats(0, 90),
        ),
        max_size=5,
    ),
    st.floats(0.8, 2.4),
)
def test_shorter_gets_wherever_longer_does_and_no_place_of_a_way_touches(
    boxes: list[tuple[float, ...]], length: float
) -> None:
    door = Opening(id="door", kind="sliding", wall="A", offset=0.2, width=1.4, head=2.0)
    walls = shell(box_room(openings=(door,)))
    things = tuple(block(f"b{k}", x, y, w, d, 1.2, angle=t) for k, (x, y, w, d, t) in enumerate(boxes))
    plan, stops = ground(walls, things), {"c": (5.4, 4.4), "m": (3.0, 2.5)}
    among, load = Setting(Start("door", True), walls, things, plan), board(length, 0.15)
    found = carry(load, among, stops)
    shorter = carry(replace(load, length=length * 0.8), among, stops)
    bodies = shapely.union_all([shapely.Polygon(p) for p in plan.pieces[: len(things)]])
    for name, one in found.items():
        assert shorter[name].fits or not one.fits
        for place in one.way:
            assert shapely.Polygon(outline(length, 0.15, place)).intersection(bodies).area < 1e-7


def test_edges_of_the_floor_are_called_after_the_wall_that_they_lie_in() -> None:
    """Of a room away from the plan's origin; a rack in its middle is where the board comes from."""
    walls = shell(replace(box_room(6.0, 5.0), x=10.0, y=20.0))
    rack = (block("rack", 13.0, 22.5, 1.0, 0.4, 1.5),)
    laid = Setting(Start("rack"), walls, rack, ground(walls, rack)).laid_out(board(1.0))
    assert laid is not None
    bodies = laid[1]
    middles = {name: piece.mean(axis=0) for (_, name), piece in zip(bodies.names, bodies.pieces)}
    assert {name: pytest.approx(tuple(middle)) for name, middle in middles.items()} == {
        "A": (13.0, 20.0),
        "B": (16.0, 22.5),
        "C": (13.0, 25.0),
        "D": (10.0, 22.5),
    }
