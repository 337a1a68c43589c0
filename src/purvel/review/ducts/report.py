"""The share of the ducts in the report: every system, every choice of gates, every segment and hood."""

from collections.abc import Iterator
from dataclasses import asdict
from typing import Any

from purvel.airflow.flows import GateSetFlow, HoodFlow, NetworkResult, SegmentFlow
from purvel.airflow.segments import Hood, Layout, Segment
from purvel.airflow.sources import SourceCurve, band_of
from purvel.catalogue import materials
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.bill import Sticks, bill, sticks
from purvel.review.ducts.cards import cards
from purvel.review.ducts.plan_words import plan_tables
from purvel.review.ducts.plans import plans
from purvel.review.ducts.quotes import quote_table
from purvel.review.ducts.standing import Carried, carried, worst_of_choice
from purvel.review.figures import Figures
from purvel.review.stage import Table
from purvel.shop import Filter, Source
from purvel.shop.parts import name_of


def report(answers: Answers) -> dict[str, Any]:
    """`air` that the ducts carry, and `ducts`."""
    ducts = answers.of(DuctAnswers)
    state = ducts.air_state
    return {
        "air": {"pressure": state.pressure, "density": state.density, "viscosity": state.viscosity},
        "ducts": [_network(answers, network) for network in ducts.networks],
        "sticks": [
            {
                "material": one.material,
                "diameter": one.size,
                "stick": answers.shop.ducts.stick,
                "kerf": answers.shop.ducts.kerf,
                "pieces": list(one.pieces),
                "couplings": one.couplings,
                "cut": [list(cut) for cut in one.plan.sticks],
                "offcuts": list(one.offcuts),
                "from_offcuts": [list(cut) for cut in one.plan.from_offcuts],
                "proven": one.plan.is_proven,
            }
            for one in sticks(answers)
        ],
        "plans": [
            {
                "key": one.key,
                "cost": list(one.cost),
                "pipe": one.pipe,
                "hose": one.hose,
                "moves": one.moves,
                "stays": one.stays,
                "hoods": [asdict(hood) for hood in one.hoods],
            }
            for one in plans(answers)
        ],
        "bill": [
            {"what": one.what, "diameter": one.size or None, "amount": one.amount, "unit": one.unit}
            for one in bill(answers)
        ],
    }


def _network(answers: Answers, network: NetworkResult) -> dict[str, Any]:
    layout = network.layout
    return {
        "source": layout.source_thing,
        "target": answers.shop.ducts.target,
        "gate_gap": answers.shop.ducts.gate_gap,
        "joint_leak": answers.shop.ducts.joint_leak,
        **_source(layout.source),
        "others": [
            {"source": one.thing, "at_segment": layout.segments[one.segment].id, **_source(one.source)}
            for one in layout.others
        ],
        "segments": [_segment(layout, one) for one in layout.segments],
        "gate_sets": [_gate_set(answers, network, which) for which in range(len(network.sets))],
        "bounds": [
            {"id": one.id, "flow": one.whole_flow, "source_pressure": one.source_pressure}
            for one in answers.of(DuctAnswers).bounds(network).sets
        ],
    }


def _source(source: Source) -> dict[str, Any]:
    """What a source is: its curve, and what stands between its inlet and the room."""
    return {
        "kind": source.kind,
        "curve": {
            "points": [[point.flow, point.pressure] for point in source.curve],
            "pressure_is": source.pressure_is,
            "density": source.density,
            "from": source.curve_from,
            "speed": source.speed,
            "sealed": source.sealed,
            "open_flow": source.open_flow,
            "band": [[end.pressure, end.flow] for end in band_of(source) or ()],
            "shut_off": SourceCurve(source).shut_off,
        },
        "inlet_diameter": source.inlet_diameter,
        "outlet_diameter": source.outlet_diameter,
        "discharge_coefficient": SourceCurve(source).discharge_loss,
        "filter": _filter(source.filter),
        "behind": _filter(source.behind),
        "separator": (
            {
                "kind": source.separator.kind,
                "on_diameter": source.separator.inlet_diameter,
                "loss_coefficient": source.separator.loss,
            }
            if source.separator
            else None
        ),
    }


def _segment(layout: Layout, one: Segment) -> dict[str, Any]:
    return {
        "id": one.id,
        "run": one.run,
        "downstream": layout.segments[one.downstream].id if one.downstream >= 0 else None,
        "role": one.role,
        "length": one.length,
        "diameter": one.diameter,
        "roughness": one.roughness,
        "friction_multiplier": one.multiplier,
        "joins_at_angle": one.angle if one.is_branch else None,
        "fittings": [
            {
                "name": part.name,
                "loss_coefficient": part.loss,
                "on_diameter": part.section,
                "coefficient_there": part.loss_there,
            }
            for part in one.fittings
        ],
        "gates": list(one.gates),
    }


def _gate_set(answers: Answers, network: NetworkResult, which: int) -> dict[str, Any]:
    one, layout = network.sets[which], network.layout
    return {
        "id": one.id,
        "name": answers.of(DuctAnswers).choice_name(one.id),
        "open": list(one.open_gates),
        "converged": one.converged,
        "worst": _worst(answers, network, one),
        "air_density": one.density,
        "flow": one.flow,
        "source_pressure": one.source_pressure,
        "separator_loss": one.separator_loss,
        "filter_loss": one.filter_loss,
        "discharge_loss": one.discharge_loss,
        "duct_suction": one.duct_suction,
        "part_open": dict(one.part_open),
        "others": [
            {
                "source": other.thing,
                "flow": other.flow,
                "source_pressure": other.pressure,
                "separator_loss": other.separator_loss,
                "filter_loss": other.filter_loss,
                "discharge_loss": other.discharge_loss,
            }
            for other in one.sources[1:]
        ],
        "segments": [
            _solved_segment(*part) for part in zip(layout.segments, one.segments, carried(layout, one))
        ],
        "hoods": [
            _hood(layout, hood, end, network.ranges[which][column] if network.ranges else None)
            for column, hood in enumerate(one.hoods)
            if (end := layout.segments[hood.segment].hood) is not None
        ],
    }


def _filter(one: Filter | None) -> dict[str, Any] | None:
    return (
        None
        if one is None
        else {"area": one.area, "resistance": one.resistance, "medium": one.medium or None}
    )


def _worst(answers: Answers, network: NetworkResult, one: GateSetFlow) -> dict[str, Any]:
    """What is worst off in a choice of gates."""
    worst = worst_of_choice(answers.shop, network.layout, one)
    return {
        "hood": None if worst.hood is None else one.hoods[worst.hood].thing,
        "share_of_its_flow": worst.hood_share,
        "segment": None if worst.segment is None else network.layout.segments[worst.segment].id,
        "share_of_its_speed": worst.speed_share,
    }


def _solved_segment(segment: Segment, flow: SegmentFlow, within: Carried) -> dict[str, Any]:
    return {
        "id": segment.id,
        "length": segment.length,
        "diameter": segment.diameter,
        "roughness": segment.roughness,
        "flow": flow.flow,
        "speed": flow.speed,
        "density": flow.density,
        "velocity_pressure": flow.velocity_pressure,
        "reynolds": flow.reynolds,
        "friction_factor": flow.friction_factor,
        "friction_multiplier": segment.multiplier,
        "loss_coefficient": flow.fittings + flow.shut_gate + flow.junction,
        "of_which_fittings": flow.fittings,
        "of_which_shut_gates": flow.shut_gate,
        "of_which_junction": flow.junction,
        "pressure_loss": flow.loss,
        "total_pressure": flow.total_pressure,
        "static_pressure": flow.static_pressure,
        "static_ahead_of_joint": flow.static_ahead,
        "carries": within.what,
        "wanted_speed": within.limits.want,
        "least_speed": within.limits.least,
        "chips": within.state,
    }


def _hood(layout: Layout, hood: HoodFlow, end: Hood, spread: tuple[float, float] | None) -> dict[str, Any]:
    return {
        "thing": hood.thing,
        "port": hood.port,
        "open": hood.is_open,
        "lends": hood.lends,
        "path": [layout.segments[i].id for i in layout.way(hood.segment)],
        "flow": hood.flow,
        "flow_range": list(spread) if spread else None,
        "port_diameter": end.diameter,
        "port_speed": hood.port_speed,
        "entry_coefficient": end.entry_loss,
        "entry_loss": hood.entry_loss,
        "static_suction": hood.static_suction,
        "chips_flow": end.chips_flow,
        "fine_flow": end.fine_flow,
        "carries": end.carries,
    }


def tables(answers: Answers, say: Figures) -> Iterator[Table]:
    """A gate card for each source, hood cards, adapters, and the parts."""
    shop, ducts = answers.shop, answers.of(DuctAnswers)
    for network in ducts.networks:
        rows = [row for flows in network.sets for row in _card(answers, flows, say)]
        title = f"Gate card: {name_of(shop, network.layout.source_thing)}"
        yield Table(title, ("Choice", "Flow in all", "Pressure", "Hood", "Gets", "Static suction"), rows)
    yield from cards(answers, say)
    yield from plan_tables(answers, say)
    yield from to_buy(answers, say)
    quotes = quote_table(answers, say)
    if quotes is not None:
        yield quotes
    if bought := ducts.parts:
        lines = [
            (
                name_of(shop, part.run),
                part.part,
                say.size(part.size),
                say.length(part.amount) if part.unit == "m" else f"{part.amount:.0f}",
            )
            for part in bought
        ]
        yield Table("Parts of the ducts", ("Run", "Part", "Size", "Length or pieces"), lines)


def to_buy(answers: Answers, say: Figures) -> Iterator[Table]:
    """Sticks with what is cut from each, and everything that is bought."""
    cuts = [row for one in sticks(answers) for row in _cuts(one, say)]
    if cuts:
        yield Table("Pipe: sticks and what is cut from them", ("Pipe", "Size", "From", "Cut lengths"), cuts)
    lines = [
        (one.what, say.size(one.size) if one.size else "", f"{one.amount:g} {one.unit}")
        for one in bill(answers)
    ]
    if lines:
        yield Table("What the ducts are bought as", ("What", "Size", "How much"), lines)


def _cuts(one: Sticks, say: Figures) -> Iterator[tuple[str, ...]]:
    """How pipe of one kind is cut: from offcuts first, then from each stick."""
    name, plan = materials()[one.material].name_in(say.system), one.plan
    held = [
        *((f"offcut of {say.length(length)}", cut) for length, cut in zip(one.offcuts, plan.from_offcuts)),
        *((f"stick {number}", cut) for number, cut in enumerate(plan.sticks, start=1)),
    ]
    for source, cut in held:
        if cut:
            yield name, say.size(one.size), source, ", ".join(say.length(one.pieces[k]) for k in cut)


def _card(answers: Answers, flows: GateSetFlow, say: Figures) -> Iterator[tuple[str, ...]]:
    """The rows of one choice of gates: what the source moves, and what each open hood gets."""
    choice = answers.of(DuctAnswers).choice_name(flows.id)
    begin: tuple[str, ...] = (choice, say.flow(flows.flow), say.pressure(flows.source_pressure))
    opened = [hood for hood in flows.hoods if hood.at_work]
    for hood in opened:
        name = name_of(answers.shop, hood.thing)
        yield (*begin, name, say.flow(hood.flow), say.pressure(hood.static_suction))
        begin = ("", "", "")
    if not opened:
        yield (*begin, "none is open", "", "")
