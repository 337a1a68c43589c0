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
from purvel.airflow.friction import factor_and_slope
from purvel.airflow.layout import Hood, Layout
from purvel.airflow.sources import SourceCurve
from purvel.libraries import Array, np

DISCHARGE_OF_LEAK = 0.61  # [-], sharp-edged gap round a shut gate [textbook]
THIN_AIR = 4000.0  # Pa: above this suction the density between hood and vac is taken at its mean
_TOLERANCE = 1e-8
_MOST_STEPS, _FREE_STEPS = 100, 12


@dataclass(frozen=True, slots=True)
class SegmentFlow:
    """One segment in one gate set: flow [m3/s], speed [m/s], friction factor, friction coefficient f L/D,
    fittings, shut gate and junction coefficients on its own velocity pressure [-], and the loss of total
    pressure along it [Pa].
    """

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
    def friction_loss(self) -> float:
        """What of the loss is friction [Pa]."""
        return self.friction * self.velocity_pressure

    @property
    def fittings_loss(self) -> float:
        """What of it is fittings, a shut gate among them [Pa]."""
        return (self.fittings + self.shut_gate) * self.velocity_pressure

    @property
    def junction_loss(self) -> float:
        """What of it is the joint that it flows into [Pa]; a gain is negative."""
        return self.junction * self.velocity_pressure

    @property
    def static_pressure(self) -> float:
        """Static pressure at its downstream end [Pa], negative under suction."""
        return self.total_pressure - self.velocity_pressure


@dataclass(frozen=True, slots=True)
class HoodFlow:
    """One hood in one gate set: flow [m3/s], speed in the port [m/s], entry loss [Pa], static suction in the
    port [Pa], whether its gates are open.
    """

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
    """The whole system with one set of gates open.

    Pressures in Pa, flows in m3/s; `imbalance` is the worst energy error of any path [Pa].
    """

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
    """A layout as arrays: S segments, H hoods, and for each junction leg the terms on the legs' and the
    combined velocity pressures.
    """

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
    """The flows for each (name, open gates); gates not named are shut and leak through `leak_area` [m2].

    Unknowns are the hoods' flows; the equations say that along the path of every hood the losses sum to the
    source's pressure. Newton's method on all sets at once, steps held to a factor of four. Above 4 kPa of
    suction the air's mean density between hood and source is used.
    """
    arrays = _Arrays(layout, leak_area)
    curve = SourceCurve(layout.source)
    names = [name for name, _ in gate_sets]
    opened = [frozenset(gates) for _, gates in gate_sets]
    shut_count = np.array(
        [[sum(gate not in gates for gate in one.gates) for one in layout.segments] for gates in opened],
        dtype=float,
    )
    shut_count = shut_count.reshape(len(gate_sets), arrays.count)
    if not len(arrays.hoods) or not gate_sets:
        return NetworkResult(
            layout, air, tuple(_still(name, gates, layout, curve, air) for name, gates in gate_sets)
        )
    rho = np.full(len(gate_sets), air.density)
    solved = _newton(arrays, curve, shut_count, rho, air.viscosity, None)
    for _ in range(6):
        total = solved.flows.sum(axis=1)
        suction = curve.total_pressure(total, rho)[0] - curve.losses(total, rho).total
        thin = np.where(suction > THIN_AIR, air.density * (1.0 - 0.5 * suction / air.pressure), air.density)
        if np.allclose(thin, rho, rtol=1e-7):
            break
        rho = thin
        solved = _newton(arrays, curve, shut_count, rho, air.viscosity, solved.flows)
    return NetworkResult(
        layout, air, tuple(_read(layout, arrays, curve, names, opened, shut_count, solved, air.viscosity))
    )


@dataclass(frozen=True, slots=True)
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
    arrays: _Arrays,
    curve: SourceCurve,
    names: Sequence[str],
    opened: Sequence[frozenset[str]],
    shut_count: Array,
    solved: _Solved,
    mu: float,
) -> Iterator[GateSetFlow]:
    """All figures of every set from its hood flows."""
    rho = solved.rho[:, None]
    flow = solved.flows @ arrays.passes.T
    speed = flow / arrays.area
    vp = 0.5 * rho * speed**2
    friction = solved.factor * arrays.length / arrays.diameter
    shut = shut_count * arrays.shut
    at_junction = vp @ arrays.coupling.T
    loss = (friction + arrays.fittings + shut) * vp + at_junction
    total = solved.flows.sum(axis=1)
    pressure = curve.total_pressure(total, solved.rho)[0]
    rest = curve.losses(total, solved.rho)
    below = np.empty_like(loss)  # total pressure at the downstream end of each segment
    for index, segment in enumerate(layout.segments):
        lower = segment.downstream
        below[:, index] = rest.total - pressure if lower < 0 else below[:, lower] + loss[:, lower]
    junction_loss = np.divide(at_junction, vp, out=np.zeros_like(vp), where=vp > 0)
    reynolds = rho * speed * arrays.diameter / mu
    columns = (
        flow,
        speed,
        vp,
        reynolds,
        solved.factor,
        friction,
        np.broadcast_to(arrays.fittings, flow.shape),
        shut,
        junction_loss,
        loss,
        below,
    )
    table = np.stack(columns, axis=-1).tolist()
    miss = np.abs(solved.miss).max(axis=1)
    ends = list(_ends(layout))
    for b, name in enumerate(names):
        yield GateSetFlow(
            name=name,
            open_gates=tuple(sorted(opened[b])),
            density=float(solved.rho[b]),
            flow=float(total[b]),
            source_pressure=float(pressure[b]),
            separator_loss=float(rest.separator[b]),
            filter_loss=float(rest.filter[b]),
            discharge_loss=float(rest.discharge[b]),
            segments=tuple(SegmentFlow(*row) for row in table[b]),
            hoods=tuple(
                _hood(index, hood, gates <= opened[b], table[b][index][0], float(solved.rho[b]))
                for index, hood, gates in ends
            ),
            imbalance=float(miss[b]),
            converged=bool(miss[b] < 1e-5 * max(abs(pressure[b]), 1.0)),
        )


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


def _still(name: str, gates: Sequence[str], layout: Layout, curve: SourceCurve, air: AirState) -> GateSetFlow:
    """A system without a single hood: nothing flows, the source stands at shut-off."""
    none = SegmentFlow(0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, -curve.shut_off)
    pressure = curve.shut_off * air.density / layout.source.density
    return GateSetFlow(
        name,
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
