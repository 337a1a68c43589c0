"""How far in front of an opening the air still moves."""

from math import sqrt

# m/s; 50 fpm: the speed at which drifting fine dust is still drawn in quiet air [ACGIH, low end; high
# confidence]
FINE_DUST_SPEED = 0.254


def reach(flow: float, area: float, speed: float = FINE_DUST_SPEED) -> float:
    """How far out on the axis of a plain opening the air still has `speed` [m]; flow [m3/s], area [m2].

    DallaValle: Q = V (10 X^2 + A), solved for X. Good to 25 % up to 1.5 diameters (ACGIH hood table).

    791 cfm into a 6 in opening, 50 fpm at 15 in:

    >>> round(reach(0.3733, 0.01824, 0.254), 3)
    0.381
    """
    return sqrt(max(0.0, (flow / speed - area) / 10.0))


def flow_for_reach(distance: float, area: float, speed: float = FINE_DUST_SPEED) -> float:
    """The flow [m3/s] that draws with `speed` [m/s] at `distance` [m] before a plain opening of `area` [m2]:
    V (10 X^2 + A) (DallaValle). Good to 25 % up to 1.5 diameters.

    As above, turned round:

    >>> round(flow_for_reach(0.381, 0.01824, 0.254), 3)
    0.373
    """
    return speed * (10.0 * distance**2 + area)
