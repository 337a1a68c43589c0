"""From runs as drawn to a tree of segments: elbows, branches, changes of size and gates are recognised from
the drawing.

The drawing goes from the fan out; the air goes the other way. A segment is a piece of one run between two
branch points.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from math import cos, inf, pi, radians, sin

from purvel.airflow.fittings import elbow_loss, size_change
from purvel.airflow.friction import HOSE_SLACK_SPREAD, slack_multiplier
from purvel.airflow.paths import (
    SAME_PLACE,
    STRAIGHT_ENOUGH,
    Path,
    corners_in,
    cut,
    direction_at,
    length_of,
    port_of,
    run_paths,
    turn_between,
)
from purvel.airflow.segments import Fitting, FittingKind, Friction, Hood, Layout, Segment
from purvel.catalogue import Elbow, elbows, gate_open_loss, materials
from purvel.libraries import Array, np
from purvel.shop import Ducts, Run, Thing
from purvel.shop.things import Facing

_RISER_SHARE = 0.3  # m of rise from which a segment counts as a riser
_AT_THE_START = 1e-3  # m: a branch nearer than this to where its parent starts is in the joint that is there
_LEAST_ANGLE, _MOST_ANGLE = 15.0, 90.0  # deg, of a branch fitting


def layouts(ducts: Ducts, things: tuple[Thing, ...]) -> tuple[Layout, ...]:
    """One tree for each source that has a run on its inlet.

    Runs that lead to no source are in none of them.
    """
    paths = run_paths(ducts, things)
    found = []
    for thing in things:
        roots = [run for run in ducts.runs if run.source == thing.id and len(paths[run.id]) >= 2]
        if thing.source is not None and roots:
            builder = _Builder(ducts, things, paths, thing)
            for root in roots:
                builder.add_run(root, -1, None)
            found.append(Layout(thing.id, thing.source, tuple(builder.segments)))
    return tuple(found)


@dataclass(frozen=True, slots=True)
class _Start:
    """How a run leaves its parent: in line or through a branch fitting of `angle`, with the turn [deg] drawn,
    off a `diameter` [m].
    """

    in_line: bool
    angle: float
    turn: float
    diameter: float


@dataclass(frozen=True, slots=True)
class _Piece:
    """A piece of a run between two branch points, in metres along it; its number on the run, and whether it
    is the last.
    """

    run: Run
    path: Path
    begins: float
    ends: float
    number: int
    is_last: bool


class _Builder:
    def __init__(
        self, ducts: Ducts, things: tuple[Thing, ...], paths: Mapping[str, Path], source: Thing
    ) -> None:
        assert source.source is not None
        self.paths, self.source, self.inlet = paths, source, source.source
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
            piece = _Piece(run, path, begins, ends, number, number == len(cuts) - 2)
            self.segments.append(self._segment(piece, downstream, start if number == 0 else None))
            pieces.append((ends, index))
            downstream = index
        at_end = sum(1 for other, _ in joins if other >= total)
        first = self.segments[pieces[0][1]].downstream
        for at, joined in joins:
            if at < _AT_THE_START and first < 0:
                self.add_run(joined, -1, None)  # it meets its parent at the source's inlet
                continue
            below = first if at < _AT_THE_START else self._below(at, pieces)
            at_start = at < _AT_THE_START
            out = direction_at(self.segments[below].path, inf) if at_start else direction_at(path, at)
            leaves = direction_at(self.paths[joined.id], 0.0)
            turn, diameter = turn_between(out, leaves), self.segments[below].diameter
            assert joined.joins is not None
            angle, in_line = joined.joins.angle, False
            if at >= total and run.port is None:  # runs that go on from the far end, at angles as drawn
                in_line = at_end == 1 or turn < STRAIGHT_ENOUGH
                angle = min(max(turn, _LEAST_ANGLE), _MOST_ANGLE)
            self.add_run(joined, below, _Start(in_line, angle, turn, diameter))

    @staticmethod
    def _at(joined: Run, parent: Run, total: float) -> float:
        assert joined.joins is not None
        at = joined.joins.at
        if parent.port is not None:  # nothing can join beyond the hood
            return min(total if at is None else max(at, 0.0), max(total - 0.01, 0.0))
        return total if at is None or at > total - 1e-3 else max(at, 0.0)

    @staticmethod
    def _below(at: float, pieces: list[tuple[float, int]]) -> int:
        for ends, index in pieces:
            if at <= ends + SAME_PLACE:
                return index
        return pieces[-1][1]

    def _segment(self, piece: _Piece, downstream: int, start: _Start | None) -> Segment:
        run, begins, ends = piece.run, piece.begins, piece.ends
        material = materials()[run.material]
        hood = self._hood(run) if piece.is_last else None
        gates = tuple(
            gate.id for gate in run.gates if begins <= gate.at < ends or (piece.is_last and gate.at >= ends)
        )
        fittings = [*self._turns(piece, start), *self._widths(piece, downstream, start)]
        fittings += self._ends(piece, downstream)
        fittings += [_fitting(run, "gate", "Open gate", gate_open_loss())] * len(gates)
        if hood is not None:
            fittings += _size_change(run, hood.diameter, run.diameter)
        friction = _friction(run)
        path = cut(piece.path, begins, ends)
        return Segment(
            id=f"{run.id}.{piece.number + 1}",
            run=run.id,
            downstream=downstream,
            begins=begins,
            ends=ends,
            path=path,
            diameter=run.diameter,
            roughness=friction.roughness,
            multiplier=friction.multiplier,
            length=ends - begins,
            role=self._role(piece, path, material.kind),
            fittings=tuple(fittings),
            gates=gates,
            hood=hood,
            is_branch=start is not None and not start.in_line,
            angle=start.angle if start is not None else 0.0,
            hose=_hose_bounds(run) if material.kind == "hose" else None,
        )

    def _turns(self, piece: _Piece, start: _Start | None) -> Iterator[Fitting]:
        elbow = _elbow(piece.run)
        for corner in corners_in(piece.path, piece.begins, piece.ends):
            yield _fitting(piece.run, "elbow", f"{elbow.name}, {corner:.0f}°", elbow_loss(elbow.loss, corner))
        if start is not None:
            extra = start.turn if start.in_line else abs(start.turn - start.angle)
            if extra > STRAIGHT_ENOUGH:
                name = f"{elbow.name}, {extra:.0f}° behind the joint"
                yield _fitting(piece.run, "elbow", name, elbow_loss(elbow.loss, extra))

    def _widths(self, piece: _Piece, downstream: int, start: _Start | None) -> Iterator[Fitting]:
        """Changes of size at the fan's end of a run."""
        run = piece.run
        if start is not None and start.in_line:
            yield from _size_change(run, run.diameter, start.diameter)
        if piece.number == 0 and downstream == -1:
            yield from _size_change(run, run.diameter, self.inlet.inlet_diameter)

    def _ends(self, piece: _Piece, downstream: int) -> Iterator[Fitting]:
        """Elbows where a run leaves the source's inlet or a port another way than that one faces."""
        path = piece.path
        if piece.number == 0 and downstream == -1:
            heading = radians(self.source.angle + self.inlet.inlet_direction)
            faces = (cos(heading), sin(heading), 0.0)
            yield from _elbow_at(piece.run, faces, direction_at(path, 0.0), "at the inlet")
        port = port_of(piece.run, self.by_id)
        if piece.is_last and port is not None and piece.run.port is not None and port.faces is not None:
            faces = _FACES[port.faces](radians(self.by_id[piece.run.port.thing].angle))
            yield from _elbow_at(piece.run, faces, -direction_at(path, inf), "at the port")

    def _role(self, piece: _Piece, path: Path, kind: str) -> str:
        if kind == "hose":
            return "hose"
        rise = sum(abs(b[2] - a[2]) for a, b in itertools.pairwise(path))
        if rise > max(_RISER_SHARE, 0.5 * length_of(path)):
            return "riser"
        feeds_more = not piece.is_last or bool(self.on.get(piece.run.id))
        return "main" if feeds_more else "branch"

    def _hood(self, run: Run) -> Hood | None:
        port = port_of(run, self.by_id)
        if port is None or run.port is None:
            return None
        return Hood(
            run.port.thing,
            port.id,
            port.diameter,
            port.entry_loss,
            port.chips_flow,
            port.fine_flow,
            port.carries,
        )


_FACES: dict[Facing, Callable[[float], tuple[float, float, float]]] = {
    "right": lambda turned: (cos(turned), sin(turned), 0.0),
    "away": lambda turned: (-sin(turned), cos(turned), 0.0),
    "left": lambda turned: (-cos(turned), -sin(turned), 0.0),
    "near": lambda turned: (sin(turned), -cos(turned), 0.0),
    "up": lambda _: (0.0, 0.0, 1.0),
    "down": lambda _: (0.0, 0.0, -1.0),
}
"""Which way a port faces on the plan when its thing is turned [rad]."""


def _elbow_at(run: Run, faces: tuple[float, float, float], leaves: Array, where: str) -> Iterator[Fitting]:
    turn = turn_between(np.array(faces), leaves)
    if turn > STRAIGHT_ENOUGH:
        elbow = _elbow(run)
        yield _fitting(run, "elbow", f"{elbow.name}, {turn:.0f}° {where}", elbow_loss(elbow.loss, turn))


def _elbow(run: Run) -> Elbow:
    return elbows()["hose-bend" if materials()[run.material].kind == "hose" else run.elbow]


def _fitting(run: Run, kind: FittingKind, name: str, loss: float, section: float | None = None) -> Fitting:
    """A fitting of a run; its loss on the velocity pressure of `section` [m], the run's own where none is
    named.
    """
    at = section or run.diameter
    area = pi / 4 * run.diameter**2
    return Fitting(kind, name, loss * (area / (pi / 4 * at**2)) ** 2, at, loss)


def _size_change(run: Run, upstream: float, downstream: float) -> Iterator[Fitting]:
    """The taper between two diameters [m], if they differ."""
    if abs(upstream - downstream) > 1e-6:
        loss, small = size_change(upstream, downstream), min(upstream, downstream)
        if upstream > downstream:
            yield _fitting(run, "reducer", "Reducer", loss, small)
        else:
            yield _fitting(run, "widening", "Widening", loss, small)


def _friction(run: Run) -> Friction:
    material = materials()[run.material]
    if material.kind != "hose":
        return Friction(material.roughness)
    return Friction(material.roughness, slack_multiplier(run.diameter, run.slack))


def _hose_bounds(run: Run) -> tuple[Friction, Friction]:
    """A hose's friction at either end of what is known of its roughness and of what slack does to it."""
    smooth, rough = (
        Friction(roughness, slack_multiplier(run.diameter, run.slack, share))
        for roughness, share in zip(materials()[run.material].spread, HOSE_SLACK_SPREAD)
    )
    return smooth, rough
