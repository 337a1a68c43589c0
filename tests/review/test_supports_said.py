"""What is said of supports and mitre slots, and what would help."""

from dataclasses import replace

import pytest

from purvel.catalogue import make_thing
from purvel.review import Grade, Memory, remedies_for
from purvel.review.finding import Finding, Remedy
from purvel.review.reviewing import first_review
from purvel.shop import Shop, Stock
from purvel.shop.edits import change, change_shop, put
from tests.review.test_rules import fired, grade


def with_table(shop: Shop, height: float = 0.858, gap: float = 0.02, **changes: object) -> Shop:
    """The saw's own table ends at y = 2.875."""
    table = make_thing("outfeed-table", "table", 3.0, 2.875 + gap + 0.4)
    return put(shop, replace(table, height=height, work_height=height, **changes))


def cures(shop: Shop, finding: Finding) -> dict[str, Remedy]:
    answers = first_review(shop, Memory()).answers
    return {one.label: one for one in remedies_for(finding, answers)}


def test_a_table_that_stands_proud_is_trimmed_or_the_saw_raised(small_shop: Shop) -> None:
    shop = with_table(small_shop, 0.90)
    (proud,) = fired(shop, "support-level")
    found = cures(shop, proud)
    assert list(found) == ["Trim Outfeed table to 858 mm", "Put Table saw on a platform of 42 mm"]
    raised = found["Put Table saw on a platform of 42 mm"].edit(shop)
    assert raised.thing("saw").z == pytest.approx(0.042) and grade(raised, "support-level") == Grade.GOOD  # type: ignore[union-attr]


def test_over_a_gap_the_table_is_moved_up(small_shop: Shop) -> None:
    shop = with_table(small_shop, gap=0.30)
    (gap,) = fired(shop, "support-level")
    assert gap.grade == Grade.WATCH and "thinner than" not in gap.why
    (moved,) = cures(shop, gap).values()
    assert moved.label == "Move Outfeed table 295 mm up to Table saw"
    after = moved.edit(shop).thing("table")
    assert after is not None and (after.x, after.y) == pytest.approx((3.0, 3.28))
    settled = change(shop, "table", settled=True)
    assert cures(settled, gap) == {}


def test_a_thin_board_sags_into_a_wide_gap(small_shop: Shop) -> None:
    """Over 0.5 m level boards under 11.7 mm hang more than 1 mm down."""
    (wide,) = fired(with_table(small_shop, 0.86, gap=0.5), "support-level")
    assert "thinner than 12 mm sag by more than 1 mm" in wide.why


def test_the_end_of_a_long_board_hangs_down(small_shop: Shop) -> None:
    """The table reaches 1.195 m behind the blade: of 2.2 m, 1.005 m hang over."""
    shop = change_shop(with_table(small_shop), stock=Stock(length=2.2, width=0.2, thickness=0.02))
    (level,) = fired(shop, "support-level")
    assert "1005 mm past its far edge, hangs 2 mm to 6 mm down" in level.why
    assert "hangs" not in fired(with_table(small_shop), "support-level")[0].why


def test_a_side_table_carries_sheets(small_shop: Shop) -> None:
    side = replace(make_thing("side-table", "side", 1.6, 2.5), width=1.0, depth=0.8, height=0.80)
    (low,) = (one for one in fired(put(small_shop, side), "support-level") if one.about[1] == "side")
    assert low.grade == Grade.MEND and "sheets drop onto it" in low.sentence


def test_an_outfeed_without_slots_gets_them_cut(small_shop: Shop) -> None:
    shop = change(with_table(small_shop, x=3.3), "saw", slots=(-0.14, 0.14))
    (none,) = fired(shop, "mitre-slots")
    assert none.grade == Grade.WATCH and "has no slots" in none.sentence
    assert "440 mm to the left and 160 mm to the left of its middle" in none.why
    cut = cures(shop, none)["Cut 2 mitre slots into Outfeed table"].edit(shop)
    assert cut.thing("table").slots == (-0.44, -0.16)  # type: ignore[union-attr]
    assert grade(cut, "mitre-slots") == Grade.GOOD
    about = change(shop, "table", angle=180.0)
    (none,) = fired(about, "mitre-slots")
    cut = cures(about, none)["Cut 2 mitre slots into Outfeed table"].edit(about)
    assert cut.thing("table").slots == (0.16, 0.44) and grade(cut, "mitre-slots") == Grade.GOOD  # type: ignore[union-attr]


def test_slots_out_of_line_are_moved_into_line(small_shop: Shop) -> None:
    shop = change(with_table(small_shop, slots=(-0.14, 0.14), x=3.006), "saw", slots=(-0.14, 0.14))
    (off,) = fired(shop, "mitre-slots")
    assert off.figures["off"] == pytest.approx(0.006) and "6 mm out of line" in off.sentence
    moved = cures(shop, off)["Move Outfeed table 6 mm to the left, as you feed"].edit(shop)
    assert moved.thing("table").x == pytest.approx(3.0) and grade(moved, "mitre-slots") == Grade.GOOD  # type: ignore[union-attr]
    assert fired(change(shop, "saw", slots=()), "mitre-slots") == []
    (wide,) = fired(change(shop, "table", slots=(-0.144, 0.160)), "mitre-slots")  # 2 mm and 26 mm off
    assert abs(wide.figures["off"]) == pytest.approx(0.026)
