"""A shop turned and shifted on the plan as a whole is the same shop: what is found there does not change."""

from dataclasses import replace
from math import cos, radians, sin
from typing import Any

import pytest

from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review import Memory
from purvel.review.reviewing import first_review
from purvel.shop import Shop
from tests.crowd import crowded_shop

ROUNDED = {"standing-room"}  # half of a per cent is rounded up or down
HELD = {"place", "room", "ducts", "flow", "air", "walls", "power"}
MIRRORED = HELD - {"ducts", "flow"}


def turned(shop: Shop, by: float, dx: float, dy: float) -> Shop:
    """The shop turned about the origin by so many degrees, then shifted [m]."""
    c, s = cos(radians(by)), sin(radians(by))

    def at(item: Any) -> Any:
        place = {"x": item.x * c - item.y * s + dx, "y": item.x * s + item.y * c + dy}
        angle = {"angle": (item.angle + by) % 360.0} if hasattr(item, "angle") else {}
        return replace(item, **place, **angle)

    def all_at(items: Any) -> Any:
        return tuple(at(item) for item in items)

    room = replace(at(shop.room), heading=(shop.room.heading + by) % 360.0)
    runs = tuple(replace(run, points=all_at(run.points)) for run in shop.ducts.runs)
    power = replace(shop.power, outlets=all_at(shop.power.outlets), luminaires=all_at(shop.power.luminaires))
    return replace(
        shop,
        room=replace(room, fixtures=all_at(shop.room.fixtures)),
        things=all_at(shop.things),
        ducts=replace(shop.ducts, runs=runs),
        power=power,
        scenes=tuple(replace(scene, poses=all_at(scene.poses)) for scene in shop.scenes),
    )


def told(
    shop: Shop, scene: str | None, stages: set[str] = HELD
) -> dict[tuple[str, tuple[str, ...], str | None], tuple[Any, ...]]:
    """Grade, figures and sentence of each finding, by rule, what it is about and the choice of gates."""
    found = first_review(shop, Memory(), scene).findings
    return {
        (one.rule, one.about, one.where.gate_set): (one.grade, one.figures, one.sentence)
        for one in found
        if one.stage in stages
    }


@pytest.mark.parametrize("name", ["garage", "single-garage", "spare-room"])
@pytest.mark.parametrize(("by", "dx", "dy"), [(37.0, -3.0, 12.5), (180.0, 0.0, 0.0), (251.0, 40.0, -7.0)])
def test_what_is_found_does_not_depend_on_how_the_plan_lies(
    name: str, by: float, dx: float, dy: float
) -> None:
    shop = loads(demo_bytes(name)).shop
    for scene in (None, *(scene.id for scene in shop.scenes)):
        was, now = told(shop, scene), told(turned(shop, by, dx, dy), scene)
        assert was.keys() == now.keys()
        for key, (grade, figures, sentence) in was.items():
            assert now[key][0] == grade, key
            assert now[key][1] == pytest.approx(figures, rel=1e-4, abs=2e-3), key
            if key[0] not in ROUNDED and name != "spare-room":  # there two sides of a lane are equal
                assert now[key][2] == sentence


def mirrored(shop: Shop) -> Shop:
    """The shop in a mirror along the plan's x axis, every thing with the worker on its other side."""

    def over(item: Any, **more: Any) -> Any:
        angle = {"angle": (-item.angle) % 360.0} if hasattr(item, "angle") else {}
        return replace(item, y=-item.y, **angle, **more)

    def thing(one: Any) -> Any:
        stand, feed = one.stand, one.feed
        return over(
            one,
            stand=None if stand is None else replace(stand, y=-stand.y),
            feed=None if feed is None else replace(feed, y=-feed.y, direction=(-feed.direction) % 360.0),
            ports=tuple(over(port) for port in one.ports),
            source=None if one.source is None else replace(one.source, inlet_y=-one.source.inlet_y),
        )

    walls = tuple(replace(wall, turn=-wall.turn) for wall in shop.room.walls)
    room = over(shop.room, walls=walls, heading=(-shop.room.heading) % 360.0)
    runs = tuple(replace(run, points=tuple(map(over, run.points))) for run in shop.ducts.runs)
    power = replace(
        shop.power,
        outlets=tuple(map(over, shop.power.outlets)),
        luminaires=tuple(map(over, shop.power.luminaires)),
    )
    return replace(
        shop,
        room=replace(room, fixtures=tuple(map(over, shop.room.fixtures))),
        things=tuple(map(thing, shop.things)),
        ducts=replace(shop.ducts, runs=runs),
        power=power,
    )


@pytest.mark.parametrize("name", ["garage", "single-garage", "spare-room", "garage-mended", "crowd"])
def test_nor_on_left_and_right(name: str) -> None:
    """But for ducts, where ways that ports face are named, and walks to where nobody's standing room is."""
    shop = crowded_shop() if name == "crowd" else loads(demo_bytes(name)).shop
    was, now = told(shop, None, MIRRORED), told(mirrored(shop), None, MIRRORED)
    assert was.keys() == now.keys() and len(was) > 8
    for key, (grade, figures, _) in was.items():
        assert (now[key][0], key) == (grade, key)
        assert now[key][1] == pytest.approx(figures, rel=1e-4, abs=2e-3), key


@pytest.mark.parametrize("name", ["garage", "single-garage", "spare-room", "garage-mended"])
def test_nor_on_the_order_of_things_or_the_units(name: str) -> None:
    shop, all_stages = loads(demo_bytes(name)).shop, HELD | {"spend", "keep"}
    room, power = shop.room, shop.power
    backwards = replace(
        shop,
        things=shop.things[::-1],
        room=replace(room, fixtures=room.fixtures[::-1], openings=room.openings[::-1]),
        power=replace(
            power,
            outlets=power.outlets[::-1],
            circuits=power.circuits[::-1],
            luminaires=power.luminaires[::-1],
        ),
    )
    other_units = replace(shop, units="metric" if shop.units == "imperial" else "imperial")
    was = told(shop, None, all_stages)
    for same in (backwards, other_units):
        now = told(same, None, all_stages)
        assert was.keys() == now.keys()
        for key, (grade, figures, _) in was.items():
            assert (now[key][0], key) == (grade, key)
            assert now[key][1] == pytest.approx(figures, rel=1e-6, abs=1e-6), key
