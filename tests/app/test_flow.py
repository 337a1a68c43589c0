"""The stage of jobs, by hand."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QCheckBox, QPushButton

from purvel.app.stages.flow.stage import FlowStage
from purvel.app.widgets.fields import ChoiceField, TextField
from purvel.review import Grade
from purvel.shop.edits import change
from tests.app.conftest import Bench, choose, enter


def stage(bench: Bench) -> FlowStage:
    bench.stage("flow")
    shown = bench.window.stage
    assert isinstance(shown, FlowStage)
    return shown


def field(bench: Bench, name: str) -> TextField | ChoiceField:
    kinds = (TextField, ChoiceField)
    found = [one for kind in kinds for one in bench.window.inspector.findChildren(kind)]
    return next(one for one in found if name in (getattr(one, "name", ""), one.accessibleName()))


def test_a_ready_job_finds_its_stations_and_undo_takes_it_back(bench: Bench) -> None:
    bench.demo("garage-mended")
    shown = stage(bench)
    before = len(bench.workspace.shop.jobs)
    shown.add_job("glued-panel")
    bench.settle(whole=True)
    job = bench.workspace.shop.jobs[-1]
    assert bench.workspace.picked == job.id and len(bench.workspace.shop.jobs) == before + 1
    flow = shown.flow()
    assert flow is not None and flow.job == job and flow.stations[0].thing == "jointer"
    assert shown.chart.hauls is not None
    bench.workspace.undo()
    assert len(bench.workspace.shop.jobs) == before


def test_sheets_from_the_driveway_to_the_saw(bench: Bench) -> None:
    """Flat through the house door they jam; brought in by the car's door on edge they get there."""
    bench.demo("garage")
    stage(bench)
    bench.workspace.pick("job-sheets-to-panels")
    bench.settle(whole=True)
    (stuck,) = [
        one
        for one in bench.window.reviews.latest.of("flow")
        if one.rule == "carry" and one.grade == Grade.STOP
    ]
    bench.window.findings.reveal(stuck)
    bench.bot.waitUntil(lambda: not bench.window.findings.is_waiting, timeout=60_000)
    choose(field(bench, "How it is carried"), "on edge")
    choose(field(bench, "Where the stock comes from"), "car-door")
    bench.settle(whole=True)
    job = next(one for one in bench.workspace.shop.jobs if one.id == "job-sheets-to-panels")
    assert (job.held, job.comes_from) == ("on edge", "car-door")
    carries = [
        one
        for one in bench.window.reviews.latest.of("flow")
        if one.about[0] == job.id and one.rule == "carry"
    ]
    assert [one.grade for one in carries] == [Grade.GOOD]


def test_steps_are_changed_moved_added_and_taken_out(bench: Bench) -> None:
    bench.demo("garage-mended")
    stage(bench)
    bench.workspace.pick("job-legs-and-rails")
    job = bench.workspace.shop.jobs[2]
    choose(field(bench, "Where step 1 is done"), "bandsaw")
    enter(field(bench, "Walks for step 1"), "7")
    assert bench.workspace.shop.jobs[2].steps[0].station == "bandsaw"
    assert bench.workspace.shop.jobs[2].steps[0].walks == 7
    press(bench, "Step 1 later")
    assert [one.operation for one in bench.workspace.shop.jobs[2].steps[:2]] == ["rip", "crosscut"]
    press(bench, "Take out step 1")
    assert len(bench.workspace.shop.jobs[2].steps) == len(job.steps) - 1
    press(bench, "Add a step")
    assert bench.workspace.shop.jobs[2].steps[-1].operation == "crosscut"
    ticks = [one for one in bench.window.inspector.findChildren(QCheckBox) if "Other sizes" in one.text()]
    ticks[0].click()
    assert bench.workspace.shop.jobs[2].steps[0].stock is not None


def press(bench: Bench, name: str) -> None:
    buttons = bench.window.inspector.findChildren(QPushButton)
    next(one for one in buttons if name in (one.accessibleName(), one.text())).click()


def test_a_bad_value_is_refused_and_changes_nothing(bench: Bench) -> None:
    bench.demo("garage-mended")
    stage(bench)
    bench.workspace.pick("job-rough-boards")
    before = bench.workspace.shop
    walks = field(bench, "Walks for step 1")
    for text in ("0", "-3", "many", "1e9", ""):
        enter(walks, text)
        assert bench.workspace.shop == before and walks.refusal.text()


def test_the_ways_follow_a_thing_in_the_hand(bench: Bench) -> None:
    bench.demo("garage-mended")
    shown = stage(bench)
    was = shown.flow()
    saw = bench.workspace.shop.thing("table-saw")
    assert was is not None and saw is not None
    bench.drag((saw.x, saw.y), (saw.x - 0.5, saw.y - 0.6), drop=False)
    now = shown.flow()
    assert now is not None and now.distance != was.distance
    assert shown.chart.hauls is None or bench.window.reviews.latest.answers.shop is bench.workspace.shop


def test_with_the_keyboard_alone(bench: Bench) -> None:
    bench.demo("garage-mended")
    stage(bench)
    bench.window.plan.setFocus()
    bench.keys("n")
    assert bench.workspace.picked == bench.workspace.shop.jobs[0].id
    bench.keys(Qt.Key.Key_Delete)
    assert "job-rough-boards" not in [job.id for job in bench.workspace.shop.jobs]


def test_a_job_survives_its_scene_and_a_changed_name(bench: Bench) -> None:
    bench.demo("garage")
    shown = stage(bench)
    bench.workspace.apply(lambda shop: change(shop, "job-rough-boards", name="Milling"), "Name")
    assert shown.job is not None and "Milling" in [shown.job.itemText(k) for k in range(shown.job.count())]
    bench.window.view.look_at(scene="night")
    bench.settle(whole=True)
    assert shown.flow() is not None
