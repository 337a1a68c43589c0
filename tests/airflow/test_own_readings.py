"""Sealed suction and open flow that the user read: the curve goes through them, and less is left open."""

from dataclasses import replace

import numpy as np
import pytest

from purvel.airflow.network import solve
from purvel.airflow.segments import Layout
from purvel.airflow.sources import BANDS, FLOW_READ, GAUGE, Scale, SourceCurve, band_of, most_suction
from tests.airflow.test_network import LEAKS, STANDARD, blower, hood, piece

REPRESENTATIVE = replace(blower(), curve_from="representative")


def test_the_ends_are_where_they_were_read_and_the_shape_stays() -> None:
    was = SourceCurve(REPRESENTATIVE)
    read = replace(REPRESENTATIVE, sealed=2000.0, open_flow=0.4)
    now = SourceCurve(read)
    assert now.shut_off == pytest.approx(2000.0) and now.free_flow == pytest.approx(0.4)
    for share in (0.2, 0.5, 0.9):
        before, slope_before = was.plate(np.array(share * was.free_flow))
        after, slope = now.plate(np.array(share * 0.4))
        assert float(after) / 2000.0 == pytest.approx(float(before) / was.shut_off, rel=1e-6)
        steeper = (2000.0 / was.shut_off) / (0.4 / was.free_flow)
        assert float(slope) == pytest.approx(float(slope_before) * steeper, rel=1e-3)
    # a fan that was read as it turns now is not made slower once more
    assert SourceCurve(replace(read, speed=0.8)).shut_off == pytest.approx(2000.0)


def test_one_reading_moves_one_end() -> None:
    was = SourceCurve(REPRESENTATIVE)
    sealed = SourceCurve(replace(REPRESENTATIVE, sealed=2000.0))
    assert sealed.shut_off == pytest.approx(2000.0) and sealed.free_flow == pytest.approx(
        was.free_flow, rel=1e-6
    )
    opened = SourceCurve(replace(REPRESENTATIVE, open_flow=0.4))
    assert opened.shut_off == pytest.approx(was.shut_off) and opened.free_flow == pytest.approx(0.4)


def test_what_was_read_leaves_less_open() -> None:
    weak, strong = BANDS["representative"]
    assert band_of(REPRESENTATIVE) == (weak, strong)
    assert band_of(replace(REPRESENTATIVE, curve_from="maker")) is None
    assert band_of(replace(REPRESENTATIVE, sealed=2000.0)) == (
        Scale(1 - GAUGE, weak.flow),
        Scale(1 + GAUGE, strong.flow),
    )
    both = replace(REPRESENTATIVE, sealed=2000.0, open_flow=0.4, curve_from="maker")
    assert band_of(both) == (Scale(1 - GAUGE, 1 - FLOW_READ), Scale(1 + GAUGE, 1 + FLOW_READ))
    assert most_suction(both) == pytest.approx(2000.0 * (1 + GAUGE))


def test_hoods_have_a_narrower_range_with_readings() -> None:
    def width(source: object) -> float:
        layout = Layout("fan", source, (piece("main", -1, 0.15, 5.0, hood=hood("saw", 0.15)),))  # type: ignore[arg-type]
        ((low, high),) = solve(layout, [("all", ())], STANDARD, LEAKS).ranges[0]
        return high / low

    curve = SourceCurve(REPRESENTATIVE)
    read = replace(REPRESENTATIVE, sealed=curve.shut_off, open_flow=curve.free_flow)
    assert 1.0 < width(read) < width(REPRESENTATIVE)


def test_a_suction_that_was_read_is_of_the_air_here() -> None:
    """High up a fan does less by its curve; what was read there stays."""
    thin = np.array(0.9)
    curve = SourceCurve(REPRESENTATIVE)
    less = float(curve.total_pressure(np.array(0.0), thin)[0])
    assert less == pytest.approx(curve.shut_off * 0.9 / REPRESENTATIVE.density)
    read = SourceCurve(replace(REPRESENTATIVE, sealed=2000.0))
    assert float(read.total_pressure(np.array(0.0), thin)[0]) == pytest.approx(2000.0)
