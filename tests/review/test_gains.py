"""What one change would bring at a hood is what the review finds once it is made."""

from dataclasses import replace

import pytest

from purvel.airflow.flows import HoodFlow
from purvel.catalogue import filter_states
from purvel.review import Answers, Figures, Memory
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.gains import Gain, gains
from purvel.shop import Shop
from purvel.shop.edits import change
from tests.review.test_rules import piped

__all__ = ["piped"]


def hood_of(shop: Shop) -> HoodFlow:
    (network,) = Answers(shop, Memory()).of(DuctAnswers).networks
    return network.sets[0].hoods[0]


def found(shop: Shop) -> dict[str, float]:
    answers = Answers(shop, Memory())
    (network,) = answers.of(DuctAnswers).networks
    made: list[Gain] = gains(
        answers, network, network.sets[0].id, network.sets[0].hoods[0], Figures("metric")
    )
    assert [one.flow for one in made] == sorted((one.flow for one in made), reverse=True)
    return {one.change: one.flow for one in made}


def test_a_size_more_and_a_clean_filter_bring_what_the_review_then_finds(piped: Shop) -> None:
    told, now = found(piped), hood_of(piped).flow
    wider = change(piped, "drop", diameter=0.125)
    assert told["Drop 125 mm instead of 100 mm"] == pytest.approx(hood_of(wider).flow - now, rel=1e-6)
    thing = piped.thing("collector")
    assert thing is not None and thing.source is not None and thing.source.filter is not None
    clean = replace(thing.source, filter=replace(thing.source.filter, resistance=filter_states()["clean"]))
    gain = hood_of(change(piped, "collector", source=clean)).flow - now
    assert told["The filter cleaned"] == pytest.approx(gain, rel=1e-6) and gain > 0


def test_tight_elbows_are_eased_and_hose_is_shortened(piped: Shop) -> None:
    assert not any("45s" in words for words in found(piped))  # its elbows are of the gentlest kind
    tight = change(piped, "main", elbow="short-turn")
    told, now = found(tight), hood_of(tight).flow
    eased = hood_of(change(tight, "main", elbow="smooth-1.5")).flow - now
    assert told["Main with elbows of radius 1.5 D"] == pytest.approx(eased, rel=1e-3) and eased > 0
    assert 0 < told["Main with two 45s instead of its sharpest elbow"] < eased
    assert told["Main with one elbow less"] > 0
    hose = change(piped, "drop", material="ribbed-hose")
    run = next(run for run in hose.ducts.runs if run.id == "drop")
    longer = found(change(hose, "drop", points=tuple(replace(p, z=min(p.z + 0.6, 2.3)) for p in run.points)))
    assert any(words.startswith("Drop 1000 mm shorter") and gain > 0 for words, gain in longer.items())


def test_nothing_of_it_changes_what_is_remembered(piped: Shop) -> None:
    memory = Memory()
    answers = Answers(piped, memory)
    (network,) = answers.of(DuctAnswers).networks
    gains(answers, network, network.sets[0].id, network.sets[0].hoods[0], Figures("metric"))
    assert Answers(piped, memory).of(DuctAnswers).networks[0] is network
