"""What a search for a nudge asks for quickly is what the rules find."""

import random

import pytest

from purvel.catalogue import make_thing
from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review import Figures, Memory
from purvel.review.answers import Answers
from purvel.review.finding import Finding, Grade
from purvel.review.place.answers import PlaceAnswers
from purvel.review.place.keep_free import bay, doors, panels, space_of
from purvel.review.place.lane_rules import lane_grade, lanes
from purvel.review.place.rules import quick_findings, standing_grade
from purvel.review.place.thrown_rules import lines_of_throw, throw_grade
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Shop
from purvel.shop.edits import change_room, move_thing, put
from purvel.space.standing_room import standing_room

SAY = Figures("metric")


def moved(shop: Shop, rng: random.Random) -> Shop:
    """The shop with one thing somewhere else."""
    thing = rng.choice(shop.things)
    x, y = thing.x + rng.uniform(-1.5, 1.5), thing.y + rng.uniform(-1.5, 1.5)
    return move_thing(shop, thing.id, x, y, rng.choice((0.0, 90.0, thing.angle)))


@pytest.mark.parametrize("name", ["garage", "single-garage"])
def test_what_stands_in_a_space_that_is_kept_free(name: str) -> None:
    shop, rng, seen = loads(demo_bytes(name)).shop, random.Random(5), set[str]()
    for _ in range(40):
        shop = moved(shop, rng)
        answers = Answers(shop, Memory())
        found: list[Finding] = [one for rule in (doors, panels, bay) for one in rule(answers, SAY)]
        blocked = {(one.rule, *one.about) for one in found if len(one.about) == 2}
        owners = {*((one.id, "door-swing") for one in shop.room.openings)}
        owners |= {*((one.id, "overhead-door") for one in shop.room.openings)}
        owners |= {(one.id, "panel-space") for one in shop.room.fixtures if one.kind == "panel"}
        owners |= {(one.id, "bay-blocked") for one in shop.room.fixtures if one.kind == "parking bay"}
        for owner, rule in owners:
            space = space_of(rule, owner, answers)
            assert space is not None
            for thing in shop.things:
                if rule == "bay-blocked" and thing.wheels:
                    continue  # it is rolled out
                assert bool(space.clashes([thing])) == ((rule, thing.id, owner) in blocked)
        seen |= {one[0] for one in blocked}
    assert {"bay-blocked", "panel-space"} <= seen or name != "garage"


def test_of_what_is_not_there_there_is_no_space() -> None:
    answers = Answers(loads(demo_bytes("garage")).shop, Memory())
    assert space_of("bay-blocked", "nothing", answers) is None


def test_one_lane_is_graded_as_among_all() -> None:
    shop, rng = loads(demo_bytes("garage")).shop, random.Random(6)
    for _ in range(15):
        shop = moved(shop, rng)
        place = Answers(shop, Memory()).of(PlaceAnswers)
        for found in lanes(Answers(shop, Memory()), SAY):
            machine = shop.thing(found.about[0])
            assert machine is not None
            assert lane_grade(place.lane(machine)) == found.grade
            assert place.lane(machine) == place.lanes[machine.id]


def test_what_is_in_one_line_of_throw_is_as_among_all() -> None:
    """Who stands behind a saw or before a lathe, the glass there, the door that opens there."""
    shop, rng, seen = loads(demo_bytes("garage")).shop, random.Random(8), set[str]()
    lathe = make_thing("lathe", "lathe", 3.0, 3.0, 0.0)
    shop = put(shop, lathe)
    things, openings = [one.id for one in shop.things], [one.id for one in shop.room.openings]
    for _ in range(60):
        shop = moved(shop, rng)
        answers = Answers(shop, Memory())
        found = {one.about: one.grade for one in lines_of_throw(answers, SAY)}
        for machine in shop.things:
            for item in (*things, *openings):
                other = shop.thing(item)
                one = answers.of(PlaceAnswers).thrown_by(machine, () if other is None else (other,))
                assert throw_grade(one, item) == found.get((machine.id, item), Grade.GOOD)
        seen |= {"lathe" if one[0] == "lathe" else "fed" for one in found}
        seen |= {"opening" if one[1] in openings else "worker" for one in found}
    assert seen == {"lathe", "fed", "opening", "worker"}
    walk = change_room(shop, walls=shop.room.walls[:2])
    assert Answers(walk, Memory()).of(PlaceAnswers).thrown_by(lathe, shop.things) is None  # still open


def test_room_to_stand_is_graded_for_one_as_among_all() -> None:
    shop, rng, seen = loads(demo_bytes("garage")).shop, random.Random(7), set[Grade]()
    for _ in range(40):
        shop = moved(shop, rng)
        answers = Answers(shop, Memory())
        room = answers.of(RoomAnswers).shell
        found = {
            one.about[0]: one.grade for one in quick_findings(answers, SAY) if one.rule == "standing-room"
        }
        for thing in shop.things:
            if thing.stand is not None:
                taken = standing_room(shop.things, room, thing.id)
                grade = standing_grade(max((one.share for one in taken), default=0.0))
                assert grade == found.get(thing.id, Grade.GOOD)
                seen.add(grade)
    assert seen == {Grade.GOOD, Grade.WATCH, Grade.MEND}
