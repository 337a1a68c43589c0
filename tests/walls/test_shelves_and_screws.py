"""Shelves and screws against published tables and sums for a pocket calculator."""

from math import sqrt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from purvel.catalogue.tools import boards, screws
from purvel.walls.screws import Holds, fixing, screw_holds, studs_under
from purvel.walls.shelves import GRAVITY, even_sag, middle_sag, most_mass, second_moment, shelf_sag
from tests.reference import CASES, holds

POUND, INCH = 4.4482216, 0.0254
KEYS = {"no-8": (83, 88, 82, 0.46), "no-10": (99, 106, 96, 0.41), "no-14": (126, 135, 122, 0.36)}


def test_the_reference_shelves() -> None:
    i = CASES["shelf-01"]["inputs"]
    stiffness = i["E_Pa"] * second_moment(i["b_m"], i["h_m"])
    sag = even_sag(i["w_N_m"], i["L_m"], stiffness)
    assert holds("shelf-01", "sag_mm", 1000 * sag) and holds("shelf-01", "ratio_L_over", i["L_m"] / sag)
    i = CASES["shelf-03"]["inputs"]
    assert holds(
        "shelf-03", "sag_mm", 1000 * middle_sag(i["P_N"], i["L"], i["E"] * second_moment(i["b"], i["h"]))
    )


@pytest.mark.parametrize(
    ("board", "thickness", "span", "kilograms"),
    [
        ("mdf", 0.019, 0.8, 17),
        ("particleboard", 0.018, 0.9, 9),
        ("birch-ply", 0.018, 0.6, 84),
        ("oak", 0.019, 1.2, 32),
    ],
)
def test_what_a_shelf_carries_to_a_360th_of_its_span(
    board: str, thickness: float, span: float, kilograms: float
) -> None:
    """The usual table for boards 300 mm deep, without creep."""
    most = most_mass(span, 1, 0.3, thickness, boards()[board].e, (1.0, 1.0))
    assert most == pytest.approx(kilograms, abs=0.6)


def test_creep_and_more_supports() -> None:
    one = shelf_sag(30.0, 1.2, 1, 0.3, 0.018, 8e9, (1.5, 2.0))
    assert (one.low, one.high) == (pytest.approx(1.5 * one.at_once), pytest.approx(2.0 * one.at_once))
    two = shelf_sag(30.0, 1.2, 2, 0.3, 0.018, 8e9, (1.5, 2.0))
    assert two.span == 0.6 and two.at_once == pytest.approx(0.415 * one.at_once / 16)
    three = shelf_sag(30.0, 1.2, 3, 0.3, 0.018, 8e9, (1.0, 1.0))
    assert three.at_once == pytest.approx(0.52 * one.at_once / 81)


def test_two_bays_as_the_beam_table_has_it() -> None:
    """Over two equal bays w L4 / (185 E I) instead of 5 w L4 / (384 E I): 0.415 of it."""
    assert pytest.approx(0.415, abs=0.001) == (1 / 185) / (5 / 384)


@given(st.floats(0.1, 50), st.floats(0.3, 2.0), st.floats(0.01, 0.04))
def test_more_mass_and_span_sag_more_and_thickness_less(mass: float, width: float, thickness: float) -> None:
    def sag(m: float, w: float, t: float) -> float:
        return shelf_sag(m, w, 1, 0.3, t, 8e9, (1.5, 2.0)).high

    assert sag(2 * mass, width, thickness) == pytest.approx(2 * sag(mass, width, thickness))
    assert sag(mass, 2 * width, thickness) == pytest.approx(8 * sag(mass, width, thickness))
    assert sag(mass, width, 2 * thickness) == pytest.approx(sag(mass, width, thickness) / 8)


@pytest.mark.parametrize("key", KEYS)
def test_screws_through_plywood_into_studs_as_published(key: str) -> None:
    """NDS, 3/4 in side of gravity 0.50 on studs of 0.42 and 0.50: lb of shear, lb/in of pull."""
    soft, hard, pull, lost = KEYS[key]
    one = screws()[key]

    def through(gap: float = 0.0, gravity: float = 0.42) -> Holds:
        return screw_holds(
            one.diameter, one.root, one.length, one.yield_strength, 0.75 * INCH, gap, stud_gravity=gravity
        )

    assert through().shear / POUND == pytest.approx(soft, abs=0.8) and through().mode == "IIIs"
    assert through(gravity=0.50).shear / POUND == pytest.approx(hard, abs=0.8)
    thread = one.length / INCH * 2 / 3
    assert through().pull / POUND == pytest.approx(pull * min(thread, one.length / INCH - 0.75), rel=0.01)
    # half an inch of plasterboard between, which bears nothing, before what the shorter hold takes off
    behind = through(0.5 * INCH)
    share = min(1.0, (one.length - 1.25 * INCH) / one.root / 10)
    assert 1 - behind.shear / share / through().shear == pytest.approx(lost, abs=0.01)


def test_a_screw_too_short_holds_nothing() -> None:
    assert screw_holds(0.0042, 0.0033, 0.018, 620e6, 0.019).pull == 0.0
    assert (
        screw_holds(0.0042, 0.0033, 0.030, 620e6, 0.019).shear == 0.0
    )  # less than six diameters in the stud


def test_the_couple_at_a_cleat() -> None:
    """20 kg 0.15 m out on a cleat that bears 0.08 m below its screws: 196 N across, 368 N of pull in all, on
    four screws. Holding 400 N and 1000 N: 49 and 92 N each, at an angle with cos2 = 0.2215; Hankinson gives
    400 x 1000 / (1000 x 0.2215 + 400 x 0.7785) = 750.6 N, so 104.2 / 750.6 = 13.9 %.
    """
    got = fixing(20.0, 0.15, 0.08, 2, 2, Holds(400.0, 1000.0, "IIIs"))
    assert got.screws == 4
    assert got.shear == pytest.approx(20 * GRAVITY / 4) and got.pull == pytest.approx(
        20 * GRAVITY * 0.15 / 0.08 / 4
    )
    assert got.used == pytest.approx(0.139, abs=0.001)


def test_without_a_stud_nothing_holds() -> None:
    assert fixing(1.0, 0.1, 0.1, 0, 2, Holds(400.0, 1000.0, "IV")).used == float("inf")
    assert fixing(0.0, 0.1, 0.1, 0, 2, Holds(400.0, 1000.0, "IV")).used == 0.0


def test_studs_under_a_unit() -> None:
    assert studs_under(0.5, 1.7, 0.4, 0.4) == pytest.approx([0.8, 1.2, 1.6])
    assert studs_under(0.5, 0.7, 0.4, 0.4) == [] and studs_under(0.0, 3.0, 0.4, 0.0) == []
    assert studs_under(0.39, 1.21, 0.4, 0.4) == pytest.approx([0.8])  # too near the ends


def yield_modes(d: float, lm: float, ls: float, fem: float, fes: float, fyb: float) -> dict[str, float]:
    """The yield limits [lb] as NDS 12.3.1 writes them, with the length in main and side member [in]; not the
    general dowel equations by which the engine goes.
    """
    re, rt = fem / fes, lm / ls
    k1 = (sqrt(re + 2 * re**2 * (1 + rt + rt**2) + rt**2 * re**3) - re * (1 + rt)) / (1 + re)
    k2 = -1 + sqrt(2 * (1 + re) + 2 * fyb * (1 + 2 * re) * d**2 / (3 * fem * lm**2))
    k3 = -1 + sqrt(2 * (1 + re) / re + 2 * fyb * (2 + re) * d**2 / (3 * fem * ls**2))
    return {
        "Im": d * lm * fem,
        "Is": d * ls * fes,
        "II": k1 * d * ls * fes,
        "IIIm": k2 * d * lm * fem / (1 + 2 * re),
        "IIIs": k3 * d * ls * fem / (2 + re),
        "IV": d**2 * sqrt(2 * fem * fyb / (3 * (1 + re))),
    }


@pytest.mark.parametrize(
    ("length", "side", "gravities", "fyb", "governs"),
    [
        (0.16, 0.03, (0.42, 0.50), 9e4, "Is"),  # too short a hold: nothing
        (1.0, 0.05, (0.50, 0.42), 9e4, "Is"),
        (2.45, 0.05, (0.42, 0.50), 9e4, "Is"),
        (6.8, 6.0, (0.50, 0.42), 1e6, "Im"),
        (1.4, 0.5, (0.50, 0.50), 1e6, "II"),
        (2.3, 0.9, (0.50, 0.42), 1e6, "II"),
        (7.4, 6.0, (0.50, 0.42), 1e6, "IIIm"),
        (2.5, 0.4, (0.50, 0.42), 9e4, "IIIs"),
        (1.3, 0.4, (0.50, 0.42), 9e4, "IIIs"),  # 6.9 diameters: in proportion
        (3.0, 1.4, (0.50, 0.42), 9e4, "IV"),
    ],
)
def test_each_yield_mode_as_the_code_writes_it(
    length: float, side: float, gravities: tuple[float, float], fyb: float, governs: str
) -> None:
    """Of a screw with a root of 0.131 in; lengths in inches, the yield strength in psi. Only a dowel stiffer
    than any screw crushes the wood with ten diameters in it.
    """
    d = 0.131
    fes, fem = (16_600.0 * gravity**1.84 for gravity in gravities)
    wanted = yield_modes(d, length - side, side, fem, fes, fyb)
    found = screw_holds(
        0.164 * INCH, d * INCH, length * INCH, fyb * 6894.757, side * INCH, 0.0, gravities[0], gravities[1]
    )
    hold = (length - side) / d
    share = min(1.0, hold / 10.0) if hold >= 6.0 else 0.0
    assert found.mode == min(wanted, key=lambda name: wanted[name]) == governs
    assert found.shear / POUND == pytest.approx(min(wanted.values()) / 2.2 * share, rel=1e-4)
