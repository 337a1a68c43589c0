"""What is said of a scene: whether what is moved gets there, the car."""

from dataclasses import replace

import pytest

from purvel.review import Finding, Grade, Memory, remedies_for, review
from purvel.review.place.answers import PlaceAnswers
from purvel.review.reviewing import first_review
from purvel.shop import Fixture, Opening, Shop
from purvel.shop.edits import change, change_room, change_shop, put
from purvel.shop.scene import Pose, Scene
from tests.conftest import block


def found(shop: Shop, rule: str, scene: str | None = "s") -> list[Finding]:
    return [one for one in review(shop, scene=scene).findings if one.rule == rule]


def with_scene(shop: Shop, *poses: Pose, **more: object) -> Shop:
    return change_shop(shop, scenes=(Scene(id="s", name="Night", poses=poses, **more),))  # type: ignore[arg-type]


@pytest.fixture
def rolling(small_shop: Shop) -> Shop:
    """A cart on castors at the left wall, which stands at the right wall at night."""
    cart = block("cart", 0.5, 2.5, 0.8, 0.4, 0.9, wheels=True)
    return with_scene(put(small_shop, cart), Pose(thing="cart", x=5.4, y=4.5, angle=90.0))


def test_what_is_rolled_to_its_place_and_in_which_order(rolling: Shop) -> None:
    (said,) = found(rolling, "roll-out")
    assert said.grade == Grade.GOOD and said.where.items == ("cart",)
    assert said.sentence.startswith("For “Night” cart (")
    assert said.figures["length"] == pytest.approx(5.3, abs=0.4)
    (back,) = found(rolling, "roll-out", None)
    assert back.sentence.startswith("Cart (")
    assert back.sentence.endswith(") can be rolled back from where it stands in “Night”.")
    assert back.figures["length"] == pytest.approx(said.figures["length"], abs=0.1)
    other = block("other", 0.5, 4.5, 0.5, 0.5, 0.9, wheels=True)
    pose = Pose(thing="other", x=1.5, y=1.0)
    two = with_scene(put(rolling, other), *rolling.scenes[0].poses, pose)
    (said,) = found(two, "roll-out")
    assert ", then other (" in said.sentence and "from where they stand as drawn" in said.sentence


def test_it_is_rolled_from_every_other_scene_too(rolling: Shop) -> None:
    """As drawn the cart stands behind shelves from wall to wall; in “Milling” it is on the right side, in
    “Sheets” on the left.
    """
    shop = put(rolling, block("shelves", 3.0, 2.5, 0.3, 4.9, 2.0))
    scenes = (
        *rolling.scenes,
        Scene(id="m", name="Milling", poses=(Pose(thing="cart", x=4.5, y=2.0),)),
        Scene(id="p", name="Sheets", poses=(Pose(thing="cart", x=1.5, y=4.0),)),
    )
    good, stuck = sorted(found(change_shop(shop, scenes=scenes), "roll-out"), key=lambda one: -one.grade)
    assert (
        stuck.grade == Grade.MEND and "from where it stands as drawn: shelves is in the way" in stuck.sentence
    )
    assert "Nor from where it stands in “Sheets”." in stuck.why and "Milling" not in stuck.why
    assert "from where it stands in “Milling”" in good.sentence and "From where" not in good.why
    free = change_shop(rolling, scenes=scenes)
    (all_ways,) = found(free, "roll-out")
    assert (
        " From where they stand in “Milling”: cart (" in all_ways.why
        and " From where they stand in “Sheets”: cart (" in all_ways.why
    )
    assert found(free, "roll-out", "m")[0].sentence.startswith("For “Milling” cart (")


def test_what_is_in_the_way_is_named(rolling: Shop) -> None:
    wall = block("shelves", 3.0, 2.5, 0.3, 4.9, 2.0)
    (stuck,) = found(put(rolling, wall), "roll-out")
    assert stuck.grade == Grade.MEND and "shelves is in the way" in stuck.sentence
    assert stuck.where.items == ("cart", "shelves")


def test_castors_are_offered_to_what_would_have_to_turn(rolling: Shop) -> None:
    shop = change(rolling, "cart", castors=False)
    (stuck,) = found(shop, "roll-out")
    assert "has no castors" in stuck.sentence
    answers = first_review(shop, Memory(), "s").answers
    (cure,) = remedies_for(stuck, answers)
    assert cure.label == "Put cart on castors that turn"
    assert found(cure.edit(shop), "roll-out")[0].grade == Grade.GOOD


def test_cars_that_come_for_the_night_are_not_in_the_way_of_what_is_moved_before(small_shop: Shop) -> None:
    bay = Fixture(id="bay", kind="parking bay", x=3.0, y=2.5, width=2.4, depth=4.8, top=2.0)
    cart = block("cart", 0.5, 2.5, 0.8, 0.4, 0.9, wheels=True)
    shop = change_room(change_shop(small_shop, things=(cart,)), fixtures=(bay,))
    night = with_scene(shop, Pose(thing="cart", x=5.5, y=2.5), parked=("bay",))
    assert [one.grade for one in found(night, "roll-out")] == [Grade.GOOD]
    always = change_room(night, fixtures=(replace(bay, taken=True),))
    assert [one.grade for one in found(always, "roll-out")] == [Grade.MEND]


def test_the_car_gets_in_and_somebody_out(small_shop: Shop) -> None:
    bay = Fixture(id="bay", kind="parking bay", x=3.0, y=2.6, width=2.4, depth=4.6, top=2.0, taken=True)
    door = Opening(id="gate", kind="roll-up", wall="A", offset=1.8, width=2.4, head=2.1)
    lamp = block("lamp", 5.5, 4.5, 0.2, 0.2, 1.0)
    shop = change_room(change_shop(small_shop, things=(lamp,)), fixtures=(bay,), openings=(door,))
    assert found(shop, "car-way", None) == found(shop, "car-door", None) == []
    box = block("box", 3.0, 0.2, 0.3, 0.3, 0.5)
    (way,) = found(put(shop, box), "car-way", None)
    assert (
        way.grade == Grade.MEND and way.about == ("bay", "box") and "where the car drives in" in way.sentence
    )
    (none,) = found(change_room(shop, openings=()), "car-way", None)
    assert none.grade == Grade.WATCH
    shut = put(put(shop, block("l", 1.7, 2.5, 0.6, 4.6, 1.0)), block("r", 4.3, 2.5, 0.6, 4.6, 1.0))
    (door_shut,) = found(shut, "car-door", None)
    assert "Nobody gets out of the car" in door_shut.sentence
    away = change_room(shut, fixtures=(replace(bay, taken=False),))
    assert found(away, "car-door", None) == []
    assert first_review(away, Memory()).answers.of(PlaceAnswers).cars == []


def test_while_nobody_works_no_work_is_judged(small_shop: Shop) -> None:
    """A car in the saw's lane: a Stop while one works, nothing while one sleeps, but for the car itself."""
    bay = Fixture(id="bay", kind="parking bay", x=1.2, y=2.5, width=1.8, depth=4.0, top=2.0)
    shop = change_room(change(small_shop, "saw", angle=90.0, x=2.6), fixtures=(bay,))
    awake, asleep = (with_scene(shop, parked=("bay",), asleep=one) for one in (False, True))
    assert [one.grade for one in found(awake, "lane")] == [Grade.STOP]
    rules = {one.rule for one in review(asleep, scene="s").findings}
    assert rules.isdisjoint({"lane", "standing-room", "aisle", "light", "circuit", "kickback-line", "sides"})
    assert "car-way" in rules
