"""From which sides a bench or table can be worked at: where a person has room to stand along it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from purvel.libraries import np, shapely
from purvel.shop import Thing
from purvel.space.aisles import SQUEEZE
from purvel.space.ground import Footprint, footprint, footprints
from purvel.space.shell import Shell

SIDES = ("front", "right", "back", "left")
_MOST = 0.8  # share of a side that has to be free, as the floor before it, to work there [a guess]
_HAIR = 1e-6  # m2


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
    shapes, ids = np.asarray(shapely.polygons(footprints(barriers))), [one.id for one in barriers]
    tree = shapely.STRtree(shapes)
    found = []
    for bench in benches:
        corners = footprint(bench)
        middle = corners.mean(axis=0)
        shares = []
        for k in range(4):
            a, b = corners[k], corners[(k + 1) % 4]
            out = (a + b) / 2 - middle
            out = out / np.hypot(*out) * SQUEEZE
            before = shapely.Polygon([a, b, b + out, a + out])
            near = [i for i in tree.query(before) if ids[i] != bench.id]
            left = shapely.difference(
                shapely.intersection(before, shell.floor), shapely.union_all(shapes[near])
            )
            shares.append(float(left.area / before.area))
        free = tuple(side for side, share in zip(SIDES, shares) if share >= _MOST)
        found.append(Around(bench.id, free, (shares[0], shares[1], shares[2], shares[3])))
    return found
