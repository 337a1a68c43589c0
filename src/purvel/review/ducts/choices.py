"""The choices of gates that matter."""

from __future__ import annotations

from collections.abc import Container, Iterator, Sequence
from dataclasses import dataclass
from itertools import count

from purvel.airflow.segments import Layout
from purvel.libraries import np
from purvel.shop import PortRef, Shop, WorkInterval
from purvel.shop.parts import name_of, port_id

ALL_OPEN, ALL_SHUT = "bound/open", "bound/shut"
BOUNDS = {ALL_OPEN: "All open", ALL_SHUT: "All shut"}


@dataclass(frozen=True, slots=True)
class GateChoice:
    """Gates that are open together: the user's own gate set by its id, or one that stands for a hood alone or
    for all. `part` is how far those are drawn out that are open in part. Where it is for one port only that
    one `works`, and the others lend it air.
    """

    id: str
    name: str
    open: tuple[str, ...]
    part: tuple[tuple[str, float], ...] = ()
    works: PortRef | None = None


def gate_choices(shop: Shop, layout: Layout) -> tuple[GateChoice, ...]:
    """The choices to check: those that the user named; each hood alone that is not among them, unless one of
    those stands for it; machines whose work overlaps in the day; all open where there are no gates. What is
    not the user's own leaves the gates before a second source open.
    """
    here = {gate for segment in layout.segments for gate in segment.gates}
    names = set_names(shop)
    choices = [
        GateChoice(
            gate_set.id,
            names[gate_set.id],
            gates,
            tuple((one.gate, one.share) for one in gate_set.part if one.gate in gates),
            gate_set.instead_of,
        )
        for gate_set in shop.ducts.gate_sets
        if (gates := tuple(gate for gate in gate_set.open if gate in here)) or not gate_set.open
    ]
    taken = set(names.values())
    instead = {one.instead_of for one in shop.ducts.gate_sets if one.instead_of is not None}
    before_sources = [gate for one in layout.others for gate in gates_on_way(layout, one.segment)]
    ways: dict[str, tuple[str, ...]] = {}  # by machine the gates on the ways of its ports

    def add(choice: str, name: str, gates: tuple[str, ...]) -> None:
        gates = tuple(dict.fromkeys((*gates, *before_sources))) if gates else ()
        if gates and not any(set(gates) == set(known.open) and not known.part for known in choices):
            choices.append(GateChoice(choice, _numbered(name, taken), gates))
            taken.add(choices[-1].name)

    for hood in layout.hoods:
        gates = gates_on_way(layout, hood)
        end = layout.segments[hood].hood
        assert end is not None  # that is what the layout lists them by
        ways[end.thing] = tuple(dict.fromkeys((*ways.get(end.thing, ()), *gates))) if gates else ()
        if PortRef(thing=end.thing, port=end.port) not in instead:
            add(f"alone/{port_id(end.thing, end.port)}", f"{name_of(shop, end.thing)} alone", gates)
    for one, other in _at_once(shop.air.session.work):
        if ways.get(one) and ways.get(other):
            both = tuple(dict.fromkeys((*ways[one], *ways[other])))
            add(f"together/{one}+{other}", f"{name_of(shop, one)} and {name_of(shop, other)}", both)
    return tuple(choices) or (GateChoice("all/open", "All open", tuple(here)),)


def gates_on_way(layout: Layout, hood: int) -> tuple[str, ...]:
    """The gates between a segment and the first source."""
    return tuple(gate for index in layout.way(hood) for gate in layout.segments[index].gates)


def _at_once(work: Sequence[WorkInterval]) -> Iterator[tuple[str, str]]:
    """Pairs of machines whose pieces of work overlap in the day, each once."""
    known = [one for one in work if one.thing]
    begin = np.array([one.start for one in known])
    end = np.array([one.start + one.minutes for one in known])
    overlaps = np.minimum.outer(end, end) > np.maximum.outer(begin, begin)
    seen: set[frozenset[str]] = set()
    for i, j in np.argwhere(np.triu(overlaps, 1)):
        one, other = known[i].thing or "", known[j].thing or ""
        if one != other and (pair := frozenset((one, other))) not in seen:
            seen.add(pair)
            yield one, other


def set_names(shop: Shop) -> dict[str, str]:
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
