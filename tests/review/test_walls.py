"""Rules of walls, their cures, their report."""

from dataclasses import replace
from functools import partial
from typing import Any

import pytest

from purvel.catalogue import make_thing
from purvel.catalogue.tools import boards, make_tool
from purvel.review import Answers, Grade, Memory, remedies_for, review
from purvel.review.walls.answers import WallsAnswers
from purvel.review.walls.report import report
from purvel.shop import Ducts, Fixture, Opening, Run, Shop, Vertex
from purvel.shop.edits import remove
from purvel.shop.faults import faults
from purvel.shop.power import Circuit, Outlet, Power
from purvel.shop.storage import Storage, Tool, WallUnit
from tests.conftest import box_room
from tests.review.asking import asked, found_in

CLEAT = WallUnit(id="cleat", kind="cleat", name="Cleat", wall="A", offset=1.0, width=2.0, z=1.6, height=0.1)
SHELF = WallUnit(id="shelf", kind="shelf", name="Shelf", wall="A", offset=3.5, width=1.2, z=1.2, depth=0.3)


def shop(
    *tools: Tool, units: tuple[WallUnit, ...] = (CLEAT, SHELF), studs: float = 0.4, **changes: Any
) -> Shop:
    room = box_room()
    walls = tuple(replace(wall, stud_spacing=studs, first_stud=studs) for wall in room.walls)
    return Shop(
        units="metric", room=replace(room, walls=walls), storage=Storage(units=units, tools=tools), **changes
    )


found = partial(found_in, "walls")


def at(kind: str, home: str, along: float = 0.1, **changes: Any) -> Tool:
    return replace(make_tool(kind, kind), home=home, along=along, **changes)


def test_a_cleat_over_an_outlet_and_a_window_is_moved() -> None:
    outlet = Outlet(id="o", wall="A", offset=1.5, height=1.6, circuit="c")
    here = shop(power=Power(circuits=(Circuit(id="c"),), outlets=(outlet,)))
    (said,) = found(here, "covers")
    assert said.about == ("o",) and said.where.items == ("cleat", "o")
    cure = remedies_for(said, asked(here))[0]
    assert found(cure.edit(here), "covers") == []
    window = Opening(id="w", kind="window", wall="A", offset=1.2, width=0.5, head=2.0, sill=1.2)
    here = shop()
    here = replace(here, room=replace(here.room, openings=(window,)))
    assert [one.about for one in found(here, "covers")] == [("w",)]


def test_what_hangs_weighs_what_its_boards_do() -> None:
    """A cabinet of six boards of 18 mm, 0.8 by 0.3 by 0.6 m: 2 (0.24 + 0.18 + 0.48) m2; a rack is open, three
    tenths of that; a shelf and a cleat are one board.
    """
    cabinet = WallUnit(
        id="c", kind="cabinet", wall="A", offset=1.0, width=0.8, depth=0.3, height=0.6, thickness=0.018
    )
    units = (cabinet, replace(cabinet, id="r", kind="rack", load=5.0), SHELF, CLEAT)
    loads = Answers(shop(at("mallet", "cleat"), units=units), Memory()).of(WallsAnswers).loads
    density = boards()[cabinet.material].density
    assert loads["c"].mass == pytest.approx(1.8 * 0.018 * density)
    assert loads["r"].mass == pytest.approx(5.0 + 0.3 * 1.8 * 0.018 * density)
    assert loads["shelf"].mass == pytest.approx(1.2 * 0.3 * SHELF.thickness * density)
    assert loads["cleat"].mass == pytest.approx(0.9 + 2.0 * 0.1 * CLEAT.thickness * density)


def test_nothing_hangs_in_the_working_space_of_a_panel() -> None:
    panel = Fixture(id="panel", kind="panel", x=1.5, y=0.06, width=0.4, depth=0.12, bottom=1.2, top=1.9)
    here = shop()
    here = replace(here, room=replace(here.room, fixtures=(panel,)))
    assert [one.about for one in found(here, "covers")] == [("panel",)]


def test_things_that_take_the_same_place() -> None:
    here = shop(at("mallet", "cleat", 0.1), at("chisels", "cleat", 0.15))
    (said,) = found(here, "wall-clash")
    assert set(said.about) == {"mallet", "chisels"}
    other = replace(CLEAT, id="other", offset=2.5)
    assert len(found(shop(units=(CLEAT, other)), "wall-clash")) == 1


def test_beyond_the_wall_is_a_stop() -> None:
    (said,) = found(shop(units=(replace(CLEAT, offset=4.5),)), "beyond-wall")
    assert said.grade == Grade.STOP


def test_daily_things_over_the_head_are_hung_elsewhere() -> None:
    high = replace(CLEAT, id="high", offset=4.0, width=1.5, z=2.3)
    here = shop(at("try-square", "high"), at("mallet", "high", 0.5), units=(CLEAT, high))
    (said,) = found(here, "reach")
    assert said.grade == Grade.MEND and said.figures["tools"] == 2.0
    cure = remedies_for(said, asked(here))[0]
    assert found(cure.edit(here), "reach") == []


def test_a_bench_before_the_wall_shortens_the_reach() -> None:
    """Grip of 1.73 m: 2.04 m; 0.36 m less over a bench 0.7 m deep. A weekly thing at 1.8 m is then out
    of reach.
    """
    tool = at("tenon-saw", "cleat", 0.8)
    unit = replace(CLEAT, z=2.05)
    assert found(shop(tool, units=(unit,)), "reach") == []
    bench = make_thing("workbench", "bench", 2.0, 0.36, 180.0)
    (said,) = found(shop(tool, units=(unit,), things=(bench,)), "reach")
    assert "bench" in said.why


def test_heavy_things_high_up() -> None:
    here = shop(at("hand-router", "shelf", 0.1), units=(CLEAT, replace(SHELF, z=1.7)))
    (said,) = found(here, "heavy")
    assert said.grade == Grade.MEND and said.where.items == ("hand-router",)
    assert found(shop(at("hand-router", "shelf", 0.1), units=(replace(SHELF, z=0.8),)), "heavy") == []


def test_without_a_stud_under_it_a_shelf_is_a_stop() -> None:
    small = replace(SHELF, offset=4.05, width=0.3, load=5.0)  # between studs at 4.0 and 4.4
    (said,) = [one for one in found(shop(units=(small,)), "screws") if one.grade == Grade.STOP]
    assert "no screw" in said.sentence


def test_screws_that_bear_too_much_get_more() -> None:
    loaded = replace(
        SHELF, width=0.9, offset=3.9, load=160.0, per_stud=1, material="birch-ply", thickness=0.03
    )
    here = shop(units=(loaded,))
    (said,) = [one for one in found(here, "screws") if one.grade == Grade.STOP]
    assert said.figures["used"] > 1.0
    cures = remedies_for(said, asked(here))
    assert cures and all("screw" in cure.label.lower() for cure in cures)


def test_unknown_studs_are_said_not_guessed() -> None:
    here = shop(studs=0.0)
    (said,) = found(here, "studs-unknown")
    assert said.where.items == ("A",) and found(here, "screws") == []
    cure = remedies_for(said, asked(here))[0]
    assert found(cure.edit(here), "studs-unknown") == []


def test_a_long_shelf_sags_and_a_support_more_helps() -> None:
    long = replace(SHELF, offset=1.0, width=2.4, material="particleboard", load=30.0)
    here = shop(units=(long,))
    (said,) = found(here, "sag")
    assert said.grade == Grade.MEND and said.figures["ratio"] < 360
    cures = remedies_for(said, asked(here))
    assert cures and "supports" in cures[0].label


def test_hang_these_finds_homes() -> None:
    tools = tuple(make_tool(kind, kind) for kind in ("mallet", "try-square", "chisels", "glue", "guide-rail"))
    here = shop(*tools)
    (said,) = found(here, "homeless")
    assert said.figures["tools"] == 5.0
    cure = remedies_for(said, asked(here))[0]
    after = cure.edit(here)
    assert faults(after) == [] and found(after, "wall-clash") == [] and found(after, "covers") == []
    left = found(after, "homeless")[0].figures["tools"]
    assert left < 5.0 and cure.label.startswith("Hang these")


def test_taking_a_unit_or_its_wall_away_leaves_tools_without_a_home() -> None:
    here = shop(at("mallet", "cleat"))
    for gone in ("cleat", "A"):
        after = remove(here, gone)
        assert after.storage.tools[0].home is None and faults(after) == []
    assert remove(here, "A").storage.units == ()


def test_the_report_adds_up() -> None:
    here = shop(at("mallet", "cleat"), at("glue", "shelf"), make_tool("chisels", "chisels"))
    made = report(Answers(here, Memory()))
    units = {one["id"]: one for one in made["wall_units"]}
    assert units["cleat"]["carries"] == pytest.approx(0.9 + 2.0 * 0.1 * 0.018 * 680)
    assert units["shelf"]["sag"]["high"] >= units["shelf"]["sag"]["at_once"]
    assert units["cleat"]["studs"] == 5  # at 1.2, 1.6, 2.0, 2.4 and 2.8 of 1.0 to 3.0
    homes = {one["tool"]: one["home"] for one in made["tools"]}
    assert homes == {"mallet": "cleat", "glue": "shelf", "chisels": None}


def test_an_open_room_has_no_walls_to_hang_on() -> None:
    here = shop(at("mallet", "cleat"))
    bare = replace(here, room=replace(here.room, walls=()))
    assert Answers(bare, Memory()).of(WallsAnswers).units == {}
    assert review(bare).findings is not None


def test_a_pipe_along_a_wall_keeps_its_box_free_whichever_way_it_falls() -> None:
    """0.1 m of pipe from (1, 2.2) to (3, 1.8) along wall A, and the other way: 0.95 to 3.05, 1.75 to 2.25."""
    ends = Vertex(x=1.0, y=0.1, z=2.2), Vertex(x=3.0, y=0.1, z=1.8)
    for points in (ends, ends[::-1]):
        run = Run(id="r", diameter=0.1, points=points)
        here = replace(shop(units=()), ducts=Ducts(runs=(run,)))
        (kept,) = Answers(here, Memory()).of(WallsAnswers).kept_free("A")
        assert (kept.box.left, kept.box.right) == pytest.approx((0.95, 3.05))
        assert (kept.box.low, kept.box.high) == pytest.approx((1.75, 2.25))


def test_what_stays_free_on_a_wall_by_hand() -> None:
    """A window, an outlet with 0.12 m round it, and a panel with its working space from the floor up."""
    window = Opening(id="w", kind="window", wall="A", offset=1.0, width=0.5, head=2.0, sill=1.2)
    outlet = Outlet(id="o", wall="A", offset=3.0, height=1.1)
    panel = Fixture(id="p", kind="panel", x=4.5, y=0.06, width=0.4, depth=0.12, bottom=1.2, top=2.1)
    here = shop(units=(), power=Power(outlets=(outlet,)))
    here = replace(here, room=replace(here.room, openings=(window,), fixtures=(panel,)))
    kept = {one.item: one.box for one in Answers(here, Memory()).of(WallsAnswers).kept_free("A")}
    boxes = {name: (box.left, box.right, box.low, box.high) for name, box in kept.items()}
    assert boxes["w"] == pytest.approx((1.0, 1.5, 1.2, 2.0))
    assert boxes["o"] == pytest.approx((2.88, 3.12, 0.98, 1.22))
    assert boxes["p"] == pytest.approx((4.5 - 0.381, 4.5 + 0.381, 0.0, 2.1))
