"""What is recognised from a drawing."""

from dataclasses import replace
from math import cos, inf, radians, sin, sqrt

import pytest

from purvel.airflow.layout import Layout, layouts, length_of, run_paths
from purvel.airflow.network import solve
from purvel.airflow.paths import corners_in, direction_at, opposite
from purvel.airflow.segments import Leaks
from purvel.catalogue import elbows, inlines, make_thing
from purvel.shop import Ducts, Gate, Join, PortRef, Run, Thing, Vertex
from purvel.shop.things import Facing
from tests.airflow.test_network import STANDARD


def v(x: float, y: float, z: float) -> Vertex:
    return Vertex(x=x, y=y, z=z)


COLLECTOR = replace(make_thing("collector", "collector"), x=0.0, y=0.0)  # inlet at (0.5, 0, 0.65), 150 mm
SAW = make_thing("table-saw", "saw", 5.0, 3.0)  # port at (4.7, 3.33, 0.10), 100 mm
PLANER = make_thing("planer", "planer", 8.0, 0.0)  # port at (8.25, 0.25, 1.0)
MAIN = Run(
    id="main", diameter=0.15, source="collector", points=(v(1.5, 0, 0.65), v(1.5, 0, 2.4), v(7.5, 0, 2.4))
)
DROP = Run(
    id="drop",
    diameter=0.10,
    joins=Join(run="main", at=5.25, angle=45.0),
    points=(v(4.7, 1.2, 2.4), v(4.7, 3.33, 2.4)),
    port=PortRef(thing="saw", port="cabinet"),
    gates=(Gate(id="g", at=0.4),),
)


def layout(*runs: Run, things: tuple[Thing, ...] = (COLLECTOR, SAW, PLANER)) -> Layout:
    (found,) = layouts(Ducts(runs=runs), things)
    return found


def test_the_main_is_cut_at_the_branch() -> None:
    found = layout(MAIN, DROP)
    assert [(one.id, one.downstream) for one in found.segments] == [
        ("main.1", -1),
        ("main.2", 0),
        ("drop.1", 0),
    ]
    below, beyond, drop = found.segments
    assert below.length == pytest.approx(5.25)
    assert beyond.length == pytest.approx(1.0 + 1.75 + 6.0 - 5.25)
    assert drop.is_branch and drop.angle == 45.0 and drop.gates == ("g",)
    assert drop.hood is not None and drop.hood.thing == "saw"
    assert beyond.hood is None


def test_elbows_come_from_the_corners() -> None:
    below, _, drop = layout(MAIN, DROP).segments
    assert [fitting.name for fitting in below.fittings] == ["Smooth elbow, radius 1.5 D, 90°"] * 2
    # the branch leaves at (4.0, 0) towards (4.7, 1.2), 59.7 degrees off the main, through a 45 degree
    # fitting: 15 degrees are left over
    turns = [fitting.name for fitting in drop.fittings if "elbow" in fitting.name]
    assert turns == [
        "Smooth elbow, radius 1.5 D, 30°",
        "Smooth elbow, radius 1.5 D, 90°",
        "Smooth elbow, radius 1.5 D, 15° behind the joint",
        "Smooth elbow, radius 1.5 D, 90° at the port",  # it falls onto a port that faces the wall
    ]


def test_size_changes_at_machine_and_source() -> None:
    wide = replace(DROP, diameter=0.125)
    drop = layout(MAIN, wide).segments[2]
    # from the 100 mm port into 125 mm, with the flow
    (change,) = [fitting for fitting in drop.fittings if fitting.name == "Widening"]
    assert change.section == pytest.approx(0.1)
    assert change.loss == pytest.approx(change.loss_there * (0.125 / 0.1) ** 4)
    narrow = layout(replace(MAIN, diameter=0.125), DROP).segments[0]
    assert any(fitting.name == "Widening" for fitting in narrow.fittings)  # 125 mm into the 150 mm inlet


def test_a_run_that_carries_on_in_line_has_no_branch_fitting() -> None:
    on = Run(id="on", diameter=0.125, joins=Join(run="main"), port=PortRef(thing="planer", port="hood"))
    found = layout(MAIN, on)
    assert [one.is_branch for one in found.segments] == [False, False]
    names = [fitting.name for fitting in found.segments[1].fittings]
    assert "Reducer" not in names and "Widening" in names  # 125 mm flows into 150 mm


def test_ends_follow_the_machine() -> None:
    before = run_paths(Ducts(runs=(MAIN, DROP)), (COLLECTOR, SAW))["drop"]
    after = run_paths(Ducts(runs=(MAIN, DROP)), (COLLECTOR, replace(SAW, x=6.0)))["drop"]
    assert before[-1] == pytest.approx((4.7, 3.33, 0.10))
    assert after[-1] == pytest.approx((5.7, 3.33, 0.10))
    assert length_of(after) == pytest.approx(length_of(before) - 2.3 + sqrt(2.3**2 + 1.0))


def test_runs_that_lead_nowhere_are_in_no_layout() -> None:
    loose = Run(id="loose", points=(v(0, 5, 2), v(3, 5, 2)))
    assert all(segment.run != "loose" for segment in layout(MAIN, loose).segments)
    assert layouts(Ducts(runs=(loose,)), (COLLECTOR,)) == ()


def test_nothing_joins_beyond_a_hood() -> None:
    ended = replace(MAIN, port=PortRef(thing="planer", port="hood"))
    found = layout(ended, replace(DROP, joins=Join(run="main", at=200.0)))
    hoods = [found.segments[index] for index in found.hoods]
    assert all(not found.joints().get(found.segments.index(one)) for one in hoods)


def test_roles() -> None:
    riser = Run(
        id="riser",
        diameter=0.1,
        joins=Join(run="main", at=6.0),
        points=(v(4.75, 0.5, 2.4),),
        port=PortRef(thing="saw", port="cabinet"),
    )
    hose = replace(
        DROP, id="hose", material="ribbed-hose", port=None, gates=(), joins=Join(run="main", at=7.0)
    )
    roles = {one.run: one.role for one in layout(MAIN, riser, hose).segments if one.run != "main"}
    assert roles == {"riser": "riser", "hose": "hose"}  # the slanting drop falls 2.3 m
    assert layout(MAIN, DROP).segments[0].role == "main"


def test_two_runs_on_one_inlet_are_one_system() -> None:
    second = Run(id="second", diameter=0.1, source="collector", port=PortRef(thing="planer", port="hood"))
    found = layout(MAIN, DROP, second)
    assert [(one.run, one.downstream) for one in found.segments] == [
        ("main", -1),
        ("main", 0),
        ("drop", 0),
        ("second", -1),
    ]
    assert found.way(3) == (3,)


def test_a_branch_where_its_parent_starts_is_in_the_joint_that_is_there() -> None:
    """At the fan it meets its parent at the inlet; on a branch it meets at the branch's own joint."""
    at_fan = Run(
        id="at-fan",
        diameter=0.1,
        joins=Join(run="main", at=0.0),
        port=PortRef(thing="planer", port="hood"),
    )
    found = layout(MAIN, DROP, at_fan)
    assert [(one.run, one.downstream) for one in found.segments if one.run != "drop"] == [
        ("main", -1),
        ("main", 0),
        ("at-fan", -1),
    ]
    (own,) = (one for one in found.segments if one.run == "at-fan")
    assert any(fitting.name == "Widening" for fitting in own.fittings)  # 100 mm into the 150 mm inlet
    on_drop = replace(at_fan, joins=Join(run="drop", at=0.0, angle=30.0))
    found = layout(MAIN, DROP, on_drop)
    joint = found.joints()[0]
    assert [found.segments[one].run for one in joint] == ["main", "drop", "at-fan"]
    assert found.segments[joint[2]].is_branch and found.segments[joint[2]].angle == 30.0
    flows = solve(found, [("open", ["g"])], STANDARD, Leaks(2e-4)).sets[0]
    assert flows.converged and min(end.flow for end in flows.hoods) > 0


def test_runs_that_go_on_from_one_far_end_part_at_the_angles_that_are_drawn() -> None:
    straight = Run(
        id="straight",
        diameter=0.1,
        joins=Join(run="main"),
        points=(v(9.0, 0.0, 2.4),),
        port=PortRef(thing="planer", port="hood"),
    )
    aside = replace(straight, id="aside", points=(v(8.5, 1.0, 2.4), v(8.5, 3.0, 2.4)), port=None)
    found = {one.run: one for one in layout(MAIN, straight, aside).segments}
    assert not found["straight"].is_branch
    assert found["aside"].is_branch and found["aside"].angle == pytest.approx(45.0)
    square = replace(aside, points=(v(7.5, 3.0, 2.4),))
    back = replace(aside, id="back", points=(v(6.5, -1.0, 2.4),))  # it turns back, by 135 degrees
    found = {one.run: one for one in layout(MAIN, square, back).segments}
    assert found["aside"].angle == 90.0 == found["back"].angle
    assert any("45° behind the joint" in fitting.name for fitting in found["back"].fittings)


@pytest.mark.parametrize(("direction", "turn"), [(0.0, None), (90.0, 90), (45.0, 45), (180.0, 180)])
def test_a_run_that_leaves_the_inlet_at_an_angle_turns_there(direction: float, turn: int | None) -> None:
    assert COLLECTOR.source is not None
    turned = replace(COLLECTOR, source=replace(COLLECTOR.source, inlet_direction=direction))
    names = [fitting.name for fitting in layout(MAIN, DROP, things=(turned, SAW)).segments[0].fittings]
    at_inlet = [name for name in names if "at the inlet" in name]
    assert at_inlet == ([] if turn is None else [f"Smooth elbow, radius 1.5 D, {turn}° at the inlet"])


@pytest.mark.parametrize(
    ("faces", "angle", "turn"),
    [("up", 0.0, None), ("down", 0.0, 180), ("away", 0.0, 90), ("left", 90.0, 90), (None, 0.0, None)],
)
def test_a_run_that_leaves_a_port_at_an_angle_turns_there(
    faces: Facing | None, angle: float, turn: int | None
) -> None:
    """The drop falls straight down onto the port."""
    saw = replace(SAW, angle=angle, ports=(replace(SAW.ports[0], faces=faces),))
    x, y = saw.spot(saw.ports[0].x, saw.ports[0].y)
    drop = replace(DROP, points=(v(4.7, 1.2, 2.4), v(x, y, 2.4)))
    (own,) = (one for one in layout(MAIN, drop, things=(COLLECTOR, saw)).segments if one.hood)
    names = [fitting.name for fitting in own.fittings if "at the port" in fitting.name]
    assert names == ([] if turn is None else [f"Smooth elbow, radius 1.5 D, {turn}° at the port"])


@pytest.mark.parametrize(
    ("faces", "own"), [("right", (1, 0)), ("left", (-1, 0)), ("away", (0, 1)), ("near", (0, -1))]
)
def test_a_port_faces_its_way_when_its_thing_is_turned(faces: Facing, own: tuple[int, int]) -> None:
    """By 35 degrees: a level drop that leaves the port that way needs no elbow, one at right angles does."""
    c, s = cos(radians(35.0)), sin(radians(35.0))
    ahead = (c * own[0] - s * own[1], s * own[0] + c * own[1])
    saw = replace(SAW, angle=35.0, ports=(replace(SAW.ports[0], faces=faces),))
    x, y = saw.spot(saw.ports[0].x, saw.ports[0].y)
    for (dx, dy), many in ((ahead, 0), ((-ahead[1], ahead[0]), 1)):
        level = replace(DROP, points=(v(4.7, 1.2, 0.1), v(x + dx, y + dy, 0.1)))
        (part,) = (one for one in layout(MAIN, level, things=(COLLECTOR, saw)).segments if one.hood)
        assert sum("at the port" in fitting.name for fitting in part.fittings) == many


def test_what_sits_in_a_run_costs_what_the_catalogue_says() -> None:
    bare = layout(MAIN, DROP).segments[2]
    held = layout(MAIN, replace(DROP, inline=("coupling", "swivel", "coupling"), loss=0.4)).segments[2]
    added = [one for one in held.fittings if one.kind == "own"]
    assert [one.name for one in added] == ["Quick coupling", "Swivel", "Quick coupling", "What else is in it"]
    assert sum(one.loss for one in held.fittings) - sum(one.loss for one in bare.fittings) == pytest.approx(
        0.15 + 0.1 + 0.15 + 0.4
    )
    choke = inlines()["choke"]
    half = 0.5
    assert choke.loss == pytest.approx((1 + 0.707 * sqrt(1 - half) - half) ** 2 / half**2, rel=1e-3)


def test_a_hose_that_sags_bends_twice_in_every_span() -> None:
    """Spans of 1 m that sag by 0.25 m end at 45 degrees: 90 in the middle, 90 at the hanger; 8 in 4 m."""
    hose = Run(id="h", diameter=0.1, material="ribbed-hose", source="collector", points=(v(4.5, 0, 0.65),))
    hung = layout(replace(hose, sag=0.25)).segments[0]
    (sag,) = [one for one in hung.fittings if one.kind == "own"]
    assert sag.loss == pytest.approx(8 * elbows()["hose-bend"].loss, rel=1e-6)
    pipe = layout(replace(hose, sag=0.25, material="spiral")).segments[0]
    assert not [one for one in pipe.fittings if one.kind == "own"]  # pipe does not


def test_a_corner_is_of_the_piece_that_ends_there() -> None:
    """Along x for 2 m, across for 1 m, then up."""
    path = ((0.0, 0.0, 0.0), (2.0, 0.0, 0.0), (2.0, 1.0, 0.0), (2.0, 1.0, 0.5))
    assert corners_in(path, 0.0, 2.0) == pytest.approx((90.0,))
    assert corners_in(path, 2.0, 2.5) == ()
    assert corners_in(path, 2.0, 3.5) == pytest.approx((90.0,))
    assert corners_in(path, 0.0, 3.5) == pytest.approx((90.0, 90.0))
    assert direction_at(path, 2.0) == (1.0, 0.0, 0.0) and direction_at(path, 2.1) == (0.0, 1.0, 0.0)
    assert direction_at(path, inf) == opposite((0.0, 0.0, -1.0)) == (0.0, 0.0, 1.0)
