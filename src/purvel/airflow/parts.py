"""Parts: what a duct system is made of, as it is sold."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from purvel.airflow.paths import Path, length_of
from purvel.airflow.segments import Layout, Segment
from purvel.catalogue import elbows, inlines, materials
from purvel.shop import Ducts, Run

UP_TO_45 = 60.0  # deg: a smaller turn is made of a 45 degree elbow, turned or cut [trade practice]


@dataclass(frozen=True, slots=True)
class Part:
    """A line of the parts list: the id of the run, what it is, the inside diameter [m], metres of pipe or
    hose, or pieces, and the run's material.
    """

    run: str
    part: str
    size: float
    unit: Literal["m", "piece"]
    amount: float
    material: str = ""


def parts(ducts: Ducts, paths: Mapping[str, Path], systems: Iterable[Layout]) -> list[Part]:
    """What the duct system is made of, by run: pipe as long as it lies, hose as long as it is stretched, then
    fittings and gates by the piece.
    """
    runs = {run.id: run for run in ducts.runs}
    found = []
    for run in ducts.runs:
        name = materials()[run.material].name_for_buying()
        found.append(
            Part(run.id, name, run.diameter, "m", _bought(run, length_of(paths[run.id])), run.material)
        )
        for key, count in Counter(run.inline).items():
            if key in inlines():
                found.append(Part(run.id, inlines()[key].name, run.diameter, "piece", count, run.material))
        if run.gates:
            found.append(Part(run.id, "Gate", run.diameter, "piece", len(run.gates), run.material))
    for layout in systems:
        counted: Counter[tuple[str, str, float]] = Counter()
        for segment in layout.segments:
            fittings = _fittings(runs[segment.run], layout, segment)
            counted.update((segment.run, name, size) for name, size in fittings)
        found += [
            Part(run, name, size, "piece", count, runs[run].material)
            for (run, name, size), count in counted.items()
        ]
    return found


def _bought(run: Run, length: float) -> float:
    """How much of its pipe or hose a run of a length [m] takes [m]."""
    return length / max(1.0 - run.slack, 0.01) if materials()[run.material].kind == "hose" else length


def _fittings(run: Run, layout: Layout, segment: Segment) -> Iterator[tuple[str, float]]:
    """The fittings of a segment as they are sold, with their size; a bend in hose is not bought."""
    for one in segment.fittings:
        if one.kind == "elbow" and materials()[run.material].kind == "duct":
            yield f"{elbows()[run.elbow].name}, {45 if one.turn <= UP_TO_45 else 90}°", one.section
        elif one.kind in ("reducer", "widening"):
            yield f"Taper to {one.wide * 1000:.0f} mm", one.section
    if segment.is_branch and layout.segments[segment.downstream].run != segment.run:
        yield f"Branch fitting {segment.angle:.0f}°", layout.segments[segment.downstream].diameter
