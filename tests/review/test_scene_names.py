"""Scenes by their names, the day as a monitor plays it, and a machine's round zone by itself."""

from dataclasses import replace

import numpy as np
import pytest

from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review import Answers, Memory
from purvel.review.air.answers import AirAnswers
from purvel.review.air.played import AFTER, played_day
from purvel.review.place.answers import PlaceAnswers
from purvel.review.scenes import scene_called, scene_name
from purvel.shop import Room, Shop


def garage() -> Shop:
    return loads(demo_bytes("garage")).shop


def test_a_scene_goes_by_its_name_and_by_its_id() -> None:
    shop = garage()
    night = shop.scenes[0]
    assert scene_called(shop, night.id) == scene_called(shop, night.name) == night.id
    assert scene_called(shop, "as drawn") is None
    assert scene_name(shop, None) == "as drawn" and scene_name(shop, night.id) == night.name
    unnamed = replace(shop, scenes=(replace(night, name=""),))
    assert scene_name(unnamed, night.id) == night.id
    with pytest.raises(KeyError):
        scene_called(shop, "noon")


def test_a_monitor_plays_the_day_and_an_hour_more() -> None:
    """Its levels are the day's central ones by size; a collector starts with the work of which something is
    caught.
    """
    shop = garage()
    day, found = Answers(shop, Memory()).of(AirAnswers).day, played_day(shop)
    assert day is not None and found is not None
    last = (day.session_minutes + AFTER) * 60
    assert found.seconds[0] == 0.0 and last - 30 <= found.seconds[-1] <= last
    assert np.array_equal(found.by_size, day.courses["central"].by_size[: len(found.seconds)])
    caught = [one for one in shop.air.session.work if one.capture[1] > 0]
    assert found.starts == tuple(one.start * 60 for one in caught)
    assert 0 < len(caught) <= len(shop.air.session.work)
    assert [(one.high, one.diameter) for one in found.grains] == [
        (size.high, size.diameter) for size in day.sizes
    ]
    assert played_day(replace(shop, room=Room())) is None


def test_a_round_zone_by_itself_is_the_one_among_all() -> None:
    place = Answers(garage(), Memory()).of(PlaceAnswers)
    press = next(thing for thing in garage().things if thing.id == "drill-press")
    assert place.round_zone(press) == place.round_zones["drill-press"]
    saw = next(thing for thing in garage().things if thing.id == "table-saw")
    assert place.round_zone(saw) is None
    opened = replace(garage(), room=replace(garage().room, walls=garage().room.walls[:2]))
    assert Answers(opened, Memory()).of(PlaceAnswers).round_zone(press) is None
