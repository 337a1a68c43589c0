"""How dust of a size behaves: settling, and the sampling conventions that say which share counts as
inhalable, thoracic or respirable.
"""

from dataclasses import replace
from math import erf, exp, log, sqrt

from purvel.catalogue import DustSize

MEAN_FREE_PATH = 0.066  # um, air at 20 degC and sea level [Hinds; high confidence]
GRAVITY = 9.80665  # m/s2
FINE = 2.5  # um: what PM2.5 holds


def slip_correction(diameter: float) -> float:
    """Cunningham slip correction [-] for a diameter [um]: 1 + (l/d)(2.34 + 1.05 exp(-0.39 d/l)) (Allen &
    Raabe; Hinds).

    0.01 to 100 um, high confidence.

    >>> round(slip_correction(1.0), 3)
    1.155
    """
    ratio = MEAN_FREE_PATH / diameter
    return 1.0 + ratio * (2.34 + 1.05 * exp(-0.39 / ratio))


def settling_speed(
    diameter: float, particle_density: float = 1000.0, rho: float = 1.2, mu: float = 1.81e-5
) -> float:
    """Terminal speed [m/s] of a sphere of `diameter` [um]: rho_p d^2 g Cc/(18 mu), above Stokes with the drag
    of Schiller and Naumann.

    Holds to Re 800.

    10 um at 1000 kg/m3 falls 3.05 mm/s (Hinds):

    >>> round(1000 * settling_speed(10.0, 1000.0), 2)
    3.05
    """
    metres = diameter * 1e-6
    stokes = particle_density * metres**2 * GRAVITY * slip_correction(diameter) / (18.0 * mu)
    speed = stokes
    for _ in range(60):
        speed = stokes / (1.0 + 0.15 * (rho * speed * metres / mu) ** 0.687)
    return speed


def settling_rate(diameter: float, height: float) -> float:
    """Loss to the floor of a stirred room [1/h]: 3600 v_s/H, `diameter` [um], ceiling `height` [m].

    Evenly stirred air; medium confidence. 5 um under 2.44 m:

    >>> round(settling_rate(5.0, 2.44), 2)
    1.14
    """
    return 3600.0 * settling_speed(diameter) / height


def settled(sizes: tuple[DustSize, ...], height: float) -> tuple[DustSize, ...]:
    """The size classes with the loss [1/h] that they have under a ceiling `height` [m]: gravity's, but never
    less than was measured in rooms.
    """
    return tuple(
        replace(size, settling=max(size.settling, settling_rate(size.diameter, height))) for size in sizes
    )


def inhalable(diameter: float) -> float:
    """Inhalable share [-] at an aerodynamic diameter [um]: 0.5 (1 + exp(-0.06 d)) (ISO 7708, EN 481).

    Up to 100 um, high confidence.

    >>> round(inhalable(10.0), 3), round(inhalable(100.0), 3)
    (0.774, 0.501)
    """
    return 0.5 * (1.0 + exp(-0.06 * diameter))


def _below(diameter: float, median: float) -> float:
    return inhalable(diameter) * (1.0 - 0.5 * (1.0 + erf(log(diameter / median) / (log(1.5) * sqrt(2.0)))))


def thoracic(diameter: float) -> float:
    """Thoracic share [-] (ISO 7708): inhalable x (1 - lognormal(11.64 um, 1.5)).

    >>> round(thoracic(10.0), 2)
    0.5
    """
    return _below(diameter, 11.64)


def respirable(diameter: float) -> float:
    """Respirable share [-] (ISO 7708): inhalable x (1 - lognormal(4.25 um, 1.5)).

    >>> round(respirable(4.0), 2)
    0.5
    """
    return _below(diameter, 4.25)
