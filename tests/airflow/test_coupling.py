"""What ducts hold on to when things stand elsewhere: a hose follows as far as it is long, a pipe stays."""

from dataclasses import replace

import pytest

from purvel.airflow.coupling import coupled
from purvel.catalogue import make_thing
from purvel.shop import Ducts, Gate, GateSet, Join, PortRef, Pose, Run, Scene, Shop, Thing, Vertex
from purvel.shop.edits import change
from purvel.shop.scenes import carried_back, in_scene

COLLECTOR = make_thing("collector", "collector", 0.0, 0.0)
PLANER = replace(make_thing("planer", "planer", 6.0, 2.0), wheels=True)
MAIN = Run(
    id="main", source="collector", points=(Vertex(x=1, y=0, z=2.0), Vertex(x=4, y=0, z=2.0)), diameter=0.15
)
HOOD = PortRef(thing="planer", port=PLANER.ports[0].id)
HOSE = Run(
    id="hose", material="smooth-hose", joins=Join(run="main"), port=HOOD, slack=0.2,
    gates=(Gate(id="gate", at=0.1),),
)  # fmt: skip
SHOP = Shop(
    things=(COLLECTOR, PLANER),
    ducts=Ducts(runs=(MAIN, HOSE), gate_sets=(GateSet(id="alone", name="Planer alone", open=("gate",)),)),
)


def port_spot(thing: Thing) -> tuple[float, float, float]:
    port = thing.ports[0]
    x, y = thing.spot(port.x, port.y)
    return x, y, thing.z + port.z


def hung() -> float:
    """How far it is from the main's end to the planer's port, by hand [m]."""
    x, y, z = port_spot(PLANER)
    return float(((x - 4) ** 2 + y**2 + (z - 2) ** 2) ** 0.5)


def moved_out(by: float) -> Shop:
    """The planer moved straight away from the main's end."""
    x, y, _ = port_spot(PLANER)
    reach = ((x - 4) ** 2 + y**2) ** 0.5
    return change(SHOP, "planer", x=PLANER.x + (x - 4) / reach * by, y=PLANER.y + y / reach * by)


def test_nothing_moved_nothing_changed() -> None:
    held = coupled(SHOP, SHOP)
    assert held.shop is SHOP and (held.let_go, held.sources_away, held.gate_sets_out) == ((), (), ())


def test_a_hose_follows_within_its_stretched_length_and_no_farther() -> None:
    x, y, z = port_spot(PLANER)
    flat = ((x - 4) ** 2 + y**2) ** 0.5
    stretched = hung() / 0.8  # a fifth of it is slack
    most = (stretched**2 - (z - 2) ** 2) ** 0.5 - flat  # how far out the port can go at its height
    near, far = moved_out(most - 0.005), moved_out(most + 0.005)
    assert coupled(SHOP, near).let_go == () and coupled(SHOP, near).shop == near
    assert coupled(SHOP, far).let_go == ("hose",)


def test_a_pipe_lets_go_of_what_moves_away() -> None:
    shop = change(SHOP, "hose", material="snap-lock")
    after = change(shop, "planer", x=6.01)
    assert coupled(shop, after).let_go == ("hose",)
    assert coupled(shop, change(shop, "planer", x=6.0005)).let_go == ()  # half a millimetre is no move


def test_what_lets_go_ends_where_it_was_drawn_and_its_choices_drop_out() -> None:
    held = coupled(SHOP, moved_out(3.0))
    hose = held.shop.ducts.runs[1]
    end = hose.points[-1]
    assert hose.port is None and (end.x, end.y, end.z) == pytest.approx(port_spot(PLANER))
    assert held.gate_sets_out == ("alone",) and held.shop.ducts.gate_sets == ()
    assert held.shop.things == moved_out(3.0).things


@pytest.mark.parametrize("way", ["bend", "widen", "drag the end", "take the end away", "nothing of it"])
def test_what_is_changed_of_a_run_that_let_go_leaves_its_end_on_its_machine(way: str) -> None:
    night = Scene(id="night", poses=(Pose(thing="planer", x=9.0, y=5.0),))
    corner = Vertex(x=5, y=1, z=2.0)
    hose = replace(HOSE, points=(corner,))
    shop = replace(SHOP, scenes=(night,), ducts=replace(SHOP.ducts, runs=(MAIN, hose)))
    before = coupled(shop, in_scene(shop, "night")).shop
    loose = before.ducts.runs[1]
    assert loose.port is None and len(loose.points) == 2
    moved = replace(corner, y=1.5)
    after = {
        "bend": change(before, "hose", points=(moved, loose.points[1])),
        "widen": change(before, "hose", diameter=0.125),
        "drag the end": change(before, "hose", points=(corner, replace(loose.points[1], x=7.0))),
        "take the end away": change(before, "hose", points=(corner,)),
        "nothing of it": change(before, "main", name="Trunk"),
    }[way]
    now = carried_back(shop, "night", before, after).ducts.runs[1]
    wanted = {"bend": replace(hose, points=(moved,)), "widen": replace(hose, diameter=0.125)}
    assert now == wanted.get(way, hose)


@pytest.mark.parametrize("is_led_on", [True, False])
def test_a_run_that_is_led_elsewhere_in_a_scene_keeps_all_its_points(is_led_on: bool) -> None:
    """One that let go is led to another port; one that holds is taken off its own."""
    other = make_thing("jointer", "jointer", 7.0, 1.0)
    pose = Pose(thing="planer", x=9.0, y=5.0) if is_led_on else Pose(thing="planer", x=PLANER.x, y=PLANER.y)
    hose = replace(HOSE, points=(Vertex(x=5, y=1, z=2.0),))
    shop = replace(
        SHOP,
        things=(*SHOP.things, other),
        scenes=(Scene(id="night", poses=(pose,)),),
        ducts=replace(SHOP.ducts, runs=(MAIN, hose)),
    )
    before = coupled(shop, in_scene(shop, "night")).shop
    assert (before.ducts.runs[1].port is None) == is_led_on
    port = PortRef(thing="jointer", port=other.ports[0].id) if is_led_on else None
    points = (*hose.points, Vertex(x=6.5, y=1, z=2.0))
    now = carried_back(shop, "night", before, change(before, "hose", port=port, points=points)).ducts.runs[1]
    assert now == replace(hose, port=port, points=points)


def test_a_choice_that_still_opens_a_hood_stays() -> None:
    sander = make_thing("jointer", "jointer", 2.0, 2.0)
    drop = Run(
        id="drop", joins=Join(run="main", at=2.0), port=PortRef(thing="jointer", port=sander.ports[0].id),
        gates=(Gate(id="drop-gate", at=0.1),),
    )  # fmt: skip
    both = GateSet(id="both", open=("gate", "drop-gate"))
    ducts = Ducts(runs=(MAIN, HOSE, drop), gate_sets=(*SHOP.ducts.gate_sets, both))
    shop = replace(SHOP, things=(*SHOP.things, sander), ducts=ducts)
    held = coupled(shop, replace(moved_out(3.0), things=(*moved_out(3.0).things, sander), ducts=ducts))
    assert held.gate_sets_out == ("alone",)
    assert [one.id for one in held.shop.ducts.gate_sets] == ["both"]


def test_a_machine_that_is_put_away_leaves_its_run_hanging() -> None:
    held = coupled(SHOP, replace(SHOP, things=(COLLECTOR,)))
    assert held.let_go == ("hose",) and held.shop.ducts.runs[1].port is None


def test_a_source_that_is_away_takes_its_ducts_along() -> None:
    held = coupled(SHOP, replace(SHOP, things=(PLANER,)))
    assert held.sources_away == ("collector",)
    assert held.shop.ducts.runs == () and held.shop.ducts.gate_sets == ()  # the hose hung on its main
    assert coupled(SHOP, change(SHOP, "collector", x=0.5)).sources_away == ("collector",)


def test_a_vac_hose_follows_its_machine_though_the_machine_is_no_source() -> None:
    vac = make_thing("vac", "vac", 0.0, 0.0)
    hose = Run(id="vac-hose", material="vac-hose", source="vac", port=HOOD, slack=0.1, diameter=0.05)
    shop = Shop(things=(vac, PLANER), ducts=Ducts(runs=(hose,)))
    near = change(shop, "planer", x=5.5)
    assert coupled(shop, near).shop == near
    far = coupled(shop, change(shop, "planer", x=9.0))
    assert (far.let_go, far.sources_away) == (("vac-hose",), ())
    assert (far.shop.ducts.runs[0].source, far.shop.ducts.runs[0].port) == ("vac", None)
