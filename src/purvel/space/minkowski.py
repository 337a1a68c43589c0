"""Convex shapes grown by convex shapes: where the middle of one may not be without touching the other."""

from __future__ import annotations

from math import cos, pi, sin

from purvel.libraries import Array, np, shapely

_LEVEL = 1e-9  # rad
_NO_EDGE = 1e-12  # m: the ends of a piece without thickness


def swept(length: float, across: float, spans: int) -> Array:
    """The convex hull of the rectangle turned about its middle through one span of heading about 0; (m, 2).

    The corners of the turned rectangles are pushed out by 1 / cos(span / 2), so that the arcs between them
    lie inside.
    """
    half = pi / spans / 2
    x, y = length / 2, across / 2
    corners = np.array([[x, y], [-x, y], [-x, -y], [x, -y]]) / cos(half)
    turned = [corners @ np.array([[cos(a), sin(a)], [-sin(a), cos(a)]]) for a in (-half, half)]
    hull = shapely.convex_hull(shapely.MultiPoint(np.concatenate(turned)))
    return shapely.get_coordinates(shapely.orient_polygons(hull))[:-1]


def core(length: float, across: float, spans: int) -> Array:
    """A convex shape that the rectangle holds however it is turned about its middle through one span of
    heading about 0, all but the largest; (m, 2).

    It is what the rectangles at both ends and in the middle of the span share, drawn in by
    cos(span / 4): between two of them a side turned about the middle comes in by no more than that.
    """
    half = pi / spans / 2
    x, y = length / 2, across / 2
    corners = np.array([[x, y], [-x, y], [-x, -y], [x, -y]]) * cos(half / 2)
    turns = [np.array([[cos(a), sin(a)], [-sin(a), cos(a)]]) for a in (-half, 0.0, half)]
    shared = shapely.intersection_all(np.asarray(shapely.polygons([corners @ turn for turn in turns])))
    return shapely.get_coordinates(shapely.orient_polygons(shared))[:-1]


def grown(pieces: Array, shape: Array, headings: Array) -> Array:
    """Convex pieces (n, 4, 2) grown by a convex shape (m, 2) that is its own mirror image through its middle,
    turned to each heading [rad]; corners (headings, n, 4 + m, 2).

    The Minkowski sum of two convex polygons has the edges of both, in order of their direction.
    """
    c, s = np.cos(headings)[:, None], np.sin(headings)[:, None]
    turned = np.stack([shape[:, 0] * c - shape[:, 1] * s, shape[:, 0] * s + shape[:, 1] * c], axis=-1)
    own = np.broadcast_to(pieces, (len(headings), *pieces.shape))
    other = np.broadcast_to(turned[:, None], (len(headings), len(pieces), *turned.shape[1:]))
    parts = [_by_direction(polygons) for polygons in (own, other)]
    directions, edges = (
        np.concatenate(both, axis=2) for both in zip(*((part[0], part[1]) for part in parts))
    )
    order = np.argsort(directions, axis=2)[..., None]
    first = parts[0][2] + parts[1][2]
    return np.asarray(first[:, :, None] + np.cumsum(np.take_along_axis(edges, order, axis=2), axis=2))


def _by_direction(polygons: Array) -> tuple[Array, Array, Array]:
    """Directions of the edges from 0 on [rad], the edges, and the corner that the first of them leaves."""
    edges = np.roll(polygons, -1, axis=2) - polygons
    direction = np.arctan2(edges[..., 1], edges[..., 0]) % (2 * pi)
    direction[direction > 2 * pi - _LEVEL] = 0.0  # else a level edge would come last by rounding
    direction[(np.abs(edges) < _NO_EDGE).all(axis=-1)] = np.inf
    first = direction.argmin(axis=2)[..., None, None]
    start = np.take_along_axis(polygons, np.broadcast_to(first, (*first.shape[:-1], 2)), axis=2)
    return direction, edges, start[:, :, 0]
