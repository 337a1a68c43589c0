"""A duct system as arrays, for all sets of gates at once."""

from __future__ import annotations

from collections.abc import Sequence
from math import pi

from purvel.airflow.fittings import junction
from purvel.airflow.segments import Friction, Layout, Leaks, Segment
from purvel.airflow.sources import BANDS, Scale
from purvel.libraries import Array, np

DISCHARGE_OF_LEAK = 0.61  # [-], sharp-edged gap round a shut gate or at a joint [textbook]


class Arrays:
    """A layout with its sets of gates as arrays: B rows (the sets; and again at every end of what is known of
    hose and of the source's curve), S segments, C ways for air to come in: the hoods, then the joints that
    leak.
    """

    def __init__(self, layout: Layout, opened: Sequence[frozenset[str]], leaks: Leaks) -> None:
        segments = layout.segments
        self.sets = len(opened)
        self.area = np.array([one.area for one in segments])
        self.diameter = np.array([one.diameter for one in segments])
        hoses = (1, 2) if any(one.hose is not None for one in segments) else ()
        sources = BANDS.get(layout.source.curve_from, ())
        # as it mostly is; then each end of what is known of hose with each of what is known of the source
        ends = [(0, Scale())]
        if hoses or sources:
            ends += [(hose, source) for hose in hoses or (0,) for source in sources or (Scale(),)]
        self.has_range = len(ends) > 1
        assumed = [[_frictions(one)[hose] for one in segments] for hose, _ in ends]
        # how many times the pressure and the flow of its curve the source has in each row (B,)
        self.times: tuple[Array, Array] = (
            np.repeat(np.array([end.pressure for _, end in ends]), self.sets),
            np.repeat(np.array([end.flow for _, end in ends]), self.sets),
        )
        rows = np.array([[(one.roughness, one.multiplier) for one in row] for row in assumed])
        self.relative_roughness = np.repeat(rows[..., 0] / self.diameter, self.sets, axis=0)
        lengths = np.array([one.length for one in segments])
        self.length = np.repeat(rows[..., 1] * lengths, self.sets, axis=0)
        self.fittings = np.array([sum(fitting.loss for fitting in one.fittings) for one in segments])
        self.hoods = np.array(layout.hoods, dtype=int)
        leaking = range(len(segments)) if leaks.joint_area > 0 else ()
        self.passes = np.zeros((len(segments), len(self.hoods) + len(leaking)))  # 1: a way leads through it
        for column, index in enumerate([*self.hoods, *leaking]):
            self.passes[list(layout.way(index)), column] = 1.0
        entries = [
            hood.entry_loss / (pi / 4 * hood.diameter**2) ** 2
            for hood in (segments[index].hood for index in layout.hoods)
            if hood is not None
        ]
        gaps = [DISCHARGE_OF_LEAK * leaks.joint_area * (len(segments[i].fittings) + 1) for i in leaking]
        # what each way in costs on half the density times its flow squared [1/m4]
        self.entry = np.array([*entries, *(gap**-2 for gap in gaps)])
        shut = [[sum(gate not in gates for gate in one.gates) for one in segments] for gates in opened]
        self.shut_count = np.tile(np.array(shut, dtype=float), (len(assumed), 1))
        ring = DISCHARGE_OF_LEAK * leaks.gate_gap * pi * self.diameter
        self.shut = (self.area / ring) ** 2 if leaks.gate_gap > 0 else np.zeros(len(segments))
        behind = self.shut_count @ self.passes  # (B, C) shut gates on each way
        may_leak = np.full(behind.shape, leaks.gate_gap > 0)
        self.flowing = np.asarray((behind == 0) | may_leak)
        self.coupling = self._coupling(layout)

    def _coupling(self, layout: Layout) -> Array:
        """C[s, k]: how much of segment k's velocity pressure is lost in segment s at the junction at its
        downstream end. A leg with no hood on it is a dead end, and no part of a junction.
        """
        coupling = np.zeros((len(layout.segments), len(layout.segments)))
        carries = np.asarray(self.passes[:, : len(self.hoods)].any(axis=1))
        for combined, all_legs in layout.joints().items():
            legs = [leg for leg in all_legs if carries[leg]]
            if not any(layout.segments[leg].is_branch for leg in legs):
                continue
            angles = [layout.segments[leg].angle if layout.segments[leg].is_branch else 0.0 for leg in legs]
            for leg, terms in zip(
                legs, junction([self.area[leg] for leg in legs], angles, self.area[combined])
            ):
                coupling[leg, combined] += terms.combined
                for other, term in zip(legs, terms.legs):
                    coupling[leg, other] += term
        return coupling


def _frictions(segment: Segment) -> tuple[Friction, Friction, Friction]:
    """As it mostly is, smooth, rough."""
    central = Friction(segment.roughness, segment.multiplier)
    return (central, *segment.hose) if segment.hose else (central,) * 3
