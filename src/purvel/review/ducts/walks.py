"""The suction walk: what each piece costs on one hood's way from the room to the source, and two walks
against each other: in two choices of gates, or before and after a change.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from purvel.airflow.flows import GateSetFlow, HoodFlow, NetworkResult
from purvel.airflow.segments import Layout
from purvel.shop import Shop
from purvel.shop.parts import name_of

Step = tuple[str, float]  # words, loss [Pa]
_SEEN = 0.5  # Pa: what costs less is not told


@dataclass(frozen=True, slots=True)
class Walk:
    """One hood's way in one choice of gates, in the shop that was reviewed."""

    shop: Shop
    layout: Layout
    flows: GateSetFlow
    hood: HoodFlow

    def steps(self) -> list[Step]:
        """What costs pressure on the way, in order."""
        found = [(f"hood of {name_of(self.shop, self.hood.thing)}", self.hood.entry_loss)]
        for index in self.layout.way(self.hood.segment):
            segment, part = self.layout.segments[index], self.flows.segments[index]
            run = name_of(self.shop, segment.run)
            what = "hose" if segment.role == "hose" else "pipe"
            found.append((run if what in run.lower() else f"{run}, {what}", part.friction_loss))
            if part.fittings_loss > _SEEN:
                opened = self.flows.open_gates
                at_gate = "gate in part" if all(gate in opened for gate in segment.gates) else "shut gate"
                what = at_gate if part.shut_gate else "fittings"
                found.append((f"{run}, {what}", part.fittings_loss))
            if abs(part.junction_loss) > _SEEN:
                found.append((f"{run}, joint", part.junction_loss))
        flows = self.flows
        for word, loss in (
            ("separator", flows.separator_loss),
            ("filter", flows.filter_loss),
            ("discharge", flows.discharge_loss),
        ):
            if loss > _SEEN:
                found.append((word, loss))
        return found


@dataclass(frozen=True, slots=True)
class Row:
    """A step of one walk and of another that it is held against [Pa]; None where a walk has no such step."""

    what: str
    loss: float | None
    other: float | None = None

    @property
    def size(self) -> float:
        """How much there is of it [Pa]."""
        return max(abs(self.loss or 0.0), abs(self.other or 0.0))


def in_choice(walk: Walk, network: NetworkResult, choice: str) -> Walk | None:
    """The same hood's way in another choice of gates of its system."""
    flows = next((one for one in network.sets if one.id == choice), None)
    if flows is None:
        return None
    at = walk.hood.thing, walk.hood.port
    hood = next((one for one in flows.hoods if (one.thing, one.port) == at), None)
    return None if hood is None else Walk(walk.shop, network.layout, flows, hood)


def rows(walk: Walk, other: Walk | None = None) -> list[Row]:
    """The steps of a walk, each beside the step of the same name of the other; what only the other has stands
    behind what it follows there.
    """
    mine = _together(walk.steps())
    if other is None:
        return [Row(what, loss) for what, loss in mine.items()]
    theirs = _together(other.steps())
    order = list(mine)
    before = ""
    for what in theirs:
        if what not in mine:
            order.insert(order.index(before) + 1 if before in order else 0, what)
        before = what
    return [Row(what, mine.get(what), theirs.get(what)) for what in order]


def _together(steps: Sequence[Step]) -> dict[str, float]:
    """Steps of one name as one: a run that others join goes by in pieces."""
    found: dict[str, float] = {}
    for what, loss in steps:
        found[what] = found.get(what, 0.0) + loss
    return found


def merged(steps: Sequence[Row], most: int) -> list[Row]:
    """The rows with neighbours put together until they fit, the cheapest first."""
    held = [(one, False) for one in steps]
    while len(held) > most:
        index = min(range(len(held) - 1), key=lambda i: held[i][0].size + held[i + 1][0].size)
        first, second = held[index][0], held[index + 1][0]
        name = first.what if first.size >= second.size else second.what
        held[index : index + 2] = [
            (Row(name, _sum(first.loss, second.loss), _sum(first.other, second.other)), True)
        ]
    return [Row(f"{one.what} …", one.loss, one.other) if several else one for one, several in held]


def _sum(a: float | None, b: float | None) -> float | None:
    return None if a is None and b is None else (a or 0.0) + (b or 0.0)
