"""Several things picked together, fixed, copied; the tape on the plan; the scale bar."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QPushButton

from purvel.app.commands import findable
from purvel.app.plan.measuring import Measuring, taken, told
from purvel.files import loads, saves
from purvel.shop import Thing
from tests.app.conftest import Bench


@pytest.fixture
def shop(bench: Bench) -> Bench:
    bench.demo("garage")
    bench.window.switch_units()
    bench.stage("place")
    return bench


def thing(bench: Bench, name: str) -> Thing:
    found = bench.workspace.shop.thing(name)
    assert found is not None
    return found


def spot(bench: Bench, name: str) -> QPoint:
    one = thing(bench, name)
    return bench.at(one.x, one.y)


def pick_both(bench: Bench) -> None:
    bench.bot.mouseClick(bench.window.plan, Qt.MouseButton.LeftButton, pos=spot(bench, "bandsaw"))
    shift = Qt.KeyboardModifier.ShiftModifier
    bench.bot.mouseClick(bench.window.plan, Qt.MouseButton.LeftButton, shift, spot(bench, "planer"))
    bench.settle()


def press(bench: Bench, words: str) -> None:
    buttons = bench.window.inspector.findChildren(QPushButton)
    next(one for one in buttons if one.text() == words and one.isVisible()).click()
    bench.settle()


def test_shift_picks_more_and_lets_go(shop: Bench) -> None:
    pick_both(shop)
    assert (shop.workspace.picked, shop.window.view.now.also) == ("bandsaw", ("planer",))
    shift = Qt.KeyboardModifier.ShiftModifier
    shop.bot.mouseClick(shop.window.plan, Qt.MouseButton.LeftButton, shift, spot(shop, "bandsaw"))
    assert (shop.workspace.picked, shop.window.view.now.also) == ("planer", ())
    pick_both(shop)
    shop.workspace.pick("jointer")
    assert shop.window.view.now.also == ()


def test_they_are_set_in_line_and_undone_in_one_step(shop: Bench) -> None:
    before = shop.workspace.shop
    pick_both(shop)
    press(shop, "Left edges")
    a, b = thing(shop, "bandsaw"), thing(shop, "planer")
    wide = {one.id: one.depth if one.angle % 180 == 90 else one.width for one in (a, b)}
    assert a.x - wide["bandsaw"] / 2 == pytest.approx(b.x - wide["planer"] / 2)
    assert (a.y, b.y) == (before.thing("bandsaw").y, before.thing("planer").y)  # type: ignore[union-attr]
    shop.workspace.undo()
    assert shop.workspace.shop == before
    press(shop, "Evenly across")  # two are too few
    assert shop.workspace.shop == before


def test_the_finder_offers_what_is_done_to_several_only_then(shop: Bench) -> None:
    def offered() -> dict[str, object]:
        return {words: act for words, act in findable(shop.window) if words.startswith("Set in line")}

    assert offered() == {}
    pick_both(shop)
    act = offered()["Set in line what is picked: lower edges"]
    before = thing(shop, "bandsaw").y, thing(shop, "planer").y
    act()  # type: ignore[operator]
    assert (thing(shop, "bandsaw").y, thing(shop, "planer").y) != before


def test_one_that_is_dragged_takes_the_others_along_and_arrows_move_all(shop: Bench) -> None:
    pick_both(shop)
    first, second = thing(shop, "bandsaw"), thing(shop, "planer")
    shop.drag((second.x, second.y), (second.x + 0.4, second.y + 0.3))
    a, b = thing(shop, "bandsaw"), thing(shop, "planer")
    assert b.x > second.x + 0.2
    assert (a.x - first.x, a.y - first.y) == pytest.approx((b.x - second.x, b.y - second.y))
    shop.keys(Qt.Key.Key_Right)
    assert thing(shop, "bandsaw").x == pytest.approx(a.x + 0.01)
    assert thing(shop, "planer").x == pytest.approx(b.x + 0.01)


def test_fixed_things_stay_whatever_pulls_at_them(shop: Bench) -> None:
    shop.workspace.pick("planer")
    shop.window.plan.setFocus()
    shop.keys("l")
    fixed = thing(shop, "planer")
    assert fixed.settled
    shop.drag((fixed.x, fixed.y), (fixed.x + 0.5, fixed.y))
    shop.keys(Qt.Key.Key_Right, "r", "=")
    assert thing(shop, "planer") == fixed and not shop.window.plan.prompt.isVisible()
    pick_both(shop)
    shop.keys(Qt.Key.Key_Right)
    assert thing(shop, "planer") == fixed
    shop.workspace.pick("planer")
    shop.keys("l")
    assert not thing(shop, "planer").settled


def test_a_copy_lies_beside_and_is_picked(shop: Bench) -> None:
    shop.workspace.pick("planer")
    next(one for one in shop.window.actions() if one.text() == "Copy what is picked").trigger()
    copy = thing(shop, shop.workspace.picked or "")
    old = thing(shop, "planer")
    assert copy.id != "planer" and copy.name != old.name and copy.kind == old.kind
    assert (copy.x, copy.y) == pytest.approx((old.x + old.width + 0.1, old.y)) and old.angle == 0.0
    shop.workspace.undo()
    assert len(shop.workspace.shop.things) == len(shop.workspace.base.things)
    assert shop.workspace.shop.thing(copy.id) is None


def test_a_copy_of_what_cannot_move_can_be_saved(shop: Bench) -> None:
    shop.stage("room")
    shop.workspace.pick("bay")
    next(one for one in shop.window.actions() if one.text() == "Copy what is picked").trigger()
    again = loads(saves(shop.workspace.document)).shop
    assert (
        again == shop.workspace.base and len([one for one in again.room.fixtures if one.acts == "bay"]) == 2
    )


def test_all_are_taken_away_in_one_step(shop: Bench) -> None:
    before = shop.workspace.shop
    pick_both(shop)
    press(shop, "Take all away")
    assert {one.id for one in before.things} - {one.id for one in shop.workspace.shop.things} == {
        "bandsaw", "planer"
    }  # fmt: skip
    shop.workspace.undo()
    assert shop.workspace.shop == before


def test_the_tape_takes_corners_and_tells_across_and_up(shop: Bench) -> None:
    plan = shop.window.plan
    plan.setFocus()
    shop.keys("m")
    assert plan.measuring.on
    corners = plan._shell().traverse.corners
    for x, y in corners[:2]:
        shop.bot.mouseClick(plan, Qt.MouseButton.LeftButton, pos=shop.at(x + 0.02, y + 0.02))
    assert plan.measuring.points == [pytest.approx(corners[0]), pytest.approx(corners[1])]
    assert shop.workspace.picked is None
    plan.grab()
    shop.keys(Qt.Key.Key_Escape)
    assert not plan.measuring.on and plan.measuring.points == []


def test_what_the_tape_says() -> None:
    assert told((0.0, 0.0), (3.0, 4.0), "metric") == "5000 mm  (3000 mm across, 4000 mm up, 53.1°)"
    assert taken(1.0, 1.0, [(1.05, 1.0), (2.0, 2.0)], 0.1) == (1.05, 1.0)
    assert taken(1.0, 1.0, [(1.2, 1.0)], 0.1) == (1.0, 1.0) and taken(1.0, 1.0, [], 0.1) == (1.0, 1.0)
    tape = Measuring()
    tape.switch()
    for k in range(3):
        tape.press(float(k), 0.0, [], 100.0)
    assert tape.points == [(2.0, 0.0)]  # the third begins anew
