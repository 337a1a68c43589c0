"""Well-mixed zones that exchange air, solved exactly: dC/dt = M C + b with constant M and b.

One room is one zone; near and far field, or a shop and the room next door, are two (AIHA, Mathematical Models
for Estimating Occupational Exposure).
"""

from __future__ import annotations

from math import ceil

from purvel.libraries import Array, np


def respond(
    matrix: Array, source: Array, start: Array, duration: float, step: float
) -> tuple[Array, Array, Array]:
    """Concentrations over a stretch with constant conditions.

    `matrix` (Z, Z) [1/h], `source` (Z,) [mg/m3/h], `start` (Z,) [mg/m3], `duration` and the longest `step`
    [h]. Returns times (T,) from 0 to duration, concentrations (T, Z) and their integral from 0 (T, Z) [mg
    h/m3]. Exact: powers of one matrix exponential, made by doubling, so it also holds where nothing is
    removed and M is singular.
    """
    from scipy.linalg import expm  # slow to load: not before the first day

    zones = len(start)
    count = max(1, ceil(duration / step - 1e-9))
    system = np.zeros((2 * zones + 1, 2 * zones + 1))
    system[:zones, :zones] = matrix
    system[:zones, -1] = source
    system[zones : 2 * zones, :zones] = np.eye(zones)
    forward = expm(system * (duration / count)).T
    states = np.concatenate([start, np.zeros(zones), [1.0]])[None, :]
    while len(states) <= count:
        states = np.concatenate([states, states @ forward])
        forward = forward @ forward
    states = states[: count + 1]
    return np.linspace(0.0, duration, count + 1), states[:, :zones], states[:, zones : 2 * zones]


def steady(matrix: Array, source: Array) -> Array:
    """The concentrations that a constant source leads to in the end [mg/m3]: -M^-1 b.

    Raises numpy.linalg.LinAlgError where nothing is removed.
    """
    return np.asarray(np.linalg.solve(matrix, -source))


def two_zones(volumes: tuple[float, float], exchange: float, removal: tuple[float, float]) -> Array:
    """The matrix [1/h] of two zones of `volumes` [m3] that exchange `exchange` [m3/h] and lose `removal`
    [1/h] each.
    """
    (v1, v2), (k1, k2) = volumes, removal
    return np.array([[-exchange / v1 - k1, exchange / v1], [exchange / v2, -exchange / v2 - k2]])
