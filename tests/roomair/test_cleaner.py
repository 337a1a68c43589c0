"""Cleaners: fans against panels by hand, throw, and what a place is worth."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from purvel.catalogue import fans, filter_grades, panels
from purvel.roomair.cleaner import Place, against, built_flow, changes_for, reached, throw

GOOD = Place(height=2.2, before=5.0, behind=0.5, throw=6.0, longest=6.0, collector=4.0)


def test_a_fan_against_panels_for_a_pocket_calculator() -> None:
    """20 Pa and 0.5 m3/s of a fan, two panels of 0.5 m2 and 20 Pa s/m: q (20 / 0.5 + 20 / 1) = 20, so q = 1/3
    and 6.7 Pa across the panels.
    """
    assert built_flow(1, 0.5, 20.0, 2, 0.5, 20.0) == pytest.approx((1 / 3, 20 / 3))
    two = built_flow(2, 0.5, 20.0, 2, 0.5, 20.0)  # q (20 + 20) = 20
    assert two == pytest.approx((0.5, 10.0))
    assert built_flow(0, 0.5, 20.0, 2, 0.5, 20.0) == built_flow(1, 0.5, 20.0, 0, 0.5, 20.0) == (0.0, 0.0)


@given(st.integers(1, 8), st.integers(1, 8), st.floats(5.0, 200.0))
def test_more_fans_and_panels_move_more_and_loaded_ones_less(
    many: int, count: int, resistance: float
) -> None:
    flow, pressure = built_flow(many, 0.7, 40.0, count, 0.23, resistance)
    assert flow == pytest.approx(many * 0.7 * (1 - pressure / 40.0))  # on the fans' line
    assert pressure == pytest.approx(resistance * flow / (count * 0.23))  # and on the panels'
    assert built_flow(many + 1, 0.7, 40.0, count, 0.23, resistance)[0] > flow
    assert built_flow(many, 0.7, 40.0, count + 1, 0.23, resistance)[0] > flow
    assert built_flow(many, 0.7, 40.0, count, 0.23, 1.5 * resistance)[0] < flow


def test_the_catalogues_box_moves_what_published_boxes_do() -> None:
    """Boxes of one household fan and four or five MERV 13 panels were measured at 0.28 to 0.4 m3/s."""
    fan, panel = fans()["box-fan"], panels()["merv13"]
    for count in (4, 5):
        flow, _ = built_flow(1, fan.free_flow, fan.shut_off, count, panel.area, panel.resistance["new"])
        assert 0.28 <= flow <= 0.4
    for one in panels().values():
        assert one.grade in filter_grades()
        assert one.resistance["new"] < one.resistance["used"] < one.resistance["loaded"]


def test_throw_goes_with_flow_and_with_the_root_of_the_outlet() -> None:
    assert throw(0.25, 0.25) == pytest.approx(5 * 0.25 / (0.25 * 0.5))
    assert throw(0.5, 0.25) == 2 * throw(0.25, 0.25) and throw(0.25, 1.0) == throw(0.25, 0.25) / 2
    assert throw(0.25, 0.0) == 0.0


@pytest.mark.parametrize(
    ("changes", "key", "share"),
    [
        ({}, None, 0.9),
        ({"height": 1.49}, "low", 0.8),
        ({"height": 1.5}, None, 0.9),
        ({"behind": 0.14}, "intake", 0.8),
        ({"collector": 1.4}, "collector", 0.8),
        ({"throw": 3.5}, "short", 0.8),
        ({"throw": 3.6}, None, 0.9),
    ],
)
def test_what_speaks_against_a_place_costs_its_share(changes: dict, key: str | None, share: float) -> None:
    place = replace(GOOD, **changes)
    assert list(against(place)) == ([key] if key else []) and reached(place) == pytest.approx(share)


def test_a_jet_against_a_wall_is_blocked_and_short_and_no_place_is_worth_less_than_half() -> None:
    assert list(against(replace(GOOD, before=1.0))) == ["blocked", "short"]
    assert reached(replace(GOOD, before=1.0)) == pytest.approx(0.65)
    worst = Place(height=0.3, before=0.1, behind=0.0, throw=6.0, longest=6.0, collector=0.5)
    assert reached(worst) == 0.5
    assert list(against(replace(GOOD, before=1.0, throw=0.9))) == [
        "short"
    ]  # the jet is spent before the wall


def test_air_changes_of_a_flow() -> None:
    assert changes_for(0.1, 60.0) == 6.0
