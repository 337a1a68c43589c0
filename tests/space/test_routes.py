"""Ways over the free floor: lengths that can be worked out on paper, and what must hold for any way."""

from math import acos, hypot, pi, sqrt

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from purvel.libraries import shapely
from purvel.shop import Ceiling, Slope, Thing
from purvel.space import routes
from purvel.space.clearances import barriers
from purvel.space.routes import BODY, FreeFloor, standing_spot, walks
from purvel.space.shell import Shell, shell
from tests.conftest import block, box_room, saw


def free_floor(walls: Shell, things: tuple[Thing, ...]) -> FreeFloor:
    return routes.free_floor(walls, barriers(things, ()))


def length(floor: FreeFloor, a: tuple[float, float], b: tuple[float, float]) -> float:
    return walks(floor, {"a": a, "b": b})["a", "b"].length


def test_in_an_empty_room_the_way_is_straight() -> None:
    floor = free_floor(shell(box_room()), ())
    assert length(floor, (1.0, 1.0), (5.0, 4.0)) == pytest.approx(5.0)


def test_round_a_thin_wall_the_way_is_a_taut_string_round_a_half_circle() -> None:
    """A partition from y = 0 to 3 at x = 3, hardly thick; from (1, 1) to (5, 1) round its end.

    Two tangents and an arc of 0.25 m: the end is hypot(2, 2) away, and of the 270 degrees round it, each
    tangent takes
    acos(r / far).
    """
    floor = free_floor(shell(box_room()), (block("w", 3.0, 1.5, 0.0002, 3.0, 2.4),))
    r, far = BODY / 2, hypot(2.0, 2.0)
    tangent = sqrt(far**2 - r**2)
    arc = 1.5 * pi - 2 * acos(r / far)
    by_hand = 2 * tangent + r * arc
    assert length(floor, (1.0, 1.0), (5.0, 1.0)) == pytest.approx(by_hand, rel=0.01)


def test_round_the_corner_of_an_l_the_way_bends_once() -> None:
    """A block fills the upper right quarter; the corner is at (3, 2), its quarter circle 0.25 m off it."""
    floor = free_floor(shell(box_room(6.0, 4.0)), (block("b", 4.5, 3.0, 3.0, 2.0, 2.4),))
    found = walks(floor, {"a": (1.0, 3.5), "b": (5.5, 0.5)})["a", "b"]
    through_corner = hypot(2.0, 1.5) + hypot(2.5, 1.5)  # of a walker without width, a little shorter
    assert through_corner < found.length < through_corner + 0.25 * pi / 2
    assert found.points[0] == (1.0, 3.5) and found.points[-1] == (5.5, 0.5) and len(found.points) > 2


def test_a_gap_narrower_than_a_person_is_none() -> None:
    left, right = block("l", 1.3, 2.5, 2.6, 0.4, 1.0), block("r", 4.6, 2.5, 2.8, 0.4, 1.0)  # 0.6 m between
    floor = free_floor(shell(box_room()), (left, right))
    assert ("a", "b") in walks(floor, {"a": (3.0, 1.0), "b": (3.0, 4.0)})
    right = block("r", 4.5, 2.5, 3.0, 0.4, 1.0)  # 0.4 m
    floor = free_floor(shell(box_room()), (left, right))
    assert walks(floor, {"a": (3.0, 1.0), "b": (3.0, 4.0)}) == {}


def test_what_is_overhead_or_trodden_on_is_walked_under_and_over() -> None:
    bare = free_floor(shell(box_room()), ())
    for high in (block("x", 3.0, 2.5, 4.0, 0.5, 0.3, z=2.0), block("x", 3.0, 2.5, 4.0, 0.5, 0.01)):
        assert free_floor(shell(box_room()), (high,)).area.equals(bare.area)
    low = block("x", 3.0, 2.5, 4.0, 0.5, 0.3, z=1.9)
    assert free_floor(shell(box_room()), (low,)).area.area < bare.area.area - 2.0


def test_nobody_walks_under_a_slope_lower_than_a_head() -> None:
    """From 1 m at wall A to 3 m at 4 m from it, the ceiling is 2.0 m high at 2 m."""
    room = box_room(ceiling=Ceiling(height=3.0, slopes=(Slope(wall="A", low=1.0, run=4.0),)))
    floor = free_floor(shell(room), ())
    assert floor.nearest({"a": (3.0, 2.2)}).get("a") != (3.0, 2.2)
    assert floor.nearest({"a": (3.0, 2.3)}) == {"a": (3.0, 2.3)}


def test_a_taken_place_is_walked_up_to() -> None:
    floor = free_floor(shell(box_room()), (block("b", 3.0, 2.5, 1.0, 1.0, 1.0),))
    spot = floor.nearest({"a": (3.0, 1.9)})["a"]  # 0.1 m off the block
    assert spot == pytest.approx((3.0, 1.75))
    assert floor.nearest({"a": (3.0, 2.5)}) == {}  # farther than a step


def test_one_stands_in_front_of_what_has_no_standing_room() -> None:
    assert standing_spot(block("b", 3.0, 2.5, 1.0, 1.0, 1.0)) == pytest.approx((3.0, 2.5 - 0.5 - BODY / 2))
    thing = saw(3.0, 2.5)
    assert thing.stand is not None
    assert standing_spot(thing) == thing.spot(thing.stand.x, thing.stand.y)


@settings(max_examples=40, deadline=None)
@given(
    st.lists(
        st.tuples(st.floats(0.5, 5.5), st.floats(0.5, 4.5), st.floats(0.2, 1.5), st.floats(0.2, 1.5)),
        max_size=6,
    )
)
def test_ways_are_free_symmetric_and_obey_the_triangle(
    boxes: list[tuple[float, float, float, float]],
) -> None:
    things = tuple(block(f"b{k}", x, y, w, d, 1.0) for k, (x, y, w, d) in enumerate(boxes))
    floor = free_floor(shell(box_room()), things)
    stops = {"a": (0.4, 0.4), "b": (5.6, 4.6), "c": (0.4, 4.6)}
    found = walks(floor, stops)
    for (a, b), way in found.items():
        assert found[b, a].length == pytest.approx(way.length)
        assert (
            way.length
            >= hypot(way.points[-1][0] - way.points[0][0], way.points[-1][1] - way.points[0][1]) - 1e-9
        )
        assert shapely.buffer(floor.area, 1e-4).covers(shapely.LineString(way.points))
        assert shapely.LineString(way.points).length == pytest.approx(way.length)
    if len(found) == 6:
        assert found["a", "b"].length <= found["a", "c"].length + found["c", "b"].length + 1e-9


def test_ways_agree_with_a_fine_grid() -> None:
    """Against Dijkstra over 2 cm cells with 16 directions, which is at most 2.8 % too long."""
    import numpy as np
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import dijkstra

    things = (block("a", 2.0, 2.0, 1.2, 0.6, 1.0), block("b", 3.6, 3.2, 0.5, 1.9, 1.0, angle=30.0))
    floor = free_floor(shell(box_room()), things)
    cell = 0.04
    gx, gy = np.meshgrid(np.arange(0.26, 5.75, cell), np.arange(0.26, 4.75, cell), indexing="ij")
    free = np.asarray(shapely.covers(floor.area, shapely.points(gx, gy)))
    number = np.arange(gx.size).reshape(gx.shape)
    rows, columns, costs = [], [], []
    for dx, dy in ((1, 0), (0, 1), (1, 1), (1, -1), (2, 1), (1, 2), (2, -1), (1, -2)):
        i0, i1 = max(0, -dx), gx.shape[0] - max(0, dx)
        j0, j1 = max(0, -dy), gx.shape[1] - max(0, dy)
        a, b = np.s_[i0:i1, j0:j1], np.s_[i0 + dx : i1 + dx, j0 + dy : j1 + dy]
        both = free[a] & free[b]
        rows.append(number[a][both])
        columns.append(number[b][both])
        costs.append(np.full(both.sum(), cell * hypot(dx, dy)))
    graph = coo_array(
        (np.concatenate(costs), (np.concatenate(rows), np.concatenate(columns))), shape=(gx.size,) * 2
    )
    start, end = (0, 0), (gx.shape[0] - 1, gx.shape[1] - 1)
    by_grid = dijkstra(graph.tocsr(), directed=False, indices=int(number[start]))[number[end]]
    exact = length(floor, (gx[start], gy[start]), (gx[end], gy[end]))
    assert exact <= by_grid + 1e-6
    assert exact == pytest.approx(by_grid, rel=0.03)
