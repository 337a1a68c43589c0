"""Delaunay's triangles of the points on edges, and those that change where a body moves among others."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

from purvel.libraries import Array, Indices, Mask, np, shapely
from purvel.space.ground import Footprint, footprints

_JITTER = 1e-6  # m: points on one line are moved off it by about this, which the triangulation needs
_SAME = 7  # decimals [m] to which points agree that are the same
_FAR = 100.0  # m: points so far around, so that every cell of the room is bounded
_AROUND = 4  # of these
_CELL, _GROUP = 0.3, 16  # m, and points: how those are put together that are looked at together
_TOGETHER = 8  # bodies that may move at once, as what is grouped does


@dataclass(frozen=True, slots=True, eq=False)
class Triangles:
    """Delaunay's triangles of points (n, 2) [m]: their `corners` (t, 3), as indices of the points, the middle
    (t, 2) and radius (t,) [m] of the circles through these, and for each of the `edges` (e, 4) between two
    triangles its two points and the two. The middles that are `enclosed` (t,) lie in bodies, as far as that
    is known: into those no disc rolls that is wider than points on an edge are apart.
    """

    points: Array
    corners: Indices
    middles: Array
    radius: Array
    edges: Indices
    enclosed: Mask


def pieces(edges: Array, step: float) -> Array:
    """Edges (n, 2, 2) [m] cut into pieces (m, 2, 2), none of them longer than `step`."""
    start, end = edges[:, 0], edges[:, 1]
    parts = np.maximum(np.ceil(np.hypot(*(end - start).T) / step).astype(int), 1)
    of = np.repeat(np.arange(len(parts)), parts)
    begun = np.arange(len(of)) - (np.cumsum(parts) - parts)[of]
    share = np.stack([begun, begun + 1], axis=1) / parts[of, None]
    return np.asarray(start[of, None] * (1 - share)[..., None] + end[of, None] * share[..., None])


def sampled(edges: Array, step: float) -> Array:
    """Points (m, 2) [m] on edges (n, 2, 2), no more than `step` apart, with both ends of each."""
    points = np.round(pieces(edges, step).reshape(-1, 2), _SAME)
    _, once = np.unique(_joined(points), return_index=True)
    return np.asarray(points[once])


def _joined(points: Array) -> Any:
    """Points (n, 2) as one number each (n,)."""
    return points @ (1, 1j)


def _is_among(points: Array, others: Array) -> Mask:
    """Which points (n, 2) are also among others (m, 2)."""
    low, high = points.min(axis=0, initial=np.inf), points.max(axis=0, initial=-np.inf)
    near = others[((others >= low) & (others <= high)).all(axis=1)]
    return np.isin(_joined(points), _joined(near))


def triangulated(points: Array) -> Triangles:
    """The triangles of points (n, 2) [m] that differ, and of a few far around."""
    (x0, y0), (x1, y1) = points.min(axis=0) - _FAR, points.max(axis=0) + _FAR
    around = np.array([(x0, y0), (x1, y0 - 1), (x1 + 1, y1), (x0 - 1, y1 + 1)])
    ready = np.concatenate([around, _jittered(points)])
    corners = _triangles(ready)
    circles, edges = _circles(ready, corners), _edges(corners, len(ready))
    return Triangles(ready, corners, *circles, edges, np.zeros(len(corners), dtype=bool))


def with_more(base: Triangles, more: Array) -> Triangles | None:
    """The triangles of the base's points and some more (m, 2) [m] that differ from them; None where the
    triangles of all have to be looked for together.

    Those triangles of the base stay whose circle none of the new points is in; between what is left, the
    triangles with a new point are those which the new points make with the corners of the rest [the insertion
    of a point after Bowyer and Watson, here of many at once].
    """
    more = _jittered(more)
    (x0, y0), (x1, y1) = base.points[0], base.points[2] - (1.0, 0.0)
    if not ((more > (x0, y0)) & (more < (x1, y1))).all():
        return None  # not within the points far around
    stays = ~_hit(base.middles, base.radius, more)
    points, first = np.concatenate([base.points, more]), len(base.points)
    around = np.append(np.unique(base.corners[~stays]), np.arange(first, len(points)))
    found = around[_triangles(points[around])]
    new = found[(found >= first).any(axis=1)]
    corners = np.concatenate([base.corners[stays], new])
    if len(corners) != 2 * len(points) - 2 - _AROUND:  # points on one circle were taken this way and that
        return None
    middles, radius = _circles(points, new)
    number = np.cumsum(stays) - 1  # which triangles those that stay are now
    one_stays, other_stays = stays[base.edges[:, 2:]].T
    kept = base.edges[one_stays & other_stays]
    on_rim = base.edges[one_stays != other_stays, 2:]
    outer = number[on_rim[stays[on_rim]]]
    of = np.append(outer, np.arange(len(corners) - len(new), len(corners)))
    met = _edges(corners[of], len(points))
    met = met[(met[:, 2:] >= len(outer)).any(axis=1)]
    return Triangles(
        points,
        corners,
        np.concatenate([base.middles[stays], middles]),
        np.concatenate([base.radius[stays], radius]),
        np.concatenate(
            [
                np.column_stack([kept[:, :2], number[kept[:, 2:]]]),
                np.column_stack([met[:, :2], of[met[:, 2:]]]),
            ]
        ),
        np.concatenate([base.enclosed[stays], np.zeros(len(new), dtype=bool)]),
    )


def _hit(middles: Array, radius: Array, points: Array) -> Mask:
    """Which circles (t,) one of the points (m, 2) is in; looked for by groups of points that lie together, in
    those circles that come to where any are.
    """
    far = radius[:, None]
    is_near = (middles + far > points.min(axis=0)) & (middles - far < points.max(axis=0))
    nearby = np.flatnonzero(is_near.all(axis=1))
    middles, many = middles[nearby], len(radius)
    radius = radius[nearby]
    cells = np.floor(points / _CELL)
    points = points[np.lexsort((cells[:, 1], cells[:, 0]))]
    groups = points[np.minimum(np.arange(-(-len(points) // _GROUP) * _GROUP), len(points) - 1)]
    groups = groups.reshape(-1, _GROUP, 2)
    low, high = groups.min(axis=1), groups.max(axis=1)
    reach = np.hypot(*(high - low).T) / 2
    away = np.hypot(*(middles[:, None] - (low + high) / 2).transpose(2, 0, 1))
    of, group = np.nonzero(away < radius[:, None] + reach)
    is_in = (np.hypot(*(groups[group] - middles[of, None]).transpose(2, 0, 1)) < radius[of, None]).any(axis=1)
    hit = np.zeros(many, dtype=bool)
    hit[nearby[of[is_in]]] = True
    return hit


def _jittered(points: Array) -> Array:
    """Points moved a little: each always the same way, whichever others there are."""
    mixed = np.sin(points @ np.array([[12.9898, 39.3461], [78.2331, 11.1351]])) * 43758.5453
    return np.asarray(points + (mixed - np.floor(mixed)) * _JITTER)


def _triangles(points: Array) -> Indices:
    """Delaunay's triangles (n, 3), as indices of the points."""
    order = np.argsort(points[:, 0])
    made = shapely.delaunay_triangles(shapely.linestrings(points))  # a line is made faster than many points
    x = shapely.get_coordinates(made).reshape(-1, 4, 2)[:, :3, 0]
    return np.asarray(order[np.searchsorted(points[order, 0], x)])


def _circles(points: Array, corners: Indices) -> tuple[Array, Array]:
    """The middles (n, 2) and radii (n,) [m] of the circles through the corners (n, 3) of triangles."""
    a, b, c = points[corners].transpose(1, 0, 2)
    b, c = b - a, c - a
    b2, c2 = np.einsum("nk,nk->n", b, b), np.einsum("nk,nk->n", c, c)
    d = 2 * (b[:, 0] * c[:, 1] - b[:, 1] * c[:, 0])
    x, y = c[:, 1] * b2 - b[:, 1] * c2, b[:, 0] * c2 - c[:, 0] * b2
    away = np.stack([x, y], axis=1) / d[:, None]
    return np.asarray(a + away), np.hypot(*away.T)


def _edges(corners: Indices, count: int) -> Indices:
    """For each edge between two triangles its two points and the two triangles (n, 4)."""
    p, q = corners[:, [0, 1, 2]].ravel(), corners[:, [1, 2, 0]].ravel()
    key = np.minimum(p, q) * count + np.maximum(p, q)
    order = np.argsort(key, kind="stable")
    twice = np.flatnonzero(key[order[:-1]] == key[order[1:]])
    one, other = order[twice], order[twice + 1]
    return np.stack([p[one], q[one], one // 3, other // 3], axis=1)


def _with_enclosed(found: Triangles, bodies: Sequence[Footprint]) -> Triangles:
    """The same, knowing which middles lie in bodies."""
    if not bodies:
        return found
    tree = shapely.STRtree(np.asarray(shapely.polygons(footprints(bodies))))
    enclosed = np.zeros(len(found.middles), dtype=bool)
    enclosed[tree.query(shapely.points(found.middles), predicate="within")[0]] = True
    return replace(found, enclosed=enclosed)


@dataclass(slots=True, eq=False)
class Around:
    """The triangles of points every `step` [m] on edges (n, 2, 2) [m] that stay and on bodies of which few
    move at a time: then those of all others are remembered.
    """

    edges: Array
    step: float
    _last: frozenset[Footprint] = frozenset()
    _rest: frozenset[Footprint] = frozenset()
    _base: tuple[frozenset[Footprint], Array, Triangles] | None = None

    def triangles(self, bodies: Sequence[Footprint]) -> Triangles:
        """The triangles with bodies where they stand now."""
        now = frozenset(bodies)
        moved, self._last = now - self._last, now
        if not 0 < len(moved) <= _TOGETHER:
            return triangulated(self._points(now))
        rest, base = now - moved, self._base
        before, self._rest = self._rest, rest
        if base is None or base[0] != rest:
            if before != rest:  # moved once: that may be all
                return triangulated(self._points(now))
            points = self._points(rest)
            self._base = base = rest, points, _with_enclosed(triangulated(points), list(rest))
        more = sampled(_sides(list(moved)), self.step)
        more = more[~_is_among(more, base[1])]
        grown = with_more(base[2], more) if len(more) else base[2]
        return triangulated(self._points(now)) if grown is None else grown

    def closer(
        self, found: Triangles, bodies: Sequence[Footprint], fine: float, middles: Array, radii: Array
    ) -> Triangles:
        """The triangles that were found with bodies, with points every `fine` [m] on all edges that come
        within some `radii` (z,) of `middles` (z, 2) [m] besides.
        """
        cut = pieces(np.concatenate([self.edges, _sides(bodies)]), self.step)
        away = np.hypot(*(cut.mean(axis=1)[:, None] - middles).transpose(2, 0, 1)) - self.step / 2
        close = cut[(away <= radii).any(axis=1)]
        points = sampled(close, fine)
        more = points[~_is_among(points, np.round(close, _SAME).reshape(-1, 2))]
        grown = with_more(found, more) if len(more) else found
        if grown is None:
            return triangulated(sampled(np.concatenate([cut, pieces(close, fine)]), self.step))
        return grown

    def _points(self, bodies: frozenset[Footprint]) -> Array:
        return sampled(np.concatenate([self.edges, _sides(list(bodies))]), self.step)


def _sides(bodies: Sequence[Footprint]) -> Array:
    """The edges (n, 2, 2) [m] of bodies."""
    corners = footprints(bodies) if bodies else np.empty((0, 4, 2))
    return np.stack([corners, np.roll(corners, -1, axis=1)], axis=2).reshape(-1, 2, 2)
