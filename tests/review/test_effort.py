"""What is the easiest is told first."""

from dataclasses import replace

import pytest

from purvel.review import Memory, Remedy, easiest_first, remedies_for
from purvel.review.effort import effort
from purvel.review.reviewing import first_review
from purvel.shop import Opening, PortRef, Run, Shop
from purvel.shop.edits import change, change_ducts, change_room, change_shop, move_thing, remove
from tests.conftest import block, box_room

DOOR = Opening(id="door", kind="swing", wall="A", offset=1.0, width=0.9, head=2.0)
SHOP = Shop(
    room=box_room(6, 5, openings=(DOOR,)),
    things=(
        block("cart", 1.0, 2.0, 0.6, 0.6, 0.9, wheels=True),
        block("lump", 3.0, 2.0, 0.6, 0.6, 0.9, mass=100.0),
    ),
)


def test_what_rolls_is_less_work_than_what_is_lifted() -> None:
    """1 m on wheels: 2 + 1 min. 1 m of 100 kg: 10 + 100 x 0.1 + 1; by half a turn: 2 more."""
    assert effort(SHOP, move_thing(SHOP, "cart", 2.0, 2.0)) == pytest.approx(3.0)
    assert effort(SHOP, move_thing(SHOP, "lump", 3.0, 3.0)) == pytest.approx(21.0)
    assert effort(SHOP, move_thing(SHOP, "lump", 3.0, 3.0, 180.0)) == pytest.approx(23.0)
    assert effort(SHOP, move_thing(SHOP, "lump", 3.0, 2.0, -90.0)) == pytest.approx(21.0)


def test_what_is_fixed_or_has_a_duct_is_more() -> None:
    fixed = change(SHOP, "cart", settled=True)
    assert effort(fixed, move_thing(fixed, "cart", 2.0, 2.0)) == pytest.approx(63.0)
    run = Run(id="run", port=PortRef(thing="cart", port="port"))
    led = change_ducts(SHOP, runs=(run,))
    assert effort(led, move_thing(led, "cart", 2.0, 2.0)) == pytest.approx(23.0)
    assert effort(led, move_thing(led, "lump", 3.0, 3.0)) == pytest.approx(21.0)


def test_work_on_two_things_adds_up_and_a_door_is_the_least() -> None:
    both = move_thing(move_thing(SHOP, "cart", 2.0, 2.0), "lump", 3.0, 3.0)
    assert effort(SHOP, both) == pytest.approx(24.0)
    opened = change_room(SHOP, openings=(replace(DOOR, is_open=True),))
    assert effort(SHOP, opened) == pytest.approx(0.5)
    assert effort(SHOP, change(SHOP, "lump", height=0.8, work_height=0.8)) == pytest.approx(30.0)
    assert effort(SHOP, change(SHOP, "lump", wheels=True)) == pytest.approx(45.0)


def test_what_it_does_not_know_it_does_not_guess() -> None:
    assert effort(SHOP, SHOP) is None
    assert effort(SHOP, remove(SHOP, "cart")) is None
    assert effort(SHOP, change(SHOP, "cart", width=0.5)) is None
    assert effort(SHOP, change_shop(SHOP, hand_room=0.1)) is None
    assert effort(SHOP, change_room(SHOP, openings=(replace(DOOR, width=0.8),))) is None
    moved = move_thing(SHOP, "cart", 2.0, 2.0)
    assert effort(SHOP, change_room(moved, openings=())) is None
    assert effort(SHOP, change_room(moved, walls=box_room(7, 5).walls)) is None


def test_the_unknown_comes_last_and_else_in_the_order_in_which_it_was_found() -> None:
    found = [
        Remedy(label, "", lambda shop: shop, minutes)
        for label, minutes in (("a", None), ("b", 5.0), ("c", 2.0), ("d", None), ("e", 5.0))
    ]
    assert [one.label for one in easiest_first(found)] == ["c", "b", "e", "a", "d"]


def test_the_light_one_gives_way_first() -> None:
    """Two bodies in each other: of the moves of the one on wheels and of the heavy one the former is first,
    whatever stands first in the shop.
    """
    for names in (("cart", "lump"), ("lump", "cart")):
        things = {one.id: one for one in SHOP.things}
        shop = replace(
            SHOP, things=tuple(replace(things[name], x=3.0 + 0.3 * (name == "cart")) for name in names)
        )
        review = first_review(shop, Memory())
        (clash,) = [one for one in review.findings if one.rule == "bodies-overlap"]
        cures = remedies_for(clash, review.answers)
        minutes = [one.effort for one in cures]
        assert len(cures) >= 2 and minutes == sorted(minutes, key=lambda one: one or 0.0)
        assert cures[0].label.startswith("Move cart")
