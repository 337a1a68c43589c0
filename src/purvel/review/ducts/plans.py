"""Ways to collect the dust of the same machines and jobs, side by side: a collector that is rolled from one
to the next with one hose, one long hose for a trial, a vac at each, and fixed ducts; and small bore against
large bore at one machine.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from purvel.airflow.on_hose import NARROW, on_hose
from purvel.airflow.paths import length_of
from purvel.airflow.sources import SourceCurve
from purvel.catalogue import kinds, make_thing, materials, transport
from purvel.catalogue.money import duct_prices, prices
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.flow.answers import FlowAnswers
from purvel.shop import Port, Source, Thing

ROLLED_HOSE = 3.0  # m between a collector that is rolled up and the machine [choice]
OWN_HOSE = 2.5  # m between a machine and a vac of its own [choice]
DROP_HOSE = 1.0  # m of hose at the drop of a machine that no duct is drawn to yet [choice]
SPARE = 1.0  # m of a long hose beyond the way along walls and up and down [choice]
VAC_BORE = 0.05  # m of a vac's hose where a port is no narrower [trade practice]


@dataclass(frozen=True, slots=True)
class AtHood:
    """What one port gets in a plan: flow [m3/s], speed in the hose or in the slowest run [m/s], static
    suction behind the hood [Pa], its shares of what clears the chips, of what catches the fine dust and of
    the speed that carries [-].
    """

    thing: str
    port: str
    flow: float
    speed: float
    suction: float
    chips: float
    fine: float
    carries: float

    def share(self, target: str) -> float:
        """Of what hoods are asked for."""
        return self.fine if target == "fine" else self.chips


@dataclass(frozen=True, slots=True)
class Plan:
    """A way to do it: what each port gets, what is bought [USD, low and high], metres of pipe and hose, moves
    a day to set it up, what of it stays useful with fixed ducts [m of hose], and why there is none if so.
    """

    key: str
    name: str
    hoods: tuple[AtHood, ...]
    cost: tuple[float, float]
    pipe: float
    hose: float
    moves: float
    stays: float = 0.0
    why_none: str = ""


def plans(answers: Answers) -> list[Plan]:
    """All of them, for machines with ports that boards are worked at; none where there are none."""
    machines = [thing for thing in answers.shop.things if thing.ports]
    source = main_source(answers)
    if not machines:
        return []
    moves = set_ups(answers, {thing.id for thing in machines})
    found = [_vacs(answers, machines)]
    if source is not None:
        found = [
            _rolled(answers, machines, source, moves),
            _long_hose(answers, machines, source, moves),
            *found,
        ]
    return [*found, _fixed(answers)]


def main_source(answers: Answers) -> Thing | None:
    """The source of the first system, else the strongest mover of air there is."""
    networks = answers.of(DuctAnswers).networks
    if networks:
        return answers.shop.thing(networks[0].layout.source_thing)
    free = {thing.id: SourceCurve(thing.source).free_flow for thing in answers.shop.things if thing.source}
    return answers.shop.thing(max(free, key=lambda one: free[one])) if free else None


def set_ups(answers: Answers, dusty: set[str]) -> float:
    """How often a day another machine is begun at which dust is collected: by the day of Air, else by the
    jobs of Flow as often as they are done in a month of 20 working days.
    """
    work = sorted(answers.shop.air.session.work, key=lambda one: one.start)
    steps = [one.thing for one in work if one.thing in dusty]
    if steps:
        return float(_changes(steps))
    total = 0.0
    for flow in answers.of(FlowAnswers).jobs.values():
        at = [station.thing for station in flow.stations if station.thing in dusty]
        total += _changes(at) * flow.job.per_month / 20
    return total


def _changes(steps: Sequence[str | None]) -> int:
    """The first, and every other than the one before."""
    return sum(one != before for one, before in zip(steps, (None, *steps)))


# ---- the plans


def _greatest(thing: Thing) -> Port:
    """The port of a machine that asks for most."""
    return max(thing.ports, key=lambda port: port.fine_flow)


def _rolled(answers: Answers, machines: Sequence[Thing], source: Thing, moves: float) -> Plan:
    hoods = [_at(answers, source.source, thing, _greatest(thing), ROLLED_HOSE) for thing in machines]
    size = max(_bore(_greatest(thing)) for thing in machines)
    return Plan(
        "rolled",
        "Rolled to each, one hose",
        tuple(hoods),
        _hose_cost(ROLLED_HOSE, size),
        0.0,
        ROLLED_HOSE,
        moves,
    )


def _long_hose(answers: Answers, machines: Sequence[Thing], source: Thing, moves: float) -> Plan:
    """The collector stays; a hose that reaches the farthest is moved from machine to machine."""
    assert source.source is not None  # it is one of them
    x, y = source.spot(source.source.inlet_x, source.source.inlet_y)

    def way(thing: Thing) -> float:
        port = _greatest(thing)
        px, py = thing.spot(port.x, port.y)
        return abs(px - x) + abs(py - y)

    length = max(way(thing) for thing in machines) + SPARE
    hoods = [_at(answers, source.source, thing, _greatest(thing), length) for thing in machines]
    size = max(_bore(_greatest(thing)) for thing in machines)
    hoses = [
        length_of(path)
        for run in answers.shop.ducts.runs
        if materials()[run.material].kind == "hose" and (path := answers.of(DuctAnswers).run_paths[run.id])
    ]
    stays = min(length, sum(hoses) if hoses else DROP_HOSE * len(machines))
    return Plan(
        "long",
        "One long hose, to try places",
        tuple(hoods),
        _hose_cost(length, size),
        0.0,
        length,
        moves,
        stays,
    )


def _vacs(answers: Answers, machines: Sequence[Thing]) -> Plan:
    vac = make_thing("vac", "vac").source
    assert vac is not None  # that kind is one
    hoods = [_at(answers, vac, thing, _greatest(thing), OWN_HOSE, small=True) for thing in machines]
    has = sum(thing.source is not None and thing.source.kind == "vac" for thing in answers.shop.things)
    more = max(0, len(machines) - has)
    low, high = prices()["vac"]
    hose = _hose_cost(OWN_HOSE * len(machines), VAC_BORE)
    cost = (more * low + hose[0], more * high + hose[1])
    return Plan("vacs", "A vac at each", tuple(hoods), cost, 0.0, OWN_HOSE * len(machines), 0.0)


def _fixed(answers: Answers) -> Plan:
    """What is drawn, each hood in the choice of gates in which it gets most."""
    ducts, name = answers.of(DuctAnswers), "Fixed ducts, as drawn"
    hoods = []
    for network in ducts.networks:
        for column, index in enumerate(network.layout.hoods):
            end = network.layout.segments[index].hood
            at = [(one, one.hoods[column]) for one in network.sets if one.hoods[column].at_work]
            if end is None or not at:
                continue
            flows, hood = max(at, key=lambda pair: pair[1].flow)
            want = transport(end.carries).want
            slowest = min(abs(flows.segments[i].speed) for i in network.layout.way(index))
            hoods.append(
                AtHood(
                    end.thing,
                    end.port,
                    hood.flow,
                    slowest,
                    hood.static_suction,
                    hood.flow / end.chips_flow,
                    hood.flow / end.fine_flow,
                    slowest / want,
                )
            )
    paths, runs = ducts.run_paths, answers.shop.ducts.runs
    hose = sum(length_of(paths[run.id]) for run in runs if materials()[run.material].kind == "hose")
    pipe = sum(length_of(paths[run.id]) for run in runs) - hose
    why = "" if hoods else "Nothing is drawn that leads to a machine: draw it, or see “Routes”."
    return Plan("fixed", name, tuple(hoods), ducts.price, pipe, hose, 0.0, why_none=why)


def _hose_cost(length: float, size: float) -> tuple[float, float]:
    (low, high), (low_end, high_end) = duct_prices().of("m", size), duct_prices().of("piece", size)
    return length * low + 2 * low_end, length * high + 2 * high_end


# ---- one machine on one hose


def _bore(port: Port) -> float:
    return max(port.diameter, NARROW)


def _at(
    answers: Answers, source: Source | None, thing: Thing, port: Port, length: float, *, small: bool = False
) -> AtHood:
    """A port at the end of a hose of its own on a source: of its port's bore, or of a vac's 50 mm."""
    assert source is not None  # it was picked for being one
    is_vac = source.kind == "vac"
    size = min(port.diameter, VAC_BORE) if small or is_vac else _bore(port)
    return _hood(answers, source, thing, port, (length, size))


def _hood(answers: Answers, source: Source, thing: Thing, port: Port, hose: tuple[float, float]) -> AtHood:
    length, size = hose
    one = answers.ask(on_hose, source, port, length, size, answers.of(DuctAnswers).air_state)
    return AtHood(
        thing.id,
        port.id,
        one.flow,
        one.speed,
        one.suction,
        one.flow / port.chips_flow,
        one.flow / port.fine_flow,
        one.speed / transport(port.carries).want,
    )


@dataclass(frozen=True, slots=True)
class Bore:
    """One machine on one kind of source through one bore [m]."""

    name: str
    size: float
    at: AtHood


def bores(answers: Answers, thing: Thing, port: Port) -> Iterator[Bore]:
    """A machine's port on a vac through small bore and on a collector and a cyclone through large bore, each
    on a hose of `ROLLED_HOSE`.
    """
    for kind, size in (
        ("vac", 0.036),
        ("vac", VAC_BORE),
        ("collector", max(0.1, port.diameter)),
        ("cyclone", 0.15),
    ):
        source = make_thing(kind, kind).source
        assert source is not None  # those kinds are
        yield Bore(kinds()[kind].name, size, _hood(answers, source, thing, port, (ROLLED_HOSE, size)))
