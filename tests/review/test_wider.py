"""Sizes with other pipe and another source: the best of what each would be alone."""

from dataclasses import replace

import pytest

from purvel.airflow.sizing import sizings
from purvel.airflow.sources import most_suction
from purvel.catalogue import kinds, make_thing, materials
from purvel.catalogue.money import duct_prices, prices
from purvel.review import Answers, Memory
from purvel.review.ducts import wider
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.sizes import Result, problem, smaller_first
from purvel.review.ducts.wider import Trial, Wider, taken, widened, words
from purvel.shop import Shop
from tests.review.test_rules import piped, two_drops

__all__ = ["piped", "two_drops"]


def found(shop: Shop, *, pipes: bool = False, sources: bool = False) -> Result:
    answers = Answers(shop, Memory())
    (network,) = answers.of(DuctAnswers).networks
    return list(widened(answers, network, ("cost", "least"), pipes=pipes, sources=sources))[-1]


def alone(shop: Shop) -> float:
    """What the least that holds costs, sought as it is."""
    answers = Answers(shop, Memory())
    (network,) = answers.of(DuctAnswers).networks
    posed = problem(answers, network, "least")
    best = list(sizings(posed.system, posed.asked, posed.prices, "cost", 10.0))[-1].best
    return best.cost if best.holds else float("inf")


def of_pipe(shop: Shop, material: str) -> Shop:
    runs = tuple(replace(run, material=material) for run in shop.ducts.runs)
    return replace(shop, ducts=replace(shop.ducts, runs=runs))


def test_asked_for_neither_it_is_the_search_for_sizes(two_drops: Shop) -> None:
    result = found(two_drops)
    assert not isinstance(result, Wider) and result.sizing.best.cost == pytest.approx(alone(two_drops))
    assert list(words(result)) == []


def test_the_kind_of_pipe_that_costs_least_and_is_not_folded_is_found(two_drops: Shop) -> None:
    result = found(two_drops, pipes=True)
    assert isinstance(result, Wider) and result.sizing.best.holds
    source = two_drops.thing("collector")
    assert source is not None and source.source is not None
    metal = [key for key, one in materials().items() if one.kind == "duct" and not one.plastic]
    costs = {key: alone(of_pipe(two_drops, key)) for key in metal}
    stands = {
        key: cost
        for key, cost in costs.items()
        if materials()[key].collapse_limit(max(result.sizing.best.sizes.values()))
        >= most_suction(source.source)
    }
    assert result.sizing.best.cost == pytest.approx(min(stands.values()))
    assert result.trial.material == min(stands, key=lambda key: stands[key])
    after = taken(two_drops, result, "collector")
    assert {run.material for run in after.ducts.runs} == {result.trial.material or "spiral"}
    assert {run.id: run.diameter for run in after.ducts.runs} == result.sizing.best.sizes


def test_another_source_is_taken_only_where_it_is_worth_its_price(two_drops: Shop) -> None:
    """The one that stands there is paid for; one that cannot do it is not chosen for being cheap."""
    result = found(two_drops, sources=True)
    assert isinstance(result, Wider) and result.trial == Trial()
    greedy = replace(two_drops, ducts=replace(two_drops.ducts, target="fine"))
    need = found(greedy, sources=True)
    assert isinstance(need, Wider)
    if need.sizing.best.holds:
        price = sum(prices()[need.trial.kind]) / 2 if need.trial.kind else 0.0
        assert alone(greedy) >= need.sizing.best.cost + price - 1e-6
    after = taken(greedy, need, "collector")
    old, new = greedy.thing("collector"), after.thing("collector")
    assert old is not None and new is not None and old.source is not None and new.source is not None
    assert (new.source.inlet_x, new.source.inlet_z) == (old.source.inlet_x, old.source.inlet_z)
    if need.trial.kind:
        assert new.source.curve == make_thing(need.trial.kind, "x").source.curve  # type: ignore[union-attr]
        assert kinds()[need.trial.kind].name in " ".join(words(need))


def test_sources_are_tried_from_the_weakest_on() -> None:
    collector = make_thing("collector", "c").source
    assert collector is not None
    keys = [key for key, _, _ in smaller_first(collector)]
    assert keys.index("small-collector") < keys.index("collector") < keys.index("cyclone")


def test_pipe_is_priced_by_what_it_is_made_of() -> None:
    table = duct_prices()
    assert table.of("m", 0.1) == (6.0, 14.0) == table.of("m", 0.1, "spiral")
    assert table.middle("m", 0.1, "snap-lock") == pytest.approx(0.6 * 10.0)
    assert table.middle("m", 0.1, "ribbed-hose") == table.middle("m", 0.1)


def test_it_says_how_many_do_not_hold_the_suction(two_drops: Shop, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(wider, "most_suction", lambda source: 1e9)
    result = found(two_drops, pipes=True)
    assert isinstance(result, Wider) and result.trial == Trial() and result.crushed == 3
    assert "3 combinations were left out" in next(words(result))


def test_a_short_search_comes_near_to_what_going_through_everything_finds(two_drops: Shop) -> None:
    answers = Answers(two_drops, Memory())
    (network,) = answers.of(DuctAnswers).networks
    posed = problem(answers, network, "least")
    proven = list(sizings(posed.system, posed.asked, posed.prices, "cost", 10.0))[-1]
    short = list(sizings(posed.system, posed.asked, posed.prices, "cost", 2.0, 0))[-1]
    assert proven.is_proven and short.best.holds
    assert proven.best.cost - 1e-6 <= short.best.cost <= 1.05 * proven.best.cost
