"""The smallest changes that help: places changed, wheels put under; else what would have to go."""

from dataclasses import replace

import pytest

from purvel.catalogue import make_thing
from purvel.review import Finding, Grade, Memory, Remedy, remedies_for
from purvel.review.going import nothing_small, would_go
from purvel.review.reviewing import first_review
from purvel.shop import Feed, Fixture, Opening, Shop, Stock
from purvel.shop.edits import change, change_room, change_shop, put
from tests.conftest import block, box_room, saw
from tests.review.test_rules import fired, grade


def cures(shop: Shop, finding: Finding) -> dict[str, Remedy]:
    answers = first_review(shop, Memory()).answers
    return {one.label: one for one in remedies_for(finding, answers)}


def none_helps(shop: Shop, finding: Finding) -> tuple[tuple[str, ...], str]:
    answers = first_review(shop, Memory()).answers
    return would_go(finding, answers), nothing_small(finding, answers)


@pytest.fixture
def corridor() -> Shop:
    """1.1 m wide: a saw at its end, where boards of 1 m cannot be fed, a cupboard as large in its middle."""
    door = Opening(
        id="door", kind="swing", wall="C", offset=0.1, width=0.8, head=2.0, swing="out", entry=True
    )
    machine = saw(0.55, 0.55, -90.0, width=1.0, depth=1.0, stand=None)
    cupboard = block("cupboard", 3.0, 0.55, 1.0, 1.0, 1.8)
    return Shop(
        name="Corridor",
        units="metric",
        room=box_room(6.0, 1.1, openings=(door,)),
        things=(machine, cupboard),
        stock=Stock(length=1.0, width=0.2, thickness=0.02),
        hand_room=0.3,
    )


def test_two_things_change_places_where_no_shift_helps(corridor: Shop) -> None:
    (lane,) = fired(corridor, "lane")
    assert lane.grade < Grade.GOOD
    found = cures(corridor, lane)
    change_places = found["Let Table saw and cupboard change places"].edit(corridor)
    machine, other = change_places.thing("saw"), change_places.thing("cupboard")
    assert machine is not None and other is not None
    assert (machine.x, machine.angle % 360, other.x, other.angle % 360) == (3.0, 270.0, 0.55, 0.0)
    assert grade(change_places, "lane") > lane.grade


def test_things_of_another_size_and_settled_ones_stay(corridor: Shop) -> None:
    for kept in (
        change(corridor, "cupboard", settled=True),
        change(corridor, "cupboard", width=0.4, depth=0.4),
    ):
        (lane,) = fired(kept, "lane")
        assert not any("change places" in label for label in cures(kept, lane))


def test_what_would_have_to_go_is_said_where_nothing_small_helps(small_shop: Shop) -> None:
    shelf = block("shelf", 3.0, 3.6, 2.9, 0.4, 2.0, settled=True)
    shop = put(change(small_shop, "saw", settled=True), shelf)
    (lane,) = fired(shop, "lane")
    assert cures(shop, lane) == {}
    names, words = none_helps(shop, lane)
    assert names == ("shelf",) and words.endswith("shelf would have to go from there.")
    twice = put(shop, replace(shelf, id="wall", name="wall", y=4.3))
    names, words = none_helps(twice, fired(twice, "lane")[0])
    assert names == () and words.endswith("No single thing would have to go; Table saw itself would have to.")


def test_where_things_are_not_the_cause_nothing_has_to_go(small_shop: Shop) -> None:
    heater = Fixture(id="heater", kind="heater", x=5.0, y=4.6, width=0.5, depth=0.5, flame=True)
    shop = change_room(small_shop, fixtures=(heater, replace(heater, id="other", x=5.2)))
    (clash,) = fired(shop, "fixtures-overlap")
    assert none_helps(shop, clash)[0] == () and "have to go" not in none_helps(shop, clash)[1]


def test_wheels_are_offered_to_what_blocks_the_bay(small_shop: Shop) -> None:
    bay = Fixture(id="bay", kind="parking bay", x=4.0, y=2.5, width=2.4, depth=4.6, top=2.0)
    shop = change_room(
        change_shop(small_shop, things=(block("chest", 4.0, 2.5, 0.6, 0.6, 0.8),)), fixtures=(bay,)
    )
    (stuck,) = fired(shop, "bay-blocked")
    rolled = cures(shop, stuck)["Put chest on wheels"].edit(shop)
    assert rolled.thing("chest").wheels and grade(rolled, "bay-blocked") == Grade.GOOD  # type: ignore[union-attr]


def test_who_stands_in_the_line_of_throw_is_moved_out_of_it(small_shop: Shop) -> None:
    bench = make_thing("small-bench", "small", 3.0, 0.5, 180.0)
    shop = put(small_shop, bench)
    said = [one for one in fired(shop, "kickback-line") if one.about == ("saw", "small")]
    assert len(said) == 1
    moved = next(iter(cures(shop, said[0]).values())).edit(shop)
    assert all(one.about != ("saw", "small") for one in fired(moved, "kickback-line"))


def test_a_drill_press_is_moved_to_where_boards_can_be_turned(small_shop: Shop) -> None:
    press = replace(make_thing("drill-press", "press", 0.5, 0.5), feed=Feed(how="round"))
    shop = change(put(small_shop, press), "press", stock=Stock(length=2.4, width=0.3, thickness=0.02))
    found = fired(shop, "round-zone")
    assert found[0].grade == Grade.MEND
    assert cures(shop, found[0])
    for label, one in cures(shop, found[0]).items():
        assert grade(one.edit(shop), "round-zone") > Grade.MEND, label
