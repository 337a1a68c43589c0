"""A simulated gauge: a water column on a blocked inlet, and a vane in the open one; what it reads of a source
is not quite what its curve says.

It speaks the line protocol of docs/devices.md.
"""

from __future__ import annotations

from collections.abc import Mapping

from purvel.devices.serving import OrderServer
from purvel.libraries import np

HELLO = "purvel-gauge 1"
PORT = 4713  # of this machine, where none is named
OFF = 0.10  # share by which a real machine may be off its curve, standard deviation [trade practice, low]
SUCTION_NOISE, FLOW_NOISE = 0.01, 0.05  # of a reading, standard deviation [trade practice, medium; low]


class Gauge:
    """A gauge among sources of which the most suction [Pa] and the most flow [m3/s] by their curves are
    known. Each source is off its curve by luck, the same at every reading.
    """

    def __init__(self, ends: Mapping[str, tuple[float, float]], seed: int) -> None:
        self._chance = np.random.default_rng(seed)
        self._true = {
            source: (
                suction * float(1 + OFF * self._chance.normal()),
                flow * float(1 + OFF * self._chance.normal()),
            )
            for source, (suction, flow) in ends.items()
        }

    def read(self, order: str) -> list[str]:
        """What `sealed SOURCE` and `open SOURCE` read, as lines; `none` and the word for anything else."""
        words = order.split()
        if len(words) == 2 and words[1] in self._true and words[0] in ("sealed", "open"):
            suction, flow = self._true[words[1]]
            if words[0] == "sealed":
                return [f"suction {suction * float(1 + SUCTION_NOISE * self._chance.normal()):.0f}"]
            return [f"flow {flow * float(1 + FLOW_NOISE * self._chance.normal()):.4f}"]
        return [f"none {words[-1][:64]}"] if words else []


class GaugeServer(OrderServer):
    """A gauge on a port of this machine."""

    def __init__(self, gauge: Gauge, port: int = 0) -> None:
        super().__init__(port)
        self._gauge = gauge

    def hello(self) -> list[str]:
        return [HELLO]

    def answer(self, order: str) -> list[str]:
        return self._gauge.read(order)
