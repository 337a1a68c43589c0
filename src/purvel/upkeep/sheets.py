"""Cutting sheets with straight cuts from edge to edge: a diagram with its cuts in order.

Pieces are laid into free rectangles; each piece laid takes one cut along and one across, in the order that
leaves the larger rest whole. Many orders of the pieces and rules for the cuts are tried and the plan with the
fewest sheets, then the largest offcut, is kept. It is proven where no fewer sheets have the area.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import ceil
from random import Random

from purvel.stopping import go_on

_TRIES = 60  # orders by chance, besides those by size
_TOUCH = 1e-9  # m


@dataclass(frozen=True, slots=True)
class Piece:
    """A piece to be cut: which part it is of, its length and width [m], whether its length runs along
    the sheet.
    """

    part: int
    length: float
    width: float
    along: bool


@dataclass(frozen=True, slots=True)
class Laid:
    """A piece on a sheet: the corner nearest to the sheet's origin, and its extent along and across [m]."""

    part: int
    x: float
    y: float
    length: float
    width: float


@dataclass(frozen=True, slots=True)
class Cut:
    """A straight cut through a rectangle of the sheet: from one point to another [m]."""

    x0: float
    y0: float
    x1: float
    y1: float


@dataclass(frozen=True, slots=True)
class SheetPlan:
    """One sheet: its pieces and its cuts in order."""

    laid: tuple[Laid, ...]
    cuts: tuple[Cut, ...]


@dataclass(frozen=True, slots=True)
class SheetsPlan:
    """All sheets, whether fewer are proven not to do, and pieces too large for any."""

    sheets: tuple[SheetPlan, ...]
    is_proven: bool
    too_large: tuple[int, ...]


@dataclass(frozen=True, slots=True)
class _Free:
    sheet: int
    x: float
    y: float
    length: float
    width: float


def cut_sheets(
    pieces: Sequence[Piece], length: float, width: float, kerf: float, trim: float = 0.0
) -> SheetsPlan:
    """A plan with few sheets of one size [m]; `trim` is taken off every edge first."""
    usable = (length - 2 * trim, width - 2 * trim)
    too_large = tuple(k for k, piece in enumerate(pieces) if not _fits(piece, *usable))
    rest = [piece for k, piece in enumerate(pieces) if k not in too_large]
    if not rest:
        return SheetsPlan((), True, too_large)
    taken = sum((p.length + kerf) * (p.width + kerf) for p in rest)
    least = max(1, ceil(taken / ((usable[0] + kerf) * (usable[1] + kerf)) - 1e-9))
    best: tuple[tuple[int, float], list[SheetPlan]] | None = None
    for order, lengthways in _orders(rest):
        go_on()
        plan = _lay(order, usable, kerf, trim, lengthways)
        score = (len(plan), -_largest_rest(plan[-1], usable))
        if best is None or score < best[0]:
            best = (score, plan)
            if len(plan) == least and len(rest) > 30:
                break
    assert best is not None
    return SheetsPlan(tuple(best[1]), len(best[1]) == least, too_large)


def _fits(piece: Piece, length: float, width: float) -> bool:
    straight = piece.length <= length + _TOUCH and piece.width <= width + _TOUCH
    turned = piece.width <= length + _TOUCH and piece.length <= width + _TOUCH
    return straight or (turned and not piece.along)


def _orders(pieces: Sequence[Piece]) -> Iterator[tuple[list[Piece], bool | None]]:
    keys = (
        lambda one: -one.length * one.width,
        lambda one: -max(one.length, one.width),
        lambda one: -one.width,
        lambda one: -(one.length + one.width),
    )
    for key in keys:
        for lengthways in (None, True, False):
            yield sorted(pieces, key=key), lengthways
    chance = Random(7)
    for number in range(_TRIES):
        shuffled = sorted(pieces, key=lambda one: -one.length * one.width * chance.uniform(0.6, 1.4))
        yield shuffled, (None, True, False)[number % 3]


def _lay(
    order: Sequence[Piece], usable: tuple[float, float], kerf: float, trim: float, lengthways: bool | None
) -> list[SheetPlan]:
    """Each piece into the free rectangle with least to spare; a new sheet where none takes it."""
    free: list[_Free] = []
    laid: list[list[Laid]] = []
    cuts: list[list[Cut]] = []
    for piece in order:
        place = _place(piece, free)
        if place is None:
            free.append(_Free(len(laid), trim, trim, *usable))
            laid.append([])
            cuts.append([])
            place = _place(piece, free[-1:])
            assert place is not None
        hole, (along, across) = place
        free.remove(hole)
        laid[hole.sheet].append(Laid(piece.part, hole.x, hole.y, along, across))
        for cut in _cuts(hole, along, across, kerf, lengthways, free):
            cuts[hole.sheet].append(cut)
    return [SheetPlan(tuple(one), tuple(other)) for one, other in zip(laid, cuts)]


def _place(piece: Piece, free: Sequence[_Free]) -> tuple[_Free, tuple[float, float]] | None:
    ways = [(piece.length, piece.width)] + ([] if piece.along else [(piece.width, piece.length)])
    options = [
        (min(hole.length - a, hole.width - b), hole, (a, b))
        for hole in free
        for a, b in ways
        if a <= hole.length + _TOUCH and b <= hole.width + _TOUCH
    ]
    if not options:
        return None
    _, hole, size = min(options, key=lambda option: option[0])
    return hole, size


def _cuts(
    hole: _Free, along: float, across: float, kerf: float, lengthways: bool | None, free: list[_Free]
) -> Iterator[Cut]:
    """The two cuts that free a piece in the corner of a rectangle; what they leave is free."""
    right, above = hole.length - along - kerf, hole.width - across - kerf
    first_along = right * hole.width < above * hole.length if lengthways is None else lengthways
    x, y = hole.x + along + kerf, hole.y + across + kerf
    up = Cut(hole.x + along, hole.y, hole.x + along, hole.y + (across if first_along else hole.width))
    over = Cut(hole.x, hole.y + across, hole.x + (hole.length if first_along else along), hole.y + across)
    has_right, has_above = hole.length - along > _TOUCH, hole.width - across > _TOUCH
    ordered = ((over, has_above), (up, has_right)) if first_along else ((up, has_right), (over, has_above))
    for cut, is_wanted in ordered:
        if is_wanted:
            yield cut
    if right > _TOUCH:
        free.append(_Free(hole.sheet, x, hole.y, right, across if first_along else hole.width))
    if above > _TOUCH:
        free.append(_Free(hole.sheet, hole.x, y, hole.length if first_along else along, above))


def _largest_rest(plan: SheetPlan, usable: tuple[float, float]) -> float:
    """The strip that is left whole beyond all pieces, along or across [m2]."""
    far = max(one.x + one.length for one in plan.laid)
    high = max(one.y + one.width for one in plan.laid)
    return max((usable[0] - far) * usable[1], (usable[1] - high) * usable[0], 0.0)
