"""What the duct network says: the runs as they lie, the choices of gates, the flows of each."""

from dataclasses import replace

from purvel.airflow.air import AirState, air_at
from purvel.airflow.flows import GateSetFlow, NetworkResult
from purvel.airflow.layout import layouts
from purvel.airflow.network import solve
from purvel.airflow.parts import Part, parts
from purvel.airflow.paths import Path, run_paths
from purvel.airflow.segments import Layout, Leaks
from purvel.catalogue import filter_states
from purvel.catalogue.money import duct_prices
from purvel.once import once
from purvel.review.answers import Answers
from purvel.review.ducts.choices import ALL_OPEN, ALL_SHUT, BOUNDS, GateChoice, gate_choices, set_names
from purvel.shop import Source, Thing


class DuctAnswers:
    """The duct systems of the shop, one for each source that has a run."""

    def __init__(self, answers: Answers) -> None:
        self._shop, self._ask = answers.shop, answers.ask

    @once
    def air_state(self) -> AirState:
        """The air that the ducts carry."""
        return self._ask(air_at, self._shop.site)

    @once
    def _piped(self) -> tuple[Thing, ...]:
        """The things that runs begin or end at."""
        ends = {run.source for run in self._shop.ducts.runs}
        ends |= {run.port.thing for run in self._shop.ducts.runs if run.port}
        return tuple(thing for thing in self._shop.things if thing.id in ends)

    @once
    def run_paths(self) -> dict[str, Path]:
        """Centre lines of the runs as they lie now."""
        return self._ask(run_paths, self._shop.ducts, self._piped)

    @once
    def leaks(self) -> Leaks:
        """What shut gates and joints let in."""
        return self._ask(Leaks, self._shop.ducts.gate_gap, self._shop.ducts.joint_leak)

    def solved(self, layout: Layout, choices: tuple[GateChoice, ...]) -> NetworkResult:
        """A system in choices of gates."""
        nameless = tuple(replace(choice, name="") for choice in choices)  # a new name solves nothing
        return self._ask(_solved, layout, nameless, self.air_state, self.leaks)

    @once
    def _chosen(self) -> tuple[tuple[Layout, tuple[GateChoice, ...]], ...]:
        """Each system, and the choices of gates that it is checked in."""
        layouts_ = self._ask(layouts, self._shop.ducts, self._piped)
        return tuple((one, gate_choices(self._shop, one)) for one in layouts_)

    @once
    def networks(self) -> tuple[NetworkResult, ...]:
        """One solved network for each source that has a run."""
        return tuple(self.solved(layout, choices) for layout, choices in self._chosen)

    def at_filter(self, network: NetworkResult, state: str) -> NetworkResult:
        """A system with the filters of its sources in another of their states, their curves as they mostly
        are.
        """
        layout = network.layout
        layout = replace(
            layout,
            source=_filtered(layout.source, state),
            others=tuple(replace(one, source=_filtered(one.source, state)) for one in layout.others),
        )
        return self.solved(layout, gate_choices(self._shop, layout))

    @once
    def parts(self) -> list[Part]:
        """What the ducts are made of, by run."""
        return parts(self._shop.ducts, self.run_paths, (network.layout for network in self.networks))

    @once
    def price(self) -> tuple[float, float]:
        """What the drawn ducts cost by the parts list, low and high [USD, our own rough bands]."""
        bands = [(one.amount, duct_prices().of(one.unit, one.size, one.material)) for one in self.parts]
        return sum(many * band[0] for many, band in bands), sum(many * band[1] for many, band in bands)

    @once
    def choices(self) -> dict[str, GateChoice]:
        """All choices of gates that are checked, by their ids."""
        return {choice.id: choice for _, choices in self._chosen for choice in choices}

    def bounds(self, network: NetworkResult) -> NetworkResult:
        """A system with all its gates open, and with all shut: no choice that people use, but what lies
        between them.
        """
        gates = tuple(gate for segment in network.layout.segments for gate in segment.gates)
        bounds = (GateChoice(ALL_OPEN, BOUNDS[ALL_OPEN], gates), GateChoice(ALL_SHUT, BOUNDS[ALL_SHUT], ()))
        return self.solved(network.layout, bounds)

    @once
    def _set_names(self) -> dict[str, str]:
        return set_names(self._shop)

    def choice_name(self, choice_id: str) -> str:
        """What a choice of gates is called."""
        own = self._set_names.get(choice_id)  # for which no system has to be laid out
        if own is not None:
            return own
        choice = self.choices.get(choice_id)
        return BOUNDS.get(choice_id, choice_id) if choice is None else choice.name


def _solved(layout: Layout, choices: tuple[GateChoice, ...], air: AirState, leaks: Leaks) -> NetworkResult:
    """The flows in each choice of gates; hoods at which nothing works lend their air."""
    opened = tuple((choice.id, choice.open) for choice in choices)
    found = solve(layout, opened, air, leaks, tuple(dict(choice.part) for choice in choices))
    if all(choice.works is None for choice in choices):
        return found
    return replace(found, sets=tuple(_lent(one, choice) for one, choice in zip(found.sets, choices)))


def _lent(flows: GateSetFlow, choice: GateChoice) -> GateSetFlow:
    if choice.works is None:
        return flows
    at = choice.works
    hoods = (replace(one, lends=(one.thing, one.port) != (at.thing, at.port)) for one in flows.hoods)
    return replace(flows, hoods=tuple(hoods))


def _filtered(source: Source, state: str) -> Source:
    if source.filter is None:
        return replace(source, curve_from="measured")
    filter_ = replace(source.filter, resistance=filter_states(source.filter.medium)[state])
    return replace(source, filter=filter_, curve_from="measured")
