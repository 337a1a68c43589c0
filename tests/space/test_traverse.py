from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from purvel.shop import Ceiling, Fixture, Room, Slope, Wall
from purvel.space.shell import shell
from purvel.space.traverse import closing_wall, fair_gap, signed_area, walk
from tests.conftest import box_room


def test_a_rectangle_closes() -> None:
    trip = walk(box_room(6.0, 5.0))
    assert trip.gap_length == pytest.approx(0, abs=1e-12)
    assert [pytest.approx(corner) for corner in trip.corners] == [(0, 0), (6, 0), (6, 5), (0, 5)]
    assert trip.suspects == ()


def test_a_slip_of_a_foot_names_the_two_walls_that_could_explain_it() -> None:
    room = box_room(6.0, 5.0)
    slipped = replace(room, walls=(*room.walls[:2], Wall(id="C", length=6.0 - 0.3048), room.walls[3]))
    trip = walk(slipped)
    assert trip.gap == pytest.approx((-0.3048, 0.0))
    assert trip.suspects == ("A", "C")
    paced = replace(
        slipped,
        walls=tuple(replace(wall, provenance="paced") if wall.id == "C" else wall for wall in slipped.walls),
    )
    assert walk(paced).suspects == ("C",)


def test_the_gap_is_shared_out_by_what_each_reading_is_worth() -> None:
    """By hand: A and C miss by 22 mm. The walls' spreads are 4.8 mm each. If the four turns give way by p
    (two one way, two the other, so that they still come once round), the end moves by 10 m times p, at the
    price of four squares: as one reading with a spread of 5 m times 0.1 degrees, 8.7 mm. So A takes
    4.8² / (2 · 4.8² + 8.7²) of the gap.
    """
    room = Room(
        walls=(
            Wall(id="A", length=5.978),
            Wall(id="B", length=5.0),
            Wall(id="C", length=6.0),
            Wall(id="D", length=5.0),
        )
    )
    trip = walk(room)
    assert trip.gap == pytest.approx((0.022, 0.0))
    moved = 4.8**2 / (2 * 4.8**2 + 8.7**2)
    assert trip.corners[1] == pytest.approx((5.978 + 0.022 * moved, 0.0), abs=5e-4)
    assert trip.gap_length < fair_gap(trip.perimeter)


def test_walking_the_other_way_round_gives_the_same_room() -> None:
    other = Room(
        walls=tuple(
            Wall(id=name, length=length, turn=-90)
            for name, length in (("A", 5.0), ("B", 6.0), ("C", 5.0), ("D", 6.0))
        ),
        heading=90,
    )
    assert shell(other).floor.symmetric_difference(shell(box_room(6, 5)).floor).area < 1e-9
    assert signed_area(walk(other).corners) < 0
    assert shell(other).sides["A"].out == pytest.approx((-1.0, 0.0))


def test_three_walls_are_still_open_and_the_closing_wall_is_known() -> None:
    room = Room(walls=box_room(6.0, 5.0).walls[:3])
    assert not walk(room).is_closed
    assert shell(room).sides == {}
    turn, length = closing_wall(room, walk(room))
    assert (turn, length) == pytest.approx((90.0, 5.0))


@pytest.mark.parametrize(
    "walls",
    [(), (Wall(id="A", length=3),), (Wall(id="A", length=3, turn=180), Wall(id="B", length=3, turn=180))],
)
def test_nothing_much_is_no_room(walls: tuple[Wall, ...]) -> None:
    assert not walk(Room(walls=walls)).is_closed
    assert shell(Room(walls=walls)).floor.is_empty


@given(st.lists(st.floats(0.5, 10), min_size=2, max_size=2), st.floats(-180, 180))
def test_area_does_not_depend_on_the_heading(sizes: list[float], heading: float) -> None:
    assert shell(box_room(*sizes, heading=heading)).floor.area == pytest.approx(sizes[0] * sizes[1], rel=1e-9)


def test_volume_under_a_slope() -> None:
    """6 x 5 x 2.5 m less a wedge of 1/2 x 2 x 1.5 x 6 = 9 m3."""
    room = box_room(6, 5, ceiling=Ceiling(height=2.5, slopes=(Slope(wall="A", low=1.0, run=2.0),)))
    assert shell(room).volume == pytest.approx(75 - 9)
    assert shell(Room()).volume == 0.0


def test_what_hangs_from_the_ceiling_takes_air() -> None:
    """Of 6 x 5 x 2.5 = 75 m3 a dropped ceiling 2 x 5 m wide at 2.1 m takes 4, of which half lies in the room
    when it is moved half out; a cupboard on the floor takes none.
    """
    ceiling = Ceiling(height=2.5)
    dropped = Fixture(
        id="d",
        kind="dropped-ceiling",
        x=1.0,
        y=2.5,
        width=2.0,
        depth=5.0,
        bottom=2.1,
        top=2.5,
        stands="ceiling",
    )

    def volume(*fixtures: Fixture) -> float:
        return shell(box_room(6, 5, ceiling=ceiling, fixtures=fixtures)).volume

    assert volume(dropped) == pytest.approx(71.0)
    assert volume(replace(dropped, x=0.0)) == pytest.approx(73.0)
    assert volume(replace(dropped, width=5.0, depth=2.0, angle=90.0)) == pytest.approx(71.0)
    assert volume(replace(dropped, top=9.0)) == pytest.approx(71.0)
    assert volume(replace(dropped, stands="floor", bottom=0.0)) == pytest.approx(75.0)


@pytest.mark.parametrize(
    ("heading", "lies"),
    [
        (0.0, 0.0),
        (1.9, 0.0),
        (2.5, 2.5),
        (44.0, 44.0),
        (46.0, -44.0),
        (90.0, 0.0),
        (-30.0, -30.0),
        (200.0, 20.0),
    ],
)
def test_how_a_room_lies_on_the_plan(heading: float, lies: float) -> None:
    """By its longest wall, to the nearest axis; a little askew counts as along it."""
    assert shell(box_room(6, 5, heading=heading % 360.0)).lies == pytest.approx(lies, abs=1e-9)


def test_an_open_room_lies_as_the_plan_does() -> None:
    room = box_room(6, 5, heading=30.0)
    assert shell(replace(room, walls=room.walls[:2])).lies == 0.0
