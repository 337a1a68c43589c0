"""The duct system, as parts."""

from dataclasses import replace

from purvel.shop.ducts import Gate, GateSet, Run
from purvel.shop.part import Part, Ref, one
from purvel.shop.parts.things import port_id
from purvel.shop.shop import Shop


def _put_runs(shop: Shop, runs: tuple[Run, ...]) -> Shop:
    return replace(shop, ducts=replace(shop.ducts, runs=runs))


def _put_gate_sets(shop: Shop, gate_sets: tuple[GateSet, ...]) -> Shop:
    return replace(shop, ducts=replace(shop.ducts, gate_sets=gate_sets))


def _put_gates(shop: Shop, gates: tuple[Gate, ...]) -> Shop:
    """Each stays on its run; one that is left out is taken out of it."""
    kept = {gate.id: gate for gate in gates}
    runs = (
        replace(run, gates=tuple(kept[gate.id] for gate in run.gates if gate.id in kept))
        for run in shop.ducts.runs
    )
    return _put_runs(shop, tuple(runs))


def _rename_gate(shop: Shop, old: str, new: str) -> Shop:
    runs = (
        replace(run, gates=tuple(replace(gate, id=new) if gate.id == old else gate for gate in run.gates))
        for run in shop.ducts.runs
    )
    return _put_runs(shop, tuple(runs))


def _without_gate(gate_set: GateSet, gate: str) -> GateSet | None:
    """A choice that opens nothing is none."""
    rest = tuple(one for one in gate_set.open if one != gate)
    return replace(gate_set, open=rest) if rest else None


RUNS = Part(
    "run",
    Run,
    lambda shop: shop.ducts.runs,
    _put_runs,
    refs=(
        Ref(
            "thing",
            lambda run: one(run.source),
            lambda run, _: replace(run, source=None),
            "starts at a source",
            lambda thing: thing.source is not None,
        ),
        Ref("run", lambda run: one(run.joins.run if run.joins else None), lambda *_: None, "joins a run"),
        Ref(
            "port",
            lambda run: one(port_id(run.port.thing, run.port.port) if run.port else None),
            lambda run, _: replace(run, port=None),
            "ends at a port",
        ),
    ),
    unique=True,
)


GATES = Part(
    "gate",
    Gate,
    lambda shop: tuple(gate for run in shop.ducts.runs for gate in run.gates),
    _put_gates,
    pickable=False,
    unique=True,
    rename=_rename_gate,
)


GATE_SETS = Part(
    "gate set",
    GateSet,
    lambda shop: shop.ducts.gate_sets,
    _put_gate_sets,
    refs=(Ref("gate", lambda gate_set: gate_set.open, _without_gate, "opens a gate"),),
    pickable=False,
    unique=True,
)
