"""Where things go: flush with a wall and within it, and the first free spot, by hand."""

import pytest

from purvel.shop import Fixture
from purvel.space.placing import against_wall, free_spot
from purvel.space.shell import shell
from tests.conftest import block, box_room


def fixture(x: float, y: float, width: float = 0.8, depth: float = 0.2) -> Fixture:
    return Fixture(id="one", kind="cupboard", x=x, y=y, width=width, depth=depth, top=1.0)


@pytest.mark.parametrize(("x", "along"), [(3.0, 3.0), (0.3, 0.4), (5.75, 5.6)])
def test_a_fixture_goes_flush_and_stays_within_its_wall(x: float, along: float) -> None:
    """Wall A runs from (0, 0) to (6, 0); 0.2 m deep, its middle comes to lie 0.1 m off, its back to it."""
    at = against_wall(fixture(x, 0.12), shell(box_room()))
    assert at == pytest.approx((along, 0.1, 180.0))


def test_one_as_wide_as_the_wall_lies_in_its_middle_and_far_from_all_walls_it_stays() -> None:
    room = shell(box_room())
    assert against_wall(fixture(2.0, 0.2, width=6.0), room)[0] == pytest.approx(3.0)
    assert against_wall(fixture(3.0, 2.5), room) == (3.0, 2.5, 0.0)


def test_the_first_free_spot_leaves_a_way_round_if_there_is_one() -> None:
    """The middle of the floor is (3, 2.5); with a block of 1 by 1 m there, another keeps 0.9 m off."""
    room, thing = shell(box_room()), block("new", 0.0, 0.0, 1.0, 1.0, 0.9)
    assert free_spot(thing, (), room) == (3.0, 2.5)
    spot = free_spot(thing, (block("old", 3.0, 2.5, 1.0, 1.0, 0.9),), room)
    assert spot is not None
    away = max(abs(spot[0] - 3.0), abs(spot[1] - 2.5)) - 1.0
    assert 0.9 <= away <= 0.9 + 0.25
    full = block("all", 3.0, 2.5, 5.9, 4.9, 0.9)
    assert free_spot(thing, (full,), room) is None
