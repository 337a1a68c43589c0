"""Rules of spending, their cures, their report."""

from dataclasses import replace
from datetime import date
from functools import partial
from typing import Any

import pytest

from purvel.catalogue import kinds, make_thing, trade_operations
from purvel.catalogue.money import prices
from purvel.review import Answers, Grade, Memory, remedies_for
from purvel.review.spend import rules
from purvel.review.spend.answers import SpendAnswers
from purvel.review.spend.remedies import new_item
from purvel.review.spend.report import report
from purvel.shop import Ducts, Gate, Run, Shop, Vertex
from purvel.shop.edits import remove
from purvel.shop.faults import faults
from purvel.shop.jobs import Job, JobStep
from purvel.shop.money import Budget, Item
from purvel.shop.power import Circuit, Power
from tests.conftest import box_room
from tests.review.asking import asked, found_in

JOB = Job(
    id="job",
    name="Stools",
    per_month=2,
    steps=(JobStep(operation="rip"), JobStep(operation="turn"), JobStep(operation="bore")),
)


def item(name: str, price: float, **changes: Any) -> Item:
    return Item(id=name, name=name, low=price, high=price, known="seen", **changes)


def shop(*items: Item, things: tuple[Any, ...] = (), jobs: tuple[Job, ...] = (JOB,), **budget: Any) -> Shop:
    money = Budget(**({"start": 500.0, "monthly": 100.0} | budget), items=items)
    return Shop(units="metric", room=box_room(), things=things, jobs=jobs, budget=money)


found = partial(found_in, "spend")


def test_what_jobs_lack_is_put_on_the_list() -> None:
    here = shop(item("saw", 400, kind="table-saw"))
    assert {one.about for one in found(here, "lacking")} == {("turn",), ("bore",)}
    said = next(one for one in found(here, "lacking") if one.about == ("bore",))
    cure = remedies_for(said, asked(here))[0]
    after = cure.edit(here)
    assert after.budget.items[-1].kind == "bench-drill-press" and ("bore",) not in {
        one.about for one in found(after, "lacking")
    }


def test_of_kinds_that_do_what_is_lacking_the_one_that_begins_cheapest_comes_first() -> None:
    """A workbench begins at less than a disc sander and ends at more."""
    here = shop(item("saw", 400, kind="bandsaw"), jobs=(Job(id="j", steps=(JobStep(operation="sand"),)),))
    (said,) = [one for one in found(here, "lacking") if one.about == ("sand",)]
    labels = [one.label for one in remedies_for(said, asked(here))]
    does = [kind for kind in trade_operations()["sand"].by if kind in prices()]
    wanted = sorted(does, key=lambda kind: prices()[kind][0])
    assert {"hand-sander", "workbench", "disc-sander"} <= set(does)
    assert labels == [f"Put a {kinds()[kind].name.lower()} on the list" for kind in wanted[:3]]
    assert prices()["workbench"][1] > prices()["disc-sander"][1]


def test_nothing_is_bought_before_it_has_a_place() -> None:
    here = shop(item("saw", 400, kind="table-saw"))
    (said,) = found(here, "bought-early")
    assert said.about == ("saw",) and "place" in said.sentence
    assert said.figures["lacks"] == 4.0
    cure = remedies_for(said, asked(here))[0]
    after = cure.edit(here)
    assert after.budget.items[0].thing == after.things[0].id
    (left,) = found(after, "bought-early")  # it has no dust connection yet
    assert "dust" in left.sentence and left.figures["lacks"] == 1.0
    (both,) = found(replace(after, power=Power(circuits=(Circuit(id="c"),))), "bought-early")
    assert "circuit" in both.sentence and both.figures["lacks"] == 3.0


def test_what_needs_no_dust_and_no_current_is_ready_where_it_stands() -> None:
    bench = make_thing("workbench", "bench", 3.0, 2.0)
    here = shop(item("bench-item", 300, kind="workbench", thing="bench"), things=(bench,), jobs=())
    assert found(here, "bought-early") == []


def test_what_it_needs_comes_first() -> None:
    lamp, bench, last = item("lamp", 20), item("bench", 80), item("last", 10)
    here = shop(lamp, item("saw", 400, needs=("wire",)), bench, item("wire", 100), last)
    (said,) = found(here, "needs-first")
    cure = remedies_for(said, asked(here))[0]
    assert [one.id for one in cure.edit(here).budget.items] == ["lamp", "bench", "wire", "saw", "last"]
    assert found(cure.edit(here), "needs-first") == []


def test_money_that_ends_and_money_that_comes() -> None:
    (said,) = found(shop(item("a", 400), item("b", 300), monthly=0.0), "money")
    assert said.grade == Grade.MEND and said.figures["short"] == pytest.approx(200.0)
    (said,) = found(shop(item("a", 400), item("b", 300)), "money")
    assert said.grade == Grade.GOOD and said.figures["month"] == pytest.approx(2.0)


def test_a_later_purchase_that_does_it_all() -> None:
    """A bench mitre saw does one thing, which the mitre saw does as well."""
    here = shop(item("small", 200, kind="bench-mitre-saw"), item("big", 500, kind="mitre-saw"))
    (said,) = found(here, "needless")
    assert said.about == ("small", "big")
    band = replace(here.budget.items[0], low=100.0, high=300.0)  # half way is 200
    wide = replace(here, budget=replace(here.budget, items=(band, here.budget.items[1])))
    assert found(wide, "needless")[0].figures == {"price": 200.0} == said.figures
    more = shop(here.budget.items[0], item("lamp", 50), here.budget.items[1])
    (said,) = found(more, "needless")
    cure = remedies_for(said, asked(more))[0]
    assert [one.id for one in cure.edit(more).budget.items] == ["lamp", "big", "small"]
    assert [one.about for one in found(cure.edit(more), "needless")] == [("big", "small")]  # the other way


def test_a_lower_price_can_be_claimed(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(rules, "today", lambda: date(2026, 1, 21))
    here = shop(item("a", 400, paid=400.0, paid_on="2026-01-01", claim_days=30, seen=350.0))
    (said,) = found(here, "price-drop")
    assert said.figures == {"less": 50.0, "days": 10.0}
    monkeypatch.setattr(rules, "today", lambda: date(2026, 2, 1))
    assert found(here, "price-drop") == []
    odd = shop(item("a", 400, paid=400.0, paid_on="2026-02-31", claim_days=30, seen=350.0))
    assert found(odd, "price-drop") == []  # no such day: nothing is made up


def test_guesses_are_said() -> None:
    (said,) = found(shop(replace(item("a", 400), known="guess"), item("b", 100)), "price-guess")
    assert said.figures["share"] == pytest.approx(0.8)
    assert found(shop(item("a", 400)), "price-guess") == []


def test_a_better_order_is_found_and_taken() -> None:
    things = (make_thing("lathe", "l", 1.0, 1.0), make_thing("drill-press", "d", 4.0, 4.0))
    jobs = (
        replace(JOB, per_month=10, steps=(JobStep(operation="bore"),)),
        replace(JOB, id="k", per_month=1, steps=(JobStep(operation="turn"),)),
    )
    here = shop(
        item("lathe", 900, kind="lathe", thing="l"),
        item("drill", 300, kind="drill-press", thing="d"),
        things=things,
        jobs=jobs,
        start=0.0,
    )
    # the lathe has a port without a run: make both ready
    things = tuple(replace(one, ports=()) for one in here.things)
    here = replace(here, things=things)
    (said,) = found(here, "order-better")
    assert said.figures["gain"] > 0.1 and f" {said.figures['gain']:.0%} more" in said.sentence
    (cure,) = remedies_for(said, asked(here))
    after = cure.edit(here)
    assert [one.id for one in after.budget.items] == ["drill", "lathe"] and found(after, "order-better") == []


def test_things_and_items_that_go_are_referred_to_no_more() -> None:
    here = shop(
        item("saw", 400, thing="s", needs=("wire",)),
        item("wire", 50),
        things=(make_thing("table-saw", "s", 2.0, 2.0),),
    )
    for gone in ("s", "wire"):
        assert faults(remove(here, gone)) == []
    assert (
        remove(here, "wire").budget.items[0].needs == () and remove(here, "s").budget.items[0].thing is None
    )


def test_what_is_paid_counts_as_here() -> None:
    spend = Answers(shop(item("saw", 400, kind="table-saw", paid=380.0)), Memory()).of(SpendAnswers)
    assert spend.how("rip") == "well" and spend.how("turn") is None


def test_the_report_lets_an_outsider_add_it_up() -> None:
    made = report(Answers(shop(item("a", 400), item("b", 300)), Memory()))["spending"]
    left = made["start"]
    month = 0.0
    for one in made["items"]:
        left += made["monthly"] * (one["month"] - month) - one["price"]
        month = one["month"]
        assert one["left"] == pytest.approx(left)
    assert made["best_area"] >= made["area"] - 1e-9


@pytest.mark.parametrize(
    ("diameter", "metre", "piece"),
    [(0.1, (6, 14), (8, 25)), (0.125, (8, 19.5), (11.5, 35)), (0.3, (20, 48), (34, 100))],
)
def test_pipe_is_priced_by_the_metre_and_gates_by_the_piece_thin_or_thick(
    diameter: float, metre: tuple[float, float], piece: tuple[float, float]
) -> None:
    """3 m of pipe in line with one gate, joined to nothing."""
    points = (Vertex(x=1.0, y=1.0, z=2.0), Vertex(x=4.0, y=1.0, z=2.0))
    gate = Gate(id="gate", name="Gate", at=1.0)
    run = Run(id="run", diameter=diameter, points=points, gates=(gate,))
    low, high = Answers(replace(shop(), ducts=Ducts(runs=(run,))), Memory()).of(SpendAnswers).duct_price()
    assert low == pytest.approx(3 * metre[0] + piece[0]) and high == pytest.approx(3 * metre[1] + piece[1])


def test_a_kind_on_the_list_is_of_its_group_with_its_band() -> None:
    """A collector and a hung cleaner are dust, a bandsaw is a machine; what has no price has none."""
    here = shop(item("saw", 400, kind="table-saw"))
    for kind, group in (("collector", "dust"), ("air-cleaner", "dust"), ("bandsaw", "machine")):
        made = new_item(here, kind, "t")
        assert (made.group, made.kind, made.thing) == (group, kind, "t")
        assert (made.low, made.high) == prices().get(kind, (0.0, 0.0)) and made.low < made.high
        assert made.name == kinds()[kind].name and made.id.startswith(f"item-{kind}")
