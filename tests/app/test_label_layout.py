"""Lettering keeps apart: no two words on each other, none off the page, and what may be left out of a crowd
is left out.
"""

import itertools
import re
from dataclasses import replace

import pytest
from PySide6.QtCore import QPointF, QRectF, QSizeF
from PySide6.QtGui import QImage, QPainter
from PySide6.QtWidgets import QApplication

from purvel.app.plan.draw_ducts import state_key
from purvel.app.plan.label_layout import Label, LabelLayout, Obstacle, Spot, around, edges_of
from purvel.app.plan.sheet import Sheet
from purvel.app.theme import LIGHT
from purvel.app.widgets.unbroken import unbroken
from tests.app.conftest import Bench

PAGE = QRectF(0, 0, 400, 300)


@pytest.fixture
def sheet(qapp: QApplication) -> Sheet:
    image = QImage(400, 300, QImage.Format.Format_RGB32)
    painter = QPainter(image)
    yield Sheet(painter, LIGHT, 50.0, QPointF(0, 300), 15)
    painter.end()


def word(text: str, *spots: tuple[float, float], **changes: object) -> Label:
    return Label((text,), tuple(Spot(QPointF(x, y)) for x, y in spots), LIGHT.ink, **changes)  # type: ignore[arg-type]


def boxes(sheet: Sheet, *words: Label) -> list[QRectF]:
    """Where the words came to lie, in the order in which they were set."""
    before = len(sheet._board.taken)
    for one in words:
        sheet.label(one)
    sheet.set_labels()
    return [
        QRectF(QPointF(left, top), QPointF(right, bottom))
        for left, top, right, bottom in sheet._board.taken[before:]
    ]


def test_a_word_goes_to_its_first_spot_where_nothing_is_in_the_way(sheet: Sheet) -> None:
    (box,) = boxes(sheet, word("Planer", (100, 100), (200, 200)))
    assert box.contains(QPointF(100, 100))


def test_the_second_word_gives_way(sheet: Sheet) -> None:
    first, second = boxes(
        sheet, word("Table saw", (100, 100), rank=0), word("Bandsaw", (100, 100), (100, 150), rank=1)
    )
    assert first.contains(QPointF(100, 100)) and second.contains(QPointF(100, 150))
    assert not first.intersects(second)


def test_the_lowest_rank_is_set_first_whatever_the_order_of_asking(sheet: Sheet) -> None:
    first, _ = boxes(sheet, word("later", (100, 100), (50, 50), rank=3), word("sooner", (100, 100), rank=0))
    assert first.contains(QPointF(100, 100)) and first.width() > sheet.measure("sooner", 0.82) - 1


def test_what_need_not_be_there_is_left_out_of_a_crowd_and_what_must_is_not(sheet: Sheet) -> None:
    sheet.keep_clear(PAGE, 1.0)
    assert boxes(sheet, word("may go", (100, 100), must=False)) == []
    assert len(boxes(sheet, word("must stay", (100, 100)))) == 1


def test_a_body_does_not_push_its_own_name_away(sheet: Sheet) -> None:
    sheet.keep_clear(QRectF(60, 60, 80, 80), 1.0, owner="saw")
    (own,) = boxes(sheet, word("saw", (100, 100), (300, 200), owner="saw"))
    (other,) = boxes(sheet, word("mine", (100, 120), (300, 200), owner="bench"))
    assert own.contains(QPointF(100, 100)) and other.contains(QPointF(300, 200))


def test_a_word_stays_on_the_page(sheet: Sheet) -> None:
    (box,) = boxes(sheet, word("a rather long word", (398, 100), (200, 100)))
    assert PAGE.contains(box)


def test_a_name_is_written_upwards_where_its_body_is_tall_and_narrow(sheet: Sheet) -> None:
    home = QRectF(90, 50, 24, 160)
    spots = (Spot(home.center(), home=home), Spot(home.center(), upright=True, home=home))
    (box,) = boxes(sheet, Label(("Timber rack",), spots, LIGHT.ink))
    assert box.height() > box.width()


def test_two_lines_are_taken_where_one_does_not_fit(sheet: Sheet) -> None:
    home = QRectF(50, 50, 62, 60)
    (box,) = boxes(
        sheet, Label(("Outfeed table", "Outfeed\ntable"), (Spot(home.center(), home=home),), LIGHT.ink)
    )
    assert home.adjusted(-4, -4, 4, 4).contains(box)


def test_spots_around_a_box_touch_it_nowhere() -> None:
    box = QRectF(100, 100, 60, 40)
    for spot in around(box, 50, 20):
        letters = QRectF(spot.middle.x() - 25, spot.middle.y() - 10, 50, 20)
        assert not letters.intersects(box)


def test_cost_counts_the_share_that_is_covered() -> None:
    box, spot, plain = QRectF(10, 10, 100, 20), Spot(QPointF(60, 20)), word("x", (60, 20))

    def costs(
        *boxes: QRectF, taken: QRectF | None = None, obstacle: Obstacle | None = None, at: Spot = spot
    ) -> list[float]:
        board = LabelLayout()
        if taken is not None:
            board.take(taken)
        if obstacle is not None:
            board.keep_clear(obstacle)
        homes = [edges_of(box if at.home is None else at.home) for box in boxes]
        return board.costs([edges_of(box) for box in boxes], homes, plain.owner, PAGE)

    assert costs(box) == [0.0]
    assert costs(box, obstacle=Obstacle(QRectF(10, 10, 50, 20), 1.0)) == [pytest.approx(0.5)]
    assert costs(box, obstacle=Obstacle(QRectF(10, 10, 50, 20), 1.0, plain.owner or "")) == [
        pytest.approx(0.5)
    ]
    assert costs(box, taken=QRectF(10, 10, 25, 20)) == [pytest.approx(0.75)]  # other words weigh three times
    assert costs(box, box.translated(-60, 0)) == [0.0, pytest.approx(8 * 0.5)]
    assert costs(box, at=Spot(QPointF(60, 20), home=QRectF(10, 10, 75, 20))) == [pytest.approx(1.5 * 0.25)]


def test_a_crowd_of_names_never_lies_on_each_other(sheet: Sheet) -> None:
    places = [(40 + 45 * (k % 8), 40 + 30 * (k // 8)) for k in range(40)]
    words = [word(f"machine {k}", *places[k:], *places[:k], must=False, rank=k % 3) for k in range(40)]
    found = boxes(sheet, *words)
    assert len(found) > 15
    for a, b in itertools.combinations(found, 2):
        shared = a.intersected(b)
        assert shared.width() * shared.height() < 0.1 * min(a.width() * a.height(), b.width() * b.height())


def test_the_key_takes_a_corner_that_clears_the_room_or_stays_away(sheet: Sheet) -> None:
    """The page of 400 × 300 shows 8 × 6 m."""

    def key(left: float, bottom: float, right: float, top: float) -> QRectF | None:
        return state_key(sheet, [(left, bottom), (right, bottom), (right, top), (left, top)])

    low_left = key(4, 3, 8, 6)
    assert low_left is not None and low_left.left() < 20 and low_left.bottom() > 280
    assert 10 * 15 * 0.8 < low_left.width() < 200 and PAGE.contains(low_left)
    high_left = key(0, 0, 8, 3)
    assert high_left is not None and high_left.left() == low_left.left() and high_left.bottom() < 150
    low_right = key(0, 0, 4.2, 6)
    assert low_right is not None and low_right.left() > 4.2 * 50 and low_right.bottom() == low_left.bottom()
    assert key(1, 1, 7, 5) is None


def test_a_clear_corner_is_looked_for_above_first_where_asked(sheet: Sheet) -> None:
    size = QSizeF(90, 60)

    def corner(left: float, bottom: float, right: float, top: float, *, upper: bool) -> QRectF | None:
        room = [(left, bottom), (right, bottom), (right, top), (left, top)]
        return sheet.clear_corner(size, room, upper=upper)

    assert corner(3, 2, 5, 4, upper=True) == QRectF(8, 8, 90, 60)
    assert corner(3, 2, 5, 4, upper=False) == QRectF(8, 300 - 8 - 60, 90, 60)
    assert corner(0, 4, 8, 6, upper=True) == QRectF(8, 300 - 8 - 60, 90, 60)
    assert corner(0, 0, 5.8, 6, upper=True) == QRectF(400 - 8 - 90, 8, 90, 60)
    assert corner(0, 0, 6.0, 6, upper=True) is None  # 300 px, and 4 px are kept clear


@pytest.mark.parametrize(("pixels", "wide", "high"), [(24, 1024, 700), (15, 1280, 800), (20, 900, 600)])
def test_figures_of_ducts_never_lie_on_each_other(bench: Bench, pixels: int, wide: int, high: int) -> None:
    bench.demo("garage")
    window = bench.window
    window.theme.set_text(pixels)
    window.resize(wide, high)
    bench.stage("ducts")
    image = QImage(window.plan.size(), QImage.Format.Format_RGB32)
    painter = QPainter(image)
    sheet = Sheet(painter, LIGHT, window.plan.scale, window.plan.origin, pixels)
    window.stage.draw(sheet)
    before = len(sheet._board.taken)
    sheet.set_labels()
    painter.end()
    found = [
        QRectF(QPointF(left, top), QPointF(right, bottom))
        for left, top, right, bottom in sheet._board.taken[before:]
    ]
    assert len(found) >= 8
    for a, b in itertools.combinations(found, 2):
        shared = a.intersected(b)
        assert shared.width() * shared.height() < 0.15 * min(a.width() * a.height(), b.width() * b.height())


@pytest.mark.parametrize(
    ("sentence", "pieces"),
    [
        (
            "leaves only 1' 3 3/4\", and 2' 0\" are kept",
            ["leaves", "only", "1' 3 3/4\",", "and", "2' 0\"", "are", "kept"],
        ),
        ("reach 34.2 mg/m³: only", ["reach", "34.2 mg/m³:", "only"]),
        ("under 15 µg/m³.", ["under", "15 µg/m³."]),
        ("hold 2.94 in. w.g., and", ["hold", "2.94 in. w.g.,", "and"]),
        ("takes 4 minutes in 2 steps", ["takes", "4", "minutes", "in", "2", "steps"]),
    ],
)
def test_no_line_breaks_inside_a_figure(sentence: str, pieces: list[str]) -> None:
    """Qt breaks at plain spaces and after slashes."""
    shown = unbroken(sentence)
    assert [
        piece.replace("\u00a0", " ").replace("\u2060", "") for piece in re.split(r" |(?<=/)(?!\u2060)", shown)
    ] == pieces
    assert shown.replace("\u00a0", " ").replace("\u2060", "") == sentence


def set_again(
    before: Sheet, *words: Label, keeps: bool = False, obstacle: QRectF | None = None
) -> list[QRectF]:
    """Where words come to lie on a sheet that follows one that is set."""
    after = Sheet(before.painter, LIGHT, 50.0, QPointF(0, 300), 15, before=before.lettering, keeps=keeps)
    if obstacle is not None:
        after.keep_clear(obstacle)
    return boxes(after, *words)


def test_what_waits_as_before_is_set_as_before_without_a_look(
    sheet: Sheet, monkeypatch: pytest.MonkeyPatch
) -> None:
    words = [word("Table saw", (100, 100), (200, 200), rank=rank) for rank in (0, 1)]
    first = boxes(sheet, *words)
    came = list[QRectF]()
    again = [replace(one, then=came.append) for one in words]  # what follows a word is not where it lies
    with monkeypatch.context() as patched:
        patched.setattr(Sheet, "_place", None)  # not asked
        assert set_again(sheet, *again) == first and len(came) == 2
    block = QRectF(60, 80, 80, 40)
    moved = set_again(sheet, *words, obstacle=block)
    assert moved[0].contains(QPointF(200, 200)) and not moved[0].intersects(block)
    assert set_again(sheet, *words[:1]) == first[:1]


def test_of_a_sheet_that_keeps_only_new_words_look_for_a_place(sheet: Sheet) -> None:
    old = word("Table saw", (100, 100), (200, 200))
    (place,) = boxes(sheet, old)
    block, new = QRectF(60, 80, 80, 40), word("Planer", (100, 100), (300, 100), rank=0)
    assert set_again(sheet, new, old, keeps=True, obstacle=block)[0] == place
    assert set_again(sheet, new, old, obstacle=block)[1].contains(QPointF(200, 200))
