"""What carries stock beside a machine, how far boards sag, and where mitre slots belong: by hand."""

from dataclasses import replace
from math import cos, radians, sin

import pytest

from purvel.catalogue import make_thing, uses
from purvel.shop import Stock, Thing
from purvel.space.ground import ground
from purvel.space.lanes import lanes
from purvel.space.shell import shell
from purvel.space.supports import Slots, Support, droop, mitre_slots, supports, thinnest
from tests.conftest import box_room, saw

BOARD = Stock(length=1.5, width=0.2, thickness=0.02)


def carried(*things: Thing) -> list[Support]:
    room = shell(box_room(10, 10))
    return supports(lanes(things, BOARD, 0.5, ground(room, things), room), things, uses())


def table(x: float, y: float, height: float = 0.858, **changes: object) -> Thing:
    one = replace(make_thing("outfeed-table", "table", x, y), width=1.0, depth=0.8)
    return replace(one, height=height, work_height=height, **changes)


def test_what_stands_beside_a_saw_carries_its_sheets() -> None:
    """The saw's table, 1.6 m wide about its blade at (4, 4), ends at x = 3.2 and 4.8."""
    left, right = carried(saw(4.0, 4.0), table(2.6, 4.0)), carried(saw(4.0, 4.0), table(5.4, 4.0, 0.85))
    assert [(one.at, one.other) for one in left] == [("left", "table")]
    assert left[0].gap == pytest.approx(0.1) and left[0].far == pytest.approx(1.9)
    assert [(one.at, one.step) for one in right] == [("right", pytest.approx(-0.01))]
    assert carried(saw(4.0, 4.0), replace(table(2.6, 4.0), kind="cabinet")) == []
    assert carried(saw(4.0, 4.0), table(2.6, 4.71)) == []  # beside nothing of the sheet about the blade
    planer = make_thing("planer", "planer", 4.0, 4.0)
    assert carried(planer, table(2.9, 4.0)) == []  # takes no sheets


def test_left_and_right_turn_with_the_machine() -> None:
    """Fed to the left of the plan, left is down."""
    assert [one.at for one in carried(saw(4.0, 4.0, 90.0), table(4.0, 2.7))] == ["left"]
    assert [one.at for one in carried(saw(4.0, 4.0, 90.0), table(2.9, 4.0, angle=90.0))] == ["behind"]


def test_how_far_a_board_hangs_down() -> None:
    """12 x 9.80665 x 0.6^4 / 0.02^2 = 38 128: times 0.125 x 4.7e-8, and times 0.243 x 7.6e-8."""
    low, high = droop(0.6, 0.02)
    assert low == pytest.approx(0.000224, abs=1e-6) and high == pytest.approx(0.000704, abs=1e-6)
    assert droop(1.2, 0.02)[1] == pytest.approx(16 * high) and droop(0.6, 0.01)[1] == pytest.approx(4 * high)
    assert droop(0.6, thinnest(0.6, 0.002))[1] == pytest.approx(0.002)


def slots_of(machine: Thing, *others: Thing) -> list[Slots]:
    things = (machine, *others)
    return mitre_slots(carried(*things), things)


SAW = saw(4.0, 4.0, slots=(-0.14, 0.10))  # its table ends at y = 4.375


def test_where_the_slots_of_an_outfeed_belong() -> None:
    (one,) = slots_of(SAW, table(4.3, 4.8))
    assert one.wanted == pytest.approx((-0.44, -0.20)) and one.off is None
    assert slots_of(replace(SAW, slots=()), table(4.3, 4.8)) == []
    assert slots_of(SAW, table(4.3, 4.8, 0.845)) == []  # the bar passes over it
    assert slots_of(SAW, table(4.3, 5.04)) == []  # 265 mm away: the bar does not reach it
    assert slots_of(SAW, table(2.6, 4.0)) == []  # beside it


def test_slots_out_of_line_and_turned() -> None:
    right = table(4.3, 4.8, slots=(-0.44, -0.20))
    (one,) = slots_of(SAW, right)
    assert one.off == pytest.approx((0.0, 0.0), abs=1e-12)
    (one,) = slots_of(SAW, replace(right, x=4.304))
    assert one.off == pytest.approx((0.004, 0.004))
    (one,) = slots_of(SAW, replace(right, slots=(-0.437, -0.20)))
    assert one.off == pytest.approx((0.003, 0.0), abs=1e-9)
    round_about = replace(right, angle=180.0, slots=(0.44, 0.20))
    assert slots_of(SAW, round_about)[0].off == pytest.approx((0.0, 0.0), abs=1e-9)
    assert slots_of(SAW, replace(right, angle=90.0, depth=1.0))[0].off is None
    # turned by a degree, at the end of its slot: sin 1 deg of 0.4 m, and 0.44 m shrink by 0.07 mm
    askew = slots_of(SAW, replace(right, angle=1.0))[0].off
    assert askew is not None
    far = 0.4 * sin(radians(1.0)) + 0.44 * (1 - cos(radians(1.0)))
    assert max(abs(at) for at in askew) == pytest.approx(far, abs=1e-6)


def test_slots_turn_with_the_shop() -> None:
    """The saw and its table as one, turned by 90 degrees about the saw."""
    turned = replace(SAW, angle=90.0)
    other = table(4.0 - 0.8, 4.0 + 0.3, angle=90.0, slots=(-0.44, -0.20))
    (one,) = slots_of(turned, other)
    assert one.wanted == pytest.approx((-0.44, -0.20)) and one.off == pytest.approx((0.0, 0.0), abs=1e-9)
