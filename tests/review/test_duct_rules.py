"""What the rules of the ducts say of odd systems, and what they keep to themselves."""

from dataclasses import replace

import pytest

from purvel.airflow import network as solver
from purvel.airflow.flows import NetworkResult
from purvel.catalogue import kinds, make_thing, materials, transport
from purvel.review import Answers, Finding, Grade, Memory, review
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.report import report
from purvel.review.ducts.standing import carried
from purvel.shop import CurvePoint, Gate, GateSet, Join, PortRef, Run, Shop
from purvel.shop.edits import change, change_ducts, put
from tests.review.test_rules import fired, grade, piped, two_drops, v

__all__ = ["piped", "two_drops"]

CFM = 0.3048**3 / 60


def test_a_set_that_was_not_solved_gives_no_finding_but_its_own(
    piped: Shop, monkeypatch: pytest.MonkeyPatch
) -> None:
    shop = change_ducts(piped, gate_sets=(GateSet(id="one", name="One", open=("gate",)),))
    sound = [one.rule for one in review(shop).findings if "One" in one.sentence or one.where.gate_set]
    assert "hood-flow" in sound and "chips-move" in sound

    def gives_up(*args: object) -> NetworkResult:
        result: NetworkResult = real(*args)  # type: ignore[arg-type]
        bad = tuple(replace(one, converged=False, imbalance=900.0) for one in result.sets)
        return replace(result, sets=bad)

    real = solver.solve
    monkeypatch.setattr("purvel.review.ducts.answers.solve", gives_up)
    found: list[Finding] = [one for one in review(shop).findings if one.stage == "ducts"]
    assert [one.grade for one in found if one.rule == "not-solved"] == [Grade.STOP]
    assert not {"hood-flow", "chips-move", "hose-long", "curve-past"} & {one.rule for one in found}


def test_a_branch_at_the_very_start_is_solved_and_told(piped: Shop) -> None:
    planer = make_thing("planer", "planer", 3.0, 1.5)
    branch = Run(
        id="first", diameter=0.1, joins=Join(run="main", at=0.0), port=PortRef(thing="planer", port="hood")
    )
    shop = put(put(piped, planer), branch)
    assert fired(shop, "not-solved") == []
    flows = {one.about: one.figures["flow"] for one in fired(shop, "hood-flow")}
    assert 100 * CFM < flows["planer/hood",] < 900 * CFM


def test_a_choice_that_opens_nothing_is_said(piped: Shop) -> None:
    empty = GateSet(id="none", name="All shut")
    shop = change_ducts(piped, gate_sets=(empty, GateSet(id="saw", name="Saw", open=("gate",))))
    (idle,) = fired(shop, "choice-idle")
    assert idle.about == ("none",) and "All shut" in idle.sentence
    (network,) = Answers(shop, Memory()).of(DuctAnswers).networks
    assert [one.id for one in network.sets] == ["none", "saw"] and network.sets[0].flow < network.sets[1].flow
    # a hood behind two gates draws only with both open
    behind = change(shop, "main", gates=(Gate(id="main-gate", at=1.0),))
    assert {one.about for one in fired(behind, "choice-idle")} == {("none",), ("saw",)}


def test_a_run_without_length_is_said(piped: Shop) -> None:
    planer = make_thing("planer", "planer", 3.0, 1.5)
    x, y = planer.spot(planer.ports[0].x, planer.ports[0].y)
    stub = Run(id="stub", points=(v(x, y, planer.ports[0].z),), port=PortRef(thing="planer", port="hood"))
    end = Run(id="end", source="collector", points=(v(x, y, planer.ports[0].z),))
    shop = put(put(put(piped, planer), end), replace(stub, points=(), joins=Join(run="end")))
    (short,) = fired(shop, "run-short")
    assert short.about == ("stub",) and short.grade == Grade.MEND
    assert all(one.about != ("stub",) for one in fired(shop, "run-loose"))


def test_past_the_last_point_of_a_curve_is_said(piped: Shop, two_drops: Shop) -> None:
    assert fired(piped, "curve-past") == []
    (thing,) = (one for one in piped.things if one.source is not None)
    assert thing.source is not None
    short = replace(
        thing.source, curve=(CurvePoint(flow=0, pressure=2600), CurvePoint(flow=0.1, pressure=2500))
    )
    (past,) = fired(change(piped, thing.id, source=short), "curve-past")
    assert past.figures["last"] == 0.1 and past.figures["flow"] > 0.1
    hump = tuple(CurvePoint(flow=q, pressure=p) for q, p in ((0, 1500), (0.4, 2600), (0.6, 0)))
    (left,) = fired(change(piped, thing.id, source=replace(thing.source, curve=hump)), "curve-hump")
    assert left.figures["flow"] < left.figures["peak"] == 0.4
    humped = change(two_drops, thing.id, source=replace(thing.source, curve=hump))
    (least,) = fired(humped, "curve-hump")
    flows = {one.id: one.flow for one in Answers(humped, Memory()).of(DuctAnswers).networks[0].sets}
    assert len(flows) > 1 and flows[least.where.gate_set or ""] == min(flows.values())
    right = tuple(CurvePoint(flow=q, pressure=p) for q, p in ((0, 2500), (0.02, 2600), (0.6, 0)))
    assert fired(change(piped, thing.id, source=replace(thing.source, curve=right)), "curve-hump") == []


def test_speeds_follow_what_is_carried_not_the_place_in_the_tree(two_drops: Shop) -> None:
    """A main asks for what its branches carry: sawdust less than shavings; with both, as for shavings."""
    dust, chips = transport("dust"), transport("chips")
    assert 15 <= dust.least < dust.want <= 18 and 17.5 <= chips.least < chips.want <= 20.5
    sets = (
        GateSet(id="saw", open=("gate",)),
        GateSet(id="planer", open=("planer-gate",)),
        GateSet(id="both", open=("gate", "planer-gate")),
    )
    (network,) = Answers(change_ducts(two_drops, gate_sets=sets), Memory()).of(DuctAnswers).networks
    by_set = {
        one.id: {
            part.run: within.what
            for part, within in zip(network.layout.segments, carried(network.layout, one))
        }
        for one in network.sets
    }
    assert by_set["saw"]["drop"] == "dust" and by_set["planer"]["planer-drop"] == "chips"
    first = {one.id: carried(network.layout, one)[0].what for one in network.sets}
    assert first == {"saw": "dust", "planer": "chips", "both": "chips"}
    told = report(Answers(change_ducts(two_drops, gate_sets=sets), Memory()))["ducts"][0]["gate_sets"]
    for one in told:
        way = {part["id"]: part for part in one["segments"]}
        for end in one["hoods"]:
            if end["open"]:
                asked = [way[part]["least_speed"] for part in end["path"]]
                assert asked == sorted(asked)  # from the hood to the fan never less


def test_needs_of_floor_machines_are_the_prints_and_say_so(piped: Shop) -> None:
    need = {key: sum(port.chips_cfm for port in kind.ports) for key, kind in kinds().items() if kind.ports}
    assert (need["floor-planer"], need["bandsaw"], need["disc-sander"]) == (785, 700, 440)
    assert need["floor-sweep"] >= 800 and kinds()["floor-sweep"].ports[0].diameter >= 0.15
    assert {port.needs for port in kinds()["planer"].ports} == {"trade"}
    (saw,) = fired(piped, "hood-flow")
    assert saw.basis.kind == "published practice" and "ACGIH" in saw.basis.text
    own = change(piped, "saw", ports=(replace(piped.things[0].ports[0], needs_from="own"),))
    assert piped.things[0].id == "saw" and fired(own, "hood-flow")[0].basis.kind == "your measurement"
    trade = change(piped, "saw", ports=(replace(piped.things[0].ports[0], needs_from="trade"),))
    assert fired(trade, "hood-flow")[0].basis.kind == "trade practice"


def test_a_machine_with_two_ports_shares_one_need(piped: Shop) -> None:
    bandsaw = make_thing("bandsaw", "bandsaw", 3.4, 1.5)
    drop = Run(
        id="band-drop",
        diameter=0.1,
        joins=Join(run="main", at=4.0),
        port=PortRef(thing="bandsaw", port="lower"),
    )
    shop = put(put(piped, bandsaw), drop)
    (partly,) = fired(shop, "port-partly")
    assert partly.figures["free"] == pytest.approx(350 * CFM) and partly.figures["need"] == pytest.approx(
        700 * CFM
    )
    assert "upper" in partly.sentence and all(one.about != ("bandsaw",) for one in fired(shop, "port-free"))
    second = replace(drop, id="band-upper", port=PortRef(thing="bandsaw", port="upper"))
    assert fired(put(shop, second), "port-partly") == []


def test_sealed_gates_and_leaking_joints_are_settings_of_the_ducts(piped: Shop) -> None:
    def flows(**changes: float) -> tuple[float, float]:
        shop = change_ducts(
            piped, gate_sets=(GateSet(id="none"), GateSet(id="saw", open=("gate",))), **changes
        )
        (network,) = Answers(shop, Memory()).of(DuctAnswers).networks
        return network.sets[0].flow, network.sets[1].hoods[0].flow

    assert flows(gate_gap=0.0)[0] == 0.0
    assert 0 < flows(gate_gap=1e-4)[0] < flows(gate_gap=5e-4)[0]
    assert flows(joint_leak=5e-5)[1] < flows()[1]
    assert grade(piped, "hood-flow") == Grade.GOOD


def test_sheet_is_named_by_thickness_in_metric_and_by_gauge_in_inches(piped: Shop) -> None:
    thin = change(piped, "main", material="snap-lock")
    said = {
        units: fired(replace(thin, units=units), "duct-collapse")[0].sentence
        for units in ("metric", "imperial")
    }
    assert "heating duct, 0.32 mm of" in said["metric"] and "gauge" not in said["metric"]
    assert "heating duct, 30 gauge of" in said["imperial"] and "mm" not in said["imperial"]
    steel, plastic = materials()["snap-lock-26"], materials()["sewer-pipe"]
    assert steel.name_for_buying() == "Snap-lock duct, 0.48 mm (26 gauge)"
    assert plastic.name_in("imperial") == plastic.name_for_buying() == plastic.name


def test_sparks_and_swept_metal_are_told_at_their_place(piped: Shop) -> None:
    assert grade(piped, "sparks") is None and grade(piped, "metal-swept") is None
    ground = put(piped, make_thing("grinder", "grinder", 3.0, 0.4))
    (finding,) = fired(ground, "sparks")
    assert (
        finding.grade == Grade.WATCH and "grinder" in finding.about and "11 m (35 ft)" in finding.basis.text
    )
    sweep = put(piped, make_thing("floor-sweep", "sweep", 1.8, 3.0))
    assert grade(sweep, "metal-swept") is None  # nothing leads to it yet
    run = Run(
        id="to-sweep",
        diameter=0.15,
        joins=Join(run="main", at=3.0),
        port=PortRef(thing="sweep", port="mouth"),
    )
    (finding,) = fired(put(sweep, run), "metal-swept")
    assert finding.about == ("sweep",) and "nothing stops it" in finding.why
