"""The table of parts: it knows every collection of the document, and what it says of references is what
happens.
"""

from dataclasses import fields, is_dataclass, replace
from typing import Any

import pytest

from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.shop import Attachment, PortRef, Shop, Slope
from purvel.shop.edits import put, remove, slope_ceiling
from purvel.shop.faults import faults
from purvel.shop.parts import PARTS, find, ids_of, item_of, lost, name_of, part_of, without_lost
from purvel.shop.power import Appliance
from purvel.shop.scene import Pose, Scene


def full() -> Shop:
    shop = slope_ceiling(loads(demo_bytes("garage")).shop, "C", Slope(wall="C", low=1.8, run=1.0))
    pose = Pose(thing="planer", x=1.0, y=1.0, state="put away")
    night = Scene(id="full-night", name="All in", poses=(pose,), opened=("car-door",), parked=("bay",))
    log = Attachment(id="log", name="log.csv", kind="log", sha256="0" * 64)
    heater = Appliance(id="room-heater", circuit="circuit-2")
    power = replace(shop.power, appliances=(heater,))
    return replace(shop, scenes=(*shop.scenes, night), attachments=(*shop.attachments, log), power=power)


def with_ids(value: object) -> set[type]:
    """The classes of all items with an id that lie in tuples below a value."""
    found: set[type] = set()
    if isinstance(value, tuple):
        found |= {type(one) for one in value if hasattr(one, "id")}
        for one in value:
            found |= with_ids(one)
    elif is_dataclass(value):
        for field in fields(value):
            found |= with_ids(getattr(value, field.name))
    return found


def test_every_collection_of_items_is_in_the_table() -> None:
    held = {part.kind for part in PARTS} | {type(port) for thing in full().things for port in thing.ports}
    assert with_ids(full()) <= held
    assert len({part.key for part in PARTS}) == len(PARTS)
    keys = {part.key for part in PARTS}
    assert all(to in keys for part in PARTS for ref in part.refs for to in ref.to.split(" or "))


@pytest.mark.parametrize("part", PARTS, ids=lambda part: part.key)
def test_what_is_read_can_be_written_back_and_looked_up(part: Any) -> None:
    shop = full()
    items = part.get(shop)
    assert items, part.key
    assert part.put(shop, items) == shop
    for item in items:
        assert part_of(item) is part
        assert find(shop, part.id_of(item)) == (part, item)
        assert name_of(shop, part.id_of(item))
        assert (item_of(shop, part.id_of(item)) is not None) == part.pickable


@pytest.mark.parametrize("part", PARTS, ids=lambda part: part.key)
def test_what_is_taken_away_is_referred_to_no_more(part: Any) -> None:
    shop = full()
    for item in part.get(shop):
        after = remove(shop, part.id_of(item))
        assert part.id_of(item) not in ids_of(after)
        assert list(lost(after)) == [] and faults(after) == []


def test_what_is_lost_is_named_and_dropped_or_goes_too() -> None:
    shop = full()
    run = shop.ducts.runs[1]
    broken = put(shop, replace(run, port=PortRef(thing="planer", port="gone")))
    assert [(part.key, ref.to, wanted) for part, _, ref, wanted in lost(broken)] == [
        ("run", "port", "planer/gone")
    ]
    assert [fault.item for fault in faults(broken)] == [run.id]
    mended = without_lost(broken)
    assert mended.ducts.runs[1] == replace(run, port=None)
    assert without_lost(mended) is mended  # nothing lost: the very same shop


def test_what_can_be_picked() -> None:
    pickable = {part.key for part in PARTS if part.pickable}
    assert {part.key for part in PARTS} - pickable == {"slope", "gate", "port", "gate set", "attachment"}


def test_a_source_must_be_one() -> None:
    shop = full()
    (fault,) = faults(put(shop, replace(shop.ducts.runs[0], source="planer")))
    assert fault.item == "main" and "starts at a source “planer” that is not there" in fault.sentence


def test_names_are_as_one_says_them() -> None:
    shop = full()
    assert name_of(shop, "A") == "wall A"
    assert name_of(shop, "car-door") == "the roll-up door in wall A"
    assert name_of(shop, "window") == "the window in wall C"
    assert name_of(shop, "planer") == "Planer"
    assert name_of(shop, "nobody") == "nobody"
