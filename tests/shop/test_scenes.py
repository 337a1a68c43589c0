"""Scenes: the shop as it stands in one, and edits made there carried back into the document."""

from dataclasses import replace
from math import isclose

import pytest
from hypothesis import given
from hypothesis import strategies as st

from purvel.catalogue import make_thing
from purvel.shop import Ducts, Fixture, Gate, GateSet, Opening, Pose, Room, Run, Scene, Shop, Wall
from purvel.shop.edits import change, copy_scene, new_scene, put, remove, set_state
from purvel.shop.faults import faults
from purvel.shop.scenes import carried_back, in_scene, is_asleep, moved_everywhere

SAW = replace(make_thing("table-saw", "saw", 3.0, 2.0), wheels=True)
BENCH = replace(make_thing("workbench", "bench", 1.0, 0.4), depth=0.6, folded_depth=0.2)
RACK = make_thing("timber-rack", "rack", 4.0, 3.0)
WALLS = tuple(Wall(id=name, length=length) for name, length in zip("ABCD", (5, 4, 5, 4)))
DOOR = Opening(id="door", kind="roll-up", wall="A", offset=1.0, width=2.0, head=2.1)
BAY = Fixture(id="bay", kind="parking bay", x=1.5, y=2.0, width=2.0, depth=3.0, top=1.6)
NIGHT = Scene(id="night", name="Night", poses=(Pose(thing="saw", x=4.0, y=1.0, angle=90.0),), parked=("bay",))
DAY = Scene(id="day", name="Day", opened=("door",))
SHOP = Shop(
    room=Room(walls=WALLS, openings=(DOOR,), fixtures=(BAY,)), things=(SAW, BENCH, RACK), scenes=(NIGHT, DAY)
)


def pose(shop: Shop, scene: str, thing: str) -> Pose | None:
    found = next(one for one in shop.scenes if one.id == scene)
    return next((one for one in found.poses if one.thing == thing), None)


def edited(scene: str | None, **changes: object) -> Shop:
    """The document after the saw was changed while a scene was looked at."""
    before = in_scene(SHOP, scene)
    return carried_back(SHOP, scene, before, change(before, "saw", **changes))


def test_a_scene_poses_things_opens_doors_and_parks_cars() -> None:
    night, day = in_scene(SHOP, "night"), in_scene(SHOP, "day")
    saw = night.thing("saw")
    assert saw is not None and (saw.x, saw.y, saw.angle) == (4.0, 1.0, 90.0)
    assert night.room.fixtures[0].taken and not day.room.fixtures[0].taken
    assert day.room.openings[0].is_open and not night.room.openings[0].is_open
    assert night.thing("rack") is RACK  # what does not move is the very same
    assert in_scene(SHOP, None) is SHOP and in_scene(SHOP, "gone") is SHOP


def test_an_open_door_is_shut_in_a_scene_that_does_not_open_it() -> None:
    shop = put(SHOP, replace(DOOR, is_open=True))
    assert shop.room.openings[0].is_open and not in_scene(shop, "night").room.openings[0].is_open


def test_folded_stands_against_its_back_and_put_away_is_not_there() -> None:
    folded = in_scene(set_state(SHOP, "day", "bench", "folded"), "day").thing("bench")
    assert folded is not None and folded.depth == 0.2 and folded.feed is None
    assert isclose(folded.y + folded.depth / 2, BENCH.y + BENCH.depth / 2)  # its back stays where it was
    assert isclose(folded.x, BENCH.x)
    turned = in_scene(put(set_state(SHOP, "day", "bench", "folded"), replace(BENCH, angle=90.0)), "day")
    away = in_scene(set_state(SHOP, "day", "saw", "put away"), "day")
    assert turned.thing("bench") is not None and away.thing("saw") is None and len(away.things) == 2


def test_stowed_and_hung_things_stand_there_but_are_not_worked_at() -> None:
    stowed = in_scene(set_state(SHOP, "day", "saw", "stowed"), "day").thing("saw")
    assert stowed is not None and stowed.feed is None and stowed.stand is None
    assert (stowed.x, stowed.z, stowed.height, stowed.work_height) == (
        SAW.x,
        0.0,
        SAW.height,
        SAW.work_height,
    )
    hung = put(SHOP, replace(SAW, hung=True))
    up = in_scene(set_state(hung, "day", "saw", "hung"), "day").thing("saw")
    assert up is not None and up.z == 1.5 and up.feed is None
    scene = replace(DAY, poses=(Pose(thing="saw", x=2.0, y=2.0, state="hung", z=1.8),))
    assert in_scene(put(hung, scene), "day").thing("saw").z == 1.8  # type: ignore[union-attr]
    assert in_scene(put(SHOP, scene), "day").thing("saw").z == 0.0  # type: ignore[union-attr]  # has no hook


def test_a_hung_thing_that_is_moved_hangs_as_high() -> None:
    hung = put(
        put(SHOP, replace(SAW, hung=True)), replace(DAY, poses=(Pose(thing="saw", state="hung", z=1.8),))
    )
    before = in_scene(hung, "day")
    after = carried_back(hung, "day", before, change(before, "saw", x=4.0))
    moved = pose(after, "day", "saw")
    assert moved is not None and (moved.x, moved.z, moved.state) == (4.0, 1.8, "hung")
    assert after.thing("saw") == hung.thing("saw")


def test_while_a_scene_is_asleep_nobody_works_at_anything() -> None:
    asleep = put(SHOP, replace(NIGHT, asleep=True))
    night = in_scene(asleep, "night")
    assert [(one.feed, one.stand) for one in night.things] == [(None, None)] * 3
    assert night.thing("rack").width == RACK.width and is_asleep(asleep, "night")  # type: ignore[union-attr]
    assert not is_asleep(asleep, None) and not is_asleep(SHOP, "night")
    renamed = carried_back(asleep, "night", night, change(night, "saw", name="Saw"))
    assert renamed.thing("saw") == replace(SAW, name="Saw")  # its feed is still in the document


def test_what_cannot_move_stands_as_drawn_whatever_its_pose_says() -> None:
    shop = put(SHOP, replace(DAY, poses=(Pose(thing="rack", x=0.0, y=0.0, state="put away"),)))
    assert in_scene(shop, "day").thing("rack") is RACK


def test_a_move_in_a_scene_is_kept_there_and_nowhere_else() -> None:
    after = edited("day", x=2.0, angle=180.0)
    assert after.thing("saw") == SAW
    assert pose(after, "day", "saw") == Pose(thing="saw", x=2.0, y=2.0, angle=180.0)
    assert pose(after, "night", "saw") == NIGHT.poses[0]
    assert in_scene(after, "day").thing("saw") == replace(SAW, x=2.0, angle=180.0)


def test_other_changes_in_a_scene_are_made_in_the_document() -> None:
    after = edited("night", name="Big saw", x=4.5)
    saw = after.thing("saw")
    assert saw is not None and (saw.name, saw.x) == ("Big saw", 3.0)
    moved = pose(after, "night", "saw")
    assert moved is not None and (moved.x, moved.y, moved.angle) == (4.5, 1.0, 90.0)


def test_doors_and_bays_switch_in_the_scene_only() -> None:
    before = in_scene(SHOP, "night")
    after = carried_back(
        SHOP, "night", before, change(change(before, "door", is_open=True), "bay", taken=False)
    )
    night, day = after.scenes
    assert (night.opened, night.parked) == (("door",), ()) and day == DAY
    assert not after.room.openings[0].is_open and not after.room.fixtures[0].taken


def test_what_the_scene_hides_is_not_lost_by_an_edit_there() -> None:
    hidden = set_state(SHOP, "day", "saw", "put away")
    before = in_scene(hidden, "day")
    vac = make_thing("vac", "vac", 0.5, 0.5)
    after = carried_back(hidden, "day", before, put(change(before, "rack", name="Rack"), vac))
    assert [thing.id for thing in after.things] == ["saw", "bench", "rack", "vac"]
    assert after.thing("saw") == SAW and in_scene(after, "day").thing("saw") is None


def test_what_the_scene_hides_keeps_its_place_in_the_order() -> None:
    hidden = set_state(put(SHOP, replace(BENCH, hung=True)), "day", "bench", "put away")
    before = in_scene(hidden, "day")
    after = carried_back(hidden, "day", before, put(before, make_thing("vac", "vac", 0.5, 0.5)))
    assert [thing.id for thing in after.things] == ["saw", "bench", "rack", "vac"]


def test_a_choice_of_gates_keeps_the_gates_that_the_scene_hides() -> None:
    there = Run(id="there", gates=(Gate(id="a", at=0.1), Gate(id="b", at=0.2)))
    away = Run(id="away", gates=(Gate(id="c", at=0.1),))
    everything = GateSet(id="all", open=("a", "b", "c"))
    shop = replace(SHOP, ducts=Ducts(runs=(there, away), gate_sets=(everything,)))
    before = remove(in_scene(shop, "day"), "away")
    assert before.ducts.gate_sets[0].open == ("a", "b")
    after = carried_back(shop, "day", before, change(before, "all", open=("b",)))
    assert after.ducts.runs == (there, away)
    assert after.ducts.gate_sets == (GateSet(id="all", open=("b", "c")),)


def test_taken_away_in_a_scene_is_gone_with_its_poses() -> None:
    before = in_scene(SHOP, "day")
    after = carried_back(SHOP, "day", before, remove(before, "saw"))
    assert after.thing("saw") is None and faults(after) == [] and pose(after, "night", "saw") is None


def test_taking_a_scene_away_while_it_is_looked_at() -> None:
    before = in_scene(SHOP, "night")
    assert carried_back(SHOP, "night", before, remove(before, "night")).scenes == (DAY,)


def test_the_state_of_one_thing_leaves_the_pose_of_another() -> None:
    both = set_state(set_state(SHOP, "night", "bench", "folded"), "night", "saw", "put away")
    assert pose(both, "night", "saw") == replace(NIGHT.poses[0], state="put away")
    assert pose(both, "night", "bench") == Pose(thing="bench", x=1.0, y=0.4, state="folded")
    assert (
        set_state(SHOP, "gone", "saw", "folded") is SHOP and set_state(SHOP, "day", "gone", "folded") is SHOP
    )


def test_a_folded_thing_moves_with_its_back() -> None:
    shop = set_state(SHOP, "day", "bench", "folded")
    before = in_scene(shop, "day")
    bench = before.thing("bench")
    assert bench is not None
    after = carried_back(shop, "day", before, change(before, "bench", x=bench.x + 0.3, y=bench.y + 0.1))
    moved = in_scene(after, "day").thing("bench")
    assert moved is not None and isclose(moved.x, bench.x + 0.3) and isclose(moved.y, bench.y + 0.1)
    assert pose(after, "day", "bench") == Pose(thing="bench", x=1.3, y=pytest.approx(0.5), state="folded")


@given(st.sampled_from(["set up", "folded"]), *[st.floats(-3, 3) for _ in range(2)], st.floats(0, 359))
def test_where_a_thing_is_put_in_a_scene_is_where_it_stands(
    state: str, x: float, y: float, angle: float
) -> None:
    shop = set_state(SHOP, "day", "bench", state)  # type: ignore[arg-type]
    before = in_scene(shop, "day")
    put_there = change(before, "bench", x=x, y=y, angle=angle)
    there = in_scene(carried_back(shop, "day", before, put_there), "day").thing("bench")
    assert there is not None
    assert (there.x, there.y, there.angle) == pytest.approx((x, y, angle), abs=1e-9)


def test_what_moves_in_every_scene_is_known() -> None:
    before = in_scene(SHOP, "day")
    after = change(change(before, "rack", x=4.2), "saw", x=2.9)
    assert [thing.id for thing in moved_everywhere(before, after)] == ["rack"]
    moved = carried_back(SHOP, "day", before, after)
    assert [in_scene(moved, one).thing("rack").x for one in (None, "night", "day")] == [4.2] * 3  # type: ignore[union-attr]


def test_new_and_copied_scenes() -> None:
    open_door = put(SHOP, replace(DOOR, is_open=True))
    shop, made = new_scene(open_door, "Milling")
    assert shop.scenes[-1] == Scene(id=made, name="Milling", opened=("door",))
    assert in_scene(shop, made).things == shop.things
    copied, copy = copy_scene(SHOP, "night", "Night again")
    assert copy not in {"night", "day"} and copied.scenes[-1] == replace(NIGHT, id=copy, name="Night again")


@pytest.mark.parametrize(
    ("scene", "says"),
    [
        (Scene(id="x", poses=(Pose(thing="gone"),)), "poses a thing “gone” that is not there"),
        (Scene(id="x", opened=("gone",)), "opens a door or window “gone” that is not there"),
        (Scene(id="x", parked=("gone",)), "parks a car in a bay “gone” that is not there"),
        (Scene(id="night"), "used by 2"),
    ],
)
def test_a_scene_that_does_not_hold_together(scene: Scene, says: str) -> None:
    assert says in faults(replace(SHOP, scenes=(*SHOP.scenes, scene)))[0].sentence


def test_a_run_of_a_thing_that_is_away_comes_back_with_it() -> None:
    shop = replace(SHOP, ducts=replace(SHOP.ducts, runs=(Run(id="pipe", name="Pipe"),)))
    away = set_state(shop, "day", "saw", "put away")
    assert set_state(away, "day", "saw", "set up").scenes[1].poses == (Pose(thing="saw", x=3.0, y=2.0),)
