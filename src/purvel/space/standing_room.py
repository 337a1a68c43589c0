"""The floor that workers need at what they work at, and what takes it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from purvel.libraries import np, shapely
from purvel.shop import Fixture, Thing
from purvel.space.clearances import HEAD_HEIGHT, STEPPED_OVER, depths, span
from purvel.space.ground import footprints, near, standing_zones
from purvel.space.shell import TOUCH_AREA, Shell

WALL, CEILING = "", "ceiling"
_REMEMBERED = 1024  # zones with what is near them: while one thing moves, most workers have the same around


@dataclass(frozen=True, slots=True)
class TakenRoom:
    """Standing room that is taken: whose, how much of it [m2], what share of it that is [-], what takes most
    of it (the id of a thing or fixture, WALL or CEILING), and how deep that reaches in [m].
    """

    thing: str
    area: float
    share: float
    by: str
    depth: float


def standing_room(things: Sequence[Thing], shell: Shell, only: str | None = None) -> list[TakenRoom]:
    """Where a worker's floor is taken: by another thing, a fixture, a wall, or a sloping ceiling that is too
    low to stand under. What overlaps counts once. Of all workers, or `only` of one thing's.
    """
    workers = [thing for thing in things if thing.stand is not None and only in (None, thing.id)]
    if not workers:
        return []
    fixtures: list[Thing | Fixture] = [one for one in shell.room.fixtures if one.is_body]
    items = [
        one for one in (*things, *fixtures) if span(one)[0] < HEAD_HEIGHT and span(one)[1] > STEPPED_OVER
    ]
    zones, corners = standing_zones(workers), footprints(items)
    found = []
    for worker, zone, met in zip(workers, zones, near(zones, corners)):
        beside = [k for k in np.flatnonzero(met).tolist() if items[k].id != worker.id]
        taken = _taken(zone.tobytes(), corners[beside].tobytes(), shell)
        if taken is not None:
            by = items[beside[taken.by]].id if isinstance(taken.by, int) else taken.by
            found.append(TakenRoom(worker.id, taken.area, taken.share, by, taken.depth))
    return found


@dataclass(frozen=True, slots=True)
class _Taken:
    """As `TakenRoom`; `by` which of the bodies near it, or WALL or CEILING."""

    area: float
    share: float
    by: int | str
    depth: float


@lru_cache(_REMEMBERED)
def _taken(corners: bytes, beside: bytes, shell: Shell) -> _Taken | None:
    """What is taken of a zone by the bodies beside it, both given as the bytes of their corners; None if
    nothing is.
    """
    outline, bodies = np.frombuffer(corners).reshape(1, 4, 2), np.frombuffer(beside).reshape(-1, 4, 2)
    zone = shapely.Polygon(outline[0])
    shared = shapely.intersection(zone, np.asarray(shapely.polygons(bodies)))
    parts: list[tuple[int | str, Any]] = list(enumerate(shared))
    if not shell.floor.is_empty and not shell.on_floor.covers(np.array([zone]))[0]:
        parts.append((WALL, zone.difference(shell.floor)))
    for slope in shell.slopes:
        parts.append((CEILING, zone.intersection(shapely.Polygon(shell.under_slope(slope, HEAD_HEIGHT)))))
    parts = [(by, part) for by, part in parts if part.area > TOUCH_AREA]
    if not parts:
        return None
    by, _ = max(parts, key=lambda one: one[1].area)
    area = shapely.union_all([part for _, part in parts]).area if len(parts) > 1 else parts[0][1].area
    depth = float(depths(outline, bodies[by][None])[0]) if isinstance(by, int) else 0.0
    return _Taken(area, min(1.0, area / zone.area), by, depth)
