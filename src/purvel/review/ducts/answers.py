"""What the duct network says: the runs as they lie, the choices of gates, the flows of each."""

from collections.abc import Container
from dataclasses import dataclass, replace
from itertools import count
from typing import Literal

from purvel.airflow.air import AirState, air_at
from purvel.airflow.flows import GateSetFlow, NetworkResult
from purvel.airflow.layout import layouts
from purvel.airflow.network import solve
from purvel.airflow.paths import Path, run_paths
from purvel.airflow.segments import Layout, Leaks
from purvel.catalogue import filter_states, transport
from purvel.once import once
from purvel.review.answers import Answers
from purvel.shop import Shop, Thing
from purvel.shop.parts import name_of, port_id
from purvel.shop.things import Carries

ChipState = Literal["idle", "moving", "slow", "settling"]


@dataclass(frozen=True, slots=True)
class GateChoice:
    """Gates that are open together: the user's own gate set by its id, or one that stands for a hood alone or
    for all.
    """

    id: str
    name: str
    open: tuple[str, ...]


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
    def networks(self) -> tuple[NetworkResult, ...]:
        """One solved network for each source that has a run."""
        found = []
        leaks = self._ask(Leaks, self._shop.ducts.gate_gap, self._shop.ducts.joint_leak)
        for layout in self._ask(layouts, self._shop.ducts, self._piped):
            choices = tuple((choice.id, choice.open) for choice in gate_choices(self._shop, layout))
            found.append(self._ask(solve, layout, choices, self.air_state, leaks))
        return tuple(found)

    def at_filter(self, network: NetworkResult, state: str) -> NetworkResult:
        """A system with its source's filter in another of its states, its curve as it mostly is. Raises
        ValueError for a source without a filter.
        """
        layout = network.layout
        if layout.source.filter is None:
            raise ValueError("There is no filter.")
        filter_ = replace(layout.source.filter, resistance=filter_states()[state])
        source = replace(layout.source, filter=filter_, curve_from="measured")
        sets = tuple((one.id, one.open_gates) for one in network.sets)
        leaks = self._ask(Leaks, self._shop.ducts.gate_gap, self._shop.ducts.joint_leak)
        return self._ask(solve, replace(layout, source=source), sets, self.air_state, leaks)

    @once
    def choices(self) -> dict[str, GateChoice]:
        """All choices of gates that are checked, by their ids."""
        return {
            choice.id: choice
            for network in self.networks
            for choice in gate_choices(self._shop, network.layout)
        }

    def choice_name(self, choice_id: str) -> str:
        """What a choice of gates is called."""
        choice = self.choices.get(choice_id)
        return choice_id if choice is None else choice.name


def gate_choices(shop: Shop, layout: Layout) -> list[GateChoice]:
    """The choices to check: those that the user named, then each hood alone that is not among them; all open
    where there are no gates.
    """
    here = {gate for segment in layout.segments for gate in segment.gates}
    names = _set_names(shop)
    choices = [
        GateChoice(gate_set.id, names[gate_set.id], gates)
        for gate_set in shop.ducts.gate_sets
        if (gates := tuple(gate for gate in gate_set.open if gate in here)) or not gate_set.open
    ]
    taken = set(names.values())
    for hood in layout.hoods:
        gates = tuple(gate for index in layout.way(hood) for gate in layout.segments[index].gates)
        end = layout.segments[hood].hood
        if end is not None and gates and not any(set(gates) == set(known.open) for known in choices):
            name = _numbered(f"{name_of(shop, end.thing)} alone", taken)
            taken.add(name)
            choices.append(GateChoice(f"alone/{port_id(end.thing, end.port)}", name, gates))
    return choices or [GateChoice("all/open", "All open", tuple(here))]


def _set_names(shop: Shop) -> dict[str, str]:
    """What the user's own gate sets go by: their name, else the gates that they open; of two with one name
    the second is numbered.
    """
    names: dict[str, str] = {}
    gates = {gate.id: gate.name or gate.id for run in shop.ducts.runs for gate in run.gates}
    for gate_set in shop.ducts.gate_sets:
        opened = " + ".join(gates[gate] for gate in gate_set.open if gate in gates)
        names[gate_set.id] = _numbered(gate_set.name or opened or "Nothing open", names.values())
    return names


def _numbered(name: str, taken: Container[str]) -> str:
    names = (f"{name} ({number})" if number > 1 else name for number in count(1))
    return next(wanted for wanted in names if wanted not in taken)


def is_working(layout: Layout, flows: GateSetFlow, index: int) -> bool:
    """Whether an open hood draws through a segment in this gate set."""
    return any(hood.is_open and index in layout.way(hood.segment) for hood in flows.hoods)


def carried(layout: Layout, flows: GateSetFlow, index: int) -> Carries:
    """What a segment carries in this gate set: chips as soon as one open hood on it gives off chips."""
    hoods = (
        layout.segments[hood.segment].hood
        for hood in flows.hoods
        if hood.is_open and index in layout.way(hood.segment)
    )
    return "chips" if any(hood is not None and hood.carries == "chips" for hood in hoods) else "dust"


def chip_state(layout: Layout, flows: GateSetFlow, index: int) -> ChipState:
    """idle, moving, slow (between the least speed and the one wanted) or settling."""
    if not is_working(layout, flows, index):
        return "idle"
    limits = transport(carried(layout, flows, index))
    speed = flows.segments[index].speed
    return "moving" if speed >= limits.want else "slow" if speed >= limits.least else "settling"
