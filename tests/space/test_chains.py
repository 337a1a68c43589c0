"""Dimension chains along walls."""

from itertools import pairwise

import pytest

from purvel.shop import Opening, Room
from purvel.space.chains import chains
from purvel.space.shell import shell
from tests.conftest import box_room

DOOR = Opening(id="door", kind="swing", wall="A", offset=0.5, width=0.9, head=2.0)
WINDOW = Opening(id="pane", kind="window", wall="A", offset=3.0, width=1.2, head=2.0, sill=1.0)


def test_openings_in_one_row_the_wall_in_the_next() -> None:
    found = [one for one in chains(shell(box_room(6, 5, openings=(DOOR, WINDOW)))) if one.side.wall == "A"]
    assert [one.marks for one in found] == [pytest.approx((0.0, 0.5, 1.4, 3.0, 4.2, 6.0)), (0.0, 6.0)]
    assert found[1].off > found[0].off + 0.2
    assert found[0].at(0.5) == pytest.approx((0.5, -found[0].off))
    assert sum(b - a for a, b in pairwise(found[0].marks)) == pytest.approx(6.0)


def test_walls_without_openings_have_one_row_and_an_open_room_none() -> None:
    rows = [one.marks for one in chains(shell(box_room(6, 5)))]
    assert rows == [pytest.approx(row) for row in ((0.0, 6.0), (0.0, 5.0)) * 2]
    assert chains(shell(Room())) == []


def test_jambs_that_meet_are_one_mark() -> None:
    next_door = Opening(id="next", kind="swing", wall="A", offset=1.4, width=4.6, head=2.0)
    (row, whole) = [
        one for one in chains(shell(box_room(6, 5, openings=(DOOR, next_door)))) if one.side.wall == "A"
    ]
    assert row.marks == pytest.approx((0.0, 0.5, 1.4, 6.0)) and whole.marks == (0.0, 6.0)
