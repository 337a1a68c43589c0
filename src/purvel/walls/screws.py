"""What screws into studs hold: shear by yield modes, pull by threads, both at a cleat that a load hangs off.

National Design Specification for Wood Construction (NDS), wood screws, normal duration; with a gap by the
general dowel equations of its technical report 12. Confidence M-H. Imperial inside, as published; SI outside.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import atan2, cos, hypot, sin, sqrt

from purvel.walls.shelves import GRAVITY

_INCH, _POUND, _PSI = 0.0254, 4.4482216, 6894.757  # m, N, Pa
STUD = 0.42  # specific gravity of spruce, pine and fir studs [NDS table 12.3.3A]
SIDE = 0.50  # of the cleat: plywood, pine and harder [the same]
FULL_HOLD = (
    10.0  # root diameters in the stud for full shear; down to 6 in proportion, none below [NDS 12.1.5]
)
LEAST_HOLD = 6.0  # diameters in the stud: with less it does not count [the same]
THREADED = 2 / 3  # of its length: a wood screw's thread [common, M]


@dataclass(frozen=True, slots=True)
class Holds:
    """What one screw holds [N]: across it and along it, and by which yield mode it gives way."""

    shear: float
    pull: float
    mode: str


def _bearing(gravity: float) -> float:
    """Dowel bearing strength below 1/4 in [psi]: 16 600 G^1.84 [NDS 12.3.3]."""
    return float(16_600.0 * gravity**1.84)


def _reduction(root: float) -> float:
    """K_D by diameter [in] [NDS table 12.3.1B]."""
    return 2.2 if root <= 0.17 else 10.0 * root + 0.5


def screw_holds(
    diameter: float,
    root: float,
    length: float,
    yield_strength: float,
    side: float,
    gap: float = 0.0,
    side_gravity: float = SIDE,
    stud_gravity: float = STUD,
) -> Holds:
    """What a wood screw through a board into a stud holds.

    Parameters: nominal and root diameter, length, thickness of the board (`side`) and of what lies between
    and bears nothing (`gap`) [m]; bending yield strength [Pa]; specific gravities [-].

    Shear: the least of the yield modes over K_D, in proportion below 10 root diameters in the stud. Pull:
    2850 G^2 D lb/in over the thread that is in the stud. Example: #8 x 2 1/2 in through 3/4 in of plywood
    (0.50) into 0.42: 83 lb (367 N) in mode IIIs, 82 lb/in.
    """
    d, ls, g = root / _INCH, side / _INCH, gap / _INCH
    hold = length / _INCH - ls - g
    if hold <= 0:
        return Holds(0.0, 0.0, "none")
    qs, qm = _bearing(side_gravity) * d, _bearing(stud_gravity) * d
    moment = yield_strength / _PSI * d**3 / 6.0
    modes = {
        "Is": qs * ls,
        "Im": qm * hold,
        "II": _mode(1 / (4 * qs) + 1 / (4 * qm), ls / 2 + g + hold / 2, qs * ls**2 / 4 + qm * hold**2 / 4),
        "IIIm": _mode(1 / (2 * qs) + 1 / (4 * qm), g + hold / 2, moment + qm * hold**2 / 4),
        "IIIs": _mode(1 / (4 * qs) + 1 / (2 * qm), ls / 2 + g, qs * ls**2 / 4 + moment),
        "IV": _mode(1 / (2 * qs) + 1 / (2 * qm), g, 2 * moment),
    }
    mode = min(modes, key=lambda name: modes[name])
    share = min(1.0, hold / d / FULL_HOLD) if hold >= LEAST_HOLD * d else 0.0
    thread = min(hold, THREADED * length / _INCH)
    pull = 2850.0 * stud_gravity**2 * (diameter / _INCH) * thread
    return Holds(modes[mode] / _reduction(d) * share * _POUND, pull * _POUND, mode)


def _mode(a: float, b: float, c: float) -> float:
    """The force of a yield mode: the root of a P^2 + b P - c = 0 [lb]."""
    return (-b + sqrt(b * b + 4 * a * c)) / (2 * a)


@dataclass(frozen=True, slots=True)
class Fixing:
    """How far the screws of a unit are used: studs under it, screws that bear, shear and pull of the one that
    is used most [N], and the share of what it holds there [-].
    """

    studs: int
    screws: int
    shear: float
    pull: float
    used: float


def fixing(mass: float, out: float, arm: float, studs: int, per_stud: int, holds: Holds) -> Fixing:
    """How far screws are used by a mass [kg] that hangs `out` from the wall [m].

    All screws share the shear; the couple W out is taken by the pull of all of them against a foot `arm`
    below [m]: T = W out / arm. Together by Hankinson's formula (NDS 12.4.1): the slanting force over W' Z' /
    (W' cos2 + Z' sin2). Without a screw in a stud nothing holds: used is infinite.
    """
    count = studs * per_stud
    weight = mass * GRAVITY
    if count == 0 or holds.shear <= 0 or holds.pull <= 0:
        return Fixing(studs, count, 0.0, 0.0, float("inf") if mass > 0 else 0.0)
    shear, pull = weight / count, weight * out / max(arm, 0.02) / count
    force = hypot(shear, pull)
    if force == 0:
        return Fixing(studs, count, 0.0, 0.0, 0.0)
    angle = atan2(pull, shear)
    together = holds.pull * holds.shear / (holds.pull * cos(angle) ** 2 + holds.shear * sin(angle) ** 2)
    return Fixing(studs, count, shear, pull, force / together)


def studs_under(
    start: float, end: float, first: float, spacing: float, edge: float = 0.02
) -> Sequence[float]:
    """Where studs are under a unit [m along the wall]: from `first` every `spacing`, `edge` inside its
    ends.
    """
    if spacing <= 0:
        return []
    found = []
    at = first
    while at <= end - edge + 1e-9:
        if at >= start + edge - 1e-9:
            found.append(at)
        at += spacing
    return found
