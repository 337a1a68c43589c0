from dataclasses import replace

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from purvel.catalogue import make_thing
from purvel.shop import Ceiling, Fixture, Opening, Slope
from purvel.space import clearances, placing, standing_room
from purvel.space.ground import footprint
from purvel.space.shell import shell
from tests.conftest import block, box_room


def test_bodies_overlap_only_at_the_same_height() -> None:
    a, b = block("a", 1.0, 1.0, 1.0, 1.0, 0.8), block("b", 1.9, 1.0, 1.0, 1.0, 0.8)
    (clash,) = clearances.overlaps((a, b), ())
    assert (clash.first, clash.second) == ("a", "b")
    assert (clash.area, clash.depth) == pytest.approx((0.1, 0.1))
    assert clearances.overlaps((a, replace(b, x=2.0)), ()) == []  # touching
    assert clearances.overlaps((a, replace(b, z=0.8)), ()) == []  # on top


@settings(max_examples=50, deadline=None)
@given(st.floats(-0.9, 0.9), st.floats(-0.9, 0.9), st.floats(0, 180))
def test_the_depth_is_the_shortest_shift_that_takes_two_bodies_apart(
    x: float, y: float, angle: float
) -> None:
    """Against shifts in 720 directions, tried one by one with polygons."""
    one, other = block("a", x, y, 1.0, 0.6, 1.0, angle=angle), block("b", 0, 0, 1.0, 1.0, 1.0)
    a, b = clearances.polygon(one), clearances.polygon(other)
    (depth,) = clearances.depths(footprint(one)[None], footprint(other)[None])
    assert (depth > 1e-9) == (a.intersection(b).area > 1e-12)
    ways = np.radians(np.arange(0, 360, 0.5))

    def apart(far: float) -> bool:
        moved = [shapely.affinity.translate(a, far * np.cos(way), far * np.sin(way)) for way in ways]
        return bool((shapely.area(shapely.intersection(moved, b)) < 1e-9).any())

    if depth > 1e-3:
        assert apart(1.001 * depth + 1e-6) and not apart(0.97 * depth)


def test_the_depth_in_a_door_swing_is_that_of_the_sector() -> None:
    """A body 0.1 m into the quarter circle of a 0.8 m door, straight ahead of its hinge."""
    door = Opening(id="d", kind="swing", wall="A", offset=2.0, width=0.8, head=2.0)
    sector = clearances.swing(door, shell(box_room(6, 5)).sides["A"])
    (clash,) = clearances.space_clashes(sector, "d", 0.0, 2.0, (block("b", 2.0, 1.2, 0.4, 1.0, 1.0),))
    assert clash.depth == pytest.approx(0.1, abs=0.002)


def test_outside_and_too_tall() -> None:
    room = box_room(6, 5, ceiling=Ceiling(height=2.4, slopes=(Slope(wall="A", low=1.2, run=2.4),)))
    assert [
        clash.first
        for clash in clearances.outside(
            (block("in", 3, 3, 1, 1, 1), block("out", 5.8, 3, 1, 1, 1)), shell(room)
        )
    ] == ["out"]
    out, far = clearances.outside((block("out", 5.8, 3, 1, 1, 1), block("far", 9, 9, 1, 2, 1)), shell(room))
    assert out.area == pytest.approx(0.3) and (far.first, far.area) == ("far", pytest.approx(2.0))
    assert clearances.outside((block("at", 5.5, 4.5, 1, 1, 1),), shell(room)) == []  # in the corner
    tall = block("tall", 3.0, 3.0, 1, 1, 2.5)
    # its near edge is 0.3 m in: 1.2 + 1.2 x 0.3/2.4 = 1.35 m high there
    under = block("under", 3.0, 0.8, 1, 1, 1.5)
    assert clearances.low_ceiling((tall, under), shell(room)) == [
        ("tall", 2.4),
        ("under", pytest.approx(1.35)),
    ]


def test_a_pose_is_off_a_floor_when_they_touch_at_most() -> None:
    thing, floor = block("b", 0.0, 0.0, 1.0, 0.4, 1.0), shapely.box(2.0, 0.0, 3.0, 5.0)
    poses = [(1.5, 2.0, 0.0), (1.51, 2.0, 0.0), (1.79, 2.0, 90.0), (1.81, 2.0, 90.0), (3.6, 9.0, 0.0)]
    assert clearances.off_floor(poses, thing, floor).tolist() == [True, False, True, False, True]
    assert clearances.off_floor([], thing, floor).tolist() == []


def test_a_swing_door_sweeps_a_quarter_circle() -> None:
    door = Opening(id="d", kind="swing", wall="A", offset=1.0, width=0.9, head=2.0)
    room = box_room(6, 5, openings=(door,))
    area = clearances.swing(door, shell(room).sides["A"])
    assert area.area == pytest.approx(3.14159 / 4 * 0.81, rel=0.01)
    assert area.within(shapely.box(0.99, -0.01, 1.91, 0.91))
    assert clearances.swing(replace(door, swing="out"), shell(room).sides["A"]).is_empty
    (clash,) = clearances.space_clashes(area, "d", 0, 2.0, (block("x", 1.5, 0.4, 0.4, 0.4, 1.0),))
    assert clash.area == pytest.approx(0.16, abs=0.01)


def test_the_panel_keeps_its_working_space() -> None:
    panel = Fixture(
        id="p", kind="panel", x=0.06, y=2.5, angle=-90, width=0.4, depth=0.12, bottom=1.2, top=1.9
    )
    space = clearances.panel_space(panel, shell(box_room(6, 5)))
    x0, y0, x1, y1 = space.bounds
    assert (x0, x1) == pytest.approx((0.12, 0.12 + 0.914))
    assert y1 - y0 == pytest.approx(0.762)


def test_a_roll_up_door_sweeps_under_the_ceiling() -> None:
    door = Opening(id="d", kind="roll-up", wall="A", offset=1.0, width=2.4, head=2.1, headroom=0.3)
    shadow, low, high = clearances.overhead_sweep(door, shell(box_room(6, 5)).sides["A"])
    assert shadow.bounds == pytest.approx((1.0, 0.0, 3.4, 2.1))
    assert (low, high) == pytest.approx((2.1, 2.4))


def test_standing_room_is_taken_by_bodies_and_walls() -> None:
    bench = make_thing("workbench", "bench", 3.0, 0.5)  # stands with its worker's side to wall A
    room = box_room(6, 5)
    (taken,) = standing_room.standing_room((bench,), shell(room))
    assert taken.by == standing_room.WALL and taken.area > 1.0
    assert standing_room.standing_room((replace(bench, angle=180.0),), shell(room)) == []


def test_distances_to_two_walls() -> None:
    rows = clearances.wall_distances(block("a", 1.0, 2.0, 1.0, 1.0, 1.0), shell(box_room(6, 5)))
    assert [(wall, pytest.approx(distance)) for wall, distance, _, _ in rows] == [("D", 0.5), ("A", 1.5)]


def test_a_new_opening_goes_beside_the_ones_that_are_there() -> None:
    room = box_room(6, 5)
    wall = room.walls[0]
    new = Opening(id="new", kind="window", wall="A", offset=0.3, width=1.0, head=2.0, sill=1.0)
    assert placing.free_offset(room, wall, new) == 0.3
    one = Opening(id="one", kind="roll-up", wall="A", offset=0.3, width=2.4, head=2.1)
    assert placing.free_offset(replace(room, openings=(one,)), wall, new) == pytest.approx(2.8016)
    assert (
        placing.free_offset(replace(room, openings=(replace(one, offset=0.1, width=5.8),)), wall, new) == 0.0
    )


def test_a_free_spot_touches_nothing() -> None:
    room = box_room(6, 5)
    standing = block("big", 3.0, 2.5, 3.0, 2.0, 1.0)
    thing = make_thing("planer", "planer")
    spot = placing.free_spot(thing, (standing,), shell(room))
    assert spot is not None
    x, y = spot
    shape = clearances.polygon(replace(thing, x=x, y=y))
    assert (
        not shape.intersects(clearances.polygon(standing))
        and clearances.outside((replace(thing, x=x, y=y),), shell(room)) == []
    )
    full = block("full", 3.0, 2.5, 6.0, 5.0, 1.0)
    assert placing.free_spot(thing, (full,), shell(room)) is None
    x, y = placing.beside(thing, shell(room))
    assert not clearances.polygon(replace(thing, x=x, y=y)).intersects(shell(room).floor)
    tight = block("tight", 3.0, 2.9, 6.0, 4.2, 1.0)  # 0.8 m are left along wall A: the planer, not its worker
    spot = placing.free_spot(thing, (tight,), shell(room))
    assert spot is not None and spot[1] < 0.6
