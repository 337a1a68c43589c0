"""What is said where two sources pull at one line, and of the greatest suction that a duct must hold."""

from dataclasses import replace

import pytest

from purvel.airflow import network as solver
from purvel.airflow.flows import NetworkResult
from purvel.airflow.sources import BANDS, most_suction
from purvel.catalogue import make_thing, materials
from purvel.review import Answers, Grade, Memory, review
from purvel.review.air.answers import AirAnswers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.report import report
from purvel.review.ducts.routes import routings
from purvel.review.ducts.standing import carried
from purvel.shop import CurvePoint, Gate, GateSet, Join, Run, Shop, Source, WorkInterval
from purvel.shop.edits import change, change_ducts, change_shop, put
from purvel.shop.scenes import Pose, Scene
from tests.review.test_rules import fired, piped

__all__ = ["piped"]


def source_of(shop: Shop, name: str) -> Source:
    thing = shop.thing(name)
    assert thing is not None and thing.source is not None
    return thing.source


@pytest.fixture
def doubled(piped: Shop) -> Shop:
    """The small shop with a second collector brought to the far end of its main."""
    second = make_thing("collector", "second", 3.0, 4.2)
    line = Run(id="line", diameter=0.125, source="second", joins=Join(run="main"))
    return change_ducts(
        put(put(piped, second), line), gate_sets=(GateSet(id="saw", name="Saw", open=("gate",)),)
    )


def test_two_sources_are_one_system_in_findings_and_report(doubled: Shop, piped: Shop) -> None:
    (network,) = Answers(doubled, Memory()).of(DuctAnswers).networks
    (one,) = network.sets
    (alone,) = (
        Answers(change_ducts(piped, gate_sets=doubled.ducts.gate_sets), Memory()).of(DuctAnswers).networks
    )
    assert one.hoods[0].flow > 1.02 * alone.sets[0].hoods[0].flow
    assert not [f for f in fired(doubled, "run-loose") + fired(doubled, "run-capped") if "line" in f.about]
    moving = fired(doubled, "chips-move")[0]
    assert "One source works at" in moving.why and "; the other works at" in moving.why
    told = report(Answers(doubled, Memory()))["ducts"][0]
    assert [other["source"] for other in told["others"]] == ["second"]
    (solved,) = told["gate_sets"]
    assert solved["others"][0]["flow"] == one.sources[1].flow > 0
    # what the second pulls goes away from the first, and carries chips there
    line = next(i for i, segment in enumerate(network.layout.segments) if segment.run == "line")
    assert one.segments[line].flow < 0 and carried(network.layout, one)[line].state != "idle"
    assert len(fired(doubled, "curve-representative")) == 2


def test_no_route_is_proposed_on_the_line_of_two(doubled: Shop) -> None:
    with pytest.raises(ValueError, match="Two sources pull at that line: no routes are proposed there"):
        list(routings(Answers(doubled, Memory()), "collector"))


def test_ducts_whose_source_is_put_away_are_not_checked_there(piped: Shop) -> None:
    scenes = (Scene(id="s", name="Night", poses=(Pose(thing="collector", x=4.0, y=4.0),)),)
    there = {one.rule: one for one in review(change_shop(piped, scenes=scenes), scene="s").findings}
    assert there["source-away"].about == ("collector",) and there["source-away"].grade == Grade.WATCH
    assert "In “Night” Single-stage collector" in there["source-away"].sentence
    assert "source-away" not in {one.rule for one in review(piped).findings}


def test_a_source_that_another_blows_back_through_is_said(doubled: Shop) -> None:
    assert fired(doubled, "blown-back") == []
    weak = replace(
        source_of(doubled, "second"),
        curve=(CurvePoint(flow=0, pressure=300), CurvePoint(flow=0.2, pressure=0)),
        curve_from="maker",
    )
    (back,) = fired(change(doubled, "second", source=weak), "blown-back")
    assert back.grade == Grade.MEND and back.about == ("second",)
    assert back.figures["flow"] < 0 and "pulled backwards through" in back.sentence
    assert "With “Saw” -" not in back.sentence


def test_what_a_machine_blows_into_is_what_moves_most(doubled: Shop) -> None:
    strong = source_of(doubled, "second")
    faster = change(doubled, "second", source=replace(strong, speed=1.4))
    work = WorkInterval(id="w", thing="saw", hood="as drawn")
    air = replace(faster.air, session=replace(faster.air.session, work=(work,)))
    (pull,) = Answers(replace(faster, air=air), Memory()).of(AirAnswers).pulls.values()
    (network,) = Answers(faster, Memory()).of(DuctAnswers).networks
    assert pull.extraction.source == "second"
    assert pull.extraction.flow == pytest.approx(network.sets[0].whole_flow)


def test_a_duct_must_hold_what_its_source_may_make_at_the_strong_end(piped: Shop) -> None:
    """A wall that holds the middle of a representative curve and not its strong end is told of."""
    source = source_of(piped, "collector")
    assert source.curve_from == "representative"
    highest = max(point.pressure for point in source.curve)
    assert most_suction(source) == pytest.approx(highest * BANDS["representative"][1].pressure)
    limit = materials()["snap-lock"].collapse_limit(0.125)
    share = 0.95 * limit / highest
    curve = tuple(replace(point, pressure=point.pressure * share) for point in source.curve)
    thin = change(piped, "main", material="snap-lock")
    (said,) = fired(change(thin, "collector", source=replace(source, curve=curve)), "duct-collapse")
    assert said.about == ("main",) and said.figures["shut_off"] == pytest.approx(1.2 * 0.95 * limit)
    assert "these hold it" in said.why and "spiral steel duct" in said.why
    known = replace(source, curve=curve, curve_from="measured")
    assert fired(change(thin, "collector", source=known), "duct-collapse") == []


def test_air_that_comes_back_out_of_a_hood_is_said(piped: Shop, monkeypatch: pytest.MonkeyPatch) -> None:
    real = solver.solve

    def backwards(*args: object) -> NetworkResult:
        result: NetworkResult = real(*args)  # type: ignore[arg-type]
        turned = tuple(
            replace(one, hoods=tuple(replace(end, flow=-0.02) for end in one.hoods)) for one in result.sets
        )
        return replace(result, sets=turned)

    monkeypatch.setattr("purvel.review.ducts.answers.solve", backwards)
    (said,) = fired(piped, "hood-flow")
    assert said.grade == Grade.STOP and "72 m³/h are blown back out of" in said.sentence


def test_a_gate_before_a_second_source_is_open_where_the_user_says_nothing(doubled: Shop) -> None:
    gated = change(change_ducts(doubled, gate_sets=()), "line", gates=(Gate(id="flap", at=0.3),))
    ducts = Answers(gated, Memory()).of(DuctAnswers)
    (choice,) = ducts.choices.values()
    assert set(choice.open) == {"gate", "flap"} and choice.id == "alone/saw/cabinet"
    (one,) = ducts.networks[0].sets
    assert one.sources[1].flow > 0.05 and one.hoods[0].is_open
