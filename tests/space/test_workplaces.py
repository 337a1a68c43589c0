"""Crosscuts, round zones and supports by hand."""

from dataclasses import replace
from math import cos, radians, sin

import pytest

from purvel.catalogue import make_thing, uses
from purvel.shop import Ceiling, Opening, Room, Slope, Stock, Thing
from purvel.space.ground import ground
from purvel.space.lanes import SHEETS, Lane, lanes
from purvel.space.round_zones import RoundZone, round_zones
from purvel.space.shell import shell
from purvel.space.supports import Support, own_reach, supports
from tests.conftest import block, box_room, saw

BOARD = Stock(length=2.4, width=0.2, thickness=0.02)


def lane_of(room: Room, machine: Thing, *others: Thing, stock: Stock = BOARD, hand: float = 0.5) -> Lane:
    plan = ground(shell(room), (machine, *others))
    return lanes([machine], stock, hand, plan, shell(room))[machine.id]


def mitre(x: float, y: float, angle: float = 0.0) -> Thing:
    thing = make_thing("mitre-saw", "mitre", x, y, angle)
    assert thing.feed is not None and thing.feed.how == "across"
    return replace(thing, feed=replace(thing.feed, y=0.0))


@pytest.mark.parametrize(
    ("x", "trims", "anywhere"),
    [(3.0, 3.0, 3.0), (2.0, 4.0, 4.0), (1.5, 4.5, 3.0), (0.6, 5.4, 1.2)],
)
def test_a_board_lies_still_and_is_cut_across(x: float, trims: float, anywhere: float) -> None:
    """6 m between walls: l = x, r = 6 - x; trimmed up to the longer, anywhere up to twice the shorter."""
    one = lane_of(box_room(6, 5), mitre(x, 2.5))
    assert (one.into.length, one.out.length) == pytest.approx((x, 6 - x))
    assert one.across and one.hand_room == 0 and one.largest_sheet is None
    assert one.trims == pytest.approx(trims) and one.longest_board == pytest.approx(anywhere)
    assert one.fits == (anywhere >= 2.4)
    begins, ends = one.board
    assert -x <= begins <= 0 <= ends <= 6 - x and ends - begins == pytest.approx(min(2.4, anywhere))


def test_level_tops_carry_the_board_on_either_side() -> None:
    """The saw is 1.1 m wide, its table at 0.92; a bench 20 mm beside it is level, one farther off too low."""
    machine = mitre(3.0, 2.5)
    level = block("level", 4.32, 2.5, 1.5, 0.6, 0.92)
    assert lane_of(box_room(6, 5), machine).held == pytest.approx((0.55, 0.55))
    assert lane_of(box_room(6, 5), machine, level).held == pytest.approx((0.55, 4.32 + 0.75 - 3.0))
    for height, reach in ((0.9205, 2.07), (0.917, 2.07), (0.916, 0.55), (0.9215, 0.55)):
        held = lane_of(box_room(6, 5), machine, replace(level, height=height)).held
        assert held[1] == pytest.approx(reach), height
    apart = replace(level, x=4.40)  # 100 mm of gap: the board's end would drop in
    assert lane_of(box_room(6, 5), machine, apart).held[1] == pytest.approx(0.55)


def zone_of(room: Room, thing: Thing, *others: Thing, stock: Stock = BOARD) -> RoundZone:
    return round_zones((thing,), stock, ground(shell(room), (thing, *others)), shell(room))["press"]


PRESS = make_thing("drill-press", "press", 3.0, 2.5)
assert PRESS.feed is not None
PRESS = replace(PRESS, feed=replace(PRESS.feed, y=0.0))


def test_in_the_open_a_board_turns_all_round() -> None:
    one = zone_of(box_room(6, 5), PRESS)
    assert one.is_all_round and one.share == 1.0 and one.mark == (3.0, 2.5)


def test_between_two_walls_a_board_lies_along_them() -> None:
    """1.8 m between walls: a board 2.4 by 0.2 m about its middle fits where 2.4 sin a + 0.2 cos a <= 1.8,
    which is up to 43.8 degrees, either way and round the other end.
    """
    one = zone_of(box_room(6, 1.8), replace(PRESS, y=0.9))
    assert one.free == ((137.0, 223.0), (317.0, 403.0))
    assert one.share == pytest.approx(172 / 360)
    low = zone_of(box_room(6, 1.8), replace(PRESS, y=0.9), stock=replace(BOARD, length=1.0))
    assert low.is_all_round


def test_a_board_at_its_end_needs_room_on_one_side_only() -> None:
    assert PRESS.feed is not None
    at_end = replace(PRESS, feed=replace(PRESS.feed, at_end=True), y=0.3)
    one = zone_of(box_room(6, 5), at_end)
    # 2.4 m upwards is free, downwards the wall is 0.3 m away: 2.4 sin a + 0.1 cos a <= 0.3 up to 4.7 degrees
    assert one.free == ((356.0, 544.0),)
    assert zone_of(box_room(6, 5), replace(PRESS, y=0.3)).share < 0.12


def test_a_board_is_as_wide_to_one_side_as_to_the_other() -> None:
    """A post 0.1 m square at 0.5 m from the mark keeps a board 0.2 m wide off it up to the direction in which
    its edge touches the post's corner, either way: asin(0.1 / hypot(0.45, 0.05)) + atan(0.05 / 0.45) = 19.1
    degrees.
    """
    for angle in range(0, 360, 90):
        x, y = 3.0 + 0.5 * cos(radians(angle)), 2.5 + 0.5 * sin(radians(angle))
        zone = zone_of(box_room(6, 5), PRESS, block("post", x, y, 0.1, 0.1, 2.0))
        blocked = {d % 360 for d in range(360)} - {
            d % 360 for start, end in zone.free for d in range(int(start), int(end) + 1)
        }
        assert blocked == {(angle + turn + half) % 360 for turn in range(-19, 20) for half in (0, 180)}


def test_what_is_lower_than_the_table_does_not_stop_a_turning_board() -> None:
    low, high = block("c", 3.6, 2.5, 0.4, 0.4, 1.0), block("c", 3.6, 2.5, 0.4, 0.4, 1.01)
    assert zone_of(box_room(6, 5), PRESS, low).is_all_round
    blocked = zone_of(box_room(6, 5), PRESS, high)
    assert 0.3 < blocked.share < 0.8
    assert all(not a <= at <= b for a, b in blocked.free for at in (0.0, 180.0, 360.0))
    slope = Ceiling(height=2.4, slopes=(Slope(wall="A", low=0.5, run=2.0),))
    assert not zone_of(box_room(6, 5, ceiling=slope), replace(PRESS, y=1.0)).is_all_round
    assert zone_of(box_room(6, 5, ceiling=Ceiling(height=1.0)), PRESS).free == ()


def behind(machine: Thing, *others: Thing) -> list[Support]:
    room = box_room(8, 8)
    plan = ground(shell(room), (machine, *others))
    return supports(lanes([machine], BOARD, 0.5, plan, shell(room)), (machine, *others), uses())


def outfeed(gap: float, height: float, **changes: object) -> Thing:
    """Behind a saw at (4, 3) whose table ends at y = 3.375."""
    table = make_thing("outfeed-table", "table", 4.0, 3.375 + gap + 0.4)
    return replace(table, height=height, work_height=height, **changes)


def test_a_support_is_measured_from_table_to_table() -> None:
    (one,) = behind(saw(4.0, 3.0), outfeed(0.29, 0.78))
    assert (one.machine, one.other) == ("saw", "table")
    assert one.step == pytest.approx(-0.08) and one.gap == pytest.approx(0.29)
    assert one.far == pytest.approx(0.375 + 0.29 + 0.8)
    assert one.longest_that_stays == pytest.approx(2 * one.far)
    assert one.shortest_that_passes == pytest.approx(0.58)
    machine = saw(4.0, 3.0)
    plan = ground(shell(box_room(8, 8)), (machine,))
    (lane,) = lanes([machine], BOARD, 0.5, plan, shell(box_room(8, 8))).values()
    assert own_reach([lane], (machine,)) == pytest.approx(0.375)


@pytest.mark.parametrize(
    ("gap", "height", "kind", "is_one"),
    [
        (0.05, 0.86, "outfeed-table", True),
        (0.59, 0.86, "outfeed-table", True),
        (0.61, 0.86, "outfeed-table", False),
        (0.05, 0.57, "outfeed-table", True),
        (0.05, 0.55, "outfeed-table", False),
        (0.05, 0.915, "outfeed-table", False),
        (0.29, 0.72, "workbench", True),
        (0.31, 0.86, "workbench", False),
        (0.05, 0.70, "workbench", False),
        (0.05, 0.84, "cabinet", True),
        (0.05, 0.82, "cabinet", False),
    ],
)
def test_what_is_taken_for_a_support(gap: float, height: float, kind: str, is_one: bool) -> None:
    assert bool(behind(saw(4.0, 3.0), outfeed(gap, height, kind=kind))) == is_one


def test_beside_the_lane_or_before_the_blade_nothing_supports() -> None:
    assert behind(saw(4.0, 3.0), replace(outfeed(0.05, 0.86), x=5.5)) == []
    assert behind(saw(4.0, 3.0), replace(outfeed(0.05, 0.86), y=1.9)) == []


def test_sheets_go_by_size_and_an_exact_lane_takes_an_exact_sheet() -> None:
    areas = [long * wide for long, wide in SHEETS]
    assert areas == sorted(areas, reverse=True) and SHEETS[0] == pytest.approx((2.4384, 1.2192))
    exact = lane_of(box_room(6, 2 * (2.4384 + 0.5)), saw(3.0, 2.4384 + 0.5))
    assert exact.largest_sheet is not None and exact.largest_sheet.along == pytest.approx(2.4384)
    five = lane_of(box_room(1.6, 8), saw(0.8, 4.0))  # 1.6 m wide: 5 x 5 passes as well as 6 x 4 or 8 x 4
    assert five.largest_sheet is not None and five.largest_sheet.across == pytest.approx(1.2192)
    square = lane_of(box_room(6, 2 * (1.53 + 0.5)), saw(3.0, 2.03))
    assert square.largest_sheet is not None
    assert (square.largest_sheet.along, square.largest_sheet.across) == pytest.approx((1.2192, 2.4384))
    narrow = lane_of(box_room(1.7, 2 * (1.53 + 0.5)), saw(0.85, 2.03))
    assert narrow.largest_sheet is not None
    assert (narrow.largest_sheet.along, narrow.largest_sheet.across) == pytest.approx((1.524, 1.524))


def test_an_open_door_lets_a_crosscut_board_out() -> None:
    door = Opening(id="d", kind="swing", wall="D", offset=2.0, width=1.0, head=2.0, is_open=True, outside=2.0)
    one = lane_of(box_room(6, 5, openings=(door,)), mitre(1.0, 2.5))
    assert one.into.length == pytest.approx(3.0) and one.into.stopped_by == ("outside", "d")
