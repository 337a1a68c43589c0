"""Cards at the machines: what a gauge should read there, and what ends are brought together with."""

import re
from dataclasses import replace

import pytest

from purvel.review import Answers, Figures, Memory
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.cards import cards, suction_limits
from purvel.review.stage import Table
from purvel.shop import Shop
from purvel.shop.ducts import HoodPlan
from purvel.shop.edits import change_ducts
from tests.review.test_rules import piped, two_drops

__all__ = ["piped", "two_drops"]


def tables(shop: Shop) -> dict[str, Table]:
    return {one.title.split(":")[0]: one for one in cards(Answers(shop, Memory()), Figures("metric"))}


def number(text: str) -> float:
    return float(re.sub(r"[^0-9.]", "", text))


def test_each_hood_has_a_row_for_the_choice_in_which_it_gets_most(two_drops: Shop) -> None:
    card = tables(two_drops)["Hood cards"]
    assert [row[1] for row in card.rows] == ["Table saw alone", "Thickness planer alone"]
    network = Answers(two_drops, Memory()).of(DuctAnswers).networks[0]
    flows = {one.thing: one for choice in network.sets for one in choice.hoods if one.at_work}
    for row, thing in zip(card.rows, ("saw", "planer")):
        hood = flows[thing]
        assert number(row[3]) == pytest.approx(hood.static_suction, rel=6e-3)
        port = next(port for one in two_drops.things if one.id == thing for port in one.ports)
        # a pocket calculator's: suction goes with the square of flow
        assert number(row[4]) == pytest.approx(
            hood.static_suction * (port.chips_flow / hood.flow) ** 2, rel=2e-3
        )
        assert number(row[5]) > number(row[3])


def test_a_hood_that_gets_just_what_it_needs_is_at_its_limit(two_drops: Shop) -> None:
    flows = Answers(two_drops, Memory()).of(DuctAnswers).networks[0].sets[0]
    hood = next(one for one in flows.hoods if one.at_work)
    starved, blocked = suction_limits(hood, hood.flow, flows)
    assert starved == pytest.approx(hood.static_suction)
    assert blocked == pytest.approx((hood.static_suction + flows.source_pressure) / 2)
    assert suction_limits(hood, 2 * hood.flow, flows)[0] == pytest.approx(4 * hood.static_suction)


def test_a_designed_hood_is_told_with_what_it_wants_and_gets(two_drops: Shop) -> None:
    """A plain opening asks for v (10 x2 + A) [Dalla Valle]: at 0.1 m from 0.3 by 0.2 m that is 0.16 v; with
    fine dust 0.254 to 1 m/s."""
    hood = HoodPlan(
        id="h", name="Sanding", idea="none", shape="plain", width=0.3, height=0.2, depth=0.15, thing="saw"
    )
    kept = change_ducts(two_drops, hoods=(hood, replace(hood, id="i", name="", thing=None)))
    first, second = tables(kept)["Hoods designed"].rows
    assert first[0] == "Sanding" and second[0] == "i"
    assert first[1].endswith(", 300 mm by 200 mm") and first[2:4] == ("150 mm", "100 mm")
    wants = [float(one) for one in re.findall(r"[0-9.]+", first[4])[:1]]
    assert "m³/h" in first[4] and wants[0] == pytest.approx(0.254 * 0.16 * 3600, rel=0.01)
    assert first[4].split(" to ")[1] == "576 m³/h" and second[5] == "no duct"
    most = tables(two_drops)["Hood cards"].rows[0][2]
    assert first[5] == most


def test_ends_of_other_sizes_are_on_the_adapter_card(two_drops: Shop) -> None:
    assert "Adapter card" not in tables(two_drops)
    runs = two_drops.ducts.runs
    narrow = replace(
        two_drops, ducts=replace(two_drops.ducts, runs=(*runs[:-1], replace(runs[-1], diameter=0.063)))
    )
    (row,) = tables(narrow)["Adapter card"].rows
    assert row[0] == "Thickness planer" and row[1].endswith("63 mm") and row[2] == "100 mm"
    assert row[3] == "1 adapter: Reducer 100 to 63 mm."
