"""Well-mixed zones that exchange air, solved exactly: near and far field, or a shop and the rooms beyond it
(AIHA, Mathematical Models for Estimating Occupational Exposure).
"""

from __future__ import annotations

from functools import lru_cache
from math import ceil, isqrt

from purvel.libraries import Array, np


def respond(
    removal: Array,
    exchanged: Array,
    volumes: Array,
    source: Array,
    start: Array,
    hours: Array,
    out: Array | None = None,
) -> tuple[Array, Array]:
    """Concentrations over a stretch with constant conditions: V dC/dt = V b - (V k + sum Q) C + Q C'.

    `removal` k (S, Z) [1/h] of each size in each zone, `exchanged` Q (Z, Z) [m3/h] between each two,
    symmetric; `volumes` V (Z,) [m3]; `source` b [mg/m3/h] and `start` [mg/m3] (S, M, Z) for M cases at once;
    `hours` (T,), from 0 in even steps. Returns concentrations (S, M, Z, T) [mg/m3], written to `out` where
    that is given, and their integral over all hours (S, M, Z) [mg h/m3].

    What goes one way comes back, so scaled by the roots of the volumes the system is symmetric: in its own
    directions every course is that of one zone, in closed form, however stiff.

    Two rooms of one volume that exchange it once an hour, all dust in one of them: after an hour half of 1 +
    e^-2 of it is there.

    >>> once, dust = np.array([[0.0, 1.0], [1.0, 0.0]]), np.array([[[1.0, 0.0]]])
    >>> states, _ = respond(np.zeros((1, 2)), once, np.ones(2), 0 * dust, dust, np.array([0.0, 1.0]))
    >>> round(float(states[0, 0, 0, -1]), 4)
    0.5677
    """
    sizes, zones = removal.shape
    rates, into, back = _directions(*(one.astype(float).tobytes() for one in (removal, exchanged, volumes)))
    goes = source @ into - rates[:, None] * (start @ into)  # C' at the beginning, by direction (S, M, Z)
    cases = start.shape[1]
    weights = np.empty((sizes, cases, zones, zones + 1))  # of each direction, and of what was there before
    np.multiply(goes[:, :, None], np.swapaxes(back, 1, 2)[:, None], out=weights[..., :zones])
    weights[..., zones] = start
    found = np.empty((sizes, cases, zones, len(hours))) if out is None else out
    np.matmul(weights, _risen(rates, hours)[:, None], out=found)
    lasts = float(hours[-1])
    return found, start * lasts + (goes * _risen_in_all(rates, lasts)[:, None]) @ back


def even(duration: float, step: float) -> Array:
    """Times (T,) from 0 to `duration` in even steps of at most `step`.

    >>> even(1.0, 0.4).round(2).tolist()
    [0.0, 0.33, 0.67, 1.0]
    """
    return np.linspace(0.0, duration, max(1, ceil(duration / step - 1e-9)) + 1)


@lru_cache(maxsize=512)  # the same conditions come again over a day
def _directions(removal: bytes, exchanged: bytes, volumes: bytes) -> tuple[Array, Array, Array]:
    """The rates (S, Z) of the system's own directions [1/h] for each size, and the matrices from zones to
    these and back (S, Z, Z).
    """
    v = np.frombuffer(volumes)
    zones, root = len(v), np.sqrt(v)
    lost, linked = np.frombuffer(removal).reshape(-1, zones), np.frombuffer(exchanged).reshape(zones, zones)
    matrix = np.zeros((len(lost), zones, zones)) - linked / np.outer(root, root)
    matrix[:, np.arange(zones), np.arange(zones)] += lost + linked.sum(axis=1) / v
    rates, ways = np.linalg.eigh(matrix)
    return np.maximum(rates, 0.0), root[:, None] * ways, np.swapaxes(ways, 1, 2) / root


def _risen(rates: Array, hours: Array) -> Array:
    """What a source of one an hour has brought by each hour at each rate, (1 - e^-kt) / k, and a one for what
    was there before (S, Z + 1, T).

    After t1 + t2 it is what it was after t1, and e^-k t1 of what came in t2 more: so the exponentials of two
    roots of the hours do for all.
    """
    block = isqrt(len(hours))
    few, many = _rise(rates, hours[:block]), _rise(rates, hours[::block])
    left = 1.0 - rates[..., None] * many
    sizes, zones, blocks = many.shape
    found = np.ones((sizes, zones + 1, blocks, block))
    risen = found[:, :zones]
    np.multiply(left[..., None], few[:, :, None], out=risen)
    risen += many[..., None]
    return found.reshape(sizes, zones + 1, -1)[..., : len(hours)]


def _rise(rates: Array, hours: Array) -> Array:
    """(1 - e^-kt) / k (S, Z, T), t where nothing is removed."""
    spent = rates[..., None] * hours
    share = np.divide(-np.expm1(-spent), spent, out=np.ones(spent.shape), where=spent > 0)
    return share * hours


def _risen_in_all(rates: Array, lasts: float) -> Array:
    """The integral of (1 - e^-kt) / k over `lasts` hours: (t - (1 - e^-kt) / k) / k, by its series where
    hardly anything is removed.
    """
    spent = rates * lasts
    slow = spent < 1e-4
    series = lasts**2 * (0.5 - spent / 6.0 + spent**2 / 24.0)
    whole = (lasts + np.expm1(-spent) / np.where(slow, 1.0, rates)) / np.where(slow, 1.0, rates)
    return np.where(slow, series, whole)
