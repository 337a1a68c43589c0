"""From which sides a bench or table can be worked at: where a person has room to stand along it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from purvel.libraries import Array, np, shapely
from purvel.shop import Thing
from purvel.space.aisles import SQUEEZE
from purvel.space.ground import Footprint, footprint, footprints, near
from purvel.space.shell import Shell

SIDES = ("front", "right", "back", "left")
_MOST = 0.8  # share of a side that has to be free, as the floor before it, to work there [a guess]
_REMEMBERED = 1024  # strips with what is near them: while one thing moves, most have the same around


@dataclass(frozen=True, slots=True)
class Around:
    """Which sides of a bench are free to stand at, and the free share of the floor before each [-]."""

    thing: str
    free: tuple[str, ...]
    shares: tuple[float, float, float, float]


def around(benches: Sequence[Thing], barriers: Sequence[Footprint], shell: Shell) -> list[Around]:
    """The free sides of benches, by the floor as deep as a person squeezes through before each."""
    if not benches or shell.floor.is_empty:
        return []
    bodies, ids = footprints(barriers), np.array([one.id for one in barriers], dtype=object)
    found = []
    for bench in benches:
        strips = _before(footprint(bench))
        beside = near(strips, bodies) & (ids != bench.id)
        front, right, back, left = (
            _share(strip.tobytes(), bodies[those].tobytes(), shell) for strip, those in zip(strips, beside)
        )
        shares = (front, right, back, left)
        free = tuple(side for side, share in zip(SIDES, shares) if share >= _MOST)
        found.append(Around(bench.id, free, shares))
    return found


def _before(corners: Array) -> Array:
    """The floor before each side of a bench, given by its corners (4, 2) [m]; shape (4, 4, 2)."""
    after = np.roll(corners, -1, axis=0)
    out = (corners + after) / 2 - corners.mean(axis=0)
    out = out / np.hypot(*out.T)[:, None] * SQUEEZE
    return np.stack([corners, after, after + out, corners + out], axis=1)


@lru_cache(_REMEMBERED)
def _share(corners: bytes, beside: bytes, shell: Shell) -> float:
    """The free share of a strip of floor by the bodies beside it, both as the bytes of their corners."""
    strip = shapely.Polygon(np.frombuffer(corners).reshape(4, 2))
    bodies = shapely.polygons(np.frombuffer(beside).reshape(-1, 4, 2))
    left = shapely.difference(shapely.intersection(strip, shell.floor), shapely.union_all(bodies))
    return float(left.area / strip.area)
