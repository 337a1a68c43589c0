"""All scenes as small plans: looked at, set side by side, by mouse and by keys."""

import pytest
from PySide6.QtCore import QPoint, Qt

from purvel.app.stages.place.scenes_strip import ScenesStrip
from purvel.app.stages.place.stage import PlaceStage
from purvel.review.comparing import compared
from tests.app.conftest import Bench


@pytest.fixture
def strip(bench: Bench) -> ScenesStrip:
    bench.demo("garage", "place")
    stage = bench.window.stages["place"]
    assert isinstance(stage, PlaceStage)
    stage.side_by_side.click()
    reviews = bench.window.reviews
    bench.bot.waitUntil(
        lambda: all(reviews.findings_in(one) is not None for one in stage.scenes.scenes()), timeout=30_000
    )
    return stage.scenes


def middle(strip: ScenesStrip, scene: str | None) -> QPoint:
    (box,) = (box for one, box in strip.boxes() if one == scene)
    return box.center().toPoint()


def test_a_click_looks_at_a_scene(bench: Bench, strip: ScenesStrip) -> None:
    assert strip.isVisible() and strip.scenes() == [None, "night", "day"]
    bench.bot.mouseClick(strip, Qt.MouseButton.LeftButton, pos=middle(strip, "night"))
    assert bench.window.view.now.scene == "night"
    bench.bot.mouseClick(strip, Qt.MouseButton.LeftButton, pos=middle(strip, None))
    assert bench.window.view.now.scene is None


def test_two_scenes_side_by_side_by_shift_and_by_keys(bench: Bench, strip: ScenesStrip) -> None:
    shift = Qt.KeyboardModifier.ShiftModifier
    bench.bot.mouseClick(strip, Qt.MouseButton.LeftButton, shift, middle(strip, "night"))
    assert strip.pair() == (None, "night") and [one for one, _ in strip.boxes()] == [None, "night"]
    bench.bot.mouseClick(strip, Qt.MouseButton.LeftButton, pos=middle(strip, "night"))
    assert strip.pair() == ("night", None) and bench.window.view.now.scene == "night"
    bench.bot.mouseClick(strip, Qt.MouseButton.LeftButton, pos=middle(strip, "night"))
    assert strip.pair() is None
    strip.setFocus()
    strip.at = 0
    for key in (Qt.Key.Key_Right, Qt.Key.Key_Right, Qt.Key.Key_Space):
        bench.bot.keyClick(strip, key)
    assert strip.pair() == ("night", "day")
    for key in (Qt.Key.Key_Space, Qt.Key.Key_Left, Qt.Key.Key_Left, Qt.Key.Key_Return):
        bench.bot.keyClick(strip, key)
    assert strip.pair() is None and bench.window.view.now.scene is None


def test_what_is_told_of_two_scenes_is_what_the_reviews_say(bench: Bench, strip: ScenesStrip) -> None:
    drawn, night = (bench.window.reviews.findings_in(one) for one in (None, "night"))
    assert drawn is not None and night is not None
    differ = compared(drawn, night)
    assert any(one.rule == "lane" for one in differ.first)
    assert {one.rule for one in differ.second} >= {"bodies-overlap"}
    assert all(one.scene is None for one in differ.first)


def test_without_scenes_the_button_is_not_there(bench: Bench) -> None:
    bench.demo("spare-room", "place")
    stage = bench.window.stages["place"]
    assert isinstance(stage, PlaceStage) and not stage.side_by_side.isVisible()
    assert stage.stack.currentWidget() is stage.section
