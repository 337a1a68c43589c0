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

    One zone that is changed once an hour keeps e^-1 of what was in it after an hour:

    >>> _, states, _ = respond(np.array([[-1.0]]), np.zeros(1), np.ones(1), 1.0, 0.1)
    >>> round(float(states[-1, 0]), 4)
    0.3679
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

    As above, and what enters 2 mg/m3 in an hour that nothing leaves:

    >>> removal, source, start = np.array([[1.0, 0.0], [0.0, 2.0], [1.0, 0.0]])
    >>> _, states, _ = respond_apart(removal, source, start, 1.0, 0.1)
    >>> [round(float(one), 4) for one in states[-1]]
    [0.3679, 2.0]
    """
    count = max(1, ceil(duration / step - 1e-9))
    hours = np.linspace(0.0, duration, count + 1)
    spent = hours[:, None] * removal
    gone = np.expm1(-spent)
    # t (1 - e^-x) / x and t^2 (x - 1 + e^-x) / x^2, by their series where hardly anything is removed
    slow = removal * duration < 1e-4
    rate = np.where(slow, 1.0, removal)
    first = gone / -rate
    second = (hours[:, None] - first) / rate
    if slow.any():
        little, long = spent[:, slow], hours[:, None]
        first[:, slow] = long * (1 - little / 2 + little**2 / 6)
        second[:, slow] = long**2 * (0.5 - little / 6 + little**2 / 24)
    left = gone + 1.0
    if source.ndim > 1:
        left, first, second = left[:, None], first[:, None], second[:, None]
    return hours, start * left + source * first, start * first + source * second


def steady(matrix: Array, source: Array) -> Array:
    """The concentrations that a constant source leads to in the end [mg/m3]: -M^-1 b.

    Raises numpy.linalg.LinAlgError where nothing is removed.

    6 mg/m3 an hour against 3 changes of air:

    >>> float(steady(np.array([[-3.0]]), np.array([6.0]))[0])
    2.0
    """
    return np.asarray(np.linalg.solve(matrix, -source))


def two_zones(volumes: tuple[float, float], exchange: float, removal: tuple[float, float]) -> Array:
    """The matrix [1/h] of two zones of `volumes` [m3] that exchange `exchange` [m3/h] and lose `removal`
    [1/h] each.

    1 m3 at the tool and 59 m3 of room, 480 m3/h between them, 4 changes an hour in the room:

    >>> two_zones((1.0, 59.0), 480.0, (0.0, 4.0)).round(2).tolist()
    [[-480.0, 480.0], [8.14, -12.14]]
    """
    (v1, v2), (k1, k2) = volumes, removal
    return np.array([[-exchange / v1 - k1, exchange / v1], [exchange / v2, -exchange / v2 - k2]])
