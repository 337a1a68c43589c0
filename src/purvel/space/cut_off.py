"""What alone cuts places off from the way in, looked for on a grid of the floor."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
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
    times = np.zeros(free.shape, dtype=int)  # how many blockers keep a point from being the disc's middle
    for window, near in windows:
        times[window] += near
    parts, count = ndimage.label(free & (times == 0), structure=_ALL)
    freeable = free & (times == 1)
    begun = np.zeros(free.shape, dtype=bool)
    begun[room.starts[:, 0], room.starts[:, 1]] = True
    rolled = set(parts[begun & (parts > 0)].tolist())
    covered = {name: _covering(parts, x, y, spot, room.width / 2) for name, spot in goals.items()}
    goals = {name: spot for name, spot in goals.items() if not covered[name] & rolled}
    is_sought = np.isin(np.arange(count + 1), list(set().union(*covered.values()) - rolled))
    is_rolled = np.isin(np.arange(count + 1), list(rolled))
    freed = dict[str, set[str]]()
    for item, (window, near) in zip(blockers, windows):
        opened, within = near & freeable[window], parts[window]
        if not (is_rolled[within].any() or (opened & begun[window]).any()):
            continue  # nobody comes to it
        if not (is_sought[within].any() or _reaches(item, goals.values(), room.width)):
            continue
        now, here = _opened(within, opened, begun[window], rolled)
        if not here.any():
            continue  # it ends nobody's way
        rows, columns = np.nonzero(here)
        at = x[window[1]][columns], y[window[0]][rows]
        freed[item.id] = {
            name
            for name, spot in goals.items()
            if name != item.id
            and (covered[name] & now or np.hypot(at[0] - spot[0], at[1] - spot[1]).min() <= room.width / 2)
        }
    most = sorted(freed, key=lambda one: -len(freed[one]))
    return {name: next(one for one in most if name in freed[one]) for name in set().union(*freed.values())}


def _reaches(item: Footprint, spots: Iterable[Point], width: float) -> bool:
    """Whether a disc that is `width` [m] across and held up by an item alone may cover one of the spots."""
    reach = width + hypot(item.width, item.depth) / 2
    return any(hypot(x - item.x, y - item.y) <= reach for x, y in spots)


def _opened(parts: Indices, opened: Mask, begun: Mask, rolled: set[int]) -> tuple[set[int], Mask]:
    """Which parts of the floor are reached once these points are open too, and which of these points are.
    `parts` says for each point which part of the free floor it is of, from 1.
    """
    from scipy import ndimage

    joined, _ = ndimage.label((parts > 0) | opened, structure=_ALL)
    joins = {k: set(parts[joined == k].tolist()) - {0} for k in set(joined[opened].tolist())}
    now, here = set(rolled), set(joined[opened & begun].tolist())
    for _ in joins:  # each time at least one more, or no more
        here |= {k for k, met in joins.items() if met & now}
        now |= set().union(*(joins[k] for k in here))
    return now, opened & np.isin(joined, list(here))


def _window(x: Array, y: Array, spot: Point, reach: float) -> _Window:
    """The rows and columns of the grid within reach [m] of a spot."""
    columns = slice(*np.searchsorted(x, (spot[0] - reach, spot[0] + reach)).tolist())
    return slice(*np.searchsorted(y, (spot[1] - reach, spot[1] + reach)).tolist()), columns


def _covering(parts: Indices, x: Array, y: Array, spot: Point, radius: float) -> set[int]:
    """The parts of the floor that have a point within a radius [m] of a spot."""
    window = _window(x, y, spot, radius)
    near = np.hypot(x[window[1]] - spot[0], y[window[0], None] - spot[1]) <= radius
    return set(parts[window][near].tolist()) - {0}
