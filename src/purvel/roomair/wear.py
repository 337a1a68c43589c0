"""What a day does to who works: the dose of noise, and what a respirator leaves of the dust."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from math import log10

IDLE = (
    8.0  # dB that a machine is quieter while it runs and does not cut [tables of idle and working, 6 to 10]
)
QUIET = 40.0  # dB(A) below which nothing counts


@dataclass(frozen=True, slots=True)
class Noise:
    """A day's noise: dose by NIOSH (85 dB(A), 3 dB) and by OSHA (90 dB(A), 5 dB) [-], and its level over 8 h
    by the 3 dB rule [dB(A)].
    """

    niosh: float
    osha: float
    level_8h: float


def noise_dose(spells: Iterable[tuple[float, float]]) -> Noise:
    """The dose of spells of (level [dB(A)], hours): D = sum(C / T), T = 8 / 2^((L - 85) / 3) and 8 / 2^((L -
    90) / 5); L_EX,8h = 10 log10 (sum(C 10^(L / 10)) / 8) (29 CFR 1910.95; NIOSH 98-126; 2003/10/EC).

    1 h at 100 and 2 h at 92 dB(A): 526 % by NIOSH, 83 % by OSHA:

    >>> one = noise_dose([(100.0, 1.0), (92.0, 2.0)])
    >>> round(one.niosh, 2), round(one.osha, 2), round(one.level_8h, 1)
    (5.26, 0.83, 92.2)
    """
    counted = [(level, hours) for level, hours in spells if level > QUIET and hours > 0]
    niosh = sum(hours * 2 ** ((level - 85.0) / 3.0) / 8.0 for level, hours in counted)
    # OSHA counts what is over 80 dB(A)
    osha = sum(hours * 2 ** ((level - 90.0) / 5.0) / 8.0 for level, hours in counted if level >= 80.0)
    energy = sum(hours * 10 ** (level / 10.0) for level, hours in counted) / 8.0
    return Noise(niosh, osha, 10.0 * log10(energy) if energy > 0 else 0.0)


def together(levels: Iterable[float]) -> float:
    """The level of sources that sound at once [dB(A)]: 10 log10 sum 10^(L/10); 0 for none.

    >>> round(together([90.0, 90.0]), 1)
    93.0
    """
    summed = sum(10 ** (level / 10.0) for level in levels if level > 0)
    return 10.0 * log10(summed) if summed > 0 else 0.0


def muffled(level: float, rating: float) -> float:
    """The level under hearing protection [dB(A)] that is rated by NRR [dB]: L - (NRR - 7) / 2, as worn in the
    field (OSHA's derating by half).

    >>> muffled(100.0, 29.0)
    89.0
    """
    return level - max(0.0, rating - 7.0) / 2.0


def factor_needed(breathed: float, limit: float) -> float:
    """The protection factor that brings what is breathed [mg/m3] to a limit [-]; 1 where it is under that.

    >>> factor_needed(12.0, 1.0)
    12.0
    """
    return max(1.0, breathed / limit)
