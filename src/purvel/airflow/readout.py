"""What a solved duct network says, set by set and segment by segment."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import pi

from purvel.airflow.air import AirState
from purvel.airflow.arrays import Arrays
from purvel.airflow.flows import GateSetFlow, HoodFlow, NetworkResult, SegmentFlow
from purvel.airflow.segments import Hood, Layout
from purvel.airflow.sources import SourceCurve
from purvel.libraries import Array, np


@dataclass(frozen=True, slots=True, eq=False)
class Solved:
    """Flows at the ways in (B, C) [m3/s of room air], friction factors (B, S), what the energy along each way
    still misses [Pa] (B, C), and how much more room the air takes (B, S + 1), last at the source's inlet.
    """

    flows: Array
    factor: Array
    miss: Array
    thin: Array

    def segments(self, arrays: Arrays, air: AirState) -> _Segments:
        """The terms of every segment (B, S)."""
        in_line = self.thin[:, :-1]
        room_flow = self.flows @ arrays.passes.T
        speed = room_flow * in_line / arrays.area
        vp = 0.5 * air.density / in_line * speed**2
        friction = np.where(room_flow > 0, self.factor, 0.0) * arrays.length / arrays.diameter
        fittings = np.broadcast_to(arrays.fittings, vp.shape)
        shut = arrays.shut_count * arrays.shut
        at_junction = np.where(room_flow > 0, vp @ arrays.coupling.T, 0.0)
        loss = (friction + fittings + shut) * vp + at_junction
        return _Segments(room_flow * in_line, speed, vp, friction, fittings, shut, at_junction, loss)

    def at_inlet(self, arrays: Arrays, curve: SourceCurve, air: AirState) -> Array:
        """Total pressure at the source's inlet (B,) [Pa]."""
        total, thin = self.flows.sum(axis=1), self.thin[:, -1]
        rest = curve.losses(total * thin, air.density / thin).total
        pressure, _ = curve.total_pressure(total, np.full(len(total), air.density), arrays.times)
        return np.asarray(rest - pressure)

    def pressures(self, layout: Layout, arrays: Arrays, curve: SourceCurve, air: AirState) -> Array:
        """Static pressure in the middle of each segment, and last at the inlet (B, S + 1) [Pa]."""
        parts, at_inlet = self.segments(arrays, air), self.at_inlet(arrays, curve, air)
        below = total_below(layout, parts.loss, at_inlet)
        return np.concatenate([below + 0.5 * parts.loss - parts.vp, at_inlet[:, None]], axis=1)


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
    curve: SourceCurve,
    choices: Sequence[tuple[str, frozenset[str]]],
    solved: Solved,
    air: AirState,
) -> NetworkResult:
    """The result of every set (id, open gates)."""
    total, thin = solved.flows.sum(axis=1), solved.thin[:, -1]
    pressure = curve.total_pressure(total, np.full(len(total), air.density), arrays.times)[0]
    rest = curve.losses(total * thin, air.density / thin)
    miss = np.abs(solved.miss).max(axis=1)
    table = _table(layout, arrays, curve, solved, air)
    ends = list(_ends(layout))
    sets = [
        GateSetFlow(
            id=choice,
            open_gates=tuple(sorted(opened)),
            density=air.density,
            flow=float(total[b]),
            source_pressure=float(pressure[b]),
            separator_loss=float(rest.separator[b]),
            filter_loss=float(rest.filter[b]),
            discharge_loss=float(rest.discharge[b]),
            segments=tuple(SegmentFlow(*row) for row in table[b]),
            hoods=tuple(
                _hood(i, hood, gates <= opened, float(solved.flows[b, column]), air.density)
                for column, (i, hood, gates) in enumerate(ends)
            ),
            imbalance=float(miss[b]),
            converged=bool(miss[b] < 1e-5 * max(abs(pressure[b]), 1.0)),
        )
        for b, (choice, opened) in enumerate(choices)
    ]
    hoods = solved.flows[:, : len(ends)]
    return NetworkResult(layout, air, tuple(sets), _ranges(hoods, len(sets)) if arrays.has_range else ())


def _ranges(flows: Array, sets: int) -> tuple[tuple[tuple[float, float], ...], ...]:
    """Least and most of each hood's flow in each set over all that is known of hose and source."""
    rows = flows.reshape(-1, sets, flows.shape[1])
    low, high = rows.min(axis=0).tolist(), rows.max(axis=0).tolist()
    return tuple(tuple(zip(*pair)) for pair in zip(low, high))


def _table(
    layout: Layout, arrays: Arrays, curve: SourceCurve, solved: Solved, air: AirState
) -> list[list[list[float]]]:
    """The figures of every segment in every set, in the order of SegmentFlow."""
    parts = solved.segments(arrays, air)
    density = air.density / solved.thin[:, :-1]
    below = total_below(layout, parts.loss, solved.at_inlet(arrays, curve, air))
    junction = np.divide(parts.at_junction, parts.vp, out=np.zeros_like(parts.vp), where=parts.vp > 0)
    reynolds = density * parts.speed * arrays.diameter / air.viscosity
    factor = np.where(parts.flow > 0, solved.factor, 0.0)
    columns = (
        parts.flow,
        parts.speed,
        density,
        parts.vp,
        reynolds,
        factor,
        parts.friction,
        parts.fittings,
        parts.shut,
        junction,
        parts.loss,
        below,
    )
    rows: list[list[list[float]]] = np.stack(columns, axis=-1).tolist()
    return rows


def _ends(layout: Layout) -> Iterator[tuple[int, Hood, frozenset[str]]]:
    """Each hood with its segment and the gates on its way."""
    for index in layout.hoods:
        hood = layout.segments[index].hood
        assert hood is not None
        yield index, hood, frozenset(gate for i in layout.way(index) for gate in layout.segments[i].gates)


def _hood(index: int, hood: Hood, is_open: bool, flow: float, rho: float) -> HoodFlow:
    speed = flow / (pi / 4 * hood.diameter**2)
    vp = 0.5 * rho * speed**2
    return HoodFlow(
        hood.thing, hood.port, index, flow, speed, hood.entry_loss * vp, (1.0 + hood.entry_loss) * vp, is_open
    )


def still(
    choice: str, gates: Sequence[str], layout: Layout, curve: SourceCurve, air: AirState
) -> GateSetFlow:
    """A system without a single hood: nothing flows, the source stands at shut-off."""
    pressure = curve.shut_off * air.density / layout.source.density
    none = SegmentFlow(0.0, 0.0, air.density, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, -pressure)
    return GateSetFlow(
        choice,
        tuple(sorted(gates)),
        air.density,
        0.0,
        pressure,
        0.0,
        0.0,
        0.0,
        (none,) * len(layout.segments),
        (),
        0.0,
        True,
    )
