"""Each rule fires with its figures where it should and is quiet where it should not."""

from dataclasses import replace

import pytest

from purvel.catalogue import captures, make_thing, operations
from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review import Answers, Finding, Grade, Memory, review
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.place.answers import PlaceAnswers
from purvel.review.reviewing import first_review
from purvel.review.room.answers import RoomAnswers
from purvel.shop import (
    Ducts,
    Fixture,
    Gate,
    GateSet,
    Join,
    Opening,
    PortRef,
    Run,
    Session,
    Shop,
    Vertex,
    Wall,
    WorkInterval,
)
from purvel.shop.edits import change, change_air, change_ducts, change_room, move_thing, put
from tests.conftest import block, box_room


def fired(shop: Shop, rule: str) -> list[Finding]:
    """What a rule finds that needs no long search."""
    return [one for one in first_review(shop, Memory()).findings if one.rule == rule]


def grade(shop: Shop, rule: str) -> Grade | None:
    found = fired(shop, rule)
    return min(one.grade for one in found) if found else None


def v(x: float, y: float, z: float) -> Vertex:
    return Vertex(x=x, y=y, z=z)


@pytest.fixture
def piped(small_shop: Shop) -> Shop:
    """The small shop with a collector, a main, and a drop to the saw through a gate."""
    shop = put(small_shop, make_thing("collector", "collector", 0.6, 0.4))
    main = Run(
        id="main",
        name="Main",
        diameter=0.125,
        source="collector",
        points=(v(1.8, 0.4, 0.65), v(1.8, 0.4, 2.1), v(1.8, 4.0, 2.1)),
    )
    drop = Run(
        id="drop",
        name="Drop",
        diameter=0.1,
        joins=Join(run="main"),
        points=(v(2.7, 3.6, 2.1), v(2.7, 3.6, 0.3)),
        port=PortRef(thing="saw", port="cabinet"),
        gates=(Gate(id="gate", at=0.4),),
    )
    return replace(shop, ducts=Ducts(runs=(main, drop), target="chips"))


@pytest.fixture
def two_drops(piped: Shop) -> Shop:
    """A second machine on the main, behind a gate of its own."""
    drop = Run(
        id="planer-drop",
        diameter=0.1,
        joins=Join(run="main", at=4.0),
        port=PortRef(thing="planer", port="hood"),
        gates=(Gate(id="planer-gate", name="Planer gate", at=0.2),),
    )
    return put(put(piped, make_thing("planer", "planer", 3.4, 1.5)), drop)


def test_an_empty_shop_has_nothing_to_say() -> None:
    assert review(Shop()).findings == ()


def test_room_rules(small_shop: Shop) -> None:
    assert grade(small_shop, "closing-gap") == Grade.GOOD
    walls = small_shop.room.walls
    slipped = change_room(small_shop, walls=(*walls[:2], replace(walls[2], length=5.7), walls[3]))
    (gap,) = fired(slipped, "closing-gap")
    assert (
        gap.grade == Grade.MEND and gap.figures["gap"] == pytest.approx(0.3) and gap.where.items == ("A", "C")
    )
    assert fired(change_room(small_shop, walls=walls[:2]), "room-open")[0].figures["gap"] > 5
    paced = change_room(small_shop, walls=(replace(walls[0], provenance="paced"), *walls[1:]))
    assert fired(paced, "walls-guessed")[0].where.items == ("A",)
    crossed = Shop(
        room=replace(
            box_room(),
            walls=tuple(
                Wall(id=n, length=x, turn=t)
                for n, x, t in (("A", 4, 135), ("B", 5.6569, -135), ("C", 4, -135), ("D", 5.6569, 0))
            ),
        )
    )
    assert grade(crossed, "walls-cross") == Grade.STOP
    assert grade(change_room(small_shop, openings=()), "no-entry") == Grade.MEND
    door = small_shop.room.openings[0]
    assert fired(put(small_shop, replace(door, width=0.6)), "way-out-narrow")[0].figures["width"] == 0.6
    assert fired(put(small_shop, replace(door, offset=4.5)), "opening-off-wall")[0].figures[
        "over"
    ] == pytest.approx(0.4)
    assert grade(put(small_shop, replace(door, head=2.6)), "opening-too-tall") == Grade.MEND
    second = replace(door, id="other", offset=1.0)
    assert fired(put(small_shop, second), "openings-overlap")[0].figures["shared"] == pytest.approx(0.2)
    heater = Fixture(id="h", kind="heater", x=1, y=1, width=0.5, depth=0.5, flame=True)
    assert grade(change_room(small_shop, fixtures=(heater,)), "flame") == Grade.WATCH


def test_bodies_and_lanes(small_shop: Shop) -> None:
    assert fired(small_shop, "bodies-overlap") == []
    into = move_thing(small_shop, "bench", 3.0, 2.2)
    (clash,) = fired(into, "bodies-overlap")
    assert clash.grade == Grade.STOP and clash.figures["depth"] > 0.3
    assert grade(move_thing(small_shop, "bench", 6.0, 2.0), "outside-room") == Grade.STOP
    assert grade(change(small_shop, "bench", height=3.0), "too-tall") == Grade.STOP
    assert grade(small_shop, "lane") == Grade.GOOD
    longer = replace(small_shop, stock=replace(small_shop.stock, length=2.4))
    (short,) = fired(longer, "lane")
    assert short.grade == Grade.MEND and short.figures["longest_board"] == pytest.approx(2.0)
    blocked = put(small_shop, block("tall", 3.0, 3.1, 0.5, 0.2, 1.5))
    assert grade(blocked, "lane") == Grade.STOP
    assert "tall" in fired(blocked, "lane")[0].where.items


def test_a_table_behind_the_saw(small_shop: Shop) -> None:
    table = make_thing("outfeed-table", "table", 3.0, 3.3)
    for height, expected in ((0.866, Grade.MEND), (0.858, Grade.GOOD), (0.845, Grade.WATCH)):
        shop = put(small_shop, replace(table, height=height))
        (one,) = fired(shop, "support-level")
        assert one.grade == expected and one.figures["step"] == pytest.approx(height - 0.86)
    assert fired(put(small_shop, replace(table, height=0.5)), "support-level") == []


def test_standing_room_ways_and_doors(small_shop: Shop) -> None:
    backwards = change(small_shop, "bench", angle=0.0)
    # the zone runs from y = 0.15 down to -0.75: five sixths of it lie behind wall A
    assert fired(backwards, "standing-room")[0].figures["share"] == pytest.approx(5 / 6)
    assert grade(small_shop, "aisle") in (Grade.GOOD, Grade.WATCH)
    walled = put(small_shop, block("wall", 1.6, 2.5, 0.2, 5.0, 2.0))
    (cut,) = fired(walled, "cut-off")  # one card for what one thing cuts off
    assert cut.grade == Grade.STOP and cut.where.items == ("wall", "saw", "bench") and cut.about == ("wall",)
    assert "2 places to work are cut off by wall: Table saw, Workbench" in cut.sentence
    assert fired(walled, "aisle") == []
    alone = replace(walled, things=tuple(one for one in walled.things if one.id != "bench"))
    assert grade(alone, "aisle") == Grade.STOP and fired(alone, "cut-off") == []
    in_swing = put(small_shop, block("crate", 0.4, 4.3, 0.4, 0.4, 0.5))
    assert fired(in_swing, "door-swing")[0].where.items == ("crate", "door")
    panel = Fixture(
        id="panel", kind="panel", x=0.06, y=1.5, angle=-90, width=0.4, depth=0.12, bottom=1.2, top=1.9
    )
    shop = change_room(put(small_shop, block("crate", 0.5, 1.5, 0.4, 0.4, 0.5)), fixtures=(panel,))
    assert grade(shop, "panel-space") == Grade.STOP
    bay = Fixture(id="bay", kind="parking bay", x=1.2, y=1.2, width=1.4, depth=1.4)
    assert (
        grade(
            change_room(put(small_shop, block("crate", 1.5, 1.5, 0.4, 0.4, 0.5)), fixtures=(bay,)),
            "bay-blocked",
        )
        == Grade.MEND
    )
    assert (
        grade(
            change_room(
                put(small_shop, block("crate", 1.5, 1.5, 0.4, 0.4, 0.5, wheels=True)), fixtures=(bay,)
            ),
            "bay-blocked",
        )
        == Grade.GOOD
    )
    roll = Opening(id="roll", kind="roll-up", wall="C", offset=1.0, width=2.4, head=2.1)
    assert (
        grade(put(put(small_shop, block("high", 4.0, 4.5, 0.5, 0.5, 2.3)), roll), "overhead-door")
        == Grade.MEND
    )
    behind = put(small_shop, make_thing("workbench", "other", 3.0, 0.4, 180.0))
    assert [one.where.items for one in fired(behind, "kickback-line")] == [("other", "saw")]


def test_duct_rules(piped: Shop) -> None:
    assert grade(piped, "hood-flow") == Grade.GOOD
    assert grade(piped, "chips-move") in (Grade.GOOD, Grade.WATCH)
    fine = change_ducts(piped, target="fine")
    assert grade(fine, "hood-flow") == Grade.WATCH
    narrow = change(piped, "drop", diameter=0.063)
    (starved,) = fired(narrow, "hood-flow")
    assert starved.grade <= Grade.MEND and starved.figures["flow"] < 0.9 * starved.figures["chips"]
    wide = change(piped, "main", diameter=0.2)
    (slow,) = fired(wide, "chips-move")
    assert slow.grade == Grade.MEND and slow.figures["speed"] < slow.figures["least"]
    assert grade(change(piped, "main", material="snap-lock"), "duct-collapse") is not None
    assert fired(piped, "duct-collapse") == []
    for points in (
        (v(1.2, 0.4, 0.65), v(1.2, 0.4, 2.1), v(1.2, 4.0, 2.1)),
        (v(1.2, 0.4, 0.65), v(1.2, 4.0, 0.65)),
    ):
        bent = change(piped, "main", points=points)
        assert fired(bent, "inlet-straight")[0].figures["diameters"] == pytest.approx(0.1 / 0.125, rel=0.01)
    assert fired(piped, "inlet-straight") == []
    roll = Opening(id="roll", kind="roll-up", wall="A", offset=1.0, width=2.4, head=2.0, headroom=0.4)
    assert grade(put(piped, roll), "duct-in-door") == Grade.STOP
    level = change(
        piped, "main", points=(v(1.2, 0.4, 0.65), v(1.2, 0.4, 2.1), v(1.2, 4.0, 2.1)), diameter=0.125
    )
    for offset, about in (
        (1.26, [("main", "roll")]),
        (1.27, []),
    ):  # beside it as thick as the pipe is, or by more
        beside = fired(put(level, replace(roll, offset=offset)), "duct-in-door")
        assert [one.about for one in beside if one.about[0] == "main"] == about
    assert grade(change(piped, "drop", material="sewer-pipe"), "plastic-duct") == Grade.WATCH
    hose = change(piped, "drop", material="ribbed-hose", slack=0.2)
    assert fired(hose, "hose-long")[0].figures["length"] > 2.0
    assert grade(piped, "curve-representative") == Grade.WATCH
    loose = change_ducts(piped, runs=(*piped.ducts.runs, Run(id="loose", points=(v(4, 4, 2), v(5, 4, 2)))))
    assert fired(loose, "run-loose")[0].about == ("loose",)
    stub = change(piped, "main", points=(*piped.ducts.runs[0].points, v(1.8, 4.8, 2.1)))
    stub = change(stub, "drop", joins=Join(run="main", at=3.0))
    assert grade(stub, "run-capped") == Grade.WATCH
    alone = change_ducts(piped, runs=piped.ducts.runs[:1])
    assert grade(alone, "no-hood") == Grade.MEND
    assert [one.about for one in fired(alone, "port-free")] == [("saw",)]
    vac = replace(make_thing("vac", "collector", 0.6, 0.4))
    assert fired(put(piped, vac), "vac-on-wide-duct")[0].figures["speed"] < 10


def test_air_rules(small_shop: Shop) -> None:
    def work(minutes: float, capture: str, thing: str | None = None) -> WorkInterval:
        return WorkInterval(
            id="w",
            operation="table-saw",
            thing=thing,
            start=5,
            minutes=minutes,
            emission=operations()["table-saw"].band,
            capture=captures()[capture].share,
        )

    heavy = change_air(small_shop, session=Session(minutes=240, work=(work(120, "none"),)))
    (over,) = fired(heavy, "exposure")
    assert over.grade == Grade.MEND and over.figures["personal_8h"] > over.figures["limit"]
    light = change_air(small_shop, session=Session(minutes=60, work=(work(1, "saw-both"),)))
    assert grade(light, "exposure") in (Grade.GOOD, Grade.WATCH)
    assert grade(heavy, "clearing") in (Grade.WATCH, Grade.MEND)
    assert fired(heavy, "cleaner")[0].figures["delivery"] == 0
    cleaned = put(heavy, make_thing("air-cleaner", "cleaner", 3, 3))
    assert fired(cleaned, "cleaner")[0].grade == Grade.GOOD
    assert fired(heavy, "respirator")[0].grade == Grade.WATCH
    trusting = change_air(small_shop, session=Session(minutes=240, work=(work(10, "saw-below", "saw"),)))
    assert grade(trusting, "capture-assumed") == Grade.MEND


@pytest.mark.parametrize(("name", "least"), [("garage", 18), ("spare-room", 9)])
def test_the_demos_mistakes_are_found_and_their_mended_copies_are_clean(name: str, least: int) -> None:
    assert review(loads(demo_bytes(name)).shop).to_mend() >= least
    assert [
        one.sentence
        for one in review(loads(demo_bytes(f"{name}-mended")).shop).findings
        if one.grade <= Grade.MEND
    ] == []


def test_every_finding_is_whole() -> None:
    for name in ("garage", "spare-room"):
        found = review(loads(demo_bytes(name)).shop).findings
        assert len({one.key for one in found}) == len(found)
        for one in found:
            assert one.sentence.endswith(".") and one.why and one.basis.text, one
            assert "safe" not in f"{one.sentence} {one.why} {one.basis.text}".lower()
            assert ".." not in one.sentence and "nan" not in one.sentence
        assert [one.grade for one in found] == sorted(one.grade for one in found)


def test_sentences_follow_the_readers_units(piped: Shop) -> None:
    metric = fired(piped, "hood-flow")[0]
    imperial = fired(replace(piped, units="imperial"), "hood-flow")[0]
    assert "m³/h" in metric.sentence and "cfm" in imperial.sentence
    assert metric.figures == imperial.figures


def test_answers_are_kept_until_their_parts_change(small_shop: Shop) -> None:
    memory = Memory()
    first = Answers(small_shop, memory)
    networks, lanes = first.of(DuctAnswers).networks, first.of(PlaceAnswers).lanes
    moved = Answers(move_thing(small_shop, "bench", 4.5, 0.5), memory)
    assert moved.of(DuctAnswers).networks == networks  # the bench has no port
    assert moved.of(PlaceAnswers).lanes is not lanes
    assert Answers(small_shop, memory).of(RoomAnswers).traverse is first.of(RoomAnswers).traverse


def choice_names(shop: Shop) -> dict[str, str]:
    ducts = Answers(shop, Memory()).of(DuctAnswers)
    return {one.id: ducts.choice_name(one.id) for one in ducts.networks[0].sets}


def test_gate_choices_of_one_name_are_told_apart(piped: Shop) -> None:
    gates = tuple(gate.id for run in piped.ducts.runs for gate in run.gates)
    both = tuple(GateSet(id=one, name="Table saw alone", open=gates) for one in ("one", "two"))
    named = choice_names(change_ducts(piped, gate_sets=both))
    assert named == {"one": "Table saw alone", "two": "Table saw alone (2)"}


def test_gate_choices_are_the_users_and_each_hood_alone(piped: Shop) -> None:
    checked = review(change_ducts(piped, gate_sets=(GateSet(id="mine", name="Mine", open=("gate",)),)))
    assert choice_names(checked.shop) == {"mine": "Mine"}
    assert choice_names(piped) == {"alone/saw/cabinet": "Table saw alone"}


def test_a_flow_is_a_range_as_far_as_hose_and_curve_are_not_known() -> None:
    answers = Answers(loads(demo_bytes("garage")).shop, Memory())
    (network,) = answers.of(DuctAnswers).networks
    for which, one in enumerate(network.sets):
        for column, hood in enumerate(one.hoods):
            spread = network.ranges[which][column]
            assert spread[0] <= spread[1]
            if hood.is_open and network.layout.segments[hood.segment].role == "hose":
                assert spread[0] < hood.flow < spread[1]
    shop = answers.shop
    piped = replace(
        shop,
        ducts=replace(shop.ducts, runs=tuple(replace(run, material="spiral") for run in shop.ducts.runs)),
    )
    (bare,) = Answers(piped, Memory()).of(DuctAnswers).networks
    narrower = [high - low for low, high in bare.ranges[0]], [high - low for low, high in network.ranges[0]]
    assert all(0 < pipe < hose for pipe, hose in zip(*narrower))  # the representative curve's alone
    collector = piped.thing("collector")
    assert collector is not None and collector.source is not None
    known = change(piped, "collector", source=replace(collector.source, curve_from="maker"))
    assert [one.ranges for one in Answers(known, Memory()).of(DuctAnswers).networks] == [()]
    starved = next(
        one for one in review(shop).findings if one.rule == "hood-flow" and one.about == ("planer/hood",)
    )
    assert " to " in starved.sentence.split("with")[0]
