"""Drawing runs point by point: what lies under the pen, how a half-drawn run goes on, where its corners may
be moved. All in plan metres.
"""

from __future__ import annotations

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import replace
from math import atan2, cos, degrees, dist, hypot, radians, sin

from purvel.airflow.paths import Path, length_of, point_along, run_paths
from purvel.catalogue import materials
from purvel.shop import Ducts, Gate, Join, PortRef, Run, Shop, Vertex
from purvel.shop.edits import fresh_id, put

LINE_UP = 0.08  # m: a corner this near to being in line with another goes there
SQUARE = 9.0  # deg: a leg this near to square or 45° is drawn so
SAME_HEIGHT = 0.02  # m: a smaller step is no rise
FREE_END = 0.15  # m from a run's free end within which the next one carries on in line
SHORTEST = 0.02  # m: a run that is worth adding

Plan = tuple[float, float]


class DrawingError(ValueError):
    """A press that the drawing cannot take; the sentence says why."""


def run_under(paths: Mapping[str, Path], x: float, y: float, reach: float) -> tuple[str, float] | None:
    """The run nearest to a plan point within `reach`, and how far along it from the fan's end [m]."""
    best: tuple[float, str, float] | None = None
    for run_id, path in paths.items():
        walked = 0.0
        for a, b in itertools.pairwise(path):
            flat = hypot(b[0] - a[0], b[1] - a[1])
            share = (
                0.0
                if flat < 1e-9
                else min(1.0, max(0.0, ((x - a[0]) * (b[0] - a[0]) + (y - a[1]) * (b[1] - a[1])) / flat**2))
            )
            far = hypot(a[0] + share * (b[0] - a[0]) - x, a[1] + share * (b[1] - a[1]) - y)
            piece = dist(a, b)
            if far < reach and (best is None or far < best[0] - 1e-6):
                best = (far, run_id, walked + share * piece)
            walked += piece
    return None if best is None else (best[1], best[2])


def gate_under(ducts: Ducts, paths: Mapping[str, Path], x: float, y: float, reach: float) -> str | None:
    """The gate within `reach` of a plan point."""
    for run in ducts.runs:
        path = paths[run.id]
        for gate in run.gates if len(path) > 1 else ():
            gx, gy, _ = point_along(path, min(gate.at, length_of(path)))
            if hypot(gx - x, gy - y) < reach:
                return gate.id
    return None


def begin(
    shop: Shop, paths: Mapping[str, Path], new: Run, angle: float, x: float, y: float, reach: float
) -> Run:
    """`new` begun where the press was: on a source's inlet, or as a branch at `angle` [deg] off a run, in
    line at its free end.

    Raises DrawingError where nothing can begin.
    """
    for thing in shop.things:
        if thing.source is None:
            continue
        ix, iy = thing.spot(thing.source.inlet_x, thing.source.inlet_y)
        if hypot(ix - x, iy - y) < reach or thing.covers(x, y):
            if any(run.source == thing.id for run in shop.ducts.runs):
                raise DrawingError(f"The inlet of {thing.name} is taken: branch off its run instead.")
            return replace(new, source=thing.id)
    found = run_under(paths, x, y, reach)
    if found is None:
        raise DrawingError(
            "A run begins at a collector's or vac's inlet, or on another run. Click one of those."
        )
    parent, at = found
    ends_free = next(run for run in shop.ducts.runs if run.id == parent).port is None
    in_line = ends_free and at > length_of(paths[parent]) - max(FREE_END, reach)
    return replace(
        new,
        joins=Join(run=parent, angle=angle) if in_line else Join(run=parent, at=round(at, 3), angle=angle),
    )


def size_at(shop: Shop, run: Run, sizes: Sequence[float]) -> float:
    """Of the sizes sold [m] the one nearest to the inlet that a run begins at; for a branch `run`'s own."""
    thing = shop.thing(run.source or "")
    if thing is None or thing.source is None:
        return run.diameter
    inlet = thing.source.inlet_diameter
    return min(sizes, key=lambda size: abs(size - inlet))


def is_on_vac(shop: Shop, run: Run) -> bool:
    """Whether a run begins at a vac, or on a run that does."""
    runs = {one.id: one for one in shop.ducts.runs}
    at: Run | None = run
    for _ in range(len(runs) + 1):
        if at is None or at.joins is None:
            break
        at = runs.get(at.joins.run)
    thing = shop.thing(at.source or "") if at is not None else None
    return thing is not None and thing.source is not None and thing.source.kind == "vac"


def stands(shop: Shop, run: Run) -> bool:
    """Whether what a half-drawn run began at is still in the shop."""
    if run.joins is not None:
        return any(one.id == run.joins.run for one in shop.ducts.runs)
    thing = shop.thing(run.source or "")
    return thing is not None and thing.source is not None


def port_under(shop: Shop, x: float, y: float, reach: float) -> PortRef | None:
    """The port within `reach` of a plan point. Raises DrawingError where it has a run already."""
    taken = shop.ducts.connected_ports
    for thing in shop.things:
        for port in thing.ports:
            px, py = thing.spot(port.x, port.y)
            if hypot(px - x, py - y) < reach:
                if (thing.id, port.id) in taken:
                    raise DrawingError(f"That port of {thing.name} has a run already.")
                return PortRef(thing=thing.id, port=port.id)
    return None


def line_under(
    shop: Shop, paths: Mapping[str, Path], run: Run, angle: float, x: float, y: float, reach: float
) -> Run | None:
    """A run from a source brought to the line of another source that lies under the pen, through a fitting of
    `angle` [deg]; None where there is none.
    """
    found = run_under(paths, x, y, reach) if run.source is not None else None
    if found is None or source_of(shop, found[0]) in (None, run.source):
        return None
    ends_free = next(one for one in shop.ducts.runs if one.id == found[0]).port is None
    in_line = ends_free and found[1] > length_of(paths[found[0]]) - max(FREE_END, reach)
    return replace(run, joins=Join(run=found[0], at=None if in_line else round(found[1], 3), angle=angle))


def source_of(shop: Shop, run_id: str) -> str | None:
    """The source that a run leads to, by its thing."""
    runs, at = {run.id: run for run in shop.ducts.runs}, run_id
    for _ in runs:
        run = runs.get(at)
        if run is None or run.joins is None:
            return run.source if run is not None else None
        at = run.joins.run
    return None


def path_of(shop: Shop, run: Run) -> Path:
    """The centre line that a run would have in the shop."""
    trial = put(shop, run)
    return run_paths(trial.ducts, trial.things)[run.id]


def squared(start: Plan, to: Plan) -> Plan:
    """The pointed place, drawn square or at 45° to `start` where it nearly is."""
    dx, dy = to[0] - start[0], to[1] - start[1]
    far = hypot(dx, dy)
    heading = degrees(atan2(dy, dx))
    square = round(heading / 45.0) * 45.0
    if far < 1e-6 or abs(heading - square) > SQUARE:
        return to
    return (start[0] + far * cos(radians(square)), start[1] + far * sin(radians(square)))


def with_corner(shop: Shop, run: Run, x: float, y: float, height: float) -> Run:
    """The run with a corner more at `height`, and a rise or drop before it where that is another height."""
    path = path_of(shop, run)
    points = list(run.points)
    if path and abs(path[-1][2] - height) > SAME_HEIGHT:
        points.append(Vertex(x=path[-1][0], y=path[-1][1], z=height))
    points.append(Vertex(x=round(x, 4), y=round(y, 4), z=height))
    return replace(run, points=tuple(points))


def finished(shop: Shop, run: Run) -> Run:
    """The run if it leads anywhere, named after the machine that it leads to. Raises DrawingError else."""
    if length_of(path_of(shop, run)) < SHORTEST:
        raise DrawingError("That run has no length; nothing was added.")
    if run.source is not None and run.joins is not None:
        thing = shop.thing(run.source)
        return replace(run, name=f"{(thing.name if thing else '') or run.source} line")
    if run.port is None:
        return run
    made = "hose" if materials()[run.material].kind == "hose" else "drop" if run.joins else "pipe"
    return replace(run, name=f"{_served(shop, run)} {made}")


def new_gate(shop: Shop, run: Run, at: float) -> Gate:
    """A gate `at` metres along a run from the fan's end, named after what it shuts off."""
    return Gate(id=fresh_id(shop, "gate"), name=f"{_served(shop, run)} gate", at=round(at, 3))


def _served(shop: Shop, run: Run) -> str:
    """The machine that a run ends at, else the run itself."""
    thing = shop.thing(run.port.thing) if run.port else None
    return (thing.name or thing.id) if thing else (run.name or run.id)


def move_corner(run: Run, held: Vertex, x: float, y: float, grid: float) -> Run:
    """A corner, and what hangs straight above or below it, elsewhere: on the grid, in line with a neighbour
    where it nearly is.
    """
    others = [point for point in run.points if hypot(point.x - held.x, point.y - held.y) > 1e-3]
    x, y = round(x / grid) * grid, round(y / grid) * grid
    x = next((other.x for other in others if abs(other.x - x) < LINE_UP), x)
    y = next((other.y for other in others if abs(other.y - y) < LINE_UP), y)
    return replace(
        run,
        points=tuple(
            replace(p, x=x, y=y) if hypot(p.x - held.x, p.y - held.y) <= 1e-3 else p for p in run.points
        ),
    )


def with_corner_at(run: Run, path: Path, at: float) -> Run:
    """The run with a corner more where its centre line passes `at` metres from the fan's end."""
    x, y, z = point_along(path, at)
    before = len(path) - len(run.points) - (1 if run.port is not None else 0)  # 1: the path begins elsewhere
    walked, passed = 0.0, 0
    for a, b in itertools.pairwise(path):
        walked += dist(a, b)
        if walked >= at:
            break
        passed += 1
    index = min(max(0, passed + 1 - before), len(run.points))
    corner = Vertex(x=round(x, 4), y=round(y, 4), z=round(max(0.0, z), 4))
    return replace(run, points=(*run.points[:index], corner, *run.points[index:]))


def without_corner(run: Run, held: Vertex) -> Run:
    """The run without a corner; a rise or drop goes as a whole, with both its corners."""
    kept = tuple(p for p in run.points if hypot(p.x - held.x, p.y - held.y) > SHORTEST)
    return replace(run, points=kept)


def places_to_begin(shop: Shop, paths: Mapping[str, Path]) -> list[Plan]:
    """Where a run can begin: inlets, then along the runs."""
    return [
        thing.spot(thing.source.inlet_x, thing.source.inlet_y) for thing in shop.things if thing.source
    ] + places_for_gates(paths)


def places_for_gates(paths: Mapping[str, Path]) -> list[Plan]:
    """Places along the runs."""
    return [
        point_along(path, length_of(path) * share)[:2]
        for path in paths.values()
        if len(path) > 1
        for share in (0.3, 0.6, 1.0)
    ]


def places_to_end(shop: Shop, paths: Mapping[str, Path], run: Run) -> list[Plan]:
    """Ports that no run leads to yet; from a source places on the lines of others, too."""
    taken = shop.ducts.connected_ports
    ports = [
        thing.spot(port.x, port.y)
        for thing in shop.things
        for port in thing.ports
        if (thing.id, port.id) not in taken
    ]
    if run.source is None:
        return ports
    others = {key: path for key, path in paths.items() if source_of(shop, key) not in (None, run.source)}
    return ports + places_for_gates(others)
