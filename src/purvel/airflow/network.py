"""The duct network solved: flow in every segment, suction at every hood, the source's working point, for each
set of open gates.

Bookkeeping in total pressure: room air is 0, each loss is a coefficient times the velocity pressure of a
named section. All gate sets of a source are solved together as one batch of arrays. Flows are counted as air
of the room; in the line of a vac the air is thinner, and each segment has its own mean density.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from purvel.airflow.air import AirState
from purvel.airflow.arrays import Arrays
from purvel.airflow.flows import NetworkResult
from purvel.airflow.friction import factor_and_slope
from purvel.airflow.readout import Solved, read, still
from purvel.airflow.segments import Layout, Leaks
from purvel.airflow.sources import SourceCurve
from purvel.libraries import Array, np

_TOLERANCE = 1e-8  # of what drives a loop: less is balanced
_MOST_STEPS, _FREE_STEPS = 100, 12  # of the search for flows; those that are not slowed down
_THINNEST = 0.2  # of the room's density: a vac pulls a quarter of the pressure away at most
_THINNINGS = 30  # rounds in which flows and densities are found in turn


def solve(
    layout: Layout, gate_sets: Sequence[tuple[str, Sequence[str]]], air: AirState, leaks: Leaks
) -> NetworkResult:
    """The flows for each (id, open gates); gates not named are shut and leak.

    Unknowns are the flows at the hoods (and at leaking joints); the equations say that along the path of
    every one the losses sum to the source's pressure. Newton's method on all sets at once, steps held to a
    factor of four. In the line of a vac mass is conserved and each segment takes its own mean density, by
    substitution until it no longer changes.
    """
    curve = SourceCurve(layout.source)
    if not layout.hoods or not gate_sets:
        return NetworkResult(
            layout, air, tuple(still(one, gates, layout, curve, air) for one, gates in gate_sets)
        )
    opened = [frozenset(gates) for _, gates in gate_sets]
    arrays = Arrays(layout, opened, leaks)
    solved = _newton(arrays, curve, air, np.ones((len(arrays.shut_count), len(layout.segments) + 1)), None)
    if layout.source.kind == "vac":
        solved = _thinned(layout, arrays, curve, air, solved)
    choices = [(choice, gates) for (choice, _), gates in zip(gate_sets, opened)]
    return read(layout, arrays, curve, choices, solved, air)


@dataclass(frozen=True, slots=True, eq=False)
class _Step:
    """What the losses are at given flows: by segment [Pa] (B, S), along each way [Pa] (B, C), and their
    slopes.
    """

    factor: Array
    residual: Array
    scale: Array
    jacobian: Array


def _thinned(layout: Layout, arrays: Arrays, curve: SourceCurve, air: AirState, solved: Solved) -> Solved:
    """Solved again with the air as thin as the suction makes it, at constant temperature: volume goes with
    the room's pressure over the static pressure in the middle of each segment, and at the inlet.
    """
    for _ in range(_THINNINGS):
        at_ends = solved.pressures(layout, arrays, curve, air)
        thin = 1.0 / np.maximum(1.0 + at_ends / air.pressure, _THINNEST)
        if np.allclose(thin, solved.thin, rtol=1e-9):
            break
        solved = _newton(arrays, curve, air, thin, solved.flows)
    return solved


def _newton(arrays: Arrays, curve: SourceCurve, air: AirState, thin: Array, start: Array | None) -> Solved:
    flows = _first_guess(arrays, curve, air.density) if start is None else start
    pace, miss_before = np.ones(len(flows)), np.full(len(flows), np.inf)
    for step in range(_MOST_STEPS):
        at = _at(arrays, curve, air, thin, flows)
        if np.abs(at.residual / at.scale).max() < _TOLERANCE:
            break
        miss = np.abs(at.residual).max(axis=1)
        if step >= _FREE_STEPS:  # a set that goes to and fro about the edge of turbulence is slowed down
            pace = np.where(miss > miss_before, np.maximum(0.6 * pace, 0.1), pace)
        miss_before = miss
        try:
            shift = np.linalg.solve(at.jacobian, -at.residual[..., None])[..., 0]
        except np.linalg.LinAlgError:
            break  # the residual says that it was not solved
        flows = np.clip(flows + pace[:, None] * shift, 0.25 * flows, 4.0 * flows)
    return Solved(flows, at.factor, at.residual, thin)


def _at(arrays: Arrays, curve: SourceCurve, air: AirState, thin: Array, flows: Array) -> _Step:
    """Losses and their slopes at the given flows [m3/s of room air]. `thin` (B, S + 1) is how much more room
    the air takes in each segment, and last at the source's inlet.
    """
    rho, in_line, at_inlet = air.density, thin[:, :-1], thin[:, -1]
    per_flow = arrays.passes / arrays.area[:, None]  # speed in each segment for a unit of flow, not thinned
    speed = flows @ per_flow.T
    factor, slope_factor = factor_and_slope(
        rho * speed * arrays.diameter / air.viscosity, arrays.relative_roughness
    )
    fixed = arrays.fittings + arrays.shut_count * arrays.shut
    resistance = (fixed + factor * arrays.length / arrays.diameter) * in_line
    steepness = resistance + 0.5 * slope_factor * arrays.length / arrays.diameter * in_line
    vp, momentum = 0.5 * rho * speed**2, rho * speed
    loss = resistance * vp + (vp * in_line) @ arrays.coupling.T
    total = flows.sum(axis=1)
    pressure, slope = curve.total_pressure(total, np.full(len(total), rho), arrays.times)
    rest = curve.losses(total * at_inlet, rho / at_inlet).total
    rest_slope = curve.loss_slope(total * at_inlet, rho / at_inlet) * at_inlet
    own = rho * flows * arrays.entry
    residual = loss @ arrays.passes + 0.5 * own * flows + (rest - pressure)[:, None]
    change = (steepness * momentum)[:, :, None] * per_flow
    change += np.matmul(arrays.coupling, (momentum * in_line)[:, :, None] * per_flow)
    jacobian = np.matmul(arrays.passes.T, change) + (rest_slope - slope)[:, None, None]
    columns = np.arange(flows.shape[1])
    jacobian[:, columns, columns] += own
    if not arrays.flowing.all():  # what is sealed has no flow, and asks for none
        residual = np.where(arrays.flowing, residual, 0.0)
        jacobian *= arrays.flowing[:, :, None] & arrays.flowing[:, None, :]
        jacobian[:, columns, columns] += ~arrays.flowing
    return _Step(factor, residual, np.maximum(np.abs(pressure), 1.0)[:, None], jacobian)


def _first_guess(arrays: Arrays, curve: SourceCurve, rho: float) -> Array:
    """Flows as if each way in had its path to itself with a friction factor of 0.03, scaled down to what the
    source can move.
    """
    fixed = arrays.fittings + arrays.shut_count * arrays.shut
    resistance = (fixed + 0.03 * arrays.length / arrays.diameter) / arrays.area**2
    along = np.maximum(resistance @ arrays.passes + arrays.entry, 1e-3)
    flows = np.where(arrays.flowing, np.sqrt(2.0 * 0.6 * curve.shut_off / rho / along), 0.0)
    total = np.maximum(flows.sum(axis=1, keepdims=True), 1e-12)
    return np.asarray(flows * np.minimum(1.0, 0.6 * max(curve.free_flow, 1e-6) / total))
