"""What alone cuts places off from the way in, looked for on a grid of the floor."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from purvel.libraries import Array, Indices, Mask, np, shapely
from purvel.once import once
from purvel.shop import Fixture, Thing
from purvel.space.ground import boxes, distances
from purvel.space.traverse import Point

_CELL = 0.05  # m
_CELLS = 100_000  # about as many at the most: in a hall the grid is coarser
_ALL = [[True] * 3] * 3  # a point is connected with the eight around it


@dataclass(frozen=True, eq=False)
class Squeezed:
    """The floor on which the middle of a disc `width` [m] across may be, by the `lines` of the room alone; it
    comes in through the middle of one of the `gaps` (n, 2, 2) [m].
    """

    floor: shapely.Polygon
    gaps: Array
    lines: shapely.MultiLineString
    width: float

    @once
    def grid(self) -> tuple[Array, Array, Mask, float]:
        """The grid's x (n,) and y (m,) [m], which of its points (m, n) are on that floor, and its step."""
        x0, y0, x1, y1 = self.floor.bounds
        cell = max(_CELL, float(np.sqrt((x1 - x0) * (y1 - y0) / _CELLS)))
        x, y = np.arange(x0, x1 + cell, cell), np.arange(y0, y1 + cell, cell)
        left = self.floor.buffer(cell).difference(self.lines.buffer(self.radius(cell)))
        shapely.prepare(left)
        return x, y, np.asarray(shapely.contains_xy(left, *np.meshgrid(x, y))), cell

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
    goals: Mapping[str, Point], blockers: Sequence[Thing | Fixture], room: Squeezed
) -> dict[str, str]:
    """For each goal that is cut off the one blocker without which a disc would roll to where it covers it, if
    there is one; of several the one that cuts off most.
    """
    from scipy import ndimage  # slow to load: not before something is cut off

    x, y, free, cell = room.grid
    windows = [_window(one, x, y, room.radius(cell)) for one in blockers]
    times = np.zeros(free.shape, dtype=int)  # how many blockers keep a point from being the disc's middle
    for rows, columns, near in windows:
        times[rows, columns] += near
    rolled, freed = _rolled(free & (times == 0), room.starts), dict[str, set[str]]()
    for item, (rows, columns, near) in zip(blockers, windows):
        opened = np.zeros_like(free)
        opened[rows, columns] = near & (times[rows, columns] == 1) & free[rows, columns]
        around = (
            slice(max(rows.start - 1, 0), rows.stop + 1),
            slice(max(columns.start - 1, 0), columns.stop + 1),
        )
        if not (ndimage.binary_dilation(opened[around], structure=_ALL) & rolled[around]).any():
            continue  # it ends nobody's way
        without = _rolled(free & (times == 0) | opened, room.starts)
        freed[item.id] = {
            name
            for name, spot in goals.items()
            if name != item.id and _covers(without, x, y, spot, room.width / 2)
        }
    most = sorted(freed, key=lambda one: -len(freed[one]))
    return {name: next(one for one in most if name in freed[one]) for name in set().union(*freed.values())}


def _rolled(free: Mask, starts: Indices) -> Mask:
    """The free points that are connected with a start."""
    from scipy import ndimage

    labels, _ = ndimage.label(free, structure=_ALL)
    begun = labels[starts[:, 0], starts[:, 1]]
    return np.asarray(np.isin(labels, begun[begun > 0]))


def _window(item: Thing | Fixture, x: Array, y: Array, radius: float) -> tuple[slice, slice, Mask]:
    """The part of the grid around a blocker, and which of its points are nearer to it than a radius [m]."""
    reach = radius + float(np.hypot(item.width, item.depth)) / 2
    columns = slice(*np.searchsorted(x, (item.x - reach, item.x + reach)).tolist())
    rows = slice(*np.searchsorted(y, (item.y - reach, item.y + reach)).tolist())
    gx, gy = np.meshgrid(x[columns], y[rows])
    away = distances(np.stack([gx.ravel(), gy.ravel()], axis=1), boxes([item]))
    return rows, columns, away.reshape(gx.shape) < radius


def _covers(rolled: Mask, x: Array, y: Array, spot: Point, radius: float) -> bool:
    columns = slice(*np.searchsorted(x, (spot[0] - radius, spot[0] + radius)).tolist())
    rows = slice(*np.searchsorted(y, (spot[1] - radius, spot[1] + radius)).tolist())
    gx, gy = np.meshgrid(x[columns], y[rows])
    return bool((rolled[rows, columns] & (np.hypot(gx - spot[0], gy - spot[1]) <= radius)).any())
