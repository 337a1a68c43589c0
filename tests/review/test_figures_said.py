"""Figures in sentences, in both systems of units, by hand."""

import pytest

from purvel.review.figures import Figures, Unsaid

METRIC, IMPERIAL = Figures("metric"), Figures("imperial")


@pytest.mark.parametrize(
    ("what", "value", "metric", "imperial"),
    [
        ("length", 1.0, "1000 mm", "3' 3 3/8\""),  # to the eighth
        ("length", 0.0254 * 5.5, "140 mm", '5 1/2"'),
        ("size", 0.1, "100 mm", "4 in"),
        ("size", 0.15, "150 mm", "6 in"),
        ("size", 0.125, "125 mm", "5 in"),
        ("size", 0.063, "63 mm", "2.5 in"),  # below 3 in to the quarter
        ("size", 0.032, "32 mm", "1.25 in"),
        ("size", 0.0762, "76 mm", "3 in"),
        ("size", 0.0889, "89 mm", "3.5 in"),
        ("flow", 0.1, "360 m³/h", "212 cfm"),
        ("pressure", 1000.0, "1,000 Pa", "4.01 in. w.g."),
        ("speed", 20.0, "20.0 m/s", "3,940 fpm"),
        ("area", 10.0, "10.0 m²", "108 ft²"),
        ("volume", 50.0, "50.0 m³", "1,770 ft³"),
        ("bulk", 0.1, "100 l", "3.5 ft³"),
        ("density", 650.0, "650 kg/m³", "40.6 lb/ft³"),
        ("thickness", 0.0032, "3.2 mm", "0.126 in"),
        ("dust", 1.5, "1.50 mg/m³", "1.50 mg/m³"),
        ("distance", 12.0, "12.0 m", "39 ft"),
        ("mass", 23.0, "23.0 kg", "50.7 lb"),
    ],
)
def test_a_figure_in_both_systems(what: str, value: float, metric: str, imperial: str) -> None:
    assert getattr(METRIC, what)(value) == metric
    assert getattr(IMPERIAL, what)(value) == imperial
    assert getattr(Unsaid("metric"), what)(value) == ""


def test_minutes_are_hours_from_two_on() -> None:
    assert METRIC.minutes(None) == "more than 12 h"
    assert METRIC.minutes(119.0) == "119 min" and METRIC.minutes(120.0) == "2.0 h"
    assert METRIC.minutes(199.0) == "3.3 h" and Unsaid("metric").minutes(5.0) == ""


def test_a_unit_that_ends_in_a_stop_gets_no_second_one() -> None:
    assert Figures.ended("4.01 in. w.g.") == "4.01 in. w.g." and Figures.ended("20 m/s") == "20 m/s."
