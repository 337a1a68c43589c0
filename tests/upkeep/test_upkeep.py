"""The bin, what is due, and cutting: sums on paper, exhaustive searches, and what must hold for any plan."""

from datetime import date, timedelta
from itertools import combinations, pairwise
from math import ceil

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from purvel.catalogue import kinds, trade_operations
from purvel.catalogue.upkeep import Removal, duty_kinds, removals, waste
from purvel.shop import Stock
from purvel.shop.jobs import Job, JobStep
from purvel.shop.upkeep import Bin, Duty
from purvel.upkeep.bins import DAYS, FULL, Removed, fill, removed, removed_from
from purvel.upkeep.due import due, hours_a_month
from purvel.upkeep.sheets import Piece, SheetsPlan, cut_sheets
from purvel.upkeep.sticks import StickPlan, cut_sticks

BOARD = Stock(length=2.4, width=0.15, thickness=0.025)


def test_planing_ten_boards_as_published() -> None:
    """10 boards of 2.4 m x 150 mm by 3 mm at 450 kg/m3: 10.8 l solid, 4.9 kg, 54 l loose at 90 kg/m3."""
    job = Job(id="j", stock=BOARD, per_month=1.0, steps=(JobStep(operation="thickness", walks=10),))
    gone = removed([job], 450.0)
    assert gone.solid == pytest.approx(0.0108) and gone.mass == pytest.approx(4.86)
    low, high = waste()["shavings"]
    assert gone.low == pytest.approx(4.86 / high) and gone.high == pytest.approx(4.86 / low)
    assert gone.low < 0.054 < gone.high


@pytest.mark.parametrize(
    ("how", "size", "solid"),
    [
        ("end cut", 0.003, 0.003 * 0.15 * 0.025),
        ("long cut", 0.003, 0.003 * 2.4 * 0.025),
        ("resaw", 0.001, 0.001 * 2.4 * 0.15),
        ("face", 0.003, 0.003 * 2.4 * 0.15),
        ("edge", 0.001, 0.001 * 2.4 * 0.025),
        ("groove", 0.01, 0.0001 * 2.4),
        ("share", 0.4, 0.4 * 2.4 * 0.15 * 0.025),
    ],
)
def test_what_an_operation_takes_off(how: str, size: float, solid: float) -> None:
    assert removed_from(BOARD, Removal(how=how, size=size, waste="sawdust")) == pytest.approx(solid)  # type: ignore[arg-type]


def test_how_a_bin_fills() -> None:
    """60 to 120 l a month into 200 l: 30 to 60 %; 80 % after 1.33 to 2.67 months. 160 l at 6 kg in 120 l or
    in 60 l weigh 8 or 16 kg, and the drum.
    """
    found = fill(Bin(volume=0.2, tare=8.0), Removed(0.01, 6.0, 0.06, 0.12))
    assert found is not None and found.share == (pytest.approx(0.3), pytest.approx(0.6))
    assert found.days == (pytest.approx(FULL / 0.6 * 30.44), pytest.approx(FULL / 0.3 * 30.44))
    assert found.mass == (pytest.approx(16.0), pytest.approx(24.0))
    assert fill(Bin(), Removed(0, 0, 0, 0)) is None


def test_due_by_use_and_by_days_whichever_is_first() -> None:
    """40 h at 10 h a month is 4 months, 122 days; every 90 days comes first."""
    begun, today = date(2026, 1, 1), date(2026, 2, 1)
    by_use = due(Duty(id="d", every_hours=40.0, done_on="2026-01-01"), 10.0, today, begun)
    assert by_use.day == date(2026, 5, 3) and by_use.days == 91 and by_use.gone == pytest.approx(31 / 121.76)
    both = due(Duty(id="d", every_hours=40.0, every_days=90, done_on="2026-01-01"), 10.0, today, begun)
    assert both.day == date(2026, 4, 1)
    never = due(Duty(id="d", every_hours=40.0), 0.0, today, begun)
    assert never.day is None and never.days == float("inf")
    assert due(Duty(id="d", every_days=10), 0.0, today, begun).days == -21
    assert (
        due(Duty(id="d", every_days=10, done_on="2026-02-31"), 0.0, today, begun).days == -21
    )  # no such day


def test_hours_of_use() -> None:
    assert hours_a_month({"saw": [(30.0, 4.0), (60.0, 1.0)]}) == {"saw": 3.0}


def fewest(pieces: list[float], stick: float, kerf: float) -> int:
    """By trying every way to fill stick after stick."""
    if not pieces:
        return 0
    first, rest = pieces[0], pieces[1:]
    best = len(pieces)
    for size in range(len(rest) + 1):
        for others in combinations(range(len(rest)), size):
            held = first + sum(rest[k] + kerf for k in others)
            if held <= stick + 1e-9:
                left = [rest[k] for k in range(len(rest)) if k not in others]
                best = min(best, 1 + fewest(left, stick, kerf))
    return best


@settings(max_examples=25, deadline=None)
@given(st.lists(st.integers(20, 240), min_size=1, max_size=7), st.sampled_from([0.0, 0.003, 0.05]))
def test_no_fewer_sticks_do(cm: list[int], kerf: float) -> None:
    pieces = [one / 100 for one in cm]
    plan = cut_sticks(pieces, 2.4, kerf)
    assert sorted(k for stick in plan.sticks for k in stick) == list(range(len(pieces)))
    for stick in plan.sticks:
        assert sum(pieces[k] for k in stick) + kerf * (len(stick) - 1) <= 2.4 + 1e-6
    assert plan.is_proven and len(plan.sticks) == fewest(sorted(pieces, reverse=True), 2.4, kerf)


def test_where_filling_first_is_not_the_best() -> None:
    """Filling best first puts 4 and 4 together and needs three; 4 + 3 + 3 twice needs two."""
    plan = cut_sticks([4.0, 4.0, 3.0, 3.0, 3.0, 3.0], 10.0, 0.0)
    assert len(plan.sticks) == 2 and plan.is_proven
    hard = cut_sticks([6.0, 5.0, 5.0, 4.0, 4.0, 3.0, 3.0], 15.0, 0.0)  # 30 in all
    assert len(hard.sticks) == 2 and hard.is_proven


def test_pieces_longer_than_the_stick_are_named() -> None:
    assert cut_sticks([1.0, 3.0], 2.0, 0.0) == StickPlan(((0,),), True, (1,))
    assert cut_sticks([], 2.0, 0.0) == StickPlan((), True, ())


def sound(plan: SheetsPlan, pieces: list[Piece], length: float, width: float, kerf: float) -> None:
    """Every piece once, none over the edge, none nearer to another than the kerf, and every cut from edge to
    edge of what is left when it is made.
    """
    laid = [one.part for sheet in plan.sheets for one in sheet.laid]
    assert sorted([*laid, *plan.too_large]) == list(range(len(pieces)))
    for sheet in plan.sheets:
        for one in sheet.laid:
            piece = pieces[one.part]
            assert {round(one.length, 9), round(one.width, 9)} == {
                round(piece.length, 9),
                round(piece.width, 9),
            }
            assert not piece.along or one.length == piece.length
            assert one.x >= -1e-9 and one.x + one.length <= length + 1e-6
            assert one.y >= -1e-9 and one.y + one.width <= width + 1e-6
        for a, b in combinations(sheet.laid, 2):
            apart_x = max(a.x, b.x) - min(a.x + a.length, b.x + b.length)
            apart_y = max(a.y, b.y) - min(a.y + a.width, b.y + b.width)
            assert max(apart_x, apart_y) >= kerf - 1e-6
        for cut in sheet.cuts:  # no cut goes through a piece
            for one in sheet.laid:
                inside_x = (
                    one.x + 1e-6 < max(cut.x0, cut.x1) and min(cut.x0, cut.x1) < one.x + one.length - 1e-6
                )
                inside_y = (
                    one.y + 1e-6 < max(cut.y0, cut.y1) and min(cut.y0, cut.y1) < one.y + one.width - 1e-6
                )
                assert not (inside_x and inside_y)


@settings(max_examples=25, deadline=None)
@given(
    st.lists(st.tuples(st.integers(10, 150), st.integers(10, 120), st.booleans()), min_size=1, max_size=12),
    st.sampled_from([0.0, 0.003, 0.006]),
)
def test_any_sheet_plan_is_sound(sizes: list[tuple[int, int, bool]], kerf: float) -> None:
    pieces = [Piece(k, a / 100, b / 100, along) for k, (a, b, along) in enumerate(sizes)]
    plan = cut_sheets(pieces, 2.44, 1.22, kerf)
    sound(plan, pieces, 2.44, 1.22, kerf)
    area = sum(pieces[k].length * pieces[k].width for k in range(len(pieces)) if k not in plan.too_large)
    assert len(plan.sheets) >= ceil(area / (2.44 * 1.22) - 1e-9)


def test_plans_whose_best_is_known() -> None:
    """Eight of a quarter by a half fill a sheet; with the kerf only three come out of one."""
    eighths = [Piece(k, 0.61, 0.61, False) for k in range(8)]
    assert len(cut_sheets(eighths, 2.44, 1.22, 0.0).sheets) == 1
    assert len(cut_sheets(eighths, 2.44, 1.22, 0.003).sheets) == 3  # with the kerf one row of three
    halves = [Piece(0, 2.44, 0.6, True), Piece(1, 2.44, 0.6, True), Piece(2, 2.44, 0.6, True)]
    plan = cut_sheets(halves, 2.44, 1.22, 0.003)
    assert len(plan.sheets) == 2 and plan.is_proven


def test_grain_and_trim() -> None:
    across = [Piece(0, 1.5, 0.4, True)]
    assert cut_sheets(across, 1.22, 2.44, 0.0).too_large == (0,)
    assert cut_sheets([Piece(0, 1.5, 0.4, False)], 1.22, 2.44, 0.0).too_large == ()
    assert cut_sheets([Piece(0, 2.44, 1.22, True)], 2.44, 1.22, 0.003, trim=0.005).too_large == (0,)
    plan = cut_sheets([Piece(0, 2.0, 1.0, True)], 2.44, 1.22, 0.003, trim=0.01)
    assert plan.sheets[0].laid[0].x == 0.01 and plan.sheets[0].laid[0].y == 0.01


def test_what_the_catalogue_says_is_whole() -> None:
    assert set(removals()) <= set(trade_operations())
    assert all(one.waste in waste() for one in removals().values())
    for one in duty_kinds().values():
        assert one.at in ("source", "cleaner") or set(one.at.split(",")) <= set(kinds())
        assert one.every_hours or one.every_days
    assert all(low < high for low, high in waste().values())
    assert [a <= b for a, b in pairwise(sorted(waste().values()))]


def test_counted_hours_hold_from_the_day_they_are_counted() -> None:
    """By plan 10 h a month; the box counted 2 h on each of 20 days, 40 h, of 60 that are allowed."""
    duty, begun = Duty(id="d", every_hours=60.0, done_on="2026-03-01"), date(2026, 1, 1)
    today = date(2026, 3, 20)
    counted = {date(2026, 3, 1) + timedelta(days=k): 2.0 for k in range(20)}
    found = due(duty, 10.0, today, begun, counted)
    assert found.gone == pytest.approx(40 / 60)
    assert found.days == ceil(20 / 10.0 * DAYS)  # twenty days are too few to say how fast it goes
    more = {date(2026, 2, 1) + timedelta(days=k): 2.0 for k in range(48)}  # 47 days before today, too
    fast = due(duty, 10.0, today, begun, more)
    assert fast.gone == pytest.approx(40 / 60) and fast.days == 10  # 20 h at 2 h a day
    late = due(duty, 10.0, today, begun, {date(2026, 3, 18): 5.0})
    assert late.gone == pytest.approx((10.0 * 17 / DAYS + 5.0) / 60)  # till then by plan
    assert due(duty, 0.0, today, begun, {today: 61.0}).days == 0  # nothing planned, and it is over
