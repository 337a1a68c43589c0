"""Power's rules, its cures, its report."""

from dataclasses import replace
from functools import partial
from typing import Any

import numpy as np
import pytest

from purvel.catalogue import make_thing
from purvel.catalogue.power import make_luminaire, utilisation
from purvel.libraries import shapely
from purvel.power.light import how_many, illuminance
from purvel.review import Answers, Grade, Memory, remedies_for
from purvel.review.figures import Figures
from purvel.review.power.answers import PowerAnswers
from purvel.review.power.report import report
from purvel.review.reviewing import findings_of
from purvel.review.stages import stage_of
from purvel.shop import Fixture, Gate, GateSet, Opening, PortRef, Room, Run, Shop, Vertex, Wall
from purvel.shop.edits import change, put, remove
from purvel.shop.faults import faults
from purvel.shop.power import Appliance, Circuit, Outlet, Plate, Power
from purvel.space.shell import shell
from tests.conftest import box_room
from tests.review.asking import asked, found_in
from tests.review.test_turned import turned

PANEL = Fixture(
    id="panel", kind="panel", x=0.06, y=2.5, angle=-90, width=0.4, depth=0.12, bottom=1.2, top=1.9
)
DOOR = Opening(id="door", kind="swing", wall="C", offset=5.0, width=0.8, head=2.0, entry=True)
ONE = Circuit(id="one", name="One", volts=120, rating=20.0, conductor="awg-12", residual=True)
TWO = Circuit(id="two", name="Two", volts=120, rating=20.0, conductor="awg-12", residual=True)


def shop(*things: Any, **changes: Any) -> Shop:
    """A 6 x 5 m room with a panel in wall D, two circuits with an outlet each, a saw and a vac."""
    standing = things or (
        make_thing("table-saw", "saw", 1.5, 0.45, 180.0),
        make_thing("vac", "vac", 3.5, 0.35),
    )
    power = Power(
        circuits=(ONE, TWO),
        outlets=(
            Outlet(id="a", wall="A", offset=1.5, circuit="one"),
            Outlet(id="b", wall="B", offset=2.5, circuit="two"),
        ),
    )
    room = box_room(openings=(DOOR,), fixtures=(PANEL,))
    return replace(Shop(units="metric", room=room, things=standing, power=replace(power, **changes)))


found = partial(found_in, "power")


def power(shop: Shop) -> PowerAnswers:
    return Answers(shop, Memory()).of(PowerAnswers)


def test_a_saw_and_a_vac_along_on_one_circuit_trip_it() -> None:
    """1.5 hp at 120 V is 20 A, the vac 1200 W is 10 A: 30 A on 20 A."""
    here = shop(along=("vac",))
    here = replace(here, things=(here.things[0], replace(here.things[1], outlet="a")))
    (said,) = [one for one in found(here, "circuit") if one.grade == Grade.STOP]
    assert said.about == ("one",) and said.figures["amps"] == pytest.approx(30.0)
    labels = [cure.label for cure in remedies_for(said, asked(here))]
    assert any("Plug vac" in label or "Plug Wet/dry vac" in label for label in labels), labels
    for cure in remedies_for(said, asked(here)):
        after = cure.edit(here)
        assert faults(after) == []
        assert not [
            one for one in found(after, "circuit") if one.about == ("one",) and one.grade == Grade.STOP
        ]


def test_a_heater_for_hours_is_too_much_though_nothing_trips() -> None:
    """14 A saw plate and a heater of 600 W (5 A, counted 6.25): 19 A drawn, 20.25 counted."""
    saw = replace(make_thing("table-saw", "saw", 1.5, 0.45, 180.0), plate=Plate(volts=120, amps=14.0))
    heater = Appliance(id="heater", name="Heater", watts=600.0, circuit="one")
    here = shop(saw, appliances=(heater,), along=("heater",))
    (said,) = [one for one in found(here, "circuit") if one.about == ("one",)]
    assert said.grade == Grade.MEND and said.figures["amps"] == pytest.approx(19.0)
    assert said.figures["counted"] == pytest.approx(20.25)
    short = shop(saw, appliances=(replace(heater, is_long=False),), along=("heater",))
    assert not [one for one in found(short, "circuit") if one.about == ("one",)]


def test_a_choice_of_gates_runs_its_machines_and_their_source() -> None:
    things = (make_thing("table-saw", "saw", 3.0, 2.5), make_thing("collector", "fan", 5.0, 0.5))
    run = Run(
        id="r", source="fan", points=(Vertex(x=3.0, y=0.5, z=2.0),), gates=(Gate(id="g", at=0.3),),
        port=PortRef(thing="saw", port="cabinet"),
    )  # fmt: skip
    here = shop(*things)
    ducts = replace(here.ducts, runs=(run,), gate_sets=(GateSet(id="set", name="Saw", open=("g",)),))
    (one,) = [one for one in power(replace(here, ducts=ducts)).together if one.is_gate_set]
    assert set(one.things) == {"saw", "fan"}


def test_lights_count_as_long() -> None:
    lights = tuple(make_luminaire("batten", f"l{k}", 1.0 + k, 2.5, 2.4) for k in range(4))
    loads = power(shop(luminaires=lights, lights="two")).loads["saw"]
    two = next(load for load in loads if load.circuit == "two")
    assert two.amps == pytest.approx(4 * 36 / 120) and two.counted == pytest.approx(1.25 * two.amps)


def test_what_has_no_outlet_of_its_voltage_gets_one() -> None:
    here = shop(make_thing("collector", "fan", 5.0, 0.5))
    (said,) = found(here, "no-outlet")
    assert said.figures == {"amps": 12.0, "volts": 240.0}
    (cure,) = remedies_for(said, asked(here))
    after = cure.edit(here)
    assert found(after, "no-outlet") == [] and faults(after) == []
    circuit = after.power.circuits[-1]
    assert circuit.volts == 240 and circuit.rating >= 12.0 / 0.8


def test_what_no_cord_reaches_gets_an_outlet_of_its_voltage_beside_it() -> None:
    fan = make_thing("collector", "fan", 5.0, 0.5)
    wired = shop(fan, circuits=(ONE, TWO, Circuit(id="big", volts=240.0, rating=20.0, conductor="awg-12")))
    (said,) = found(wired, "no-outlet")
    first, own = remedies_for(said, asked(wired))
    after = first.edit(wired)
    (outlet,) = (one for one in after.power.outlets if one not in wired.power.outlets)
    assert (outlet.circuit, outlet.wall, outlet.offset, outlet.height) == ("big", "A", 4.5, 1.15)
    assert found(after, "no-outlet") == [] and len(own.edit(wired).power.circuits) == 4


def test_plugged_in_by_choice_at_the_wrong_voltage_is_a_stop() -> None:
    fan = replace(make_thing("collector", "fan", 5.0, 0.5), outlet="a")
    (said,) = found(shop(fan), "wrong-outlet")
    assert said.grade == Grade.STOP and said.about == ("fan",)
    big = Circuit(id="big", volts=240.0, rating=20.0, conductor="awg-12")
    right = Outlet(id="right", wall="A", offset=4.0, circuit="big")
    near = Outlet(id="a", wall="A", offset=1.5, circuit="one")
    wired = shop(fan, circuits=(ONE, TWO, big), outlets=(near, right))
    (nearest,) = remedies_for(found(wired, "wrong-outlet")[0], asked(wired))
    assert found(nearest.edit(wired), "wrong-outlet") == []


def test_a_cord_across_the_floor_is_mended_from_above() -> None:
    here = shop(make_thing("table-saw", "saw", 3.0, 2.5))
    (said,) = found(here, "cord-in-the-way")
    assert said.grade == Grade.MEND and said.figures["across"] > 1.0
    cures = remedies_for(said, asked(here))
    assert any("over it" in cure.label for cure in cures)
    hung = next(cure for cure in cures if "over it" in cure.label).edit(here)
    assert found(hung, "cord-in-the-way") == [] and hung.power.outlets[-1].wall is None


def test_voltage_over_a_long_thin_wire_falls_and_heavier_wire_helps() -> None:
    """20 A through 40 m of 12 AWG: 2 x 40 x 20 x 0.0065 = 10.4 V of 120, and the cord."""
    here = replace(shop(make_thing("table-saw", "saw", 1.5, 0.45, 180.0)))
    here = change(here, "one", run=40.0, rating=20.0)
    (said,) = found(here, "voltage-drop")
    assert said.about == ("one",) and said.grade == Grade.MEND
    assert said.figures["branch"] == pytest.approx(10.4 / 120, rel=1e-3)
    cures = remedies_for(said, asked(here))
    assert cures and all("Wire" in cure.label for cure in cures)
    both = replace(here, things=(make_thing("bandsaw", "band", 1.5, 3.0), *here.things))
    drops = power(both).drops
    (said,) = found(both, "voltage-drop")
    assert drops["saw"].total > drops["band"].total > 0.05
    assert said.where.items[0] == "saw" and said.figures["total"] == drops["saw"].total
    assert "too far at Bandsaw" in said.sentence


def test_a_breaker_too_large_for_its_wire() -> None:
    here = change(shop(), "one", conductor="awg-14")
    (said,) = found(here, "wire-thin")
    assert said.grade == Grade.STOP and said.figures == {"rating": 20.0, "breaker": 15}
    for cure in remedies_for(said, asked(here)):
        assert found(cure.edit(here), "wire-thin") == []


def test_no_residual_current_device_is_worth_knowing() -> None:
    here = change(shop(), "one", residual=False)
    (said,) = found(here, "residual")
    assert said.grade == Grade.WATCH and said.where.items == ("one",)
    assert found(shop(), "residual") == []


def test_plates_that_were_not_read_are_said_once() -> None:
    (said,) = found(shop(), "plate-guessed")
    assert said.figures["machines"] == 2.0
    typed = tuple(replace(thing, plate=Plate(volts=120, amps=5.0)) for thing in shop().things)
    assert found(shop(*typed), "plate-guessed") == []


def test_dark_stations_are_one_finding_and_lights_cure_it() -> None:
    here = shop(luminaires=(make_luminaire("bulb", "l", 3.0, 2.5, 2.4),))
    (said,) = found(here, "light")
    assert said.grade == Grade.MEND and said.where.items == ("saw",)
    cures = remedies_for(said, asked(here))
    rows = next(cure for cure in cures if "rows" in cure.label).edit(here)
    assert [one.grade for one in found(rows, "light")] == [Grade.GOOD]
    assert found(shop(), "light") == []  # no lights entered: nothing is known


def test_light_is_brightest_below_a_luminaire_and_nowhere_outside() -> None:
    map_ = power(shop(luminaires=(make_luminaire("task", "l", 1.0, 1.0, 1.5),))).light_map
    assert map_ is not None
    i, j = np.unravel_index(np.nanargmax(map_.lux), map_.lux.shape)
    assert abs(map_.x[i] - 1.0) < 0.2 and abs(map_.y[j] - 1.0) < 0.2
    for cells, size in (
        (map_.x, 6.0),
        (map_.y, 5.0),
    ):  # middles of cells that fill the floor from wall to wall
        step = cells[1] - cells[0]
        assert cells[0] == pytest.approx(step / 2) and size - cells[-1] == pytest.approx(step / 2)


def test_taking_a_circuit_a_wall_or_an_outlet_away_leaves_the_document_whole() -> None:
    here = shop(along=("vac",))
    here = replace(here, things=(replace(here.things[0], outlet="a"), here.things[1]))
    for gone in ("one", "A", "a", "vac"):
        after = remove(here, gone)
        assert faults(after) == [], gone
    assert remove(here, "a").things[0].outlet is None
    assert remove(here, "one").power.outlets[0].circuit is None
    assert [one.id for one in remove(here, "A").power.outlets] == ["b"]


def test_without_a_panel_or_a_room_nothing_is_made_up() -> None:
    here = shop()
    without = replace(here, room=replace(here.room, fixtures=()))
    assert power(without).drops == {}
    empty = replace(here, room=replace(here.room, walls=(), openings=()))
    assert power(empty).room_light is None and power(empty).tasks == []
    assert findings_of(stage_of("power"), asked(replace(empty, power=Power()))) == []


def test_the_report_lets_an_outsider_add_it_up() -> None:
    made = report(Answers(shop(), Memory()))
    machines = {one["thing"]: one for one in made["power"]["machines"]}
    for together in made["power"]["together"]:
        for circuit in together["circuits"]:
            assert circuit["amps"] == pytest.approx(sum(one["amps"] for one in circuit["of"]))
            counted = sum(one["amps"] * (1.25 if one["long"] else 1.0) for one in circuit["of"])
            assert circuit["counted"] == pytest.approx(counted)
    saw, circuits = machines["saw"], {one["id"]: one for one in made["power"]["circuits"]}
    drop = saw["voltage_drop"]
    wire = 2 * circuits["one"]["run"] * circuits["one"]["ohm_per_km"] / 1000
    assert drop["circuit"] == pytest.approx(wire * 20.0, rel=1e-6)
    assert drop["cord"] == pytest.approx(2 * saw["cord"]["length"] * saw["cord"]["ohm_per_km"] / 1000 * 20.0)


def test_a_thing_more_with_the_same_power_is_the_same_for_the_same_things() -> None:
    here = shop()
    assert power(put(here, make_thing("cabinet", "c", 5.0, 4.6))).draws == power(here).draws


@pytest.mark.parametrize(("amps", "is_heavy"), [(15.9, False), (16.1, True), (23.0, True)])
def test_one_plug_takes_no_more_than_four_fifths_of_a_circuit(amps: float, is_heavy: bool) -> None:
    """0.8 x 20 A = 16 A."""
    saw = replace(make_thing("table-saw", "saw", 1.5, 0.45, 180.0), plate=Plate(volts=120, amps=amps))
    said = found(shop(saw), "plug-heavy")
    assert [one.about for one in said] == ([("saw",)] if is_heavy else [])
    assert all(one.grade == Grade.WATCH and "80%" in one.sentence for one in said)


def test_light_is_told_where_the_cutter_is_or_in_the_middle_of_a_bench() -> None:
    """A turned saw with its blade off its middle, a bench, and a rack that is not worked at: at the height of
    their tables, else 0.85 m.
    """
    saw = make_thing("table-saw", "saw", 2.0, 2.0, 90.0)
    assert saw.feed is not None and saw.work_height is not None
    saw = replace(saw, feed=replace(saw.feed, x=0.3, y=0.1))  # 0.3 m along x is along y once turned
    bench = replace(make_thing("workbench", "bench", 4.0, 3.0), work_height=None)
    lamp = make_luminaire("batten", "lamp", 3.0, 2.2, 2.3)
    here = shop(saw, bench, luminaires=(lamp,))
    answers = power(here)
    assert answers.room_light is not None
    points = np.array([(2.0 - 0.1, 2.3, saw.work_height), (4.0, 3.0, 0.85)])
    wanted = illuminance((lamp,), points, answers.room_light)
    told = {one.thing: one.lux for one in answers.tasks}
    assert told == pytest.approx({"saw": wanted[0], "bench": wanted[1]}) and wanted[0] > 1.05 * wanted[1]


def test_rows_of_lights_lie_along_the_longest_wall_and_are_no_fewer_in_an_l() -> None:
    """An L of 8 by 6 m without 4 by 3 m in its corner, and the same turned by 30 degrees."""
    walls = [(8.0, 90.0), (3.0, 90.0), (4.0, -90.0), (3.0, 90.0), (4.0, 90.0), (6.0, 90.0)]
    ell = Room(walls=tuple(Wall(id=f"w{k}", length=far, turn=turn) for k, (far, turn) in enumerate(walls)))
    bench = make_thing("workbench", "bench", 2.0, 2.0)
    counts = []
    for turn in (0.0, 30.0):
        bulb = make_luminaire("bulb", "bulb", 1.0, 5.0, 2.3)
        plain = Shop(units="metric", room=ell, things=(bench,), power=Power(luminaires=(bulb,)))
        here = turned(plain, turn, 0.0, 0.0)
        answers = Answers(here, Memory()).of(PowerAnswers)
        (said,) = found(here, "light")
        tries = stage_of("power").remedies["light"](said, Answers(here, Memory()), Figures("metric"))
        hung = next(edit(here) for label, edit, *_ in tries if "in rows" in label)
        lights = hung.power.luminaires[1:]
        counts.append(len(lights))
        room, height = answers.room_light, here.room.ceiling.height - 0.05 - 0.85
        assert room is not None and {light.angle for light in lights} == {turn}
        factors = utilisation()
        wanted = how_many(
            lights[0].lumens, said.figures["wanted"], room, height, (factors.index, factors.factor)
        )
        assert len(lights) >= wanted
        floor = shell(here.room).floor
        assert all(floor.contains(shapely.Point(light.x, light.y)) for light in lights)
    assert counts[0] == counts[1]
