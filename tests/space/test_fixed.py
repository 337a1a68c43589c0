"""Doors of two leaves, what hangs from the ceiling, floor that stays clear, and joists."""

import math
from dataclasses import replace

import pytest
import shapely

from purvel.catalogue import fixture_kinds, make_fixture, make_opening, opening_kinds
from purvel.review import Finding, Grade, Memory, remedies_for
from purvel.review.reviewing import first_review
from purvel.shop import Ceiling, Feed, Fixture, Joists, Opening, Room, Shop, Stand, Stock, Thing
from purvel.space.clearances import leaves, swing
from purvel.space.ground import ground
from purvel.space.joists import joist_lines
from purvel.space.lanes import lanes
from purvel.space.shell import shell
from tests.conftest import block, box_room


def found(room: Room, rule: str, *things: Thing) -> list[Finding]:
    shop = Shop(units="metric", room=room, things=things)
    return [one for one in first_review(shop, Memory()).findings if one.rule == rule]


BOARD = Stock(length=2.0, width=0.2, thickness=0.02)
STAND = Stand(x=0.0, y=0.75, width=0.9, depth=0.9)
DOUBLE = Opening(id="d", kind="swing", wall="A", offset=2.0, width=1.6, head=2.0, leaves=2)


def test_two_leaves_sweep_a_quarter_circle_each() -> None:
    side = shell(box_room(6, 5)).sides["A"]
    swept = swing(DOUBLE, side)
    assert swept.area == pytest.approx(2 * math.pi / 4 * 0.8**2, rel=0.01)
    assert swept.bounds == pytest.approx((2.0, 0.0, 3.6, 0.8))
    assert not swept.contains(shapely.Point(2.8, 0.3))  # between them, where neither comes
    assert swing(replace(DOUBLE, leaves=1), side).bounds == pytest.approx((2.0, 0.0, 3.6, 1.6))
    assert leaves(replace(DOUBLE, leaves=1, hinge="end")) == [(3.6, 2.0)]


def test_what_stands_in_both_leaves_is_told_once_by_the_deeper() -> None:
    room = box_room(6, 5, openings=(DOUBLE,))
    (said,) = found(room, "door-swing", block("b", 2.7, 0.9, 1.0, 0.5, 1.0))
    assert said.figures["depth"] == pytest.approx(
        math.sqrt(0.8**2 - 0.2**2) - 0.65, abs=0.006
    )  # in the left one
    assert "Each leaf sweeps a quarter circle of 800 mm" in said.why
    assert found(room, "door-swing", block("b", 2.8, 1.2, 1.5, 0.6, 1.0)) == []  # one leaf would reach it


def test_a_beam_limits_heights_and_stops_no_lane_under_it() -> None:
    beam = make_fixture("beam", "beam", 3.0, 3.2, 2.4)
    assert (beam.stands, beam.top) == ("ceiling", 2.4) and beam.bottom == pytest.approx(2.16)
    room = box_room(6, 5, ceiling=Ceiling(height=2.4), fixtures=(beam,))
    low, tall = block("low", 3.0, 3.2, 0.5, 0.5, 2.1), block("tall", 3.0, 3.2, 0.5, 0.5, 2.3)
    assert found(room, "bodies-overlap", low) == []
    (said,) = found(room, "bodies-overlap", tall)
    assert said.figures["rise"] == pytest.approx(0.14) and said.grade == Grade.STOP
    saw = block("saw", 3.0, 1.0, 0.6, 0.5, 0.9)
    saw = replace(saw, work_height=0.9, feed=Feed(x=0.0, y=0.0, direction=90.0))
    plain, hung = (
        lanes((saw,), BOARD, 0.5, ground(shell(one), (saw,)), shell(one))["saw"].out.length
        for one in (box_room(6, 5), room)
    )
    assert plain == hung > 3.0
    lower = replace(beam, bottom=0.8)
    stopped = lanes((saw,), BOARD, 0.5, ground(shell(replace(room, fixtures=(lower,))), (saw,)), shell(room))
    assert stopped["saw"].out.length == pytest.approx(3.2 - 0.06 - 1.0)


def test_a_low_duct_takes_head_height_from_a_way_and_a_dropped_ceiling_from_standing() -> None:
    worker = replace(block("bench", 3.0, 0.5, 1.0, 0.6, 0.9), stand=STAND)
    for bottom, taken in ((2.04, False), (1.9, True)):
        hung = replace(make_fixture("dropped-ceiling", "f", 3.0, 1.5, 2.4), bottom=bottom)
        room = box_room(6, 5, ceiling=Ceiling(height=2.4), fixtures=(hung,))
        assert bool(found(room, "standing-room", worker)) is taken


def test_what_stands_on_floor_that_stays_clear_is_told_and_moved() -> None:
    drain = make_fixture("drain", "drain", 3.0, 2.5)
    assert drain.acts == "kept clear" and not drain.is_body
    shop = Shop(
        units="metric", room=box_room(6, 5, fixtures=(drain,)), things=(block("c", 3.2, 2.5, 0.5, 0.5, 1.0),)
    )
    checked = first_review(shop, Memory())
    (said,) = [one for one in checked.findings if one.rule == "kept-clear"]
    assert said.about == ("c", "drain") and said.grade == Grade.MEND
    assert said.figures["depth"] == pytest.approx(0.2)
    (first, *_) = remedies_for(said, checked.answers)
    after = first_review(first.edit(shop), Memory())
    assert [one for one in after.findings if one.rule == "kept-clear"] == []


def test_roles_go_by_the_kind_unless_they_are_told() -> None:
    sizes = {"x": 1.0, "y": 1.0, "width": 0.4, "depth": 0.4}
    made = {
        kind: Fixture(id="f", kind=kind, **sizes) for kind in ("panel", "parking bay", "post", "own kind")
    }  # type: ignore[arg-type]
    assert {kind: one.acts for kind, one in made.items()} == {
        "panel": "panel", "parking bay": "bay", "post": "body", "own kind": "body",
    }  # fmt: skip
    assert [one.is_body for one in made.values()] == [True, False, True, True]
    assert replace(made["parking bay"], taken=True).is_body
    assert not replace(made["post"], role="kept clear").is_body


@pytest.mark.parametrize("kind", fixture_kinds())
def test_each_kind_of_fixture_can_be_set_into_a_room(kind: str) -> None:
    one = make_fixture(kind, "f", 3.0, 2.5, 2.4)
    assert one.bottom < one.top and one.name and one.kind == kind
    assert (one.top == 2.4) or one.stands != "ceiling"
    room = box_room(6, 5, ceiling=Ceiling(height=2.4), fixtures=(one,))
    shop = Shop(room=room)
    said = {finding.rule for finding in first_review(shop, Memory()).findings if "f" in finding.about}
    assert said <= {"flame", "bay-blocked"} and ("flame" in said) is one.flame


@pytest.mark.parametrize("key", opening_kinds())
def test_each_kind_of_opening_can_be_set_into_a_wall(key: str) -> None:
    one = make_opening(key, "o", "A")
    assert one.kind in ("swing", "sliding", "roll-up", "tilting", "window") and one.sill < one.head
    assert one.leads == {"house": "house", "room": "room"}.get(key, "outdoors")
    assert one.leaves == (2 if key == "double" else 1)


def test_joists_lie_along_their_wall_from_the_first_on() -> None:
    """Along wall B (x = 6), 0.4 m off it and every 0.6 m: at x = 5.6, 5.0 … 0.2."""
    room = box_room(6, 5, ceiling=Ceiling(height=2.4, joists=Joists(wall="B", spacing=0.6, first=0.4)))
    lines = joist_lines(shell(room))
    assert len(lines) == 10
    assert [a[0] for a, _ in lines] == pytest.approx([5.6 - 0.6 * k for k in range(10)])
    assert all(abs(a[1] - b[1]) == pytest.approx(5.0) for a, b in lines)
    assert joist_lines(shell(box_room(6, 5))) == []
    assert joist_lines(shell(replace(room, walls=room.walls[:2]))) == []
