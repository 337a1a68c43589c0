"""The straight pieces of pipe that a duct system is cut from: between elbows, branch fittings, gates and
ends.
"""

from __future__ import annotations

import itertools
from collections.abc import Mapping
from dataclasses import dataclass
from math import radians, tan

from purvel.airflow.paths import STRAIGHT_ENOUGH, Path, length_of, towards, turn_between
from purvel.catalogue import elbows, materials
from purvel.shop import Ducts, Run

SHORTEST = 0.03  # m: less is no piece, the fittings meet [trade practice]


@dataclass(frozen=True, slots=True)
class CutLength:
    """A straight piece of a run: its material, inside diameter [m] and length [m]."""

    run: str
    material: str
    size: float
    length: float


def cut_lengths(ducts: Ducts, paths: Mapping[str, Path]) -> list[CutLength]:
    """All pieces of pipe, run by run from the fan's end. An elbow takes radius times tan(turn / 2) off the
    legs on both its sides; branch fittings and gates are counted from middle to middle, so that what they are
    long is still to be taken off. Hose is not cut from sticks.
    """
    found = []
    for run in ducts.runs:
        if materials()[run.material].kind == "duct" and len(paths.get(run.id, ())) > 1:
            total = length_of(paths[run.id])
            stops = {gate.at for gate in run.gates}
            stops |= {
                one.joins.at for one in ducts.runs if one.joins and one.joins.run == run.id and one.joins.at
            }
            found += [
                CutLength(run.id, run.material, run.diameter, piece)
                for begin, end in _legs(run, paths[run.id])
                for piece in _between(begin, end, sorted(at for at in stops if 0.0 < at < total))
            ]
    return found


def _legs(run: Run, path: Path) -> list[tuple[float, float]]:
    """Where each straight leg begins and ends along the run, the elbows taken off."""
    corners = [0.0, *itertools.accumulate(length_of(path[i : i + 2]) for i in range(len(path) - 1))]
    off = [0.0] * len(corners)
    for i in range(1, len(corners) - 1):
        turn = turn_between(towards(path[i - 1], path[i]), towards(path[i], path[i + 1]))
        if turn > STRAIGHT_ENOUGH:
            off[i] = elbows()[run.elbow].radius * run.diameter * tan(radians(min(turn, 150.0)) / 2)
    legs: list[tuple[float, float]] = []
    for i, (begin, end) in enumerate(itertools.pairwise(corners)):
        if i > 0 and off[i] == 0.0 and legs:
            legs[-1] = legs[-1][0], end - off[i + 1]  # straight enough: laid as one
        else:
            legs.append((begin + off[i], end - off[i + 1]))
    return legs


def _between(begin: float, end: float, stops: list[float]) -> list[float]:
    cuts = [begin, *(at for at in stops if begin < at < end), end]
    return [b - a for a, b in itertools.pairwise(cuts) if b - a > SHORTEST]
