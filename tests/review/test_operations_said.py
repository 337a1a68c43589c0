"""What is said of operations with a space of their own, of what lies behind what stops a board, and of where
boards are thrown.
"""

from dataclasses import replace

import pytest

from purvel.catalogue import make_thing
from purvel.review import Grade, Memory
from purvel.review.place.answers import PlaceAnswers
from purvel.review.reviewing import first_review
from purvel.shop import Opening, Shop, Stock
from purvel.shop.edits import change, change_room, change_shop, put
from tests.conftest import block
from tests.review.test_rules import fired


def test_boards_across_a_saws_table(small_shop: Shop) -> None:
    """3 m either way of the blade; a rack at the left stops longer boards, unless a mitre saw cuts those."""
    said = {one.about: one for one in fired(small_shop, "operation")}
    assert said["saw", "crosscut"].grade == Grade.GOOD
    assert said["saw", "crosscut"].figures["longest_board"] == pytest.approx(3.0)
    rack = block("rack", 2.1, 2.5, 0.2, 1.0, 1.5)
    shop = change_shop(put(small_shop, rack), stock=Stock(length=2.0, width=0.2, thickness=0.02))
    shop = change(shop, "saw", width=1.0)
    (short,) = fired(shop, "operation")
    assert short.grade == Grade.WATCH and "only up to 1600 mm lying across" in short.sentence
    assert "rack is in the way" in short.sentence and "Without it the board would run 3000 mm" in short.why
    mitre = make_thing("mitre-saw", "mitre", 5.0, 4.6, 0.0)
    (held,) = (one for one in fired(put(shop, mitre), "operation") if one.about[0] == "saw")
    assert held.grade == Grade.GOOD and "cuts yours" in held.sentence


def test_what_stops_boards_of_both_ways_is_said_once(small_shop: Shop) -> None:
    """A wall stops a board on its edge as it stops one that lies flat; a shelf just above only that."""
    jointer = replace(make_thing("jointer", "jointer", 0.9, 4.0, 0.0))
    assert fired(put(small_shop, jointer), "lane")[0].grade < Grade.GOOD
    assert [one for one in fired(put(small_shop, jointer), "operation") if one.about[0] == "jointer"] == []
    free = replace(jointer, x=3.0)
    table = jointer.work_height or 0.0
    shelf = block("shelf", 2.0, 3.95, 0.1, 0.5, 0.3, z=table + 0.1)
    said = [one for one in fired(put(put(small_shop, free), shelf), "operation") if one.about[0] == "jointer"]
    assert [one.grade for one in said] == [Grade.WATCH] and "on edge" in said[0].sentence


def test_what_the_next_thing_behind_and_an_open_door_would_give(small_shop: Shop) -> None:
    first, second = block("first", 3.0, 3.5, 1.0, 0.2, 2.0), block("second", 3.0, 4.5, 1.0, 0.2, 2.0)
    (lane,) = fired(put(put(small_shop, first), second), "lane")
    assert "Without it the board would run 1900 mm, to second: boards up to 1400 mm." in lane.why
    door = Opening(id="gate", kind="roll-up", wall="C", offset=2.0, width=2.0, head=2.0, outside=4.0)
    shop = change(put(small_shop, door), "saw", y=4.0)
    (lane,) = fired(shop, "lane")
    assert "With the roll-up door in wall C open it takes boards up to 3500 mm." in lane.why
    opened = change(shop, "gate", is_open=True)
    assert first_review(opened, Memory()).answers.of(PlaceAnswers).lanes["saw"].longest_board == 3.5
    assert "With" not in fired(opened, "lane")[0].why


def test_lanes_over_the_same_floor_are_named(small_shop: Shop) -> None:
    planer = make_thing("planer", "planer", 3.0, 4.0, 0.0)
    said = {one.about[0]: one.why for one in fired(put(small_shop, planer), "lane")}
    assert "same floor as those of Thickness planer: one at a time" in said["saw"]
    assert "same floor" not in fired(small_shop, "lane")[0].why


def test_glass_and_doors_in_the_line_of_a_thrown_board(small_shop: Shop) -> None:
    window = Opening(id="pane", kind="window", wall="A", offset=2.5, width=1.0, sill=0.9, head=1.8)
    (glass,) = fired(put(small_shop, window), "kickback-line")
    assert glass.about == ("saw", "pane") and glass.grade == Grade.WATCH and "has its glass" in glass.sentence
    door = replace(window, kind="swing", sill=0.0, head=2.0)
    (comes_in,) = fired(put(small_shop, door), "kickback-line")
    assert "who comes in stands where a thrown board goes" in comes_in.sentence
    assert fired(small_shop, "kickback-line") == []
    away = change_room(small_shop, openings=(replace(window, wall="C"),))
    assert fired(away, "kickback-line") == []


def test_who_stands_before_a_lathe(small_shop: Shop) -> None:
    lathe = make_thing("lathe", "lathe", 1.2, 4.5, 0.0)
    bench = make_thing("small-bench", "small", 1.2, 2.9, 0.0)
    said = fired(put(put(small_shop, lathe), bench), "kickback-line")
    (stands,) = (one for one in said if one.about == ("lathe", "small"))
    assert "in the plane in which Lathe turns" in stands.sentence


def test_from_which_sides_work_on_a_bench_is_reached(small_shop: Shop) -> None:
    (wall,) = fired(small_shop, "sides")
    assert wall.about == ("bench",) and wall.figures["sides"] == 2 and wall.grade == Grade.GOOD
    assert wall.sentence == "Work on Workbench is reached from the front and the right."
    (free,) = fired(change(small_shop, "bench", x=1.5, y=1.5), "sides")
    assert "can be walked round" in free.sentence
    shut_in = [
        block(f"b{k}", 5.0 + dx, 0.5 + dy, w, d, 1.0)
        for k, (dx, dy, w, d) in enumerate(((0, 0.75, 2.0, 0.6), (-1.3, 0, 0.6, 1.0), (1.0, 0, 0.3, 1.0)))
    ]
    shop = small_shop
    for one in shut_in:
        shop = put(shop, one)
    (none,) = fired(shop, "sides")
    assert none.grade == Grade.WATCH and "Nobody can stand" in none.sentence


def test_saws_have_blades_and_planers_cutters(small_shop: Shop) -> None:
    planer = make_thing("planer", "planer", 1.5, 2.5, 0.0)
    doors = [replace(small_shop.room.openings[0], id=f"d{x}", wall="A", offset=x) for x in (1.0, 2.5)]
    shop = change_room(put(small_shop, planer), openings=(*small_shop.room.openings, *doors))
    said = {one.about: one.sentence for one in fired(shop, "kickback-line")}
    assert "in line with the blade of Table saw" in said["saw", "d2.5"]
    assert "in line with the cutter of Thickness planer" in said["planer", "d1.0"]
    assert all(one.startswith("The swing door") for one in said.values())
