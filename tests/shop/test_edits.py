from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from purvel.catalogue import kinds, make_thing
from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.shop import (
    CurvePoint,
    Fixture,
    Gate,
    GateSet,
    Join,
    Opening,
    PartOpen,
    PortRef,
    Room,
    Run,
    Shop,
    Slope,
    Source,
    Wall,
    WorkInterval,
    edits,
)
from purvel.shop.faults import curve_faults, faults
from purvel.shop.parts import ids_of
from purvel.space.placing import split_point
from purvel.space.shell import shell
from purvel.space.traverse import walk
from tests.conftest import box_room


def full() -> Shop:
    return loads(demo_bytes("garage")).shop


def test_taking_a_machine_away_lets_go_of_its_ducts_and_work() -> None:
    after = edits.remove(full(), "table-saw")
    assert after.thing("table-saw") is None
    assert all(run.port is None or run.port.thing != "table-saw" for run in after.ducts.runs)
    assert all(interval.thing != "table-saw" for interval in after.air.session.work)
    assert faults(after) == []


def test_taking_the_main_away_takes_what_hangs_on_it() -> None:
    after = edits.remove(full(), "main")
    assert after.ducts.runs == () and after.ducts.gate_sets == ()


def test_taking_a_gate_out_closes_it_in_every_choice() -> None:
    after = edits.remove(full(), "saw-gate")
    assert after.ducts.gate_sets[0].open == ("planer-gate", "jointer-gate")


def test_taking_a_wall_out_takes_its_openings() -> None:
    after = edits.remove(full(), "A")
    assert all(opening.wall != "A" for opening in after.room.openings)
    assert faults(after) == []


def test_what_is_not_there_cannot_be_taken_away() -> None:
    assert edits.remove(full(), "nothing-of-the-kind") == full()


def test_putting_replaces_in_place_and_else_adds() -> None:
    shop = full()
    wall = shop.room.walls[1]
    assert edits.put(shop, replace(wall, length=9.0)).room.walls[1].length == 9.0
    assert len(edits.put(shop, make_thing("lathe", "lathe")).things) == len(shop.things) + 1


def test_a_split_wall_stays_in_line_and_keeps_its_doors_and_slopes() -> None:
    shop = edits.slope_ceiling(full(), "A", Slope(wall="A", low=1.8, run=1.0))
    before = shell(shop.room).sides["A"]
    doors = [one for one in shop.room.openings if one.wall == "A"]
    assert doors
    places = {one.id: before.at(one.offset) for one in shop.room.openings if one.wall == "A"}
    at = split_point(shop.room, shop.room.walls[0])
    assert at is not None and not any(one.offset < at < one.offset + one.width for one in doors)
    after = edits.split_wall(shop, "A", "X", at)
    assert [wall.id for wall in after.room.walls[:3]] == ["A", "X", "B"] and faults(after) == []
    assert after.room.walls[0].length + after.room.walls[1].length == pytest.approx(shop.room.walls[0].length)
    assert walk(after.room).gap_length == pytest.approx(walk(shop.room).gap_length)
    new = shell(after.room).sides
    for one in after.room.openings:
        if one.id in places:
            assert new[one.wall].at(one.offset) == pytest.approx(places[one.id], abs=1e-6)
    assert {slope.wall for slope in after.room.ceiling.slopes} >= {"A", "X"}


def test_a_wall_full_of_openings_is_not_split() -> None:
    room = box_room(
        6, 5, openings=(Opening(id="door", kind="roll-up", wall="A", offset=0.02, width=5.96, head=2.1),)
    )
    assert split_point(room, room.walls[0]) is None
    assert split_point(room, room.walls[1]) == pytest.approx(2.5)


def test_moving_keeps_the_angle_within_a_turn() -> None:
    after = edits.move_thing(full(), "planer", 1.0, 2.0, 450.0)
    planer = after.thing("planer")
    assert planer is not None and (planer.x, planer.y, planer.angle) == (1.0, 2.0, 90.0)


def test_fresh_ids_are_fresh() -> None:
    shop = edits.put(full(), make_thing("lathe", "lathe-1"))
    assert edits.fresh_id(shop, "lathe") == "lathe-2"


def test_work_stays_in_order_of_time() -> None:
    after = edits.put(full(), WorkInterval(id="early", start=1.0))
    assert after.air.session.work[0].id == "early"


steps = st.lists(
    st.one_of(
        st.tuples(st.just("remove"), st.integers(0, 60)),
        st.tuples(st.just("place"), st.sampled_from(sorted(kinds()))),
        st.tuples(st.just("move"), st.integers(0, 60)),
        st.tuples(st.just("wall"), st.floats(0.1, 10)),
    ),
    max_size=15,
)


@settings(max_examples=60, deadline=None)
@given(steps)
def test_any_row_of_edits_leaves_a_document_that_holds_together(moves: list[tuple[str, object]]) -> None:
    start = shop = full()
    for what, value in moves:
        ids = sorted(ids_of(shop))
        before = shop
        if what == "remove" and ids:
            shop = edits.remove(shop, ids[int(str(value)) % len(ids)])
        elif what == "place":
            shop = edits.put(shop, make_thing(str(value), edits.fresh_id(shop, str(value))))
        elif what == "move" and shop.things:
            shop = edits.move_thing(shop, shop.things[int(str(value)) % len(shop.things)].id, 1.0, 2.0)
        elif what == "wall":
            shop = edits.put(shop, Wall(id=edits.fresh_id(shop, "wall"), length=float(str(value))))
        assert faults(before) == []
    assert faults(shop) == []
    assert start == full()


@pytest.mark.parametrize(
    ("bad", "word"),
    [
        (
            lambda s: edits.put(s, Opening(id="o", kind="window", wall="Z", offset=0, width=1, head=2)),
            "not there",
        ),
        (
            lambda s: edits.put(
                s, Opening(id="o", kind="window", wall="A", offset=0, width=1, head=1, sill=1.5)
            ),
            "sill",
        ),
        (
            lambda s: edits.put(s, Fixture(id="f", kind="post", x=0, y=0, width=1, depth=1, bottom=2, top=1)),
            "bottom",
        ),
        (lambda s: edits.put(s, Run(id="r", joins=Join(run="gone"))), "not there"),
        (lambda s: edits.put(s, Run(id="r", source="planer")), "not there"),
        (lambda s: edits.put(s, Run(id="r", port=PortRef(thing="planer", port="gone"))), "not there"),
        (lambda s: edits.put(s, Run(id="r", port=PortRef(thing="planer", port="hood"))), "2 runs"),
        (lambda s: edits.put(s, Run(id="main", joins=Join(run="saw-drop"))), "circle"),
        (lambda s: edits.put(s, Run(id="r", gates=(Gate(id="saw-gate"),))), "used by 2"),
        (lambda s: edits.put(s, GateSet(id="g", open=("gone",))), "not there"),
        (lambda s: edits.put(s, WorkInterval(id="x", capture=(0.9, 0.5, 0.1))), "low, central, high"),
        (lambda s: replace(s, things=(*s.things, s.things[0])), "used by 2"),
    ],
)
def test_faults_are_found_and_said(bad: object, word: str) -> None:
    found = faults(bad(full()))  # type: ignore[operator]
    assert any(word in fault.sentence for fault in found), found


def test_a_door_behind_the_cut_is_counted_from_there() -> None:
    """A wall of 6 m cut at 2 m: a door at 3.5 m is 1.5 m along the second part, one at 0.5 m stays."""
    room = box_room(
        openings=tuple(
            Opening(id=name, kind="swing", wall="A", offset=offset, width=0.8, head=2.0)
            for name, offset in (("near", 0.5), ("far", 3.5))
        )
    )
    after = edits.split_wall(Shop(room=room), "A", "X", 2.0).room
    found = {one.id: (one.wall, one.offset) for one in after.openings}
    assert found == {"near": ("A", 0.5), "far": ("X", pytest.approx(1.5))}
    assert [(wall.id, wall.length) for wall in after.walls[:2]] == [("A", 2.0), ("X", 4.0)]


def test_fields_of_the_air_and_of_the_session_are_changed_alone() -> None:
    shop = full()
    after = edits.change_session(edits.change_air(shop, ach_closed=0.7), minutes=90.0)
    assert after.air == replace(shop.air, ach_closed=0.7, session=replace(shop.air.session, minutes=90.0))
    assert replace(after, air=shop.air) == shop


def test_a_point_of_a_turned_thing_and_what_it_covers() -> None:
    """At (1, 2), turned by 30 degrees: (0.5, 0.25) of its own is at 1 + 0.433 - 0.125, 2 + 0.25 + 0.2165."""
    thing = replace(make_thing("workbench", "one", 1.0, 2.0), angle=30.0, width=1.2, depth=0.6)
    assert thing.spot(0.5, 0.25) == pytest.approx((1.3080, 2.4665), abs=1e-4)
    for across, along, inside in (
        (0.59, 0.29, True),
        (0.61, 0.0, False),
        (0.0, 0.31, False),
        (-0.59, -0.29, True),
    ):
        assert thing.covers(*thing.spot(across, along)) == inside


def test_two_slopes_on_a_wall_are_one_too_many_and_one_is_none() -> None:
    slope, room = Slope(wall="A", low=1.8, run=1.0), box_room()
    for count in (1, 2):
        sloped = replace(room, ceiling=replace(room.ceiling, slopes=(slope,) * count))
        said = [one.sentence for one in faults(Shop(room=sloped))]
        assert said == ([] if count == 1 else ["The wall “A” has 2 sloping ceilings; one is enough."])


def test_a_curve_may_start_as_low_as_it_likes_above_nothing() -> None:
    points = (CurvePoint(flow=0.0, pressure=0.5), CurvePoint(flow=0.1, pressure=0.0))
    source = Source(kind="collector", curve=points, inlet_diameter=0.1, outlet_diameter=0.1)
    assert list(curve_faults(source)) == []
    nothing = replace(source, curve=(replace(points[0], pressure=0.0), points[1]))
    assert "must start above zero pressure." in list(curve_faults(nothing))


@pytest.mark.parametrize(
    ("points", "says"),
    [
        ([(0.0, 100.0), (0.1, 100.0)], "must fall towards its last point."),
        ([(0.0, 100.0), (0.1, 80.0), (0.2, 101.0)], "must fall towards its last point."),
        ([(0.0, 100.0), (0.2, 80.0), (0.1, 50.0)], "must rise in flow from point to point."),
        ([(0.0, 100.0), (0.1, 80.0), (0.1, 50.0)], "must rise in flow from point to point."),
        ([(0.0, 100.0), (0.1, 120.0), (0.2, 0.0)], None),  # a hump is no fault
    ],
)
def test_what_no_curve_may_do(points: list[tuple[float, float]], says: str | None) -> None:
    curve = tuple(CurvePoint(flow=flow, pressure=pressure) for flow, pressure in points)
    source = Source(kind="collector", curve=curve, inlet_diameter=0.1, outlet_diameter=0.1)
    assert list(curve_faults(source)) == ([] if says is None else [says])


@pytest.mark.parametrize("over", [0.0, 0.001, -0.001])
def test_a_height_may_not_even_touch_the_one_above_it(over: float) -> None:
    """A sill at the head, a slope that starts at the ceiling, a post as low at its top as at its bottom."""
    shop = full()
    window = Opening(id="o", kind="window", wall="D", offset=0.0, width=0.5, head=1.0, sill=1.0 + over)
    slope = Slope(wall="A", low=shop.room.ceiling.height + over, run=1.0)
    post = Fixture(id="f", kind="post", x=0.0, y=0.0, width=0.1, depth=0.1, bottom=1.0 + over, top=1.0)
    broken = [edits.put(shop, window), edits.slope_ceiling(shop, "A", slope), edits.put(shop, post)]
    for one, says in zip(broken, ("its sill at or above", "starts above the flat", "its bottom at or above")):
        found = [fault.sentence for fault in faults(one)]
        assert [says in sentence for sentence in found] == ([True] if over >= 0 else [])


def test_a_run_starts_once_and_a_choice_names_a_gate_once() -> None:
    shop = full()
    run, choice = shop.ducts.runs[1], shop.ducts.gate_sets[0]
    ends = [fault.sentence for fault in faults(edits.put(shop, replace(run, source="collector")))]
    assert any("to a source, to a run and to a port" in sentence for sentence in ends)
    assert any("is brought into a line by" in sentence for sentence in ends)  # and it has the main
    named = edits.put(shop, replace(choice, open=(choice.open[0], choice.open[0])))
    (fault,) = faults(named)
    assert fault.sentence.endswith(f"names the gate “{choice.open[0]}” 2 times.")
    half = PartOpen(gate=choice.open[0], share=0.5)
    assert faults(edits.put(shop, replace(choice, part=(half,)))) == []
    (shut,) = faults(edits.put(shop, replace(choice, open=choice.open[1:], part=(half,))))
    assert f"opens “{choice.open[0]}” in part, but not once at all" in shut.sentence
    gone = edits.remove(edits.put(shop, replace(choice, part=(half,))), choice.open[0])
    assert faults(gone) == [] and all(one.part == () for one in gone.ducts.gate_sets)
    source = shop.thing("collector")
    assert source is not None and source.source is not None
    flat = tuple(replace(point, pressure=500.0) for point in source.source.curve)
    (fault,) = faults(edits.put(shop, replace(source, source=replace(source.source, curve=flat))))
    assert fault.sentence == "The curve of “collector” must fall towards its last point."


def test_a_split_wall_by_hand() -> None:
    """Wall A of 6 m split at 2.5: an opening that begins there goes with the second, one before it stays."""
    doors = tuple(
        Opening(id=name, kind="swing", wall="A", offset=at, width=0.5, head=2.0)
        for name, at in (("a", 1.0), ("b", 2.5), ("c", 4.0))
    )
    room = box_room(6, 5, openings=doors)
    shop = edits.slope_ceiling(Shop(room=room), "A", Slope(wall="A", low=1.8, run=1.0))
    after = edits.split_wall(shop, "A", "E", 2.5).room
    assert [(wall.id, wall.length, wall.turn) for wall in after.walls[:3]] == [
        ("A", 2.5, 0.0),
        ("E", 3.5, 90.0),
        ("B", 5.0, 90.0),
    ]
    assert [(one.wall, one.offset) for one in after.openings] == [("A", 1.0), ("E", 0.0), ("E", 1.5)]
    assert [(one.wall, one.low) for one in after.ceiling.slopes] == [("A", 1.8), ("E", 1.8)]
    assert edits.slope_ceiling(shop, "A", None).room.ceiling.slopes == ()


def test_two_walls_square_to_each_other_are_made_a_room() -> None:
    for turn in (90.0, -90.0):
        walls = (Wall(id="A", length=6.0, turn=turn), Wall(id="B", length=4.0, turn=10.0))
        whole = edits.as_rectangle(Shop(room=Room(walls=walls)))
        assert whole is not None
        assert [(one.length, one.turn) for one in whole.room.walls] == [
            (6.0, turn),
            (4.0, turn),
            (6.0, turn),
            (4.0, turn),
        ]
        assert [one.provenance for one in whole.room.walls[2:]] == ["paced", "paced"]
        assert len({one.id for one in whole.room.walls}) == 4
        for some in (
            walls[:1],
            (replace(walls[0], turn=80.0), walls[1]),
            (*walls, replace(walls[0], id="C")),
        ):
            assert edits.as_rectangle(Shop(room=Room(walls=some))) is None
