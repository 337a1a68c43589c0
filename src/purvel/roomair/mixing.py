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


def respond_apart(
    removal: Array, source: Array, start: Array, duration: float, step: float
) -> tuple[Array, Array, Array]:
    """As `respond`, for zones that exchange nothing: `removal` (Z,) [1/h] of each; of `source` and `start`
    there may be several rows (M, Z), then concentrations and integrals are (T, M, Z). In closed form, C(t) =
    C0 e^-kt + b (1 - e^-kt) / k.
    """
    count = max(1, ceil(duration / step - 1e-9))
    hours = np.linspace(0.0, duration, count + 1)
    spent = hours[:, None] * removal
    left = np.exp(-spent)
    # (1 - e^-x) / x and its like of second order, by their series where x is small
    small = spent < 1e-4
    safe = np.where(small, 1.0, spent)
    first = np.where(small, 1 - spent / 2 + spent**2 / 6, -np.expm1(-safe) / safe)
    second = np.where(small, 0.5 - spent / 6 + spent**2 / 24, (1 - first) / safe)
    first, second = first * hours[:, None], second * hours[:, None] ** 2
    if source.ndim > 1:
        left, first, second = left[:, None], first[:, None], second[:, None]
    return hours, start * left + source * first, start * first + source * second


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
