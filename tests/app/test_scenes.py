"""Scenes through the window: chosen, made, changed, undone; what is moved in one moves there only."""

from collections.abc import Callable
from dataclasses import replace
from random import Random

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QCheckBox, QLineEdit, QPushButton

from purvel.app.widgets.fields import ChoiceField, TextField
from purvel.app.workspace import Workspace
from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.review.scenes import standing
from purvel.review.stages import ORDER
from purvel.shop import Shop
from purvel.shop.edits import change, new_scene, put, remove, set_state
from purvel.shop.faults import faults
from purvel.shop.scene import State
from tests.app.conftest import Bench, choose, enter


def menu(bench: Bench) -> dict[str, QAction]:
    """What the chooser's menu has when it is opened."""
    chooser = bench.window.header.scene
    chooser.menu().aboutToShow.emit()
    return {action.text(): action for action in chooser.menu().actions() if action.text()}


def choose_scene(bench: Bench, begins: str) -> None:
    next(action for text, action in menu(bench).items() if text.startswith(begins)).trigger()
    bench.settle()


def tick(bench: Bench, words: str) -> QCheckBox:
    return next(box for box in bench.window.inspector.findChildren(QCheckBox) if box.text() == words)


def choice(bench: Bench, name: str) -> ChoiceField[str]:
    return next(
        one for one in bench.window.inspector.findChildren(ChoiceField) if one.accessibleName() == name
    )


def place_of(bench: Bench, thing: str) -> tuple[float, float]:
    found = bench.workspace.shop.thing(thing)
    assert found is not None
    return found.x, found.y


def test_the_chooser_shows_the_scenes_with_what_is_to_mend_in_each(bench: Bench) -> None:
    bench.demo("garage")
    header, reviews = bench.window.header, bench.window.reviews
    bench.bot.waitUntil(lambda: reviews.to_mend("day") is not None, timeout=20_000)
    drawn, night, day = (reviews.to_mend(one) for one in (None, "night", "day"))
    assert drawn == reviews.latest.to_mend() and night is not None and 0 < night < (drawn or 0) > (day or 0)
    assert list(menu(bench))[:3] == [
        f"As drawn: {drawn} to mend", f"Night: car in: {night} to mend", f"Day: door open: {day} to mend"
    ]  # fmt: skip
    assert "As drawn" not in header.scene.text() and header.scene.accessibleName() == "Scene: as drawn"
    choose_scene(bench, "Night")
    assert header.scene.text() == "Scene: Night: car in ▾" and header.mend.text() == f"{night} to mend"
    assert menu(bench)[f"Night: car in: {night} to mend"].isChecked()
    assert all(one.scene == "night" for one in reviews.latest.findings)
    assert not bench.window.keeper.is_dirty  # looking changes nothing


def test_the_plan_the_findings_and_the_report_are_of_the_scene(bench: Bench) -> None:
    bench.demo("garage", "place")
    choose_scene(bench, "Night")
    assert place_of(bench, "table-saw") == (4.95, 2.95)
    assert any("the car in its bay" in one.sentence for one in bench.window.reviews.latest.of("place"))
    night = bench.window.plan.grab().toImage()
    choose_scene(bench, "As drawn")
    assert place_of(bench, "table-saw") == (4.55, 3.0)
    assert night != bench.window.plan.grab().toImage()
    assert not any("the car in its bay" in one.sentence for one in bench.window.reviews.latest.of("place"))


def test_a_drag_in_a_scene_moves_there_only_and_undo_returns_to_the_scene(bench: Bench) -> None:
    bench.demo("garage", "place")
    choose_scene(bench, "Day")
    before = bench.workspace.base
    bench.drag((4.55, 3.0), (4.95, 2.7))
    moved = place_of(bench, "table-saw")
    assert moved != (4.55, 3.0) and bench.workspace.base.things == before.things
    choose_scene(bench, "As drawn")
    assert place_of(bench, "table-saw") == (4.55, 3.0)
    choose_scene(bench, "Night")
    assert place_of(bench, "table-saw") == (4.95, 2.95)
    bench.workspace.undo()
    assert bench.window.view.now.scene == "day" and place_of(bench, "table-saw") == (4.55, 3.0)
    assert bench.workspace.base == before
    bench.workspace.redo()
    assert bench.window.view.now.scene == "day" and place_of(bench, "table-saw") == moved


def test_what_has_no_wheels_moves_in_every_scene_and_this_is_said(bench: Bench) -> None:
    bench.demo("garage", "place")
    choose_scene(bench, "Day")
    bench.workspace.apply(lambda shop: change(shop, "bandsaw", x=3.2), "Move")
    assert "moves in every scene" in bench.window.notice.said.text()
    choose_scene(bench, "As drawn")
    assert place_of(bench, "bandsaw")[0] == 3.2


def test_a_new_scene_is_named_changed_copied_and_taken_away(bench: Bench) -> None:
    bench.demo("garage")
    choose_scene(bench, "New scene")
    made = bench.window.view.now.scene
    assert made is not None and bench.workspace.picked == made
    field = next(
        one for one in bench.window.inspector.findChildren(TextField) if one.name == "Name of the scene"
    )
    enter(field, "Milling")
    assert bench.window.header.scene.text() == "Scene: Milling ▾"
    enter(field, "Night: car in")
    assert "already" in bench.window.notice.said.text()
    assert bench.window.header.scene.text() == "Scene: Milling ▾" and field.line.text() == "Milling"
    tick(bench, "Roll-up door, wall A").click()
    tick(bench, "the car's bay").click()
    assert bench.workspace.shop.room.openings[0].is_open and not bench.workspace.base.room.openings[0].is_open
    choose(choice(bench, "Table saw is"), "put away")
    assert bench.workspace.shop.thing("table-saw") is None
    assert bench.workspace.base.thing("table-saw") is not None
    choose(choice(bench, "Table saw is"), "set up")
    assert bench.workspace.shop.thing("table-saw") is not None
    choose_scene(bench, "Copy this scene")
    copy = bench.workspace.base.scenes[-1]
    assert copy.name == "Milling, copy" and copy.parked == ("bay",) and bench.window.view.now.scene == copy.id
    away = next(one for one in bench.window.inspector.findChildren(QPushButton) if one.text() == "Take away")
    QTest.mouseClick(away, Qt.MouseButton.LeftButton)
    assert copy.id not in {one.id for one in bench.workspace.base.scenes}
    assert bench.window.view.now.scene is None and bench.window.header.scene.text() == "Scene: as drawn ▾"
    bench.workspace.undo()
    assert bench.window.view.now.scene == copy.id
    bench.settle()


def test_a_thing_folds_in_a_scene_by_its_own_form(bench: Bench) -> None:
    bench.demo("garage", "place")
    bench.workspace.pick("workbench")
    tick(bench, "Folds flat").click()
    assert bench.workspace.shop.thing("workbench").folded_depth == 0.175  # type: ignore[union-attr]
    choose_scene(bench, "Day")
    bench.workspace.pick("workbench")
    choose(choice(bench, "In this scene it is"), "folded")
    bench_there = bench.workspace.shop.thing("workbench")
    assert bench_there is not None and bench_there.depth == 0.175
    assert not any(one.name == "Width" for one in bench.window.inspector.findChildren(TextField))
    choose(choice(bench, "In this scene it is"), "put away")
    assert bench.workspace.picked is None and bench.workspace.shop.thing("workbench") is None
    bench.workspace.undo()
    assert bench.workspace.shop.thing("workbench") == bench_there
    bench.settle()


def test_a_thing_without_wheels_says_that_it_stays(bench: Bench) -> None:
    bench.demo("garage")
    choose_scene(bench, "Day")
    bench.workspace.pick("planer")
    words = " ".join(
        label.text() for label in bench.window.inspector.findChildren(type(bench.window.notice.said))
    )
    assert "stands here in every scene" in words
    assert not [one for one in bench.window.inspector.findChildren(QLineEdit) if one.text() == "set up"]


def test_air_says_that_its_day_is_that_of_the_shop_as_drawn(bench: Bench) -> None:
    bench.demo("garage", "air")
    verdict = bench.window.stages["air"].day.verdict
    assert "of the limit" in verdict.text().replace("\u00a0", " ") and "as drawn" not in verdict.text()
    choose_scene(bench, "Night")
    assert verdict.text().endswith(", as drawn")
    choose_scene(bench, "As drawn")
    assert "as drawn" not in verdict.text()


def test_the_finder_goes_to_a_scene(bench: Bench) -> None:
    from purvel.app.commands import findable

    bench.demo("garage")
    words = dict(findable(bench.window))
    words["Look at the scene “Night: car in”"]()
    assert bench.window.view.now.scene == "night"
    dict(findable(bench.window))["Change or take away this scene"]()
    assert bench.workspace.picked == "night"
    bench.settle()


def test_a_remedy_tried_in_a_scene_is_made_there(bench: Bench) -> None:
    bench.demo("garage")
    choose_scene(bench, "Night")
    before = bench.workspace.base
    bench.workspace.preview(lambda shop: change(shop, "table-saw", x=5.0))
    assert bench.workspace.shown.thing("table-saw").x == 5.0 and bench.workspace.base is before  # type: ignore[union-attr]
    bench.workspace.preview(None)
    assert bench.workspace.shown is bench.workspace.shop
    bench.workspace.apply(lambda shop: change(shop, "table-saw", x=5.0), "Remedy")
    assert bench.workspace.base.things == before.things
    assert bench.workspace.base.scenes[0].poses[0].x == 5.0
    bench.settle()


def test_another_document_is_looked_at_as_drawn(bench: Bench) -> None:
    bench.demo("garage")
    choose_scene(bench, "Night")
    bench.demo("spare-room")
    assert bench.window.view.now.scene is None and bench.window.header.scene.text() == "Scene: as drawn ▾"
    assert list(menu(bench)) == ["As drawn: " + bench.window.header.mend.text(), "New scene"]


def test_names_with_ampersands_and_long_ones_are_shown_as_they_are(bench: Bench) -> None:
    bench.demo("garage")
    night = bench.workspace.base.scenes[0]
    name = "Drum & sanding in the afternoon"
    bench.workspace.apply(lambda shop: put(shop, replace(night, name=name)), "Name")
    choose_scene(bench, "Drum && sanding in the afternoon")
    assert bench.window.header.scene.text() == "Scene: Drum && sanding in… ▾"
    assert bench.window.header.scene.accessibleName() == f"Scene: {name}"


def test_whatever_is_done_in_whatever_scene_the_document_holds_together_and_undo_brings_all_back(
    qapp: QApplication,
) -> None:
    chance = Random(6)
    for _ in range(12):
        workspace = Workspace()
        workspace.open(loads(demo_bytes("garage")).shop)
        states = [(workspace.base, workspace.view.now.scene)]
        for _ in range(25):
            do_something(workspace, chance)
            assert faults(workspace.base) == [], workspace.undo_label
            assert workspace.shop == standing(workspace.base, workspace.view.now.scene).shop
            if workspace.base is not states[-1][0]:
                states.append((workspace.base, workspace.view.now.scene))
        for base, _ in reversed(states[:-1]):
            workspace.undo()
            assert workspace.base == base
        assert workspace.undo_label == ""


def do_something(workspace: Workspace, chance: Random) -> None:
    """Looks elsewhere, moves, takes away, switches, makes and drops scenes, by chance."""
    shop = workspace.shop
    things, scenes = [thing.id for thing in shop.things], [scene.id for scene in workspace.base.scenes]
    thing, where = chance.choice(things), {"x": chance.uniform(0, 6), "y": chance.uniform(0, 6)}
    door, bay = shop.room.openings[0].id, "bay"
    edits: list[Callable[[Shop], Shop]] = [
        lambda now: change(now, thing, **where),
        lambda now: change(now, thing, wheels=chance.random() < 0.7),
        lambda now: change(now, door, is_open=not now.room.openings[0].is_open),
        lambda now: change(now, bay, taken=not now.room.fixtures[-1].taken),
        lambda now: new_scene(now, "More")[0],
        lambda now: change(now, chance.choice(now.ducts.runs).id, diameter=0.125) if now.ducts.runs else now,
        lambda now: remove(now, chance.choice([*things, *scenes, *(run.id for run in now.ducts.runs)])),
    ]
    if chance.random() < 0.35:
        workspace.view.look_at(scene=chance.choice([None, *scenes]))
    elif chance.random() < 0.25 and scenes:
        state: State = chance.choice(("set up", "put away"))
        workspace.apply_to_document(set_state(workspace.base, chance.choice(scenes), thing, state), "State")
    else:
        weights = (8, 3, 2, 2, 1, 2, 1 if len(things) > 4 else 0)
        workspace.apply(chance.choices(edits, weights)[0], "Something")


def test_keys_on_the_plan_with_a_scene_picked(bench: Bench) -> None:
    bench.demo("garage")
    for key in ORDER:
        bench.stage(key)
        choose_scene(bench, "Night")
        before = bench.workspace.base
        bench.workspace.pick("night")
        bench.keys("=", "r", Qt.Key.Key_Left, "z", "f")
        assert bench.workspace.base == before and bench.workspace.picked == "night"
        bench.keys("n")
        assert bench.workspace.picked != "night"
    bench.workspace.pick("night")
    bench.keys(Qt.Key.Key_Delete)
    assert [scene.id for scene in bench.workspace.base.scenes] == ["day"]
    assert bench.window.view.now.scene is None
    bench.workspace.undo()
    assert bench.window.view.now.scene == "night" and len(bench.workspace.base.scenes) == 2
    bench.settle()


def test_while_nobody_works_no_lane_is_asked_for(bench: Bench) -> None:
    """The tick is on the scene's form; with it no lane is judged, and the section says why there is none."""
    bench.demo("garage", "place")
    choose_scene(bench, "Night")
    bench.workspace.pick("night")
    bench.settle()
    box = next(
        one for one in bench.window.inspector.findChildren(QCheckBox) if one.text() == "Nobody works in it"
    )
    assert box.isChecked()
    assert all(one.rule != "lane" for one in bench.window.reviews.latest.of("place"))
    box.click()
    bench.settle()
    assert any(one.rule == "lane" for one in bench.window.reviews.latest.of("place"))
    assert not bench.workspace.base.scenes[0].asleep
    bench.workspace.undo()
    assert bench.workspace.base.scenes[0].asleep
