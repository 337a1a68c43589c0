"""A hood laid flat: its parts are as large as the box that is folded of it."""

from itertools import pairwise

import pytest
import shapely

from purvel.airflow.hood_pattern import FLAP, LEAST_PLENUM, Pattern, pattern
from purvel.airflow.hoods import HoodOpening, OpeningKind


def area(made: Pattern, number: int = 0) -> float:
    return float(shapely.Polygon(made.cuts[number]).area)


def test_a_box_has_a_back_and_four_sides() -> None:
    """300 by 200 and 150 deep: 0.06 of back, two sides of 0.045 and two of 0.03 square metres."""
    made = pattern(HoodOpening("booth", 0.3, 0.2), 0.15, 0.1)
    assert area(made) == pytest.approx(0.3 * 0.2 + 2 * 0.3 * 0.15 + 2 * 0.2 * 0.15)
    assert (made.width, made.height) == (pytest.approx(0.3 + 2 * 0.15), pytest.approx(0.2 + 2 * 0.15))
    assert made.holes == ((pytest.approx(0.3), pytest.approx(0.25), 0.05),)
    assert len(made.folds) == 4 and len(made.cuts) == 1 + 4
    assert sum(
        ((ax - bx) ** 2 + (ay - by) ** 2) ** 0.5 for (ax, ay), (bx, by) in made.folds
    ) == pytest.approx(1.0)


def test_a_flange_lies_along_every_free_edge() -> None:
    bare = pattern(HoodOpening("plain", 0.3, 0.2), 0.15, 0.1)
    made = pattern(HoodOpening("flanged", 0.3, 0.2), 0.15, 0.1)
    assert area(made) - area(bare) == pytest.approx(0.1 * 2 * (0.3 + 0.2))
    assert len(made.folds) == len(bare.folds) + 4


def test_a_slot_is_cut_into_a_front_of_its_own() -> None:
    """The box behind a slot of 25 mm is as high as the outlet asks for, and has a sixth side."""
    made = pattern(HoodOpening("slot", 0.9, 0.025), 0.1, 0.15)
    high = 0.15 + 2 * 0.02
    assert area(made) == pytest.approx(2 * 0.9 * high + 2 * 0.9 * 0.1 + 2 * high * 0.1)
    assert area(made, -1) == pytest.approx(0.9 * 0.025)
    low = pattern(HoodOpening("slot", 0.9, 0.025), 0.1, 0.05)
    assert area(low) == pytest.approx(2 * 0.9 * LEAST_PLENUM + 2 * 0.9 * 0.1 + 2 * LEAST_PLENUM * 0.1)


@pytest.mark.parametrize("kind", ["plain", "flanged", "slot", "flanged slot", "booth", "downdraught"])
def test_everything_lies_within_its_bounds_and_nothing_over_another(kind: OpeningKind) -> None:
    made = pattern(HoodOpening(kind, 0.4, 0.3), 0.12, 0.125)
    points = [point for outline in made.cuts for point in outline]
    assert min(x for x, _ in points) >= -1e-9 and min(y for _, y in points) >= -1e-9
    assert max(x for x, _ in points) <= made.width + 1e-9 and max(y for _, y in points) <= made.height + 1e-9
    body = shapely.Polygon(made.cuts[0])
    assert body.is_valid
    for flap in made.cuts[1:5]:
        outline = shapely.Polygon(flap)
        assert outline.is_valid and outline.intersection(body).area < 1e-9
        widths = [abs(a[0] - b[0]) for a, b in pairwise(flap)]
        assert max(widths) == pytest.approx(FLAP)


def test_an_outlet_that_is_too_wide_is_refused() -> None:
    with pytest.raises(ValueError, match="100 mm does not fit a back of 300 by 100 mm"):
        pattern(HoodOpening("booth", 0.3, 0.1), 0.1, 0.1)
