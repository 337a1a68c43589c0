"""Losses in elbows, changes of size and converging branches, on the velocity pressure of a named section."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, radians

from purvel.libraries import np

TAPER = 30.0  # deg, included angle of bought reducers [trade practice]

_WYE = 60.0  # deg up to which the momentum form holds for the straight leg
_TEE_RELIEF = 0.45  # [-], per share of flow in the branch

# loss of an elbow of an angle [deg] over that of 90 deg [Idelchik, ASHRAE; beyond 90 deg a guess]
_ANGLES = (0.0, 20.0, 30.0, 45.0, 60.0, 75.0, 90.0, 180.0)
_ANGLE_FACTORS = (0.0, 0.31, 0.45, 0.60, 0.78, 0.90, 1.0, 1.4)  # [-], at these angles


def elbow_loss(loss_90: float, turn: float) -> float:
    """Loss coefficient [-] of an elbow of `turn` [deg] from that of its 90 degree sister.

    Angle factors of Idelchik and ASHRAE (45 deg: 0.60), the more cautious of the two published tables. High
    confidence; 180 deg by Idelchik.

    0 to 180 deg.

    >>> round(elbow_loss(0.30, 45.0), 2)
    0.18
    """
    return loss_90 * float(np.interp(turn, _ANGLES, _ANGLE_FACTORS))


_RATIOS = tuple(0.1 + 0.025 * k for k in range(37))  # of the smaller diameter to the larger
_NARROWING = (
    0.0543, 0.0543, 0.0542, 0.0541, 0.0540, 0.0539, 0.0537, 0.0535, 0.0533, 0.0530,
    0.0527, 0.0523, 0.0519, 0.0514, 0.0508, 0.0502, 0.0494, 0.0485, 0.0475, 0.0463,
    0.0450, 0.0436, 0.0419, 0.0400, 0.0380, 0.0357, 0.0332, 0.0305, 0.0276, 0.0244,
    0.0211, 0.0177, 0.0141, 0.0104, 0.0068, 0.0033, 0.0000,
)  # fmt: skip
_WIDENING = (
    0.6442, 0.6358, 0.6260, 0.6148, 0.6025, 0.5892, 0.5749, 0.5593, 0.5421, 0.5230,
    0.5020, 0.4804, 0.4598, 0.4400, 0.4171, 0.3887, 0.3600, 0.3376, 0.3182, 0.2965,
    0.2725, 0.2475, 0.2228, 0.1992, 0.1764, 0.1541, 0.1320, 0.1100, 0.1100, 0.1100,
    0.1100, 0.1100, 0.1100, 0.1100, 0.1100, 0.1100, 0.1100,
)  # fmt: skip


def size_change(upstream: float, downstream: float) -> float:
    """Loss coefficient [-] of a taper between two diameters [m] in the direction of flow, on the velocity
    pressure in the smaller section.

    Rennels for the contraction, at a friction factor of 0.018, and Idelchik for the diffuser, both with
    `TAPER`; tabulated by the ratio of the diameters, which a test holds against `fluids`. Sources differ by
    10 to 60 % at small angles (medium confidence).

    Ratios of 0.1 to 1. From 6 to 4 in, and back:

    >>> round(size_change(0.1524, 0.1016), 2), round(size_change(0.1016, 0.1524), 2)
    (0.04, 0.21)
    """
    if abs(upstream - downstream) < 1e-6:
        return 0.0
    ratio = min(upstream, downstream) / max(upstream, downstream)
    return float(np.interp(ratio, _RATIOS, _NARROWING if upstream > downstream else _WIDENING))


def sudden_contraction(upstream: float, downstream: float) -> float:
    """K = 0.5 (1 - A2/A1)^0.75 on the velocity pressure downstream [-]; diameters [m] (Idelchik; sources
    differ by 20 %).

    From a room, where A2/A1 is nothing:

    >>> round(sudden_contraction(100.0, 0.1), 2)
    0.5
    """
    return float(0.5 * (1.0 - (downstream / upstream) ** 2) ** 0.75)


_DRAWN = (0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875)  # of the diameter that the slide is drawn out
_DRAWN_LOSS = (98.0, 17.0, 5.52, 2.06, 0.81, 0.26, 0.07)  # [-], at these


def part_open_gate(drawn: float) -> float:
    """Loss coefficient [-] of a round slide gate that is drawn out by a share of its duct's diameter.

    Weisbach's table, as Idelchik prints it (high confidence for a slide with a round edge, low for others),
    between its lines by the logarithm; below an eighth it grows with the square of what is left of the
    opening, above seven eighths it fades out. 0.02 to 1.

    >>> part_open_gate(0.5), part_open_gate(1.0), round(part_open_gate(0.0625))
    (2.06, 0.0, 392)
    """
    if drawn <= _DRAWN[0]:
        return _DRAWN_LOSS[0] * (_DRAWN[0] / drawn) ** 2
    if drawn >= _DRAWN[-1]:
        return _DRAWN_LOSS[-1] * max(0.0, 1.0 - drawn) / (1.0 - _DRAWN[-1])
    return float(np.exp(np.interp(drawn, _DRAWN, np.log(_DRAWN_LOSS))))


@dataclass(frozen=True, slots=True)
class JunctionTerms:
    """Loss of one leg of a converging junction as a sum over velocity pressures: sum of legs[k] VP_k, plus
    combined VP_c [-].
    """

    legs: tuple[float, ...]
    combined: float


def junction(
    areas: Sequence[float],
    angles: Sequence[float],
    area_combined: float,
    factors: Sequence[float] | None = None,
) -> tuple[JunctionTerms, ...]:
    """Loss terms of each leg of a converging junction; areas [m2], angle of each leg to the outflow [deg] (0
    = straight through).

    Momentum along the main with equal static pressure at the junction (Levin, Taliev; Idelchik ch. 7): m =
    sum of 2 (Fk/Fc)(wk/wc)^2 cos(angle k); zeta = A [1 + (w/wc)^2 - m], on the combined velocity pressure, A
    = 1 for the straight leg. Multiplied out, each is linear in the velocity pressures, so nothing divides by
    a flow that may be zero. Coefficients may be negative: a fast stream drags the slow one. 15 to 90 deg;
    +-0.1 to +-0.2 on zeta (medium confidence). `factors` overrides A. For a 90 degree tee the straight leg
    is Idelchik's, see `_tee_relief`.
    """
    momentum = [2.0 * area / area_combined * cos(radians(angle)) for area, angle in zip(areas, angles)]
    straight = sum(area for area, angle in zip(areas, angles) if angle == 0)
    terms = []
    for own, (area, angle) in enumerate(zip(areas, angles)):
        a = factors[own] if factors else 1.0 if angle == 0 else branch_factor(straight, area, area_combined)
        terms.append(JunctionTerms(tuple(a * ((k == own) - m) for k, m in enumerate(momentum)), a))
    if len(areas) == 2 and 0 in angles and max(angles) > _WYE:
        through = list(angles).index(0)
        terms[through] = _tee_relief(terms[through], through, areas, max(angles), area_combined)
    return tuple(terms)


def _tee_relief(
    terms: JunctionTerms, through: int, areas: Sequence[float], angle: float, area_combined: float
) -> JunctionTerms:
    """The straight leg of a tee: 1.55 x - x^2 of the combined velocity pressure, x the branch's share of the
    flow, where the momentum form gives 2x - x^2 (Idelchik, converging tees of equal main; medium confidence).

    The difference, 0.45 x, is taken off in full at 90 degrees and where the main keeps its size, fading out
    to a 60 degree wye and to a main that is enlarged by the whole branch. x VP_c = (VP_c - (Fs/Fc)^2 VP_s +
    (Fb/Fc)^2 VP_b) / 2, since the flows add up.
    """
    crowding = _crowding(areas[through], areas[1 - through], area_combined)
    half = 0.5 * _TEE_RELIEF * crowding * (angle - _WYE) / (90.0 - _WYE)
    share = [(area / area_combined) ** 2 for area in areas]
    legs = tuple(
        term + half * (part if leg == through else -part)
        for leg, (term, part) in enumerate(zip(terms.legs, share))
    )
    return JunctionTerms(legs, terms.combined - half)


def branch_factor(area_straight: float, area_branch: float, area_combined: float) -> float:
    """The factor A of `junction` [-]: 1 where the main is enlarged to take the branch, less where it keeps
    its size.

    A continuous substitute for the step in Idelchik's table 7-1, which no solver can cross (medium
    confidence). The table ends at a branch as wide as the main; for a wider one A goes back to 1, the
    momentum balance alone: a smaller A would leave the straight leg's air no way in.

    A branch of 0.4 of a main that keeps its size, and one that the main is enlarged by:

    >>> round(branch_factor(0.02, 0.008, 0.02), 2), branch_factor(0.02, 0.008, 0.028)
    (0.74, 1.0)
    """
    kept = float(
        np.interp(
            area_branch / area_combined,
            (0.0, 0.2, 0.35, 0.6, 0.8, 1.0, 1.5),
            (1.0, 1.0, 0.75, 0.70, 0.65, 0.60, 1.0),
        )
    )
    return 1.0 + (kept - 1.0) * _crowding(area_straight, area_branch, area_combined)


def _crowding(area_straight: float, area_branch: float, area_combined: float) -> float:
    """How much of a branch the main is not enlarged for: 0 for all its area there, 1 for a main that keeps
    its size.
    """
    return min(1.0, max(0.0, (area_straight + area_branch - area_combined) / area_branch))


def zeta(terms: JunctionTerms, legs: Sequence[float], combined: float) -> float:
    """A junction loss as a coefficient on the combined velocity pressure [-], from the speeds in the legs and
    after them [m/s].

    A 45 degree wye with one speed in all legs, 2 - 2 (0.6923 + 0.3077 cos 45) for both:

    >>> straight, _ = junction((0.018, 0.008), (0.0, 45.0), 0.026)
    >>> round(zeta(straight, (15.0, 15.0), 15.0), 3)
    0.18
    """
    return terms.combined + sum(term * (speed / combined) ** 2 for term, speed in zip(terms.legs, legs))


def hood_coefficient_of_entry(loss: float) -> float:
    """Ce = 1/sqrt(1 + F) [-] from the entry loss factor F (ACGIH).

    A plain duct end, F 0.93 (ACGIH: 0.72):

    >>> round(hood_coefficient_of_entry(0.93), 2)
    0.72
    """
    return float((1.0 + loss) ** -0.5)
