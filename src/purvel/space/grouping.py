"""Several things at once: in line with each other, evenly apart."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from purvel.libraries import np
from purvel.shop import Thing
from purvel.space.ground import footprints
from purvel.space.traverse import Point

Edge = Literal["left", "right", "top", "bottom", "middle across", "middle up"]
Way = Literal["across", "up"]


def aligned(things: Sequence[Thing], edge: Edge) -> dict[str, Point]:
    """Where the middles of things go [m] so that they are in line by an edge of their outlines on the plan:
    the outermost stays; by their middles, all go to the mean of these.
    """
    if not things:
        return {}
    corners = footprints(things)
    axis = 0 if edge in ("left", "right", "middle across") else 1
    low, high = corners[..., axis].min(axis=1), corners[..., axis].max(axis=1)
    if edge in ("left", "bottom"):
        shift = low.min() - low
    elif edge in ("right", "top"):
        shift = high.max() - high
    else:
        middles = (low + high) / 2
        shift = middles.mean() - middles
    return _shifted(things, axis, shift.tolist())


def spaced(things: Sequence[Thing], way: Way) -> dict[str, Point]:
    """Where the middles of three things or more go [m] so that the gaps between their outlines are alike,
    across or up the plan; the first and the last stay. Where they do not fit, they overlap alike.
    """
    if len(things) < 3:
        return {one.id: (one.x, one.y) for one in things}
    axis = 0 if way == "across" else 1
    corners = footprints(things)[..., axis]
    low, high = corners.min(axis=1), corners.max(axis=1)
    order = np.argsort((low + high) / 2, kind="stable")
    sizes = (high - low)[order]
    gap = (high[order[-1]] - low[order[0]] - sizes.sum()) / (len(things) - 1)
    starts = low[order[0]] + np.concatenate([[0.0], np.cumsum(sizes[:-1] + gap)])
    shift = np.zeros(len(things))
    shift[order] = starts - low[order]
    return _shifted(things, axis, shift.tolist())


def _shifted(things: Sequence[Thing], axis: int, shifts: Sequence[float]) -> dict[str, Point]:
    return {
        one.id: (round(one.x + by, 6), one.y) if axis == 0 else (one.x, round(one.y + by, 6))
        for one, by in zip(things, shifts)
    }
