"""A tree of pipe as runs of the shop: mains that carry on in line where their size changes, branches, drops,
gates near the main, hoses at the ports.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from math import dist

from purvel.airflow.paths import length_of, run_paths
from purvel.airflow.pipe_tree import Tree
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.choices import gates_on_way
from purvel.review.ducts.route_places import SECOND_AT, Drop, Riser, Spot
from purvel.shop import Gate, Join, Port, PortRef, Run, Shop, Thing, Vertex
from purvel.shop.edits import fresh_id
from purvel.shop.parts import without_lost

GATE_AT = 0.3  # m from the main to a gate: little pipe lies idle behind a shut one [trade practice]
LEAST_HOSE = 0.05  # m: nearer than this a drop is the port's own pipe


@dataclass(frozen=True, slots=True)
class Laid:
    """A tree with the places of its nodes on the plan, the riser that it starts at, the height of its middle
    [m], the drops that may be at each machine, the size [m] of what has gathered some of them, and a run
    of the material and elbows that pipe is of.
    """

    tree: Tree
    at: Sequence[Sequence[Spot]]
    riser: Riser
    height: float
    drops: Sequence[Sequence[Drop]]
    size: Callable[[frozenset[int]], float]
    made_of: Run


def laid_in(
    shop: Shop, answers: Answers, source: Thing, machines: Sequence[tuple[Thing, Sequence[Port]]], laid: Laid
) -> Shop:
    """The shop with the tree in place of the system that the source had."""
    networks = [one for one in answers.of(DuctAnswers).networks if one.layout.source_thing == source.id]
    old = {segment.run for network in networks for segment in network.layout.segments}
    gates: dict[str, str] = {}  # the gates that served a machine alone, so that choices of gates go on
    for network in networks:
        layout = network.layout
        ends = {hood: end.thing for hood in layout.hoods if (end := layout.segments[hood].hood) is not None}
        for hood, thing in ends.items():
            shared = {
                gate for other, at in ends.items() if at != thing for gate in gates_on_way(layout, other)
            }
            alone = [gate for gate in gates_on_way(layout, hood) if gate not in shared]
            if alone:
                gates[thing] = alone[-1]
    bare = replace(shop, ducts=replace(shop.ducts, runs=tuple(r for r in shop.ducts.runs if r.id not in old)))
    made = _Runs(bare, source, machines, laid, gates).runs()
    runs = (*bare.ducts.runs, *made)
    here = {gate.id for run in runs for gate in run.gates}
    sets = []
    for one in shop.ducts.gate_sets:
        opened = tuple(gate for gate in one.open if gate in here)
        if opened or not one.open:
            sets.append(replace(one, open=opened, part=tuple(p for p in one.part if p.gate in here)))
    return without_lost(replace(shop, ducts=replace(shop.ducts, runs=runs, gate_sets=tuple(sets))))


class _Runs:
    def __init__(
        self,
        shop: Shop,
        source: Thing,
        machines: Sequence[tuple[Thing, Sequence[Port]]],
        laid: Laid,
        gates: dict[str, str],
    ) -> None:
        self.shop, self.source, self.machines, self.laid, self.old_gates = shop, source, machines, laid, gates
        self.found: list[Run] = []

    def runs(self) -> list[Run]:
        """Every downstream run before its upstream ones."""
        assert self.source.source is not None  # pipe begins at its inlet
        up = self.laid.riser
        z = self.source.z + self.source.source.inlet_z
        spots = [up.turned_at, (up.x, up.y)] if up.turned_at is not None else [(up.x, up.y)]
        first = [Vertex(x=round(x, 4), y=round(y, 4), z=round(z, 4)) for x, y in spots]
        if abs(z - self.laid.height) > 0.02:
            first.append(replace(first[-1], z=round(self.laid.height, 4)))
        self._leg(
            0, replace(self._run("Main", 0), source=self.source.id, points=tuple(first)), self._length(first)
        )
        return self.found

    def _length(self, points: Sequence[Vertex]) -> float:
        """How long the run to the last of these points is, from the source's inlet [m]."""
        assert self.source.source is not None
        inlet = self.source.source
        places = [
            (*self.source.spot(inlet.inlet_x, inlet.inlet_y), self.source.z + inlet.inlet_z),
            *((one.x, one.y, one.z) for one in points),
        ]
        return sum(dist(a, b) for a, b in itertools.pairwise(places))

    def _run(self, name: str, leg: int) -> Run:
        taken = replace(self.shop, ducts=replace(self.shop.ducts, runs=(*self.shop.ducts.runs, *self.found)))
        size = self.laid.size(self.laid.tree.legs[leg].places)
        return Run(
            id=fresh_id(taken, "run"),
            name=name,
            diameter=size,
            material=self.laid.made_of.material,
            elbow=self.laid.made_of.elbow,
        )

    def _leg(self, number: int, run: Run, walked: float) -> None:
        """Lays a leg at the end of a run that is `walked` metres long, then all that flows into it."""
        points = list(run.points)
        at = self.laid.at[number]
        last = at[0]
        for spot in at[1:]:
            walked += dist(last, spot)
            points.append(Vertex(x=round(spot[0], 4), y=round(spot[1], 4), z=round(self.laid.height, 4)))
            last = spot
        leg = self.laid.tree.legs[number]
        run = replace(run, points=tuple(points))
        if leg.start is not None:
            self._down(number, run)
            return
        into = [n for n, one in enumerate(self.laid.tree.legs) if one.parent == number]
        onwards = next(n for n in into if self.laid.tree.legs[n].in_line)
        run = replace(run, name=run.name or self._numbered("Branch"))
        place = len(self.found)
        self.found.append(run)
        for n in into:
            if n != onwards:
                self._leg(n, replace(self._run("", n), joins=Join(run=run.id, at=round(walked, 4))), 0.0)
        if abs(self.laid.size(self.laid.tree.legs[onwards].places) - run.diameter) < 1e-6:
            rest = len(self.found)
            self._leg(onwards, self._gated(onwards, run, walked), walked)
            self.found[place] = self.found.pop(rest)
        else:
            is_last = len(self.laid.tree.legs[onwards].places) == 1  # it is named after its machine then
            name = "" if is_last else self._numbered("Main")
            further = replace(self._run(name, onwards), joins=Join(run=run.id))
            self._leg(onwards, self._gated(onwards, further, 0.0), 0.0)

    def _numbered(self, stem: str) -> str:
        """A name that no run of this system has yet: Main, Main 2 …"""
        many = sum(run.name.startswith(stem) for run in self.found)
        return f"{stem} {many + 1}" if many else stem

    def _gated(self, number: int, run: Run, walked: float) -> Run:
        """The run with a gate where it begins to serve one port alone, `walked` metres along it."""
        leg = self.laid.tree.legs[number]
        if len(leg.places) > 1 or len(self.machines) < 2 or run.gates:
            return run
        thing, _ = self.machines[min(leg.places)]
        name = thing.name or thing.id
        taken = replace(self.shop, ducts=replace(self.shop.ducts, runs=(*self.shop.ducts.runs, *self.found)))
        gate = Gate(
            id=self.old_gates.get(thing.id) or fresh_id(taken, "gate"),
            name=f"{name} gate",
            at=round(walked + GATE_AT, 3),
        )
        return replace(run, gates=(*run.gates, gate))

    def _down(self, number: int, run: Run) -> None:
        """The drop at the end of a leg, and its hoses."""
        leg = self.laid.tree.legs[number]
        n = min(leg.places)
        thing, ports = self.machines[n]
        assert leg.start is not None  # that is where drops are
        drop = self.laid.drops[n][leg.start]
        name = thing.name or thing.id
        run = self._gated(number, run, 0.0)
        run = replace(run, name=run.name or f"{name} drop")
        first = PortRef(thing=thing.id, port=ports[0].id)
        end = Vertex(x=round(drop.x, 4), y=round(drop.y, 4), z=round(drop.bottom, 4))
        if drop.hoses[0] < LEAST_HOSE and len(ports) == 1:
            self.found.append(replace(run, port=first))
            return
        run = replace(run, points=(*run.points, end))
        self.found.append(run)
        self._hose(f"{name} hose", number, Join(run=run.id), first)
        for port in ports[1:]:
            bare = replace(
                self.shop, ducts=replace(self.shop.ducts, runs=(*self.shop.ducts.runs, *self.found))
            )
            length = length_of(run_paths(bare.ducts, bare.things)[run.id])
            join = Join(run=run.id, at=round(length - SECOND_AT, 4))
            self._hose(f"{name} hose, {port.id}", number, join, PortRef(thing=thing.id, port=port.id))

    def _hose(self, name: str, number: int, joins: Join, port: PortRef) -> None:
        assert self.source.source is not None
        is_vac = self.source.source.kind == "vac"
        made = replace(
            self._run(name, number), material="vac-hose" if is_vac else "ribbed-hose", elbow="smooth-1.5"
        )
        self.found.append(replace(made, joins=joins, port=port))
