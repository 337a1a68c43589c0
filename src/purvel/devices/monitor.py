"""A simulated particle monitor: plays a day of room air with noise, drop-outs and start-up puffs.

It speaks the line protocol of docs/devices.md.
"""

from __future__ import annotations

import socket
import time
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import pi

from purvel.devices.serving import PortServer
from purvel.libraries import Array, np

HELLO = "purvel-monitor 1"
PORT = 4710  # of this machine, where none is named
CHANNELS = ("count_0.5um_per_l", "count_2.5um_per_l", "pm2.5_ug_m3", "pm10_ug_m3")
COUNTED_FROM = (0.5, 2.5)  # um
NONE = "-"  # a reading that is not there

NOISE = (
    0.08  # share by which one reading differs, as low-cost monitors do [trade practice, medium confidence]
)
DROP_OUTS = 0.01  # of the readings
PUFF, PUFF_FADES = 1.5, 25.0  # times the level that there is, at the start of a collector; s
BACKGROUND = 0.006  # mg/m3 of fine dust that is always there


@dataclass(frozen=True, slots=True)
class Grain:
    """A class of sizes: its upper bound and the diameter that stands for it [um]."""

    high: float
    diameter: float


@dataclass(frozen=True, slots=True, eq=False)
class Played:
    """What is played: times [s], concentration by class [mg/m3] (n, classes), when a collector starts [s]."""

    seconds: Array
    by_size: Array
    grains: tuple[Grain, ...]
    starts: tuple[float, ...] = ()
    density: float = 1000.0  # kg/m3

    def channels(self) -> Array:
        """What a perfect monitor would show (n, 4): counts a litre above 0.5 and 2.5 um, PM2.5 and PM10
        [ug/m3].
        """
        there = self.by_size + np.array([BACKGROUND if i == 0 else 0.0 for i in range(len(self.grains))])
        volumes = np.array([pi / 6 * (grain.diameter * 1e-6) ** 3 for grain in self.grains])
        counts = there * 1e-6 / (self.density * volumes) / 1000.0
        above = [np.array([grain.high > size for grain in self.grains]) for size in COUNTED_FROM]
        below = [np.array([grain.high <= size for grain in self.grains]) for size in (2.5, 10.0)]
        found: Array = np.stack(
            [
                *(counts[:, one].sum(axis=1) for one in above),
                *(1000 * there[:, one].sum(axis=1) for one in below),
            ],
            axis=1,
        )
        return found


def readings(played: Played, step: float, seed: int = 1) -> Iterator[tuple[float, list[float | None]]]:
    """What a monitor sees each `step` [s]: seconds and its channels; None where it drops one out."""
    chance = np.random.default_rng(seed)
    perfect, last = played.channels(), float(played.seconds[-1])
    drift = 0.0
    for moment in np.arange(float(played.seconds[0]), last + 1e-9, step):
        drift = 0.6 * drift + 0.8 * chance.normal()
        puff = sum(
            PUFF * np.exp(-(moment - start) / PUFF_FADES) for start in played.starts if moment >= start
        )
        level = [float(np.interp(moment, played.seconds, perfect[:, k])) for k in range(perfect.shape[1])]
        factor = max(0.05, (1.0 + NOISE * drift) * (1.0 + puff))
        dropped = chance.random() < DROP_OUTS
        own = 1.0 + 0.02 * chance.normal(size=len(level))
        yield float(moment), [None if dropped else value * factor * one for value, one in zip(level, own)]


def as_line(moment: float, values: Sequence[float | None]) -> str:
    """One line of the protocol."""
    return " ".join([f"{moment:.1f}", *(NONE if value is None else f"{value:.4g}" for value in values)])


class Server(PortServer):
    """Plays on a port of this machine, to all who connect, each from the beginning. `speed` times as fast."""

    def __init__(
        self, played: Played, step: float = 10.0, speed: float = 1.0, port: int = 0, seed: int = 1
    ) -> None:
        super().__init__(port)
        self.played, self.step, self.speed, self.seed = played, step, speed, seed

    def serve(self, line: socket.socket) -> None:
        begun = time.monotonic()
        with line:
            try:
                line.sendall(f"{HELLO}\nseconds {' '.join(CHANNELS)}\n".encode())
                for moment, values in readings(self.played, self.step, self.seed):
                    due = begun + (moment - float(self.played.seconds[0])) / self.speed
                    if self._over.wait(max(0.0, due - time.monotonic())):
                        return
                    line.sendall(f"{as_line(moment, values)}\n".encode())
                line.sendall(b"end\n")
            except OSError:
                return  # the listener went away
