"""A simulated particle monitor: plays a day of room air with noise, drop-outs and start-up puffs.

It speaks the line protocol of docs/devices.md.
"""

from __future__ import annotations

import socket
import time
from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from math import pi
from typing import Literal

from purvel.devices.serving import PortServer
from purvel.libraries import Array, np

HELLO = "purvel-monitor 1"
PORT = 4710  # of this machine, where none is named
CHANNELS = ("count_0.5um_per_l", "count_2.5um_per_l", "pm2.5_ug_m3", "pm10_ug_m3", "humidity_pct")
COUNTED_FROM = (0.5, 2.5)  # um
NONE = "-"  # a reading that is not there

NOISE = (
    0.08  # share by which one reading differs, as low-cost monitors do [trade practice, medium confidence]
)
DROP_OUTS = 0.01  # of the readings
PUFF, PUFF_FADES = 1.5, 25.0  # times the level that there is, at the start of a collector; s
BACKGROUND = 0.006  # mg/m3 of fine dust that is always there
HUMIDITY = 45.0  # %, of a heated shop
FOG = 90.0  # % at which it is foggy [choice]
SWOLLEN = 1.8  # times that dust reads in fog [published order, low confidence]
STUCK = 2  # the channel that stands still where one does
JUMP = 3600.0  # s by which the clock is set back where it is
Odd = Literal["jump", "stuck", "humid"]
ODD: tuple[Odd, ...] = ("jump", "stuck", "humid")
"""What a monitor may do besides: in the middle its clock is set back, a channel stands still for a quarter of
the time, in the last third the air is so humid that dust swells.
"""


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
        """What a perfect monitor would show (n, 5): counts a litre above 0.5 and 2.5 um, PM2.5 and PM10
        [ug/m3], relative humidity [%].
        """
        counts = [self.counts(size) for size in COUNTED_FROM]
        damp = np.full(len(self.seconds), HUMIDITY)
        return np.asarray(np.stack([*counts, self.mass(2.5), self.mass(10.0), damp], axis=1))

    @property
    def _there(self) -> Array:
        always = np.array([BACKGROUND if i == 0 else 0.0 for i in range(len(self.grains))])
        return np.asarray(self.by_size + always)

    def counts(self, size: float) -> Array:
        """Particles larger than a size [um] in a litre (n,)."""
        volumes = np.array([pi / 6 * (grain.diameter * 1e-6) ** 3 for grain in self.grains])
        each = self._there * 1e-6 / (self.density * volumes) / 1000.0
        return np.asarray(each[:, [grain.high > size for grain in self.grains]].sum(axis=1))

    def mass(self, size: float) -> Array:
        """Mass of what is smaller than a size [um], in ug/m3 (n,)."""
        return np.asarray(1000 * self._there[:, [grain.high <= size for grain in self.grains]].sum(axis=1))


def readings(
    played: Played, step: float, seed: int = 1, odd: Collection[Odd] = ()
) -> Iterator[tuple[float, list[float | None]]]:
    """What a monitor sees each `step` [s]: seconds by its clock and its channels; None where it drops one
    out. `odd` is what else it does.
    """
    chance = np.random.default_rng(seed)
    perfect, last = played.channels(), float(played.seconds[-1])
    drift, begun, stood = 0.0, float(played.seconds[0]), None
    for moment in np.arange(float(played.seconds[0]), last + 1e-9, step):
        drift = 0.6 * drift + 0.8 * chance.normal()
        puff = sum(
            PUFF * np.exp(-(moment - start) / PUFF_FADES) for start in played.starts if moment >= start
        )
        level = [float(np.interp(moment, played.seconds, perfect[:, k])) for k in range(perfect.shape[1])]
        factor = max(0.05, (1.0 + NOISE * drift) * (1.0 + puff))
        dropped = chance.random() < DROP_OUTS
        damp = level.pop() + 3.0 * drift
        own = 1.0 + 0.02 * chance.normal(size=len(level))
        done = (moment - begun) / max(last - begun, 1e-9)
        if "humid" in odd and done > 2 / 3:
            damp, factor = FOG + 2.0 * drift, factor * SWOLLEN
        shown = [value * factor * one for value, one in zip(level, own)]
        if "stuck" in odd and 0.4 < done < 0.65:
            stood = shown[STUCK] if stood is None else stood
            shown[STUCK] = stood
        late = JUMP if "jump" in odd and done > 0.5 else 0.0
        shown.append(min(max(damp, 0.0), 100.0))
        yield float(moment) - late, [None if dropped else value for value in shown]


def as_line(moment: float, values: Sequence[float | None]) -> str:
    """One line of the protocol."""
    return " ".join([f"{moment:.1f}", *(NONE if value is None else f"{value:.4g}" for value in values)])


class Server(PortServer):
    """Plays on a port of this machine, to all who connect, each from the beginning. `speed` times as fast."""

    def __init__(
        self,
        played: Played,
        step: float = 10.0,
        speed: float = 1.0,
        port: int = 0,
        seed: int = 1,
        odd: Collection[Odd] = (),
    ) -> None:
        super().__init__(port)
        self.played, self.step, self.speed, self.seed, self.odd = played, step, speed, seed, odd

    def serve(self, line: socket.socket) -> None:
        begun = time.monotonic()
        with line:
            try:
                line.sendall(f"{HELLO}\nseconds {' '.join(CHANNELS)}\n".encode())
                for number, (moment, values) in enumerate(
                    readings(self.played, self.step, self.seed, self.odd)
                ):
                    due = begun + number * self.step / self.speed
                    if self._over.wait(max(0.0, due - time.monotonic())):
                        return
                    line.sendall(f"{as_line(moment, values)}\n".encode())
                line.sendall(b"end\n")
            except OSError:
                return  # the listener went away
