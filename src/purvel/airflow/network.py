"""The duct network solved: flow in every segment, suction at every hood, the source's working point, for each set of open gates.

Bookkeeping in total pressure: room air is 0, each loss is a coefficient times the velocity pressure of a named section. All gate sets of a source are
solved together as one batch of arrays.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import pi

import numpy as np
import numpy.typing as npt

from purvel.airflow.air import AirState
from purvel.airflow.fittings import junction
from purvel.airflow.friction import friction_factor
from purvel.airflow.layout import Layout
from purvel.airflow.sources import SourceCurve

Array = npt.NDArray[np.float64]
Mask = npt.NDArray[np.bool_]

DISCHARGE_OF_LEAK = 0.61  # [-], sharp-edged gap round a shut gate [textbook]
THIN_AIR = 4000.0  # Pa: above this suction the density between hood and vac is taken at its mean
_TOLERANCE = 1e-8
_MOST_STEPS = 60


@dataclass(frozen=True, slots=True)
class SegmentFlow:
    """One segment in one gate set: flow [m3/s], speed [m/s], friction factor, friction coefficient f L/D, fittings, shut gate and junction
    coefficients on its own velocity pressure [-], and the loss of total pressure along it [Pa]."""

    flow: float
    speed: float
    velocity_pressure: float
    reynolds: float
    friction_factor: float
    friction: float
    fittings: float
    shut_gate: float
    junction: float
    loss: float
    total_pressure: float

    @property
    def static_pressure(self) -> float:
        """Static pressure at its downstream end [Pa], negative under suction."""
        return self.total_pressure - self.velocity_pressure


@dataclass(frozen=True, slots=True)
class HoodFlow:
    """One hood in one gate set: flow [m3/s], speed in the port [m/s], entry loss [Pa], static suction in the port [Pa], whether its gates are open."""

    thing: str
    port: str
    segment: int
    flow: float
    port_speed: float
    entry_loss: float
    static_suction: float
    is_open: bool


@dataclass(frozen=True, slots=True)
class GateSetFlow:
    """The whole system with one set of gates open. Pressures in Pa, flows in m3/s; `imbalance` is the worst energy error of any path [Pa]."""

    name: str
    open_gates: tuple[str, ...]
    density: float
    flow: float
    source_pressure: float
    separator_loss: float
    filter_loss: float
    discharge_loss: float
    segments: tuple[SegmentFlow, ...]
    hoods: tuple[HoodFlow, ...]
    imbalance: float
    converged: bool

    @property
    def duct_suction(self) -> float:
        """Total-pressure loss on the suction side, from the room to the source's inlet [Pa]."""
        return self.source_pressure - self.separator_loss - self.filter_loss - self.discharge_loss


@dataclass(frozen=True, slots=True)
class NetworkResult:
    """All gate sets of one source."""

    layout: Layout
    air: AirState
    sets: tuple[GateSetFlow, ...]


class _Arrays:
    """A layout as arrays: S segments, H hoods, and for each junction leg the terms on the legs' and the combined velocity pressures."""

    def __init__(self, layout: Layout, leak_area: float) -> None:
        segments = layout.segments
        self.count = len(segments)
        self.area = np.array([one.area for one in segments])
        self.diameter = np.array([one.diameter for one in segments])
        self.length = np.array([one.length * one.multiplier for one in segments])
        self.relative_roughness = np.array([one.roughness / one.diameter for one in segments])
        self.fittings = np.array([sum(fitting.loss for fitting in one.fittings) for one in segments])
        self.hoods = np.array(layout.hoods, dtype=int)
        self.passes = np.zeros((self.count, len(self.hoods)))  # 1 where a segment carries a hood's flow
        for column, hood in enumerate(self.hoods):
            self.passes[list(layout.way(hood)), column] = 1.0
        self.entry = np.zeros(self.count)
        for index in self.hoods:
            hood_there = segments[index].hood
            assert hood_there is not None
            self.entry[index] = hood_there.entry_loss * (segments[index].area / (pi / 4 * hood_there.diameter**2)) ** 2
        self.shut = (self.area / (DISCHARGE_OF_LEAK * leak_area)) ** 2
        self.coupling = self._coupling(layout)

    def _coupling(self, layout: Layout) -> Array:
        """C[s, k]: how much of segment k's velocity pressure is lost in segment s at the junction at its downstream end."""
        coupling = np.zeros((self.count, self.count))
        for combined in range(self.count):
            legs = layout.upstream(combined)
            if not any(layout.segments[leg].is_branch for leg in legs):
                continue
            angles = [layout.segments[leg].angle if layout.segments[leg].is_branch else 0.0 for leg in legs]
            for leg, terms in zip(legs, junction([self.area[leg] for leg in legs], angles, self.area[combined])):
                coupling[leg, combined] += terms.combined
                for other, term in zip(legs, terms.legs):
                    coupling[leg, other] += term
        return coupling


def solve(layout: Layout, gate_sets: Sequence[tuple[str, Sequence[str]]], air: AirState, leak_area: float) -> NetworkResult:
    """The flows for each (name, open gates); gates not named are shut and leak through `leak_area` [m2].

    Unknowns are the hoods' flows; the equations say that along the path of every hood the losses sum to the source's pressure. Newton's method on all
    sets at once, friction factors renewed at every step, steps held to a factor of four. Above 4 kPa of suction the air's mean density between hood
    and source is used.
    """
    arrays = _Arrays(layout, leak_area)
    curve = SourceCurve(layout.source)
    names = [name for name, _ in gate_sets]
    opened = [frozenset(gates) for _, gates in gate_sets]
    shut_count = np.array([[sum(gate not in gates for gate in one.gates) for one in layout.segments] for gates in opened], dtype=float)
    shut_count = shut_count.reshape(len(gate_sets), arrays.count)
    if not len(arrays.hoods) or not gate_sets:
        return NetworkResult(layout, air, tuple(_still(name, gates, layout, curve, air) for name, gates in gate_sets))
    rho = np.full(len(gate_sets), air.density)
    flows, factor, residual = _newton(arrays, curve, shut_count, rho, air.viscosity, None)
    for _ in range(6):
        total = flows.sum(axis=1)
        suction = curve.total_pressure(total, rho)[0] - curve.losses(total, rho).total
        thin = np.where(suction > THIN_AIR, air.density * (1.0 - 0.5 * suction / air.pressure), air.density)
        if np.allclose(thin, rho, rtol=1e-7):
            break
        rho = thin
        flows, factor, residual = _newton(arrays, curve, shut_count, rho, air.viscosity, flows)
    return NetworkResult(
        layout,
        air,
        tuple(
            _read(b, names[b], opened[b], layout, arrays, curve, flows, factor, shut_count, rho, residual, air.viscosity) for b in range(len(names))
        ),
    )


def _newton(arrays: _Arrays, curve: SourceCurve, shut_count: Array, rho: Array, mu: float, start: Array | None) -> tuple[Array, Array, Array]:
    """Hood flows (B, H), friction factors (B, S) and residuals relative to the source's pressure (B, H)."""
    fixed = arrays.fittings + arrays.entry + shut_count * arrays.shut
    flows = _first_guess(arrays, curve, fixed, rho) if start is None else start
    per_flow = arrays.passes / arrays.area[:, None]  # speed in each segment for a unit of flow at each hood
    regime: Mask | None = None
    for step in range(_MOST_STEPS):
        speed = flows @ per_flow.T
        reynolds = rho[:, None] * speed * arrays.diameter / mu
        if regime is None or step < 20:  # later the regime is held, so that a flow on the edge of turbulence cannot flutter
            regime = reynolds < 2300.0
        factor = friction_factor(np.where(regime, np.minimum(reynolds, 2299.0), np.maximum(reynolds, 2300.0)), arrays.relative_roughness)
        resistance = fixed + factor * arrays.length / arrays.diameter
        vp = 0.5 * rho[:, None] * speed**2
        loss = resistance * vp + vp @ arrays.coupling.T
        total = flows.sum(axis=1)
        pressure, slope = curve.total_pressure(total, rho)
        rest = curve.losses(total, rho).total
        residual = loss @ arrays.passes + (rest - pressure)[:, None]
        scale = np.maximum(np.abs(pressure), 1.0)[:, None]
        if np.abs(residual / scale).max() < _TOLERANCE:
            break
        momentum = rho[:, None] * speed
        change = (resistance * momentum)[:, :, None] * per_flow
        change += np.matmul(arrays.coupling, momentum[:, :, None] * per_flow)
        jacobian = np.matmul(arrays.passes.T, change) + (curve.loss_slope(total, rho) - slope)[:, None, None]
        shift = np.linalg.solve(jacobian, -residual[..., None])[..., 0]
        flows = np.clip(flows + shift, 0.25 * flows, 4.0 * flows)
    return flows, factor, residual / scale


def _first_guess(arrays: _Arrays, curve: SourceCurve, fixed: Array, rho: Array) -> Array:
    """Flows as if each hood had its way to itself with a friction factor of 0.03, scaled down to what the source can move."""
    resistance = (fixed + 0.03 * arrays.length / arrays.diameter) / arrays.area**2
    along = np.maximum(resistance @ arrays.passes, 1e-3)
    flows = np.sqrt(2.0 * 0.6 * curve.shut_off / rho[:, None] / along)
    total = flows.sum(axis=1, keepdims=True)
    return np.asarray(flows * np.minimum(1.0, 0.6 * max(curve.free_flow, 1e-6) / total))


def _read(
    b: int,
    name: str,
    opened: frozenset[str],
    layout: Layout,
    arrays: _Arrays,
    curve: SourceCurve,
    flows: Array,
    factor: Array,
    shut_count: Array,
    rho: Array,
    residual: Array,
    mu: float,
) -> GateSetFlow:
    flow = arrays.passes @ flows[b]
    speed = flow / arrays.area
    vp = 0.5 * rho[b] * speed**2
    friction = factor[b] * arrays.length / arrays.diameter
    shut = shut_count[b] * arrays.shut
    at_junction = arrays.coupling @ vp
    loss = (friction + arrays.fittings + shut) * vp + at_junction
    total = float(flows[b].sum())
    pressure = float(curve.total_pressure(np.array(total), rho[b])[0])
    rest = curve.losses(np.array(total), rho[b])
    below = np.zeros(arrays.count)  # total pressure at the downstream end of each segment
    for index, segment in enumerate(layout.segments):
        below[index] = -(pressure - float(rest.total)) if segment.downstream < 0 else below[segment.downstream] + loss[segment.downstream]
    segments = tuple(
        SegmentFlow(
            flow=float(flow[i]),
            speed=float(speed[i]),
            velocity_pressure=float(vp[i]),
            reynolds=float(rho[b] * speed[i] * arrays.diameter[i] / mu),
            friction_factor=float(factor[b, i]),
            friction=float(friction[i]),
            fittings=float(arrays.fittings[i]),
            shut_gate=float(shut[i]),
            junction=float(at_junction[i] / vp[i]) if vp[i] > 0 else 0.0,
            loss=float(loss[i]),
            total_pressure=float(below[i]),
        )
        for i in range(arrays.count)
    )
    return GateSetFlow(
        name=name,
        open_gates=tuple(sorted(opened)),
        density=float(rho[b]),
        flow=total,
        source_pressure=pressure,
        separator_loss=float(rest.separator),
        filter_loss=float(rest.filter),
        discharge_loss=float(rest.discharge),
        segments=segments,
        hoods=tuple(_hood(layout, index, segments[index], float(rho[b]), opened) for index in layout.hoods),
        imbalance=float(np.abs(residual[b]).max() * max(abs(pressure), 1.0)),
        converged=bool(np.abs(residual[b]).max() < 1e-5),
    )


def _hood(layout: Layout, index: int, there: SegmentFlow, rho: float, opened: frozenset[str]) -> HoodFlow:
    hood = layout.segments[index].hood
    assert hood is not None
    speed = there.flow / (pi / 4 * hood.diameter**2)
    vp = 0.5 * rho * speed**2
    on_the_way = [gate for i in layout.way(index) for gate in layout.segments[i].gates]
    return HoodFlow(
        hood.thing, hood.port, index, there.flow, speed, hood.entry_loss * vp, (1.0 + hood.entry_loss) * vp, all(g in opened for g in on_the_way)
    )


def _still(name: str, gates: Sequence[str], layout: Layout, curve: SourceCurve, air: AirState) -> GateSetFlow:
    """A system without a single hood: nothing flows, the source stands at shut-off."""
    none = SegmentFlow(0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, -curve.shut_off)
    pressure = curve.shut_off * air.density / layout.source.density
    return GateSetFlow(name, tuple(sorted(gates)), air.density, 0.0, pressure, 0.0, 0.0, 0.0, (none,) * len(layout.segments), (), 0.0, True)
