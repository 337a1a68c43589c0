"""Sources of which little is known, and fans at another speed."""

from dataclasses import replace

import numpy as np
import pytest

from purvel.airflow.network import solve
from purvel.airflow.sources import BANDS, SourceCurve, plate_curve
from purvel.shop import CurvePoint, Source
from tests.airflow.test_network import LEAKS, STANDARD, blower, two_drops
from tests.reference import CFM, IN_WG

BOTH = [("far", ["far-gate"]), ("both", ["far-gate", "near-gate"])]


def scaled(source: Source, pressure: float, flow: float) -> Source:
    """The source with all points of its curve so many times as high and as far out, taken as they are."""
    points = tuple(CurvePoint(flow=flow * p.flow, pressure=pressure * p.pressure) for p in source.curve)
    return replace(source, curve=points, curve_from="maker")


def test_a_vacs_plate_makes_a_straight_curve() -> None:
    """95 in of water and 137 cfm: the most air power is at half the flow, p q / 4 = 383 W (published with
    such extractors), and a quarter of the flow leaves three quarters of the suction.
    """
    suction, free = 95 * IN_WG, 137 * CFM
    curve = SourceCurve(Source(kind="vac", curve=plate_curve("vac", suction, free)))
    assert (curve.shut_off, curve.free_flow) == (
        pytest.approx(suction, rel=1e-5),
        pytest.approx(free, rel=1e-4),
    )
    flow = free * np.array([0.25, 0.5, 0.75])
    pressure, _ = curve.plate(flow)
    assert pressure / suction == pytest.approx(np.array([0.75, 0.5, 0.25]), abs=1e-4)
    assert flow[1] * pressure[1] == pytest.approx(383.0, abs=1.0)


def test_a_fans_plate_makes_a_round_curve() -> None:
    """10.5 in of water and 1150 cfm: at 460 cfm 9.4, at 690 cfm 7.6, at 920 cfm 4.5 in."""
    curve = SourceCurve(Source(kind="collector", curve=plate_curve("collector", 10.5 * IN_WG, 1150 * CFM)))
    pressure, _ = curve.plate(np.array([460, 690, 920]) * CFM)
    assert pressure / IN_WG == pytest.approx(np.array([9.4, 7.6, 4.5]), abs=0.06)


def test_a_fans_flow_goes_with_its_speed_and_its_pressure_with_the_square() -> None:
    """From 60 to 50 Hz: 0.833 times the flow, 0.694 times the pressure; a vac finds its own speed."""
    slower = replace(blower(), speed=50 / 60)
    fast, slow = SourceCurve(blower()), SourceCurve(slower)
    flow = np.linspace(0.0, fast.last_flow, 9)
    assert slow.plate(flow * 50 / 60)[0] == pytest.approx(0.6944 * fast.plate(flow)[0], rel=1e-3, abs=0.01)
    assert slow.free_flow == pytest.approx(0.8333 * fast.free_flow, rel=1e-4)
    assert slow.last_flow == pytest.approx(0.8333 * fast.last_flow, rel=1e-4)
    vac = Source(kind="vac", curve=plate_curve("vac", 20_000.0, 0.05))
    assert SourceCurve(replace(vac, speed=0.5)).shut_off == SourceCurve(vac).shut_off


def test_a_system_at_another_speed_is_nearly_similar() -> None:
    """Losses that go with the square of the flow leave the flow in proportion to the speed, and friction a
    little less. A filter, whose loss goes with the flow, costs a slow fan more.
    """

    def flow(speed: float, **changes: object) -> float:
        source = replace(two_drops().source, speed=speed, **changes)
        return solve(replace(two_drops(), source=source), BOTH, STANDARD, LEAKS).sets[1].flow

    bare = flow(0.8, filter=None) / flow(1.0, filter=None)
    assert bare == pytest.approx(0.8, rel=0.02) and bare < 0.8
    assert flow(0.8) / flow(1.0) < bare
    assert flow(1.25) / flow(1.0) > 1.25


@pytest.mark.parametrize("known", ["representative", "plate"])
def test_what_a_curve_leaves_open_comes_down_to_every_hood(known: str) -> None:
    """The ends of the range are what a curve scaled by hand gives."""
    layout = two_drops()
    source = replace(layout.source, curve_from=known)
    found = solve(replace(layout, source=source), BOTH, STANDARD, LEAKS)
    ends = [
        solve(replace(layout, source=scaled(source, end.pressure, end.flow)), BOTH, STANDARD, LEAKS)
        for end in BANDS[known]
    ]
    for which, one in enumerate(found.sets):
        for column, hood in enumerate(one.hoods):
            least, most = found.ranges[which][column]
            weak, strong = (end.sets[which].hoods[column].flow for end in ends)
            assert (least, most) == pytest.approx((weak, strong), rel=1e-6)
            assert least < hood.flow < most
    central = solve(replace(layout, source=replace(source, curve_from="maker")), BOTH, STANDARD, LEAKS)
    assert [one.flow for one in found.sets] == pytest.approx([one.flow for one in central.sets], rel=1e-9)


@pytest.mark.parametrize("known", ["maker", "measured"])
def test_a_curve_that_is_known_leaves_nothing_open(known: str) -> None:
    layout = two_drops()
    found = solve(replace(layout, source=replace(layout.source, curve_from=known)), BOTH, STANDARD, LEAKS)
    assert found.ranges == ()
