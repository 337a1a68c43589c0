"""The units that a shop is written in."""

import pytest

from purvel.catalogue import (
    evenly,
    fixture_kinds,
    kinds,
    make_fixture,
    make_opening,
    make_thing,
    opening_kinds,
)
from purvel.shop import Shop
from purvel.shop.edits import change_shop, empty_shop, in_units, put
from tests.conftest import block, box_room


def test_an_empty_shop_begins_with_even_figures_of_its_units() -> None:
    metric, imperial = empty_shop("metric"), empty_shop("imperial")
    assert (metric.stock.length, metric.hand_room, metric.room.ceiling.height) == (2.4, 0.6, 2.4)
    assert imperial == Shop() and imperial.stock.length == pytest.approx(96 * 0.0254)
    assert in_units(imperial, "metric") == metric and in_units(metric, "imperial") == imperial
    assert in_units(change_shop(imperial, name="Mine"), "metric") == change_shop(metric, name="Mine")


def test_what_was_set_keeps_its_size_in_other_units() -> None:
    for shop in (
        change_shop(Shop(), hand_room=0.5),
        Shop(room=box_room(6, 4)),
        put(Shop(), block("b", 1, 1, 1, 1, 1)),
    ):
        assert in_units(shop, "metric") == change_shop(shop, units="metric")
        assert in_units(in_units(shop, "metric"), "imperial") == shop


def test_what_comes_from_the_catalogue_has_even_figures_near_its_own() -> None:
    things = [make_thing(kind, "x") for kind in kinds()]
    fixtures = [make_fixture(kind, "x", 0.0, 0.0) for kind in fixture_kinds()]
    openings = [make_opening(kind, "x", "A") for kind in opening_kinds()]
    for items, names, step in ((things, ("width", "depth", "height"), 5), (fixtures, ("width", "depth"), 10)):
        for item in items:
            for name in names:
                was, now = 1000 * getattr(item, name), 1000 * getattr(evenly(item, "metric"), name)
                assert (now > 0 and abs(now - was) <= step / 2) or now == step
                assert now % step == pytest.approx(0.0, abs=1e-3) or now % step == pytest.approx(step)
    for opening in openings:
        even = evenly(opening, "imperial")
        assert (even.width / 0.0127) % 1 == pytest.approx(0.0, abs=1e-3)
        assert even.sill < even.head and (even.sill == 0.0) == (opening.sill == 0.0)
    door = evenly(make_opening("swing", "door", "A"), "metric")
    assert door.width == 0.86 and make_opening("swing", "door", "A").width == pytest.approx(34 * 0.0254)
