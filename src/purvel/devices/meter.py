"""A simulated distance meter: held against a wall and pressed, it says how far the next one is; with noise,
now and then a slip of a foot, nothing to see, or too far.

It speaks the line protocol of docs/devices.md.
"""

from __future__ import annotations

import socket
from collections.abc import Mapping
from dataclasses import dataclass
from math import hypot

from purvel.devices.serving import PAUSE, PortServer
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


class MeterServer(PortServer):
    """A meter on a port of this machine. It measures when who listens asks for it, and when it is pressed."""

    def __init__(self, meter: Meter, port: int = 0) -> None:
        super().__init__(port)
        self.meter = meter
        self._lines: list[socket.socket] = []

    def press(self) -> Taken:
        """Measures the next wall, and tells all who listen."""
        taken = self.meter.take()
        for line in list(self._lines):
            _say(line, taken.line())
        return taken

    def serve(self, line: socket.socket) -> None:
        line.settimeout(PAUSE)
        waiting = b""
        with line:
            _say(line, HELLO)
            self._lines.append(line)
            try:
                while not self._over.is_set():
                    try:
                        got = line.recv(4096)
                    except TimeoutError:
                        continue
                    if not got:
                        break
                    *asked, waiting = (waiting + got).split(b"\n")
                    for raw in asked:
                        word, _, what = raw.decode("ascii", "replace").strip().partition(" ")
                        if word == "measure":
                            _say(line, self.meter.take(what).line())
                    waiting = waiting[-4096:]
            except OSError:
                pass  # who listened went away
            finally:
                self._lines.remove(line)


def _say(line: socket.socket, text: str) -> None:
    try:
        line.sendall(f"{text}\n".encode())
    except OSError:
        pass  # who listened went away
