"""Routes that are proposed: each keeps clear of what it must, costs what its pipe does, and is one edit."""

from collections.abc import Iterator
from dataclasses import replace
from itertools import pairwise
from math import atan2, degrees, hypot
from pathlib import Path

import pytest

from purvel.airflow.paths import length_of
from purvel.catalogue import make_thing, materials
from purvel.catalogue.money import duct_prices
from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review import Answers, Figures, Grade, Memory
from purvel.review.ducts import route_places, routes
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.pipe_room import PipeRoom, met
from purvel.review.ducts.route_places import Frame
from purvel.review.ducts.route_words import said
from purvel.review.ducts.routes import Route, Routing, routings
from purvel.review.reviewing import first_review
from purvel.shop import Fixture, Joists, Opening, PortRef, Room, Shop, Wall
from purvel.shop.edits import put
from purvel.shop.power import Luminaire
from tests.conftest import box_room
from tests.review.test_rules import fired, grade, piped, v
from tests.told import differences

__all__ = ["piped"]


@pytest.fixture(autouse=True)
def quick(monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    """Sizes are not what is tested here."""
    real = routes.sizings
    monkeypatch.setattr(routes, "sizings", lambda *args: [next(iter(real(*args)))])
    yield


def found(shop: Shop, source: str = "collector") -> Routing:
    return list(routings(Answers(shop, Memory()), source))[-1]


def shop_of(width: float, depth: float, *machines: tuple[str, float, float], high: float = 2.6) -> Shop:
    """A bare room with a collector in its corner, its inlet to the right, and planers."""
    shop = Shop(room=box_room(width, depth), units="metric")
    shop = replace(shop, room=replace(shop.room, ceiling=replace(shop.room.ceiling, height=high)))
    shop = put(shop, make_thing("collector", "collector", 0.7, 0.5))
    for name, x, y in machines:
        shop = put(shop, replace(make_thing("planer", name, x, y), name=name.capitalize()))
    return shop


def broken(route: Route, source: str) -> list[str]:
    """What pipe of a route comes too near to, hoses aside; bodies of the machines that it serves aside."""
    answers = Answers(route.shop, Memory())
    room, paths = answers.of(PipeRoom), answers.of(DuctAnswers).run_paths
    zones = [zone for zone in (*room.fixed, *room.things) if not zone.soft and zone.about != source]
    pipes = [run for run in route.shop.ducts.runs if materials()[run.material].kind == "duct"]
    return [
        f"{run.name}: {zone.about} {zone.why}"
        for run in pipes
        for zone in met(paths[run.id], run.diameter / 2, zones)
    ]


@pytest.mark.parametrize(
    "demo", ["garage", "garage-mended", "single-garage", "spare-room", "spare-room-mended"]
)
def test_every_proposal_keeps_clear_and_serves_all_that_it_does_not_name(
    demo: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    """And lies as it lay when it was read last; `tools/tell_demos.py` writes the texts."""
    shop = loads(demo_bytes(demo)).shop
    source = next(thing.id for thing in shop.things if thing.source is not None)
    result = found(shop, source)
    monkeypatch.syspath_prepend(Path(__file__).parents[2] / "tools")
    from tell_demos import TOLD, routes_of

    told = (TOLD / f"{demo}-routes.txt").read_text("utf-8")
    assert differences(told, routes_of(shop, result), within=1e-3) == []
    assert result.done == 1.0 and result.routes
    for route in result.routes:
        assert broken(route, source) == []
        rules = {one.rule for one in first_review(route.shop, Memory()).findings}
        assert not rules & {
            "duct-in-door",
            "duct-meets",
            "run-loose",
            "run-short",
            "no-hood",
            "duct-low",
            "duct-collapse",
        }
        assert "inlet-straight" not in rules or any("straight pipe" in why for why in route.given_up)
        served = {run.port.thing for run in route.shop.ducts.runs if run.port}
        missing = {thing.name for thing in shop.things if thing.ports and thing.id not in served}
        told = " ".join(route.left_out)
        assert all(name in told for name in missing)


def test_one_machine_costs_what_a_pocket_calculator_says() -> None:
    """Straight out, up, along, down, and hose: metres and pieces times the middle of their price."""
    shop = shop_of(6.0, 4.0, ("planer", 4.0, 0.9))
    route = found(shop).routes[0]
    paths = Answers(route.shop, Memory()).of(DuctAnswers).run_paths
    runs = route.shop.ducts.runs
    assert [run.name for run in runs] == ["Main", "Planer hose"]
    assert all(not run.gates for run in runs)  # one machine needs none
    size = runs[0].diameter
    metres = sum(length_of(paths[run.id]) for run in runs)
    prices = duct_prices()
    pieces = [part for part in Answers(route.shop, Memory()).of(DuctAnswers).parts if part.unit == "piece"]
    want = metres * sum(prices.of("m", size)) / 2 + sum(
        one.amount * sum(prices.of("piece", one.size)) / 2 for one in pieces
    )
    assert {run.diameter for run in runs} == {size}
    assert route.cost == pytest.approx(want, rel=1e-6)
    assert route.pipe + route.hose == pytest.approx(metres)


def test_mains_are_shared_and_gates_stand_near_them() -> None:
    shop = shop_of(7.0, 4.0, ("near", 3.0, 3.0), ("far", 6.0, 3.0))
    route = found(shop).routes[0]
    runs = {run.id: run for run in route.shop.ducts.runs}
    gated = [run for run in runs.values() if run.gates]
    assert len(gated) == 2 and {gate.name for run in gated for gate in run.gates} == {"Near gate", "Far gate"}
    branches = [run for run in runs.values() if run.joins is not None and run.joins.at is not None]
    assert len(branches) == 1 and branches[0].joins is not None and branches[0].joins.angle == 45.0
    assert branches[0].gates[0].at == pytest.approx(0.3)
    both = sum(
        found(shop_of(7.0, 4.0, one)).routes[0].cost for one in (("near", 3.0, 3.0), ("far", 6.0, 3.0))
    )
    assert route.cost < 0.85 * both  # sharing saves what two systems would lay twice


def test_what_was_drawn_is_put_in_its_place_and_gates_keep_their_choices() -> None:
    shop = loads(demo_bytes("garage-mended")).shop
    result = found(shop)
    after = result.routes[0].shop
    assert {"main", "saw-drop"} & {run.id for run in after.ducts.runs} == set()
    gates = {gate.id for run in after.ducts.runs for gate in run.gates}
    before = {gate.id for run in shop.ducts.runs for gate in run.gates}
    assert before <= gates
    assert [one.open for one in after.ducts.gate_sets] == [one.open for one in shop.ducts.gate_sets]
    assert after.things == shop.things and after.room == shop.room


def test_pipe_goes_under_a_beam_or_round_a_door() -> None:
    shop = shop_of(6.0, 4.0, ("planer", 4.5, 2.5))
    beam = Fixture(
        id="beam", kind="beam", x=2.5, y=2.0, width=0.2, depth=4.0, bottom=2.35, top=2.6, stands="ceiling"
    )
    lower = replace(shop, room=replace(shop.room, fixtures=(beam,)))
    result = found(lower)
    assert result.routes and all(route.height < 2.35 for route in result.routes)
    over = found(shop_of(6.0, 4.0, ("planer", 4.5, 2.5), high=3.2)).routes
    assert {round(one.height - 2.0, 1) for one in over} == {
        0.1,
        1.1,
    }  # just over heads, and under the ceiling
    lowest = min(over, key=lambda one: one.height)
    assert lowest.cost == min(one.cost for one in over) and lowest.name == "Just over heads"
    assert "duct-low" not in {one.rule for one in first_review(lowest.shop, Memory()).findings}
    door = Opening(id="door", kind="roll-up", wall="A", offset=2.0, width=2.4, head=2.1)
    route = found(replace(shop, room=replace(shop.room, openings=(door,)))).routes
    assert all(broken(one, "collector") == [] for one in route)


@pytest.mark.parametrize(
    ("change", "why"),
    [
        (lambda shop: replace(shop, things=shop.things[:1]), "No machine's port is there"),
        (lambda shop: replace(shop, room=replace(shop.room, walls=shop.room.walls[:2])), "not closed yet"),
        (lambda shop: put(shop, replace(shop.things[0], x=5.72)), "no room for pipe before the inlet"),
        (lambda shop: put(shop, replace(shop.things[0], source=None)), "Pick a collector, cyclone or vac"),
    ],
)
def test_where_nothing_can_be_led_it_says_why(change, why: str) -> None:  # type: ignore[no-untyped-def]
    shop = change(shop_of(6.0, 4.0, ("planer", 3.0, 2.5)))
    try:
        sentence = " ".join(said(found(shop), Figures("metric")))
    except ValueError as exc:
        sentence = str(exc)
    assert why in sentence


def test_the_words_name_figures_and_what_was_not_kept() -> None:
    result = found(shop_of(6.0, 4.0, ("planer", 4.0, 2.5)))
    text = list(said(result, Figures("metric")))
    first = result.routes[0]
    height = Figures("metric").length(first.height)
    assert text[0].startswith(f"1. {first.name}, middle at {height}: about {first.cost:,.0f} USD; ")
    assert "Trace pipe, wire and water" in text[-1]
    assert result.routes == tuple(
        sorted(result.routes, key=lambda one: (len(one.given_up), not one.holds, one.cost))
    )


# ---- the same rules for what is drawn by hand


def test_pipe_through_a_light_or_before_the_panel_is_told(piped: Shop) -> None:
    assert grade(piped, "duct-meets") is None
    light = Luminaire(id="light", x=1.8, y=2.0, z=2.1, length=1.2)
    lit = replace(piped, power=replace(piped.power, luminaires=(light,)))
    assert fired(lit, "duct-meets")[0].about == ("main", "light")
    over = replace(lit, power=replace(lit.power, luminaires=(replace(light, z=2.3),)))
    assert grade(over, "duct-meets") is None  # 12 cm above the pipe's middle: it hangs clear of it
    panel = Fixture(
        id="panel", kind="panel", x=1.8, y=3.9, angle=180.0, width=0.4, depth=0.1, top=1.8, stands="wall"
    )
    before = put(piped, panel)
    assert grade(before, "duct-meets") == Grade.MEND


def test_pipe_that_heads_meet_is_told_with_its_height(piped: Shop) -> None:
    low = piped.ducts.runs[0]
    hung = put(piped, replace(low, points=(v(1.8, 0.4, 0.65), v(1.8, 0.4, 1.9), v(1.8, 4.0, 1.9))))
    (finding,) = [one for one in fired(hung, "duct-low") if one.about == ("main",)]
    assert finding.figures["lowest"] == pytest.approx(1.9 - 0.0625)
    high = put(piped, replace(low, points=(v(1.8, 0.4, 0.65), v(1.8, 0.4, 2.3), v(1.8, 4.0, 2.3))))
    assert not [one for one in fired(high, "duct-low") if one.about == ("main",)]


def test_a_route_is_led_to_a_new_machine_too() -> None:
    """A new saw without a duct: the proposal serves it with the others."""
    shop = loads(demo_bytes("garage-mended")).shop
    shop = put(shop, make_thing("planer", "new-one", 5.0, 4.9))
    route = found(shop).routes[0]
    assert PortRef(thing="new-one", port="hood") in [run.port for run in route.shop.ducts.runs]


def test_pipe_goes_along_the_joists_where_they_are_known() -> None:
    """Joists along the long wall: of the proposals one crosses them no more than any other does."""
    shop = shop_of(7.0, 6.0, ("near", 3.0, 4.5), ("far", 6.0, 2.0))
    bare = [one.name for one in found(shop).routes]
    joisted = replace(shop.room.ceiling, joists=Joists(wall="A"))
    result = found(replace(shop, room=replace(shop.room, ceiling=joisted)))
    assert "Along the joists" not in bare
    along = [one for one in result.routes if one.name == "Along the joists"]

    def across(route: Route) -> float:
        """Metres of level pipe at right angles to wall A."""
        answers = Answers(route.shop, Memory())
        paths = answers.of(DuctAnswers).run_paths
        pieces = (
            pair
            for run in route.shop.ducts.runs
            if materials()[run.material].kind == "duct"
            for pair in pairwise(paths[run.id])
        )
        return sum(abs(b[1] - a[1]) for a, b in pieces if a[2] == b[2] > 2.0)

    assert all(across(one) <= min(map(across, result.routes)) + 1e-6 for one in along)
    assert broken(result.routes[0], "collector") == []


def test_runs_of_a_proposal_have_names_of_their_own() -> None:
    for route in found(loads(demo_bytes("garage")).shop).routes:
        names = [run.name for run in route.shop.ducts.runs]
        assert len(set(names)) == len(names) and names[0] == "Main", names


@pytest.mark.parametrize(
    ("lengths", "turned"),
    [((6.0, 4.0, 5.0, hypot(1.0, 0.8), 3.2), 0.0), ((10.0, 9.0, 1.0, hypot(9.0, 7.2), 1.8), atan2(0.8, 1.0))],
)
def test_pipe_runs_along_the_longest_wall(lengths: tuple[float, ...], turned: float) -> None:
    """A corner cut off by a short slanting wall turns nothing; where that wall is the longest it does."""
    slant = degrees(atan2(0.8, 1.0))
    turns = (90.0, 90.0, slant, 90.0 - slant, 90.0)
    walls = tuple(Wall(id=f"w{k}", length=a, turn=b) for k, (a, b) in enumerate(zip(lengths, turns)))
    frame = Frame(PipeRoom(Answers(Shop(room=Room(walls=walls)), Memory())))
    assert frame.angle == pytest.approx(turned, abs=1e-6)
    assert frame.plan(*frame.turned(1.2, 3.4)) == pytest.approx((1.2, 3.4))


@pytest.mark.parametrize("lies", [0.0, 90.0, 180.0, 270.0])
def test_where_the_walls_lie_along_the_plan_nothing_is_turned(lies: float) -> None:
    room = replace(box_room(4.0, 7.0), heading=lies)
    room = replace(room, ceiling=replace(room.ceiling, joists=Joists(wall="A")))
    pipes = PipeRoom(Answers(Shop(room=room), Memory()))
    frame = Frame(pipes)
    assert frame.turned(1.2, 3.4) == (1.2, 3.4)
    along = route_places._along_joists(pipes, frame)
    assert along is not None and hypot(*along) == pytest.approx(1.0)
    assert sorted(map(abs, along)) == pytest.approx([0.0, 1.0])
