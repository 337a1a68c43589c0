"""From runs as drawn to a tree of segments: elbows, branches, changes of size and gates are recognised from
the drawing.

The drawing goes from the fan out; the air goes the other way. A segment is a piece of one run between two
branch points.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from math import inf, radians

from purvel.airflow.fittings import elbow_loss
from purvel.airflow.paths import (
    SAME_PLACE,
    STRAIGHT_ENOUGH,
    Path,
    corners_in,
    cut,
    direction_at,
    length_of,
    opposite,
    port_of,
    run_paths,
    turn_between,
)
from purvel.airflow.run_losses import (
    FACES,
    elbow_at,
    elbow_fitting,
    elbow_of,
    fitting,
    friction_of,
    hose_bounds,
    in_run,
    inlet_faces,
    sagging,
    size_changes,
)
from purvel.airflow.segments import Fitting, Hood, Layout, SecondSource, Segment
from purvel.catalogue import gate_open_loss, materials
from purvel.shop import Ducts, Gate, Run, Thing

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
        roots = [
            run
            for run in ducts.runs
            if run.source == thing.id and run.joins is None and len(paths[run.id]) >= 2
        ]
        if thing.source is not None and roots:
            builder = _Builder(ducts, things, paths, thing)
            for root in roots:
                builder.add_run(root, -1, None)
            found.append(builder.layout())
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
        self.paths = dict(paths)  # each from the end that is nearer to the source of the tree
        self.source, self.inlet = source, source.source
        self.by_id = {thing.id: thing for thing in things}
        self.runs = {run.id: run for run in ducts.runs}
        self.segments: list[Segment] = []
        self.others: list[SecondSource] = []
        self.on: dict[str, list[Run]] = {}
        for run in ducts.runs:
            if _brings_source(run):
                self.paths[run.id] = self.paths[run.id][::-1]
            if run.joins is not None and len(paths[run.id]) >= 2:
                self.on.setdefault(run.joins.run, []).append(run)

    def layout(self) -> Layout:
        """The tree, once all its runs are in."""
        assert self.source.source is not None
        layout = Layout(self.source.id, self.source.source, tuple(self.segments), tuple(self.others))
        between = layout.either_way
        turned = (
            replace(one, fittings=(*one.fittings, self._turn_off(one)))
            if one.is_branch and one.downstream in between
            else one
            for one in layout.segments
        )
        return replace(layout, segments=tuple(turned)) if between else layout

    def _turn_off(self, branch: Segment) -> Fitting:
        """What a branch costs where air may go either way: as much as an elbow of its angle."""
        run = self.runs[branch.run]
        elbow = elbow_of(run)
        name = f"Branch of {branch.angle:.0f}°, as an elbow"
        return fitting(run, "turn-off", name, elbow_loss(elbow.loss, branch.angle))

    def add_run(self, run: Run, downstream: int, start: _Start | None) -> None:
        """Adds a run's segments and then all that joins it. `start` says how it leaves its parent."""
        path = self.paths[run.id]
        total = length_of(path)
        joins = [(self._at(joined, run, total), joined) for joined in self.on.get(run.id, [])]
        brought = self.by_id.get(run.source or "") if _brings_source(run) else None
        if brought is not None:
            joins = [(total - at, joined) for at, joined in joins]
        cuts = sorted({0.0, total, *(at for at, _ in joins if 0.0 < at < total)})
        pieces: list[tuple[float, int]] = []  # where each piece ends, its index
        for number, (begins, ends) in enumerate(itertools.pairwise(cuts)):
            index = len(self.segments)
            piece = _Piece(run, path, begins, ends, number, number == len(cuts) - 2)
            self.segments.append(self._segment(piece, downstream, start if number == 0 else None))
            pieces.append((ends, index))
            downstream = index
        if brought is not None and brought.source is not None:
            self.others.append(SecondSource(brought.id, brought.source, downstream))
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
        on = [gate for gate in run.gates if self._is_on(gate, piece)]
        fittings = [*self._turns(piece, start), *self._widths(piece, downstream, start)]
        fittings += self._ends(piece, downstream)
        fittings += [fitting(run, "gate", "Open gate", gate_open_loss())] * len(on)
        fittings += in_run(run) if piece.number == 0 else ()
        fittings += sagging(run, ends - begins)
        if hood is not None:
            fittings += size_changes(run, hood.diameter, run.diameter)
        friction = friction_of(run)
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
            gates=tuple(gate.id for gate in on),
            gaps=tuple(gate.gap for gate in on),
            hood=hood,
            is_branch=start is not None and not start.in_line,
            angle=start.angle if start is not None else 0.0,
            hose=hose_bounds(run) if material.kind == "hose" else None,
        )

    def _is_on(self, gate: Gate, piece: _Piece) -> bool:
        at = gate.at
        if _brings_source(piece.run):  # told from its source's end
            at = max(length_of(piece.path) - at, 0.0)
        return piece.begins <= at < piece.ends or (piece.is_last and at >= piece.ends)

    def _turns(self, piece: _Piece, start: _Start | None) -> Iterator[Fitting]:
        for corner in corners_in(piece.path, piece.begins, piece.ends):
            yield elbow_fitting(piece.run, corner)
        if start is not None:
            extra = start.turn if start.in_line else abs(start.turn - start.angle)
            if extra > STRAIGHT_ENOUGH:
                yield elbow_fitting(piece.run, extra, " behind the joint")

    def _widths(self, piece: _Piece, downstream: int, start: _Start | None) -> Iterator[Fitting]:
        """Changes of size at the fan's end of a run."""
        run = piece.run
        if start is not None and start.in_line:
            ends = (run.diameter, start.diameter)
            yield from size_changes(run, *(reversed(ends) if _brings_source(run) else ends))
        if piece.number == 0 and downstream == -1:
            yield from size_changes(run, run.diameter, self.inlet.inlet_diameter)
        brought = self._brought(piece)
        if brought is not None and brought.source is not None:
            yield from size_changes(run, run.diameter, brought.source.inlet_diameter)

    def _ends(self, piece: _Piece, downstream: int) -> Iterator[Fitting]:
        """Elbows where a run leaves the source's inlet or a port another way than that one faces."""
        path = piece.path
        if piece.number == 0 and downstream == -1:
            faces = inlet_faces(self.source, self.inlet)
            yield from elbow_at(piece.run, faces, direction_at(path, 0.0), "at the inlet")
        brought = self._brought(piece)
        if brought is not None and brought.source is not None:
            faces = inlet_faces(brought, brought.source)
            yield from elbow_at(piece.run, faces, opposite(direction_at(path, inf)), "at the inlet")
        port = port_of(piece.run, self.by_id)
        if piece.is_last and port is not None and piece.run.port is not None and port.faces is not None:
            faces = FACES[port.faces](radians(self.by_id[piece.run.port.thing].angle))
            yield from elbow_at(piece.run, faces, opposite(direction_at(path, inf)), "at the port")

    def _brought(self, piece: _Piece) -> Thing | None:
        """The second source at the far end of a piece."""
        return self.by_id.get(piece.run.source or "") if piece.is_last and _brings_source(piece.run) else None

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


def _brings_source(run: Run) -> bool:
    """Whether a run brings a second source to another run."""
    return run.source is not None and run.joins is not None
