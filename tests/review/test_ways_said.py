"""What is said of ways: the way out, a board in hand, what rolls through."""

from dataclasses import replace

import pytest

from purvel.review import Grade, Memory
from purvel.review.place.answers import PlaceAnswers
from purvel.review.reviewing import first_review
from purvel.shop import Shop
from purvel.shop.edits import change_shop, put
from purvel.space.aisles import Aisle, rolls_through
from tests.conftest import block, saw
from tests.review.asking import found_in
from tests.review.test_rules import fired


@pytest.fixture
def gate(small_shop: Shop) -> Shop:
    """A saw alone behind two blocks with a gap, through which every way goes."""
    door = replace(small_shop.room.openings[0], width=2.0)
    return put(change_shop(small_shop, things=(saw(5.0, 2.5),)), door)


def with_gap(shop: Shop, wide: float) -> Shop:
    half = (5.0 - wide) / 2
    shop = put(shop, block("low", 2.5, half / 2, 0.3, half, 2.0))
    return put(shop, block("high", 2.5, 5.0 - half / 2, 0.3, half, 2.0))


@pytest.mark.parametrize(
    ("wide", "grade", "words"),
    [
        (1.2, Grade.GOOD, "The way out is kept"),
        (0.75, Grade.GOOD, "The way out is kept"),
        (0.68, Grade.WATCH, "is narrower than the 710 mm"),
        (0.5, Grade.WATCH, "is narrower than the 710 mm"),
    ],
)
def test_the_way_out_is_as_wide_as_workplaces_keep_it(
    gate: Shop, wide: float, grade: Grade, words: str
) -> None:
    (said,) = fired(with_gap(gate, wide), "way-out")
    assert said.grade == grade and words in said.sentence
    assert said.figures["width"] == pytest.approx(min(wide, said.figures["width"]), abs=0.02)


def test_with_a_board_in_hand_more_is_wanted(gate: Shop) -> None:
    def whys(wide: float) -> str:
        return " ".join(one.why for one in fired(with_gap(gate, wide), "aisle"))

    assert "With a board in hand 1070 mm are wanted: the ways to Table saw are narrower." in whys(0.95)
    assert "With a board" not in whys(1.2) and "With a board" not in whys(0.5)


def test_what_rolls_through_a_way() -> None:
    way = Aisle("saw", 0.60, 0.01, None)
    cart = block("cart", 0, 0, 1.2, 0.6, 0.9, wheels=True)
    others = (cart, replace(cart, id="wide", depth=0.62), replace(cart, id="still", wheels=False))
    assert rolls_through(way, others) == ("cart",)


def test_what_things_cost_of_the_open_floor_is_told(small_shop: Shop) -> None:
    answers = first_review(small_shop, Memory()).answers
    dear = answers.of(PlaceAnswers).open_floor_costs
    (said,) = found_in("place", small_shop, "open-floor")
    assert next(iter(dear)) == "saw" and "It would be larger without one of these, by: Table saw " in said.why
