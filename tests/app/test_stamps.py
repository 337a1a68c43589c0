"""What is drawn again as it is looks as if it were drawn anew, also in the middle of a drag."""

from dataclasses import replace

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QImage, QPainter
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from purvel.app.plan.drawing_view import DrawingView
from purvel.app.plan.sheet import Sheet
from purvel.app.plan.stamps import Stamps
from purvel.review.reviewing import first_review, whole_review
from purvel.review.stages import ORDER
from purvel.shop.edits import move_thing
from tests.app.conftest import Bench


def picture(plan: DrawingView) -> np.ndarray:
    """The plan as it is painted now; (high, wide, 4)."""
    image = QImage(plan.size(), QImage.Format.Format_RGB32)
    plan.render(image)
    return np.array(image.constBits()).reshape(image.height(), image.bytesPerLine() // 4, 4)


def plain_sheet(plan: DrawingView, painter: QPainter) -> Sheet:
    """A sheet that draws everything anew."""
    before = plan._lettered if plan.is_dragging else None
    plan._stamps = Stamps()
    look = (plan.theme.palette, plan.scale, plan.origin, plan.lettering())
    return Sheet(painter, *look, before=before, keeps=plan.is_dragging)


def apart(one: np.ndarray, other: np.ndarray) -> float:
    """The share of dots that differ to the eye."""
    return float((np.abs(one.astype(int) - other.astype(int)).max(axis=2) > 24).mean())


@pytest.mark.parametrize("stage", ["place", "flow", "power", "air"])
def test_stamps_look_as_if_drawn_anew(bench: Bench, monkeypatch: pytest.MonkeyPatch, stage: str) -> None:
    bench.demo("garage", stage)
    plan = bench.window.plan
    first, again = picture(plan), picture(plan)
    held = bench.workspace.shop.thing("jointer")
    assert held is not None
    start = bench.at(held.x, held.y)
    QTest.mousePress(plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)
    frames = []
    for step in range(1, 6):
        QTest.mouseMove(plan, start + QPoint(-12 * step, 6 * step))
        QApplication.processEvents()
        frames.append(picture(plan))
    bench.settle()  # what the findings colour is the same from here on
    joined = [picture(plan) for _ in range(3)]
    images = [one.image for one in plan._stamps._used.values() if one.image is not None]
    monkeypatch.setattr(DrawingView, "sheet", plain_sheet)
    anew = picture(plan)
    QTest.mouseRelease(plan, Qt.MouseButton.LeftButton)
    assert len(images) > 10  # of what stands still
    assert apart(first, again) == 0.0
    assert apart(joined[-1], anew) < 0.002 < apart(joined[-1], first)
    assert apart(frames[-1], frames[-2]) > 0.001  # and what is in the hand moved


def test_what_is_not_drawn_is_forgotten(bench: Bench) -> None:
    bench.demo("garage", "place")
    picture(bench.window.plan)
    drawn = len(bench.window.plan._stamps._used)
    for step in range(20):
        bench.workspace.apply(lambda shop, k=step: shop, "Nothing")
        picture(bench.window.plan)
    stamps = bench.window.plan._stamps
    assert len(stamps._used) == drawn and len(stamps._known) == drawn


@pytest.mark.parametrize("stage", ORDER)
def test_reviews_behind_the_hand_are_drawn_only_where_they_change_the_drawing(
    bench: Bench, monkeypatch: pytest.MonkeyPatch, stage: str
) -> None:
    bench.demo("garage", stage)
    window, plan, reviews = bench.window, bench.window.plan, bench.window.reviews
    held = bench.workspace.shop.thing("workbench")
    assert held is not None
    bench.drag((held.x, held.y), (held.x + 0.3, held.y + 0.2), drop=False)
    bench.settle()
    assert plan.is_dragging
    shop, drawn = bench.workspace.shop, list[Sheet]()
    draw = window.stage.draw
    monkeypatch.setattr(window.stage, "draw", lambda sheet: (drawn.append(sheet), draw(sheet)))
    longer = replace(shop.air, session=replace(shop.air.session, minutes=400.0))
    reviews.serial, reviews.is_stale = reviews.serial + 1, True  # as if the hand had gone on
    seen, frames, again = list[object](), list[np.ndarray](), list[bool]()
    moved, worked = move_thing(shop, "planer", held.x, held.y), replace(shop, air=longer)
    for other in (shop, moved, worked, replace(worked, name="Another name")):
        reviews.latest = first_review(other, reviews.memory)
        drawn.clear()
        window.refresh()
        QApplication.processEvents()
        again.append(bool(drawn))
        seen.append(window.stage.seen_of_review())
        frames.append(picture(plan))
    assert seen[1] != seen[0] or stage not in ("place", "air")
    assert seen[2] != seen[1] or stage != "air"
    assert seen[3] == seen[2] and not again[3]
    for last, now in ((0, 1), (1, 2), (2, 3)):
        assert again[now] or (seen[now] == seen[last] and apart(frames[now], frames[last]) == 0.0)
    reviews.is_stale, reviews.latest = False, first_review(shop, reviews.memory)
    window.refresh()
    QApplication.processEvents()
    drawn.clear()
    reviews.latest = whole_review(reviews.latest)  # the hand rests: what was searched long may be shown
    window.refresh()
    QApplication.processEvents()
    assert drawn
    drawn.clear()
    QTest.mouseRelease(plan, Qt.MouseButton.LeftButton)
    QApplication.processEvents()
    assert drawn
