"""The duct network solved: flow in every segment, suction at every hood, the source's working point, for each
set of open gates.

Bookkeeping in total pressure: room air is 0, each loss is a coefficient times the velocity pressure of a
named section. All gate sets of a source are solved together as one batch of arrays. Flows are counted as air
of the room; in the line of a vac the air is thinner, and each segment has its own mean density.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from purvel.airflow.air import AirState
from purvel.airflow.arrays import Arrays
from purvel.airflow.at_sources import AtSources
from purvel.airflow.elimination import MOST_DENSE, Slopes
from purvel.airflow.elimination import step as step_through
from purvel.airflow.flows import NetworkResult
from purvel.airflow.friction import factor_and_slope
from purvel.airflow.readout import Solved, read, still
from purvel.airflow.segments import Layout, Leaks
from purvel.libraries import Array, np

_TOLERANCE = 1e-8  # of what drives a loop: less is balanced
_MOST_STEPS, _FREE_STEPS = 150, 12  # of the search for flows; those that are not slowed down
_FORWARD_STEPS = 50  # in which no air is let out of a hood
_THINNEST = 0.2  # of the room's density: a vac pulls a quarter of the pressure away at most
_THINNINGS = 30  # rounds in which flows and densities are found in turn


def solve(
    layout: Layout,
    gate_sets: Sequence[tuple[str, Sequence[str]]],
    air: AirState,
    leaks: Leaks,
    part: Sequence[Mapping[str, float]] = (),
) -> NetworkResult:
    """The flows for each (id, open gates); gates not named are shut and leak. `part` says of each set how far
    gates are drawn out that are open in part, as a share of the diameter.

    Unknowns are the flows at the hoods, at leaking joints, and out through every source but the first; the
    equations say that along the path of every one the losses sum to what pulls there. Newton's method on all
    sets at once, steps held to a factor of four. In the line of a vac mass is conserved and each segment
    takes its own mean density, by substitution until it no longer changes.
    """
    if not layout.hoods or not gate_sets:
        return NetworkResult(layout, air, tuple(still(one, gates, layout, air) for one, gates in gate_sets))
    sources = AtSources(layout)
    opened = [frozenset(gates) for _, gates in gate_sets]
    arrays = Arrays(layout, opened, leaks, part)
    solved = solve_arrays(layout, arrays, sources, air)
    choices = [
        (choice, gates, drawn)
        for (choice, _), gates, drawn in zip(gate_sets, opened, part or [{}] * len(gate_sets))
    ]
    return read(layout, arrays, sources, choices, solved, air)


def solve_arrays(layout: Layout, arrays: Arrays, sources: AtSources, air: AirState) -> Solved:
    """The flows of every row; `layout` says how the segments hang together."""
    unthinned = np.ones((len(arrays.at_gates), len(layout.segments) + len(sources.curves)))
    solved = _newton(arrays, sources, air, unthinned, None)
    return _thinned(layout, arrays, sources, air, solved) if sources.thins else solved


@dataclass(frozen=True, slots=True, eq=False)
class _Step:
    """What the losses are at given flows: friction factors by segment (B, S), the miss along each way [Pa]
    (B, C), how large it could be, and the slopes.
    """

    factor: Array
    residual: Array
    scale: Array
    slopes: Slopes


def _thinned(layout: Layout, arrays: Arrays, sources: AtSources, air: AirState, solved: Solved) -> Solved:
    """Solved again with the air as thin as the suction makes it, at constant temperature: volume goes with
    the room's pressure over the static pressure in the middle of each segment, and at the inlets.
    """
    for _ in range(_THINNINGS):
        at_ends = solved.pressures(layout, arrays, sources, air)
        thin = 1.0 / np.maximum(1.0 + at_ends / air.pressure, _THINNEST)
        if np.allclose(thin, solved.thin, rtol=1e-9):
            break
        solved = _newton(arrays, sources, air, thin, solved.flows)
    return solved


def _newton(arrays: Arrays, sources: AtSources, air: AirState, thin: Array, start: Array | None) -> Solved:
    flows = _first_guess(arrays, sources, air.density) if start is None else start
    pace, miss_before = np.ones(len(flows)), np.full(len(flows), np.inf)
    for step in range(_MOST_STEPS):
        at = _at(arrays, sources, air, thin, flows)
        if np.abs(at.residual / at.scale).max() < _TOLERANCE:
            break
        miss = np.abs(at.residual).max(axis=1)
        if step >= _FREE_STEPS:  # a set that goes to and fro about the edge of turbulence is slowed down
            pace = np.where(miss > miss_before, np.maximum(0.6 * pace, 0.05), np.minimum(1.1 * pace, 1.0))
        miss_before = miss
        shift = _shift(arrays, at)
        flows = _shifted(flows, pace[:, None] * shift, sources, may_turn=step >= _FORWARD_STEPS)
    return Solved(flows, at.factor, at.residual, thin)


def _shift(arrays: Arrays, at: _Step) -> Array:
    """Newton's step, by whichever way is quicker."""
    rows, ways = at.residual.shape
    if rows * ways**2 > MOST_DENSE:
        return step_through(arrays.nodes, at.slopes)
    return _by_matrix(arrays, at.slopes)


def _by_matrix(arrays: Arrays, at: Slopes) -> Array:
    """The step by the matrix of all ways; where one hardly has a flow any more its equation is held from
    losing all hold.
    """
    change = at.segment[:, :, None] * arrays.passes
    change += np.matmul(at.coupling, at.at_joint[:, :, None] * arrays.passes)
    both_ways = at.sign[:, None] * at.sign
    jacobian = np.matmul(arrays.passes.T, change) + at.source[:, None, None] * both_ways
    columns = np.arange(jacobian.shape[1])
    jacobian[:, columns, columns] += at.entry
    if not at.flowing.all():  # what is sealed has no flow, and asks for none
        jacobian *= at.flowing[:, :, None] & at.flowing[:, None, :]
        jacobian[:, columns, columns] += ~at.flowing
    try:
        return np.asarray(np.linalg.solve(jacobian, -at.miss[..., None])[..., 0])
    except np.linalg.LinAlgError:
        jacobian[:, columns, columns] += 1e-6 * np.abs(jacobian).max(axis=(1, 2))[:, None] + 1e-9
        return np.asarray(np.linalg.solve(jacobian, -at.miss[..., None])[..., 0])


def _shifted(flows: Array, shift: Array, sources: AtSources, *, may_turn: bool) -> Array:
    """The flows a step on: what comes in by at most a factor of four, what goes out through another source by
    a share of what that can move, either way; and so what comes in where it `may_turn`, for the air of one
    leg may drag air out of another.
    """
    ins = flows.shape[1] - sources.others
    most = [0.3 * max(curve.free_flow, 1e-6) for curve in sources.curves[1:]]
    was, by = flows[:, :ins], shift[:, :ins]
    free = 0.05 * sources.free_flow
    either_way = was + np.clip(by, -free, free)
    come = either_way if may_turn else np.where(was > 0, np.clip(was + by, 0.25 * was, 4.0 * was), either_way)
    return np.concatenate([come, flows[:, ins:] + np.clip(shift[:, ins:], np.negative(most), most)], axis=1)


def _at(arrays: Arrays, sources: AtSources, air: AirState, thin: Array, flows: Array) -> _Step:
    """Losses and their slopes at the given flows [m3/s of room air]. `thin` (B, S + sources) is how much more
    room the air takes in each segment, and last at the inlets.
    """
    rho, in_line = air.density, thin[:, : len(arrays.passes)]
    speed = (flows @ arrays.passes.T) / arrays.area
    factor, slope_factor = factor_and_slope(
        rho * np.abs(speed) * arrays.diameter / air.viscosity, arrays.relative_roughness
    )
    resistance = (arrays.fittings + arrays.at_gates + factor * arrays.length / arrays.diameter) * in_line
    steepness = resistance + 0.5 * slope_factor * arrays.length / arrays.diameter * in_line
    momentum = rho * np.abs(speed)
    vp = 0.5 * momentum * speed
    towards = speed > 0  # at a joint counts what flows towards the source
    loss = resistance * vp + arrays.at_joints(vp * in_line * towards)
    first, *others = sources.at(flows, arrays, air, thin)
    own = rho * np.abs(flows) * arrays.entry
    residual = loss @ arrays.passes + 0.5 * own * flows + first.at_inlet[:, None] * arrays.sign
    for column, other in enumerate(others, len(arrays.sign) - len(others)):
        residual[:, column] += other.at_inlet
        own[:, column] += other.slope
    residual = np.where(arrays.flowing, residual, 0.0)
    slopes = Slopes(
        steepness * momentum / arrays.area,
        momentum * in_line * towards / arrays.area,
        own,
        residual,
        first.slope,
        arrays.coupling,
        arrays.sign,
        arrays.flowing,
    )
    return _Step(factor, residual, np.maximum(np.abs(first.pressure), 1.0)[:, None], slopes)


def _first_guess(arrays: Arrays, sources: AtSources, rho: float) -> Array:
    """Flows as if each way in had its path to itself with a friction factor of 0.03, scaled down to what the
    sources can move, each in proportion.
    """
    fixed = arrays.fittings + arrays.at_gates
    resistance = (fixed + 0.03 * arrays.length / arrays.diameter) / arrays.area**2
    along = np.maximum(resistance @ np.maximum(arrays.passes, 0.0) + arrays.entry, 1e-3)
    flows = np.where(arrays.flowing, np.sqrt(2.0 * 0.6 * sources.shut_off / rho / along), 0.0)
    ins = flows.shape[1] - sources.others
    total = np.maximum(flows[:, :ins].sum(axis=1, keepdims=True), 1e-12)
    flows[:, :ins] *= np.minimum(1.0, 0.6 * sources.free_flow / total)
    total = flows[:, :ins].sum(axis=1)
    for column, curve in enumerate(sources.curves[1:], ins):
        share = max(curve.free_flow, 1e-6) / sources.free_flow
        flows[:, column] = np.where(arrays.flowing[:, column], share * total, 0.0)
    return np.asarray(flows)
