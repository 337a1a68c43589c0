"""What is said of a filter that loads up."""

from dataclasses import replace

import pytest

from purvel.catalogue import filter_media, filter_states
from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review import Answers, Finding, Grade, Memory
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.filter_rules import filters, least_flows
from purvel.review.figures import Figures
from purvel.shop import Filter, Shop
from purvel.shop.edits import change


@pytest.fixture
def shop() -> Shop:
    return loads(demo_bytes("garage-mended")).shop


def with_filter(shop: Shop, filter_: Filter | None) -> Shop:
    collector = shop.thing("collector")
    assert collector is not None and collector.source is not None
    return change(shop, "collector", source=replace(collector.source, filter=filter_))


def said(shop: Shop) -> list[Finding]:
    answers = Answers(shop, Memory())
    (network,) = answers.of(DuctAnswers).networks
    return list(filters(answers, network, Figures("metric")))


def test_the_more_it_holds_the_less_every_hood_gets(shop: Shop) -> None:
    ducts = Answers(shop, Memory()).of(DuctAnswers)
    (network,) = ducts.networks
    clean, used, clogged = (
        least_flows(ducts.at_filter(network, state)) for state in ("clean", "seasoned", "clogged")
    )
    assert clean.keys() == used.keys() == clogged.keys() and len(clean) >= 3
    assert all(clean[hood] > used[hood] > clogged[hood] for hood in clean)
    # the filter of the shop is in use: that state is the system as it is
    assert used == pytest.approx(least_flows(network), rel=1e-6)


def test_the_filter_takes_its_resistance_times_the_flow_over_its_area(shop: Shop) -> None:
    ducts = Answers(shop, Memory()).of(DuctAnswers)
    (network,) = ducts.networks
    loaded = ducts.at_filter(network, "clogged").sets[0]
    filter_ = network.layout.source.filter
    assert filter_ is not None
    assert loaded.filter_loss == pytest.approx(
        filter_states()["clogged"] * loaded.flow / filter_.area, rel=1e-6
    )


def test_the_hood_that_falls_furthest_is_named(shop: Shop) -> None:
    (found,) = said(shop)
    assert found.grade == Grade.WATCH and found.about == ("collector",)
    assert found.sentence.startswith("With the filter of Collector clogged Planer gets ")
    assert "too little to clear its chips" in found.sentence and "Table saw" in found.why
    assert 0.5 < found.figures["left"] < 1.0


def test_where_no_hood_falls_that_is_good_and_a_clogged_one_is_told_elsewhere(shop: Shop) -> None:
    large = Filter(area=200.0, resistance=filter_states()["seasoned"])
    (held,) = said(with_filter(shop, large))
    assert held.grade == Grade.GOOD and "still serves every hood as now" in held.sentence
    assert held.figures["left"] > 0.97
    assert said(with_filter(shop, replace(large, resistance=filter_states()["clogged"]))) == []
    assert said(with_filter(shop, None)) == []


def test_a_finer_filter_behind_adds_its_own_resistance(shop: Shop) -> None:
    """What it costs is the sum of both, each its resistance over its area, times the flow."""
    collector = shop.thing("collector")
    assert collector is not None and collector.source is not None and collector.source.filter is not None
    fine = Filter(area=10.0, resistance=filter_states("glass")["seasoned"], medium="glass")
    behind = change(shop, "collector", source=replace(collector.source, behind=fine))
    (network,) = Answers(behind, Memory()).of(DuctAnswers).networks
    one, first = network.sets[0], collector.source.filter
    assert one.filter_loss == pytest.approx(
        (first.resistance / first.area + fine.resistance / fine.area) * one.flow, rel=1e-6
    )
    (before,) = Answers(shop, Memory()).of(DuctAnswers).networks
    assert one.flow < before.sets[0].flow


def test_states_go_by_what_the_filter_is_made_of(shop: Shop) -> None:
    paper = with_filter(shop, Filter(area=8.0, resistance=filter_states("paper")["clean"], medium="paper"))
    ducts = Answers(paper, Memory()).of(DuctAnswers)
    (network,) = ducts.networks
    loaded = ducts.at_filter(network, "clogged").sets[0]
    assert loaded.filter_loss == pytest.approx(
        filter_states("paper")["clogged"] * loaded.flow / 8.0, rel=1e-6
    )
    assert filter_states("nothing that is known") == filter_states()
    for medium in filter_media().values():
        clean, seasoned, clogged = (medium.states[state] for state in ("clean", "seasoned", "clogged"))
        assert clean < seasoned < clogged
