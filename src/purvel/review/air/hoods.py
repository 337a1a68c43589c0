"""Which hood a piece of work has: as it was chosen, or as the ducts that are drawn make of its machine; and
the collector that it blows into.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from purvel.airflow.flows import GateSetFlow, NetworkResult
from purvel.catalogue import captures, edges, operations, woods
from purvel.roomair.stretches import Extraction
from purvel.shop import Air, Shop, WorkInterval

AS_DRAWN = "as drawn"
ENOUGH = 0.9  # share of the flow that clears its chips from which a hood is reckoned to work


@dataclass(frozen=True, slots=True)
class Pull:
    """What the drawn ducts do at one machine: how many of its ports get their flow with that choice of gates
    which serves it best, the most that its best port gets and needs [m3/s], and the collector or vac.
    """

    fed: int
    flow: float
    need: float
    extraction: Extraction
    is_vac: bool


def pulls(networks: Sequence[NetworkResult], shop: Shop) -> dict[str, Pull]:
    """By piece of work, what the ducts pull at its machine, in its choice of gates where it has one; none for
    what no duct leads to.
    """
    work = shop.air.session.work
    at = {choice: _pulled(networks, shop, choice) for choice in {one.gate_set for one in work}}
    return {one.id: at[one.gate_set][one.thing] for one in work if one.thing in at[one.gate_set]}


def _pulled(networks: Sequence[NetworkResult], shop: Shop, choice: str | None) -> dict[str | None, Pull]:
    """By machine, with one choice of gates or with that which serves it best."""
    found: dict[str | None, Pull] = {}
    for network in networks:
        thing = shop.thing(network.layout.source_thing)
        if thing is None or thing.source is None:
            continue
        for one in network.sets:
            if choice not in (None, one.id):
                continue
            ends = [(hood, network.layout.segments[hood.segment].hood) for hood in one.hoods if hood.at_work]
            for machine in {hood.thing for hood, _ in ends} if one.converged else ():
                own = [(hood.flow, end.chips_flow) for hood, end in ends if end and hood.thing == machine]
                best = max(own, key=lambda pair: pair[0] / pair[1])
                fed = sum(flow >= ENOUGH * need for flow, need in own)
                pull = Pull(fed, *best, _blown(shop, one), thing.source.kind == "vac")
                if machine not in found or (fed, best[0]) > (found[machine].fed, found[machine].flow):
                    found[machine] = pull
    return found


def _blown(shop: Shop, flows: GateSetFlow) -> Extraction:
    """What all sources of a system move, by the one that moves most of it."""
    most = max(flows.sources, key=lambda one: one.flow)
    source = next(thing.source for thing in shop.things if thing.id == most.thing)
    assert source is not None  # it pulls
    return Extraction(most.thing, flows.whole_flow, source.efficiency, source.outdoors)


def drawn_hood(interval: WorkInterval, pulled: Mapping[str, Pull]) -> str:
    """The best hood that a piece of work's machine can have on the ducts that are drawn; a key."""
    pull = pulled.get(interval.id)
    operation = operations().get(interval.operation)
    best = "none"
    for key in operation.hoods if operation is not None else ():
        one = captures()[key]
        if pull is not None and 0 < one.ports <= pull.fed and (pull.is_vac or not one.vac):
            best = key
    return best


def hood_of(interval: WorkInterval, pulled: Mapping[str, Pull]) -> str:
    """The key of the hood that a piece of work is reckoned with; empty for figures of its own."""
    return drawn_hood(interval, pulled) if interval.hood == AS_DRAWN else interval.hood


def reckoned(air: Air, pulled: Mapping[str, Pull]) -> Air:
    """The air with every piece of work's capture as its hood has it, and what it throws off as its wood and
    its edge have it.
    """
    work = []
    for interval in air.session.work:
        key, times = hood_of(interval, pulled), thrown_times(interval)
        low, central, high = (min(each * times, 1e6) for each in interval.emission)
        capture = captures()[key].share if key else interval.capture
        work.append(replace(interval, capture=capture, emission=(low, central, high)))
    return replace(air, session=replace(air.session, work=tuple(work)))


def thrown_times(interval: WorkInterval) -> float:
    """How many times what solid wood throws off under an edge of any kind."""
    wood = woods().get(interval.wood)
    own = interval.operation == "mdf"  # its figures are those of fibreboard already
    return edges()[interval.edge] * (1.0 if wood is None or own else wood.times)


def extractions(air: Air, pulled: Mapping[str, Pull]) -> dict[str, Extraction]:
    """By piece of work of which something is caught, what it blows into, where ducts are drawn."""
    return {
        interval.id: pulled[interval.id].extraction
        for interval in air.session.work
        if interval.id in pulled and interval.capture[1] > 0
    }
