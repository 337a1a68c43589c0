"""What the engines say about a shop.

Each answer is kept as long as the very parts it was computed from stay in the document.
"""

from collections.abc import Callable, Container
from dataclasses import dataclass
from functools import cached_property
from itertools import count
from typing import Any, TypeVar

from purvel.airflow.air import AirState, air_at
from purvel.airflow.layout import HoseLoss, Layout, Path, layouts, run_paths
from purvel.airflow.network import GateSetFlow, NetworkResult, solve
from purvel.catalogue import dust_sizes, transport
from purvel.roomair.day import Day, simulate
from purvel.roomair.dust import settled
from purvel.shop import GateSet, Shop, Thing
from purvel.shop.parts import name_of
from purvel.space.aisles import Aisle, aisle_grid, aisles
from purvel.space.clearances import Clash, outside, overlaps, standing_clashes
from purvel.space.ground import Ground, Side, floor, ground, sides
from purvel.space.lanes import Lane, lanes
from purvel.space.traverse import Traverse, walk
from purvel.space.volume import room_volume

_T = TypeVar("_T")


class Reviewer:
    """Remembers the last answers, so that an edit recomputes only what reads the changed parts."""

    def __init__(self) -> None:
        self._kept: dict[str, tuple[tuple[Any, ...], Any]] = {}

    def results(self, shop: Shop) -> "Results":
        """The answers for a shop, computed when asked for."""
        return Results(shop, self)

    def fork(self) -> "Reviewer":
        """A reviewer that starts from the same memory, for trying moves."""
        other = Reviewer()
        other._kept = dict(self._kept)
        return other

    def recall(self, name: str, parts: tuple[Any, ...], compute: Callable[[], _T]) -> _T:
        """The kept answer if it was computed from these very parts, else a new one."""
        kept = self._kept.get(name)
        if kept is not None and len(kept[0]) == len(parts) and all(a is b for a, b in zip(kept[0], parts)):
            answer: _T = kept[1]
            return answer
        answer = compute()
        self._kept[name] = (parts, answer)
        return answer


@dataclass(frozen=True)
class Results:
    """The answers for one shop."""

    shop: Shop
    memory: Reviewer

    @cached_property
    def traverse(self) -> Traverse:
        """The tape walk."""
        return self.memory.recall("traverse", (self.shop.room,), lambda: walk(self.shop.room))

    @cached_property
    def sides(self) -> dict[str, Side]:
        """Walls of the closed room."""
        return self.memory.recall("sides", (self.shop.room,), lambda: sides(self.shop.room))

    @cached_property
    def floor_area(self) -> float:
        """[m2]"""
        if not self.traverse.is_closed:
            return 0.0
        return self.memory.recall("floor", (self.shop.room,), lambda: float(floor(self.shop.room).area))

    @cached_property
    def volume(self) -> float:
        """[m3]"""
        if not self.traverse.is_closed:
            return 0.0
        return self.memory.recall("volume", (self.shop.room,), lambda: room_volume(self.shop.room))

    @cached_property
    def ground(self) -> Ground:
        """What can block."""
        return self.memory.recall(
            "ground", (self.shop.room, *self.shop.things), lambda: ground(self.shop.room, self.shop.things)
        )

    @cached_property
    def lanes(self) -> dict[str, Lane]:
        """Lanes by machine; none while the room is open."""
        shop = self.shop
        parts = (shop.room, shop.stock, shop.hand_room, *shop.things)
        return self.memory.recall("lanes", parts, self._lanes)

    def _lanes(self) -> dict[str, Lane]:
        if not self.traverse.is_closed:
            return {}
        return lanes(self.shop.things, self.shop.stock, self.shop.hand_room, self.ground, self.shop.room)

    @cached_property
    def overlaps(self) -> list[Clash]:
        """Bodies in each other."""
        parts = (*self.shop.room.fixtures, None, *self.shop.things)
        return self.memory.recall(
            "overlaps", parts, lambda: overlaps(self.shop.things, self.shop.room.fixtures)
        )

    @cached_property
    def outside(self) -> list[Clash]:
        """Things beyond the walls."""
        return self.memory.recall(
            "outside", (self.shop.room, *self.shop.things), lambda: outside(self.shop.things, self.shop.room)
        )

    @cached_property
    def standing(self) -> list[Clash]:
        """Standing room that is taken."""
        return self.memory.recall(
            "standing",
            (self.shop.room, *self.shop.things),
            lambda: standing_clashes(self.shop.things, self.shop.room),
        )

    @cached_property
    def aisles(self) -> list[Aisle]:
        """Ways to the machines."""
        grid = self.memory.recall("aisle grid", (self.shop.room,), lambda: aisle_grid(self.shop.room))
        return self.memory.recall(
            "aisles",
            (self.shop.room, *self.shop.things),
            lambda: aisles(self.shop.things, self.shop.room, grid),
        )

    @cached_property
    def air_state(self) -> AirState:
        """The air that the ducts carry."""
        return self.memory.recall("air state", (self.shop.site,), lambda: air_at(self.shop.site))

    @cached_property
    def _piped(self) -> tuple[Thing, ...]:
        return tuple(thing for thing in self.shop.things if thing.ports or thing.source)

    @cached_property
    def run_paths(self) -> dict[str, Path]:
        """Centre lines of the runs as they lie now."""
        return self.memory.recall(
            "paths", (self.shop.ducts, *self._piped), lambda: run_paths(self.shop.ducts, self._piped)
        )

    @cached_property
    def networks(self) -> tuple[NetworkResult, ...]:
        """One solved network for each source that has a run."""
        return self.memory.recall("networks", (self.shop.ducts, self.shop.site, *self._piped), self._networks)

    def _networks(self, hose: HoseLoss = "central") -> tuple[NetworkResult, ...]:
        found = []
        for layout in layouts(self.shop.ducts, self._piped, hose):
            found.append(
                solve(layout, gate_choices(self.shop, layout), self.air_state, self.shop.ducts.leak_area)
            )
        return tuple(found)

    @cached_property
    def hose_bounds(self) -> tuple[tuple[NetworkResult, NetworkResult] | None, ...]:
        """For each network the same with its hoses at the rough end and at the smooth end of what is known;
        None where it has no hose.
        """
        return self.memory.recall(
            "hose bounds", (self.shop.ducts, self.shop.site, *self._piped), self._hose_bounds
        )

    def _hose_bounds(self) -> tuple[tuple[NetworkResult, NetworkResult] | None, ...]:
        hoses = [
            any(segment.role == "hose" for segment in network.layout.segments) for network in self.networks
        ]
        if not any(hoses):
            return (None,) * len(hoses)
        pairs = zip(self._networks("high"), self._networks("low"))
        return tuple(pair if has_hose else None for has_hose, pair in zip(hoses, pairs))

    def flow_range(self, network: int, gate_set: int, hood: int) -> tuple[float, float] | None:
        """The flow of a hood [m3/s] between rough and smooth hose, by their numbers; None where no hose is in
        the system.
        """
        bounds = self.hose_bounds[network]
        if bounds is None:
            return None
        ends = [one.sets[gate_set].hoods[hood].flow for one in bounds]
        return min(ends), max(ends)

    @cached_property
    def day(self) -> Day | None:
        """The simulated session; None without a room or without work."""
        cleaners = tuple(thing.cleaner for thing in self.shop.things if thing.cleaner is not None)
        if self.volume <= 0 or not self.shop.air.session.spells:
            return None
        sizes = settled(dust_sizes(), self.volume / self.floor_area)
        return self.memory.recall(
            "day",
            (self.shop.air, self.shop.room, *cleaners),
            lambda: simulate(self.volume, self.shop.air, cleaners, sizes),
        )


def named_gate_sets(shop: Shop) -> dict[str, GateSet]:
    """The user's own gate sets by the names they go by; of two with one name the second is numbered."""
    named: dict[str, GateSet] = {}
    for one in shop.ducts.gate_sets:
        named[_numbered(one.name or one.id, named)] = one
    return named


def _numbered(name: str, taken: Container[str]) -> str:
    names = (f"{name} ({number})" if number > 1 else name for number in count(1))
    return next(one for one in names if one not in taken)


def gate_choices(shop: Shop, layout: Layout) -> list[tuple[str, tuple[str, ...]]]:
    """The gate sets to check: those that the user named, then each hood alone that is not among them; “no
    gates” where there are none.
    """
    here = [gate for segment in layout.segments for gate in segment.gates]
    named = named_gate_sets(shop)
    choices = [
        (name, gates)
        for name, one in named.items()
        if (gates := tuple(gate for gate in one.open if gate in here))
    ]
    taken = set(named)
    for hood in layout.hoods:
        gates = tuple(gate for index in layout.way(hood) for gate in layout.segments[index].gates)
        if gates and not any(set(gates) == set(known) for _, known in choices):
            end = layout.segments[hood].hood
            assert end is not None
            taken.add(name := _numbered(f"{name_of(shop, end.thing)} alone", taken))
            choices.append((name, gates))
    return choices or [("All open", tuple(here))]


def is_working(layout: Layout, flows: GateSetFlow, index: int) -> bool:
    """Whether an open hood draws through a segment in this gate set."""
    return any(hood.is_open and index in layout.way(hood.segment) for hood in flows.hoods)


def chip_state(layout: Layout, flows: GateSetFlow, index: int) -> str:
    """idle, moving, slow (between the least speed and the one wanted) or settling."""
    if not is_working(layout, flows, index):
        return "idle"
    limits = transport(layout.segments[index].role)
    speed = flows.segments[index].speed
    return "moving" if speed >= limits.want else "slow" if speed >= limits.least else "settling"
