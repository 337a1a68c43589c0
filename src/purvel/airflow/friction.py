"""Friction in straight duct and hose."""

from __future__ import annotations

from math import exp

from purvel.libraries import Array, np

# Reynolds numbers up to which flow is taken as laminar and from which as turbulent [textbook]
LAMINAR, TURBULENT = 2000.0, 2300.0
# share of the published slack penalty that thick-wall dust hose shows [a guess, low confidence]
HOSE_SLACK_SHARE = 0.3
HOSE_SLACK_SPREAD = (0.1, 1.0)  # and what it may be


def friction_factor(reynolds: Array, relative_roughness: Array) -> Array:
    """Darcy friction factor [-] for arrays of Reynolds numbers [-] and eps/D [-].

    Laminar (Re up to 2000): 64/Re. From 2300: Colebrook-White, 1/sqrt(f) = -2 log10(eps/D/3.7 + 2.51/(Re
    sqrt(f))) (Colebrook 1939), started from Haaland and refined by two Newton steps on x = 1/sqrt(f), which
    leaves less than 1e-9. Between them a smooth rise, since no steady flow would exist in the step. The tests
    hold it against `fluids`, which has no form for arrays: a batch of gate sets needs 1e5 values at once.
    Scatter of real ducts about Colebrook: 5 to 10 %.

    Re 1e5 and eps/D 1e-4 (Moody's chart: 0.0185):

    >>> [round(float(f), 4) for f in friction_factor(np.array([1000.0, 1e5]), np.array([1e-4, 1e-4]))]
    [0.064, 0.0185]
    """
    return factor_and_slope(reynolds, relative_roughness)[0]


def factor_and_slope(reynolds: Array, relative_roughness: Array) -> tuple[Array, Array]:
    """`friction_factor` f [-] and Re df/dRe [-], for solvers.

    In laminar flow Re df/dRe is -f.

    >>> [round(float(one[0]), 4) for one in factor_and_slope(np.array([1000.0]), np.array([0.0]))]
    [0.064, -0.064]
    """
    re = np.maximum(reynolds, 1e-3)
    rough = np.maximum(re, TURBULENT)
    x = -1.8 * np.log10((relative_roughness / 3.7) ** 1.11 + 6.9 / rough)
    at_wall, in_flow = relative_roughness / 3.7, 2.51 / rough
    steep = (
        2.0 / np.log(10.0) * in_flow
    )  # how strongly the right side of the equation hangs on x, times `inside`
    for _ in range(2):
        inside = at_wall + in_flow * x
        x = x - (x + 2.0 * np.log10(inside)) / (1.0 + steep / inside)
    share = steep / (at_wall + in_flow * x)
    turbulent = 1.0 / (x * x)
    turbulent_slope = np.where(re > TURBULENT, -2.0 * turbulent * share / (1.0 + share), 0.0)
    laminar = 64.0 / re
    between = np.minimum(np.maximum((re - LAMINAR) / (TURBULENT - LAMINAR), 0.0), 1.0)
    mix = between**2 * (3.0 - 2.0 * between)
    rising = 6.0 * between * (1.0 - between) * re / (TURBULENT - LAMINAR)
    factor = laminar + mix * (turbulent - laminar)
    return factor, rising * (turbulent - laminar) + mix * turbulent_slope - (1.0 - mix) * laminar


def slack_multiplier(diameter: float, slack: float, share: float = HOSE_SLACK_SHARE) -> float:
    """By how much a slack hose loses more than the same length stretched [-]; `diameter` [m], `slack` = 1 -
    hung/stretched length [-].

    PDCF = 1 + 0.58 r_c exp(-4.96 D), r_c in per cent (ASHRAE Fundamentals, after Abushakra et al.; 150 to 250
    mm thin-wall duct, r_c < 30 %), of which thick-wall dust hose is taken to show a `share`, 30 % (low
    confidence).

    15 % of slack in 6 in: of the published 5.09 it takes 30 % of what is over 1.

    >>> round(slack_multiplier(0.1524, 0.15, 0.3), 2)
    2.23
    """
    return 1.0 + share * (pdcf(diameter, slack) - 1.0)


def pdcf(diameter: float, slack: float) -> float:
    """The published pressure-drop correction factor [-] of slack thin-wall flexible duct; see
    `slack_multiplier`.

    >>> round(pdcf(0.1524, 0.15), 2)
    5.09
    """
    return 1.0 + 0.58 * 100.0 * slack * exp(-0.126 * diameter / 0.0254)


def friction_loss(
    length: float, diameter: float, speed: float, roughness: float, rho: float, mu: float
) -> float:
    """Loss [Pa] in a straight duct: f L/D rho V^2/2 (Darcy-Weisbach). Scatter of real ducts 5 to 10 %.

    10 m of 6 in spiral, roughness 0.09 mm, at 4000 fpm:

    >>> round(friction_loss(10.0, 0.1524, 20.32, 9e-5, 1.2014, 1.813e-5))
    313
    """
    factor = friction_factor(np.array([rho * speed * diameter / mu]), np.array([roughness / diameter]))[0]
    return float(factor * length / diameter * 0.5 * rho * speed * speed)
