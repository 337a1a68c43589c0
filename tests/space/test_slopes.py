"""A sloping ceiling acts over the floor that faces its wall, within the wall's length, and nowhere else."""

from dataclasses import replace

import pytest
import shapely

from purvel.catalogue import make_thing
from purvel.shop import Ceiling, Opening, Room, Slope, Thing, Wall
from purvel.space import clearances, standing_room
from purvel.space.aisles import aisles, entries, goals, way_in
from purvel.space.ground import ground
from purvel.space.lanes import lanes
from purvel.space.shell import shell
from tests.conftest import block, box_room, saw
from tests.space.test_lanes import BOARD

SLOPED = Ceiling(height=2.4, slopes=(Slope(wall="A", low=1.2, run=2.4),))


def l_room(ceiling: Ceiling) -> Room:
    """6 x 5 m with the upper right 3 x 2.5 m cut out; wall A below, C the notch's lower wall, D its left."""
    lengths = (
        ("A", 6.0, 90),
        ("B", 2.5, 90),
        ("C", 3.0, -90),
        ("D", 2.5, 90),
        ("E", 3.0, 90),
        ("F", 5.0, 90),
    )
    walls = tuple(Wall(id=name, length=length, turn=turn) for name, length, turn in lengths)
    return Room(walls=walls, ceiling=ceiling)


def too_tall(room: Room, thing: Thing) -> list[tuple[str, float]]:
    return clearances.low_ceiling((thing,), shell(room))


def test_beyond_its_walls_ends_a_slope_does_not_act() -> None:
    """The slope at D, the notch's left wall, covers y from 2.5 to 5 only."""
    room = l_room(Ceiling(height=2.4, slopes=(Slope(wall="D", low=1.2, run=2.4),)))
    assert too_tall(room, block("t", 2.5, 4.0, 0.5, 0.5, 2.0)) == [
        ("t", pytest.approx(1.2 + 1.2 * 0.25 / 2.4))
    ]
    assert too_tall(room, block("t", 2.5, 1.0, 0.5, 0.5, 2.3)) == []
    assert too_tall(room, block("t", 4.5, 1.0, 0.5, 0.5, 2.3)) == []  # behind the wall
    # across the edge of the strip the part under it counts, though no corner of the thing is lowest there
    assert too_tall(room, block("t", 2.0, 2.5, 1.9, 0.6, 2.3)) == [
        ("t", pytest.approx(1.2 + 1.2 * 0.05 / 2.4))
    ]


def test_a_slope_has_the_height_it_has_at_each_distance() -> None:
    room = box_room(6, 5, ceiling=SLOPED)
    for near in (0.0, 0.6, 1.2, 2.4, 3.0):
        (height,) = shell(room).ceilings_over([shapely.box(1.0, near, 2.0, near + 0.5)])
        assert height == pytest.approx(min(2.4, 1.2 + 0.5 * near))
    several = [shapely.box(1.0, near, 2.0, near + 0.5) for near in (4.0, 0.6, 0.0)]
    assert shell(room).ceilings_over(several).tolist() == pytest.approx([2.4, 1.5, 1.2])
    assert shell(room).ceilings_over([]).tolist() == []
    corners = shell(room).under_slope(room.ceiling.slopes[0], 1.8)
    assert shapely.Polygon(corners).bounds == pytest.approx((0.0, 0.0, 6.0, 1.2))


def test_a_lane_beside_a_slope_is_not_stopped_by_it() -> None:
    """The same L: the saw's board passes under 1.2 m + only where the slope is."""
    low = Ceiling(height=2.4, slopes=(Slope(wall="D", low=0.5, run=2.4),))
    room = l_room(low)

    def out(machine: Thing) -> float:
        return lanes([machine], BOARD, 0.5, ground(shell(room), (machine,)), shell(room))["saw"].out.length

    assert out(saw(5.0, 1.0)) == pytest.approx(1.5)  # up to the notch's wall
    # at x = 2.7 the slope is lower than the board over all of D's length
    assert out(saw(2.7, 1.0)) == pytest.approx(1.5)
    assert out(saw(1.0, 1.0)) == pytest.approx(4.0)


def test_nobody_stands_or_walks_under_two_metres() -> None:
    """The slope of wall A is under 2.0 m for 1.6 m: a bench at 1.0 m has its worker's floor there."""
    room = box_room(6, 5, ceiling=SLOPED)
    bench = make_thing("workbench", "bench", 3.0, 2.0)
    (taken,) = standing_room.standing_room((bench,), shell(room))
    assert taken.by == standing_room.CEILING and bench.stand is not None
    whole = bench.stand.width * bench.stand.depth
    zone_top = 2.0 + bench.stand.y + bench.stand.depth / 2
    assert taken.area == pytest.approx(whole - bench.stand.width * max(0.0, zone_top - 1.6))
    assert standing_room.standing_room((replace(bench, y=4.0),), shell(room)) == []
    door = Opening(id="d", kind="swing", wall="D", offset=3.6, width=0.9, head=2.0, entry=True, swing="out")
    sloped = replace(room, openings=(door,))

    def width(this: Room, thing: Thing) -> float:
        entry = way_in(shell(this), entries(this.openings))
        (one,) = aisles(clearances.barriers((thing,), ()), goals((thing,)), entry)
        return one.width

    press = make_thing("drill-press", "press", 5.0, 2.4)  # its floor is under the slope
    assert width(replace(sloped, ceiling=Ceiling()), press) > 0.8
    assert width(sloped, press) < 0.4


def test_blockers_of_standing_room_that_overlap_count_once() -> None:
    room = box_room(6, 5)
    bench = make_thing("workbench", "bench", 3.0, 3.0)
    assert bench.stand is not None
    y = 3.0 + bench.stand.y
    one, two = block("a", 3.0, y, 0.6, 0.6, 1.0), block("b", 3.1, y, 0.6, 0.6, 1.0)
    (taken,) = standing_room.standing_room((bench, one, two), shell(room))
    assert taken.area == pytest.approx(0.7 * 0.6) and taken.by in ("a", "b")
    (alone,) = standing_room.standing_room((bench, one), shell(room))
    assert alone.area == pytest.approx(0.36) and alone.by == "a"
