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
    for any. `from_offcuts` are the pieces that are cut from each offcut.
    """

    sticks: tuple[tuple[int, ...], ...]
    is_proven: bool
    too_long: tuple[int, ...]
    from_offcuts: tuple[tuple[int, ...], ...] = ()


def cut_sticks(
    pieces: Sequence[float], stick: float, kerf: float, offcuts: Sequence[float] = ()
) -> StickPlan:
    """The fewest sticks of one length [m] for pieces [m]; what can be cut from `offcuts` [m] costs
    nothing.
    """
    too_long = tuple(k for k, piece in enumerate(pieces) if piece > stick + _TOUCH)
    rest = [k for k in range(len(pieces)) if k not in too_long]
    if not rest:
        return StickPlan((), True, too_long, ((),) * len(offcuts))
    used, plan = _decreasing(pieces, rest, stick, kerf, offcuts)
    free = sum(one + kerf for one in offcuts)
    least = max(0, ceil((sum(pieces[k] + kerf for k in rest) - free) / (stick + kerf) - 1e-9))
    if len(plan) > least:
        better, is_proven = _solved(pieces, rest, (stick, kerf, offcuts), len(plan), least)
        used, plan = better or (used, plan)
        return StickPlan(plan, is_proven, too_long, used)
    return StickPlan(plan, True, too_long, used)


Cut = tuple[tuple[int, ...], ...]


def _decreasing(
    pieces: Sequence[float], numbers: Sequence[int], stick: float, kerf: float, offcuts: Sequence[float]
) -> tuple[Cut, Cut]:
    """Each piece, the longest first, to what has least left that takes it: what comes from each offcut, and
    from each stick.
    """
    left = [one + kerf for one in offcuts]
    held: list[list[int]] = [[] for _ in offcuts]
    for k in sorted(numbers, key=lambda one: -pieces[one]):
        need = pieces[k] + kerf
        fits = [i for i, room in enumerate(left) if need <= room + _TOUCH]
        if fits:
            at = min(fits, key=lambda i: left[i])
        else:
            left.append(stick + kerf)
            held.append([])
            at = len(left) - 1
        left[at] -= need
        held[at].append(k)
    cut = tuple(tuple(one) for one in held)
    return cut[: len(offcuts)], cut[len(offcuts) :]


def _solved(
    pieces: Sequence[float],
    numbers: Sequence[int],
    stock: tuple[float, float, Sequence[float]],
    most: int,
    least: int,
) -> tuple[tuple[Cut, Cut] | None, bool]:
    """Fewer sticks than `most` if there are, of a `stock` of stick, kerf and offcuts; and whether the answer
    is proven.
    """
    from scipy.optimize import Bounds, LinearConstraint, milp

    stick, kerf, offcuts = stock
    n, free = len(numbers), len(offcuts)
    m = free + most
    if n * m > _LARGEST:
        return None, False
    sizes = np.array([pieces[k] + kerf for k in numbers])
    room = np.array([*(one + kerf for one in offcuts), *([stick + kerf] * most)])
    cost = np.concatenate([np.zeros(n * m + free), np.ones(most)])
    rows = np.zeros((n + m + most, n * m + m))
    lower, upper = np.full(len(rows), -np.inf), np.zeros(len(rows))
    for i in range(n):  # each piece comes from somewhere
        rows[i, i * m : (i + 1) * m] = 1.0
        lower[i] = upper[i] = 1.0
    for j in range(m):  # nothing over its length
        rows[n + j, j : n * m : m] = sizes
        rows[n + j, n * m + j] = -(room[j] + _TOUCH)
    for j in range(most - 1):  # sticks are used in order
        rows[n + m + j, n * m + free + j], rows[n + m + j, n * m + free + j + 1] = -1.0, 1.0
    rows[-1, n * m + free :] = 1.0
    lower[-1], upper[-1] = float(least), float(most)
    found = milp(
        cost,
        constraints=LinearConstraint(rows, lower, upper),
        integrality=np.ones(n * m + m),
        bounds=Bounds(0.0, 1.0),
        options={"time_limit": _SECONDS},
    )
    if found.x is None:
        return None, False
    chosen = np.round(found.x[: n * m]).reshape(n, m)
    cut = [tuple(numbers[i] for i in range(n) if chosen[i, j]) for j in range(m)]
    return (tuple(cut[:free]), tuple(one for one in cut[free:] if one)), bool(found.status == 0)
