"""Ways to the machines: sums that a pocket calculator does, and random rooms against a fine grid."""

from dataclasses import replace
from math import sqrt
from random import Random

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import ndimage

from purvel.catalogue import make_thing
from purvel.libraries import Array
from purvel.shop import Opening, Room, Thing
from purvel.space.aisles import SQUEEZE, Aisle, aisles, entries, goals, way_in
from purvel.space.clearances import barriers, polygon
from purvel.space.cut_off import _grown
from purvel.space.ground import boxes, distances
from purvel.space.shell import shell
from purvel.space.triangles import sampled
from tests.conftest import block, box_room
from tests.crowd import crowded_shop

DOOR = Opening(id="door", kind="swing", wall="D", offset=2.0, width=1.0, head=2.0, entry=True, swing="out")
ROOM = box_room(6, 5, openings=(DOOR,))  # the door's middle is at (0, 2.5)
MACHINE = make_thing("drill-press", "drill", 5.0, 3.5)  # somebody stands at (5, 2.75)


def ways(things: tuple[Thing, ...], room: Room = ROOM) -> list[Aisle]:
    return aisles(barriers(things, room.fixtures), goals(things), way_in(shell(room), entries(room.openings)))


def is_right(found: float, true: float) -> bool:
    """Never wide of the truth and at most 2 cm less."""
    return true - 0.02 <= found <= true + 1e-4


@pytest.mark.parametrize("gap", [0.11, 0.13, 0.2, 0.3, 0.5, 0.613, 0.741, 0.9])
@pytest.mark.parametrize("shift", [0.0, 0.011, 0.37])
def test_a_way_is_as_wide_as_its_narrowest_place(gap: float, shift: float) -> None:
    y = 2.0 + shift
    fence = (block("f1", 3.0, y / 2, 0.4, y, 2.0), block("f2", 3.0, (y + gap + 5) / 2, 0.4, 5 - y - gap, 2.0))
    kept, (one,) = way_in(shell(ROOM), entries(ROOM.openings)), ways((MACHINE, *fence))
    with_dragged = list[Aisle]()
    by_itself = [(replace(fence[0], x=x), fence[1]) for x in (2.98, 2.99, 3.0)]  # then the rest is known
    by_another = [(*fence, block("box", x, 4.7, 0.2, 0.2, 1.0)) for x in (5.7, 5.71, 5.72)]
    for things in (*by_itself, *by_another):
        with_dragged += aisles(barriers((MACHINE, *things), ()), goals((MACHINE,)), kept)
    for found in (one, *with_dragged):
        assert is_right(found.width, gap) and is_right(found.width, min(gap, found.most))
        assert found.narrowest is not None and abs(found.narrowest[0] - 3.0) < 0.25
        assert abs(found.narrowest[1] - y - gap / 2) < 0.02


def test_the_door_and_the_room_bound_it_too() -> None:
    (free,) = ways((MACHINE,))
    assert is_right(free.width, 1.0) and free.narrowest == pytest.approx((0.0, 2.5), abs=0.01)
    wide = replace(DOOR, offset=0.5, width=3.9)
    (hall,) = ways((MACHINE,), box_room(6, 5, openings=(wide,)))
    assert hall.width == 3.0 and hall.error == 0.0  # wider than anybody asks
    hung = replace(MACHINE, y=1.95, z=2.1)  # hangs, so that only the room counts
    (low,) = ways((hung,), box_room(6, 2.4, openings=(replace(DOOR, offset=0.0, width=2.4),)))
    assert is_right(low.width, 2.4)


def test_thinner_than_ten_centimetres_is_none() -> None:
    for gap, is_one in ((0.09, False), (0.099, False), (0.103, True)):
        fence = (block("f1", 3.0, 1.0, 0.4, 2.0, 2.0), block("f2", 3.0, (7 + gap) / 2, 0.4, 3 - gap, 2.0))
        (one,) = ways((MACHINE, *fence))
        assert (one.width > 0) is is_one, gap
        assert (one.narrowest is not None) is is_one


def test_through_a_skew_gap_and_round_a_corner() -> None:
    """A block turned by 45 deg: its corner comes to 0.8 m from the wall, its side is farther."""
    half = 0.5 * sqrt(2) * 1.0
    skew = block("skew", 3.0, 5 - 0.8 - half, 1.0, 1.0, 2.0, angle=45.0)
    below = block("below", 3.0, (5 - 0.8 - 2 * half) / 2, 1.0, 5 - 0.8 - 2 * half, 2.0)
    (one,) = ways((MACHINE, skew, below))
    assert is_right(one.width, 0.8)


def test_a_disc_that_only_reaches_through_a_gap_has_arrived() -> None:
    """The fence leaves 0.2 m, and one stands 1 mm behind its middle."""
    spot = (3.0 + 0.001, 2.5)
    machine = replace(MACHINE, x=spot[0], y=spot[1] + 0.75)
    assert machine.stand is not None and machine.spot(machine.stand.x, machine.stand.y) == pytest.approx(spot)
    fence = (block("f1", 3.0, 1.2, 0.002, 2.4, 2.0), block("f2", 3.0, 3.8, 0.002, 2.4, 2.0))
    beside = replace(machine, z=2.1)  # the machine itself hangs, so that only the fence counts
    (one,) = ways((beside, *fence))
    # A disc with its middle d before the fence reaches sqrt(0.1**2 + d**2) - d beyond it, more than 1 mm for
    # any d up to 5 m; so the door's 1 m counts.
    assert is_right(one.width, 1.0)


@pytest.mark.parametrize(("behind", "true"), [(0.05, 0.25), (0.02, 0.52), (0.09, 0.2022)])
def test_how_far_a_disc_reaches_through_a_gap(behind: float, true: float) -> None:
    """With its middle d before a gap of 0.2 m it reaches sqrt(0.01 + d**2) - d behind it; so to reach a
    place e behind, d is at most (0.01 - e**2) / 2 e, and the radius sqrt(0.01 + d**2): e = 0.05 m, d = 0.075,
    r = 0.125.
    """
    machine = replace(MACHINE, x=3.0 + behind, y=2.5 + 0.75, z=2.1)
    fence = (block("f1", 3.0, 1.2, 1e-5, 2.4, 2.0), block("f2", 3.0, 3.8, 1e-5, 2.4, 2.0))
    (one,) = ways((machine, *fence))
    assert is_right(one.width, true)


@pytest.mark.parametrize(("gap", "least"), [(0.0999, 0.0), (0.101, 0.081), (0.11, 0.09)])
def test_what_is_thinner_than_anybody_is_no_way(gap: float, least: float) -> None:
    """A fence of two parts across the room, with points 0.1 m apart on it and on the walls."""
    parts = (
        block("f1", 3.0, 1.2, 0.2, 2.4, 2.0),
        block("f2", 3.0, 2.4 + gap + 1.3 - gap / 2, 0.2, 2.6 - gap, 2.0),
    )
    (one,) = ways((MACHINE, *parts))
    assert least <= one.width <= (gap if least else 0.0)


def test_points_on_edges_are_no_farther_apart_than_the_step() -> None:
    edges = np.array([[(-1.0, -1.0), (1.0, 1.0)], [(0.0, 0.0), (0.05, 0.0)], [(2.0, 1.0), (2.0, -1.03)]])
    points = sampled(edges, 0.1)
    for start, end in edges:
        on = [p for p in points if shapely.LineString([start, end]).distance(shapely.Point(p)) < 1e-9]
        along = np.sort(np.hypot(*(np.array(on) - start).T))
        assert along[0] == 0.0 and along[-1] == pytest.approx(np.hypot(*(end - start)))
        assert np.diff(along).max() <= 0.1 + 1e-9
    assert len(points) == 30 + 2 + 22


def test_where_one_stands_is_taken_or_all_but_touches() -> None:
    spot = (5.0, 2.75)
    for gap, true in ((-0.01, 0.0), (0.0002, 1.0), (0.005, 1.0), (0.3, 1.0)):
        other = block("o", spot[0] + gap + 0.5, spot[1], 1.0, 0.2, 1.0)
        (one,) = ways((MACHINE, other))
        assert is_right(one.width, true), gap


def test_what_hangs_overhead_is_no_hindrance_nor_what_one_steps_over() -> None:
    for z, height, true in ((2.0, 0.3, 1.0), (1.99, 0.3, 0.0), (0.0, 0.02, 1.0), (0.0, 0.021, 0.0)):
        across = block("across", 3.0, 2.5, 0.4, 5.0, height, z=z)
        (one,) = ways((MACHINE, across))
        assert is_right(one.width, true), (z, height)


def test_without_a_way_in_there_is_no_aisle_and_of_two_the_better_counts() -> None:
    assert ways((MACHINE,), box_room(6, 5)) == []
    assert ways((replace(MACHINE, stand=None),)) == []
    other = Opening(
        id="back", kind="swing", wall="B", offset=1.0, width=0.7, head=2.0, entry=True, swing="out"
    )
    (one,) = ways((MACHINE,), replace(ROOM, openings=(DOOR, other)))
    assert is_right(one.width, 1.0)
    (two,) = ways((MACHINE, block("wall", 3.0, 2.5, 0.1, 5.0, 2.0)), replace(ROOM, openings=(DOOR, other)))
    assert is_right(two.width, 0.7)
    blocked = block("before", 0.3, 2.5, 0.6, 1.2, 1.0)  # stands in the door's middle
    (none,) = ways((MACHINE, blocked))
    assert none.width == 0.0


def test_a_disc_comes_no_nearer_to_a_jamb_than_the_door_lets_it() -> None:
    """A post stands 0.3 m inside the middle of a door of 1 m, its near corners 0.05 m to the sides: past it
    the disc has hypot(0.3, 0.45) = 0.5408 m between corner and jamb.
    """
    post = block("post", 0.35, 2.5, 0.1, 0.1, 2.0)
    (one,) = ways((MACHINE, post))
    assert is_right(one.width, 0.5408)
    (two,) = ways((MACHINE, replace(post, x=0.25)))  # 0.2 m inside: that is all that may start there
    assert is_right(two.width, 0.4) and two.narrowest == pytest.approx((0.0, 2.5), abs=0.06)


def test_a_room_that_is_all_doors_has_its_corners() -> None:
    doors = [
        replace(DOOR, id=f"d{wall}", wall=wall, offset=0.0, width=length)
        for wall, length in (("A", 3.0), ("B", 2.0), ("C", 3.0), ("D", 2.0))
    ]
    hung = replace(MACHINE, x=1.5, y=1.6, z=2.1)
    (one,) = ways((hung,), box_room(3, 2, openings=tuple(doors)))
    assert is_right(one.width, 3.0)  # in the middle of A or C, 1.5 m from both corners


def test_a_hall_takes_no_longer_to_measure_than_it_has_edges() -> None:
    machine = make_thing("table-saw", "saw", 100.0, 100.0)
    (far,) = ways((machine,), box_room(200, 200, openings=(DOOR,)))
    assert is_right(far.width, 1.0)


def test_what_alone_cuts_off_is_named() -> None:
    """A long bench across the room but for 0.2 m; behind it two machines. A second block stands aside."""
    behind = (MACHINE, make_thing("drill-press", "other", 4.2, 3.5))
    bench = block("long", 3.0, 2.4, 0.6, 4.8, 0.9)
    aside = block("aside", 1.0, 0.6, 0.5, 0.5, 1.0)
    found = {one.thing: one for one in ways((*behind, bench, aside))}
    assert {one.cut_off_by for one in found.values()} == {"long"} and all(
        0.1 < one.width <= 0.2 for one in found.values()
    )
    second = block("second", 2.0, 2.4, 0.6, 4.8, 0.9)
    assert {one.cut_off_by for one in ways((*behind, bench, second))} == {None}  # neither alone
    only = ways((MACHINE, bench, aside))
    assert [one.cut_off_by for one in only] == [None]  # one place is told by itself
    near = replace(MACHINE, y=2.75 + 0.3)  # stands at (5, 2.3)
    on_both = (block("on", 5.0, 2.3, 0.3, 0.3, 1.0), near, replace(near, id="twin", name="twin"))
    assert [one.cut_off_by for one in ways(on_both)] == ["on", "on"]  # what stands where one would


def test_what_stands_in_the_way_in_is_named() -> None:
    """A block on the middle of the door, where the disc would begin, before two machines."""
    in_the_door = block("in", 0.2, 2.5, 0.6, 0.9, 1.0)
    behind = (MACHINE, make_thing("drill-press", "other", 4.2, 3.5))
    assert {one.cut_off_by for one in ways((*behind, in_the_door))} == {"in"}
    assert {one.cut_off_by for one in ways(behind)} == {None}


def rough(
    things: tuple[Thing, ...], room: Room, goal: tuple[float, float], cell: float
) -> tuple[float, float]:
    """Bounds of the true width from a grid: between neighbours, and to the nearest point of the grid, the
    clearance changes by no more than half the diagonal of a cell.
    """
    floor, (door,) = shell(room).floor, room.openings
    side = shell(room).sides[door.wall]
    gap = shapely.LineString([side.at(door.offset), side.at(door.offset + door.width)])
    edge = floor.exterior.difference(gap.buffer(1e-6))
    x0, y0, x1, y1 = floor.bounds
    gx, gy = np.meshgrid(np.arange(x0, x1 + cell / 2, cell), np.arange(y0, y1 + cell / 2, cell))
    flat = np.stack([gx.ravel(), gy.ravel()], axis=1)
    shapely.prepare(edge)
    room_about: Array = np.minimum(
        shapely.distance(shapely.points(flat), edge),
        distances(flat[:, :1], flat[:, 1:], boxes(things)).min(axis=1),
    ).reshape(gx.shape)
    mx, my = side.at(door.offset + door.width / 2)
    middle = shapely.Point(mx, my)
    at_start = min(edge.distance(middle), *(polygon(one).distance(middle) for one in things))
    off = cell / sqrt(2)
    near_start = np.hypot(gx - mx, gy - my) <= off + 1e-9

    def arrives(radius: float, slack: float) -> bool:
        labels, _ = ndimage.label(room_about >= radius - slack, structure=np.ones((3, 3)))
        begun = labels[near_start]
        rolled = np.isin(labels, begun[begun > 0])
        return bool((rolled & (np.hypot(gx - goal[0], gy - goal[1]) <= radius + slack)).any())

    bounds = []
    for slack in (-off, off):
        low, high = 0.0, at_start
        for _ in range(12):
            radius = (low + high) / 2
            low, high = (radius, high) if arrives(radius, slack) else (low, radius)
        bounds.append(2 * (low if slack < 0 else high))
    return bounds[0], bounds[1]


@pytest.mark.parametrize("seed", range(8))
def test_random_rooms_against_a_grid(seed: int) -> None:
    rng = Random(seed)
    width, depth = rng.uniform(2.6, 4.0), rng.uniform(2.6, 3.6)
    door = replace(DOOR, wall=rng.choice("ABCD"), offset=rng.uniform(0.1, 0.8), width=rng.uniform(0.7, 1.5))
    room = box_room(width, depth, openings=(door,))
    kinds = ("planer", "cabinet", "drill-press", "bandsaw")
    things = tuple(
        replace(
            make_thing(
                rng.choice(kinds), f"t{k}", rng.uniform(0.2, width - 0.2), rng.uniform(0.2, depth - 0.2)
            ),
            angle=rng.choice([0.0, 90.0, rng.uniform(0, 360)]),
        )
        for k in range(rng.randint(2, 6))
    )
    for one in ways(things, room):
        thing = next(other for other in things if other.id == one.thing)
        assert thing.stand is not None
        spot = thing.spot(thing.stand.x, thing.stand.y)
        if any(polygon(other).buffer(0.01).contains(shapely.Point(spot)) for other in things):
            continue  # a grid cannot tell whether it is covered
        least, most = rough(things, room, spot, 0.01)
        assert one.width <= most + 1e-6, (one, least, most)
        assert one.width >= min(least, 3.0) - 0.02 or least < 0.12, (one, least, most)
        if one.narrowest is not None and one.width > 0.2:
            x, y = one.narrowest
            room_there = min(polygon(other).distance(shapely.Point(x, y)) for other in things)
            assert room_there >= one.width / 2 - 1e-6


@settings(max_examples=12, deadline=None)
@given(
    st.lists(
        st.tuples(
            st.sampled_from(["drill", "near", "thin", "large"]),
            st.floats(0.1, 5.9),
            st.floats(0.1, 4.9),
            st.sampled_from([0.0, 30.0]),
        ),
        min_size=3,
        max_size=9,
    )
)
def test_ways_are_the_same_however_things_came_to_stand(moves: list[tuple[str, float, float, float]]) -> None:
    """Also where one thing stands in another, in a wall, or in the door."""
    things = {
        "drill": MACHINE,
        "near": replace(MACHINE, id="near", x=2.0),
        "thin": block("thin", 3.0, 2.0, 1.5, 0.03, 1.0),
        "large": block("large", 3.0, 4.0, 1.6, 1.2, 1.0),
    }
    kept = way_in(shell(ROOM), entries(ROOM.openings))
    for name, x, y, angle in moves:
        for on_the_way in (x - 0.02, x - 0.01, x):  # dragged: from the second on the rest is known
            things[name] = replace(things[name], x=on_the_way, y=y, angle=angle)
            now = tuple(things.values())
            dragged = aisles(barriers(now, ROOM.fixtures), goals(now), kept)
        for one, fresh in zip(dragged, ways(now)):
            # where points are taken closer may differ; the true width is within what either says
            assert one.thing == fresh.thing
            if max(one.width, fresh.width) > 0.12:  # what is thinner one may call none
                assert abs(one.width - fresh.width) <= 0.0202
                assert one.width <= fresh.most + 1e-4 and fresh.width <= one.most + 1e-4


def test_nothing_that_is_put_down_widens_a_way() -> None:
    shop = crowded_shop()
    before = {one.thing: one.width for one in ways(shop.things, shop.room)}
    more = (*shop.things, block("more", 1.6, 1.2, 0.5, 0.5, 1.0))
    for one in ways(more, shop.room):
        if one.thing in before:
            assert one.width <= before[one.thing] + 0.02
    assert min(before.values()) == 0.0 and max(before.values()) < SQUEEZE


def test_points_of_a_grid_are_grown_by_the_eight_around_each() -> None:
    points = np.random.default_rng(3).random((17, 23)) < 0.1
    assert (_grown(points) == ndimage.binary_dilation(points, np.ones((3, 3)))).all()
