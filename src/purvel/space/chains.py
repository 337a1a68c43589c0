"""Dimension chains along the walls: the openings in one row, the whole wall in the next."""

from __future__ import annotations

from dataclasses import dataclass

from purvel.space.shell import Shell, Side
from purvel.space.traverse import Point

FIRST, STEP = 0.30, 0.28  # m outside the walls: the first row of figures, and from row to row
_SAME = 0.002  # m: marks so near are one


@dataclass(frozen=True, slots=True)
class Chain:
    """A row of figures outside a wall: where along it its marks are [m], how far outside it lies [m]."""

    side: Side
    off: float
    marks: tuple[float, ...]

    def at(self, mark: float) -> Point:
        """Where a mark is on the plan [m]."""
        return self.side.at(mark, self.off)


def chains(shell: Shell, first: float = FIRST, step: float = STEP) -> list[Chain]:
    """The chains of a closed room by wall, nearest first, the rows so far outside and apart [m]. No two lie
    on one another: each is outside its own wall, and rows of one wall are apart.
    """
    found = []
    for side in shell.sides.values():
        marks = [0.0, side.length]
        for opening in shell.room.openings:
            if opening.wall == side.wall:
                marks += [opening.offset, min(opening.offset + opening.width, side.length)]
        kept = list[float]()
        for mark in sorted(marks):
            if not kept or mark - kept[-1] > _SAME:
                kept.append(mark)
        rows = [tuple(kept)] if len(kept) > 2 else []
        rows.append((0.0, side.length))
        found += [Chain(side, first + k * step, row) for k, row in enumerate(rows)]
    return found
