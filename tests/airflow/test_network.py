"""The network solver: a published-style worked case, a pocket-calculator case, invariants, and `fluids` as an
outsider.
"""

from dataclasses import replace
from math import pi, sqrt

import numpy as np
import pytest
from fluids.friction import friction_factor as outside_friction
from hypothesis import given, settings
from hypothesis import strategies as st

from purvel.airflow.air import AirState
from purvel.airflow.arrays import DISCHARGE_OF_LEAK
from purvel.airflow.flows import GateSetFlow
from purvel.airflow.network import solve
from purvel.airflow.segments import Fitting, Hood, Layout, Leaks, Segment
from purvel.airflow.sources import SourceCurve
from purvel.shop import CurvePoint, Filter, Source
from tests.reference import CASES, CFM, FPM, IN_WG, holds

LEAKS = Leaks(gate_gap=2e-4)
STANDARD = AirState(101325.0, 1.20138475, 1.81866491e-5)


def blower(pressure: float = 10.5, flow: float = 1150.0, resistance: float = 30000.0) -> Source:
    points = tuple(
        CurvePoint(flow=q * CFM, pressure=pressure * IN_WG * (1 - (q / flow) ** 2.5))
        for q in np.linspace(0, flow, 80)
    )
    return Source(
        kind="collector",
        curve=points,
        inlet_diameter=0.1524,
        outlet_diameter=0.1524,
        filter=Filter(area=6, resistance=resistance),
    )


def piece(name: str, downstream: int, diameter: float, length: float, **changes: object) -> Segment:
    one = Segment(
        name, name, downstream, 0.0, length, (), diameter, 9e-5, 1.0, length, "main", (), (), None, False, 0.0
    )
    return replace(one, **changes)  # type: ignore[arg-type]


def hood(name: str, diameter: float = 0.1, loss: float = 1.0) -> Hood:
    return Hood(name, "port", diameter, loss, 0.165, 0.33)


def fitting(loss: float, diameter: float) -> Fitting:
    return Fitting("elbow", "fitting", loss, diameter, loss)


def two_drops(angle: float = 45.0) -> Layout:
    """A 150 mm main, on it one 100 mm branch and straight on a 125 mm leg."""
    return Layout(
        "source",
        blower(),
        (
            piece("main", -1, 0.15, 5.0),
            piece("far", 0, 0.15, 3.0, gates=("far-gate",), hood=hood("far")),
            piece("near", 0, 0.10, 2.0, is_branch=True, angle=angle, gates=("near-gate",), hood=hood("near")),
        ),
    )


def check_balance(layout: Layout, one: GateSetFlow, mu: float = STANDARD.viscosity) -> None:
    """What an outsider can check: mass at every joint, friction by `fluids`, energy along every path."""
    assert one.converged
    for index, segment in enumerate(layout.segments):
        upstream = layout.joints().get(index)
        if upstream:
            mass = sum(one.segments[k].flow * one.segments[k].density for k in upstream)
            assert mass == pytest.approx(one.segments[index].flow * one.segments[index].density, rel=1e-9)
        part = one.segments[index]
        if part.reynolds > 2300:
            factor = outside_friction(
                part.density * part.speed * segment.diameter / mu, segment.roughness / segment.diameter
            )
            assert part.friction_factor == pytest.approx(factor, rel=1e-5)
        assert part.loss == pytest.approx(
            (part.friction + part.fittings + part.shut_gate + part.junction) * part.velocity_pressure,
            rel=1e-6,
            abs=1e-9,
        )
        assert part.loss == pytest.approx(
            part.friction_loss + part.fittings_loss + part.junction_loss, rel=1e-6, abs=1e-9
        )
    pressure, _ = SourceCurve(layout.source).total_pressure(np.array(one.flow), np.array(one.density))
    assert one.source_pressure == pytest.approx(float(pressure), rel=1e-9)
    for end in one.hoods:
        losses = end.entry_loss + sum(one.segments[i].loss for i in layout.way(end.segment))
        assert losses + one.separator_loss + one.filter_loss + one.discharge_loss == pytest.approx(
            one.source_pressure, rel=1e-5
        )


def test_the_worked_case_of_one_run() -> None:
    """A 2 hp blower on a 4 in port, 2 m of ribbed hose and 8 m of 6 in spiral with three five-piece elbows:
    472 cfm at 9.37 in. w.g.
    """
    four, six = 4 * 0.0254, 6 * 0.0254
    layout = Layout(
        "source",
        blower(),
        (
            piece("main", -1, six, 8.0, fittings=(fitting(3 * 0.24, six),)),
            piece(
                "hose",
                0,
                four,
                2.0,
                roughness=0.002,
                fittings=(fitting(0.25, four),),
                hood=hood("port", four, 0.93),
            ),
        ),
    )
    one = solve(layout, [("open", [])], STANDARD, LEAKS).sets[0]
    assert holds("fan-03", "Q_cfm", one.flow / CFM)
    assert holds("fan-03", "SP_inwg", one.source_pressure / IN_WG)
    assert holds("fan-03", "V_6in_fpm", one.segments[0].speed / FPM)
    assert holds("fan-03", "V_4in_fpm", one.segments[1].speed / FPM)
    check_balance(layout, one)
    assert CASES["fan-03"]["inputs"]["port_4in_F"] == 0.93


def test_a_case_for_a_pocket_calculator() -> None:
    """A straight-line source 1000 Pa (1 - Q/1), no duct length, hood loss 3, discharge 1, all in an area of
    0.01 m2 and rho 1.2.

    1000 (1 - Q) = (3 + 1) x 0.6 x (Q/0.01)^2 = 24 000 Q^2, so Q = (-1000 + sqrt(1e6 + 4 x 24000 x
    1000))/48000 = 0.18434 m3/s.
    """
    diameter = sqrt(0.01 * 4 / pi)
    source = Source(
        kind="collector",
        curve=(
            CurvePoint(flow=0, pressure=1000),
            CurvePoint(flow=0.5, pressure=500),
            CurvePoint(flow=1, pressure=0),
        ),
        density=1.2,
        outlet_diameter=diameter,
        inlet_diameter=diameter,
    )
    layout = Layout("s", source, (piece("only", -1, diameter, 0.0, hood=hood("h", diameter, 3.0)),))
    one = solve(layout, [("open", [])], AirState(101325, 1.2, 1.8e-5), LEAKS).sets[0]
    assert one.flow == pytest.approx((-1000 + sqrt(1e6 + 96e6)) / 48000, rel=1e-4)
    assert one.hoods[0].static_suction == pytest.approx(4 * 0.6 * (one.flow / 0.01) ** 2, rel=1e-6)


def test_gate_choices_together_are_the_same_as_one_by_one() -> None:
    layout = two_drops()
    choices = [
        ("both", ["far-gate", "near-gate"]),
        ("far", ["far-gate"]),
        ("near", ["near-gate"]),
        ("none", []),
    ]
    together = solve(layout, choices, STANDARD, LEAKS)
    for choice, one in zip(choices, together.sets):
        check_balance(layout, one)
        alone = solve(layout, [choice], STANDARD, LEAKS).sets[0]
        assert [part.flow for part in alone.segments] == pytest.approx(
            [part.flow for part in one.segments], rel=1e-5
        )


def test_shut_gates_leak_by_the_orifice_law() -> None:
    layout = two_drops()
    one = solve(layout, [("far", ["far-gate"])], STANDARD, Leaks(5e-4)).sets[0]
    leak = one.segments[2]
    through_gate = leak.shut_gate * leak.velocity_pressure
    assert leak.flow == pytest.approx(
        DISCHARGE_OF_LEAK * 5e-4 * pi * 0.10 * sqrt(2 * through_gate / one.density), rel=1e-6
    )
    assert 0 < leak.flow < 0.05 * one.flow


def test_all_gates_shut_stands_near_shut_off() -> None:
    layout = two_drops()
    one = solve(layout, [("none", [])], STANDARD, LEAKS).sets[0]
    assert one.converged and not any(end.is_open for end in one.hoods)
    assert (
        one.source_pressure
        > 0.98 * SourceCurve(layout.source).shut_off * STANDARD.density / layout.source.density
    )


def test_a_system_without_hoods_stands_still() -> None:
    one = solve(Layout("s", blower(), (piece("stub", -1, 0.1, 3.0),)), [("x", [])], STANDARD, LEAKS).sets[0]
    assert one.flow == 0 and one.hoods == ()


def test_opening_a_second_gate_takes_from_the_first() -> None:
    result = solve(two_drops(), [("far", ["far-gate"]), ("both", ["far-gate", "near-gate"])], STANDARD, LEAKS)
    assert result.sets[1].hoods[0].flow < result.sets[0].hoods[0].flow
    assert result.sets[1].flow > result.sets[0].flow


@settings(max_examples=25, deadline=None)
@given(st.floats(0.5, 12), st.floats(0.08, 0.2), st.floats(0.3, 6))
def test_longer_or_narrower_duct_never_carries_more(length: float, diameter: float, loss: float) -> None:
    def flow(run: float, size: float) -> float:
        layout = Layout("s", blower(), (piece("m", -1, size, run, hood=hood("h", 0.1, loss)),))
        return solve(layout, [("open", [])], STANDARD, LEAKS).sets[0].flow

    here = flow(length, diameter)
    assert flow(length * 1.5, diameter) <= here * (1 + 1e-6)
    assert flow(length, diameter * 0.8) <= here * (1 + 1e-6)


def test_a_branch_far_wider_than_its_main_still_draws_air_in_at_every_hood() -> None:
    """Silly sizes must neither stop the solver nor blow air out of a hood."""
    for branch, main in ((0.25, 0.063), (0.2, 0.1), (0.1, 0.25)):
        for angle in (15.0, 90.0):
            layout = Layout(
                "s",
                blower(60.0, 140.0),
                (
                    piece("main", -1, main, 2.0),
                    piece("far", 0, main, 6.0, hood=hood("far", 0.036, 6.0)),
                    piece(
                        "wide", 0, branch, 1.0, is_branch=True, angle=angle, hood=hood("wide", branch, 0.5)
                    ),
                ),
            )
            one = solve(layout, [("open", [])], STANDARD, LEAKS).sets[0]
            check_balance(layout, one)
            assert min(end.flow for end in one.hoods) > 0


@settings(max_examples=30, deadline=None)
@given(
    st.lists(
        st.tuples(
            st.integers(0, 100),
            st.sampled_from((0.036, 0.063, 0.1, 0.15, 0.25)),
            st.sampled_from((0.0, 15.0, 45.0, 90.0)),
            st.booleans(),
        ),
        min_size=1,
        max_size=12,
    ),
    st.sampled_from((blower(), blower(60.0, 140.0, 2e5), blower(15.0, 1900.0))),
)
def test_any_tree_of_ducts_is_solved(parts: list[tuple[int, float, float, bool]], source: Source) -> None:
    segments = [piece("root", -1, 0.15, 2.0)]
    for number, (below, diameter, angle, gated) in enumerate(parts):
        gates = (f"g{number}",) if gated else ()
        segments.append(
            piece(
                f"p{number}",
                below % len(segments),
                diameter,
                1.0 + number,
                is_branch=angle > 0,
                angle=angle,
                gates=gates,
            )
        )
    layout = Layout("s", source, tuple(segments))
    ends = [
        replace(one, hood=hood(one.id)) if not layout.joints().get(index) else one
        for index, one in enumerate(segments)
    ]
    layout = Layout("s", source, tuple(ends))
    for one in solve(
        layout,
        [("shut", []), ("open", [f"g{k}" for k in range(12)]), ("some", ["g0", "g3"])],
        STANDARD,
        LEAKS,
    ).sets:
        check_balance(layout, one)


def test_same_volume_at_altitude_but_less_suction() -> None:
    """Fan and losses both scale with density, so the volume hardly changes (PHYS); the filter is linear in
    flow, so it is left out here.
    """
    source = replace(blower(), filter=None)
    layout = replace(two_drops(), source=source)
    low = solve(layout, [("far", ["far-gate"])], STANDARD, LEAKS).sets[0]
    thin = AirState(83400.0, 0.82 * 1.2014, STANDARD.viscosity)
    high = solve(layout, [("far", ["far-gate"])], thin, LEAKS).sets[0]
    assert high.flow == pytest.approx(low.flow, rel=0.01)
    assert high.source_pressure == pytest.approx(0.82 * low.source_pressure, rel=0.02)


def test_a_curve_with_a_hump_keeps_its_falling_branch() -> None:
    points = ((0.0, 1500.0), (0.1, 2000.0), (0.3, 1500.0), (0.5, 0.0))
    curve = SourceCurve(
        Source(kind="collector", curve=tuple(CurvePoint(flow=q, pressure=p) for q, p in points))
    )
    flow = np.linspace(0, 0.7, 200)
    pressure, slope = curve.plate(flow)
    assert (np.diff(pressure) < 0).all() and (slope < 0).all()
    assert curve.shut_off == 2000.0 and curve.peak_flow == 0.1


def large_layout(count: int) -> tuple[Layout, list[tuple[str, list[str]]]]:
    """A main with `count` drops, each with its gate, and a gate set for each."""
    segments: list[Segment] = []
    for k in range(count):
        below = -1 if k == 0 else 2 * (k - 1)
        segments.append(piece(f"main-{k}", below, 0.25 - 0.1 * k / count, 1.0))
        segments.append(
            piece(
                f"drop-{k}", 2 * k, 0.1, 3.0, is_branch=True, angle=45.0, gates=(f"g{k}",), hood=hood(f"h{k}")
            )
        )
    return Layout("s", blower(15.0, 1900.0), tuple(segments)), [
        (f"{k}", [f"g{k}", f"g{(k + 1) % count}"]) for k in range(count)
    ]


def test_forty_hoods_hold_the_balance() -> None:
    layout, choices = large_layout(40)
    for one in solve(layout, choices, STANDARD, LEAKS).sets:
        check_balance(layout, one)


def test_in_a_system_without_a_hood_nothing_flows_and_all_of_it_is_at_shut_off() -> None:
    """Every figure of a segment is nothing but its air's density and its pressure; so are the sums."""
    layout = Layout("s", blower(), (piece("stub", -1, 0.1, 3.0), piece("more", 0, 0.1, 2.0)))
    one = solve(layout, [("x", ["g"])], STANDARD, LEAKS).sets[0]
    shut_off = -SourceCurve(blower()).shut_off * STANDARD.density / blower().density
    for segment in one.segments:
        figures = segment._asdict()
        assert figures.pop("density") == STANDARD.density
        assert figures.pop("total_pressure") == pytest.approx(shut_off)
        assert set(figures.values()) == {0.0}
    assert (one.flow, one.source_pressure, one.hoods) == (0.0, pytest.approx(-shut_off), ())
    losses = (one.separator_loss, one.filter_loss, one.discharge_loss, one.imbalance)
    assert one.open_gates == ("g",) and one.converged and losses == (0.0, 0.0, 0.0, 0.0)


def test_a_sets_segments_are_made_when_one_is_asked_for_and_compare_by_what_they_say() -> None:
    layout = two_drops()
    both = [("both", ["far-gate", "near-gate"]), ("far", ["far-gate"])]
    one, other = solve(layout, both, STANDARD, LEAKS).sets
    again = solve(layout, both, STANDARD, LEAKS).sets[0].segments
    assert again == one.segments and hash(again) == hash(one.segments) and one.segments != other.segments
    assert one.segments != tuple(one.segments)
    assert len(one.segments) == len(layout.segments) and one.segments[1:] == tuple(one.segments)[1:]
    assert one.segments[0].total_pressure == pytest.approx(-one.duct_suction)
