"""Centre lines of runs: where they lie now, how long they are, where they turn.

From the fan's end outwards, in plan metres.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterable
from functools import lru_cache
from math import acos, degrees, dist, hypot

from purvel.shop import Ducts, Port, Run, Thing

Vector = tuple[float, float, float]
Path = tuple[Vector, ...]

STRAIGHT_ENOUGH = 8.0  # deg: turns below this are pipe laid by eye, not fittings
SAME_PLACE = 1e-6  # m


def run_paths(ducts: Ducts, things: Iterable[Thing]) -> dict[str, Path]:
    """The centre line of each run as it lies now, from the fan's end; its ends follow the machines."""
    by_id = {thing.id: thing for thing in things}
    runs = {run.id: run for run in ducts.runs}
    found: dict[str, Path] = {}

    def path(run: Run, on_the_way: frozenset[str]) -> Path:
        if run.id in found:
            return found[run.id]
        points = [(point.x, point.y, point.z) for point in run.points]
        joint: list[tuple[float, float, float]] = []
        if run.joins and run.joins.run in runs and run.joins.run not in on_the_way:
            parent = path(runs[run.joins.run], on_the_way | {run.id})
            if parent:
                joint = [point_along(parent, length_of(parent) if run.joins.at is None else run.joins.at)]
        source = by_id.get(run.source) if run.source else None
        if source is not None and source.source is not None:
            x, y = source.spot(source.source.inlet_x, source.source.inlet_y)
            points = [(x, y, source.z + source.source.inlet_z), *points, *joint]
        else:
            points = [*joint, *points]
        port = port_of(run, by_id)
        if port is not None and run.port is not None:
            machine = by_id[run.port.thing]
            x, y = machine.spot(port.x, port.y)
            points.append((x, y, machine.z + port.z))
        found[run.id] = tuple(
            point for i, point in enumerate(points) if i == 0 or dist(point, points[i - 1]) > SAME_PLACE
        )
        return found[run.id]

    for run in ducts.runs:
        path(run, frozenset())
    return found


def port_of(run: Run, by_id: dict[str, Thing]) -> Port | None:
    """The port that a run ends at."""
    if run.port is None or run.port.thing not in by_id:
        return None
    return next((port for port in by_id[run.port.thing].ports if port.id == run.port.port), None)


def length_of(path: Path) -> float:
    """Length of a centre line [m]."""
    return sum(dist(a, b) for a, b in itertools.pairwise(path))


def point_along(path: Path, at: float) -> tuple[float, float, float]:
    """The point `at` metres along a path, held to its ends."""
    for a, b in itertools.pairwise(path):
        piece = dist(a, b)
        if at <= piece:
            t = max(0.0, at) / piece
            return (a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1]), a[2] + t * (b[2] - a[2]))
        at -= piece
    return path[-1]


def direction_at(path: Path, at: float) -> Vector:
    """The unit direction of a path `at` metres along it; at a corner that of the piece that ends there."""
    for a, b in itertools.pairwise(path):
        piece = dist(a, b)
        if at <= piece + SAME_PLACE:
            break
        at -= piece
    else:
        a, b = path[-2:]
        piece = dist(a, b)
    x, y, z = towards(a, b)
    return x / piece, y / piece, z / piece


def towards(a: Vector, b: Vector) -> Vector:
    """What leads from one point to another [m]."""
    return b[0] - a[0], b[1] - a[1], b[2] - a[2]


def opposite(way: Vector) -> Vector:
    """The other way round."""
    return -way[0], -way[1], -way[2]


def turn_between(a: Vector, b: Vector) -> float:
    """The angle between two directions [deg].

    >>> turn_between((2.0, 0.0, 0.0), (0.0, 0.0, 0.5)), turn_between((1.0, 1.0, 0.0), (-3.0, -3.0, 0.0))
    (90.0, 180.0)
    >>> turn_between((-2.8, 2.0, -0.4), (-2.8, 2.0, -0.4))
    0.0
    """
    cosine = sum(p * q for p, q in zip(a, b)) / (hypot(*a) * hypot(*b))
    return degrees(acos(min(max(cosine, -1.0), 1.0)))


def cut(path: Path, start: float, end: float) -> Path:
    """The part of a path between two distances along it."""
    inner: list[tuple[float, float, float]] = []
    walked = 0.0
    for a, b in itertools.pairwise(path):
        walked += dist(a, b)
        if start + SAME_PLACE < walked < end - SAME_PLACE:
            inner.append(b)
    return (point_along(path, start), *inner, point_along(path, end))


@lru_cache(maxsize=1024)  # while one thing moves, most runs lie as before
def corners_in(path: Path, begins: float, ends: float) -> tuple[float, ...]:
    """Turns [deg] at the corners of a path that lie in (begins, ends]."""
    found = []
    walked = 0.0
    for a, b, c in zip(path, path[1:], path[2:]):
        walked += dist(a, b)
        turn = turn_between(towards(a, b), towards(b, c))
        if begins < walked <= ends and turn > STRAIGHT_ENOUGH:
            found.append(turn)
    return tuple(found)
