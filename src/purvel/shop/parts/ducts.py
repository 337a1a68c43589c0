"""The duct system, as parts."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from purvel.shop.ducts import Gate, GateSet, HoodPlan, OwnAdapter, Quoted, Ran, Run, Switched
from purvel.shop.part import Part, Ref, one
from purvel.shop.parts.things import port_id
from purvel.shop.shop import Shop


def _put(field: str) -> Callable[[Shop, tuple[Any, ...]], Shop]:
    """Puts a collection of the duct system."""

    def put(shop: Shop, items: Any) -> Shop:
        return replace(shop, ducts=replace(shop.ducts, **{field: items}))

    return put


def _put_gates(shop: Shop, gates: tuple[Gate, ...]) -> Shop:
    """Each stays on its run; one that is left out is taken out of it."""
    kept = {gate.id: gate for gate in gates}
    runs = (
        replace(run, gates=tuple(kept[gate.id] for gate in run.gates if gate.id in kept))
        for run in shop.ducts.runs
    )
    return _put("runs")(shop, tuple(runs))


def _rename_gate(shop: Shop, old: str, new: str) -> Shop:
    runs = (
        replace(run, gates=tuple(replace(gate, id=new) if gate.id == old else gate for gate in run.gates))
        for run in shop.ducts.runs
    )
    return _put("runs")(shop, tuple(runs))


def _without_gate(gate_set: GateSet, gate: str) -> GateSet | None:
    """A choice that opens nothing is none."""
    rest = tuple(one for one in gate_set.open if one != gate)
    part = tuple(one for one in gate_set.part if one.gate != gate)
    return replace(gate_set, open=rest, part=part) if rest else None


RUNS = Part(
    "run",
    Run,
    lambda shop: shop.ducts.runs,
    _put("runs"),
    refs=(
        Ref(
            "thing",
            lambda run: one(run.source),
            lambda run, _: None if run.joins else replace(run, source=None),
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


def _called(shop: Shop, thing_id: str) -> str:
    thing = shop.thing(thing_id)
    return thing_id if thing is None else thing.name or thing.id


SWITCHED = Part(
    "switched machine",
    Switched,
    lambda shop: shop.ducts.switched,
    _put("switched"),
    lambda shop, one: f"the switch of {_called(shop, one.thing)}",
    refs=(Ref("thing", lambda one: (one.thing,), lambda *_: None, "switches"),),
    pickable=False,
    id_of=lambda one: f"switched/{one.thing}",
    subject=lambda _: "A switch",
)

RAN = Part(
    "count of hours",
    Ran,
    lambda shop: shop.ducts.ran,
    _put("ran"),
    lambda shop, one: f"the hours of {_called(shop, one.thing)} on {one.day}",
    refs=(Ref("thing", lambda one: (one.thing,), lambda *_: None, "counts hours of"),),
    pickable=False,
    id_of=lambda one: f"ran/{one.thing}/{one.day}",
    subject=lambda _: "A count of hours",
)


HOODS = Part(
    "hood",
    HoodPlan,
    lambda shop: shop.ducts.hoods,
    _put("hoods"),
    lambda _, one: one.name or "a hood",
    refs=(
        Ref(
            "thing",
            lambda hood: one(hood.thing),
            lambda hood, _: replace(hood, thing=None),
            "is for a machine",
        ),
    ),
    pickable=False,
    unique=True,
)

ADAPTERS = Part(
    "adapter of one's own",
    OwnAdapter,
    lambda shop: shop.ducts.adapters,
    _put("adapters"),
    lambda _, one: one.name or "an adapter",
    pickable=False,
    unique=True,
)

QUOTES = Part(
    "line of a quote",
    Quoted,
    lambda shop: shop.ducts.quotes,
    _put("quotes"),
    lambda _, one: f"{one.what} from {one.name}",
    pickable=False,
    unique=True,
    subject=lambda _: "A line of a quote",
)


GATE_SETS = Part(
    "gate set",
    GateSet,
    lambda shop: shop.ducts.gate_sets,
    _put("gate_sets"),
    refs=(
        Ref(
            "gate",
            lambda gate_set: (*gate_set.open, *(one.gate for one in gate_set.part)),
            _without_gate,
            "opens a gate",
        ),
        Ref(
            "port",
            lambda gate_set: one(
                port_id(gate_set.instead_of.thing, gate_set.instead_of.port) if gate_set.instead_of else None
            ),
            lambda gate_set, _: replace(gate_set, instead_of=None),
            "stands for a port",
        ),
    ),
    pickable=False,
    unique=True,
)
