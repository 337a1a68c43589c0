"""What would help in the ducts: other sizes, other gates, other material."""

from collections.abc import Iterator
from dataclasses import replace

from purvel.airflow.flows import GateSetFlow
from purvel.airflow.segments import Layout
from purvel.catalogue import duct_sizes, materials
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.choices import GateChoice, gates_on_way
from purvel.review.ducts.flow_rules import SHORT
from purvel.review.ducts.standing import carried
from purvel.review.figures import Figures
from purvel.review.finding import Finding
from purvel.review.stage import Candidate, Proposer
from purvel.shop import GateSet, PortRef, Run, Shop
from purvel.shop.edits import Edit, change, fresh_id, put, remove
from purvel.shop.parts import name_of, port_id


def _hood(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    for network in answers.of(DuctAnswers).networks:
        for index in network.layout.hoods:
            hood = network.layout.segments[index].hood
            if hood is not None and (port_id(hood.thing, hood.port),) == finding.about:
                way = network.layout.way(index)
                gates = {gate for i in way for gate in network.layout.segments[i].gates}
                yield from _fewer_gates(answers, hood.thing, gates)
                yield from _other_sizes(answers, {network.layout.segments[i].run for i in way}, say)


def _fewer_gates(answers: Answers, thing: str, own: set[str]) -> Iterator[Candidate]:
    """The user's own gate sets that starve a hood, narrowed to its gates."""
    name = name_of(answers.shop, thing)
    for gate_set in answers.shop.ducts.gate_sets:
        choice = answers.of(DuctAnswers).choices.get(gate_set.id)
        if choice is not None and own & set(choice.open) and set(choice.open) - own:
            narrowed = replace(gate_set, open=tuple(sorted(own)), name=f"{name} alone")
            yield f"Open only {name} instead of “{choice.name}”", _gate_setter(narrowed)


def _gate_setter(gate_set: GateSet) -> Edit:
    def edit(shop: Shop) -> Shop:
        return put(shop, gate_set)

    return edit


def _other_sizes(answers: Answers, runs: set[str], say: Figures) -> Iterator[Candidate]:
    """The runs on the hood's way in the next sizes up, the narrowest first."""
    by_size = sorted((run for run in answers.shop.ducts.runs if run.id in runs), key=lambda run: run.diameter)
    for run in by_size:
        for size in [size for size in duct_sizes() if size > run.diameter + 1e-6][:2]:
            yield _resized(run, size, say)
        if materials()[run.material].kind == "hose" and run.material == "ribbed-hose":
            yield f"Use smooth-bore hose for {run.name or run.id}", _changer(run.id, material="smooth-hose")


def _resized(run: Run, size: float, say: Figures) -> Candidate:
    label = f"Make {run.name or run.id} {say.size(size)} instead of {say.size(run.diameter)}"
    return label, _changer(run.id, diameter=size)


def _changer(run_id: str, **changes: float | str) -> Edit:
    def edit(shop: Shop) -> Shop:
        return change(shop, run_id, **changes)

    return edit


def _moving(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    yield from _second_gate(finding, answers, say)
    yield from _transport(finding, answers, say)


def _transport(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """A narrower run, or one gate more."""
    runs = answers.shop.ducts.runs
    run = next((run for run in runs if run.id in finding.where.items), None)
    if run is not None:
        for size in [size for size in reversed(duct_sizes()) if size < run.diameter - 1e-6][:2]:
            yield _resized(run, size, say)
    own = next(
        (gate_set for gate_set in answers.shop.ducts.gate_sets if (gate_set.id,) == finding.about), None
    )
    for gate in (gate for run in runs for gate in run.gates) if own is not None else ():
        if own is not None and gate.id not in own.open:
            opened = replace(own, open=(*own.open, gate.id))
            yield f"Open {gate.name or gate.id} as well", _gate_setter(opened)


def _second_gate(finding: Finding, answers: Answers, _: Figures) -> Iterator[Candidate]:
    """For a machine alone on a line that is too wide for its air: another gate left open with it, the one
    first that takes least, where all that is carried moves then and the machine gets what clears its chips.
    """
    ducts = answers.of(DuctAnswers)
    for network in ducts.networks:
        layout = network.layout
        for index in layout.hoods:
            hood = layout.segments[index].hood
            assert hood is not None  # that is what the layout lists them by
            port = PortRef(thing=hood.thing, port=hood.port)
            own = gates_on_way(layout, index)
            if (f"alone/{port_id(hood.thing, hood.port)}",) != finding.about:
                continue
            others = {gates_on_way(layout, other) for other in layout.hoods if other != index}
            wider = tuple(
                GateChoice(f"wider/{number}", "", tuple(dict.fromkeys((*own, *gates))), works=port)
                for number, gates in enumerate(sorted(others))
                if gates and set(gates) - set(own)
            )
            flows = ducts.solved(layout, wider).sets if wider else ()
            for one in sorted(flows, key=lambda one: one.whole_flow):
                if _carries_all(layout, one) and _clears(layout, one):
                    yield _with_open(answers.shop, port, one.open_gates, set(own))


def _carries_all(layout: Layout, flows: GateSetFlow) -> bool:
    """Whether nothing settles in a choice of gates."""
    return flows.converged and all(part.state != "settling" for part in carried(layout, flows))


def _clears(layout: Layout, flows: GateSetFlow) -> bool:
    """Whether each hood at work gets what clears its chips."""
    ends = ((one, layout.segments[one.segment].hood) for one in flows.hoods if one.at_work)
    return all(end is not None and one.flow >= SHORT * end.chips_flow for one, end in ends)


def _with_open(shop: Shop, port: PortRef, gates: tuple[str, ...], own: set[str]) -> Candidate:
    machine = name_of(shop, port.thing)
    more = " and ".join(name_of(shop, gate) for gate in gates if gate not in own)
    choice = GateSet(id=fresh_id(shop, "set"), name=f"{machine}, {more} open", open=gates, instead_of=port)
    return f"Leave {more} open whenever {machine} runs", _gate_setter(choice)


def _stronger(finding: Finding, _: Answers, say: Figures) -> Iterator[Candidate]:
    for key in ("spiral", "snap-lock-26", "pressure-pipe"):
        yield f"Use {materials()[key].name_in(say.system).lower()}", _changer(finding.about[0], material=key)


def _take_away(finding: Finding, answers: Answers, _: Figures) -> Iterator[Candidate]:
    def edit(shop: Shop) -> Shop:
        return remove(shop, finding.about[0])

    yield f"Take {name_of(answers.shop, finding.about[0])} away", edit


REMEDIES: dict[str, Proposer] = {
    "hood-flow": _hood,
    "chips-move": _moving,
    "duct-collapse": _stronger,
    "run-loose": _take_away,
}
