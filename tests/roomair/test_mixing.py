"""Well-mixed zones: reference cases, and the closed form against the matrix."""

from math import exp

import numpy as np
import pytest

from purvel.roomair.mixing import respond, respond_apart, steady, two_zones
from tests.reference import CASES, holds


def test_one_box() -> None:
    one = CASES["box-01"]["inputs"]
    removal = 3600 * one["Q_m3s"] * one["eta"] / one["V_m3"] + one["ACH"] + one["k_dep"]
    released = one["G_mg_min"] * 60 / one["V_m3"]
    _, states, integral = respond(
        np.array([[-removal]]), np.array([released]), np.zeros(1), one["t_h"], 1 / 3600
    )
    assert holds("box-01", "lambda", removal)
    assert holds("box-01", "C_ss", float(steady(np.array([[-removal]]), np.array([released]))[0]))
    assert holds("box-01", "C_30min", float(states[-1, 0]))
    ss = released / removal
    assert integral[-1, 0] == pytest.approx(ss * (0.5 - (1 - exp(-removal * 0.5)) / removal), rel=1e-9)


def test_near_and_far_field() -> None:
    one = CASES["box-04"]["inputs"]
    matrix = two_zones((one["V_N"], one["V_F"]), one["beta"] * 60, (0.0, one["Q"] * 60 / one["V_F"]))
    source = np.array([one["G_mg_min"] * 60 / one["V_N"], 0.0])
    _, states, _ = respond(matrix, source, np.zeros(2), one["t_min"] / 60, 1 / 3600)
    assert holds("box-04", "C_N", float(states[-1, 0]))
    assert holds("box-04", "C_F", float(states[-1, 1]))
    final = steady(matrix, source)
    wide = CASES["box-03"]["inputs"]
    assert final[1] == pytest.approx(wide["G_mg_min"] / wide["Q_m3_min"])


def test_the_house_next_door() -> None:
    one = CASES["box-06"]["inputs"]
    matrix = two_zones((one["V1"], one["V2"]), one["Q_door_m3_min"] * 60, (one["k1_h"], one["k2_h"]))
    c1, c2 = steady(matrix, np.array([one["G1_mg_min"] * 60 / one["V1"], 0.0]))
    assert holds("box-06", "C1", float(c1)) and holds("box-06", "C2", float(c2))


def test_a_room_that_nothing_leaves_fills_up() -> None:
    _, states, _ = respond(np.zeros((1, 1)), np.array([6.0]), np.zeros(1), 2.0, 0.1)
    assert states[-1, 0] == pytest.approx(12.0)


@pytest.mark.parametrize("removal", [(0.0, 1e-7, 3e-3), (0.5, 4.0, 60.0)])
def test_zones_apart_are_those_of_a_diagonal_matrix(removal: tuple[float, ...]) -> None:
    source, start = np.array([6.0, 0.0, 20.0]), np.array([1.0, 3.0, 0.0])
    matrix = respond(-np.diag(removal), source, start, 2.0, 0.01)
    apart = respond_apart(np.array(removal), source, start, 2.0, 0.01)
    for one, other in zip(matrix, apart):
        assert one == pytest.approx(other, rel=1e-9, abs=1e-9)


def test_the_step_is_never_longer_than_was_asked() -> None:
    """1 h in steps of 0.3 is four of a quarter, in steps of 0.5 two, in longer ones one."""
    for step, count in ((0.3, 4), (0.5, 2), (2.0, 1), (1 / 3, 3)):
        for found in (
            respond(np.array([[-1.0]]), np.zeros(1), np.ones(1), 1.0, step),
            respond_apart(np.ones(1), np.zeros(1), np.ones(1), 1.0, step),
        ):
            assert found[0].tolist() == pytest.approx(np.linspace(0.0, 1.0, count + 1).tolist())
            assert len(found[1]) == len(found[2]) == count + 1
