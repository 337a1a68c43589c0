"""Openings that air is drawn into: published cases, and what must hold for all of them."""

from math import pi, sqrt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from purvel.airflow.hoods import HoodOpening, OpeningKind, caught_to, face_speed, flow_for, speed_at
from tests.reference import holds

KINDS: tuple[OpeningKind, ...] = ("plain", "flanged", "on a surface", "slot", "flanged slot")


def test_published_cases() -> None:
    side = 0.2 * sqrt(pi) / 2  # a square with the area of a round opening of 0.2 m
    assert holds("hood-03", "V", speed_at(HoodOpening("flanged", side, side), 0.3, 0.3))
    assert holds("hood-04", "Q_m3s", flow_for(HoodOpening("slot", 1.2, 0.02), 0.5, 0.3))
    assert holds("hood-04", "Q_flanged", flow_for(HoodOpening("flanged slot", 1.2, 0.02), 0.5, 0.3))
    assert holds("hood-05", "Q_m3s", flow_for(HoodOpening("booth", 0.9, 0.6), 0.75, 1.0))


def test_by_pocket_calculator() -> None:
    """0.2 by 0.1 m, 0.5 m/s at 0.3 m: 0.5 (10 0.09 + 0.02) = 0.46; flanged 0.345; on a table 0.235."""
    assert flow_for(HoodOpening("plain", 0.2, 0.1), 0.5, 0.3) == pytest.approx(0.46)
    assert flow_for(HoodOpening("flanged", 0.2, 0.1), 0.5, 0.3) == pytest.approx(0.345)
    assert flow_for(HoodOpening("on a surface", 0.2, 0.1), 0.5, 0.3) == pytest.approx(0.235)
    assert flow_for(HoodOpening("downdraught", 1.0, 0.6), 0.5, 0.0) == pytest.approx(0.3)
    assert face_speed(HoodOpening("plain", 0.2, 0.1), 0.2) == pytest.approx(10.0)
    # a slot's face is not faster than the air that goes through it
    assert flow_for(HoodOpening("slot", 1.0, 0.05), 2.0, 0.001) == pytest.approx(0.1)


@given(
    st.sampled_from(KINDS),
    st.floats(0.05, 1.0),
    st.floats(0.01, 0.4),
    st.floats(0.02, 0.6),
    st.floats(0.1, 2.5),
)
def test_how_far_it_catches_and_what_that_takes_are_one(
    kind: OpeningKind, width: float, height: float, flow: float, speed: float
) -> None:
    opening = HoodOpening(kind, width, height)
    far = caught_to(opening, flow, speed)
    assert far >= 0
    if far > 1e-6:
        assert flow_for(opening, speed, far) == pytest.approx(flow, rel=1e-6)
        assert speed_at(opening, flow, far) == pytest.approx(speed, rel=1e-6)
        assert speed_at(opening, flow, 1.5 * far) < speed
    assert caught_to(opening, 1.2 * flow, speed) >= far
    if kind == "plain":
        assert caught_to(HoodOpening("flanged", width, height), flow, speed) >= far
