"""Thin air in the line of a vac, leaks at gates and joints, and what a curve's pressure means."""

from dataclasses import replace
from math import pi, sqrt

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from purvel.airflow.air import AirState
from purvel.airflow.arrays import DISCHARGE_OF_LEAK
from purvel.airflow.network import solve
from purvel.airflow.segments import Layout, Leaks
from purvel.airflow.sources import SourceCurve
from purvel.catalogue import make_thing
from purvel.shop import CurvePoint, Separator, Source
from tests.airflow.test_network import (
    CFM,
    IN_WG,
    LEAKS,
    STANDARD,
    blower,
    check_balance,
    fitting,
    hood,
    piece,
    two_drops,
)

BOTH = [("both", ["far-gate", "near-gate"])]


def vac(suction: float = 95.0, free: float = 137.0) -> Source:
    """A straight line between sealed suction [in. w.g.] and free flow [cfm]."""
    return Source(
        kind="vac",
        curve=(CurvePoint(flow=0, pressure=suction * IN_WG), CurvePoint(flow=free * CFM, pressure=0)),
        inlet_diameter=0.05,
        outlet_diameter=0.063,
    )


def hose(diameter: float, length: float = 3.5) -> Layout:
    end = hood("tool", diameter, 1.0)
    return Layout("v", vac(), (piece("hose", -1, diameter, length, roughness=5e-4, hood=end),))


def test_each_piece_of_a_vacs_line_has_its_own_density() -> None:
    """Mass is kept: flow times density is the same from the tool to the inlet, and each density is that at
    the static pressure in the middle of its piece.
    """
    layout = Layout(
        "v",
        replace(vac(), separator=Separator(kind="bucket", inlet_diameter=0.05, loss=3.0)),
        (
            piece("near", -1, 0.036, 2.0, roughness=5e-4),
            piece("middle", 0, 0.036, 2.0, roughness=5e-4),
            piece("far", 1, 0.036, 2.0, roughness=5e-4, hood=hood("tool", 0.036, 2.0)),
        ),
    )
    one = solve(layout, [("open", [])], STANDARD, LEAKS).sets[0]
    check_balance(layout, one)
    mass = one.hoods[0].flow * STANDARD.density
    for part in one.segments:
        assert part.flow * part.density == pytest.approx(mass, rel=1e-9)
        middle = part.total_pressure + part.loss / 2 - part.velocity_pressure
        assert part.density == pytest.approx(STANDARD.density * (1 + middle / STANDARD.pressure), rel=1e-6)
    densities = [part.density for part in one.segments]
    assert densities == sorted(densities) and densities[0] < 0.93 * STANDARD.density
    in_inlet = one.flow / (1 - one.duct_suction / STANDARD.pressure)  # room air, as thin as it is there
    speed = in_inlet / (pi / 4 * 0.05**2)
    thin = STANDARD.density * (1 - one.duct_suction / STANDARD.pressure)
    assert one.separator_loss == pytest.approx(3.0 * 0.5 * thin * speed**2, rel=1e-6)


def test_thin_air_takes_a_few_per_cent_of_a_small_hoses_flow() -> None:
    """Against the same line with air that does not thin; the more, the narrower the hose."""
    shares = []
    for diameter in (0.050, 0.036, 0.032, 0.027):
        layout = hose(diameter, 5.0)
        thin = solve(layout, [("open", [])], STANDARD, LEAKS).sets[0]
        source = replace(layout.source, kind="collector", discharge_loss=0.0)
        thick = solve(replace(layout, source=source), [("open", [])], STANDARD, LEAKS).sets[0]
        shares.append(thick.flow / thin.flow - 1)
    assert shares == sorted(shares) and shares[0] > 0
    assert 0.008 < shares[1] < 0.02 and 0.025 < shares[3] < 0.045


def test_a_vac_for_a_pocket_calculator() -> None:
    """No duct length: only the tool's loss 8 on 36 mm at room density, against a straight line of 23 663 Pa
    and 0.06466 m3/s. 23663 (1 - q/0.06466) = (8 + 0) x 0.6007 x (q/0.0010179)^2, q = 0.0394 m3/s.
    """
    layout = Layout("v", vac(), (piece("cuff", -1, 0.036, 0.0, hood=hood("tool", 0.036, 8.0)),))
    one = solve(layout, [("open", [])], STANDARD, LEAKS).sets[0]
    a, b, c = 8 * 0.5 * STANDARD.density / (pi / 4 * 0.036**2) ** 2, 23663 / 0.06466, 23663
    assert one.flow == pytest.approx((-b + sqrt(b * b + 4 * a * c)) / (2 * a), rel=1e-3)


def test_a_vac_of_the_catalogue_is_charged_neither_its_filter_nor_its_exhaust() -> None:
    for kind in ("vac", "small-vac", "extractor"):
        source = make_thing(kind, "v").source
        assert source is not None
        rest = SourceCurve(source).losses(np.array([0.05]), 1.2)
        assert float(rest.total[0]) == 0.0


@settings(max_examples=15, deadline=None)
@given(st.floats(0.5, 8), st.floats(0.025, 0.063), st.floats(40, 110))
def test_a_vacs_longer_hose_never_carries_more(length: float, diameter: float, suction: float) -> None:
    def flow(run: float) -> float:
        layout = replace(hose(diameter, run), source=vac(suction))
        one = solve(layout, [("open", [])], STANDARD, LEAKS).sets[0]
        check_balance(layout, one)
        return one.flow

    assert flow(length * 1.3) < flow(length)


def test_outlet_static_is_what_the_losses_up_to_the_outlet_come_to() -> None:
    """A curve of total pressure with its discharge charged once is the same machine as the curve of static
    pressure at its outlet, FSP = FTP - VP (AMCA 210), with nothing charged.
    """
    total = replace(blower(), discharge_loss=1.0)
    area = pi / 4 * total.outlet_diameter**2
    static = tuple(
        CurvePoint(
            flow=point.flow,
            pressure=max(0.0, point.pressure - 0.5 * total.density * (point.flow / area) ** 2),
        )
        for point in total.curve
    )
    static = tuple(point for point in static if point.pressure > 0)
    layout = two_drops()
    one = solve(replace(layout, source=total), BOTH, STANDARD, LEAKS).sets[0]
    other_source = replace(total, curve=static, pressure_is="outlet static")
    other = solve(replace(layout, source=other_source), BOTH, STANDARD, LEAKS).sets[0]
    assert one.discharge_loss > 100 and other.discharge_loss == 0
    assert other.flow == pytest.approx(one.flow, rel=2e-4)
    check_balance(replace(layout, source=other_source), other)


def test_inlet_suction_holds_the_speed_in_the_inlet() -> None:
    source = replace(blower(), pressure_is="inlet suction")
    layout = replace(two_drops(), source=source)
    one = solve(layout, BOTH, STANDARD, LEAKS).sets[0]
    in_inlet = 0.5 * one.density * (one.flow / (pi / 4 * source.inlet_diameter**2)) ** 2
    said = float(SourceCurve(source).plate(np.array([one.flow]))[0][0])
    assert one.duct_suction + one.filter_loss + in_inlet == pytest.approx(said, rel=1e-4)


def test_a_gate_leaks_round_its_own_circumference() -> None:
    """Twice the gap is twice the opening; a wider gate leaks more, by its circumference."""
    leaks = []
    for gap, diameter in ((1e-4, 0.1), (2e-4, 0.1), (1e-4, 0.2)):
        layout = two_drops()
        far, near = layout.segments[1], replace(layout.segments[2], diameter=diameter, is_branch=False)
        layout = replace(layout, segments=(layout.segments[0], far, near))
        part = solve(layout, [("far", ["far-gate"])], STANDARD, Leaks(gap)).sets[0].segments[2]
        through = part.shut_gate * part.velocity_pressure
        assert part.flow == pytest.approx(
            DISCHARGE_OF_LEAK * gap * pi * diameter * sqrt(2 * through / STANDARD.density), rel=1e-6
        )
        leaks.append(part.flow)
    assert leaks[1] == pytest.approx(2 * leaks[0], rel=0.05) and leaks[2] == pytest.approx(
        2 * leaks[0], rel=0.05
    )


def test_a_gate_that_seals_lets_nothing_through() -> None:
    layout = two_drops()
    choices = [("far", ["far-gate"]), ("none", []), *BOTH]
    far, none, both = solve(layout, choices, STANDARD, Leaks(0.0)).sets
    for one in (far, none, both):
        check_balance_of_open(layout, one)
    assert far.segments[2].flow == 0 and far.segments[2].loss == 0 and far.hoods[1].flow == 0
    assert far.flow == far.hoods[0].flow
    assert none.flow == 0 and none.source_pressure == pytest.approx(
        SourceCurve(layout.source).shut_off * STANDARD.density / layout.source.density, rel=1e-6
    )
    leaking = solve(layout, choices[:1], STANDARD, Leaks(1e-6)).sets[0]
    assert far.hoods[0].flow == pytest.approx(leaking.hoods[0].flow, rel=1e-4)


def test_one_gate_of_its_own_gap_leaks_as_if_all_had_it() -> None:
    layout = two_drops()
    near = layout.segments[2]
    choice = [("far", ["far-gate"])]
    all_wide = solve(layout, choice, STANDARD, Leaks(1e-3)).sets[0]
    own = replace(layout, segments=(*layout.segments[:2], replace(near, gaps=(1e-3,))))
    one_wide = solve(own, choice, STANDARD, Leaks(1e-4)).sets[0]
    assert one_wide.segments[2].flow == pytest.approx(all_wide.segments[2].flow, rel=1e-9)
    sealed = replace(layout, segments=(*layout.segments[:2], replace(near, gaps=(0.0,))))
    assert solve(sealed, choice, STANDARD, Leaks(1e-3)).sets[0].segments[2].flow == 0.0
    open_gates = [("both", ["far-gate", "near-gate"])]
    same = (solve(one, open_gates, STANDARD, Leaks(1e-4)).sets[0].flow for one in (layout, sealed))
    assert next(same) == next(same)  # what it is when open is not asked


def check_balance_of_open(layout: Layout, one: object) -> None:
    """Energy and mass where air flows."""
    from purvel.airflow.flows import GateSetFlow

    assert isinstance(one, GateSetFlow) and one.converged
    for end in one.hoods:
        if end.flow > 0:
            losses = end.entry_loss + sum(one.segments[i].loss for i in layout.way(end.segment))
            assert losses == pytest.approx(one.duct_suction, rel=1e-5)


def test_leaking_joints_take_from_the_hoods() -> None:
    """Each joint leaks by the orifice law at the pressure where it is; all that flows in flows out."""
    layout = two_drops()
    layout = replace(
        layout,
        segments=(replace(layout.segments[0], fittings=(fitting(0.2, 0.15),)), *layout.segments[1:]),
    )
    tight = solve(layout, BOTH, STANDARD, Leaks(2e-4)).sets[0]
    leaky = solve(layout, BOTH, STANDARD, Leaks(2e-4, 5e-5)).sets[0]
    assert leaky.converged and sum(end.flow for end in leaky.hoods) < sum(end.flow for end in tight.hoods)
    assert leaky.flow > sum(end.flow for end in leaky.hoods)
    main, far, near = leaky.segments
    # into the far leg: what it carries more than its hood; at its upstream end, behind its own loss
    at_end = -(far.total_pressure + far.loss)
    assert far.flow - leaky.hoods[0].flow == pytest.approx(
        DISCHARGE_OF_LEAK * 5e-5 * 1 * sqrt(2 * at_end / STANDARD.density), rel=1e-4
    )
    into_main = main.flow - far.flow - near.flow
    at_end = -(main.total_pressure + main.loss)
    assert into_main == pytest.approx(
        DISCHARGE_OF_LEAK * 5e-5 * 2 * sqrt(2 * at_end / STANDARD.density), rel=1e-4
    )


def test_a_dead_end_loses_nothing_and_changes_nothing() -> None:
    """A capped stub on a main: no flow, no loss, and the rest as if it were not there."""
    layout = two_drops()
    stub = piece("stub", 0, 0.1, 1.0, is_branch=True, angle=45.0)
    with_stub = solve(replace(layout, segments=(*layout.segments, stub)), BOTH, STANDARD, LEAKS).sets[0]
    without = solve(layout, BOTH, STANDARD, LEAKS).sets[0]
    assert with_stub.segments[3].flow == 0 and with_stub.segments[3].loss == 0
    assert with_stub.segments[3].friction_factor == 0
    assert [end.flow for end in with_stub.hoods] == pytest.approx([end.flow for end in without.hoods])


def test_the_gauge_ahead_of_a_joint_reads_less_suction_by_what_the_joint_costs() -> None:
    layout = two_drops()
    one = solve(layout, BOTH, STANDARD, LEAKS).sets[0]
    main = one.segments[0]
    for part in one.segments[1:]:
        behind = main.total_pressure + main.loss  # total pressure behind the joint, in the main
        assert part.total_pressure == pytest.approx(behind, rel=1e-9)
        assert part.static_ahead == pytest.approx(
            behind + part.junction * part.velocity_pressure - part.velocity_pressure, rel=1e-9
        )


def test_the_room_at_altitude_has_less_suction_in_a_vac() -> None:
    high = AirState(83400.0, 0.82 * 1.2014, STANDARD.viscosity)
    layout = hose(0.036)
    low, up = (solve(layout, [("open", [])], air, LEAKS).sets[0] for air in (STANDARD, high))
    assert up.flow == pytest.approx(low.flow, rel=0.02)
    assert up.duct_suction == pytest.approx(0.82 * low.duct_suction, rel=0.02)
