"""From runs as drawn to a tree of segments: elbows, branches, changes of size and gates are recognised from
the drawing.

The drawing goes from the fan out; the air goes the other way. A segment is a piece of one run between two
branch points.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterable
from dataclasses import dataclass
from math import acos, degrees, pi
from typing import Literal

from purvel.airflow.fittings import elbow_loss, size_change
from purvel.airflow.friction import HOSE_SLACK_SPREAD, slack_multiplier
from purvel.catalogue import elbows, gate_open_loss, materials
from purvel.libraries import Array, np
from purvel.shop import Ducts, Port, Run, Source, Thing

Path = tuple[tuple[float, float, float], ...]
HoseLoss = Literal["low", "central", "high"]

STRAIGHT_ENOUGH = 8.0  # deg: turns below this are pipe laid by eye, not fittings
_SAME_PLACE = 1e-6
_RISER_SHARE = 0.3  # m of rise from which a segment counts as a riser


@dataclass(frozen=True, slots=True)
class Fitting:
    """A loss in a segment: its coefficient on the segment's own velocity pressure [-], and as published on
    that of `section` [m].
    """

    name: str
    loss: float
    section: float
    loss_there: float


@dataclass(frozen=True, slots=True)
class Hood:
    """A machine's port at the end of a segment."""

    thing: str
    port: str
    diameter: float
    entry_loss: float
    chips_flow: float
    fine_flow: float


@dataclass(frozen=True, slots=True)
class Segment:
    """A piece of one run between two branch points, from its downstream (fan) end to its upstream (hood) end.

    `downstream` is the index of the segment it flows into, -1 for the source. `begins` and `ends` are metres
    along the run as drawn. `role` says what speed is asked of it. `multiplier` raises friction for slack
    hose.
    """

    id: str
    run: str
    downstream: int
    begins: float
    ends: float
    path: Path
    diameter: float
    roughness: float
    multiplier: float
    length: float
    role: str
    fittings: tuple[Fitting, ...]
    gates: tuple[str, ...]
    hood: Hood | None
    is_branch: bool
    angle: float

    @property
    def area(self) -> float:
        """Cross-section [m2]."""
        return pi / 4 * self.diameter**2


@dataclass(frozen=True, slots=True)
class Layout:
    """The tree of one source: segments with every downstream one before its upstream ones.

    Runs that share its inlet meet there without a loss.
    """

    source_thing: str
    source: Source
    segments: tuple[Segment, ...]

    @property
    def hoods(self) -> tuple[int, ...]:
        """Indices of segments that end at a hood."""
        return tuple(i for i, segment in enumerate(self.segments) if segment.hood is not None)

    def joints(self) -> dict[int, list[int]]:
        """For each segment that others flow into, their indices."""
        found: dict[int, list[int]] = {}
        for index, segment in enumerate(self.segments):
            if segment.downstream >= 0:
                found.setdefault(segment.downstream, []).append(index)
        return found

    def way(self, index: int) -> tuple[int, ...]:
        """Indices from a segment down to the source."""
        found = []
        while index >= 0:
            found.append(index)
            index = self.segments[index].downstream
        return tuple(found)


def run_paths(ducts: Ducts, things: Iterable[Thing]) -> dict[str, Path]:
    """The centre line of each run as it lies now, from the fan's end; ends at machines follow the machines."""
    by_id = {thing.id: thing for thing in things}
    runs = {run.id: run for run in ducts.runs}
    found: dict[str, Path] = {}

    def path(run: Run, on_the_way: frozenset[str]) -> Path:
        if run.id in found:
            return found[run.id]
        points = [(point.x, point.y, point.z) for point in run.points]
        source = by_id.get(run.source) if run.source else None
        if source is not None and source.source is not None:
            x, y = source.spot(source.source.inlet_x, source.source.inlet_y)
            points.insert(0, (x, y, source.z + source.source.inlet_z))
        elif run.joins and run.joins.run in runs and run.joins.run not in on_the_way:
            parent = path(runs[run.joins.run], on_the_way | {run.id})
            if parent:
                points.insert(
                    0, point_along(parent, length_of(parent) if run.joins.at is None else run.joins.at)
                )
        port = port_of(run, by_id)
        if port is not None and run.port is not None:
            machine = by_id[run.port.thing]
            x, y = machine.spot(port.x, port.y)
            points.append((x, y, machine.z + port.z))
        found[run.id] = tuple(
            point for i, point in enumerate(points) if i == 0 or _distance(point, points[i - 1]) > _SAME_PLACE
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


def _distance(a: Iterable[float], b: Iterable[float]) -> float:
    return float(np.linalg.norm(np.subtract(tuple(a), tuple(b))))


def length_of(path: Path) -> float:
    """Length of a centre line [m]."""
    return sum(_distance(a, b) for a, b in itertools.pairwise(path))


def point_along(path: Path, at: float) -> tuple[float, float, float]:
    """The point `at` metres along a path, held to its ends."""
    for a, b in itertools.pairwise(path):
        piece = _distance(a, b)
        if at <= piece:
            t = max(0.0, at) / piece
            return (a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1]), a[2] + t * (b[2] - a[2]))
        at -= piece
    return path[-1]


def direction_at(path: Path, at: float) -> Array:
    """The unit direction of a path `at` metres along it."""
    for a, b in itertools.pairwise(path):
        piece = _distance(a, b)
        if at <= piece + _SAME_PLACE:
            return np.subtract(b, a) / piece
        at -= piece
    return np.subtract(path[-1], path[-2]) / _distance(path[-2], path[-1])


def turn_between(a: Array, b: Array) -> float:
    """The angle between two directions [deg]."""
    return degrees(acos(float(np.clip(np.dot(a, b) / (np.linalg.norm(a) * np.linalg.norm(b)), -1.0, 1.0))))


def cut(path: Path, start: float, end: float) -> Path:
    """The part of a path between two distances along it."""
    inner: list[tuple[float, float, float]] = []
    walked = 0.0
    for a, b in itertools.pairwise(path):
        walked += _distance(a, b)
        if start + _SAME_PLACE < walked < end - _SAME_PLACE:
            inner.append(b)
    return (point_along(path, start), *inner, point_along(path, end))


def layouts(ducts: Ducts, things: tuple[Thing, ...], hose: HoseLoss = "central") -> tuple[Layout, ...]:
    """One tree for each source that has a run on its inlet.

    Runs that lead to no source are in none of them.

    `hose` takes hoses as they mostly are, or at either end of what is known of their roughness and of what
    slack does to them.
    """
    paths = run_paths(ducts, things)
    found = []
    for thing in things:
        roots = [run for run in ducts.runs if run.source == thing.id and len(paths[run.id]) >= 2]
        if thing.source is not None and roots:
            builder = _Builder(ducts, things, paths, hose)
            for root in roots:
                builder.add_run(root, -1, None)
            found.append(Layout(thing.id, thing.source, tuple(builder.segments)))
    return tuple(found)


class _Builder:
    def __init__(
        self, ducts: Ducts, things: tuple[Thing, ...], paths: dict[str, Path], hose: HoseLoss
    ) -> None:
        self.paths, self.hose = paths, hose
        self.by_id = {thing.id: thing for thing in things}
        self.segments: list[Segment] = []
        self.on: dict[str, list[Run]] = {}
        for run in ducts.runs:
            if run.joins is not None and len(paths[run.id]) >= 2:
                self.on.setdefault(run.joins.run, []).append(run)

    def add_run(self, run: Run, downstream: int, start: _Start | None) -> None:
        """Adds a run's segments and then all that joins it. `start` says how it leaves its parent."""
        path = self.paths[run.id]
        total = length_of(path)
        joins = [(self._at(joined, run, total), joined) for joined in self.on.get(run.id, [])]
        cuts = sorted({0.0, total, *(at for at, _ in joins if 0.0 < at < total)})
        pieces: list[tuple[float, int]] = []  # where each piece ends, its index
        for number, (begins, ends) in enumerate(itertools.pairwise(cuts)):
            index = len(self.segments)
            first, last = number == 0, number == len(cuts) - 2
            self.segments.append(
                self._segment(run, path, begins, ends, number, downstream, start if first else None, last)
            )
            pieces.append((ends, index))
            downstream = index
        for at, joined in joins:
            below = self._below(at, total, pieces)
            in_line = at >= total and run.port is None and sum(1 for other, _ in joins if other >= total) == 1
            out = direction_at(path, at)
            leaves = direction_at(self.paths[joined.id], 0.0)
            assert joined.joins is not None
            self.add_run(
                joined,
                below,
                _Start(in_line, joined.joins.angle, turn_between(out, leaves), self.segments[below].diameter),
            )

    @staticmethod
    def _at(joined: Run, parent: Run, total: float) -> float:
        assert joined.joins is not None
        at = joined.joins.at
        if parent.port is not None:  # nothing can join beyond the hood
            return min(total if at is None else max(at, 0.0), max(total - 0.01, 0.0))
        return total if at is None or at > total - 1e-3 else max(at, 0.0)

    @staticmethod
    def _below(at: float, total: float, pieces: list[tuple[float, int]]) -> int:
        for ends, index in pieces:
            if at <= ends + _SAME_PLACE:
                return index
        return pieces[-1][1]

    def _segment(
        self,
        run: Run,
        path: Path,
        begins: float,
        ends: float,
        number: int,
        downstream: int,
        start: _Start | None,
        last: bool,
    ) -> Segment:
        material = materials()[run.material]
        roughness, multiplier = self._friction(run)
        fittings: list[Fitting] = []
        area = pi / 4 * run.diameter**2

        def add(name: str, loss: float, section: float | None = None) -> None:
            at = section or run.diameter
            fittings.append(Fitting(name, loss * (area / (pi / 4 * at**2)) ** 2, at, loss))

        elbow = elbows()["hose-bend" if material.kind == "hose" else run.elbow]
        piece = cut(path, begins, ends)
        for corner in _corners(path, begins, ends):
            add(f"{elbow.name}, {corner:.0f}°", elbow_loss(elbow.loss, corner))
        if start is not None:
            extra = start.turn if start.in_line else abs(start.turn - start.angle)
            if extra > STRAIGHT_ENOUGH:
                add(f"{elbow.name}, {extra:.0f}° behind the joint", elbow_loss(elbow.loss, extra))
            if start.in_line and abs(start.diameter - run.diameter) > 1e-6:
                small = min(start.diameter, run.diameter)
                add(
                    _change_name(run.diameter, start.diameter),
                    size_change(run.diameter, start.diameter),
                    small,
                )
        if number == 0 and downstream == -1 and run.source is not None:
            inlet = self.by_id[run.source].source
            assert inlet is not None
            if abs(inlet.inlet_diameter - run.diameter) > 1e-6:
                small = min(inlet.inlet_diameter, run.diameter)
                add(
                    _change_name(run.diameter, inlet.inlet_diameter),
                    size_change(run.diameter, inlet.inlet_diameter),
                    small,
                )
        gates = tuple(gate.id for gate in run.gates if begins <= gate.at < ends or (last and gate.at >= ends))
        for _ in gates:
            add("Open gate", gate_open_loss())
        hood = self._hood(run) if last else None
        if hood is not None and abs(hood.diameter - run.diameter) > 1e-6:
            add(
                _change_name(hood.diameter, run.diameter),
                size_change(hood.diameter, run.diameter),
                min(hood.diameter, run.diameter),
            )
        return Segment(
            id=f"{run.id}.{number + 1}",
            run=run.id,
            downstream=downstream,
            begins=begins,
            ends=ends,
            path=piece,
            diameter=run.diameter,
            roughness=roughness,
            multiplier=multiplier,
            length=ends - begins,
            role=self._role(run, piece, last, material.kind),
            fittings=tuple(fittings),
            gates=gates,
            hood=hood,
            is_branch=start is not None and not start.in_line,
            angle=start.angle if start is not None else 0.0,
        )

    def _friction(self, run: Run) -> tuple[float, float]:
        """Roughness [m] and what slack multiplies friction by [-]."""
        material = materials()[run.material]
        if material.kind != "hose":
            return material.roughness, 1.0
        if self.hose == "central":
            return material.roughness, slack_multiplier(run.diameter, run.slack)
        end = 0 if self.hose == "low" else 1
        return material.spread[end], slack_multiplier(run.diameter, run.slack, HOSE_SLACK_SPREAD[end])

    def _role(self, run: Run, piece: Path, last: bool, kind: str) -> str:
        if kind == "hose":
            return "hose"
        if sum(abs(b[2] - a[2]) for a, b in itertools.pairwise(piece)) > max(
            _RISER_SHARE, 0.5 * length_of(piece)
        ):
            return "riser"
        feeds_more = not last or bool(self.on.get(run.id))
        return "main" if feeds_more else "branch"

    def _hood(self, run: Run) -> Hood | None:
        port = port_of(run, self.by_id)
        if port is None or run.port is None:
            return None
        return Hood(run.port.thing, port.id, port.diameter, port.entry_loss, port.chips_flow, port.fine_flow)


@dataclass(frozen=True, slots=True)
class _Start:
    """How a run leaves its parent: in line or through a branch fitting of `angle`, with the turn [deg] drawn,
    off a `diameter` [m].
    """

    in_line: bool
    angle: float
    turn: float
    diameter: float


def _corners(path: Path, begins: float, ends: float) -> list[float]:
    """Turns [deg] at the corners of a path that lie in (begins, ends]."""
    found = []
    walked = 0.0
    for a, b, c in zip(path, path[1:], path[2:]):
        walked += _distance(a, b)
        turn = turn_between(np.subtract(b, a), np.subtract(c, b))
        if begins < walked <= ends and turn > STRAIGHT_ENOUGH:
            found.append(turn)
    return found


def _change_name(upstream: float, downstream: float) -> str:
    return "Reducer" if upstream > downstream else "Widening"
