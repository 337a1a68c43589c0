"""A simulated distance meter: held against a wall and pressed, it says how far the next one is; with noise,
now and then a slip of a foot, nothing to see, or too far.

It speaks the line protocol of docs/devices.md.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import hypot

from purvel.devices.serving import OrderServer
from purvel.libraries import np

HELLO = "purvel-meter 1"
OUT_OF_RANGE, NO_SIGNAL = "out-of-range", "no-signal"

NOISE = 0.002  # m, standard deviation, as makers state it [medium confidence]
FARTHEST = 30.0  # m that a small meter reaches [trade practice, medium confidence]
SLIPS, FOOT = 0.03, 0.3048  # of the readings, from the wrong edge of the meter or of a ledge [a guess]; m
DROP_OUTS = 0.03  # of the readings: the spot is not seen on what is dark or shiny [a guess]
PORT = 4711  # of this machine, where none is named


@dataclass(frozen=True, slots=True)
class Taken:
    """What a meter says: a length [m], or why there is none."""

    length: float | None
    why: str = ""

    def line(self) -> str:
        """It as a line of the protocol."""
        return f"none {self.why}" if self.length is None else f"length {self.length:.3f}"


class Meter:
    """A meter in a known room. `walls` are the true lengths in order [m], `corners` where those walls start.
    It reads one wall after the other, or what it is pointed at.
    """

    def __init__(
        self, walls: Mapping[str, float], corners: Mapping[str, tuple[float, float]], seed: int
    ) -> None:
        self._walls, self._corners = dict(walls), dict(corners)
        self._chance = np.random.default_rng(seed)
        self._next = 0

    def take(self, pointed_at: str = "") -> Taken:
        """Presses it. `pointed_at` is a wall, or two corners with a space between; else the next wall."""
        true = self._true(pointed_at.split())
        if true is None:
            return Taken(None, NO_SIGNAL)
        luck = self._chance.random()
        slip = (FOOT if luck < SLIPS / 2 else -FOOT) if luck < SLIPS else 0.0
        length = true + slip + NOISE * self._chance.normal()
        if SLIPS <= luck < SLIPS + DROP_OUTS:
            return Taken(None, NO_SIGNAL)
        if length > FARTHEST or length < 0.05:
            return Taken(None, OUT_OF_RANGE)
        return Taken(round(float(length), 3))

    def _true(self, words: list[str]) -> float | None:
        if len(words) == 2:
            ends = [self._corners.get(word) for word in words]
            return None if None in ends else hypot(ends[0][0] - ends[1][0], ends[0][1] - ends[1][1])  # type: ignore[index]
        if words:
            return self._walls.get(words[0])
        lengths = list(self._walls.values())
        if not lengths:
            return None
        self._next += 1
        return lengths[(self._next - 1) % len(lengths)]


class MeterServer(OrderServer):
    """A meter on a port of this machine. It measures when who listens asks for it, and when it is pressed."""

    def __init__(self, meter: Meter, port: int = 0) -> None:
        super().__init__(port)
        self.meter = meter

    def press(self) -> Taken:
        """Measures the next wall, and tells all who listen."""
        taken = self.meter.take()
        self.tell([taken.line()])
        return taken

    def hello(self) -> list[str]:
        return [HELLO]

    def answer(self, order: str) -> list[str]:
        word, _, what = order.partition(" ")
        return [self.meter.take(what).line()] if word == "measure" else []
