"""Drawing runs point by point, without a screen."""

from dataclasses import replace
from math import hypot

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from purvel.airflow import drawing
from purvel.airflow.drawing import DrawingError
from purvel.airflow.layout import layouts, length_of, run_paths
from purvel.catalogue import make_thing
from purvel.shop import Gate, Join, PortRef, Run, Shop, Vertex
from purvel.shop.edits import change, put, remove
from purvel.shop.faults import faults
from tests.conftest import box_room

REACH = 0.15


def shop() -> Shop:
    things = (
        make_thing("collector", "collector", 1.0, 1.0),
        make_thing("planer", "planer", 5.0, 3.0),
        make_thing("table-saw", "saw", 5.0, 5.0),
    )
    return Shop(units="metric", room=box_room(8, 7), things=things)


def inlet() -> tuple[float, float]:
    one = shop().things[0]
    assert one.source is not None
    return one.spot(one.source.inlet_x, one.source.inlet_y)


def port(name: str) -> tuple[float, float]:
    one = shop().thing(name)
    assert one is not None
    return one.spot(one.ports[0].x, one.ports[0].y)


def begun(on: Shop, x: float, y: float, name: str = "main") -> Run:
    return drawing.begin(on, run_paths(on.ducts, on.things), Run(id=name, name=name), 45.0, x, y, REACH)


def with_main() -> Shop:
    """A main at 2.3 m: up from the inlet, 4 m along x."""
    one = drawing.with_corner(shop(), begun(shop(), *inlet()), inlet()[0] + 4.0, inlet()[1], 2.3)
    return put(shop(), drawing.finished(shop(), one))


def test_a_rise_is_put_in_where_the_height_changes() -> None:
    main = with_main().ducts.runs[0]
    x, y = inlet()
    assert [(p.x, p.y, p.z) for p in main.points] == [
        pytest.approx((x, y, 2.3)),
        pytest.approx((x + 4.0, y, 2.3)),
    ]
    low = shop().things[0].source
    assert low is not None
    assert length_of(drawing.path_of(shop(), main)) == pytest.approx(2.3 - low.inlet_z + 4.0)
    level = drawing.with_corner(with_main(), main, x + 4.0, y + 1.0, 2.31)  # a centimetre is no rise
    assert len(level.points) == 3


def test_a_run_is_named_after_the_machine_that_it_leads_to() -> None:
    on = with_main()
    branch = replace(
        begun(on, inlet()[0] + 2.0, inlet()[1], "branch"),
        port=PortRef(thing="planer", port=on.things[1].ports[0].id),
    )
    straight = replace(begun(shop(), *inlet()), port=branch.port)
    for run, name in (
        (branch, "drop"),
        (replace(branch, material="ribbed-hose"), "hose"),
        (straight, "pipe"),
    ):
        assert drawing.finished(on if run.joins else shop(), run).name == f"Thickness planer {name}"
    assert on.ducts.runs[0].name == "main"
    assert drawing.new_gate(on, branch, 0.30004) == Gate(id="gate-1", name="Thickness planer gate", at=0.3)
    assert drawing.new_gate(on, on.ducts.runs[0], 1.0).name == "main gate"


def test_a_run_at_an_inlet_is_of_the_nearest_size_and_a_branch_keeps_its_own() -> None:
    on = with_main()
    branch = begun(on, inlet()[0] + 2.0, inlet()[1], "branch")
    for run, sizes, size in (
        (on.ducts.runs[0], (0.1, 0.16, 0.2), 0.16),
        (branch, (0.2, 0.3), branch.diameter),
    ):
        assert drawing.size_at(on, run, sizes) == size


def test_a_branch_begins_where_it_was_pressed_and_a_free_end_is_carried_on() -> None:
    on = with_main()
    x, y = inlet()
    rise = length_of(run_paths(on.ducts, on.things)["main"]) - 4.0
    branch = begun(on, x + 1.5, y + 0.1, "branch")
    assert (
        branch.joins is not None
        and branch.joins.at == pytest.approx(rise + 1.5, abs=2e-3)
        and branch.joins.angle == 45.0
    )
    ahead = begun(on, x + 3.95, y, "ahead")
    assert ahead.joins is not None and ahead.joins.run == "main" and ahead.joins.at is None
    with pytest.raises(DrawingError, match="is taken"):
        begun(on, *inlet())
    with pytest.raises(DrawingError, match="begins at"):
        begun(on, 4.0, 6.8)


def test_a_second_source_is_brought_to_the_line_of_the_first() -> None:
    on = put(with_main(), make_thing("collector", "second", 5.0, 1.5))
    paths = run_paths(on.ducts, on.things)
    x, y = inlet()
    line = Run(id="line", source="second")
    rise = length_of(paths["main"]) - 4.0
    joined = drawing.line_under(on, paths, line, 30.0, x + 2.0, y, REACH)
    assert joined is not None and joined.joins is not None
    assert joined.joins == Join(run="main", at=pytest.approx(rise + 2.0, abs=2e-3), angle=30.0)
    at_end = drawing.line_under(on, paths, line, 30.0, x + 3.9, y, REACH)
    assert at_end is not None and at_end.joins == Join(run="main", at=None, angle=30.0)
    served = put(on, replace(on.ducts.runs[0], port=PortRef(thing="saw", port=on.things[2].ports[0].id)))
    paths_to_saw = run_paths(served.ducts, served.things)
    sx, sy = port("saw")
    beside = drawing.line_under(served, paths_to_saw, line, 30.0, sx, sy, REACH)
    assert beside is not None and beside.joins is not None and beside.joins.at is not None  # a port ends it
    assert drawing.line_under(on, paths, line, 30.0, x + 2.0, y + 1.0, REACH) is None
    assert drawing.line_under(on, paths, Run(id="own", source="collector"), 30.0, x + 2.0, y, REACH) is None
    assert drawing.line_under(on, paths, Run(id="branch"), 30.0, x + 2.0, y, REACH) is None
    assert drawing.finished(on, joined).name == f"{on.things[-1].name} line"
    assert len(drawing.places_to_end(on, paths, line)) == 2 + 3  # two ports, three places along the main
    assert len(drawing.places_to_end(on, paths, replace(line, source=None))) == 2


def test_the_source_of_a_run_is_found_along_what_it_joins() -> None:
    on = put(put(with_main(), Run(id="b", joins=Join(run="main"))), Run(id="c", joins=Join(run="b")))
    assert [drawing.source_of(on, one) for one in ("main", "b", "c", "none")] == ["collector"] * 3 + [None]
    looped = put(on, Run(id="b", joins=Join(run="c")))
    assert drawing.source_of(looped, "c") is None


def test_a_turned_collector_is_clicked_where_it_stands() -> None:
    # 1.6 m wide, 0.75 m deep
    turned = replace(make_thing("table-saw", "long", 4.0, 3.0, 90.0), source=shop().things[0].source)
    assert turned.covers(4.0, 3.7) and not turned.covers(4.7, 3.0)
    on = replace(shop(), things=(turned,))
    assert begun(on, 4.0, 3.7).source == "long"
    with pytest.raises(DrawingError, match="begins at"):
        begun(on, 4.7, 3.0)


def test_a_port_takes_one_run() -> None:
    on = with_main()
    assert drawing.port_under(on, *port("planer"), REACH) == PortRef(thing="planer", port="hood")
    assert drawing.port_under(on, 7.5, 6.5, REACH) is None
    branch = replace(
        begun(on, inlet()[0] + 2.0, inlet()[1], "branch"), port=PortRef(thing="planer", port="hood")
    )
    on = put(on, branch)
    assert faults(on) == []
    with pytest.raises(DrawingError, match="has a run already"):
        drawing.port_under(on, *port("planer"), REACH)
    assert drawing.places_to_end(on, run_paths(on.ducts, on.things), on.ducts.runs[-1]) == [
        pytest.approx(port("saw"))
    ]
    assert [
        segment.run for segment in layouts(on.ducts, on.things)[0].segments if segment.hood is not None
    ] == ["branch"]


def test_what_lies_under_the_pen() -> None:
    on = change(with_main(), "main", gates=(Gate(id="gate", name="", at=3.0),))
    paths = run_paths(on.ducts, on.things)
    x, y = inlet()
    found = drawing.run_under(paths, x + 2.0, y + 0.1, REACH)
    assert found is not None and found[0] == "main"
    assert drawing.run_under(paths, x + 2.0, y + 0.2, REACH) is None
    along = 3.0 - (length_of(paths["main"]) - 4.0)
    assert drawing.gate_under(on.ducts, paths, x + along, y, REACH) == "gate"
    assert drawing.gate_under(on.ducts, paths, x + along + 0.5, y, REACH) is None


@pytest.mark.parametrize(
    ("to", "drawn"),
    [
        ((3.0, 0.2), (3.0067, 0.0)),
        ((2.0, 2.1), (2.0506, 2.0506)),
        ((2.0, 1.0), (2.0, 1.0)),
        ((0.0, 0.0), (0.0, 0.0)),
    ],
)
def test_legs_near_to_square_are_drawn_square(to: tuple[float, float], drawn: tuple[float, float]) -> None:
    assert drawing.squared((0.0, 0.0), to) == pytest.approx(drawn, abs=1e-3)


def test_a_moved_corner_takes_its_drop_along_and_lines_up() -> None:
    run = Run(
        id="r",
        points=(
            Vertex(x=1, y=1, z=2.3),
            Vertex(x=3, y=2, z=2.3),
            Vertex(x=3, y=2, z=1.0),
            Vertex(x=5, y=2, z=1.0),
        ),
    )
    moved = drawing.move_corner(run, run.points[1], 3.204, 1.06, 0.01)
    assert [(p.x, p.y, p.z) for p in moved.points] == [
        (1, 1, 2.3),
        pytest.approx((3.2, 1.0, 2.3)),
        pytest.approx((3.2, 1.0, 1.0)),
        (5, 2, 1.0),
    ]


def test_a_run_without_length_is_refused() -> None:
    with pytest.raises(DrawingError, match="no length"):
        drawing.finished(shop(), begun(shop(), *inlet()))


@settings(max_examples=60, deadline=None)
@given(
    st.lists(
        st.tuples(st.floats(0.1, 7.9), st.floats(0.1, 6.9), st.sampled_from([0.4, 2.3])),
        min_size=1,
        max_size=5,
    )
)
def test_whatever_is_pressed_the_shop_holds_together_and_the_run_ends_there(
    presses: list[tuple[float, float, float]],
) -> None:
    run = begun(shop(), *inlet())
    for x, y, height in presses:
        path = drawing.path_of(shop(), run)
        run = drawing.with_corner(shop(), run, *drawing.squared(path[-1][:2], (x, y)), height)
    try:
        after = put(shop(), drawing.finished(shop(), run))
    except DrawingError:
        return
    assert faults(after) == []
    end = drawing.path_of(shop(), run)[-1]
    assert hypot(end[0] - run.points[-1].x, end[1] - run.points[-1].y) < 1e-9
    assert layouts(after.ducts, after.things)[0].segments


def test_a_corner_more_keeps_its_place_among_the_others() -> None:
    """The main goes up from the inlet, then 4 m along x: a corner 1 m along that is between its two."""
    shop = with_main()
    (main,) = shop.ducts.runs
    path = run_paths(shop.ducts, shop.things)["main"]
    rise = path[1][2] - path[0][2]
    x, y, z = path[1]
    after = drawing.with_corner_at(main, path, rise + 1.0)
    assert [(p.x, p.y, p.z) for p in after.points] == [
        pytest.approx(one) for one in ((x, y, z), (x + 1.0, y, z), (x + 4.0, y, z))
    ]
    below = drawing.with_corner_at(main, path, rise / 2)
    assert (below.points[0].x, below.points[0].z) == pytest.approx((x, path[0][2] + rise / 2), abs=1e-4)
    assert below.points[1:] == main.points
    assert drawing.with_corner_at(main, path, 99.0).points[:2] == main.points


def test_a_corner_more_of_a_run_that_ends_at_a_port() -> None:
    """From the inlet straight to the planer: its path has both ends more than it has corners."""
    shop = with_main()
    to_port = replace(shop.ducts.runs[0], port=PortRef(thing="planer", port="hood"))
    path = run_paths(put(shop, to_port).ducts, shop.things)["main"]
    assert len(path) == len(to_port.points) + 2
    along = length_of(path[:3]) + 0.5 * length_of(path[2:])
    after = drawing.with_corner_at(to_port, path, along)
    assert after.points[:2] == to_port.points and len(after.points) == 3
    middle = [(a + b) / 2 for a, b in zip(path[2], path[3])]
    assert (after.points[2].x, after.points[2].y, after.points[2].z) == pytest.approx(middle, abs=1e-4)


def test_a_corner_goes_with_its_rise() -> None:
    points = (Vertex(x=1.0, y=1.0, z=2.3), Vertex(x=3.0, y=1.0, z=2.3), Vertex(x=3.0, y=1.0, z=1.0))
    run = Run(id="r", points=(*points, Vertex(x=4.0, y=2.0, z=1.0)))
    assert drawing.without_corner(run, points[1]).points == (points[0], run.points[3])
    assert drawing.without_corner(run, points[0]).points == run.points[1:]


def test_where_a_run_can_begin_and_a_gate_can_go() -> None:
    """At the inlet; along the runs; 4 m of the main are level, the rest of it rises at the inlet."""
    shop = with_main()
    paths = run_paths(shop.ducts, shop.things)
    places = drawing.places_for_gates(paths)
    rise = paths["main"][1][2] - paths["main"][0][2]
    for place, share in zip(places, (0.3, 0.6, 1.0), strict=True):
        along = max(0.0, share * (rise + 4.0) - rise)
        assert place == pytest.approx((inlet()[0] + along, inlet()[1]))
    assert drawing.places_to_begin(shop, paths) == [pytest.approx(inlet()), *places]
    assert drawing.places_for_gates({"none": (), "one": ((0.0, 0.0, 0.0),)}) == []


def test_which_runs_hang_on_a_vac() -> None:
    shop = with_main()
    vac = put(shop, make_thing("vac", "vac", 2.0, 5.0))
    hose = Run(id="hose", source="vac", points=(Vertex(x=3.0, y=5.0, z=1.0),))
    branch = Run(id="branch", joins=Join(run="hose"), points=(Vertex(x=4.0, y=5.0, z=1.0),))
    vac = put(put(vac, hose), branch)
    assert [drawing.is_on_vac(vac, one) for one in vac.ducts.runs] == [False, True, True]
    circle = replace(branch, id="a", joins=Join(run="b")), replace(branch, id="b", joins=Join(run="a"))
    round_and_round = put(put(vac, circle[0]), circle[1])
    assert not drawing.is_on_vac(round_and_round, circle[0])
    assert not drawing.is_on_vac(vac, replace(branch, joins=Join(run="gone")))


def test_whether_what_a_run_began_at_still_stands() -> None:
    shop = with_main()
    (main,) = shop.ducts.runs
    branch = replace(main, id="b", source=None, joins=Join(run="main"))
    assert drawing.stands(shop, main) and drawing.stands(shop, branch)
    without = remove(shop, "collector")
    assert not drawing.stands(without, main)
    assert not drawing.stands(remove(shop, "main"), branch)
    assert not drawing.stands(shop, replace(main, source="planer"))  # no source


def test_of_two_runs_the_nearer_is_under_the_pen_and_of_two_alike_the_first() -> None:
    paths = {
        "a": ((0.0, 0.0, 2.0), (4.0, 0.0, 2.0)),
        "b": ((0.0, 0.1, 2.0), (4.0, 0.1, 2.0)),
        "drop": ((1.0, 0.1, 2.0), (1.0, 0.1, 0.5)),
    }
    assert drawing.run_under(paths, 3.0, 0.08, 0.15) == ("b", pytest.approx(3.0))
    assert drawing.run_under(paths, 3.0, 0.02, 0.15) == ("a", pytest.approx(3.0))
    assert drawing.run_under(paths, 3.0, 0.05, 0.15) == ("a", pytest.approx(3.0))
    assert drawing.run_under(paths, 3.0, 0.3, 0.15) is None
    assert drawing.run_under({"drop": paths["drop"]}, 1.0, 0.1, 0.15) == ("drop", 0.0)
