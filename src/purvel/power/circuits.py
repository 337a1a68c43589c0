"""Circuits: what is on them when things run together, whether they hold, and how far the voltage falls."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from purvel.shop.power import Circuit

LONG = 1.25  # what runs for three hours or more counts this often [NEC 210.20(A), confidence H]
ONE_CORD = 0.80  # of the rating: the most that one plugged-in machine may take of a circuit with more outlets
#                  [NEC 210.23(A)(1), confidence H]
BRANCH_DROP = (
    0.03  # of the voltage, over a branch circuit [NEC informational note; IEC 60364-5-52 annex G, M]
)
TOTAL_DROP = 0.05  # of the voltage, all the way [the same]


@dataclass(frozen=True, slots=True)
class Consumer:
    """Something on a circuit: its id, what it draws [A], whether it runs for three hours or more."""

    id: str
    circuit: str
    amps: float
    is_long: bool


@dataclass(frozen=True, slots=True)
class Loading:
    """What is on a circuit at a time [A]: all of it, and as the code counts it, against its rating."""

    circuit: str
    consumers: tuple[Consumer, ...]
    rating: float

    @property
    def amps(self) -> float:
        """All that is drawn [A]."""
        return sum(one.amps for one in self.consumers)

    @property
    def counted(self) -> float:
        """As it is counted [A]: what runs long, 1.25 times."""
        return sum(one.amps * (LONG if one.is_long else 1.0) for one in self.consumers)

    @property
    def trips(self) -> bool:
        """Whether more is drawn than the breaker is rated for."""
        return self.amps > self.rating + 1e-9

    @property
    def holds(self) -> bool:
        """Whether the circuit is rated for it: short loads and 1.25 times the long ones."""
        return self.counted <= self.rating + 1e-9


def loadings(circuits: Sequence[Circuit], consumers: Sequence[Consumer]) -> list[Loading]:
    """What is on each circuit, in the order of the panel."""
    return [
        Loading(one.id, tuple(c for c in consumers if c.circuit == one.id), one.rating) for one in circuits
    ]


def voltage_drop(amps: float, length: float, ohm_per_km: float) -> float:
    """The fall of voltage along a single-phase line [V]: 2 L I R.

    Parameters: current [A], length one way [m], resistance of one conductor [ohm/km]. Ohm's law;
    reactance is left out, which thin conductors do not feel.

    17 A over 22.86 m (75 ft) of 12 AWG:

    >>> round(voltage_drop(17.0, 22.86, 6.50), 2)
    5.05
    """
    return 2.0 * length * amps * ohm_per_km / 1000.0


@dataclass(frozen=True, slots=True)
class Drop:
    """Where the voltage goes on its way to a machine [V], and the voltage it starts from."""

    circuit: float
    cord: float
    volts: float

    @property
    def branch(self) -> float:
        """Over the circuit's own conductors, as a share [-]."""
        return self.circuit / self.volts

    @property
    def total(self) -> float:
        """To the machine, as a share [-]."""
        return (self.circuit + self.cord) / self.volts


def drop_at(
    consumer: Consumer, loading: Loading, volts: float, wire: tuple[float, float], cord: tuple[float, float]
) -> Drop:
    """How far the voltage falls at a machine; `wire` and `cord` are length one way [m] and ohm/km.

    Through the wire goes all that is on the circuit, through the cord what the machine draws.
    """
    return Drop(voltage_drop(loading.amps, *wire), voltage_drop(consumer.amps, *cord), volts)


def thinnest(
    amps: float, length: float, volts: float, share: float, conductors: Mapping[str, float]
) -> str | None:
    """The first conductor, by key and ohm/km from thin to thick, that loses at most this share of the
    voltage; None where none does.
    """
    for key, ohm_per_km in conductors.items():
        if voltage_drop(amps, length, ohm_per_km) <= share * volts:
            return key
    return None
