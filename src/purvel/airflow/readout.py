"""What a solved duct network says, set by set and segment by segment."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from math import pi

from purvel.airflow.air import AirState
from purvel.airflow.arrays import Arrays
from purvel.airflow.at_sources import AtSources
from purvel.airflow.flows import GateSetFlow, HoodFlow, NetworkResult, SegmentFlow, SegmentFlows, SourceFlow
from purvel.airflow.segments import Hood, Layout
from purvel.airflow.sources import SourceCurve
from purvel.libraries import Array, np


@dataclass(frozen=True, slots=True, eq=False)
class Solved:
    """Flows at the ways in and out (B, C) [m3/s of room air], friction factors (B, S), what the energy along
    each way still misses [Pa] (B, C), and how much more room the air takes (B, S + sources), last at the
    inlets.
    """

    flows: Array
    factor: Array
    miss: Array
    thin: Array

    def rows(self, which: slice) -> Solved:
        """Some of the rows."""
        return Solved(self.flows[which], self.factor[which], self.miss[which], self.thin[which])

    def segments(self, arrays: Arrays, air: AirState) -> _Segments:
        """The terms of every segment (B, S)."""
        in_line = self.thin[:, : len(arrays.passes)]
        room_flow = self.flows @ arrays.passes.T
        speed = room_flow * in_line / arrays.area
        vp = 0.5 * air.density / in_line * speed * np.abs(speed)
        friction = np.where(room_flow != 0, self.factor, 0.0) * arrays.length / arrays.diameter
        fittings = np.broadcast_to(arrays.fittings, vp.shape)
        shut = arrays.at_gates
        towards = np.maximum(vp, 0.0)  # at a joint counts what flows towards the source
        at_junction = np.where(room_flow != 0, arrays.at_joints(towards), 0.0)
        loss = (friction + fittings + shut) * vp + at_junction
        return _Segments(room_flow * in_line, speed, vp, friction, fittings, shut, at_junction, loss)

    def pressures(self, layout: Layout, arrays: Arrays, sources: AtSources, air: AirState) -> Array:
        """Static pressure in the middle of each segment, and last at the inlets (B, S + sources) [Pa]."""
        parts = self.segments(arrays, air)
        inlets = [pull.at_inlet for pull in sources.at(self.flows, arrays, air, self.thin)]
        below = total_below(layout, parts.loss, inlets[0])
        in_line = below + 0.5 * parts.loss - np.abs(parts.vp)
        return np.concatenate([in_line, np.stack(inlets, axis=1)], axis=1)


@dataclass(frozen=True, slots=True, eq=False)
class _Segments:
    flow: Array
    speed: Array
    vp: Array
    friction: Array
    fittings: Array
    shut: Array
    at_junction: Array
    loss: Array


def total_below(layout: Layout, loss: Array, at_inlet: Array) -> Array:
    """Total pressure at the downstream end of each segment, behind the joint there (B, S) [Pa]."""
    below = np.empty_like(loss)
    for index, segment in enumerate(layout.segments):
        lower = segment.downstream
        below[:, index] = at_inlet if lower < 0 else below[:, lower] + loss[:, lower]
    return below


def read(
    layout: Layout,
    arrays: Arrays,
    sources: AtSources,
    choices: Sequence[tuple[str, frozenset[str], Mapping[str, float]]],
    solved: Solved,
    air: AirState,
) -> NetworkResult:
    """The result of every set (id, open gates, how far those are drawn out that are open in part)."""
    hoods = solved.flows[:, : len(layout.hoods)]
    ranges = _ranges(hoods, len(choices)) if arrays.has_range else ()
    mostly = slice(len(choices))  # at the ends of what is known only hoods are asked
    arrays, solved = arrays.rows(mostly), solved.rows(mostly)
    pulls = sources.at(solved.flows, arrays, air, solved.thin)
    miss = np.abs(solved.miss).max(axis=1)
    table = _table(layout, arrays, pulls[0].at_inlet, solved, air)
    ends = list(_ends(layout))
    at_hoods = _hoods([hood for _, hood, _ in ends], hoods[mostly], air.density)
    sets = [
        GateSetFlow(
            id=choice,
            open_gates=tuple(sorted(opened)),
            density=air.density,
            sources=tuple(
                SourceFlow(
                    thing,
                    float(pull.flow[b]),
                    float(pull.pressure[b]),
                    float(pull.lost.separator[b]),
                    float(pull.lost.filter[b]),
                    float(pull.lost.discharge[b]),
                )
                for (thing, _), pull in zip(layout.sources, pulls)
            ),
            segments=SegmentFlows(table[b]),
            hoods=tuple(
                HoodFlow(hood.thing, hood.port, index, row[0], row[1], row[2], row[3], gates <= opened)
                for (index, hood, gates), row in zip(ends, at_hoods[b])
            ),
            imbalance=float(miss[b]),
            converged=bool(miss[b] < 1e-5 * max(abs(pulls[0].pressure[b]), 1.0)),
            part_open=tuple(sorted((gate, share) for gate, share in drawn.items() if gate in opened)),
        )
        for b, (choice, opened, drawn) in enumerate(choices)
    ]
    return NetworkResult(layout, air, tuple(sets), ranges)


def _ranges(flows: Array, sets: int) -> tuple[tuple[tuple[float, float], ...], ...]:
    """Least and most of each hood's flow in each set over all that is known of hose and source."""
    rows = flows.reshape(-1, sets, flows.shape[1])
    low, high = rows.min(axis=0).tolist(), rows.max(axis=0).tolist()
    return tuple(tuple(zip(*pair)) for pair in zip(low, high))


def _table(layout: Layout, arrays: Arrays, at_inlet: Array, solved: Solved, air: AirState) -> Array:
    """The figures of every segment in every set as all mostly is (B, S, 12), in the order of SegmentFlow."""
    parts = solved.segments(arrays, air)
    density = air.density / solved.thin[:, : len(arrays.passes)]
    below = total_below(layout, parts.loss, at_inlet)
    size = np.abs(parts.vp)
    junction = np.divide(parts.at_junction, size, out=np.zeros_like(size), where=size > 0)
    reynolds = density * np.abs(parts.speed) * arrays.diameter / air.viscosity
    factor = np.where(parts.flow != 0, solved.factor, 0.0)
    columns = (
        parts.flow,
        parts.speed,
        density,
        np.abs(parts.vp),
        reynolds,
        factor,
        parts.friction,
        parts.fittings,
        parts.shut,
        junction,
        parts.loss,
        below,
    )
    return np.stack(columns, axis=-1)


def _ends(layout: Layout) -> Iterator[tuple[int, Hood, frozenset[str]]]:
    """Each hood with its segment and the gates on its way."""
    behind: list[frozenset[str]] = []  # a downstream segment comes before those that flow into it
    for one in layout.segments:
        below: frozenset[str] = behind[one.downstream] if one.downstream >= 0 else frozenset()
        behind.append(below.union(one.gates) if one.gates else below)
    for index in layout.hoods:
        hood = layout.segments[index].hood
        assert hood is not None
        yield index, hood, behind[index]


def _hoods(hoods: Sequence[Hood], flows: Array, rho: float) -> list[list[list[float]]]:
    """By set and hood: flow, speed in the port, what entering costs, and the suction behind it, in the order
    of HoodFlow.
    """
    speed = flows / (pi / 4 * np.array([hood.diameter for hood in hoods]) ** 2)
    vp = 0.5 * rho * speed * np.abs(speed)
    entry = np.array([hood.entry_loss for hood in hoods]) * vp
    rows: list[list[list[float]]] = np.stack([flows, speed, entry, vp + entry], axis=-1).tolist()
    return rows


def still(choice: str, gates: Sequence[str], layout: Layout, air: AirState) -> GateSetFlow:
    """A system without a single hood: nothing flows, each source stands at shut-off."""
    stand = tuple(
        SourceFlow(thing, 0.0, curve.shut_off * float(curve.density_share(air.density)), 0.0, 0.0, 0.0)
        for thing, curve in ((thing, SourceCurve(source)) for thing, source in layout.sources)
    )
    pressure = stand[0].pressure
    none = SegmentFlow(0.0, 0.0, air.density, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, -pressure)
    return GateSetFlow(
        choice,
        tuple(sorted(gates)),
        air.density,
        stand,
        (none,) * len(layout.segments),
        (),
        0.0,
        True,
    )
