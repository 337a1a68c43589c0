"""Friction in straight duct and hose."""

from math import exp

import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]

LAMINAR = 2300.0  # Reynolds number below which flow is taken as laminar [textbook]
HOSE_SLACK_SHARE = 0.3  # share of the published slack penalty that thick-wall dust hose shows [a guess, low confidence; 0.1 to 1]


def friction_factor(reynolds: Array, relative_roughness: Array) -> Array:
    """Darcy friction factor [-] for arrays of Reynolds numbers [-] and eps/D [-].

    Laminar (Re < 2300): 64/Re. Otherwise Colebrook-White, 1/sqrt(f) = -2 log10(eps/D/3.7 + 2.51/(Re sqrt(f))) (Colebrook 1939), started from
    Haaland and refined by two Newton steps on x = 1/sqrt(f), which leaves less than 1e-9. The tests hold it against `fluids`, which has no form for
    arrays: a batch of gate sets needs 1e5 values at once. Scatter of real ducts about Colebrook: 5 to 10 %.
    """
    re = np.maximum(reynolds, 1e-3)
    turbulent = np.maximum(re, LAMINAR)
    x = -1.8 * np.log10((relative_roughness / 3.7) ** 1.11 + 6.9 / turbulent)
    for _ in range(2):
        inside = relative_roughness / 3.7 + 2.51 * x / turbulent
        excess = x + 2.0 * np.log10(inside)
        x = x - excess / (1.0 + 2.0 / np.log(10.0) * 2.51 / (turbulent * inside))
    return np.where(re < LAMINAR, 64.0 / re, x**-2.0)


def slack_multiplier(diameter: float, slack: float) -> float:
    """By how much a slack hose loses more than the same length stretched [-]; `diameter` [m], `slack` = 1 - hung/stretched length [-].

    PDCF = 1 + 0.58 r_c exp(-4.96 D), r_c in per cent (ASHRAE Fundamentals, after Abushakra et al.; 150 to 250 mm thin-wall duct, r_c < 30 %), of
    which thick-wall dust hose is taken to show 30 % (low confidence).
    """
    return 1.0 + HOSE_SLACK_SHARE * (pdcf(diameter, slack) - 1.0)


def pdcf(diameter: float, slack: float) -> float:
    """The published pressure-drop correction factor [-] of slack thin-wall flexible duct; see `slack_multiplier`. 5.09 at 6 in and 15 %."""
    return 1.0 + 0.58 * 100.0 * slack * exp(-0.126 * diameter / 0.0254)


def friction_loss(length: float, diameter: float, speed: float, roughness: float, rho: float, mu: float) -> float:
    """Loss [Pa] in a straight duct: f L/D rho V^2/2 (Darcy-Weisbach). Example: 10 m of 6 in spiral at 20.32 m/s: 313 Pa."""
    factor = friction_factor(np.array([rho * speed * diameter / mu]), np.array([roughness / diameter]))[0]
    return float(factor * length / diameter * 0.5 * rho * speed * speed)
