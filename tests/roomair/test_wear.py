"""Noise doses and protection, against the reference case and by hand."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from purvel.roomair.wear import factor_needed, muffled, noise_dose, together
from tests.reference import CASES, holds


def test_the_reference_case() -> None:
    given_ = CASES["noise-01"]["inputs"]
    found = noise_dose(list(zip(given_["L"], given_["T_h"])))
    assert holds("noise-01", "D_NIOSH", 100 * found.niosh)
    assert holds("noise-01", "D_OSHA", 100 * found.osha)
    assert holds("noise-01", "LEX8h_3dB", found.level_8h)


def test_eight_hours_at_the_limit_are_the_whole_dose() -> None:
    assert noise_dose([(85.0, 8.0)]).niosh == pytest.approx(1.0)
    assert noise_dose([(90.0, 8.0)]).osha == pytest.approx(1.0)
    assert noise_dose([(79.0, 8.0)]).osha == 0.0 and noise_dose([(80.0, 8.0)]).osha == pytest.approx(0.25)
    assert noise_dose([]).level_8h == 0.0 and noise_dose([(30.0, 8.0)]).niosh == 0.0


@given(st.lists(st.tuples(st.floats(70, 110), st.floats(0.1, 4.0)), min_size=1, max_size=5))
def test_more_noise_is_never_less_dose(spells: list[tuple[float, float]]) -> None:
    one = noise_dose(spells)
    assert noise_dose([*spells, (90.0, 1.0)]).niosh > one.niosh
    louder = noise_dose([(level + 3.0, hours) for level, hours in spells])
    assert louder.niosh == pytest.approx(2 * one.niosh) and louder.level_8h == pytest.approx(
        one.level_8h + 3.0, abs=0.02
    )


def test_levels_that_sound_at_once_and_under_protection() -> None:
    assert together([90.0, 80.0]) == pytest.approx(90.41, abs=0.01) and together([]) == 0.0
    assert together([90.0, 0.0]) == pytest.approx(90.0)
    assert muffled(95.0, 27.0) == 85.0 and muffled(95.0, 5.0) == 95.0
    assert factor_needed(0.5, 1.0) == 1.0 and factor_needed(12.0, 2.0) == 6.0
