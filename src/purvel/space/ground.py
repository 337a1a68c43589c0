"""The ground plan as arrays: what stands where and how high, the walls with their open openings.

Lanes and clearances read this.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import atan2, degrees
from typing import Literal

from purvel.libraries import Array, Mask, np, shapely
from purvel.once import once
from purvel.shop import Fixture, Opening, Slope, Thing
from purvel.space.shell import Shell, Side
from purvel.space.traverse import Point

Kind = Literal["wall", "thing", "fixture", "ceiling", "outside"]


def rectangles(placed: Sequence[tuple[float, float, float, float, float]]) -> Array:
    """Corners [m] of rectangles given as middle (x, y), angle [deg], width and depth, counter-clockwise from
    their own lower left; shape (n, 4, 2).
    """
    x, y, angle, width, depth = np.array(placed, dtype=float).reshape(-1, 5).T[..., None]
    c, s = np.cos(np.radians(angle)), np.sin(np.radians(angle))
    along, across = width / 2 * np.array([-1.0, 1.0, 1.0, -1.0]), depth / 2 * np.array([-1.0, -1.0, 1.0, 1.0])
    return np.stack([x + along * c - across * s, y + along * s + across * c], axis=-1)


def rectangle(x: float, y: float, angle: float, width: float, depth: float) -> Array:
    """The corners of one rectangle; shape (4, 2)."""
    corners: Array = rectangles([(x, y, angle, width, depth)])[0]
    return corners


@dataclass(frozen=True, slots=True)
class Footprint:
    """Where something stands on the floor [m, deg], whatever else it is: who asks only for that says the same
    again when anything else of it changes.
    """

    id: str
    x: float
    y: float
    angle: float
    width: float
    depth: float


Standing = Thing | Fixture | Footprint


def footprints(items: Sequence[Standing]) -> Array:
    """The corners of what stands there; shape (n, 4, 2)."""
    return rectangles([(one.x, one.y, one.angle, one.width, one.depth) for one in items])


def footprint(item: Thing | Fixture) -> Array:
    """The corners of one thing or fixture, not to be written to; shape (4, 2)."""
    return _corners(item.x, item.y, item.angle, item.width, item.depth)


@lru_cache(maxsize=4096)  # of all that stands there one thing moves at a time
def _corners(x: float, y: float, angle: float, width: float, depth: float) -> Array:
    corners = rectangle(x, y, angle, width, depth)
    corners.flags.writeable = False
    return corners


def boxes(items: Sequence[Standing]) -> Array:
    """Middle x, y [m], cosine and sine of the angle, half the width and half the depth [m]; shape (6, n)."""
    x, y, angle, width, depth = (
        np.array([(one.x, one.y, one.angle, one.width, one.depth) for one in items]).reshape(-1, 5).T
    )
    return np.stack([x, y, np.cos(np.radians(angle)), np.sin(np.radians(angle)), width / 2, depth / 2])


def distances(at_x: Array, at_y: Array, of_boxes: Array) -> Array:
    """How far points are from boxes (6, m) [m], 0 in them; x, y [m] and (m,) are broadcast together."""
    x, y, c, s, width, depth = of_boxes
    dx, dy = at_x - x, at_y - y
    across, along = np.abs(c * dx + s * dy) - width, np.abs(c * dy - s * dx) - depth
    return np.asarray(np.hypot(np.maximum(across, 0.0), np.maximum(along, 0.0)))


def near(shapes: Array, others: Array) -> Mask:
    """Of which shapes, corners (n, k, 2), the bounds meet those of which others, corners (m, l, 2) [m]; shape
    (n, m).
    """
    meets = (shapes.min(axis=1)[:, None] <= others.max(axis=1)).all(axis=-1)
    return np.asarray(meets & (shapes.max(axis=1)[:, None] >= others.min(axis=1)).all(axis=-1))


def standing_zones(things: Sequence[Thing]) -> Array:
    """The corners of the floor that the workers need, of things that somebody works at; shape (n, 4, 2)."""
    stands = [
        (*thing.spot(thing.stand.x, thing.stand.y), thing.angle, thing.stand.width, thing.stand.depth)
        for thing in things
        if thing.stand
    ]
    return rectangles(stands)


def standing_zone(thing: Thing) -> Array | None:
    """The corners of the floor that the worker needs; None for what nobody works at."""
    return None if thing.stand is None else standing_zones([thing])[0]


@dataclass(frozen=True, eq=False)
class Ground:
    """Everything that can block, as convex pieces of four corners (a wall is a piece without thickness).

    `pieces` has shape (n, 4, 2); `bottom` and `top` (n,) are heights above the floor; `names` tells what each
    piece is and its id.
    """

    pieces: Array
    bottom: Array
    top: Array
    names: tuple[tuple[Kind, str], ...]
    ceiling: float

    @once
    def rows(self) -> dict[tuple[Kind, str], list[int]]:
        """Which pieces each body has."""
        found = dict[tuple[Kind, str], list[int]]()
        for row, name in enumerate(self.names):
            found.setdefault(name, []).append(row)
        return found

    @once
    def bounds(self) -> tuple[Array, Array]:
        """The least and the greatest x and y of each piece (n, 2) [m]."""
        return self.pieces.min(axis=1), self.pieces.max(axis=1)


_EVERY_HEIGHT = (-1e3, 1e3)  # m: from far below to far above


def ground(shell: Shell, things: tuple[Thing, ...]) -> Ground:
    """The ground plan of a room and what is in it, with every opening closed; open ones are in the
    `door_pieces`.
    """
    pieces: list[Array] = []
    heights: list[tuple[float, float]] = []
    names: list[tuple[Kind, str]] = []

    def add(piece: Array, low_high: tuple[float, float], name: tuple[Kind, str]) -> None:
        pieces.append(piece)
        heights.append(low_high)
        names.append(name)

    for thing, piece in zip(things, footprints(things)):
        add(piece, (thing.z, thing.z + thing.height), ("thing", thing.id))
    for fixture in shell.room.fixtures:
        if fixture.is_body:
            add(footprint(fixture), (fixture.bottom, fixture.top), ("fixture", fixture.id))
    for piece, low_high, name in _of_shell(shell):
        add(piece, low_high, name)
    stacked = np.array(pieces, dtype=float).reshape(-1, 4, 2)
    limits = np.array(heights, dtype=float).reshape(-1, 2)
    return Ground(stacked, limits[:, 0], limits[:, 1], tuple(names), shell.room.ceiling.height)


@lru_cache(maxsize=32)  # the room stays while things are moved in it
def _of_shell(shell: Shell) -> list[tuple[Array, tuple[float, float], tuple[Kind, str]]]:
    """Walls, cut at their open openings, the far limit beyond each of those, and sloping ceilings."""
    found: list[tuple[Array, tuple[float, float], tuple[Kind, str]]] = []
    room, walls, inside = shell.room, shell.sides, shell.floor
    for side in walls.values():
        openings = sorted(
            (o for o in room.openings if o.wall == side.wall and o.is_open), key=lambda o: o.offset
        )
        reached = 0.0
        for opening in openings:
            near, far = (
                max(min(opening.offset, side.length), reached),
                min(opening.offset + opening.width, side.length),
            )
            if near > reached:
                found.append((_segment(side.at(reached), side.at(near)), _EVERY_HEIGHT, ("wall", side.wall)))
            if far > near:
                across = _segment(side.at(near), side.at(far))
                found.append((across, (_EVERY_HEIGHT[0], opening.sill), ("wall", side.wall)))
                found.append((across, (opening.head, _EVERY_HEIGHT[1]), ("wall", side.wall)))
                found.extend(
                    (piece, _EVERY_HEIGHT, ("outside", opening.id))
                    for piece in _far_limit(side, opening, inside)
                )
            reached = max(reached, far)
        if reached < side.length:
            found.append(
                (_segment(side.at(reached), side.at(side.length)), _EVERY_HEIGHT, ("wall", side.wall))
            )
    for slope in shell.slopes:
        found.extend(_slope_pieces(shell, slope))
    return found


def _segment(a: Point, b: Point) -> Array:
    return np.array([a, b, b, a], dtype=float)


def _far_limit(side: Side, opening: Opening, inside: shapely.Polygon) -> list[Array]:
    """The line outside at which the user says that long stock must stop, wide enough for slanting lanes,
    never back inside the room.
    """
    spread = 2.0 * opening.outside + 1.0
    line = shapely.LineString(
        [
            side.at(opening.offset - spread, opening.outside),
            side.at(opening.offset + opening.width + spread, opening.outside),
        ]
    )
    rest = shapely.difference(line, inside) if opening.outside > 0 else line
    parts = [part for part in shapely.get_parts(rest) if part.length > 1e-9]
    return [_segment(part.coords[0], part.coords[-1]) for part in parts]


_SLICES = 40  # in which a sloping ceiling comes down


def _slope_pieces(shell: Shell, slope: Slope) -> list[tuple[Array, tuple[float, float], tuple[Kind, str]]]:
    """A sloping ceiling as slices that hang as low as their low edge, so a height band meets it at its true
    distance within a slice.

    Lanes ask for one height; `Shell.under_slope` gives the exact distance, the slices serve bodies under the
    slope.
    """
    found: list[tuple[Array, tuple[float, float], tuple[Kind, str]]] = []
    side, rise = shell.sides[slope.wall], shell.room.ceiling.height - slope.low
    for k in range(_SLICES):
        near, far = slope.run * k / _SLICES, slope.run * (k + 1) / _SLICES
        ends = [(0.0, -near), (side.length, -near), (side.length, -far), (0.0, -far)]
        corners = np.array([side.at(*end) for end in ends])
        found.append((corners, (slope.low + rise * k / _SLICES, _EVERY_HEIGHT[1]), ("ceiling", side.wall)))
    return found


def heading(side: Side) -> float:
    """The direction of a wall on the plan [deg]."""
    return degrees(atan2(side.along[1], side.along[0]))
