"""What is drawn again as it is looks as if it were drawn anew, also in the middle of a drag."""

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QImage, QPainter
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from purvel.app.plan.drawing_view import DrawingView
from purvel.app.plan.sheet import Sheet
from purvel.app.plan.stamps import Stamps
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
