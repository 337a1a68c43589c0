"""The bill of the ducts: sticks, fittings, and what holds it together."""

import csv
import io
from dataclasses import replace
from itertools import product

import pytest

from purvel.catalogue import materials
from purvel.lists import LISTS
from purvel.review import Answers, Memory
from purvel.review.ducts.bill import bill, span, sticks
from purvel.review.ducts.report import report
from purvel.shop import Offcut, Run, Shop, Wall
from purvel.shop.edits import change, change_ducts, put
from purvel.upkeep.sticks import cut_sticks
from tests.review.test_rules import piped, v

__all__ = ["piped"]


def answers_of(shop: Shop) -> Answers:
    return Answers(shop, Memory())


def amounts(shop: Shop) -> dict[tuple[str, float], float]:
    return {(one.what, one.size): one.amount for one in bill(answers_of(shop))}


def fewest(pieces: list[float], stick: float, kerf: float, offcuts: tuple[float, ...]) -> int:
    """By going through every way to give pieces to offcuts and sticks."""
    best = len(pieces)
    for where in product(range(len(offcuts) + len(pieces)), repeat=len(pieces)):
        used: dict[int, list[float]] = {}
        for piece, place in zip(pieces, where):
            used.setdefault(place, []).append(piece)
        rooms = [*offcuts, *([stick] * len(pieces))]
        if all(sum(held) + kerf * (len(held) - 1) <= rooms[place] + 1e-9 for place, held in used.items()):
            best = min(best, sum(place >= len(offcuts) for place in used))
    return best


@pytest.mark.parametrize(
    ("pieces", "offcuts"),
    [
        ([1.4, 1.4, 0.9, 0.6, 0.6], ()),
        ([1.4, 1.4, 0.9, 0.6, 0.6], (1.5,)),
        ([1.4, 1.4, 0.9, 0.6, 0.6], (0.95, 1.2)),
        ([1.0, 1.0, 1.0, 1.0, 1.0], (0.9,)),
        ([1.5, 1.5, 1.0, 1.0], (1.0, 1.0)),
        ([0.7, 0.7, 0.7, 0.7, 0.7], (1.41,)),
    ],
)
def test_the_fewest_sticks_beside_offcuts_are_the_fewest_of_all(
    pieces: list[float], offcuts: tuple[float, ...]
) -> None:
    plan = cut_sticks(pieces, 3.0, 0.003, offcuts)
    assert plan.is_proven and len(plan.sticks) == fewest(pieces, 3.0, 0.003, offcuts)
    every = sorted(k for cut in (*plan.sticks, *plan.from_offcuts) for k in cut)
    assert every == list(range(len(pieces)))
    for length, cut in zip((*offcuts, *([3.0] * len(plan.sticks))), (*plan.from_offcuts, *plan.sticks)):
        assert sum(pieces[k] for k in cut) + 0.003 * max(len(cut) - 1, 0) <= length + 1e-9


def test_pieces_longer_than_a_stick_are_coupled(piped: Shop) -> None:
    run = Run(id="long", diameter=0.2, points=(v(0.5, 0.5, 2.0), v(5.5, 0.5, 2.0)))
    (one,) = [cut for cut in sticks(answers_of(change_ducts(put(piped, run), stick=2.0))) if cut.size == 0.2]
    assert one.pieces == (2.0, 2.0, 1.0) and one.couplings == 2 and len(one.plan.sticks) == 3
    found = amounts(change_ducts(put(piped, run), stick=2.0))
    assert found["Coupling", 0.2] == 2
    assert found["Spiral steel duct, 0.48 mm (26 gauge)", 0.2] == 3
    with_offcut = change_ducts(
        put(piped, run), stick=2.0, offcuts=(Offcut(material="spiral", diameter=0.2, length=1.2),)
    )
    assert amounts(with_offcut)["Spiral steel duct, 0.48 mm (26 gauge)", 0.2] == 2
    other = replace(with_offcut.ducts.offcuts[0], material="snap-lock")
    assert (
        amounts(change_ducts(with_offcut, offcuts=(other,)))["Spiral steel duct, 0.48 mm (26 gauge)", 0.2]
        == 3
    )


def test_hangers_go_on_studs_and_small_things_follow_the_joints(piped: Shop) -> None:
    walls = tuple(replace(wall, stud_spacing=0.6) for wall in piped.room.walls)
    shop = replace(piped, room=replace(piped.room, walls=walls))
    assert span(shop, 3.0) == pytest.approx(3.0) and span(shop, 1.2) == pytest.approx(1.2)
    assert span(shop, 2.5) == pytest.approx(2.4) and span(shop, 0.5) == pytest.approx(0.6)
    bare = Shop(room=replace(piped.room, walls=(Wall(id="w", length=1.0),)))
    assert span(bare, 1.2) == pytest.approx(2 * 0.4064)
    found = amounts(piped)
    cut = sticks(answers_of(piped))
    joints = sum(2 * len(one.pieces) for one in cut)
    assert found["Sheet-metal screw", 0.0] == 3 * joints
    assert ("Bonding wire and lugs, bare copper", 0.0) not in found
    plastic = change(piped, "main", material="pressure-pipe")
    assert amounts(plastic)["Bonding wire and lugs, bare copper", 0.0] >= 6.0
    assert amounts(plastic)["Sheet-metal screw", 0.0] < 3 * joints
    hose = change(piped, "drop", material="ribbed-hose", slack=0.2)
    assert amounts(hose)["Hose clamp", 0.1] == 2
    straight = amounts(change(hose, "drop", slack=0.0))[materials()["ribbed-hose"].name, 0.1]
    assert amounts(hose)[materials()["ribbed-hose"].name, 0.1] == pytest.approx(straight / 0.8, abs=0.15)


def test_the_bill_is_in_report_and_list(piped: Shop) -> None:
    told = report(answers_of(piped))
    lines = bill(answers_of(piped))
    assert [one["what"] for one in told["bill"]] == [one.what for one in lines]
    rows = list(csv.DictReader(io.StringIO(LISTS["bill.csv"](piped))))
    assert [(row["what"], float(row["amount"])) for row in rows] == [(one.what, one.amount) for one in lines]
    assert any(one.what.startswith("Branch fitting") or one.what.endswith("90°") for one in lines)
    (first, *_) = told["sticks"]
    assert sorted(k for cut in first["cut"] for k in cut) == list(range(len(first["pieces"])))
