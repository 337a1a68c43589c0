"""Places for tools: within reach, off what stays free, none on another."""

from dataclasses import replace
from itertools import combinations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from purvel.catalogue.tools import make_tool, tool_kinds
from purvel.shop.storage import Tool, WallUnit
from purvel.walls.hanging import (
    Box,
    WallSpace,
    box_of,
    grip_height,
    hang,
    holder_width,
    takes,
    unit_box,
    with_homes,
)
from purvel.walls.reach import HEAVY, Reach

FAR_COST = 0.02  # m out of reach that a metre from where it is used counts for
CLEAT = WallUnit(id="cleat", kind="cleat", wall="A", offset=0.5, width=2.0, z=1.7, height=0.1)
SHELF = WallUnit(id="shelf", kind="shelf", wall="A", offset=0.5, width=2.0, z=1.0, depth=0.35)


def space(*units: WallUnit, free: tuple[Box, ...] = (), used_at: float | None = None) -> WallSpace:
    return WallSpace("A", units, free, {unit.id: Reach(1.75) for unit in units}, used_at)


def tool(name: str, width: float = 0.2, height: float = 0.2, **changes: object) -> Tool:
    return replace(Tool(id=name, name=name, width=width, height=height), **changes)


def test_bands_of_reach_of_the_median_man() -> None:
    """1.75 m: hip 0.9275, eye 1.638, knuckle 0.7525, grip 2.065; 310 mm less over a bench 0.6 m deep."""
    reach = Reach(1.75)
    assert reach.band("daily") == pytest.approx((0.9275, 1.638))
    assert reach.band("weekly") == pytest.approx((0.7525, 2.065))
    assert Reach(1.75, 0.6).grip == pytest.approx(2.065 - 0.31)
    assert reach.heavy_band() == pytest.approx((0.49875, 1.1025))


def test_hung_below_a_cleat_and_standing_on_a_shelf() -> None:
    one = tool("t", 0.2, 0.3)
    assert box_of(one, CLEAT, 0.4) == Box(
        0.9, pytest.approx(0.9 + 0.24), pytest.approx(1.4), pytest.approx(1.75)
    )
    standing = replace(one, keeps="stands")
    assert box_of(standing, SHELF, 0.4) == Box(0.9, pytest.approx(1.1), 1.0, pytest.approx(1.3))
    assert grip_height(standing, SHELF) == pytest.approx(1.15)
    assert unit_box(SHELF) == Box(0.5, 2.5, pytest.approx(1.0 - SHELF.thickness), 1.0)


@pytest.mark.parametrize(
    ("changes", "unit", "why"),
    [
        ({}, SHELF, "it hangs"),
        ({"keeps": "stands"}, CLEAT, "it stands"),
        ({"width": 2.1}, CLEAT, "too wide"),
        ({"keeps": "stands", "depth": 0.4}, SHELF, "too deep"),
        ({"height": 1.8}, CLEAT, "too long for its height"),
        ({"keeps": "stands", "height": 0.7}, replace(SHELF, kind="cabinet", height=0.6), "too high"),
        ({}, CLEAT, ""),
    ],
)
def test_why_a_unit_does_not_take_a_tool(changes: dict[str, object], unit: WallUnit, why: str) -> None:
    assert takes(unit, tool("t", **changes)) == why  # type: ignore[arg-type]


def test_daily_things_take_the_better_height() -> None:
    """Two rows: one at the eyes, one over the head; there is room for one tool on each."""
    low = replace(CLEAT, id="low", width=0.3, z=1.5)
    high = replace(CLEAT, id="high", width=0.3, z=2.1)
    hung, left = hang([tool("rare", use="rarely"), tool("often", use="daily")], [space(low, high)])
    assert {one.tool: one.unit for one in hung} == {"often": "low", "rare": "high"} and left == []


def test_heavy_things_hang_low() -> None:
    low = replace(CLEAT, id="low", z=1.2, width=0.5)
    high = replace(CLEAT, id="high", z=1.9, width=0.5)
    heavy = tool("heavy", height=0.4, mass=HEAVY + 4.0, use="weekly")
    (one,), _ = hang([heavy], [space(high, low)])
    assert one.unit == "low"


def test_nothing_hangs_over_what_stays_free() -> None:
    outlet = Box(1.0, 1.3, 1.4, 1.9)
    hung, left = hang([tool(f"t{k}", 0.26) for k in range(6)], [space(CLEAT, free=(outlet,))])
    assert len(hung) + len(left) == 6 and left
    for one in hung:
        assert not box_of(tool("t", 0.26), CLEAT, one.along).meets(outlet)
    assert left[0].why == "every place that would take it is full"


def test_near_to_where_it_is_used() -> None:
    (one,), _ = hang([tool("t")], [space(CLEAT, used_at=2.0)])
    middle = CLEAT.offset + one.along + holder_width(tool("t")) / 2
    assert middle == pytest.approx(2.0, abs=0.02)


def test_what_did_not_fit_says_why() -> None:
    assert [one.why for one in hang([tool("t")], [])[1]] == ["there is no cleat or shelf"]
    assert [one.why for one in hang([tool("t")], [space(SHELF)])[1]] == ["it hangs, and there is no cleat"]
    standing = tool("t", keeps="stands")
    assert [one.why for one in hang([standing], [space(CLEAT)])[1]] == [
        "it stands, and there is no shelf or cabinet"
    ]
    assert [one.why for one in hang([tool("t", width=3.0)], [space(CLEAT)])[1]] == ["it is too wide"]


def test_what_has_a_home_stays_there() -> None:
    at_home = tool("a", home="cleat", along=0.7)
    hung, _ = hang([at_home, tool("b")], [space(CLEAT)])
    assert [one.tool for one in hung] == ["b"]
    assert with_homes([at_home, tool("b")], hung)[0] == at_home


@settings(max_examples=40, deadline=None)
@given(st.lists(st.sampled_from(sorted(tool_kinds())), max_size=40), st.floats(1.5, 2.0))
def test_no_two_tools_take_the_same_place(kinds: list[str], stature: float) -> None:
    units = (
        CLEAT,
        SHELF,
        replace(CLEAT, id="second", offset=2.8, z=1.4),
        replace(SHELF, id="two", z=1.9, offset=2.8),
    )
    where = WallSpace("A", units, (Box(1.2, 1.4, 0.8, 1.2),), {unit.id: Reach(stature) for unit in units})
    tools = [make_tool(kind, f"t{k}") for k, kind in enumerate(kinds)]
    hung, left = hang(tools, [where])
    assert {one.tool for one in hung} | {one.tool for one in left} == {one.id for one in tools}
    by_id, at = {one.id: one for one in tools}, {unit.id: unit for unit in units}
    boxes = [box_of(by_id[one.tool], at[one.unit], one.along) for one in hung]
    assert not any(a.meets(b) for a, b in combinations(boxes, 2))
    for one, box in zip(hung, boxes):
        unit = at[one.unit]
        assert unit.offset - 1e-9 <= box.left and box.right <= unit.offset + unit.width + 1e-9
        assert not box.meets(where.kept_free[0])


def test_there_are_forty_tools_and_each_is_whole() -> None:
    assert len(tool_kinds()) >= 40
    for key, kind in tool_kinds().items():
        assert 0 < kind.mass < 20 and max(kind.width, kind.height, kind.depth) < 1.6, key


def test_what_a_unit_covers_of_the_wall_by_its_kind() -> None:
    """A cabinet stands on its height, a shelf's top is at it, a cleat has its middle there."""
    cabinet = replace(SHELF, kind="cabinet", z=1.4, height=0.6)
    assert unit_box(cabinet) == Box(0.5, 2.5, 1.4, 2.0)
    assert unit_box(SHELF) == Box(0.5, 2.5, 1.0 - SHELF.thickness, 1.0)
    assert unit_box(CLEAT) == Box(0.5, 2.5, pytest.approx(1.65), pytest.approx(1.75))


@pytest.mark.parametrize(("use", "worth"), [("daily", 3.0), ("weekly", 1.5), ("rarely", 0.5)])
def test_what_is_used_more_often_stays_within_reach(use: str, worth: float) -> None:
    """A unit right at the bench is out of reach, another in reach is farther along: a tool takes that as long
    as it is no farther than so many times what the first is out of reach, over what being far counts for.
    """
    one = tool("t", use=use)
    _, high = Reach(1.75).band(one.use)
    over = replace(CLEAT, id="over", width=0.3, z=high + 0.5)
    even = worth * (grip_height(one, over) - high) / FAR_COST
    assert even > 0.1
    for aside, chosen in ((even - 0.02, "far"), (even + 0.02, "over")):
        there = replace(over, id="far", z=high - 0.1, offset=over.offset + aside)
        bench = over.offset + holder_width(one) / 2
        hung, _ = hang([one], [space(over, there, used_at=bench)])
        assert [found.unit for found in hung] == [chosen]
