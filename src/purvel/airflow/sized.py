"""One duct system in many sizes at once: what flows in it for every assignment of sizes to its runs.

What a piece of a run costs depends on its own size, on the size of the run that it carries on from in line,
and at a joint on the sizes that meet there. That is tabulated once; then thousands of assignments are solved
as one batch.
"""

from __future__ import annotations

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from math import pi

from purvel.airflow.air import AirState
from purvel.airflow.arrays import Arrays
from purvel.airflow.at_sources import AtSources
from purvel.airflow.layout import layouts
from purvel.airflow.network import solve_arrays
from purvel.airflow.segments import Layout, Leaks
from purvel.libraries import Array, np
from purvel.shop import Ducts, Thing

_AT_ONCE = 6000  # rows that are solved together: more take memory and no less time each


@dataclass(frozen=True, slots=True, eq=False)
class Evaluated:
    """What every assignment (N) comes to in every set of gates (B): flow at each hood (N, B, H) [m3/s], speed
    in each segment (N, B, S) [m/s], suction at the source's inlet (N, B) [Pa], and whether it was solved
    (N,).
    """

    flows: Array
    speeds: Array
    suction: Array
    solved: Array


class SizedSystem:
    """The system of one source with its runs in any of `sizes` [m], in sets of gates (id, open, drawn out).

    Assignments are numbers of sizes, by run in the order of `runs`. Raises ValueError where the source has no
    system, or where a second source pulls at it.
    """

    def __init__(
        self,
        ducts: Ducts,
        things: tuple[Thing, ...],
        source: str,
        sizes: Sequence[float],
        sets: Sequence[tuple[Sequence[str], Mapping[str, float]]],
        air: AirState,
        leaks: Leaks,
    ) -> None:
        self._ducts, self._things, self._source = ducts, things, source
        self.sizes, self.air = tuple(sizes), air
        self.layout = self._laid({})
        if self.layout.others:
            raise ValueError("Two sources pull at that line: sizes are not searched for there.")
        segments = self.layout.segments
        self.runs = tuple(dict.fromkeys(one.run for one in segments))
        self._run_of = np.array([self.runs.index(one.run) for one in segments])
        self._parent = self._parents()
        opened = [frozenset(gates) for gates, _ in sets]
        self.arrays = Arrays(self.layout, opened, leaks, [drawn for _, drawn in sets])
        self._at_sources = AtSources(self.layout)
        self._tabulate()
        self._joints = self.arrays.joints(self.layout)

    def _laid(self, sizes: Mapping[str, float]) -> Layout:
        """The system with runs in other sizes, everything taken as it mostly is."""
        runs = tuple(replace(run, diameter=sizes.get(run.id, run.diameter)) for run in self._ducts.runs)
        here = [
            one
            for one in layouts(replace(self._ducts, runs=runs), self._things)
            if one.source_thing == self._source
        ]
        if not here:
            raise ValueError("No run leads from that source.")
        segments = tuple(replace(one, hose=None) for one in here[0].segments)
        source = replace(here[0].source, curve_from="measured")
        return replace(here[0], source=source, segments=segments)

    def _parents(self) -> list[int]:
        """The number of the run that each carries on from in line; its own for the others."""
        found = list(range(len(self.runs)))
        for segment in self.layout.segments:
            number = self.runs.index(segment.run)
            if segment.begins == 0.0 and segment.downstream >= 0 and not segment.is_branch:
                found[number] = self.runs.index(self.layout.segments[segment.downstream].run)
        return found

    def _tabulate(self) -> None:
        """Fittings and lengths of every segment by the sizes that they depend on (S, own, parent's)."""
        count, segments = len(self.sizes), self.layout.segments
        in_line = [parent != number for number, parent in enumerate(self._parent)]
        even: list[bool] = []
        for parent, follows in zip(self._parent, in_line):  # a parent comes before what carries on from it
            even.append(not even[parent] if follows else True)
        self._fittings = np.zeros((len(segments), count, count))
        self._lengths = np.zeros((len(segments), count, count))
        self._roughness = np.array([one.roughness for one in segments])
        pairs = itertools.product(range(count), repeat=2) if any(in_line) else zip(range(count), range(count))
        for one, other in pairs:
            sizes = {run: self.sizes[one if even[k] else other] for k, run in enumerate(self.runs)}
            for index, segment in enumerate(self._laid(sizes).segments):
                at = (one, other) if even[self._run_of[index]] else (other, one)
                self._fittings[index, *at] = sum(fitting.loss for fitting in segment.fittings)
                self._lengths[index, *at] = segment.multiplier * segment.length
        for index, number in enumerate(self._run_of):
            if not in_line[number]:  # a run on its own knows no other size
                for table in (self._fittings, self._lengths):
                    table[index] = np.diag(table[index])[:, None]

    def evaluate(self, assignments: Array) -> Evaluated:
        """What flows with every assignment (N, R) of numbers of sizes."""
        step = max(1, _AT_ONCE // self.arrays.sets)
        parts = [self._evaluate(assignments[k : k + step]) for k in range(0, len(assignments), step)]
        return Evaluated(
            *(
                np.concatenate([getattr(part, name) for part in parts])
                for name in ("flows", "speeds", "suction", "solved")
            )
        )

    def _evaluate(self, assignments: Array) -> Evaluated:
        many, sets = len(assignments), self.arrays.sets
        own = assignments[:, self._run_of]
        parent = assignments[:, self._parent][:, self._run_of]
        index = np.arange(len(self._run_of))
        diameter = np.array(self.sizes)[own]
        arrays = self.arrays.sized(
            diameter,
            self._roughness,
            self._lengths[index, own, parent],
            self._fittings[index, own, parent],
            self._coupling(own),
        )
        solved = solve_arrays(self.layout, arrays, self._at_sources, self.air)
        terms = solved.segments(arrays, self.air)
        first = self._at_sources.at(solved.flows, arrays, self.air, solved.thin)[0]
        scale = np.maximum(np.abs(first.pressure), 1.0)[:, None]
        good = np.asarray((np.abs(solved.miss) < 1e-5 * scale).all(axis=1))
        hoods = len(self.arrays.hoods)
        return Evaluated(
            solved.flows[:, :hoods].reshape(many, sets, hoods),
            terms.speed.reshape(many, sets, len(index)),
            -first.at_inlet.reshape(many, sets),
            np.asarray(good.reshape(many, sets).all(axis=1)),
        )

    def _coupling(self, own: Array) -> Array:
        """The terms of the joints (N, S, S) with segments in these sizes (N, S)."""
        areas = pi / 4 * np.array(self.sizes) ** 2
        coupling = np.zeros((*own.shape, own.shape[1]))
        for joint in self._joints:
            kinds, which = np.unique(own[:, joint.at], axis=0, return_inverse=True)
            tables = np.array([joint.terms(tuple(areas[kind].tolist())) for kind in kinds])
            for row, leg in enumerate(joint.legs):
                coupling[:, leg, joint.at] += tables[which.ravel(), row]
        return coupling
