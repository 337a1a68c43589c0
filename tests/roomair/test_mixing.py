"""Well-mixed zones: reference cases, pocket arithmetic, and how closely the hours may lie."""

from math import exp

import numpy as np
import pytest

from purvel.roomair.mixing import even, respond
from tests.reference import CASES, holds

ALONE, ONE = np.zeros((1, 1)), np.ones(1)
LONG = np.array([0.0, 500.0])  # h, until nothing changes any more


def alone(removal: float, source: float, start: float, hours: np.ndarray) -> tuple[np.ndarray, float]:
    """One size in one zone: its course, and its integral."""
    states, dose = respond(
        np.array([[removal]]), ALONE, ONE, np.array([[[source]]]), np.array([[[start]]]), hours
    )
    return states[0, 0, 0], float(dose[0, 0, 0])


def linked(
    volumes: tuple[float, float],
    exchanged: float,
    removal: tuple[float, float],
    entering: float,
    hours: np.ndarray,
) -> np.ndarray:
    """Two zones, something [mg/h] entering the first: what hangs in each (Z, T)."""
    between = np.array([[0.0, exchanged], [exchanged, 0.0]])
    source = np.array([[[entering / volumes[0], 0.0]]])
    states, _ = respond(np.array([removal]), between, np.array(volumes), source, 0 * source, hours)
    return states[0, 0]


def test_one_box() -> None:
    one = CASES["box-01"]["inputs"]
    removal = 3600 * one["Q_m3s"] * one["eta"] / one["V_m3"] + one["ACH"] + one["k_dep"]
    released = one["G_mg_min"] * 60 / one["V_m3"]
    states, dose = alone(removal, released, 0.0, even(one["t_h"], 1 / 3600))
    assert holds("box-01", "lambda", removal)
    assert holds("box-01", "C_ss", float(alone(removal, released, 0.0, LONG)[0][-1]))
    assert holds("box-01", "C_30min", float(states[-1]))
    ss = released / removal
    assert dose == pytest.approx(ss * (0.5 - (1 - exp(-removal * 0.5)) / removal), rel=1e-9)


def test_near_and_far_field() -> None:
    one = CASES["box-04"]["inputs"]
    far = one["Q"] * 60 / one["V_F"]
    hours = even(one["t_min"] / 60, 1 / 3600)
    rooms = (one["V_N"], one["V_F"]), one["beta"] * 60, (0.0, far), one["G_mg_min"] * 60
    states = linked(*rooms, hours)
    assert holds("box-04", "C_N", float(states[0, -1]))
    assert holds("box-04", "C_F", float(states[1, -1]))
    wide = CASES["box-03"]["inputs"]
    assert linked(*rooms, LONG)[1, -1] == pytest.approx(wide["G_mg_min"] / wide["Q_m3_min"])


def test_the_house_next_door() -> None:
    one = CASES["box-06"]["inputs"]
    states = linked(
        (one["V1"], one["V2"]),
        one["Q_door_m3_min"] * 60,
        (one["k1_h"], one["k2_h"]),
        one["G1_mg_min"] * 60,
        LONG,
    )
    assert holds("box-06", "C1", float(states[0, -1])) and holds("box-06", "C2", float(states[1, -1]))


@pytest.mark.parametrize("removal", [0.0, 1e-9, 1e-5, 4e-5, 6e-5, 1e-3, 0.5, 4.0, 600.0])
def test_one_zone_by_the_formula_however_little_leaves_it(removal: float) -> None:
    """C = C0 e^-kt + b (1 - e^-kt) / k; its integral from sums over a fine grid."""
    hours = even(2.0, 1 / 3600)
    states, dose = alone(removal, 6.0, 1.0, hours)
    left = np.exp(-removal * hours)
    brought = np.where(removal * hours > 1e-7, (1 - left) / (removal or 1.0), hours)
    assert states == pytest.approx(left + 6.0 * brought, rel=1e-7)
    assert states[0] == 1.0
    if removal < 100.0:
        assert dose == pytest.approx(np.trapezoid(states, hours), rel=1e-6)
    assert dose * removal + states[-1] == pytest.approx(1.0 + 6.0 * 2.0, rel=1e-9)  # nothing is lost


@pytest.mark.parametrize("count", [1, 2, 3, 4, 7, 15, 16, 17, 24, 25, 100])
def test_however_many_hours_are_asked_for_each_is_what_it_is_alone(count: int) -> None:
    """The hours are taken in blocks: the last may be short, one may be all."""
    hours = even(1.5, 1.5 / count)
    states, dose = alone(3.0, 2.0, 5.0, hours)
    assert len(states) == len(hours) == count + 1
    assert states == pytest.approx([5.0 * exp(-3.0 * t) + 2.0 * (1 - exp(-3.0 * t)) / 3.0 for t in hours])
    assert dose == pytest.approx(alone(3.0, 2.0, 5.0, np.array([0.0, 1.5]))[1])


def test_it_is_written_where_it_shall_be() -> None:
    hours, one = even(1.0, 0.25), np.ones((1, 1, 1))
    kept = np.full((1, 1, 1, 9), -1.0)
    found, _ = respond(one[0], ALONE, ONE, one, 0 * one, hours, kept[..., 2:7])
    assert found.base is kept and kept[..., :2].max() == kept[..., 7:].max() == -1.0
    assert kept[0, 0, 0, 2:7] == pytest.approx(1.0 - np.exp(-hours))


def test_the_step_is_never_longer_than_was_asked() -> None:
    """1 h in steps of 0.3 is four of a quarter, in steps of 0.5 two, in longer ones one."""
    for step, count in ((0.3, 4), (0.5, 2), (2.0, 1), (1 / 3, 3)):
        assert even(1.0, step).tolist() == pytest.approx(np.linspace(0.0, 1.0, count + 1).tolist())
