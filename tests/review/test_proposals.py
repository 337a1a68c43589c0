"""What is proposed for a finding before it is tried, in its order, and what each proposal would change."""

from dataclasses import replace
from math import cos, radians, sin

import pytest

from purvel.catalogue import make_thing
from purvel.catalogue.power import make_luminaire
from purvel.review.figures import Figures
from purvel.review.stages import stage_of
from purvel.shop import Shop, Stock
from purvel.shop.jobs import Job, JobStep
from purvel.shop.power import Appliance, Circuit, Outlet, Power
from tests.conftest import block, box_room
from tests.review import test_flow, test_power, test_walls
from tests.review.proposals import proposed, reviewed
from tests.review.test_turned import turned

SHELF, CLEAT = test_walls.SHELF, test_walls.CLEAT


def test_more_screws_then_thicker_ones_then_no_lining() -> None:
    loaded = replace(
        SHELF,
        width=0.9,
        offset=3.9,
        load=160.0,
        per_stud=1,
        material="birch-ply",
        thickness=0.03,
        lining=0.012,
    )
    thick = "#14 × 3 in (6.1 × 76 mm)"
    assert proposed(test_walls.shop(units=(loaded,)), "screws") == [
        *((f"{count} screws in each stud", {"shelf": {"per_stud": count}}) for count in range(2, 7)),
        (f"Screws {thick}", {"shelf": {"screw": "no-14"}}),
        (f"Four screws {thick} in each stud", {"shelf": {"screw": "no-14", "per_stud": 4}}),
        ("Take the lining away behind it", {"shelf": {"lining": 0.0}}),
    ]


def test_more_supports_then_thicker_boards_then_stiffer_ones() -> None:
    """A shelf of 18 mm particleboard, the least stiff of all, on two supports: one span."""
    long = replace(SHELF, offset=1.0, width=2.4, material="particleboard", load=30.0)
    found = proposed(test_walls.shop(units=(long,)), "sag")
    assert found[:6] == [
        *((f"{spans + 1} supports under it", {"shelf": {"spans": spans}}) for spans in (2, 3, 4)),
        *((f"A board {mm} mm thick", {"shelf": {"thickness": mm / 1000}}) for mm in (24, 30, 36)),
    ]
    stiffer = [next(iter(change["shelf"].values())) for _, change in found[6:]]
    assert stiffer == ["mdf", "osb", "softwood-ply", "birch-ply", "pine", "oak"]
    thick = replace(long, thickness=0.03, material="oak", spans=2, load=400.0)
    labels = [label for label, _ in proposed(test_walls.shop(units=(thick,)), "sag")]
    assert labels == [
        "4 supports under it",
        "5 supports under it",
        "6 supports under it",
        "A board 36 mm thick",
    ]


def test_studs_are_guessed_at_both_usual_distances() -> None:
    assert proposed(test_walls.shop(studs=0.0), "studs-unknown") == [
        (f"Take studs every {mm} mm as a guess", {"A": {"stud_spacing": at, "first_stud": at}})
        for mm, at in ((406, 0.4064), (610, 0.6096))
    ]


def test_what_hangs_too_high_goes_where_it_is_reached() -> None:
    tools = test_walls.at("hand-router", "shelf", 0.1), test_walls.at("mallet", "shelf", 0.5)
    here = test_walls.shop(*tools, units=(replace(CLEAT, z=1.2), replace(SHELF, z=1.9)))
    assert proposed(here, "reach") == [("Move Mallet to Cleat", {"mallet": {"home": "cleat", "along": 0.0}})]


def test_a_unit_is_moved_aside_by_steps_within_its_wall() -> None:
    """A cleat of 2 m at 1 m in a wall of 6, 1.6 m high under a ceiling of 2.4: up to 0.8 m each way."""
    outlet = Outlet(id="o", wall="A", offset=1.5, height=1.6, circuit="c")
    here = test_walls.shop(power=Power(circuits=(Circuit(id="c"),), outlets=(outlet,)))
    found = proposed(here, "covers")
    wanted = [
        (f"Move Cleat {step * 100} mm {way}", {"cleat": {field: round(start + sign * step * 0.1, 4)}})
        for step in range(1, 9)
        for way, field, start, sign in (
            ("higher", "z", 1.6, 1),
            ("lower", "z", 1.6, -1),
            ("farther along", "offset", 1.0, 1),
            ("back", "offset", 1.0, -1),
        )
        if not (way == "higher" and 1.6 + step * 0.1 >= here.room.ceiling.height - 1e-9)
    ]
    assert found == wanted


def test_a_unit_is_moved_as_far_as_the_end_of_its_wall() -> None:
    """4.5 m at 0.3 m in a wall of 6: three steps back and eight on; at 1.0 m five."""
    outlet = Outlet(id="o", wall="A", offset=3.0, height=1.6, circuit="c")
    power = Power(circuits=(Circuit(id="c"),), outlets=(outlet,))
    for offset, back, on in ((0.3, 3, 8), (1.0, 8, 5)):
        wide = replace(CLEAT, offset=offset, width=4.5)
        labels = [label for label, _ in proposed(test_walls.shop(units=(wide,), power=power), "covers")]
        assert sum(label.endswith("back") for label in labels) == back
        assert sum(label.endswith("along") for label in labels) == on


@pytest.mark.parametrize("by", [0.0, 90.0, 180.0, 270.0])
def test_what_jams_is_moved_off_the_gap(by: float) -> None:
    """Two cupboards reach from wall to wall but for 1.1 m between them and 0.4 m behind the right one: that
    goes by 0.2 m towards its wall, wherever on the plan that is; by half a metre it would stand in it.
    """
    left = block("left", 1.2, 2.0, 2.4, 0.4, 1.9, settled=True)
    right = block("right", 4.55, 2.0, 2.1, 0.4, 1.9)
    sheet = Stock(length=1.8, width=1.15, thickness=0.018)
    job = Job(id="job", name="Sheets", stock=sheet, steps=(JobStep(operation="joint"),))
    door = replace(test_flow.DOOR, width=1.6, offset=2.0)
    bench = make_thing("workbench", "bench", 3.0, 4.5, 0.0)
    here = replace(test_flow.shop(bench, left, right, job=job), room=box_room(openings=(door,)))
    there = turned(here, by, 0.0, 0.0)
    (label, change), *others = proposed(there, "carry")[1:]
    stood = there.things[2]
    moved = [change["right"].get(axis, getattr(stood, axis)) - getattr(stood, axis) for axis in ("x", "y")]
    assert moved == pytest.approx([0.2 * cos(radians(by)), 0.2 * sin(radians(by))], abs=1e-9)
    assert label.startswith("Move right 200 mm") and others == []


def test_a_circuit_is_relieved_machine_by_machine() -> None:
    """Saw and lights on one circuit, a heater along: plugged in elsewhere, a circuit of its own, the lights,
    not along.
    """
    lamps = tuple(
        replace(make_luminaire("batten", f"l{k}", 1.0 + k, 2.0, 2.3), watts=500.0) for k in range(3)
    )
    heater = Appliance(id="heater", watts=600.0, volts=120, circuit="one", is_long=True)
    here = test_power.shop(along=("vac", "heater"), lights="one", luminaires=lamps, appliances=(heater,))
    saw, vac = here.things
    big = Circuit(id="big", volts=240, rating=20.0, conductor="awg-12", residual=True)  # of no use to them
    here = replace(here, power=replace(here.power, circuits=(*here.power.circuits, big)))
    here = replace(here, things=(replace(saw, outlet="a"), replace(vac, outlet="b")))
    told, finding = reviewed(here, "circuit")
    tries = list(stage_of("power").remedies["circuit"](finding, told.answers, Figures("metric")))
    assert [label for label, *_ in tries] == [
        "Plug Table saw into the outlet in wall B (Two)",
        "A circuit of 120 V and 30 A for Table saw, with an outlet beside it",
        "Put the lights on Two",
        "Do not run heater along",
    ]
    plugged, own, lit, alone = (edit(here) for _, edit, *_ in tries)
    assert plugged.things[0].outlet == "b" and plugged.things[1] == here.things[1]
    (circuit,) = own.power.circuits[3:]
    assert (circuit.volts, circuit.rating, circuit.conductor) == (120, 30.0, "awg-10")
    outlet = own.power.outlets[2]
    assert own.things[0].outlet == outlet.id and outlet.circuit == circuit.id and outlet.wall == "A"
    assert lit.power == replace(here.power, lights="two")
    assert alone.power == replace(here.power, along=("vac",))


def test_a_reading_that_would_close_the_walk_is_proposed() -> None:
    """5 m taped as 5.3: that wall is 5, or the one across from it is 5.3."""
    room = box_room(6, 5)
    walls = (room.walls[0], replace(room.walls[1], length=5.3), *room.walls[2:])
    assert proposed(Shop(units="metric", room=replace(room, walls=walls)), "closing-gap") == [
        ("If wall B is 5000 mm: measure it again", {"B": {"length": 5.0}}),
        ("If wall D is 5300 mm: measure it again", {"D": {"length": 5.3}}),
    ]


def test_a_heavy_sheet_is_halved_before_it_comes_in() -> None:
    sheet = replace(test_flow.shop().jobs[0], stock=Stock(length=2.44, width=1.22, thickness=0.019))
    half = replace(sheet.stock, length=1.22)
    assert proposed(test_flow.shop(job=sheet), "lift-alone") == [
        ("Cut it to 1220 mm before it comes in", {"job": {"stock": half}})
    ]


def test_stations_of_a_long_leg_are_swapped_where_that_is_clear() -> None:
    """Three of one size in a wide room: the far one is gone to six times."""
    things = tuple(
        replace(make_thing(kind, name, x, y), width=0.6, depth=0.6)
        for kind, name, x, y in (
            ("table-saw", "saw", 2.0, 2.0),
            ("drill-press", "drill", 4.0, 2.0),
            ("workbench", "bench", 13.0, 8.0),
        )
    )
    steps = (JobStep(operation="bore"), JobStep(operation="joint", walks=6), JobStep(operation="rip"))
    job = Job(id="job", name="Job", stock=test_flow.BOARD, steps=steps)
    here = replace(
        test_flow.shop(*things, job=job),
        room=box_room(15.0, 10.0, openings=(test_flow.DOOR,)),
        units="metric",
    )
    found = proposed(here, "leg-long")
    saw, drill, bench = ({"x": one.x, "y": one.y} for one in things)
    assert found == [
        ("Swap Workbench and Table saw", {"bench": saw, "saw": bench}),
        ("Swap Workbench and Drill press", {"bench": drill, "drill": bench}),
    ]
