"""Parts: what a duct system is made of, for the list that is bought."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Literal

from purvel.airflow.paths import Path, length_of
from purvel.airflow.segments import Layout
from purvel.catalogue import materials
from purvel.shop import Ducts


@dataclass(frozen=True, slots=True)
class Part:
    """A line of the parts list: the id of the run, what it is, the inside diameter [m], metres of pipe or
    hose, or pieces.
    """

    run: str
    part: str
    size: float
    unit: Literal["m", "piece"]
    amount: float


def parts(ducts: Ducts, paths: Mapping[str, Path], systems: Iterable[Layout]) -> list[Part]:
    """What the duct system is made of: pipe and hose by run, then fittings and gates by the piece."""
    found = []
    for run in ducts.runs:
        name = materials()[run.material].name_for_buying()
        found.append(Part(run.id, name, run.diameter, "m", length_of(paths[run.id])))
        if run.gates:
            found.append(Part(run.id, "Gate", run.diameter, "piece", len(run.gates)))
    for layout in systems:
        counted: Counter[tuple[str, str, float]] = Counter()
        for segment in layout.segments:
            bought = (fitting for fitting in segment.fittings if fitting.kind != "gate")
            counted.update((segment.run, fitting.name, fitting.section) for fitting in bought)
            if segment.is_branch and layout.segments[segment.downstream].run != segment.run:
                size = layout.segments[segment.downstream].diameter
                counted[segment.run, f"Branch fitting {segment.angle:.0f}°", size] += 1
        found += [Part(run, name, size, "piece", count) for (run, name, size), count in counted.items()]
    return found
