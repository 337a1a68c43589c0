"""Duct materials, elbows, standard sizes and the speeds that keep chips moving."""

from dataclasses import dataclass
from functools import cache
from math import inf
from typing import Literal

from purvel.catalogue.toml import read
from purvel.quantities.systems import System

Confidence = Literal["high", "medium", "low"]


@dataclass(frozen=True, slots=True)
class WallStrength:
    """What a duct wall is made of: modulus [Pa], Poisson's ratio, thickness [m] or diameter ratio [-], and
    the divisor for dents and seams.
    """

    modulus: float
    poisson: float
    divide: float
    thickness: float | None = None
    ratio: float | None = None


@dataclass(frozen=True, slots=True)
class Material:
    """A duct or hose material: roughness [m] with its spread and where that comes from; `span` is how far its
    hangers may be apart [m].
    """

    name: str
    short: str
    kind: Literal["duct", "hose"]
    roughness: float
    spread: tuple[float, float]
    source: str
    confidence: Confidence
    plastic: bool = False
    wall: WallStrength | None = None
    span: float = 1.0
    sheet: dict[System, str] | None = None

    def name_in(self, system: System) -> str:
        """The name with the thickness of its sheet as a system's trade says it."""
        return f"{self.name}, {self.sheet[system]}" if self.sheet else self.name

    def name_for_buying(self) -> str:
        """The name with the thickness of its sheet as either system's trade says it."""
        return f"{self.name_in('metric')} ({self.sheet['imperial']})" if self.sheet else self.name

    def collapse_limit(self, diameter: float) -> float:
        """The suction [Pa] up to which the wall is taken to hold its shape at `diameter` [m]; infinite where
        nothing is known (hose).

        Long thin tube, p = 2 E/(1 - nu^2) (t/D)^3 (Bresse, Bryan), divided for seams, dents, warmth and creep
        (low confidence).
        """
        if self.wall is None:
            return inf
        slenderness = (
            1.0 / (self.wall.ratio - 1.0) if self.wall.ratio else (self.wall.thickness or 0.0) / diameter
        )
        return 2.0 * self.wall.modulus / (1.0 - self.wall.poisson**2) * slenderness**3 / self.wall.divide


@dataclass(frozen=True, slots=True)
class Elbow:
    """A kind of elbow: loss of a 90 degree turn on the duct's velocity pressure, with the spread between
    sources; the `radius` of its middle line in diameters.
    """

    name: str
    short: str
    loss: float
    spread: tuple[float, float]
    source: str
    radius: float = 0.0


@dataclass(frozen=True, slots=True)
class Inline:
    """What sits in a run, straight through: its loss on the velocity pressure there, with the spread."""

    name: str
    loss: float
    spread: tuple[float, float]
    source: str


@dataclass(frozen=True, slots=True)
class Transport:
    """Speeds [m/s] that keep it moving: what is wanted, also in risers, and the least in a level duct."""

    want: float
    least: float
    source: str


@dataclass(frozen=True, slots=True)
class _GateData:
    open_loss: float
    spread: tuple[float, float]
    source: str


@dataclass(frozen=True, slots=True)
class _DuctData:
    sizes: dict[str, tuple[float, ...]]
    materials: dict[str, Material]
    elbows: dict[str, Elbow]
    inline: dict[str, Inline]
    gates: _GateData
    transport: dict[str, Transport]


@cache
def _data() -> _DuctData:
    return read("ducts.toml", _DuctData)


def materials() -> dict[str, Material]:
    """Materials by key."""
    return _data().materials


def elbows() -> dict[str, Elbow]:
    """Elbow kinds by key."""
    return _data().elbows


def inlines() -> dict[str, Inline]:
    """What sits in runs, by key."""
    return _data().inline


def duct_sizes() -> tuple[float, ...]:
    """Inside diameters that are sold [m], rising."""
    return _data().sizes["metric"]


def gate_open_loss() -> float:
    """Loss of an open gate on the duct's velocity pressure [-]."""
    return _data().gates.open_loss


def transport(carries: str) -> Transport:
    """The speeds for what is carried: dust or chips."""
    return _data().transport[carries]
