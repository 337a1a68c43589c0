"""Cards to hang at the machines: what to open and what a suction gauge should read there, and how ends are
brought together that do not fit.
"""

from __future__ import annotations

from collections.abc import Iterator

from purvel.airflow.adapters import End
from purvel.airflow.flows import GateSetFlow, HoodFlow, NetworkResult
from purvel.airflow.hoods import FINE_DUST_SPEED, HoodOpening, flow_for
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.fitted import fitted, own_set
from purvel.review.ducts.hood_design import IDEAS, KINDS
from purvel.review.ducts.standing import wanted_flow
from purvel.review.figures import Figures
from purvel.review.stage import Table
from purvel.shop import HoodPlan, Run
from purvel.shop.parts import name_of

NEAR = 0.001  # m: sizes this near are one


def cards(answers: Answers, say: Figures) -> Iterator[Table]:
    """A hood card for every machine, and the adapters."""
    rows = [row for network in answers.of(DuctAnswers).networks for row in _hoods(answers, network, say)]
    if rows:
        heads = ("Machine", "Open", "Gets", "Gauge at its hood", "Starved below", "Blocked above")
        yield Table("Hood cards: static suction in the duct behind the hood", heads, rows)
    kept = [_designed(answers, one, say) for one in answers.shop.ducts.hoods]
    if kept:
        heads = ("Hood", "Opening", "Box deep", "Outlet", "Wants", "Has")
        yield Table("Hoods designed: patterns of hoods print them as large as life", heads, kept)
    fits = list(_adapters(answers, say))
    if fits:
        yield Table("Adapter card: ends that differ in size", ("At", "From", "To", "How"), fits)


def _hoods(answers: Answers, network: NetworkResult, say: Figures) -> Iterator[tuple[str, ...]]:
    """One row a hood, in the choice of gates in which it gets most."""
    for column, index in enumerate(network.layout.hoods):
        end = network.layout.segments[index].hood
        at = [(one, one.hoods[column]) for one in network.sets if one.hoods[column].at_work]
        if end is None or not at:
            continue
        flows, hood = max(at, key=lambda pair: pair[1].flow)
        starved, blocked = suction_limits(hood, wanted_flow(answers.shop, end), flows)
        port = "" if sum(one.thing == hood.thing for one in flows.hoods) == 1 else f", {hood.port}"
        yield (
            f"{name_of(answers.shop, hood.thing)}{port}",
            answers.of(DuctAnswers).choice_name(flows.id),
            say.flow(hood.flow),
            say.pressure(hood.static_suction),
            say.pressure(starved),
            say.pressure(blocked),
        )


def _designed(answers: Answers, one: HoodPlan, say: Figures) -> tuple[str, ...]:
    """A hood that is kept, with the flow that it wants and what its machine gets at most."""
    opening = HoodOpening(one.shape, one.width, one.height)
    low, high = IDEAS[one.idea].speeds if one.idea in IDEAS else (FINE_DUST_SPEED, 1.0)
    gets = [
        hood.flow
        for network in answers.of(DuctAnswers).networks
        for flows in network.sets
        for hood in flows.hoods
        if hood.at_work and hood.thing == one.thing
    ]
    return (
        one.name or one.id,
        f"{dict(KINDS)[one.shape]}, {say.length(one.width)} by {say.length(one.height)}",
        say.length(one.depth),
        say.size(one.outlet),
        f"{say.flow(flow_for(opening, low, one.distance))} to {say.flow(flow_for(opening, high, one.distance))}",
        say.flow(max(gets)) if gets else "no duct",
    )


def suction_limits(hood: HoodFlow, wanted: float, flows: GateSetFlow) -> tuple[float, float]:
    """The suction behind a hood [Pa] below which it gets less than is wanted of it, since suction goes with
    the square of flow; and halfway to what the source can pull there, above which something sits in the hood.
    Where it gets less than is wanted as it is, the first is more than it reads.
    """
    starved = hood.static_suction * (wanted / max(hood.flow, 1e-9)) ** 2
    most = max(hood.static_suction, flows.source_pressure)
    return starved, hood.static_suction + (most - hood.static_suction) / 2


def _adapters(answers: Answers, say: Figures) -> Iterator[tuple[str, ...]]:
    """Where a run ends at a port of another size: what leads from the one to the other, hose being as wide
    inside as it is called, and ports outside.
    """
    things = {thing.id: thing for thing in answers.shop.things}
    for run in answers.shop.ducts.runs:
        thing = things.get(run.port.thing) if run.port else None
        for port in thing.ports if thing is not None else ():
            if run.port is not None and port.id == run.port.port and abs(port.diameter - run.diameter) > NEAR:
                hose, spigot = (
                    End("socket", run.diameter, run.diameter),
                    End("spigot", port.diameter, port.diameter),
                )
                how = " ".join(fitted(hose, spigot, say, own_set(answers.shop)))
                yield name_of(answers.shop, run.port.thing), _size(run, say), say.size(port.diameter), how


def _size(run: Run, say: Figures) -> str:
    return f"{run.name or run.id}, {say.size(run.diameter)}"
