"""Readings made to agree by least squares: each gives way by the square of its spread (adjustment by
conditions, as in surveying; Gauss 1828, Helmert 1907).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from purvel.libraries import Array, Indices, np
from purvel.once import once
from purvel.space.readings import AROUND, Geometry, Reading

_ROUNDS = 6  # geometry is not straight: about new values the conditions are looked at again
_DOUBT = 3.3  # standard deviations that one sum in a thousand is off by


@dataclass(frozen=True, eq=False)
class Adjusted:
    """Readings that agree. `values` (n,) are theirs; `conditions` are the numbers of those that were held."""

    geometry: Geometry
    spread: Array
    conditions: Indices
    values: Array
    chi2: float

    @once
    def corners(self) -> Array:
        """The corners of the room (walls, 2) [m]."""
        return self.geometry.corners(self.values)[:-1]


def adjusted(geometry: Geometry, spread: Array, conditions: Indices | None = None) -> Adjusted:
    """The readings of a walk made to agree. `chi2` is the sum of squares of what they gave way, each in
    its spreads: chi squared, of as many degrees as there are conditions.

    That the turns come once round is not asked where they cannot: no corner hangs on the last of them, and
    often it was not read.
    """
    if conditions is None:
        conditions = np.arange(len(geometry.missed(geometry.read)))
        if not turns_come_round(geometry, spread):
            conditions = conditions[conditions != AROUND]
    values, weights = geometry.read, spread**2
    held = values
    for _ in range(_ROUNDS):
        effects = geometry.effects(held)[conditions]
        missed = geometry.missed(held)[conditions] + effects @ (values - held)
        push = np.linalg.solve((effects * weights) @ effects.T, missed)
        after: Array = values - weights * (effects.T @ push)
        done, held = float(np.abs(after - held).max()) < 1e-9, after
        if done:
            break
    moved = held - values
    return Adjusted(geometry, spread, conditions, held, float((moved / spread) @ (moved / spread)))


def turns_come_round(geometry: Geometry, spread: Array) -> bool:
    """Whether the turns, as they were read, may come once round."""
    count = geometry.count
    turns = spread[count : 2 * count]
    return bool(abs(geometry.missed(geometry.read)[AROUND]) <= _DOUBT * np.sqrt(turns @ turns))


def spreads(readings: Sequence[Reading]) -> Array:
    """The spread of each (n,)."""
    return np.array([one.spread for one in readings])


def chi_squared(share: float, degrees: int) -> float:
    """What chi squared of so many degrees stays below with a probability of 0.99 or 0.997 (Wilson and
    Hilferty 1931; within 4 % of the tables; SciPy's would be loaded before the first findings).

    The tables say 13.93:

    >>> round(chi_squared(0.997, 3), 1)
    14.1
    """
    normal = {0.99: 2.3263, 0.997: 2.7478}[share]
    part = 2.0 / (9.0 * degrees)
    return float(degrees * (1.0 - part + normal * part**0.5) ** 3)
