"""The table of parts: it knows every collection of the document, and what it says of references is what
happens.
"""

from dataclasses import fields, is_dataclass, replace
from typing import Any

import pytest

from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.shop import (
    Attachment,
    Cleaner,
    Diagonal,
    Gate,
    HoodPlan,
    Joists,
    NextRoom,
    Offset,
    OwnAdapter,
    Passage,
    Person,
    PortRef,
    Quoted,
    Ran,
    Shop,
    Slope,
    Spell,
    Spot,
    Switched,
    Wall,
    WallHeight,
)
from purvel.shop.air import LogEvent, LogUnit
from purvel.shop.edits import fresh_wall_id, gone_with, put, remove, slope_ceiling
from purvel.shop.faults import faults
from purvel.shop.own_ids import with_own_ids
from purvel.shop.parts import PARTS, find, ids_of, item_of, lost, name_of, part_of, without_lost
from purvel.shop.power import Appliance
from purvel.shop.scene import Pose, Scene
from purvel.shop.upkeep import Entry


def full() -> Shop:
    shop = slope_ceiling(loads(demo_bytes("garage")).shop, "C", Slope(wall="C", low=1.8, run=1.0))
    pose = Pose(thing="planer", x=1.0, y=1.0, state="put away")
    night = Scene(id="full-night", name="All in", poses=(pose,), opened=("car-door",), parked=("bay",))
    log = Attachment(id="log", name="log.csv", kind="log", sha256="0" * 64)
    heater = Appliance(id="room-heater", circuit="circuit-2")
    power = replace(shop.power, appliances=(heater,))
    shop = replace(shop, scenes=(*shop.scenes, night), attachments=(*shop.attachments, log), power=power)
    shop = put(put(shop, Diagonal(id="across", start="A", end="C", length=9.0)), height_at_b())
    ceiling = replace(shop.room.ceiling, joists=Joists(wall="A", spacing=0.6, first=0.3))
    shop = replace(shop, room=replace(shop.room, ceiling=ceiling))
    offsets = (Offset(corner="A", length=3.0), Offset(corner="B", length=4.0))
    shop = put(put(shop, Switched(thing="planer")), Ran(thing="planer", day="2026-11-28", hours=1.0))
    shop = put(shop, OwnAdapter(id="adapter-1", name="Own"))
    shop = put(shop, HoodPlan(id="hood-1", name="Shroud", thing="planer"))
    shop = put(shop, Quoted(id="quote-1", name="Tin & Sons", what="Gate", size=0.1, each=9.5))
    shop = put(put(shop, NextRoom(id="house", name="House")), NextRoom(id="attic"))
    door = Passage(id="way", room="house", opening=shop.room.openings[0].id)
    shop = put(put(shop, door), Passage(id="up", room="attic", other="house"))
    shop = put(shop, Person(id="cook", room="house"))
    cleaner = replace(shop.things[0], id="box", cleaner=Cleaner(flow=0.1, efficiency=(1, 1, 1, 1)))
    shop = put(put(shop, cleaner), Spell(id="runs", thing="box"))
    work = replace(shop.air.session.work[0], gate_set=shop.ducts.gate_sets[0].id)
    shop = put(shop, work)
    shop = put(put(shop, LogEvent(id="cut", log="log")), LogUnit(log="log", column="pm", unit="mg/m³"))
    return put(shop, Spot(id="found", offsets=offsets))


def height_at_b() -> WallHeight:
    return WallHeight(id="high", wall="B", along=1.0, height=2.4)


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


def test_a_spot_lives_with_two_corners_and_not_with_one() -> None:
    third = Spot(id="found", offsets=tuple(Offset(corner=name, length=3.0) for name in "ABC"))
    shop = put(full(), third)
    (spot,) = remove(shop, "C").room.spots
    assert [one.corner for one in spot.offsets] == ["A", "B"]
    assert remove(remove(shop, "C"), "B").room.spots == ()
    assert remove(shop, "A").room.diagonals == () and remove(shop, "B").room.heights == ()


def test_a_reading_that_can_be_none_is_a_fault() -> None:
    same = Diagonal(id="none", start="A", end="A", length=1.0)
    twice = Spot(id="twice", offsets=(Offset(corner="A", length=1.0), Offset(corner="A", length=2.0)))
    said = [fault.sentence for fault in faults(put(put(full(), same), twice))]
    assert (
        len(said) == 2
        and "“none” ends at the corner “A”" in said[0]
        and "2 times from the corner “A”" in said[1]
    )
    lost_one = put(full(), Diagonal(id="lost", start="A", end="Q", length=1.0))
    assert ["“Q”" in fault.sentence for fault in faults(lost_one)] == [True]


def test_what_can_be_picked() -> None:
    pickable = {part.key for part in PARTS if part.pickable}
    assert {part.key for part in PARTS} - pickable == {
        "slope", "joists", "diagonal", "spot", "height", "gate", "port", "gate set", "attachment",
        "switched machine", "count of hours", "line of a quote", "hood", "adapter of one's own",
        "unit of a column",
    }  # fmt: skip


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


def test_a_passage_without_a_name_is_called_by_the_rooms_that_it_joins() -> None:
    shop = put(put(Shop(), NextRoom(id="attic")), NextRoom(id="house", name="the house"))
    for passage, name in (
        (Passage(id="hatch", kind="hatch", room="attic"), "hatch between attic and the shop"),
        (Passage(id="stair", kind="stair", room="house", other="attic"), "stair between the house and attic"),
    ):
        assert name_of(put(shop, passage), passage.id) == name


def test_which_ids_are_shared_with_nobody() -> None:
    """A sloping ceiling goes by its wall, a switch by its machine; every other id is of one item alone."""
    shared = {part.key for part in PARTS if not part.unique}
    assert shared == {"slope", "joists", "switched machine", "count of hours", "unit of a column"}


def test_what_went_and_what_was_left_is_counted() -> None:
    """With the saw its drop and gate stay; with the main all that hangs on it goes: counted one by one."""
    shop = full()
    for item in ("table-saw", "main", "circuit-2", "planer", "A"):
        after = remove(shop, item)
        gone, left = gone_with(shop, after, item)
        for part in PARTS:
            now = {part.id_of(one): one for one in part.get(after)}
            went = [part.id_of(one) for one in part.get(shop) if part.id_of(one) not in now]
            changed = [one for one in part.get(shop) if part.id_of(one) in now and one not in now.values()]
            assert gone.get(part.key, 0) == len([one for one in went if one != item])
            assert left.get(part.key, 0) == len(changed)
    gone, left = gone_with(shop, remove(shop, "main"), "main")
    assert gone["run"] == len(shop.ducts.runs) - 1 and "thing" not in gone and "thing" not in left
    assert gone_with(shop, shop, "main") == ({}, {})


def test_of_two_with_one_id_the_second_is_called_otherwise_and_its_references_follow() -> None:
    """A gate goes by the name of a thing, and stands second of three in a choice of gates that says the same
    word as its name.
    """
    shop = full()
    choice = shop.ducts.gate_sets[0]
    main = shop.ducts.runs[0]
    gates = tuple(Gate(id=name, at=0.5) for name in ("first", "planer", "third"))
    of_three = replace(choice, open=("first", "planer", "third"), name="planer")
    ducts = replace(shop.ducts, runs=(replace(main, gates=gates),), gate_sets=(of_three,))
    after, said = with_own_ids(replace(shop, ducts=ducts))
    assert said == "Two things had one id: the gate “planer” is now “planer-2”."
    assert after.ducts.gate_sets[0] == replace(of_three, open=("first", "planer-2", "third"))
    assert [gate.id for gate in after.ducts.runs[0].gates] == ["first", "planer-2", "third"]
    assert after.things == shop.things
    assert with_own_ids(after) == (after, "")


@pytest.mark.parametrize(("many", "more"), [(3, ""), (4, " and 1 more"), (5, " and 2 more")])
def test_more_than_three_that_were_called_otherwise_are_counted(many: int, more: str) -> None:
    shop = full()
    names = [thing.id for thing in shop.things[:many]]
    gates = tuple(Gate(id=name, at=0.5) for name in names)
    ducts = replace(shop.ducts, runs=(replace(shop.ducts.runs[0], gates=gates),), gate_sets=())
    after, said = with_own_ids(replace(shop, ducts=ducts))
    assert said.endswith(f"the gate “{names[2]}” is now “{names[2]}-2”{more}.")
    assert [gate.id for gate in after.ducts.runs[0].gates] == [f"{name}-2" for name in names]


def test_a_picture_that_is_taken_away_leaves_the_others_of_its_entry() -> None:
    shop = full()
    pictures = tuple(
        Attachment(id=f"pic-{k}", name=f"{k}.png", kind="picture", sha256=f"{k}" * 64) for k in (1, 2)
    )
    entry = Entry(id="seen", day="2026-11-01", text="Dust at the inlet", pictures=("pic-1", "pic-2"))
    upkeep = replace(shop.upkeep, journal=(entry,))
    after = remove(replace(shop, attachments=pictures, upkeep=upkeep), "pic-1")
    assert after.upkeep.journal == (replace(entry, pictures=("pic-2",)),)


def test_nothing_is_no_item() -> None:
    assert item_of(full(), None) is None and item_of(full(), "nobody") is None
    with pytest.raises(KeyError):
        part_of(object())


def test_walls_are_called_by_letters() -> None:
    shop = full()
    assert fresh_wall_id(shop) == "E"
    many = replace(
        shop, room=replace(shop.room, walls=tuple(Wall(id=chr(65 + k), length=1.0) for k in range(26)))
    )
    assert fresh_wall_id(many) == "AA"
    assert fresh_wall_id(put(many, Wall(id="AA", length=1.0))) == "AB"
