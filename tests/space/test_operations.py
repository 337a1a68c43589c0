"""Operations with a space of their own: boards on edge and across the feed, what lies behind what stops them,
and where work is thrown.
"""

from dataclasses import replace

import pytest

from purvel.catalogue import make_thing, other_ways
from purvel.shop import Opening, Room, Stock, Thing, Wall
from purvel.space.around import Around, around
from purvel.space.clearances import barriers
from purvel.space.ground import ground
from purvel.space.lanes import Lane, lanes, other_lanes, shared_floor
from purvel.space.shell import shell
from purvel.space.thrown import REACH, Thrown, thrown
from tests.conftest import block, box_room, saw

BOARD = Stock(length=1.5, width=0.2, thickness=0.02)
WORKER = make_thing("workbench", "bench", 3.0, 0.6, 180.0)  # whoever works there stands at y = 1.4 or so


def all_lanes(room: Room, *things: Thing) -> dict[str, Lane]:
    return lanes(things, BOARD, 0.5, ground(shell(room), things), shell(room))


def others(room: Room, *things: Thing) -> dict[tuple[str, str], Lane]:
    found = other_lanes(things, other_ways(), BOARD, 0.5, ground(shell(room), things), shell(room))
    return {(one.thing, one.operation): one for one in found}


def lines(room: Room, *things: Thing, turning: tuple[Thing, ...] = ()) -> dict[str, Thrown]:
    return {one.thing: one for one in thrown(all_lanes(room, *things), turning, things, shell(room))}


def test_a_board_on_its_edge_is_a_thin_strip_as_high_as_it_is_wide() -> None:
    """A shelf 0.15 m above the jointer's table stops the board on its edge, not the board that lies flat; a
    post 0.05 m beside the line stops only that.
    """
    jointer = replace(make_thing("jointer", "jointer", 3.0, 2.5, 0.0), feed=saw(0, 0).feed)
    table = jointer.work_height or 0.0
    shelf = block("shelf", 3.0, 4.5, 1.0, 0.5, 0.3, z=table + 0.15)
    room = box_room(6, 6)
    edge = others(room, jointer, shelf)["jointer", "edge"]
    assert (edge.width, edge.low, edge.high) == pytest.approx((0.02, table, table + 0.2))
    assert edge.out.stopped_by == ("thing", "shelf") and edge.out.length == pytest.approx(1.75)
    assert all_lanes(room, jointer, shelf)["jointer"].out.length == pytest.approx(3.5)
    post = block("post", 3.1, 4.5, 0.1, 0.1, 2.0)
    assert others(room, jointer, post)["jointer", "edge"].out.length == pytest.approx(3.5)
    assert all_lanes(room, jointer, post)["jointer"].out.stopped_by == ("thing", "post")


def test_a_board_lies_across_a_saws_table_and_is_pushed_past_the_blade() -> None:
    """Left and right of the blade, over a strip twice as wide as the board; no room for hands."""
    room, machine = box_room(6, 5), saw(2.0, 2.0)
    cross = others(room, machine)["saw", "crosscut"]
    assert (cross.into.length, cross.out.length) == pytest.approx((2.0, 4.0))
    assert cross.across and cross.longest_board == pytest.approx(4.0) and cross.width == 0.4
    assert not cross.throws and cross.largest_sheet is None
    near = block("near", 4.0, 2.25, 0.2, 0.2, 1.0)  # from 0.15 to 0.35 m past the blade
    stopped = others(room, machine, near)["saw", "crosscut"]
    assert stopped.out.length == pytest.approx(1.9) and stopped.out.stopped_by == ("thing", "near")
    assert others(room, machine, replace(near, y=2.31))["saw", "crosscut"].out.length == pytest.approx(4.0)


def test_turned_left_and_right_stay_with_who_feeds() -> None:
    """Fed towards the left of the plan, the worker's left is down."""
    cross = others(box_room(6, 5), saw(2.0, 2.0, 90.0))["saw", "crosscut"]
    assert (cross.into.length, cross.out.length) == pytest.approx((2.0, 3.0))


def test_what_comes_behind_the_first_that_stops_it() -> None:
    room, machine = box_room(6, 5), saw(3.0, 2.0)
    first, second = block("first", 3.0, 3.0, 1.0, 0.2, 2.0), block("second", 3.0, 4.0, 1.0, 0.2, 2.0)
    out = all_lanes(room, machine, first, second)["saw"].out
    assert (out.length, out.then) == pytest.approx((0.9, 1.9)) and out.then_by == ("thing", "second")
    alone = all_lanes(room, machine, first)["saw"].out
    assert alone.then == pytest.approx(3.0) and alone.then_by == ("wall", "C")


def test_lanes_that_share_floor() -> None:
    """Two saws in a row feed over the same floor; one beside them does not, whatever is free beyond its
    boards.
    """
    room = box_room(8, 8)
    a, b, beside = saw(3.0, 3.0), replace(saw(3.0, 5.0), id="b"), replace(saw(5.0, 3.0), id="beside")
    found = shared_floor(all_lanes(room, *(replace(one, height=0.5) for one in (a, b, beside))))
    assert found == {"saw": ("b",), "b": ("saw",), "beside": ()}
    across = replace(beside, angle=90.0, x=7.5)  # its boards reach 2 m, to x = 5.5
    assert shared_floor(all_lanes(room, replace(a, height=0.5), replace(across, height=0.5)))["saw"] == ()


def test_the_line_of_throw_is_as_wide_as_the_stock_and_ends_at_a_wall() -> None:
    near, far = lines(box_room(6, 5), saw(3.0, 2.0))["saw"], lines(box_room(6, 9), saw(3.0, 6.0))["saw"]
    assert near.floor.area == pytest.approx(0.2 * 2.0) and far.floor.area == pytest.approx(0.2 * REACH)
    assert near.floor.bounds == pytest.approx((2.9, 0.0, 3.1, 2.0))
    cross = replace(saw(3.0, 2.0), feed=replace(saw(0, 0).feed, how="across", throws=True))  # type: ignore[type-var]
    still = replace(saw(3.0, 2.0), feed=replace(saw(0, 0).feed, throws=False))  # type: ignore[type-var]
    assert lines(box_room(6, 5), cross) == {} and lines(box_room(6, 5), still) == {}


def test_what_flies_does_not_come_through_walls() -> None:
    """A U-shaped floor: the strip leaves it at 1 m and would come into its other leg."""
    lengths = (6, 2, 4, 1, 4, 2, 6, 5)
    turns = (90, 90, -90, -90, 90, 90, 90, 90)
    walls = (
        Wall(id=f"W{k}", length=length, turn=turn) for k, (length, turn) in enumerate(zip(lengths, turns))
    )
    one = lines(Room(walls=tuple(walls)), saw(4.0, 4.0), replace(WORKER, x=4.0, y=0.3))["saw"]
    assert one.floor.area == pytest.approx(0.2) and one.workers == ()


def test_who_stands_there_what_glass_and_which_doors() -> None:
    window = Opening(id="window", kind="window", wall="A", offset=2.0, width=1.5, sill=0.9, head=2.0)
    door = Opening(id="door", kind="swing", wall="A", offset=3.08, width=0.9, head=2.0)
    one = lines(box_room(6, 5, openings=(window,)), saw(3.0, 2.9), WORKER)["saw"]
    assert (one.workers, one.glass, one.doors) == (("bench",), ("window",), ())
    for away in (
        replace(window, offset=3.11),
        replace(window, sill=1.4),
        replace(window, head=0.8),
        replace(window, wall="C"),
    ):
        assert lines(box_room(6, 5, openings=(away,)), saw(3.0, 2.9))["saw"].glass == (), away
    assert lines(box_room(6, 5, openings=(door,)), saw(3.0, 2.9))["saw"].doors == ("door",)
    outwards = replace(door, swing="out", offset=3.15)
    assert lines(box_room(6, 5, openings=(outwards,)), saw(3.0, 2.9))["saw"].doors == ()
    # hung at its far jamb it sweeps towards the line
    sweeps = replace(door, wall="A", offset=3.11, hinge="end")
    assert lines(box_room(6, 5, openings=(sweeps,)), saw(3.0, 2.9))["saw"].doors == ()
    assert lines(box_room(6, 5, openings=(window,)), saw(3.0, 4.9))["saw"].glass == ()  # over 3 m away


def test_nobody_stands_in_the_plane_of_a_lathe() -> None:
    lathe = make_thing("lathe", "lathe", 3.0, 4.0, 0.0)
    bench = replace(WORKER, y=2.6, angle=0.0)  # its worker stands in front of it, at about y = 1.9
    one = lines(box_room(6, 5), lathe, bench, turning=(lathe,))["lathe"]
    assert one.workers == ("bench",)
    front = 4.0 - lathe.depth / 2
    left, right = 3.0 - lathe.width / 2, 3.0 + lathe.width / 2
    assert one.floor.bounds == pytest.approx((left, front - REACH, right, front))
    aside = replace(bench, x=3.0 + lathe.width / 2 + bench.width)
    assert lines(box_room(9, 5), lathe, aside, turning=(lathe,))["lathe"].workers == ()


def test_from_which_sides_a_bench_is_worked_at() -> None:
    """A bench with its back 0.3 m from wall C: half of the floor behind it is beyond the wall. A cupboard
    takes a quarter of the floor at its right.
    """
    room = box_room(6, 5)
    bench = block("bench", 3.0, 4.3, 2.0, 0.8, 0.9)
    cupboard = block("cupboard", 4.0 + 0.61 * 0.75, 4.3, 0.61 * 0.5, 0.4, 2.0)

    def sides(*things: Thing) -> Around:
        (found,) = around([bench], barriers(things, ()), shell(room))
        return found

    alone = sides(bench)
    assert alone.free == ("front", "right", "left") and alone.shares[2] == pytest.approx(0.3 / 0.61)
    assert sides(bench, cupboard).shares[1] == pytest.approx(0.75)
    assert sides(bench, cupboard).free == ("front", "left")
    turned = replace(bench, angle=180.0)
    (found,) = around([turned], barriers((turned, cupboard), ()), shell(room))
    assert found.free == ("right", "back")
    hung = replace(cupboard, z=2.1)
    assert sides(bench, hung).free == alone.free
