"""The search for sizes as it is asked for a shop, and what is said of it."""

from dataclasses import replace

import pytest

from purvel.airflow.sizing import sizings
from purvel.catalogue import duct_sizes, make_thing, transport
from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review import Answers, Figures, Memory, review
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.sizes import (
    changes,
    problem,
    said,
    searched,
    sizes_for,
    smaller_first,
    taken,
)
from purvel.shop import Join, Run, Shop
from purvel.shop.edits import change, change_ducts, put


@pytest.fixture(scope="module")
def vac() -> Shop:
    return loads(demo_bytes("single-garage-mended")).shop


def posed_for(shop: Shop, **words: str) -> tuple[Answers, object]:
    answers = Answers(shop, Memory())
    return answers, problem(answers, answers.of(DuctAnswers).networks[0], **words)  # type: ignore[arg-type]


def test_taking_the_sizes_keeps_what_was_found(vac: Shop) -> None:
    """What the search says of the best is what the review finds once it is taken."""
    answers, posed = posed_for(vac)
    result = list(searched(posed, answers, "cost", "want"))[-1]
    found = result.sizing
    assert result.is_over and found.best.holds and found.is_proven and result.source == ""
    after = taken(vac, found.best)
    assert {run.id: run.diameter for run in after.ducts.runs} == found.best.sizes
    (network,) = Answers(after, Memory()).of(DuctAnswers).networks
    target = vac.ducts.target
    least = min(
        hood.flow / (end.fine_flow if target == "fine" else end.chips_flow)
        for one in network.sets
        for hood in one.hoods
        if hood.at_work and (end := network.layout.segments[hood.segment].hood) is not None
    )
    assert least == pytest.approx(found.best.growth, rel=1e-4)
    assert not [
        one for one in review(after).findings if one.rule == "chips-move" and "settle in" in one.sentence
    ]
    say = Figures("metric")
    assert len(list(changes(answers, found.best, say))) == len(vac.ducts.runs)
    lines = list(said(answers, result, say))
    assert lines[0].startswith("All flows and speeds hold") and "proven, nothing better holds" in lines[2]


def test_what_is_asked_follows_the_shops_aim_and_the_speed_that_is_chosen(vac: Shop) -> None:
    _, least = posed_for(change_ducts(vac, target="chips"), speeds="least")
    _, most = posed_for(change_ducts(vac, target="fine"), speeds="want")
    assert (most.asked.flows >= least.asked.flows).all() and most.asked.flows.sum() > least.asked.flows.sum()
    speeds = {round(float(speed), 3) for speed in least.asked.speeds.ravel()} - {0.0}
    assert speeds <= {transport("dust").least, transport("chips").least}
    assert most.asked.speeds.max() in (transport("dust").want, transport("chips").want)


def test_a_vac_is_looked_for_in_hose_and_a_collector_in_pipe() -> None:
    hose, pipe = make_thing("vac", "v").source, make_thing("collector", "c").source
    assert hose is not None and pipe is not None
    assert max(sizes_for(hose)) == 0.1 and min(sizes_for(pipe)) == 0.08
    assert set(sizes_for(hose)) | set(sizes_for(pipe)) == set(duct_sizes())
    names = [name for _, name, _ in smaller_first(pipe)]
    assert len(names) == 4 and all(other.kind != "vac" for _, _, other in smaller_first(pipe))
    power = [max(point.pressure for point in one.curve) for _, _, one in smaller_first(pipe)]
    assert power == sorted(power)


def test_where_nothing_holds_the_first_to_give_way_and_the_source_that_would_do(vac: Shop) -> None:
    thing = vac.thing("vac")
    assert thing is not None and thing.source is not None
    weak = replace(
        thing.source,
        curve=tuple(
            replace(one, flow=one.flow * 0.45, pressure=one.pressure * 0.6) for one in thing.source.curve
        ),
    )
    shop = change(vac, "vac", source=weak)
    answers, posed = posed_for(shop)
    result = list(searched(posed, answers, "cost", "want"))[-1]
    assert not result.sizing.best.holds
    lines = list(said(answers, result, Figures("metric")))
    assert lines[0].startswith("No sizes hold everything") and lines[-2].startswith("First to give way: the ")
    assert result.source in [name for _, name, _ in smaller_first(weak)]
    assert lines[-1] == f"The smallest source with which something holds: {result.source}."
    # with every smaller one nothing holds
    for _, name, source in smaller_first(weak):
        if name == result.source:
            break
        smaller = problem(answers, posed.network, "want", source)
        assert not list(sizings(smaller.system, smaller.asked, smaller.prices))[-1].best.holds


def test_what_cannot_be_searched_is_said(vac: Shop) -> None:
    second = make_thing("small-vac", "second", 1.0, 1.0)
    line = Run(id="line", diameter=0.05, source="second", joins=Join(run=vac.ducts.runs[0].id))
    both = Answers(put(put(vac, second), line), Memory())
    with pytest.raises(ValueError, match="Two sources"):
        problem(both, both.of(DuctAnswers).networks[0])
    bare = Answers(change_ducts(vac, runs=vac.ducts.runs[:1], gate_sets=()), Memory())
    with pytest.raises(ValueError, match="No run leads to a machine"):
        problem(bare, bare.of(DuctAnswers).networks[0])
