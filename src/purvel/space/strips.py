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
    following = (1, 2, 3, 0)
    du, dv = u[..., following] - u, v[..., following] - v
    level = np.abs(dv) < 1e-12
    slope = np.where(level, 1.0, dv)
    a, b = (-half - v) / slope, (half - v) / slope
    early, late = np.minimum(a, b), np.maximum(a, b)
    start = np.where(level, 0.0, np.clip(early, 0.0, 1.0))
    end = np.where(level, 1.0, np.clip(late, 0.0, 1.0))
    within = np.where(level, np.abs(v) < half, (late > 0.0) & (early < 1.0))
    first, last = u + start * du, u + end * du
    near = np.where(within, np.minimum(first, last), np.inf).min(axis=-1, initial=np.inf)
    far = np.where(within, np.maximum(first, last), -np.inf).max(axis=-1, initial=-np.inf)
    return near, far
