"""What a switch box is told of a shop, and what it counted."""

from datetime import date

import pytest

from purvel.demo import demo_bytes
from purvel.devices.switch_box import Switch
from purvel.files import loads
from purvel.review import Answers, Memory
from purvel.review.ducts.switching import switches, with_hours
from purvel.shop import Ran, Switched
from purvel.shop.edits import put, remove
from purvel.shop.faults import faults


def test_each_machine_has_the_gates_on_its_way_and_its_source() -> None:
    shop = loads(demo_bytes("garage-mended")).shop
    found = {one.machine: one for one in switches(Answers(shop, Memory()))}
    assert found["planer"] == Switch("planer", "collector", ("planer-gate",), 1.0, 10.0)
    assert set(found) == {"planer", "table-saw", "bandsaw", "jointer"}
    late = put(shop, Switched(thing="planer", delay=3.0, run_on=25.0))
    by_hand = put(late, Switched(thing="jointer", how="by hand"))
    found = {one.machine: one for one in switches(Answers(by_hand, Memory()))}
    assert found["planer"].delay == 3.0 and found["planer"].run_on == 25.0 and "jointer" not in found
    assert faults(by_hand) == []
    assert [one.thing for one in remove(by_hand, "planer").ducts.switched] == ["jointer"]


def test_hours_are_added_to_those_of_the_day() -> None:
    shop = loads(demo_bytes("garage-mended")).shop
    day = date(2026, 11, 28)
    once = with_hours(shop, {"planer": 0.5, "nobody": 3.0, "jointer": 0.0}, day)
    assert once.ducts.ran == (Ran(thing="planer", day="2026-11-28", hours=0.5),)
    twice = with_hours(once, {"planer": 0.25, "collector": 30.0}, day)
    assert {one.thing: one.hours for one in twice.ducts.ran} == {
        "planer": pytest.approx(0.75),
        "collector": 24.0,
    }
    next_day = with_hours(twice, {"planer": 1.0}, date(2026, 11, 29))
    assert len(next_day.ducts.ran) == 3 and faults(next_day) == []
