"""The suction walk: what is lost on the way is what the source gives; two ways beside each other."""

from dataclasses import replace

import pytest

from purvel.review import Answers, Memory
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.walks import Row, Walk, in_choice, merged, rows
from purvel.shop import GateSet, PartOpen, Shop
from purvel.shop.edits import change_ducts
from purvel.shop.parts import name_of
from tests.review.test_rules import piped, two_drops

__all__ = ["piped", "two_drops"]


def walked(shop: Shop, thing: str, choice: str) -> Walk:
    (network,) = Answers(shop, Memory()).of(DuctAnswers).networks
    flows = next(one for one in network.sets if one.id == choice)
    return Walk(shop, network.layout, flows, next(one for one in flows.hoods if one.thing == thing))


@pytest.fixture
def chosen(two_drops: Shop) -> Shop:
    sets = (
        GateSet(id="saw", name="Saw", open=("gate",)),
        GateSet(id="both", name="Both", open=("gate", "planer-gate")),
    )
    return change_ducts(two_drops, gate_sets=sets)


@pytest.mark.parametrize("thing", ["saw", "planer"])
def test_what_is_lost_on_the_way_is_what_the_source_gives(chosen: Shop, thing: str) -> None:
    walk = walked(chosen, thing, "both")
    steps = walk.steps()
    assert sum(loss for _, loss in steps) == pytest.approx(walk.flows.source_pressure, abs=0.5 * 8)
    assert sum(one.loss or 0.0 for one in rows(walk)) == pytest.approx(sum(loss for _, loss in steps))
    assert steps[0] == (f"hood of {name_of(chosen, thing)}", walk.hood.entry_loss)
    names = [what for what, _ in steps]
    assert [name for name in names if "pipe" in name][-1] == "Main, pipe"  # the source's end comes last
    assert names[-1] in ("filter", "discharge") and steps[-1][1] > 0.5


def test_a_gate_on_the_way_is_told_as_what_it_is(chosen: Shop) -> None:
    shut = walked(chosen, "planer", "saw")
    assert any(what.endswith(", shut gate") for what, _ in shut.steps())
    opened = walked(chosen, "planer", "both")
    assert not any("gate" in what for what, _ in opened.steps())
    half = replace(chosen.ducts.gate_sets[1], part=(PartOpen(gate="planer-gate", share=0.5),))
    partly = walked(change_ducts(chosen, gate_sets=(half,)), "planer", "both")
    (gate,) = (loss for what, loss in partly.steps() if what.endswith(", gate in part"))
    assert gate > 2.0 and partly.hood.flow < opened.hood.flow


def test_two_choices_stand_side_by_side(chosen: Shop) -> None:
    (network,) = Answers(chosen, Memory()).of(DuctAnswers).networks
    alone = walked(chosen, "planer", "saw")
    other = in_choice(alone, network, "both")
    assert other is not None and other.hood.thing == "planer" and other.flows.id == "both"
    assert in_choice(alone, network, "nothing") is None
    table = {one.what: one for one in rows(other, alone)}
    (gate,) = (one for what, one in table.items() if what.endswith(", shut gate"))
    assert gate.loss is None and gate.other is not None and gate.other > 100.0
    main = table["Main, pipe"]
    assert main.loss is not None and main.other is not None and main.loss > main.other > 0.0
    order = [one.what for one in rows(other, alone)]
    run = gate.what.removesuffix(", shut gate")
    assert order.index(gate.what) == order.index(f"{run}, pipe") + 1  # behind what it follows there


def test_the_cheapest_neighbours_are_put_together() -> None:
    steps = [Row("a", 50.0), Row("b", 4.0), Row("c", 3.0, -9.0), Row("d", 80.0), Row("e", None, 6.0)]
    assert merged(steps, 5) == steps
    assert merged(steps, 4) == [steps[0], Row("c …", 7.0, -9.0), steps[3], steps[4]]
    # 50 + 9, 9 + 80, 80 + 6: the first two go together next, and keep the name of the larger
    assert merged(steps, 3) == [Row("a …", 57.0, -9.0), steps[3], steps[4]]
    assert merged(steps, 1) == [Row("d …", 137.0, -3.0)]
