"""The curve of a source against SciPy's monotone cubic, and what holds for every such curve."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.interpolate import PchipInterpolator

from purvel.airflow.sources import SourceCurve
from purvel.shop import CurvePoint, Source

FALLS = st.lists(st.tuples(st.floats(0.01, 0.2), st.floats(0.0, 900.0)), min_size=1, max_size=8)


def curve(points: list[tuple[float, float]]) -> SourceCurve:
    made = tuple(CurvePoint(flow=flow, pressure=pressure) for flow, pressure in points)
    return SourceCurve(Source(kind="collector", curve=made, inlet_diameter=0.15, outlet_diameter=0.15))


@given(falls=FALLS)
@settings(max_examples=60, deadline=None)
def test_it_is_scipys(falls: list[tuple[float, float]]) -> None:
    points = [(0.0, 3000.0)]
    for step, fall in falls:
        points.append((points[-1][0] + step, points[-1][1] - fall))
    ours = curve(points)
    theirs = PchipInterpolator(*np.array(points).T)
    flow = np.linspace(0.0, points[-1][0], 97)
    pressure, slope = ours.plate(flow)
    assert pressure + 1e-3 * flow == pytest.approx(theirs(flow), abs=1e-6)
    assert slope[1:-1] + 1e-3 == pytest.approx(theirs.derivative()(flow)[1:-1], rel=1e-6, abs=1e-6)
    assert (np.diff(pressure) <= 1e-9).all()


def test_by_a_pocket_calculator() -> None:
    """Points (0, 3000), (0.1, 2800), (0.2, 2000): secants -2000 and -8000, both 0.1 wide, so the slope in
    the middle is their harmonic mean, 2 / (1 / -2000 + 1 / -8000) = -3200; half way between the last two,
    Hermite's basis gives (2800 + 2000) / 2 + 0.1 / 8 x (-3200 - m), m the slope at the end:
    (3 x -8000 + 2000) / 2 = -11000.
    """
    ours = curve([(0.0, 3000.0), (0.1, 2800.0), (0.2, 2000.0)])
    pressure, slope = ours.plate(np.array([0.1, 0.15]))
    assert pressure[0] == pytest.approx(2800.0, abs=1e-3) and slope[0] == pytest.approx(-3200.0, abs=0.01)
    assert pressure[1] == pytest.approx(2400.0 + 0.1 / 8 * (-3200 + 11000), abs=1e-3)
    beyond, steep = ours.plate(np.array([0.25]))  # goes on as it ended
    assert beyond[0] == pytest.approx(2000.0 - 0.05 * 11000, abs=1e-3)
    assert steep[0] == pytest.approx(-11000.0, abs=0.01)


def test_where_the_curve_ends_above_nothing_it_goes_on_to_nothing() -> None:
    """With the end slope of -11000 from 1000 Pa at 0.2 m3/s: 1000 / 11000 further. Where the last piece
    falls by 200 Pa in 0.1 m3/s and the cubic comes in level, 1000 / 2000 further. One that gets there ends.
    """
    steep = curve([(0.0, 2000.0), (0.1, 1800.0), (0.2, 1000.0)])
    assert steep.free_flow == pytest.approx(0.2 + 1000 / 11000, abs=1e-4)
    flat = curve([(0.0, 2000.0), (0.1, 1200.0), (0.2, 1000.0)])
    assert flat.free_flow == pytest.approx(0.2 + 1000 / 2000, abs=1e-3)
    assert curve([(0.0, 2000.0), (0.15, 0.0)]).free_flow == pytest.approx(0.15)
