"""The stage of money, by hand."""

from PySide6.QtWidgets import QCheckBox, QPushButton

from purvel.app.stages.spend.stage import SpendStage
from tests.app.conftest import Bench, choose, enter
from tests.app.test_flow import field


def stage(bench: Bench) -> SpendStage:
    bench.stage("spend")
    shown = bench.window.stage
    assert isinstance(shown, SpendStage)
    return shown


def test_a_fixed_sum_and_an_empty_garage(bench: Bench) -> None:
    bench.demo("garage-mended")
    shown = stage(bench)
    enter(shown.start, "2500")
    enter(shown.monthly, "0")
    assert (bench.workspace.shop.budget.start, bench.workspace.shop.budget.monthly) == (2500.0, 0.0)
    shown.add("router-table", None)
    added = bench.workspace.shop.budget.items[-1]
    assert added.kind == "router-table" and bench.workspace.picked == added.id and added.low < added.high
    shown.add_ducts()
    ducts = bench.workspace.shop.budget.items[-1]
    assert ducts.group == "ducts" and 50 < ducts.low < ducts.high
    shown.take_best()
    assert {one.id for one in bench.workspace.shop.budget.items} >= {added.id, ducts.id}
    bench.workspace.undo()
    assert bench.workspace.shop.budget.items[-1] == ducts


def test_an_order_of_a_school_and_by_hand(bench: Bench) -> None:
    bench.demo("garage-mended")
    shown = stage(bench)
    shown.take_school("rough")
    order = [one.kind for one in bench.workspace.shop.budget.items if one.paid is None]
    assert order[:2] == ["planer", "jointer"] and "Rough boards" in bench.window.notice.said.text()
    bench.workspace.pick("item-jointer")
    buttons = bench.window.inspector.findChildren(QPushButton)
    next(one for one in buttons if one.accessibleName() == "Earlier on the list").click()
    assert next(one.kind for one in bench.workspace.shop.budget.items if one.paid is None) == "jointer"


def test_an_item_is_bought_and_its_price_comes_down(bench: Bench) -> None:
    bench.demo("garage-mended")
    stage(bench)
    bench.workspace.pick("item-planer")
    next(one for one in bench.window.inspector.findChildren(QCheckBox) if one.text() == "Bought").click()
    item = next(one for one in bench.workspace.shop.budget.items if one.id == "item-planer")
    assert item.paid == 600.0 and item.paid_on
    enter(field(bench, "Days that a lower price can be claimed"), "30")
    enter(field(bench, "Lowest price seen since"), "520")
    bench.settle()
    assert any(one.rule == "price-drop" for one in bench.window.reviews.latest.of("spend"))
    before = bench.workspace.shop
    for text in ("31.02.2026", "yesterday", "2026-02-31"):
        enter(field(bench, "Day of paying"), text)
        assert bench.workspace.shop == before


def test_a_band_upside_down_is_refused(bench: Bench) -> None:
    bench.demo("garage-mended")
    stage(bench)
    bench.workspace.pick("item-planer")
    before = bench.workspace.shop
    enter(field(bench, "Price, up to"), "10")
    assert bench.workspace.shop == before and "Nothing was changed" in bench.window.notice.said.text()
    choose(field(bench, "How the price is known"), "quote")
    assert next(one for one in bench.workspace.shop.budget.items if one.id == "item-planer").known == "quote"
