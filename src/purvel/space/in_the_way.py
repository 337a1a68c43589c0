"""What a load may be over and what it may not touch: the room, the ground before a door, and what stands."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from purvel.libraries import Array, np, shapely
from purvel.shop import Opening, Thing
from purvel.space.ground import Ground, Kind
from purvel.space.loads import Load, Start
from purvel.space.shell import Shell
from purvel.space.traverse import Point

TOUCH = 1e-6  # m: closer than this is touching
_OFF_FRONT = 0.05  # m between a rack and what is taken from it
_SILL = 0.001  # m: walls have no thickness in the plan; a yard begins this far beyond them
_APPROACH = 0.30  # m more than its length, of the straight way to a door
_WIDE_YARD = 4.0  # m that a yard is wider than its door, on either side


@dataclass(frozen=True, slots=True, eq=False)
class Yard:
    """The floor that it may be over, the point and the headings it starts from [deg]; None: any heading."""

    floor: shapely.Geometry
    start: Point
    heading: float | None


def yard(shell: Shell, things: Sequence[Thing], start: Start, load: Load) -> Yard | None:
    """The room with the ground before an opening; None where there is no such start, or it does not pass at
    that height.
    """
    opening = next((one for one in shell.room.openings if one.id == start.item), None)
    if opening is None:
        thing = next((one for one in things if one.id == start.item), None)
        if thing is None or shell.floor.is_empty:
            return None
        return Yard(shell.floor, thing.spot(0.0, -thing.depth / 2 - load.across / 2 - _OFF_FRONT), None)
    side = shell.sides.get(opening.wall)
    if side is None or shell.floor.is_empty or not _passes(opening, load):
        return None
    deep = opening.outside if start.yard else load.length + _APPROACH
    near, far = opening.offset, opening.offset + opening.width

    def strip(low: float, high: float, spread: float = 0.0) -> shapely.Polygon:
        ends = (near - spread, far + spread)
        return shapely.Polygon(
            [side.at(ends[i], away) for i, away in ((0, low), (1, low), (1, high), (0, high))]
        )

    ground: list[shapely.Geometry] = [strip(-_SILL, deep)]
    if start.yard:
        ground.append(strip(_SILL, deep, _WIDE_YARD).difference(shell.floor))
    floor = shapely.union_all([shell.floor, *ground])
    heading = float(np.degrees(np.arctan2(side.out[1], side.out[0])))
    middle = side.at(opening.offset + opening.width / 2, deep / 2)
    kept = next((one for one in shapely.get_parts(floor) if one.covers(shapely.Point(middle))), floor)
    return Yard(kept, middle, None if start.yard else heading)


def _passes(opening: Opening, load: Load) -> bool:
    return opening.sill <= load.low + TOUCH and opening.head >= load.high - TOUCH


@dataclass(frozen=True, slots=True, eq=False)
class Bodies:
    """What it may not touch: convex pieces of four corners counter-clockwise (n, 4, 2), and their names."""

    pieces: Array
    names: tuple[tuple[Kind, str], ...]


def bodies_for(plan: Ground, ground: Yard, shell: Shell, load: Load, own: str) -> Bodies:
    """The edge of the floor, and what stands in the band of heights; not the rack that it is taken from."""
    in_band = (plan.bottom < load.high - TOUCH) & (plan.top > load.low + TOUCH)
    kept = [
        i
        for i in np.flatnonzero(in_band)
        if plan.names[i][0] not in ("wall", "outside") and plan.names[i] != ("thing", own)
    ]
    pieces = plan.pieces[kept]
    edges, names = [], []
    for ring in shapely.get_parts(shapely.boundary(ground.floor)):
        for a, b in pairwise(shapely.get_coordinates(ring).tolist()):
            edges.append([a, b, b, a])
            names.append(("wall", _wall_of(shell, a, b)))
    walls = np.array(edges, dtype=float).reshape(-1, 4, 2)
    everything = np.concatenate([pieces, walls])
    return Bodies(_counter_clockwise(everything), (*(plan.names[i] for i in kept), *names))  # type: ignore[arg-type]


def _wall_of(shell: Shell, a: Sequence[float], b: Sequence[float]) -> str:
    middle = shapely.Point((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    near = min(
        shell.sides.values(), key=lambda side: shapely.LineString([side.start, side.end]).distance(middle)
    )
    return near.wall


def _counter_clockwise(pieces: Array) -> Array:
    x, y = pieces[..., 0], pieces[..., 1]
    twice = (x * np.roll(y, -1, axis=1) - np.roll(x, -1, axis=1) * y).sum(axis=1)
    turned = np.where((twice < 0)[:, None, None], pieces[:, ::-1], pieces)
    return np.asarray(turned)
