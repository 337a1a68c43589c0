"""What the sources of a layout do at given flows: one at the foot of the tree, others at the ends of their
lines.
"""

from __future__ import annotations

from dataclasses import dataclass

from purvel.airflow.air import AirState
from purvel.airflow.arrays import Arrays
from purvel.airflow.segments import Layout
from purvel.airflow.sources import Losses, SourceCurve
from purvel.libraries import Array, np


@dataclass(frozen=True, slots=True, eq=False)
class SourceState:
    """One source in every row (B,): flow [m3/s of room air], pressure [Pa], what is lost between its inlet
    and the room, total pressure at its inlet [Pa] and how fast that rises with its flow [Pa s/m3].
    """

    flow: Array
    pressure: Array
    lost: Losses
    at_inlet: Array
    slope: Array


class AtSources:
    """The curves of all sources of a layout, the first of them that of the tree's foot."""

    def __init__(self, layout: Layout) -> None:
        self.curves = [SourceCurve(source) for _, source in layout.sources]
        self.thins = any(source.kind == "vac" for _, source in layout.sources)

    @property
    def others(self) -> int:
        """How many there are besides the first."""
        return len(self.curves) - 1

    @property
    def shut_off(self) -> float:
        """The most suction of any [Pa]."""
        return max(curve.shut_off for curve in self.curves)

    @property
    def free_flow(self) -> float:
        """The most flow of all [m3/s]."""
        return sum(max(curve.free_flow, 1e-6) for curve in self.curves)

    def at(self, flows: Array, arrays: Arrays, air: AirState, thin: Array) -> list[SourceState]:
        """What each does with these flows by ways (B, C). `thin` (B, S + sources) is how much more room the
        air takes, last at the inlets.
        """
        rho, count = air.density, len(self.curves)
        through = [flows @ arrays.sign, *(flows[:, column - count] for column in range(1, count))]
        found = []
        for number, (curve, flow) in enumerate(zip(self.curves, through)):
            wide = thin[:, number - count]
            pressure, slope = curve.total_pressure(flow, np.full(len(flow), rho), arrays.times[number])
            lost = curve.losses(flow * wide, rho / wide)
            rest_slope = curve.loss_slope(flow * wide, rho / wide) * wide
            found.append(SourceState(flow, pressure, lost, lost.total - pressure, rest_slope - slope))
        return found
