"""What alone cuts places off from the way in, looked for on a grid of the floor."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from math import hypot

from purvel.libraries import Array, Indices, Mask, np, shapely
from purvel.once import once
from purvel.space.ground import Footprint, boxes, distances
from purvel.space.traverse import Point

_CELL = 0.05  # m
_KEPT = 1000  # blockers whose part of the grid is remembered
_CELLS = 100_000  # about as many at the most: in a hall the grid is coarser
_ALL = [[True] * 3] * 3  # a point is connected with the eight around it

_Window = tuple[slice, slice]  # rows and columns of the grid


@dataclass(frozen=True, eq=False)
class Squeezed:
    """The floor on which the middle of a disc `width` [m] across may be, by the `lines` of the room alone; it
    comes in through the middle of one of the `gaps` (n, 2, 2) [m].
    """

    floor: shapely.Polygon
    gaps: Array
    lines: shapely.MultiLineString
    width: float
    _kept_off: dict[tuple[float, ...], tuple[_Window, Mask]] = field(default_factory=dict)

    @once
    def grid(self) -> tuple[Array, Array, Mask, float]:
        """The grid's x (n,) and y (m,) [m], which of its points (m, n) are on that floor, and its step."""
        x0, y0, x1, y1 = self.floor.bounds
        cell = max(_CELL, float(np.sqrt((x1 - x0) * (y1 - y0) / _CELLS)))
        x, y = np.arange(x0, x1 + cell, cell), np.arange(y0, y1 + cell, cell)
        left = self.floor.buffer(cell).difference(self.lines.buffer(self.radius(cell)))
        shapely.prepare(left)
        return x, y, np.asarray(shapely.contains_xy(left, *np.meshgrid(x, y))), cell

    def kept_off(self, item: Footprint) -> tuple[_Window, Mask]:
        """The part of the grid around a blocker, a cell more than it reaches, and which of its points it
        keeps the disc's middle off. Remembered: of all that blocks, one thing moves at a time.
        """
        pose = (item.x, item.y, item.angle, item.width, item.depth)
        known = self._kept_off.get(pose)
        if known is None:
            x, y, _, cell = self.grid
            radius = self.radius(cell)
            reach = radius + hypot(item.width, item.depth) / 2 + 2 * cell
            window = _window(x, y, (item.x, item.y), reach)
            known = window, distances(x[window[1]], y[window[0], None], boxes([item])) < radius
            if len(self._kept_off) >= _KEPT:
                self._kept_off.clear()
            self._kept_off[pose] = known
        return known

    def radius(self, cell: float) -> float:
        """The disc's radius [m], less by how far the middle of a gap may lie off the grid."""
        return self.width / 2 - cell / 2

    @once
    def starts(self) -> Indices:
        """The points of the grid, row and column (n, 2), nearest to the middles of the gaps."""
        x, y, free, _ = self.grid
        rows, columns = np.nonzero(free)
        if not len(rows):
            return np.empty((0, 2), dtype=int)
        away = [np.hypot(x[columns] - mx, y[rows] - my) for mx, my in self.gaps.mean(axis=1)]
        near = [int(one.argmin()) for one in away if one.min() < self.width / 2]
        return np.stack([rows[near], columns[near]], axis=1)


def without_which(
    goals: Mapping[str, Point], blockers: Sequence[Footprint], room: Squeezed
) -> dict[str, str]:
    """For each goal that is cut off the one blocker without which a disc would roll to where it covers it, if
    there is one; of several the one that cuts off most.
    """
    from scipy import ndimage  # slow to load: not before something is cut off

    x, y, free, _ = room.grid
    windows = [room.kept_off(item) for item in blockers]
    times = np.zeros(free.shape, dtype=np.int16)  # how many keep a point from being the disc's middle
    keeper = np.zeros(free.shape, dtype=np.int32)  # the last of them; of one that is the only one
    for number, (window, near) in enumerate(windows):
        times[window] += near
        keeper[window][near] = number
    parts, count = ndimage.label(free & (times == 0), structure=_ALL)
    freeable = free & (times == 1)
    begun = np.zeros(free.shape, dtype=bool)
    begun[room.starts[:, 0], room.starts[:, 1]] = True
    rolled = np.zeros(count + 1, dtype=bool)
    rolled[parts[begun]] = True
    rolled[0] = False
    covered = np.array([_covering(parts, count, x, y, spot, room.width / 2) for spot in goals.values()])
    left = np.flatnonzero(~(covered & rolled).any(axis=1))
    if not len(left):
        return {}
    names, spots, covered = [[*goals][k] for k in left], np.array([*goals.values()])[left], covered[left]
    from_here = np.unique(keeper[freeable & (_grown(rolled[parts]) | begun)])
    to_there = set(np.unique(keeper[freeable & _grown(np.asarray(covered.any(axis=0))[parts])]).tolist())
    freed = dict[str, set[str]]()
    for number in from_here.tolist():
        item, (window, near) = blockers[number], windows[number]
        if not (number in to_there or _reaches(item, spots, room.width)):
            continue
        opened = near & freeable[window]
        now, here = _opened(parts[window], opened, begun[window], rolled)
        if not here.any():
            continue  # it ends nobody's way
        rows, columns = np.nonzero(here)
        away = np.hypot(x[window[1]][columns] - spots[:, :1], y[window[0]][rows] - spots[:, 1:]).min(axis=1)
        reached = (covered & now).any(axis=1) | (away <= room.width / 2)
        freed[item.id] = {names[k] for k in np.flatnonzero(reached)} - {item.id}
    most = sorted(freed, key=lambda one: -len(freed[one]))
    return {name: next(one for one in most if name in freed[one]) for name in set().union(*freed.values())}


def _grown(points: Mask) -> Mask:
    """Points of a grid (m, n) and the eight around each."""
    wide = points.copy()
    wide[:, 1:] |= points[:, :-1]
    wide[:, :-1] |= points[:, 1:]
    high = wide.copy()
    high[1:] |= wide[:-1]
    high[:-1] |= wide[1:]
    return high


def _reaches(item: Footprint, spots: Array, width: float) -> bool:
    """Whether a disc that is `width` [m] across and held up by an item alone may cover one of the spots."""
    reach = width + hypot(item.width, item.depth) / 2
    return bool((np.hypot(spots[:, 0] - item.x, spots[:, 1] - item.y) <= reach).any())


def _opened(parts: Indices, opened: Mask, begun: Mask, rolled: Mask) -> tuple[Mask, Mask]:
    """Which parts of the floor are reached once these points are open too, and which of these points are.
    `parts` says for each point which part of the free floor it is of, from 1; `rolled` which of those are
    reached anyway.
    """
    from scipy import ndimage

    joined, count = ndimage.label((parts > 0) | opened, structure=_ALL)
    meets = np.zeros((count + 1, len(rolled)), dtype=bool)  # which joined ones each part is in
    meets[joined, parts] = True
    meets[:, 0] = False
    is_new, here = np.zeros((2, count + 1), dtype=bool)
    is_new[joined[opened]] = True
    here[joined[opened & begun]] = True
    now = rolled | meets[here].any(axis=0)
    while True:
        more = is_new & ~here & meets[:, now].any(axis=1)
        if not more.any():
            return now, opened & here[joined]
        here |= more
        now |= meets[more].any(axis=0)


def _window(x: Array, y: Array, spot: Point, reach: float) -> _Window:
    """The rows and columns of the grid within reach [m] of a spot."""
    columns = slice(*np.searchsorted(x, (spot[0] - reach, spot[0] + reach)).tolist())
    return slice(*np.searchsorted(y, (spot[1] - reach, spot[1] + reach)).tolist()), columns


def _covering(parts: Indices, count: int, x: Array, y: Array, spot: Point, radius: float) -> Mask:
    """Which of `count` parts of the floor, from 1, have a point within a radius [m] of a spot."""
    window = _window(x, y, spot, radius)
    near = np.hypot(x[window[1]] - spot[0], y[window[0], None] - spot[1]) <= radius
    covered = np.zeros(count + 1, dtype=bool)
    covered[parts[window][near]] = True
    covered[0] = False
    return covered
