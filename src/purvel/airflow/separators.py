"""What gets past a separator, and what keeps a bucket from tipping over."""

from __future__ import annotations

from math import pi, sqrt
from typing import Literal

GRAVITY = 9.81  # m/s2
WOOD = 700.0  # kg/m3, of a dust particle [textbook, medium]
TURNS = 5.5  # [-], that the air makes in a cyclone [Lapple, 5 to 6, medium]

SeparatorKind = Literal["cyclone", "bucket", "drum"]

PASSES_CHIPS: dict[SeparatorKind, tuple[float, float]] = {
    # share of the mass of chips that goes past [trade practice, low]
    "cyclone": (0.01, 0.05),
    "bucket": (0.01, 0.10),
    "drum": (0.01, 0.10),
}
PASSES_FINE: dict[SeparatorKind, tuple[float, float]] = {
    # and of the finest dust [trade practice, low]
    "cyclone": (0.30, 0.80),
    "bucket": (0.50, 0.90),
    "drum": (0.50, 0.90),
}


def cut_size(inlet_width: float, inlet_speed: float, viscosity: float, density: float = WOOD) -> float:
    """The diameter [m] of which a cyclone catches one half: sqrt(9 mu b / (2 pi Ne V rho)), b the width of
    its inlet [m], V the speed there [m/s], mu [Pa s], rho of the particle [kg/m3] (Lapple; medium
    confidence).

    An inlet of 0.1 m, 15 m/s, unit density, five and a half turns:

    >>> round(1e6 * cut_size(0.1, 15.0, 1.81e-5, 1000.0), 1)
    5.6
    """
    return sqrt(9.0 * viscosity * inlet_width / (2.0 * pi * TURNS * inlet_speed * density))


def inlet_width(diameter: float) -> float:
    """The width [m] of a cyclone's inlet twice as high as wide, with the area of its pipe [m]: sqrt(A / 2).

    >>> round(inlet_width(0.15), 3)
    0.094
    """
    return sqrt(pi / 4.0 * diameter**2 / 2.0)


def ballast_wanted(pull: float, height: float, base: float, mass: float) -> float:
    """The ballast [kg] that keeps an empty container of a mass [kg] on a round base [m] from tipping when a
    hose pulls [N] at a height [m]: F h <= m g b / 2 about the edge; 0 where none is wanted.

    40 N at 0.55 m on a base of 0.28 m, 2.5 kg: 22 N m ask for 16.0 kg in all.

    >>> round(ballast_wanted(40.0, 0.55, 0.28, 2.5), 1)
    13.5
    """
    return max(0.0, pull * height / (GRAVITY * base / 2.0) - mass)
