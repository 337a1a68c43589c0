"""Strips of floor: what lies in one, and where it begins and ends."""

from __future__ import annotations

from purvel.libraries import Array, np
from purvel.space.traverse import Point

TOUCH = 1e-6  # m: closer than this is touching


def strip(origin: Point, direction: float, near: float, far: float, width: float) -> Array:
    """The corners (4, 2) [m] of a strip along a direction [deg], from `near` to `far` of its origin."""
    turn = np.radians(direction)
    ahead, aside = np.array([np.cos(turn), np.sin(turn)]), np.array([-np.sin(turn), np.cos(turn)])
    ends, sides = np.array([near, far, far, near]), np.array([-width, -width, width, width]) / 2
    return np.asarray(np.array(origin) + ends[:, None] * ahead + sides[:, None] * aside)


def extent_along(pieces: Array, origins: Array, directions: Array, widths: Array) -> tuple[Array, Array]:
    """Where along feed lines the part of each convex piece inside a strip begins and ends, for each width:
    two arrays (lines, widths, n) [m].

    `pieces` (lines, n, 4, 2) or (n, 4, 2) for all, `origins` (lines, 2), `directions` (lines,) [deg],
    `widths` (lines, widths). (inf, -inf) where a piece is clear of the strip.
    """
    turn = np.radians(directions)
    c, s = np.cos(turn)[:, None, None], np.sin(turn)[:, None, None]
    moved = pieces - origins[:, None, None, :]
    u = (moved[..., 0] * c + moved[..., 1] * s)[:, None]
    v = (-moved[..., 0] * s + moved[..., 1] * c)[:, None]
    half = (widths / 2 - TOUCH)[:, :, None, None]
    return extents(u, v, -half, half)


def extents(u: Array, v: Array, low: Array, high: Array) -> tuple[Array, Array]:
    """From where to where along u each convex piece, of corners `u` and `v` (..., corners), reaches within
    the band `low` < v < `high` (..., 1): two arrays (...) [m], (inf, -inf) where it is clear of it.
    """
    # corners first: along the last, so short an axis, numpy takes up to twice as long
    u, v, low, high = (_corners_first(one, max(v.ndim, low.ndim)) for one in (u, v, low, high))
    u2, v2 = np.concatenate((u[1:], u[:1])), np.concatenate((v[1:], v[:1]))
    rise = v2 - v
    slope = np.divide(u2 - u, rise, out=np.zeros(rise.shape), where=np.abs(rise) > 1e-12)
    within = (np.maximum(v, v2) > low) & (np.minimum(v, v2) < high)
    # each side from where it comes into the band to where it leaves it; of a level one the next tells the end
    one, other = (u + (np.minimum(np.maximum(at, low), high) - v) * slope for at in (v, v2))
    begin = np.where(within, np.minimum(one, other), np.inf).min(axis=0, initial=np.inf)
    return begin, np.where(within, np.maximum(one, other), -np.inf).max(axis=0, initial=-np.inf)


def _corners_first(given: Array, axes: int) -> Array:
    """An array of so many axes, its last one first."""
    padded = given.reshape((1,) * (axes - given.ndim) + given.shape)
    return np.ascontiguousarray(np.moveaxis(padded, -1, 0))
