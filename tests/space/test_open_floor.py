"""The largest clear rectangle: rooms whose answer is known, and that nothing larger is found by trying."""

import math
import random
from dataclasses import replace

import pytest
import shapely

from purvel.catalogue import make_fixture
from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.shop import Ceiling, Room, Slope, Thing, Wall
from purvel.space.clearances import polygon, span
from purvel.space.open_floor import OpenFloor, costs, open_floor
from purvel.space.shell import shell
from tests.conftest import block, box_room

WITHIN = 0.004  # of the area: how near the search comes


def largest(room: Room, *things: Thing) -> OpenFloor:
    found = open_floor(shell(room), things)
    assert found is not None
    return found


@pytest.mark.parametrize("heading", [0.0, 17.3, 45.0, 90.0])
def test_an_empty_room_is_all_of_it(heading: float) -> None:
    found = largest(box_room(6.0, 5.0, heading=heading))
    assert (found.length, found.width) == (pytest.approx(6.0, abs=0.002), pytest.approx(5.0, abs=0.002))
    assert found.angle % 180 == pytest.approx(heading % 180, abs=0.05)


def test_a_passage_and_a_cupboard_are_all_of_them_too() -> None:
    assert largest(box_room(60.0, 0.5)).area == pytest.approx(30.0, rel=WITHIN)
    assert largest(box_room(0.3, 0.2)).area == pytest.approx(0.06, rel=0.02)


def test_a_post_in_the_middle_leaves_the_larger_side() -> None:
    """0.4 m square in 6 by 5: beside it 2.8 by 5, before it 6 by 2.3."""
    found = largest(box_room(6.0, 5.0), block("post", 3.0, 2.5, 0.4, 0.4, 2.4))
    assert found.area == pytest.approx(14.0, rel=WITHIN) and found.length == pytest.approx(5.0, abs=0.005)


def test_in_a_triangle_it_is_half_of_it() -> None:
    """The largest rectangle in a right triangle of legs a and b has a b / 4."""
    walls = (
        Wall(id="A", length=6.0, turn=90.0),
        Wall(id="B", length=4.0, turn=90.0 + math.degrees(math.atan2(4.0, 6.0))),
        Wall(id="C", length=math.hypot(6.0, 4.0), turn=180.0 - math.degrees(math.atan2(4.0, 6.0))),
    )
    room = Room(walls=tuple(replace(wall, turn_error=0.3) for wall in walls))
    assert shell(room).floor.area == pytest.approx(12.0, rel=1e-3)
    assert largest(room).area == pytest.approx(6.0, rel=WITHIN)


def test_between_two_slanting_things_it_is_turned_as_they_are() -> None:
    """Two long boxes at 30 degrees, 1.5 m apart, each 4 m long, close the rest of a large room off."""
    along = math.radians(30.0)
    off = (0.75 + 1.0) * -math.sin(along), (0.75 + 1.0) * math.cos(along)
    boxes = [
        replace(block(f"b{sign}", 3.0 + sign * off[0], 3.0 + sign * off[1], 9.0, 2.0, 1.0), angle=30.0)
        for sign in (1, -1)
    ]
    found = largest(box_room(6.0, 6.0), *boxes)
    assert found.angle == pytest.approx(30.0, abs=0.2) and found.width == pytest.approx(1.5, abs=0.005)


def test_what_counts_and_what_does_not() -> None:
    room = box_room(6.0, 5.0, ceiling=Ceiling(height=2.4))
    for thing, area in (
        (block("low", 3.0, 2.5, 6.0, 1.0, 0.01), 12.0),  # a mat is on the floor, too
        (block("high", 3.0, 2.5, 6.0, 1.0, 0.3, z=2.0), 30.0),
        (block("head", 3.0, 2.5, 6.0, 1.0, 0.3, z=1.9), 12.0),
    ):
        assert largest(room, thing).area == pytest.approx(area, rel=WITHIN), thing.id
    drain = replace(
        room, fixtures=(make_fixture("drain", "d", 3.0, 2.5), make_fixture("parking bay", "b", 3, 2.5))
    )
    assert largest(drain).area == pytest.approx(30.0, rel=WITHIN)
    beam = replace(room, fixtures=(replace(make_fixture("low-duct", "d", 3.0, 2.5), width=6.0, bottom=1.8),))
    assert largest(beam).area < 16.0
    sloped = replace(room, ceiling=Ceiling(height=2.4, slopes=(Slope(wall="A", low=1.6, run=1.6),)))
    assert largest(sloped).area == pytest.approx(6.0 * (5.0 - 0.8), rel=WITHIN)  # 2.0 m at 0.8 m off the wall
    full = block("full", 3.0, 2.5, 6.0, 5.0, 1.0)
    assert open_floor(shell(room), (full,)) is None
    assert open_floor(shell(replace(room, walls=room.walls[:2])), ()) is None


def clear(found: OpenFloor, floor: shapely.Polygon, things: list[Thing]) -> bool:
    """By another geometry: within the floor, and in none of the things."""
    shape = shapely.Polygon(found.corners)
    bodies = [polygon(one) for one in things if span(one)[0] < 2.0]
    return bool(
        shape.difference(floor).area < 1e-5 and all(shape.intersection(one).area < 1e-5 for one in bodies)
    )


@pytest.mark.parametrize("seed", range(4))
def test_nothing_larger_is_found_by_trying(seed: int) -> None:
    rng = random.Random(seed)
    room = box_room(6.0, 5.0)
    things = [
        replace(block(f"t{k}", rng.uniform(0.5, 5.5), rng.uniform(0.5, 4.5), rng.uniform(0.3, 1.5), 0.6, 1.0), angle=rng.choice((0.0, 0.0, 33.0, 70.0)))
        for k in range(7)
    ]  # fmt: skip
    found, floor = largest(room, *things), shell(room).floor
    assert clear(found, floor, things)
    for _ in range(3000):
        length, angle = rng.uniform(0.5, 6.0), rng.choice((0.0, 33.0, 70.0, rng.uniform(0, 180)))
        width = 1.01 * found.area / length
        if width > length:
            continue
        tried = OpenFloor((rng.uniform(0, 6), rng.uniform(0, 5)), angle, length, width)
        assert not clear(tried, floor, things), tried


@pytest.mark.parametrize("name", ["garage", "single-garage", "spare-room"])
def test_in_the_demos_it_is_clear_and_grown_to_the_end(name: str) -> None:
    shop = loads(demo_bytes(name)).shop
    found = open_floor(shell(shop.room), shop.things)
    assert found is not None
    floor = shell(shop.room).floor
    fixed = [polygon(one) for one in shop.room.fixtures if one.is_body and one.bottom < 2.0]
    floor = floor.difference(shapely.union_all(fixed)) if fixed else floor
    assert clear(found, floor, list(shop.things))
    for key in ("length", "width"):
        longer = replace(found, **{key: getattr(found, key) * 1.01})
        assert not clear(longer, floor, list(shop.things)), key


def test_what_each_thing_costs_of_it() -> None:
    """In 6 x 4 m a box in the middle leaves 2.5 x 4 m on either side; a shelf 0.5 m deep along the right wall
    takes 0.5 x 4 m more on that side only. Without the box 5.5 x 4 m are clear: 12 m2 more; without the shelf
    nothing is gained, for the left side is as large.
    """
    room = shell(box_room(6.0, 4.0))
    box = block("box", 3.0, 2.0, 1.0, 1.0, 1.0)
    shelf = block("shelf", 5.75, 2.0, 0.5, 4.0, 1.0)
    found = open_floor(room, (box, shelf))
    assert found is not None and found.area == pytest.approx(10.0, abs=0.01)
    dear = costs(room, (box, shelf), found)
    assert list(dear) == ["box"] and dear["box"] == pytest.approx(12.0, abs=0.1)
    hung = replace(box, z=2.1)
    assert costs(room, (hung,), open_floor(room, (hung,))) == {}
    assert costs(shell(Room()), (box,), None) == {}


def test_the_dearest_comes_first_and_none_costs_too_much() -> None:
    """Against the whole search without each thing."""
    rng = random.Random(3)
    room = shell(box_room(5.0, 4.0))
    things = tuple(
        block(
            f"b{k}",
            rng.uniform(0.5, 4.5),
            rng.uniform(0.5, 3.5),
            0.6,
            0.4,
            1.0,
            angle=rng.choice((0.0, 30.0)),
        )
        for k in range(5)
    )
    found = open_floor(room, things)
    dear = costs(room, things, found)
    assert found is not None and dear and list(dear.values()) == sorted(dear.values(), reverse=True)
    for thing in things:
        without = open_floor(room, [one for one in things if one is not thing])
        assert without is not None
        true = without.area - found.area
        assert true - 0.35 <= dear.get(thing.id, 0.0) <= true + 0.02
