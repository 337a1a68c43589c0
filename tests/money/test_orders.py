"""Balances and orders of buying, against sums on paper and against every order there is."""

from itertools import permutations
from math import inf

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from purvel.catalogue import kinds
from purvel.catalogue.money import extras, prices, schools
from purvel.catalogue.trade import trade_operations
from purvel.money.abilities import ability, best, wanted
from purvel.money.balance import balance, claims, month_for
from purvel.money.orders import Candidate, area, best_order, school_order
from purvel.shop.jobs import Job, JobStep
from purvel.shop.money import Budget, Item


def item(name: str, price: float, **changes: object) -> Item:
    return Item(id=name, name=name, low=price, high=price, **changes)  # type: ignore[arg-type]


def thing(
    name: str, price: float, kind: str | None = None, needs: tuple[str, ...] = (), ready: bool = True
) -> Candidate:
    return Candidate(name, price, kind, frozenset(needs), ready)


def test_when_there_is_money() -> None:
    """500 now and 100 a month: 400 now, 300 more at 2 months (700 in all), 150 more at 3.5."""
    budget = Budget(start=500.0, monthly=100.0, items=(item("a", 400), item("b", 300), item("c", 150)))
    assert [(one.month, one.left) for one in balance(budget)] == [(0.0, 100.0), (2.0, 0.0), (3.5, 0.0)]
    assert month_for(400.0, 500.0, 0.0) == 0.0 and month_for(600.0, 500.0, 0.0) == inf


def test_prices_are_bands() -> None:
    budget = Budget(start=0.0, monthly=100.0, items=(Item(id="a", low=100.0, high=300.0),))
    assert [balance(budget, share)[0].month for share in (0.0, 0.5, 1.0)] == [1.0, 2.0, 3.0]


def test_what_was_paid_is_not_bought_again() -> None:
    budget = Budget(start=100.0, items=(item("a", 400, paid=380.0), item("b", 50)))
    assert [one.item for one in balance(budget)] == ["b"]


def test_price_drops_and_days_left() -> None:
    """Paid 400 on day 100 with 30 days to claim; seen at 360: on day 120 ten days are left."""
    one = item("a", 400, paid=400.0, paid_on="2026-01-01", claim_days=30, seen=360.0)
    assert claims([one], 120, {"a": 100}) == [(one, 40.0, 10)]
    assert claims([one], 130, {"a": 100}) == [(one, 40.0, 0)]  # the last day
    assert claims([one], 131, {"a": 100}) == []
    assert (
        claims([item("b", 1, paid=400.0, paid_on="2026-01-01", claim_days=30, seen=400.0)], 101, {"b": 100})
        == []
    )


def test_how_well_operations_are_done() -> None:
    assert best("rip", {"bandsaw"}) == "fair" and best("rip", {"bandsaw", "table-saw"}) == "well"
    assert best("turn", {"bandsaw"}) is None and best("none such", {"bandsaw"}) is None
    job = Job(id="j", per_month=4.0, steps=(JobStep(operation="rip"), JobStep(operation="turn")))
    wants = wanted([job, Job(id="k", per_month=0.0, steps=(JobStep(operation="rip"),))])
    assert wants == {"rip": 4.25, "turn": 4.0}
    assert ability({"bandsaw"}, wants) == pytest.approx(0.6 * 4.25)


WANTS = {"rip": 4.0, "thickness": 3.0, "turn": 1.0, "bore": 2.0}


def test_the_area_under_the_steps_on_paper() -> None:
    """100 a month: a planer for 300 at month 3, a drill press for 200 at 5; thickness is worth 3, boring 2.
    Nothing for 3 months, 3 for 2 months, 5 from there to 6: 6 + 5 = 11.
    """
    order = [thing("p", 300, "planer"), thing("d", 200, "drill-press")]
    assert area(order, (), WANTS, 0.0, 100.0, 6.0) == pytest.approx(11.0)


def test_what_does_most_for_its_price_comes_first() -> None:
    items = [thing("lathe", 500, "lathe"), thing("saw", 500, "table-saw"), thing("planer", 500, "planer")]
    assert best_order(items, (), WANTS, 0.0, 100.0).items == ("saw", "planer", "lathe")


def test_what_it_needs_comes_before_it_and_what_is_not_ready_last() -> None:
    items = [
        thing("saw", 300, "table-saw", ("wire",)),
        thing("wire", 300),
        thing("lathe", 100, "lathe", ready=False),
    ]
    assert best_order(items, (), WANTS, 0.0, 100.0).items == ("wire", "saw", "lathe")
    circle = [thing("a", 1, "lathe", ("b",)), thing("b", 1, None, ("a",))]
    assert set(best_order(circle, (), WANTS, 0.0, 1.0).items) == {"a", "b"}


def test_what_is_not_ready_follows_in_its_own_best_order() -> None:
    items = [
        thing("lathe", 500, "lathe", ready=False),
        thing("planer", 500, "planer", ready=False),
        thing("wire", 200),
        thing("saw", 500, "table-saw", ready=False),
    ]
    found = best_order(items, (), WANTS, 0.0, 100.0)
    assert found.items == ("wire", "saw", "planer", "lathe")
    # on paper: 4 from month 7 to 12, 7 to 17, then 8 as all is there: 20 + 35
    assert found.area == pytest.approx(55.0)


@settings(max_examples=30, deadline=None)
@given(
    st.lists(
        st.tuples(
            st.integers(50, 900),
            st.sampled_from(["table-saw", "planer", "lathe", "bandsaw", "drill-press", "jointer", None]),
        ),
        min_size=2,
        max_size=6,
    ),
    st.integers(0, 1500),
    st.integers(20, 400),
    st.booleans(),
)
def test_no_order_is_better_than_the_best(
    rows: list[tuple[int, str | None]], start: int, monthly: int, chained: bool
) -> None:
    items = [
        thing(str(k), float(price), kind, (str(k - 1),) if chained and k == 2 else ())
        for k, (price, kind) in enumerate(rows)
    ]
    found = best_order(items, ("workbench",), WANTS, float(start), float(monthly))
    until = max(month_for(sum(one.price for one in items), start, monthly), 0.0) or 1.0
    by_id = {one.id: one for one in items}

    def value(ids: tuple[str, ...]) -> float:
        return area([by_id[one] for one in ids], ("workbench",), WANTS, float(start), float(monthly), until)

    allowed = [
        order
        for order in permutations(by_id)
        if all(order.index(need) < order.index(one.id) for one in items for need in one.needs)
    ]
    assert value(found.items) == pytest.approx(max(map(value, allowed)))
    assert found.area == pytest.approx(value(found.items))


def test_thirty_items_are_ordered_too() -> None:
    names = list(prices())[:30]
    items = [thing(kind, prices()[kind][0], kind) for kind in names]
    found = best_order(items, (), dict.fromkeys(trade_operations(), 1.0), 0.0, 200.0)
    assert sorted(found.items) == sorted(names)
    plain = area(items, (), dict.fromkeys(trade_operations(), 1.0), 0.0, 200.0, 1e3)
    better = area(
        [next(i for i in items if i.id == n) for n in found.items],
        (),
        dict.fromkeys(trade_operations(), 1.0),
        0.0,
        200.0,
        1e3,
    )
    assert better > plain


def test_a_school_s_order_with_what_is_needed_first() -> None:
    items = [
        thing("planer", 1, "planer", ("wire",)),
        thing("bench", 1, "workbench"),
        thing("wire", 1),
        thing("jointer", 1, "jointer"),
    ]
    assert school_order(items, ("jointer", "planer")) == ("jointer", "wire", "planer", "bench")


def test_prices_and_schools_name_kinds_that_there_are() -> None:
    assert set(prices()) <= set(kinds()) and len(schools()) >= 2
    for school in schools().values():
        assert set(school.order) <= set(kinds()) and school.reason
    assert all(low <= high for low, high in prices().values())
    assert all(one.price[0] <= one.price[1] for one in extras().values())


@pytest.mark.parametrize("missing", ["paid", "seen", "paid_on"])
def test_nothing_is_claimed_of_which_not_all_is_known(missing: str) -> None:
    known = {"paid": 400.0, "seen": 300.0, "paid_on": "2026-01-01", "claim_days": 30}
    assert claims([item("a", 1, **known)], 101, {"a": 100}) != []
    assert claims([item("a", 1, **(known | {missing: None}))], 101, {"a": 100}) == []
