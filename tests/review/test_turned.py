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

ROUNDED = {"standing-room"}  # half of a per cent is rounded up or down
HELD = {"place", "room", "ducts", "flow", "air", "walls", "power"}


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


def told(shop: Shop, scene: str | None) -> dict[tuple[str, tuple[str, ...], str | None], tuple[Any, ...]]:
    """Grade, figures and sentence of each finding, by rule, what it is about and the choice of gates."""
    found = first_review(shop, Memory(), scene).findings
    return {
        (one.rule, one.about, one.where.gate_set): (one.grade, one.figures, one.sentence)
        for one in found
        if one.stage in HELD
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
