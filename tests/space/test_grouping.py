"""Several things at once, by hand."""

from dataclasses import replace

import pytest

from purvel.space.grouping import aligned, spaced
from tests.conftest import block

A = block("a", 1.0, 1.0, 1.0, 0.6, 1.0)  # from x 0.5 to 1.5
B = block("b", 3.0, 2.0, 0.4, 0.4, 1.0)  # from 2.8 to 3.2
C = block("c", 6.0, 4.0, 2.0, 1.0, 1.0)  # from 5.0 to 7.0


def test_in_line_by_an_edge_the_outermost_stays() -> None:
    assert aligned([A, B, C], "left") == {"a": (1.0, 1.0), "b": (0.7, 2.0), "c": (1.5, 4.0)}
    assert aligned([A, B, C], "right") == {"a": (6.5, 1.0), "b": (6.8, 2.0), "c": (6.0, 4.0)}
    assert aligned([A, B], "bottom") == {"a": (1.0, 1.0), "b": (3.0, 0.9)}
    assert aligned([A, B], "top") == {"a": (1.0, 1.9), "b": (3.0, 2.0)}
    assert aligned([], "left") == {}


def test_in_line_by_the_middles_they_meet_half_way() -> None:
    assert aligned([A, B], "middle across") == {"a": (2.0, 1.0), "b": (2.0, 2.0)}
    assert aligned([A, B], "middle up") == {"a": (1.0, 1.5), "b": (3.0, 1.5)}


def test_a_turned_thing_goes_by_its_outline_on_the_plan() -> None:
    turned = replace(A, angle=90.0)  # now from x 0.7 to 1.3
    assert aligned([turned, B], "left")["b"] == pytest.approx((0.9, 2.0))


def test_evenly_apart_the_gaps_are_alike() -> None:
    """From 0.5 to 7.0 are 6.5 m, of which 3.4 are things: two gaps of 1.55 m."""
    found = spaced([C, A, B], "across")
    assert found["a"] == (1.0, 1.0) and found["c"] == (6.0, 4.0)
    assert found["b"] == pytest.approx((1.5 + 1.55 + 0.2, 2.0))
    up = spaced([A, B, C], "up")  # from 0.7 to 4.5, 2.0 of it things: gaps of 0.9
    assert up["b"] == pytest.approx((3.0, 1.3 + 0.9 + 0.2))
    assert spaced([A, B], "across") == {"a": (1.0, 1.0), "b": (3.0, 2.0)}


def test_what_does_not_fit_overlaps_alike() -> None:
    near = [replace(one, x=x) for one, x in ((A, 1.0), (B, 1.2), (C, 2.0))]  # from 0.5 to 3.0, 3.4 of things
    found = spaced(near, "across")
    assert found["b"][0] == pytest.approx(1.5 - 0.45 + 0.2)
