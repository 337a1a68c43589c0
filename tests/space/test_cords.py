"""Cords: along the walls, out of people's way."""

from dataclasses import replace

import pytest

from purvel.libraries import np, shapely
from purvel.shop import Fixture, Opening, Room, Thing
from purvel.shop.power import Circuit, Outlet
from purvel.space.clearances import barriers
from purvel.space.cords import (
    LEAVES,
    SLACK,
    Cord,
    along_walls,
    conductors_run,
    cords,
    crossed,
    legs,
    lengths_inside,
    outlet_spot,
)
from purvel.space.prepared import Prepared
from purvel.space.routes import free_floor
from purvel.space.shell import Shell, shell
from tests.conftest import block, box_room


def cord(thing: Thing, outlet: Outlet, room: Room | None = None) -> Cord:
    return all_cords(thing, outlet, shell(room or box_room()))[outlet.id]


def all_cords(thing: Thing, outlet: Outlet, walls: Shell) -> dict[str, Cord]:
    ways = legs(thing, walls)
    (across,) = crossed([ways], free_floor(walls, barriers((thing,), ())))
    return cords(thing, [outlet], walls, ways, across)


def test_along_one_wall() -> None:
    """From the middle of a machine against wall A at x = 2.5 to an outlet at x = 5, 1.1 m high."""
    got = cord(block("m", 2.5, 0.3, 1.0, 0.6, 1.0), Outlet(id="o", wall="A", offset=5.0, height=1.1))
    assert got.length == pytest.approx(2.5 + (1.1 - LEAVES) + SLACK)
    assert not got.is_in_the_way and got.across == 0.0


def test_round_a_corner() -> None:
    got = cord(block("m", 5.7, 1.0, 0.6, 1.0, 1.0), Outlet(id="o", wall="C", offset=1.0, height=LEAVES))
    assert got.points[-1] == pytest.approx((5.0, 5.0)) and not got.is_in_the_way
    assert got.length == pytest.approx(got_along(got) + SLACK)


def got_along(got: Cord) -> float:
    from itertools import pairwise
    from math import hypot

    return sum(hypot(b[0] - a[0], b[1] - a[1]) for a, b in pairwise(got.points))


def test_across_the_floor_is_in_the_way() -> None:
    got = cord(block("m", 3.0, 2.5, 1.0, 0.8, 1.0), Outlet(id="o", wall="A", offset=3.0))
    assert got.is_in_the_way and 1.5 < got.across < 2.2


def test_before_a_door_it_goes_the_other_way_round() -> None:
    door = Opening(id="door", kind="swing", wall="A", offset=2.0, width=0.9, head=2.0)
    thing, outlet = block("m", 1.0, 0.3, 1.0, 0.6, 1.0), Outlet(id="o", wall="A", offset=4.0)
    short = cord(thing, outlet)
    long = cord(thing, outlet, box_room(openings=(door,)))
    assert not short.doors and not long.doors
    assert long.length > short.length + 10.0  # once round the room
    other = replace(door, id="other", wall="C", offset=2.0)
    shut_in = cord(thing, outlet, box_room(openings=(door, other)))
    assert shut_in.doors == ("door",) and shut_in.is_in_the_way
    assert shut_in.length == pytest.approx(short.length)


def test_a_window_is_no_door() -> None:
    window = Opening(id="w", kind="window", wall="A", offset=2.0, width=0.9, head=2.0, sill=1.0)
    thing, outlet = block("m", 1.0, 0.3, 1.0, 0.6, 1.0), Outlet(id="o", wall="A", offset=4.0)
    assert cord(thing, outlet, box_room(openings=(window,))).length == pytest.approx(
        cord(thing, outlet).length
    )


def test_overhead_nothing_lies_on_the_floor() -> None:
    """2 m high over a point 3 m and 4 m aside: 5 m and 1.7 m down."""
    got = cord(block("m", 1.0, 0.5, 1.0, 0.8, 1.0), Outlet(id="o", x=4.0, y=4.5, height=2.0))
    assert got.length == pytest.approx(5.0 + 2.0 - LEAVES + SLACK) and not got.is_in_the_way


def test_an_outlet_in_a_wall_that_is_gone_has_no_cord() -> None:
    walls = shell(box_room())
    thing = block("m", 1.0, 0.3, 1.0, 0.6, 1.0)
    assert all_cords(thing, Outlet(id="o", wall="Z"), walls) == {}


def test_the_shorter_way_round_the_room() -> None:
    walls = shell(box_room(6.0, 5.0))
    assert along_walls((1.0, 0.1), "A", 4.0, walls) == pytest.approx(3.0)
    assert along_walls((0.1, 1.0), "A", 1.0, walls) == pytest.approx(2.0)  # round the corner
    assert along_walls((1.0, 0.1), "C", 5.0, walls) == pytest.approx(1.0 + 5.0 + 1.0)


def test_what_of_a_line_lies_in_an_area() -> None:
    """A ring of floor from 0 to 4 with a hole from 1 to 3: held against the overlay of the library."""
    area = shapely.box(0, 0, 4, 4).difference(shapely.box(1, 1, 3, 3))
    lines = np.array(
        [[(-1, 2), (5, 2)], [(-1, 5), (5, 5)], [(0.2, 0.2), (0.2, 3.7)], [(2, 2), (2, 2)]], float
    )
    by_hand = [2.0, 0.0, 3.5, 0.0]  # both sides of the hole; beside; all of it; a point
    assert lengths_inside(lines, Prepared(area)) == pytest.approx(by_hand)
    some = np.random.default_rng(4).uniform(-1, 5, (60, 2, 2))
    wanted = [shapely.LineString(line).intersection(area).length for line in some]
    assert lengths_inside(some, Prepared(area)) == pytest.approx(wanted) and max(wanted) > 2


def test_where_an_outlet_is() -> None:
    walls = shell(box_room(6.0, 5.0))
    assert outlet_spot(Outlet(id="o", wall="B", offset=2.0), walls) == pytest.approx((6.0, 2.0))
    assert outlet_spot(Outlet(id="o", wall="A", offset=9.0), walls) == pytest.approx((6.0, 0.0))
    assert outlet_spot(Outlet(id="o", x=2.0, y=3.0), walls) == (2.0, 3.0)
    assert outlet_spot(Outlet(id="o", wall="Z"), walls) is None


def test_conductors_run_up_along_and_down() -> None:
    """From a panel at (0.1, 1) with its top at 1.9 under a ceiling of 2.5: 0.6 up; to an outlet in wall A at
    4 m, 0.4 high: 1 m and 4 m along the walls and 2.1 down; to one in wall C at 1 m from D: 4 + 1 and 2.1 m.
    """
    walls, panel = (
        shell(box_room(6.0, 5.0)),
        Fixture(id="p", kind="panel", x=0.1, y=1.0, width=0.4, depth=0.1),
    )
    panel = replace(panel, bottom=1.2, top=1.9)
    on_a = Outlet(id="a", wall="A", offset=4.0, height=0.4, circuit="one")
    on_c = Outlet(id="c", wall="C", offset=5.0, height=0.4, circuit="one")
    one = Circuit(id="one")
    assert conductors_run(one, (on_a,), panel, 2.5, walls) == pytest.approx(0.6 + 5.0 + 2.1)
    assert conductors_run(one, (on_c,), panel, 2.5, walls) == pytest.approx(0.6 + 5.0 + 2.1)
    far = replace(on_a, offset=4.5)
    assert conductors_run(one, (on_a, far, on_c), panel, 2.5, walls) == pytest.approx(0.6 + 5.5 + 2.1)
    above = replace(on_a, height=3.0)  # over the ceiling: nothing goes down
    assert conductors_run(one, (above,), panel, 2.5, walls) == pytest.approx(0.6 + 5.0)
    assert (
        conductors_run(one, (replace(on_a, circuit="two"), replace(on_a, wall="Z")), panel, 2.5, walls) == 0.0
    )
