"""Which runs stay on their machines when things stand elsewhere: a hose follows as far as it is long, a pipe
does not.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from math import dist

from purvel.airflow.layout import layouts
from purvel.airflow.paths import Path, length_of, run_paths
from purvel.airflow.segments import Layout
from purvel.catalogue import materials
from purvel.shop import GateSet, Run, Shop, Vertex
from purvel.shop.parts import without_lost

SAME_PLACE = 1e-3  # m: less is no move
STRETCH = 1e-6  # m: a hose that is just long enough is long enough


@dataclass(frozen=True, slots=True)
class Coupled:
    """The shop with its runs as they hold where things stand now; the ids of runs that let go of their
    machine, of sources that are away with their ducts, and of gate sets that open no hood any more.
    """

    shop: Shop
    let_go: tuple[str, ...]
    sources_away: tuple[str, ...]
    gate_sets_out: tuple[str, ...]


def coupled(drawn: Shop, standing: Shop) -> Coupled:
    """How the ducts of a shop hold when its things stand as they do in `standing`.

    A run whose end moved stays on if it is hose and the way is no longer than the hose stretched [m]: hung
    length over (1 - slack). Else it lets go, and its end is left where it was drawn. Where a source is away,
    or its pipe let go of it, its ducts are left out.
    """
    before, after = run_paths(drawn.ducts, drawn.things), run_paths(standing.ducts, standing.things)
    there = {thing.id for thing in standing.things}
    let_go, away = [], []
    runs = []
    for run in standing.ducts.runs:
        holds = _holds(run, before[run.id], after[run.id])
        if run.source is not None and (
            run.source not in there or not (holds or _only_end_moved(before, after, run))
        ):
            away.append(run.source)
            continue
        if run.port is not None and (run.port.thing not in there or not holds):
            let_go.append(run.id)
            run = _end_left(run, before[run.id])
        runs.append(run)
    if not let_go and not away:
        return Coupled(without_lost(standing), (), (), ())
    rest = without_lost(replace(standing, ducts=replace(standing.ducts, runs=tuple(runs))))
    out = _without_hood(
        layouts(drawn.ducts, drawn.things), layouts(rest.ducts, rest.things), rest.ducts.gate_sets
    )
    sets = tuple(one for one in rest.ducts.gate_sets if one.id not in out)
    shop = replace(rest, ducts=replace(rest.ducts, gate_sets=sets))
    return Coupled(shop, tuple(let_go), tuple(dict.fromkeys(away)), out)


def _holds(run: Run, before: Path, after: Path) -> bool:
    """Whether a run reaches from end to end as it did."""
    if not before or not after:
        return True
    moved = max(dist(before[0], after[0]), dist(before[-1], after[-1]))
    if moved < SAME_PLACE:
        return True
    stretched = length_of(before) / max(1.0 - run.slack, 0.01)
    return materials()[run.material].kind == "hose" and length_of(after) <= stretched + STRETCH


def _only_end_moved(before: Mapping[str, Path], after: Mapping[str, Path], run: Run) -> bool:
    """Whether the fan's end of a run is where it was: then it lets go of its machine, not of its source."""
    old, new = before[run.id], after[run.id]
    return bool(old) and bool(new) and dist(old[0], new[0]) < SAME_PLACE


def _end_left(run: Run, before: Path) -> Run:
    """A run off its port, ending where it was drawn to."""
    if not before:
        return replace(run, port=None)
    x, y, z = before[-1]
    return replace(run, port=None, points=(*run.points, Vertex(x=x, y=y, z=max(0.0, z))))


def _without_hood(
    before: Iterable[Layout], after: Iterable[Layout], gate_sets: Iterable[GateSet]
) -> tuple[str, ...]:
    """Gate sets that opened a hood before and open none now."""
    then, now = tuple(before), tuple(after)
    return tuple(one.id for one in gate_sets if _opens_hood(then, one) and not _opens_hood(now, one))


def _opens_hood(systems: Iterable[Layout], gate_set: GateSet) -> bool:
    opened = set(gate_set.open)
    for layout in systems:
        for hood in layout.hoods:
            gates = {gate for index in layout.way(hood) for gate in layout.segments[index].gates}
            if gates and gates <= opened:
                return True
    return False
