"""The demo shops: of our own invention, made by the script, with mistakes that the review finds and copies in
which they are mended.
"""

from importlib import import_module
from pathlib import Path

import pytest

from purvel.demo import NAMES, demo_bytes
from purvel.files import loads, saves
from purvel.review import Grade, Memory, Review, review
from purvel.review.air.answers import AirAnswers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.place.answers import PlaceAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.shop.faults import faults

ROOT = Path(__file__).parents[1]
PAIRS = (
    ("garage", "garage-mended"),
    ("spare-room", "spare-room-mended"),
    ("single-garage", "single-garage-mended"),
)


def checked(name: str) -> Review:
    document = loads(demo_bytes(name))
    return review(document.shop, Memory(attachments=document.named()))


def test_the_shipped_files_are_the_ones_that_the_script_makes(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.syspath_prepend(ROOT / "tools")
    demos = import_module("demo_shops").DEMOS
    assert {name: saves(make()) for name, make in demos.items()} == {name: demo_bytes(name) for name in NAMES}


@pytest.mark.parametrize("name", NAMES)
def test_they_hold_together_and_use_every_stage(name: str) -> None:
    shop = loads(demo_bytes(name)).shop
    assert faults(shop) == []
    one = checked(name)
    assert (
        one.answers.of(RoomAnswers).traverse.is_closed
        and one.answers.of(PlaceAnswers).lanes
        and one.answers.of(DuctAnswers).networks
        and one.answers.of(AirAnswers).day is not None
    )


@pytest.mark.parametrize(("with_mistakes", "mended"), PAIRS)
def test_what_is_wrong_in_one_is_mended_in_the_other(with_mistakes: str, mended: str) -> None:
    bad = {one.rule for one in checked(with_mistakes).findings if one.grade <= Grade.MEND}
    left = {one.rule for one in checked(mended).findings if one.grade <= Grade.MEND}
    assert left == set()
    assert len(bad) >= 6
    stages = {one.stage for one in checked(with_mistakes).findings if one.grade <= Grade.MEND}
    assert {"place", "ducts", "air"} <= stages


def test_the_garage_lets_the_car_home_and_the_spare_room_has_only_a_vac() -> None:
    garage = loads(demo_bytes("garage-mended")).shop
    assert any(one.kind == "parking bay" for one in garage.room.fixtures)
    assert [one.grade for one in checked("garage-mended").findings if one.rule == "bay-blocked"] == [
        Grade.GOOD
    ]
    room = checked("spare-room")
    assert 9.0 < room.answers.of(RoomAnswers).floor_area < 12.5  # about 3 by 3.5 m
    assert [thing.source.kind for thing in room.shop.things if thing.source] == ["vac"]


def test_every_gate_choice_of_the_mended_garage_was_solved() -> None:
    for network in checked("garage-mended").answers.of(DuctAnswers).networks:
        assert network.sets and all(one.converged and one.imbalance < 0.1 for one in network.sets)


def test_the_car_sleeps_in_the_mended_one_car_garage() -> None:
    """At night its benches are folded and what has wheels is rolled back; by day all stands and nothing is in
    the way.
    """
    for name, is_hit in (("single-garage", True), ("single-garage-mended", False)):
        shop = loads(demo_bytes(name)).shop
        assert {one.name for one in shop.scenes} == {"Night: car in", "Day: car out, door open"}
        night = review(shop, scene="night")
        hits = [one for one in night.findings if one.rule == "bodies-overlap" and "bay" in one.about]
        assert bool(hits) == is_hit
        (vac,) = (thing for thing in shop.things if thing.source)
        assert vac.source is not None and vac.source.separator is not None and shop.power.service == "230"
    mended = loads(demo_bytes("single-garage-mended")).shop
    folds = {thing.name for thing in mended.things if thing.folded_depth}
    assert folds == {"Wall bench", "Saw stand"}
    day = review(mended, scene="day")
    assert [one for one in day.findings if one.grade <= Grade.MEND] == []


@pytest.mark.parametrize("name", NAMES)
def test_every_demo_has_something_of_every_part_of_the_job(name: str) -> None:
    shop = loads(demo_bytes(name)).shop
    assert shop.jobs and shop.power.circuits and shop.power.luminaires and shop.storage.tools
    assert shop.budget.items and shop.upkeep.duties and shop.upkeep.bin and shop.air.stretches
    assert [one.kind for one in shop.attachments] == ["log"]
