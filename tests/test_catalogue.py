"""The catalogue of kinds: how many, what each says, that nothing stands in two places differently."""

import pytest

from purvel.catalogue import kinds, make_thing, trade_operations, uses
from purvel.catalogue.money import prices
from purvel.catalogue.power import plate_kinds
from purvel.catalogue.upkeep import duty_kinds
from purvel.review import Memory
from purvel.review.reviewing import first_review
from purvel.shop import Shop
from tests.conftest import box_room

GROUPS = ("Machines", "Small-space stand-ins", "Benches and storage", "Dust and air", "Household")


def test_there_are_enough_of_each_sort() -> None:
    count = {group: sum(kind.group == group for kind in kinds().values()) for group in GROUPS}
    assert sum(count.values()) == len(kinds()) >= 60
    assert count["Machines"] >= 25 and count["Small-space stand-ins"] >= 6
    assert count["Benches and storage"] >= 20 and count["Household"] >= 8
    names = [kind.name for kind in kinds().values()]
    assert len(set(names)) == len(names)


@pytest.mark.parametrize("key", kinds())
def test_each_kind_becomes_a_thing_that_can_be_reviewed(key: str) -> None:
    kind, thing = kinds()[key], make_thing(key, "x", 3.0, 3.0)
    assert 0.5 < kind.mass < 2000 and (kind.noise is None or 50 < kind.noise < 110)
    assert (thing.mass, thing.noise, thing.hung, thing.folded_depth) == (
        kind.mass, kind.noise, kind.hung, kind.folded_depth,
    )  # fmt: skip
    assert kind.folded_depth is None or kind.folded_depth < kind.depth
    assert thing.z + thing.height < 2.5 and max(thing.width, thing.depth) < 5.0
    if thing.work_height is not None:
        assert 0.7 <= thing.z + thing.work_height <= 1.15, key  # between hip and chest
        assert thing.work_height <= thing.height + 1e-9
    for port in thing.ports:
        assert (
            abs(port.x) <= thing.width / 2 and abs(port.y) <= thing.depth / 2 and port.z < thing.height + 0.1
        ), key
    found = first_review(Shop(room=box_room(8, 7), things=(thing,)), Memory()).findings
    assert all(one.sentence.endswith(".") for one in found)


def test_what_other_tables_speak_of_is_in_the_catalogue() -> None:
    known = set(kinds())
    assert set(prices()) <= known and set(plate_kinds()) <= known and set(uses()) <= known
    assert {kind for one in trade_operations().values() for kind in one.by} <= known
    at = {kind for duty in duty_kinds().values() for kind in duty.at.split(",")}
    assert at - known <= {"source", "cleaner", "shop", ""}


def test_stand_ins_say_what_they_cannot_do() -> None:
    small = [kind for kind in kinds().values() if kind.group == "Small-space stand-ins"]
    assert all(kind.cannot and not kind.cannot.endswith(".") for kind in small)
    words = " ".join(kind.name for kind in small).lower()
    for wanted in ("guided saw", "flipped-tool", "hand plane", "sled", "drill", "narrow-rip"):
        assert wanted in words
    assert "jigsaw" in kinds()["flipped-tools"].cannot and "hand planer" in kinds()["flipped-tools"].cannot


def test_what_runs_has_a_plate_and_a_price() -> None:
    """All that works wood by current; what has none is worked by hand or hung on the wall."""
    by_hand = {"planing-stop", "planer-sled", "floor-sweep", "bench-nozzle", "floor-wand"}
    works = {key for key, kind in kinds().items() if kind.group in GROUPS[:2] and key not in by_hand}
    assert works <= set(plate_kinds())
    assert works - {"narrow-rip-jig"} <= set(prices())
