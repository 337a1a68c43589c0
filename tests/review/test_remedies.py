"""Remedies were tried and do what they say, the most helpful first."""

import re
from dataclasses import replace
from importlib import import_module
from pathlib import Path

import pytest

from purvel.catalogue import make_thing
from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review import Finding, Grade, Memory, Remedy, remedies_for, review
from purvel.review.air.answers import AirAnswers
from purvel.review.reviewing import Review, first_review
from purvel.review.stages import STAGES
from purvel.shop import (
    Opening,
    Shop,
)
from purvel.shop.edits import change, change_room, move_thing
from purvel.shop.faults import faults
from tests.conftest import block, box_room


@pytest.mark.parametrize(
    ("name", "kept"), [("garage", 9), ("spare-room", 9), ("single-garage", 9), ("single-garage", 1)]
)
def test_moves_were_tried_and_do_what_they_say(name: str, kept: int) -> None:
    """And what is moved makes nothing worse in any stage or scene."""
    shop = loads(demo_bytes(name)).shop
    shop = replace(shop, scenes=shop.scenes[:kept])
    scenes = [None, *(scene.id for scene in shop.scenes)]
    memory = Memory()
    checked = review(shop, memory)
    before = {scene: first_review(shop, memory, scene) for scene in scenes}
    offered = []
    for one in checked.findings if kept > 1 else checked.of("place"):
        moves = remedies_for(one, checked.answers)
        assert len(moves) <= 3 and len({move.label for move in moves}) == len(moves)
        for move in moves:
            offered.append(one)
            edited, scratch = move.edit(shop), memory.scratch()
            assert edited != shop and faults(edited) == []
            does_what_it_says(move, one, checked, edited, scratch)
            if one.stage == "place":
                makes_nothing_worse(move, one, before, edited, scratch)
    assert len({one.rule for one in offered}) >= 4
    assert len([one for one in offered if one.stage == "place"]) >= 5


def does_what_it_says(move: Remedy, one: Finding, checked: Review, edited: Shop, scratch: Memory) -> None:
    searched = any(one.rule == late.rule for late in checked.found_late)
    after = review(edited, scratch) if searched else first_review(edited, scratch)
    same = next((other for other in after.findings if other.key == one.key), None)
    if "gone" in move.outcome:
        assert same is None
    else:
        assert same is not None and same.sentence in move.outcome
        assert same.grade >= one.grade
    stops = {other.key for other in checked.findings if other.grade == Grade.STOP}
    assert not {other.key for other in after.of(one.stage) if other.grade == Grade.STOP} - stops


def makes_nothing_worse(
    move: Remedy, one: Finding, before: dict[str | None, Review], edited: Shop, scratch: Memory
) -> None:
    for scene, reviewed in before.items():
        was = {found.key: found.grade for found in reviewed.findings}
        for found in first_review(edited, scratch, scene).findings:
            worse = found.grade < was.get(found.key, Grade.WATCH)
            assert not worse or found.key == one.key, (move.label, found.sentence)


def test_a_turn_that_sets_a_duct_in_a_door_is_not_offered() -> None:
    """What clears the planer's lane and drags its duct into the door's way, where it hardly clears that."""
    planer = loads(demo_bytes("garage")).shop.thing("planer")
    assert planer is not None
    shop = move_thing(loads(demo_bytes("garage")).shop, "planer", planer.x + 0.15, planer.y)
    checked = first_review(shop, Memory())
    assert not any(one.rule == "duct-in-door" for one in checked.findings)
    turned = change(shop, "planer", angle=planer.angle + 90.0)
    assert any(one.rule == "duct-in-door" for one in first_review(turned, Memory()).findings)
    (lane,) = [one for one in checked.findings if one.rule == "lane" and one.about == ("planer",)]
    for move in remedies_for(lane, checked.answers):
        assert not any(one.rule == "duct-in-door" for one in first_review(move.edit(shop), Memory()).findings)


def test_settled_things_are_left_where_they_are() -> None:
    shop = loads(demo_bytes("garage")).shop
    settled = replace(shop, things=tuple(replace(thing, settled=True) for thing in shop.things))
    checked = review(settled)
    for one in checked.of("place"):
        for move in remedies_for(one, checked.answers):
            after = {thing.id: (thing.x, thing.y, thing.angle) for thing in move.edit(settled).things}
            assert all(after[thing.id] == (thing.x, thing.y, thing.angle) for thing in settled.things)


def test_the_way_to_less_dust_is_ranked_by_how_much_it_helps() -> None:
    checked = review(loads(demo_bytes("garage")).shop)
    (exposure,) = [one for one in checked.findings if one.rule == "exposure"]
    averages = []
    for move in remedies_for(exposure, checked.answers):
        day = review(move.edit(checked.shop)).answers.of(AirAnswers).day
        assert day is not None
        averages.append(day.courses["central"].personal_8h)
    assert averages == sorted(averages) and averages[0] < exposure.figures["personal_8h"]


def test_every_remedy_and_every_progress_belongs_to_a_rule_of_its_stage() -> None:
    for stage in STAGES:
        known = set(re.findall(r'Finding\(\s*"([\w-]+)"', rules_of(stage.key)))
        assert set(stage.remedies) <= known and set(stage.progress) <= set(stage.remedies), stage.key


def rules_of(stage: str) -> str:
    """The text of all modules of a stage: rules may be spread over several."""
    package = import_module(f"purvel.review.{stage}")
    assert package.__file__ is not None
    return "".join(path.read_text() for path in Path(package.__file__).parent.glob("*.py"))


def test_a_bench_that_nobody_gets_to_is_turned_round() -> None:
    checked = review(loads(demo_bytes("spare-room")).shop)
    (finding,) = [one for one in checked.findings if one.rule == "aisle" and one.grade == Grade.STOP]
    moves = remedies_for(finding, checked.answers)
    assert (moves[0].label, moves[0].outcome) == ("Turn Workbench round", "This finding is then gone.")


def test_what_narrows_a_way_is_moved_off_it() -> None:
    """A cabinet 0.55 m from the side wall, across a room 3 m wide, between the door and a drill press."""
    room = box_room(3.0, 5.0)
    door = Opening(id="door", kind="sliding", wall="A", offset=1.0, width=0.9, head=2.0, entry=True)
    things = (block("cabinet", 1.775, 2.0, 2.45, 0.5, 0.9), make_thing("drill-press", "press", 1.5, 4.5))
    checked = review(Shop(units="metric", room=replace(room, openings=(door,)), things=things))
    (finding,) = [one for one in checked.findings if one.rule == "aisle" and one.about == ("press",)]
    assert finding.grade == Grade.MEND and finding.figures["width"] == pytest.approx(0.55, abs=0.03)
    moves = remedies_for(finding, checked.answers)
    assert moves == ()  # it fills the room from wall to wall but for the gap: there is nowhere to
    narrower = replace(checked.shop, things=(block("cabinet", 1.725, 2.0, 2.35, 0.5, 0.9), things[1]))
    checked = review(narrower)
    (finding,) = [one for one in checked.findings if one.rule == "aisle" and one.about == ("press",)]
    (move,) = remedies_for(finding, checked.answers)
    assert move.label == "Move cabinet 100 mm to the right" and move.outcome == "This finding is then gone."


def test_a_door_is_offered_as_the_way_in_and_a_window_is_not(small_shop: Shop) -> None:
    doors = tuple(
        Opening(id=kind, kind=kind, wall="A", offset=offset, width=1.0, head=2.0)
        for kind, offset in (("window", 0.1), ("roll-up", 1.3), ("swing", 2.5))
    )
    checked = review(change_room(small_shop, openings=doors))
    (finding,) = [one for one in checked.findings if one.rule == "no-entry"]
    moves = remedies_for(finding, checked.answers)
    assert [one.label for one in moves] == [
        "Come in by the swing door in wall A",
        "Come in by the roll-up door in wall A",
    ]
    assert [door.id for door in moves[0].edit(checked.shop).room.openings if door.entry] == ["swing"]


def test_good_findings_need_no_moves(small_shop: Shop) -> None:
    checked = review(small_shop)
    assert all(
        remedies_for(one, checked.answers) == () for one in checked.findings if one.grade == Grade.GOOD
    )
