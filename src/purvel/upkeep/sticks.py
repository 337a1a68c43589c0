"""Cutting sticks: the fewest sticks that give all pieces.

Pieces and a kerf between any two come to at most the stick. What fills best first gives a plan; where it uses
no more sticks than their sum asks for it is the best there is, else a mixed-integer program (HiGHS) looks for
a better one for a while.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil

from purvel.libraries import np

_SECONDS = 3.0  # that a better plan is looked for
_TOUCH = 1e-9  # m
_LARGEST = 12_000  # pieces times sticks: beyond that what fills best has to do


@dataclass(frozen=True, slots=True)
class StickPlan:
    """Pieces by stick, by their number; whether fewer sticks are proven not to do; and pieces too long
    for any.
    """

    sticks: tuple[tuple[int, ...], ...]
    is_proven: bool
    too_long: tuple[int, ...]


def cut_sticks(pieces: Sequence[float], stick: float, kerf: float) -> StickPlan:
    """The fewest sticks of one length [m] for pieces [m]."""
    too_long = tuple(k for k, piece in enumerate(pieces) if piece > stick + _TOUCH)
    rest = [k for k in range(len(pieces)) if k not in too_long]
    if not rest:
        return StickPlan((), True, too_long)
    plan = _decreasing(pieces, rest, stick, kerf)
    least = ceil(sum(pieces[k] + kerf for k in rest) / (stick + kerf) - 1e-9)
    if len(plan) > least:
        better, is_proven = _solved(pieces, rest, stick, kerf, len(plan), least)
        return StickPlan(better or plan, is_proven, too_long)
    return StickPlan(plan, True, too_long)


def _decreasing(
    pieces: Sequence[float], numbers: Sequence[int], stick: float, kerf: float
) -> tuple[tuple[int, ...], ...]:
    """Each piece, the longest first, to the stick with least left that takes it."""
    sticks: list[tuple[float, list[int]]] = []
    for k in sorted(numbers, key=lambda one: -pieces[one]):
        fits = [one for one in sticks if pieces[k] + kerf <= one[0] + _TOUCH]
        best = min(fits, key=lambda one: one[0], default=None)
        if best is None:
            sticks.append((stick - pieces[k], [k]))
        else:
            sticks[sticks.index(best)] = (best[0] - pieces[k] - kerf, [*best[1], k])
    return tuple(tuple(held) for _, held in sticks)


def _solved(
    pieces: Sequence[float], numbers: Sequence[int], stick: float, kerf: float, most: int, least: int
) -> tuple[tuple[tuple[int, ...], ...] | None, bool]:
    """Fewer sticks than `most` if there are, and whether the answer is proven."""
    from scipy.optimize import Bounds, LinearConstraint, milp

    n, m = len(numbers), most
    if n * m > _LARGEST:
        return None, False
    sizes = np.array([pieces[k] + kerf for k in numbers])
    cost = np.concatenate([np.zeros(n * m), np.ones(m)])
    rows = []
    lower: list[float] = []
    upper: list[float] = []
    for i in range(n):  # each piece on one stick
        row = np.zeros(n * m + m)
        row[i * m : (i + 1) * m] = 1.0
        rows.append(row)
        lower.append(1.0)
        upper.append(1.0)
    for j in range(m):  # no stick over its length
        row = np.zeros(n * m + m)
        row[j : n * m : m] = sizes
        row[n * m + j] = -(stick + kerf + _TOUCH)
        rows.append(row)
        lower.append(-np.inf)
        upper.append(0.0)
    for j in range(m - 1):  # sticks are used in order
        row = np.zeros(n * m + m)
        row[n * m + j], row[n * m + j + 1] = -1.0, 1.0
        rows.append(row)
        lower.append(-np.inf)
        upper.append(0.0)
    least_row = np.concatenate([np.zeros(n * m), np.ones(m)])
    rows.append(least_row)
    lower.append(float(least))
    upper.append(float(most))
    found = milp(
        cost,
        constraints=LinearConstraint(np.array(rows), lower, upper),
        integrality=np.ones(n * m + m),
        bounds=Bounds(0.0, 1.0),
        options={"time_limit": _SECONDS},
    )
    if found.x is None:
        return None, False
    chosen = np.round(found.x[: n * m]).reshape(n, m)
    sticks = tuple(tuple(numbers[i] for i in range(n) if chosen[i, j]) for j in range(m))
    return tuple(one for one in sticks if one), bool(found.status == 0)
