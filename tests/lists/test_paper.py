"""Scales that names ask for, tiles edge to edge, cut-outs side by side."""

import pytest

from purvel.catalogue import make_thing
from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.lists.paper import OVERLAP, OnPaper, ScaleError, box_of, laid_out, on_paper, tiles
from purvel.space.clearances import polygon
from tests.conftest import block


def test_a_name_tells_paper_and_scale() -> None:
    assert on_paper("tiles", "metric") == OnPaper("A4", 20.0)
    assert on_paper("tiles", "imperial") == OnPaper("Letter", 24.0)
    assert on_paper("my tiles a4", "imperial") == OnPaper("A4", 24.0)
    assert on_paper("Cutouts-Letter-1to10", "metric") == OnPaper("Letter", 10.0)
    assert on_paper("tiles 1to12.5", "metric").ratio == 12.5
    assert OnPaper("A4", 24.0).name("imperial") == "1/2 in to the foot"
    assert OnPaper("A4", 12.5).name("metric") == "1:12.5"
    assert on_paper("tiles 2026-11-27", "metric").ratio == 20.0  # a day is no scale
    assert on_paper("tiles 11to5", "metric").ratio == 20.0
    for wrong in ("tiles-1to1", "tiles-1to500"):
        with pytest.raises(ScaleError, match="no scale for paper"):
            on_paper(wrong, "metric")


def test_tiles_cover_the_plan_and_share_a_strip() -> None:
    """A plan of 7.6 x 5 m at 1:20 is 380 x 250 mm; on 190 x 265 mm of paper that is 3 x 1 sheets of which
    each takes 180 mm.
    """
    laid = tiles((-0.8, -0.8, 6.8, 4.2), 20.0, 0.190, 0.265)
    assert [tile.name for tile in laid] == ["A1", "A2", "A3"]
    lefts = [tile.left for tile in laid]
    assert lefts == pytest.approx([-0.8 - 0.1, -0.8 - 0.1 + 3.6, -0.8 - 0.1 + 7.2])
    assert laid[0].top == pytest.approx(4.2 + 0.1)
    # the right-hand crosses of one, half a strip from its edge, are the left-hand ones of the next
    cross = OVERLAP / 2 * 20.0
    assert lefts[0] + 0.190 * 20.0 - cross == pytest.approx(lefts[1] + cross)
    assert lefts[-1] + 0.190 * 20.0 >= 6.8 and laid[-1].top - 0.265 * 20.0 <= -0.8


def test_rows_go_down_by_letters() -> None:
    laid = tiles((0.0, 0.0, 3.0, 9.0), 20.0, 0.190, 0.265)
    assert [tile.name for tile in laid] == ["A1", "B1"]
    assert laid[0].top - laid[1].top == pytest.approx(0.255 * 20.0)
    assert len(tiles((0.0, 0.0, 0.1, 0.1), 20.0, 0.190, 0.265)) == 1


def test_cut_outs_lie_side_by_side_on_the_paper() -> None:
    things = loads(demo_bytes("garage")).shop.things
    room, gap = (3.8, 5.0), 0.12
    pages = list(laid_out(things, room, gap))
    assert sorted(one.id for page in pages for one in page) == sorted(one.id for one in things)
    for page in pages:
        for k, one in enumerate(page):
            left, top, wide, high = box_of(one)
            assert one.x + left >= -1e-9 and one.x + left + wide <= room[0] + 1e-9
            assert one.y + top <= 1e-9 and one.y + top - high >= -room[1] - 1e-9
            assert all(polygon(one).distance(polygon(other)) >= gap - 1e-9 for other in page[:k])


def test_what_is_too_wide_is_turned_and_what_is_too_large_is_said() -> None:
    long = block("long", 0, 0, 4.5, 0.5, 1.0)
    ((turned,),) = laid_out((long,), (3.8, 5.0), 0.1)
    assert turned.angle == 90.0
    with pytest.raises(ScaleError, match="long is larger than the paper"):
        list(laid_out((long,), (3.8, 4.0), 0.1))
    assert list(laid_out((), (3.8, 5.0), 0.1)) == []


def test_the_standing_room_is_part_of_a_cut_out() -> None:
    planer = make_thing("planer", "planer")
    assert planer.stand is not None
    _, top, wide, high = box_of(planer)
    assert high == pytest.approx(planer.depth / 2 + 0.75 + planer.stand.depth / 2)
    assert wide == pytest.approx(max(planer.width, planer.stand.width)) and top == pytest.approx(
        planer.depth / 2
    )
