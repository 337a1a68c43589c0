"""Quotes of suppliers against the bill: taken in from CSV, line by line, with what is missing."""

import csv
import io

import pytest

from purvel.lists import LISTS, ListError, take_in
from purvel.review import Answers, Figures, Memory
from purvel.review.ducts.bill import bill
from purvel.review.ducts.quotes import bought_from, compared, quote_table, said
from purvel.shop import Shop
from tests.review.test_rules import piped

__all__ = ["piped"]


def answers_of(shop: Shop) -> Answers:
    return Answers(shop, Memory())


def filled(shop: Shop, supplier: str, prices: dict[int, float], beside: tuple[str, ...] = ()) -> bytes:
    """The list that goes to suppliers with prices written in, by the number of the line."""
    rows = list(csv.reader(io.StringIO(LISTS["quote.csv"](shop))))
    bill_ = [row for row in rows[1:] if row[0] == rows[1][0]]  # those of the first that is in it
    out = [rows[0], *([supplier, *row[1:5], str(prices.get(n, ""))] for n, row in enumerate(bill_))]
    out += [[supplier, what, "", "1", "piece", "5"] for what in beside]
    text = io.StringIO()
    csv.writer(text).writerows(out)
    return text.getvalue().encode()


def quoted(shop: Shop) -> Shop:
    """One offers all but the second line, the other the first three only, the first of them cheaper."""
    many = len(bill(answers_of(shop)))
    dear = {n: 10.0 for n in range(many) if n != 1}
    shop, words = take_in(shop, filled(shop, "Tin & Sons", dear, beside=("Copper wire",)))
    assert words.startswith(f"Took in lines of quotes: {many + 1} new, 0 changed.")
    return take_in(shop, filled(shop, "Pipe Yard", {0: 8.0, 1: 12.5, 2: 20.0}))[0]


def test_each_line_is_its_amount_times_the_price_of_each(piped: Shop) -> None:
    shop = quoted(piped)
    lines, found = bill(answers_of(piped)), compared(answers_of(shop))
    assert found.suppliers == ("Tin & Sons", "Pipe Yard") and found.beside == (("Copper wire",), ())
    assert found.asked[0] == (pytest.approx(10 * lines[0].amount), pytest.approx(8 * lines[0].amount))
    assert found.asked[1] == (None, pytest.approx(12.5 * lines[1].amount))
    assert found.asked[3][1] is None
    all_but_one = sum(10 * line.amount for n, line in enumerate(lines) if n != 1)
    assert found.total(0) == (pytest.approx(all_but_one), 1)
    assert found.total(1)[1] == len(lines) - 3
    assert found.cheapest[:3] == (1, 1, 0) and set(found.cheapest[3:]) == {0}
    split = 8 * lines[0].amount + 12.5 * lines[1].amount + sum(10 * line.amount for line in lines[2:])
    assert found.split == (pytest.approx(split), 0)


def test_the_table_marks_the_cheapest_and_names_what_is_missing(piped: Shop) -> None:
    shop = quoted(piped)
    table = quote_table(answers_of(shop), Figures("metric"))
    assert table is not None and table.heads[3:] == ("Tin & Sons", "Pipe Yard")
    assert table.rows[0][4].endswith(" *") and not table.rows[0][3].endswith(" *")
    assert table.rows[1][3] == "–" and table.rows[-1][3] == "1 line"
    text = " ".join(said(answers_of(shop)))
    split, _ = compared(answers_of(shop)).split
    for words in (
        "Nobody offers everything.",
        f"Each line where it is cheapest: $ {split:,.2f}. Carriage is not in it.",
        "Tin & Sons also quotes what is not on the bill: Copper wire.",
    ):
        assert words in text
    assert quote_table(answers_of(piped), Figures("metric")) is None


def test_the_cheapest_for_everything_is_told(piped: Shop) -> None:
    many = len(bill(answers_of(piped)))
    shop = take_in(piped, filled(piped, "Tin & Sons", dict.fromkeys(range(many), 10.0)))[0]
    assert not [one for one in said(answers_of(shop)) if one.startswith("Each line")]  # all lines are his
    shop = take_in(shop, filled(shop, "Pipe Yard", dict.fromkeys(range(many), 9.0)))[0]
    total = 9.0 * sum(line.amount for line in bill(answers_of(piped)))
    text = " ".join(said(answers_of(shop)))
    assert f"Cheapest for everything from one: Pipe Yard, $ {total:,.2f}." in text


def test_prices_taken_in_again_change_those_that_are_there(piped: Shop) -> None:
    shop = quoted(piped)
    many = len(shop.ducts.quotes)
    again, words = take_in(shop, filled(piped, "Pipe Yard", {0: 7.0}))
    assert len(again.ducts.quotes) == many and ", 0 new" not in words and "0 new" in words
    assert compared(answers_of(again)).asked[0][1] == pytest.approx(7 * bill(answers_of(piped))[0].amount)
    written = take_in(piped, LISTS["quote.csv"](again).encode())[0]  # out and in again: the same prices
    assert compared(answers_of(written)).asked == compared(answers_of(again)).asked


def test_a_supplier_is_put_on_the_buying_list_once(piped: Shop) -> None:
    shop = quoted(piped)
    total = compared(answers_of(shop)).total(0)[0]
    after = bought_from(shop, answers_of(shop), "Tin & Sons")
    (item,) = [one for one in after.budget.items if one.name.startswith("Ducts from")]
    assert (
        item.name == "Ducts from Tin & Sons, 1 line missing"
        and item.group == "ducts"
        and item.known == "quote"
    )
    assert item.low == item.high == pytest.approx(total, abs=0.005)
    again = bought_from(after, answers_of(after), "Tin & Sons")
    assert len(again.budget.items) == len(after.budget.items)
    with pytest.raises(ValueError, match="no quote of “Nobody”"):
        bought_from(shop, answers_of(shop), "Nobody")


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("supplier,what,each\nA,Gate,cheap\n", "Row 2, each: “cheap” is no number."),
        ("supplier,what,each\nA,Gate,-4\n", "Row 2 cannot be so"),
        ("supplier,what,inside diameter mm,each\nA,Gate,wide,4\n", "Row 2, size:"),
    ],
)
def test_a_bad_price_changes_nothing(piped: Shop, text: str, why: str) -> None:
    with pytest.raises(ListError, match=why):
        take_in(piped, text.encode())
