"""Two sources on one line, and gates that are open in part: against equations solved node by node from
outside, limits that must hold, and what a line with one source does.
"""

import itertools
from dataclasses import replace
from math import pi

import numpy as np
import pytest
from scipy.optimize import fsolve

from purvel.airflow.air import AirState
from purvel.airflow.fittings import part_open_gate
from purvel.airflow.flows import GateSetFlow
from purvel.airflow.friction import friction_factor
from purvel.airflow.layout import layouts
from purvel.airflow.network import solve
from purvel.airflow.parts import parts
from purvel.airflow.paths import run_paths
from purvel.airflow.segments import Fitting, Layout, Leaks, SecondSource, Segment
from purvel.airflow.sources import SourceCurve
from purvel.catalogue import elbows
from purvel.shop import Ducts, Gate, Join, Port, PortRef, Run, Source, Thing, Vertex
from tests.airflow.test_network import STANDARD, blower, fitting, hood, piece

SEALED = Leaks(gate_gap=0.0)


def two_fans(second: Source, ways: tuple[float, float, float] = (4.0, 2.0, 3.0)) -> Layout:
    """A main from the first fan, a line from the second onto it, one hood further up."""
    main, line, up = ways
    segments = (
        piece("main", -1, 0.15, main),
        piece("up", 0, 0.15, up, hood=hood("far")),
        piece("line", 0, 0.15, line, is_branch=True, angle=45.0),
    )
    return Layout("first", blower(), segments, (SecondSource("second", second, 2),))


def lost(segment: Segment, flow: float, air: AirState) -> float:
    """What a flow costs in a segment [Pa], by the textbook, whichever way it goes."""
    speed = flow / segment.area
    reynolds = np.array([air.density * abs(speed) * segment.diameter / air.viscosity])
    factor = friction_factor(reynolds, np.array([segment.roughness / segment.diameter]))[0]
    loss = sum(one.loss for one in segment.fittings)
    return float((factor * segment.length / segment.diameter + loss) * 0.5 * air.density * speed * abs(speed))


def at_inlet(source: Source, flow: float, air: AirState) -> float:
    """Total pressure at a source's inlet [Pa]."""
    curve = SourceCurve(source)
    pressure = float(curve.total_pressure(np.array(flow), np.array(air.density))[0])
    return float(curve.losses(np.array(flow), air.density).total) - pressure


def outside(layout: Layout, air: AirState = STANDARD) -> tuple[float, float]:
    """What the first and the second source move, from the pressure at the joint and both flows."""
    main, up, line = layout.segments
    second = layout.others[0].source
    entry = up.hood.entry_loss if up.hood else 0.0

    def missed(unknown: np.ndarray) -> list[float]:
        first_flow, second_flow, joint = unknown
        flow = first_flow + second_flow
        into = entry * 0.5 * air.density * (flow / (pi / 4 * 0.1**2)) ** 2 + lost(up, flow, air)
        return [
            joint + into,
            at_inlet(layout.source, first_flow, air) - joint + lost(main, first_flow, air),
            at_inlet(second, second_flow, air) - joint + lost(line, second_flow, air),
        ]

    found, _, ok, why = fsolve(missed, [0.1, 0.1, -1000.0], full_output=True, xtol=1e-12)
    assert ok == 1, why
    return float(found[0]), float(found[1])


def flows_of(layout: Layout) -> GateSetFlow:
    one = solve(layout, [("all", ())], STANDARD, SEALED).sets[0]
    assert one.converged
    return one


@pytest.mark.parametrize("pressure, flow", [(10.5, 1150.0), (9.0, 900.0), (12.5, 1350.0), (10.5, 300.0)])
def test_two_fans_on_one_line_by_equations_from_outside(pressure: float, flow: float) -> None:
    layout = two_fans(blower(pressure, flow))
    one = flows_of(layout)
    first, second = outside(layout)
    assert one.sources[0].flow == pytest.approx(first, rel=1e-5)
    assert one.sources[1].flow == pytest.approx(second, rel=1e-5)
    assert one.hoods[0].flow == pytest.approx(first + second, rel=1e-5)
    assert one.segments[2].flow == pytest.approx(-second, rel=1e-5)  # away from the first source
    assert one.whole_flow == pytest.approx(one.hoods[0].flow, rel=1e-9)


def test_two_equal_fans_with_equal_lines_share_the_air() -> None:
    layout = two_fans(blower(), (3.0, 3.0, 5.0))
    one = flows_of(layout)
    assert one.sources[0].flow == pytest.approx(one.sources[1].flow, rel=1e-6)
    alone = replace(layout, segments=layout.segments[:2], others=())
    assert alone.source == layout.source
    single = flows_of(alone)
    assert single.flow < one.whole_flow < 2 * single.flow  # one line cannot carry twice as much


def test_a_weak_fan_is_blown_back_by_a_strong_one() -> None:
    """At shut-off the strong one pulls 3.1 kPa; the weak one's 0.5 kPa cannot stand against it."""
    one = flows_of(two_fans(blower(2.0, 300.0)))
    first, second = outside(two_fans(blower(2.0, 300.0)))
    assert one.sources[1].flow < 0
    assert one.sources[1].flow == pytest.approx(second, rel=1e-4)
    assert one.sources[0].flow > one.hoods[0].flow  # what comes back through the weak one, too
    assert first == pytest.approx(one.sources[0].flow, rel=1e-4)


def test_the_air_is_thinned_at_both_vacs() -> None:
    """Two small vacs on one hose: mass is kept, and each inlet has its own density."""
    vac = replace(blower(80.0, 110.0), kind="vac", pressure_is="total", filter=None)
    thick = two_fans(vac)
    layout = replace(
        thick, source=vac, segments=tuple(replace(one, diameter=0.032) for one in thick.segments)
    )
    one = flows_of(layout)
    main, up, line = one.segments
    assert up.flow * up.density == pytest.approx(
        main.flow * main.density - line.flow * line.density, rel=1e-6
    )
    assert main.density < up.density < STANDARD.density
    assert one.sources[0].flow + one.sources[1].flow == pytest.approx(one.hoods[0].flow, rel=1e-9)


def test_a_shut_gate_before_a_second_source_leaves_the_first_alone() -> None:
    layout = two_fans(blower())
    gated = replace(layout.segments[2], gates=("flap",))
    layout = replace(layout, segments=(*layout.segments[:2], gated))
    one = flows_of(layout)
    alone = flows_of(replace(layout, segments=layout.segments[:2], others=()))
    assert one.sources[1].flow == pytest.approx(0.0, abs=1e-12)
    assert one.flow == pytest.approx(alone.flow, rel=1e-9)


def fan(name: str, x: float, direction: float) -> Thing:
    source = replace(blower(), inlet_direction=direction, inlet_z=1.0)
    return Thing(id=name, kind="collector", width=0.5, depth=0.5, height=1.5, x=x, y=0.0, source=source)


def saw() -> Thing:
    port = Port(id="port", x=0.0, y=0.0, z=1.0, diameter=0.15, entry_loss=1.0, chips_flow=0.2, fine_flow=0.3)
    return Thing(id="saw", kind="saw", width=0.5, depth=0.5, height=1.0, x=4.0, y=3.0, ports=(port,))


def drawn(second: Run) -> Layout:
    """A main along x from the first fan, a drop to the saw in its middle, the second fan at its far end."""
    main = Run(id="main", diameter=0.15, source="a", points=(Vertex(x=8.0, y=0.0, z=1.0),))
    drop = Run(
        id="drop", diameter=0.15, joins=Join(run="main", at=4.0), port=PortRef(thing="saw", port="port")
    )
    things = (fan("a", 0.0, 0.0), fan("b", 10.0, 180.0), saw())
    (layout,) = layouts(Ducts(runs=(main, drop, second)), things)
    return layout


def test_a_second_fan_is_drawn_from_its_inlet_to_the_end_of_the_main() -> None:
    line = Run(
        id="line", diameter=0.125, source="b", joins=Join(run="main"), gates=(Gate(id="flap", at=0.5),)
    )
    layout = drawn(line)
    (other,) = layout.others
    end = layout.segments[other.segment]
    assert other.thing == "b" and end.run == "line"
    assert end.length == pytest.approx(2.0)  # from the main's end at 8 to the inlet at 10
    assert end.gates == ("flap",) and not end.is_branch
    assert end.path[0][0] == pytest.approx(8.0) and end.path[-1][0] == pytest.approx(10.0)
    kinds = [one.kind for one in end.fittings]
    assert sorted(kinds) == ["gate", "reducer", "widening"]  # 150 to 125, gate, up to the inlet
    (branch,) = [one for one in layout.segments if one.run == "drop"]
    turns = [one for one in branch.fittings if one.kind == "turn-off"]
    assert [one.loss for one in turns] == [pytest.approx(0.6 * elbows()["smooth-1.5"].loss)]  # 45° of it
    one = flows_of(replace(layout, segments=tuple(replace(part, gates=()) for part in layout.segments)))
    assert one.sources[1].flow > 0.05 and one.sources[0].flow > 0.05


def test_a_gate_on_the_line_of_a_second_source_is_told_from_its_inlet() -> None:
    """The line is cut where a drop joins it, half a metre from the inlet; the gate is before that."""
    line = Run(id="line", diameter=0.15, source="b", joins=Join(run="main"), gates=(Gate(id="flap", at=0.2),))
    main = Run(id="main", diameter=0.15, source="a", points=(Vertex(x=8.0, y=0.0, z=1.0),))
    drop = Run(
        id="drop", diameter=0.15, joins=Join(run="line", at=0.5), port=PortRef(thing="saw", port="port")
    )
    (layout,) = layouts(Ducts(runs=(main, line, drop)), (fan("a", 0.0, 0.0), fan("b", 10.0, 180.0), saw()))
    near, far = [one for one in layout.segments if one.run == "line"]
    assert near.length == pytest.approx(1.5) and far.length == pytest.approx(0.5)
    assert near.gates == () and far.gates == ("flap",)
    assert layout.segments[layout.others[0].segment] is far


def test_what_a_gate_costs_that_is_open_in_part() -> None:
    """Weisbach's lines, between them the logarithm, below them the square, above them a fading."""
    assert [part_open_gate(eighths / 8) for eighths in range(1, 8)] == pytest.approx(
        [98.0, 17.0, 5.52, 2.06, 0.81, 0.26, 0.07]
    )
    assert part_open_gate(0.4375) == pytest.approx((5.52 * 2.06) ** 0.5)
    assert part_open_gate(0.0625) == pytest.approx(4 * 98.0)
    assert part_open_gate(0.9375) == pytest.approx(0.035)
    steps = [part_open_gate(share) for share in np.linspace(0.02, 1.0, 200)]
    assert all(a > b for a, b in itertools.pairwise(steps))


def test_a_gate_drawn_half_way_costs_its_loss_on_the_speed_in_its_duct() -> None:
    layout = Layout(
        "source",
        blower(),
        (
            piece("main", -1, 0.15, 5.0),
            piece("far", 0, 0.15, 3.0, gates=("far-gate",), hood=hood("far")),
            piece("near", 0, 0.10, 2.0, is_branch=True, angle=45.0, gates=("near-gate",), hood=hood("near")),
        ),
    )
    gates = ("far-gate", "near-gate")
    sets = [("full", gates), ("half", gates), ("quarter", gates)]
    part = [{}, {"near-gate": 0.5}, {"near-gate": 0.25}]
    full, half, quarter = solve(layout, sets, STANDARD, Leaks(2e-4), part).sets
    assert half.converged and half.part_open == (("near-gate", 0.5),)
    assert half.segments[2].shut_gate == pytest.approx(2.06)
    assert quarter.segments[2].shut_gate == pytest.approx(17.0)
    assert half.hoods[1].is_open
    assert full.hoods[1].flow > half.hoods[1].flow > quarter.hoods[1].flow
    assert full.hoods[0].flow < half.hoods[0].flow < quarter.hoods[0].flow  # the other gets more


def test_what_costs_in_the_reckoning_alone_is_not_bought() -> None:
    """A branch between two sources is bought as a branch fitting, and what else is in a run by nobody."""
    line = Run(id="line", diameter=0.15, source="b", joins=Join(run="main", at=6.0), loss=2.0)
    layout = drawn(line)
    kinds = {one.kind for segment in layout.segments for one in segment.fittings}
    assert {"turn-off", "own"} <= kinds
    main = Run(id="main", diameter=0.15, source="a", points=(Vertex(x=8.0, y=0.0, z=1.0),))
    drop = Run(
        id="drop", diameter=0.15, joins=Join(run="main", at=4.0), port=PortRef(thing="saw", port="port")
    )
    ducts, things = Ducts(runs=(main, drop, line)), (fan("a", 0.0, 0.0), fan("b", 10.0, 180.0), saw())
    listed = parts(ducts, run_paths(ducts, things), [layout])
    names = [one.part for one in listed]
    assert "Branch fitting 45°" in names
    assert not [name for name in names if "as an elbow" in name or "else" in name]


def test_air_that_is_blown_back_out_of_a_hood_is_found() -> None:
    """A thin main, on it a wide branch with nine joints that leak: what rushes in there drives air out of the
    hoods. Energy holds along every path all the same.
    """

    def joints(many: int, loss: float, diameter: float) -> tuple[Fitting, ...]:
        return (fitting(loss / many, diameter),) * many

    segments = (
        piece("thin", -1, 0.036, 1.2, fittings=joints(3, 3.8, 0.036)),
        piece("on", 0, 0.036, 14.7, fittings=joints(4, 1.4, 0.036), hood=hood("far", 0.1, 1.4)),
        piece(
            "wide",
            0,
            0.125,
            22.7,
            fittings=joints(8, 5.9, 0.125),
            is_branch=True,
            angle=15.0,
            hood=hood("wide", 0.1, 1.4),
        ),
    )
    layout = Layout("fan", blower(12.5, 1350.0), segments)
    one = solve(layout, [("all", ())], STANDARD, Leaks(0.0, 1e-3)).sets[0]
    assert one.converged and one.flow > 0
    assert [end.flow < 0 for end in one.hoods] == [True, True]
    for end in one.hoods:
        assert end.entry_loss < 0
        losses = end.entry_loss + sum(one.segments[k].loss for k in layout.way(end.segment))
        assert losses + one.filter_loss + one.discharge_loss == pytest.approx(one.source_pressure, rel=1e-5)
