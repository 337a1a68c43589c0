"""The duct network solved: flow in every segment, suction at every hood, the source's working point, for each
set of open gates.

Bookkeeping in total pressure: room air is 0, each loss is a coefficient times the velocity pressure of a
named section. All gate sets of a source are solved together as one batch of arrays.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import pi

from purvel.airflow.air import AirState
from purvel.airflow.fittings import junction
from purvel.airflow.flows import GateSetFlow, HoodFlow, NetworkResult, SegmentFlow
from purvel.airflow.friction import factor_and_slope
from purvel.airflow.segments import Friction, Hood, Layout, Segment
from purvel.airflow.sources import SourceCurve
from purvel.libraries import Array, np

DISCHARGE_OF_LEAK = 0.61  # [-], sharp-edged gap round a shut gate [textbook]
THIN_AIR = 4000.0  # Pa: above this suction the density between hood and vac is taken at its mean
_TOLERANCE = 1e-8
_MOST_STEPS, _FREE_STEPS = 100, 12


class _Arrays:
    """A layout as arrays: S segments, H hoods, and for each junction leg the terms on the legs' and the
    combined velocity pressures.
    """

    def __init__(self, layout: Layout, sets: int, leak_area: float) -> None:
        segments = layout.segments
        self.has_hose = any(one.hose is not None for one in segments)
        self.count = len(segments)
        self.area = np.array([one.area for one in segments])
        self.diameter = np.array([one.diameter for one in segments])
        assumed = [[_frictions(one)[which] for one in segments] for which in range(3 if self.has_hose else 1)]
        rows = np.array([[(one.roughness, one.multiplier) for one in row] for row in assumed])
        # (B, S): the sets with hoses as they mostly are, then at their smooth and at their rough end
        self.relative_roughness = np.repeat(rows[..., 0] / self.diameter, sets, axis=0)
        lengths = np.array([one.length for one in segments])
        self.length = np.repeat(rows[..., 1] * lengths, sets, axis=0)
        self.fittings = np.array([sum(fitting.loss for fitting in one.fittings) for one in segments])
        self.hoods = np.array(layout.hoods, dtype=int)
        self.passes = np.zeros((self.count, len(self.hoods)))  # 1 where a segment carries a hood's flow
        for column, hood in enumerate(self.hoods):
            self.passes[list(layout.way(hood)), column] = 1.0
        self.entry = np.zeros(self.count)
        for index in self.hoods:
            hood_there = segments[index].hood
            assert hood_there is not None
            self.entry[index] = (
                hood_there.entry_loss * (segments[index].area / (pi / 4 * hood_there.diameter**2)) ** 2
            )
        self.shut = (self.area / (DISCHARGE_OF_LEAK * leak_area)) ** 2
        self.coupling = self._coupling(layout)

    def _coupling(self, layout: Layout) -> Array:
        """C[s, k]: how much of segment k's velocity pressure is lost in segment s at the junction at its
        downstream end.
        """
        coupling = np.zeros((self.count, self.count))
        for combined, legs in layout.joints().items():
            if not any(layout.segments[leg].is_branch for leg in legs):
                continue
            angles = [layout.segments[leg].angle if layout.segments[leg].is_branch else 0.0 for leg in legs]
            for leg, terms in zip(
                legs, junction([self.area[leg] for leg in legs], angles, self.area[combined])
            ):
                coupling[leg, combined] += terms.combined
                for other, term in zip(legs, terms.legs):
                    coupling[leg, other] += term
        return coupling


def solve(
    layout: Layout, gate_sets: Sequence[tuple[str, Sequence[str]]], air: AirState, leak_area: float
) -> NetworkResult:
    """The flows for each (id, open gates); gates not named are shut and leak through `leak_area` [m2].

    Unknowns are the hoods' flows; the equations say that along the path of every hood the losses sum to the
    source's pressure. Newton's method on all sets at once, steps held to a factor of four. Above 4 kPa of
    suction the air's mean density between hood and source is used.
    """
    curve = SourceCurve(layout.source)
    if not layout.hoods or not gate_sets:
        still = (_still(choice, gates, layout, curve, air) for choice, gates in gate_sets)
        return NetworkResult(layout, air, tuple(still))
    arrays = _Arrays(layout, len(gate_sets), leak_area)
    opened = [frozenset(gates) for _, gates in gate_sets]
    counted = [[sum(gate not in gates for gate in one.gates) for one in layout.segments] for gates in opened]
    shut_count = np.tile(np.array(counted, dtype=float), (3 if arrays.has_hose else 1, 1))
    solved = _solved(arrays, curve, shut_count, air)
    table = _table(layout, arrays, curve, shut_count, solved, air.viscosity)
    choices = [(choice, gates) for (choice, _), gates in zip(gate_sets, opened)]
    sets = tuple(_read(layout, curve, choices, solved, table))
    return NetworkResult(layout, air, sets, _ranges(solved.flows, len(sets)) if arrays.has_hose else ())


def _frictions(segment: Segment) -> tuple[Friction, Friction, Friction]:
    """As it mostly is, smooth, rough."""
    central = Friction(segment.roughness, segment.multiplier)
    return (central, *segment.hose) if segment.hose else (central,) * 3


def _ranges(flows: Array, sets: int) -> tuple[tuple[tuple[float, float], ...], ...]:
    """Least and most of each hood's flow in each set, from the rows with smooth and with rough hose."""
    ends = flows[sets:].reshape(2, sets, -1)
    low, high = ends.min(axis=0).tolist(), ends.max(axis=0).tolist()
    return tuple(tuple(zip(*pair)) for pair in zip(low, high))


def _solved(arrays: _Arrays, curve: SourceCurve, shut_count: Array, air: AirState) -> _Solved:
    """All sets under all assumptions of hose, in one batch."""
    rho = np.full(len(shut_count), air.density)
    solved = _newton(arrays, curve, shut_count, rho, air.viscosity, None)
    for _ in range(6):
        total = solved.flows.sum(axis=1)
        suction = curve.total_pressure(total, rho)[0] - curve.losses(total, rho).total
        thin = np.where(suction > THIN_AIR, air.density * (1.0 - 0.5 * suction / air.pressure), air.density)
        if np.allclose(thin, rho, rtol=1e-7):
            break
        rho = thin
        solved = _newton(arrays, curve, shut_count, rho, air.viscosity, solved.flows)
    return solved


@dataclass(frozen=True, slots=True, eq=False)
class _Solved:
    """Hood flows (B, H), friction factors (B, S), densities (B,) and what the energy along each hood's path
    still misses [Pa] (B, H).
    """

    flows: Array
    factor: Array
    rho: Array
    miss: Array


def _newton(
    arrays: _Arrays, curve: SourceCurve, shut_count: Array, rho: Array, mu: float, start: Array | None
) -> _Solved:
    fixed = arrays.fittings + arrays.entry + shut_count * arrays.shut
    flows = _first_guess(arrays, curve, fixed, rho) if start is None else start
    per_flow = arrays.passes / arrays.area[:, None]  # speed in each segment for a unit of flow at each hood
    pace, miss_before = np.ones(len(rho)), np.full(len(rho), np.inf)
    for step in range(_MOST_STEPS):
        speed = flows @ per_flow.T
        factor, slope_factor = factor_and_slope(
            rho[:, None] * speed * arrays.diameter / mu, arrays.relative_roughness
        )
        resistance = fixed + factor * arrays.length / arrays.diameter
        steepness = resistance + 0.5 * slope_factor * arrays.length / arrays.diameter
        vp = 0.5 * rho[:, None] * speed**2
        loss = resistance * vp + vp @ arrays.coupling.T
        total = flows.sum(axis=1)
        pressure, slope = curve.total_pressure(total, rho)
        rest = curve.losses(total, rho).total
        residual = loss @ arrays.passes + (rest - pressure)[:, None]
        scale = np.maximum(np.abs(pressure), 1.0)[:, None]
        if np.abs(residual / scale).max() < _TOLERANCE:
            break
        miss = np.abs(residual).max(axis=1)
        if step >= _FREE_STEPS:  # a set that goes to and fro about the edge of turbulence is slowed down
            pace = np.where(miss > miss_before, np.maximum(0.6 * pace, 0.1), pace)
        miss_before = miss
        momentum = rho[:, None] * speed
        change = (steepness * momentum)[:, :, None] * per_flow
        change += np.matmul(arrays.coupling, momentum[:, :, None] * per_flow)
        jacobian = np.matmul(arrays.passes.T, change) + (curve.loss_slope(total, rho) - slope)[:, None, None]
        try:
            shift = np.linalg.solve(jacobian, -residual[..., None])[..., 0]
        except np.linalg.LinAlgError:
            break  # the residual says that it was not solved
        flows = np.clip(flows + pace[:, None] * shift, 0.25 * flows, 4.0 * flows)
    return _Solved(flows, factor, rho, residual)


def _first_guess(arrays: _Arrays, curve: SourceCurve, fixed: Array, rho: Array) -> Array:
    """Flows as if each hood had its way to itself with a friction factor of 0.03, scaled down to what the
    source can move.
    """
    resistance = (fixed + 0.03 * arrays.length / arrays.diameter) / arrays.area**2
    along = np.maximum(resistance @ arrays.passes, 1e-3)
    flows = np.sqrt(2.0 * 0.6 * curve.shut_off / rho[:, None] / along)
    total = flows.sum(axis=1, keepdims=True)
    return np.asarray(flows * np.minimum(1.0, 0.6 * max(curve.free_flow, 1e-6) / total))


def _read(
    layout: Layout,
    curve: SourceCurve,
    choices: Sequence[tuple[str, frozenset[str]]],
    solved: _Solved,
    table: list[list[list[float]]],
) -> Iterator[GateSetFlow]:
    """The result of every set from its hood flows and the table of its segments."""
    total = solved.flows.sum(axis=1)
    pressure = curve.total_pressure(total, solved.rho)[0]
    rest = curve.losses(total, solved.rho)
    miss = np.abs(solved.miss).max(axis=1)
    ends = list(_ends(layout))
    for b, (choice, opened) in enumerate(choices):
        rho = float(solved.rho[b])
        yield GateSetFlow(
            id=choice,
            open_gates=tuple(sorted(opened)),
            density=rho,
            flow=float(total[b]),
            source_pressure=float(pressure[b]),
            separator_loss=float(rest.separator[b]),
            filter_loss=float(rest.filter[b]),
            discharge_loss=float(rest.discharge[b]),
            segments=tuple(SegmentFlow(*row) for row in table[b]),
            hoods=tuple(_hood(i, hood, gates <= opened, table[b][i][0], rho) for i, hood, gates in ends),
            imbalance=float(miss[b]),
            converged=bool(miss[b] < 1e-5 * max(abs(pressure[b]), 1.0)),
        )


def _table(
    layout: Layout, arrays: _Arrays, curve: SourceCurve, shut_count: Array, solved: _Solved, mu: float
) -> list[list[list[float]]]:
    """The figures of every segment in every set, in the order of SegmentFlow."""
    rho = solved.rho[:, None]
    flow = solved.flows @ arrays.passes.T
    speed = flow / arrays.area
    vp = 0.5 * rho * speed**2
    friction = solved.factor * arrays.length / arrays.diameter
    fittings = np.broadcast_to(arrays.fittings, flow.shape)
    shut = shut_count * arrays.shut
    at_junction = vp @ arrays.coupling.T
    loss = (friction + fittings + shut) * vp + at_junction
    total = solved.flows.sum(axis=1)
    at_inlet = curve.losses(total, solved.rho).total - curve.total_pressure(total, solved.rho)[0]
    below = np.empty_like(loss)  # total pressure at the downstream end of each segment
    for index, segment in enumerate(layout.segments):
        lower = segment.downstream
        below[:, index] = at_inlet if lower < 0 else below[:, lower] + loss[:, lower]
    junction_loss = np.divide(at_junction, vp, out=np.zeros_like(vp), where=vp > 0)
    reynolds = rho * speed * arrays.diameter / mu
    columns = (flow, speed, vp, reynolds, solved.factor, friction, fittings, shut, junction_loss, loss, below)
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


def _still(
    choice: str, gates: Sequence[str], layout: Layout, curve: SourceCurve, air: AirState
) -> GateSetFlow:
    """A system without a single hood: nothing flows, the source stands at shut-off."""
    none = SegmentFlow(0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, -curve.shut_off)
    pressure = curve.shut_off * air.density / layout.source.density
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
