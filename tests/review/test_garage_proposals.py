"""What is proposed in the demo garage, rule by rule: labels, their order, and what each would change."""

from dataclasses import replace
from math import cos, radians, sin
from typing import Any

import pytest

from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review import Memory
from purvel.review.figures import Figures
from purvel.review.reviewing import first_review
from purvel.review.stages import stage_of
from purvel.shop import GateSet, Shop
from purvel.shop.edits import change, put, remove
from tests.review.proposals import Changed, proposals, proposed, reviewed
from tests.review.test_turned import turned


def garage() -> Shop:
    return loads(demo_bytes("garage")).shop


@pytest.mark.parametrize(
    ("rule", "wanted"),
    [
        (
            "hood-flow",
            [
                ("Open only Planer instead of “All gates open”",
                 {"set-all": {"name": "Planer alone", "open": ("planer-gate",)}}),
                ("Make Planer hose 5 in instead of 4 in", {"planer-hose": {"diameter": 0.125}}),
                ("Make Planer hose 6 in instead of 4 in", {"planer-hose": {"diameter": 0.15}}),
                ("Use smooth-bore hose for Planer hose", {"planer-hose": {"material": "smooth-hose"}}),
                ("Make Main 7 in instead of 6 in", {"main": {"diameter": 0.175}}),
                ("Make Main 8 in instead of 6 in", {"main": {"diameter": 0.2}}),
            ],
        ),
        (
            "duct-collapse",
            [
                ("Use spiral steel duct, 26 gauge", {"main": {"material": "spiral"}}),
                ("Use snap-lock duct, 26 gauge", {"main": {"material": "snap-lock-26"}}),
                ("Use thick-wall plastic pipe", {"main": {"material": "pressure-pipe"}}),
            ],
        ),
        (
            "chips-move",
            [
                ("Make Main 5 in instead of 6 in", {"main": {"diameter": 0.125}}),
                ("Make Main 4 in instead of 6 in", {"main": {"diameter": 0.1}}),
            ],
        ),
        (
            "voltage-drop",
            [
                ("A cord of 10 AWG for Table saw", {"table-saw": {"cord": "awg-10"}}),
                ("Wire Outlets right in 10 AWG", {"circuit-2": {"conductor": "awg-10"}}),
                ("Wire Outlets right in 8 AWG", {"circuit-2": {"conductor": "awg-8"}}),
                ("Wire Outlets right in 6 AWG", {"circuit-2": {"conductor": "awg-6"}}),
            ],
        ),
        (
            "residual",
            [
                ("Note that they have one (ask for it where they have not)",
                 {"circuit-1": {"residual": True}, "circuit-2": {"residual": True}}),
            ],
        ),
    ],
)  # fmt: skip
def test_what_is_proposed(rule: str, wanted: list[tuple[str, Changed]]) -> None:
    assert proposed(garage(), rule) == wanted


def test_an_outlet_nearer_on_the_same_circuit() -> None:
    """The table saw at (4.55, 3): in wall B, 3.38 m from its start, or over it, 0.4 m below the ceiling."""
    shop = garage()
    saw = shop.thing("table-saw")
    assert saw is not None
    beside, over = proposed(shop, "cord-in-the-way")
    assert [beside[0], over[0]] == [
        "An outlet in the wall beside it, on Outlets right",
        "An outlet hung over it, on Outlets right",
    ]
    wanted = {"circuit": "circuit-2", "wall": "B", "height": 1.15, "x": 0.0}
    assert beside[1]["outlet-5"].items() >= wanted.items()
    assert beside[1]["outlet-5"]["offset"] == pytest.approx(3.38, abs=0.02)
    hung = {"circuit": "circuit-2", "wall": None, "x": saw.x, "y": saw.y}
    assert over[1]["outlet-5"].items() >= hung.items()
    assert over[1]["outlet-5"]["height"] == pytest.approx(shop.room.ceiling.height - 0.4, abs=1e-3)
    assert beside[1]["table-saw"] == over[1]["table-saw"] == {"outlet": "outlet-5"}


def test_light_over_the_darkest_then_in_rows() -> None:
    """Five stations are dark; over the drill press stands nothing, rows fill the room."""
    shop = garage()
    tries = proposed(shop, "light")
    press = shop.thing("drill-press")
    assert press is not None
    assert [label for label, _ in tries] == [
        "Hang a LED batten, 1.2 m over Drill press",
        "Hang a LED batten, 1.5 m over Drill press",
        "Hang 12 of LED batten, 1.2 m, in rows",
        "Hang 9 of LED batten, 1.5 m, in rows",
    ]
    one, longer, rows, longer_rows = (made for _, made in tries)
    lamp = one["light-3"]
    assert (lamp["length"], lamp["lumens"], lamp["z"]) == (1.2, 4000.0, pytest.approx(2.591 - 0.05, abs=2e-3))
    assert longer["light-3"]["length"] == 1.5 and longer["light-3"]["x"] == lamp["x"]
    assert len(rows) == 12 and len(longer_rows) == 9
    xs = sorted({row["x"] for row in rows.values()})
    ys = sorted({row["y"] for row in rows.values()})
    assert len(xs) * len(ys) == 12
    for places, wide in ((xs, 6.577), (ys, 6.299)):  # half a step off the walls, a step between them
        step = places[1] - places[0]
        assert places[0] == pytest.approx(step / 2, abs=0.02)
        assert places[-1] + step / 2 == pytest.approx(wide, abs=0.05)


def tries(shop: Shop, rule: str) -> dict[str, Shop]:
    """The shop after each proposal, by its label."""
    told, finding = reviewed(shop, rule)
    made = stage_of(finding.stage).remedies[rule](finding, told.answers, Figures(shop.units))
    return {label: edit(shop) for label, edit, *_ in made}


def session(shop: Shop) -> dict[str, Any]:
    one = shop.air.session
    return {"doors_open": one.doors_open, "cleaner_on": one.cleaner_on, "run_on": one.run_on}


def test_cleaner_air_by_doors_by_hoods_by_a_cleaner() -> None:
    shop = garage()
    made = tries(shop, "exposure")
    assert list(made) == [
        "Dust bag on the tool for “Random-orbit sander”",
        "Work with the doors open",
        "Hang an air cleaner and let it run two hours after work",
        "Table saw, below and over the blade at Table saw",
    ]
    bag, doors, cleaner, saw = made.values()
    assert next(one for one in bag.air.session.work if one.id == "spell-4").hood == "bag"
    assert next(one for one in saw.air.session.work if one.id == "spell-3").hood == "saw-both"
    assert session(doors) == session(shop) | {"doors_open": True}
    assert session(cleaner) == session(shop) | {"cleaner_on": True, "run_on": 120.0}
    (hung,) = [one for one in cleaner.things if one.cleaner]
    assert hung.z > 2.0 and bag.things == doors.things == saw.things == shop.things


def test_a_cleaner_that_hangs_is_switched_on_and_left_running() -> None:
    hung = tries(garage(), "exposure")["Hang an air cleaner and let it run two hours after work"]
    off = replace(hung, air=replace(hung.air, session=replace(hung.air.session, cleaner_on=False)))
    made = tries(off, "exposure")
    assert session(made["Switch the cleaner on for the session"])["cleaner_on"]
    assert not any(label.startswith("Hang") for label in made)
    short = replace(hung, air=replace(hung.air, session=replace(hung.air.session, run_on=119.0)))
    label = "Let the cleaner run two hours after work"
    assert session(tries(short, "clearing")[label])["run_on"] == 120.0
    assert label not in tries(hung, "clearing")


def test_of_a_choice_that_settles_another_gate_is_opened() -> None:
    """Of the garage's own choice with only the jointer's gate open: the saw's and the planer's."""
    shop = put(garage(), GateSet(id="mine", name="Mine", open=("jointer-gate",)))
    told = first_review(shop, Memory())
    finding = next(one for one in told.findings if one.rule == "chips-move" and one.about == ("mine",))
    made = stage_of("ducts").remedies["chips-move"](finding, told.answers, Figures("metric"))
    opened = [
        (label, edit(shop).ducts.gate_sets[-1].open) for label, edit, *_ in made if label.startswith("Open")
    ]
    names = {gate.id: gate.name for run in shop.ducts.runs for gate in run.gates}
    assert opened == [
        (f"Open {names[gate]} as well", ("jointer-gate", gate)) for gate in names if gate != "jointer-gate"
    ]


def test_a_run_that_leads_nowhere_is_taken_away() -> None:
    loose = change(garage(), "saw-drop", joins=None)
    ((label, made),) = proposed(loose, "run-loose")
    assert label == "Take Saw drop away"
    gone = set(made)
    assert "saw-drop" in gone and made["saw-drop"] == {}
    assert tries(loose, "run-loose")[label].ducts == remove(loose, "saw-drop").ducts


def test_upkeep_is_noted_as_done() -> None:
    shop = garage()
    made = proposed(shop, "duty")
    assert made[0][0] == "All of it is done today" and len(made[0][1]) == 4
    day = made[0][1]["hose-check-collector"]["done_on"]
    assert made[1:] == [
        (
            "Done today: Shake or blow the filter clean: Collector",
            {"shake-filter-collector": {"done_on": day}},
        ),
        ("Done today: Look over hoses and gates: Collector", {"hose-check-collector": {"done_on": day}}),
    ]


@pytest.mark.parametrize(
    "rule", ["cord-in-the-way", "circuit", "light", "hood-flow", "closing-gap", "covers"]
)
def test_what_goes_onto_walls_goes_to_the_same_place_however_the_plan_lies(rule: str) -> None:
    """Places on the plan turn with it; along walls and in height they stay."""
    here, there = proposed(garage(), rule), proposed(turned(garage(), 37.0, -3.0, 12.5), rule)
    assert [label for label, _ in here] == [label for label, _ in there]
    for (_, was), (_, now) in zip(here, there):
        assert was.keys() == now.keys()
        for item, fields in was.items():
            for field, value in fields.items():
                if field not in ("x", "y", "angle"):
                    same = pytest.approx(value, abs=2e-3) if isinstance(value, float) else value
                    assert now[item][field] == same, (item, field)


def first_move(shop: Shop, rule: str) -> tuple[str, float, float, float]:
    """The first thing that is proposed to be moved, by how much, and how it is turned."""
    for _, made in proposals(shop, rule):
        for item, fields in made.items():
            thing = shop.thing(item)
            if thing is not None and {"x", "y"} & fields.keys():
                dx, dy = fields.get("x", thing.x) - thing.x, fields.get("y", thing.y) - thing.y
                return item, dx, dy, round((fields.get("angle", thing.angle) - thing.angle) % 360.0, 6)
    raise AssertionError(rule)


@pytest.mark.parametrize(
    ("name", "rules"),
    [
        ("garage", ("lane", "bay-blocked", "standing-room", "panel-space")),
        ("single-garage", ("lane", "bay-blocked", "standing-room", "panel-space")),
        ("spare-room", ("lane", "standing-room")),
    ],
)
def test_nudges_go_along_the_walls_however_the_plan_lies(name: str, rules: tuple[str, ...]) -> None:
    """What is moved first is moved by as much and in the same direction of the room. (Of those after it one
    may be free on one plan and just touch on the other.)
    """
    shop, by = loads(demo_bytes(name)).shop, 37.0
    there = turned(shop, by, -3.0, 12.5)
    c, s = cos(radians(by)), sin(radians(by))
    for rule in rules:
        item, dx, dy, turn = first_move(shop, rule)
        other, x, y, same = first_move(there, rule)
        assert (other, same) == (item, turn)
        assert (x, y) == pytest.approx((dx * c - dy * s, dx * s + dy * c), abs=2e-3), (rule, dx, dy)
