"""What colours the plan is what grades the finding."""

from collections.abc import Iterator
from dataclasses import replace

import pytest
from PySide6.QtWidgets import QApplication

from purvel.app.plan.label_layout import Label
from purvel.app.plan.sheet import Sheet
from purvel.app.widgets.charts import stepped
from purvel.files import Document
from purvel.review import Finding, Grade
from purvel.review.air.answers import AirAnswers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.keep.answers import KeepAnswers
from purvel.review.keep.rules import due_grade
from purvel.review.power.answers import PowerAnswers
from purvel.review.power.light_rules import light_grade
from purvel.review.room.answers import RoomAnswers
from purvel.review.room.rules import closing_grade
from purvel.roomair.stretches import past_hoods
from purvel.shop import Shop, Wall
from purvel.shop.edits import change_room, put
from tests.app.conftest import Bench
from tests.conftest import box_room


@pytest.fixture
def labels(monkeypatch: pytest.MonkeyPatch) -> list[Label]:
    """What is lettered on the plan from now on."""
    said: list[Label] = []
    own = Sheet.label

    def label(sheet: Sheet, one: Label) -> None:
        said.append(one)
        own(sheet, one)

    monkeypatch.setattr(Sheet, "label", label)
    return said


def findings(bench: Bench, rule: str) -> Iterator[Finding]:
    return (one for one in bench.window.reviews.latest.findings if one.rule == rule)


def painted(bench: Bench, labels: list[Label]) -> list[Label]:
    """What one painting letters; one that was already due goes before."""
    QApplication.processEvents()
    labels.clear()
    bench.window.grab()
    return list(labels)


@pytest.mark.parametrize("demo", ["garage", "single-garage", "spare-room"])
def test_lanes(bench: Bench, labels: list[Label], demo: str) -> None:
    bench.demo(demo, "place")
    palette, checked = bench.window.theme.palette, 0
    for finding in findings(bench, "lane"):
        (thing,) = finding.about
        bench.workspace.pick(thing)
        own = [
            one for one in painted(bench, labels) if one.owner == thing and one.texts[0].startswith("longest")
        ]
        assert [one.colour for one in own] == [palette.grade(finding.grade)] * len(own)
        checked += len(own)
    assert checked


@pytest.mark.parametrize("share", [0.5, 0.8, 1.05, 3.0])
def test_hoods(bench: Bench, labels: list[Label], share: float) -> None:
    """From a hood that plugs to one that has all that is wanted."""
    bench.demo("garage")
    shop = bench.workspace.shop
    network = bench.window.reviews.latest.answers.of(DuctAnswers).networks[0]
    least = min(one.hoods[0].flow for one in network.sets if one.hoods[0].is_open)
    thing = network.sets[0].hoods[0].thing
    things = tuple(
        replace(
            one,
            ports=tuple(replace(port, chips_flow=least / share, fine_flow=least / 0.7) for port in one.ports),
        )
        if one.id == thing
        else one
        for one in shop.things
    )
    bench.window.keeper.open(
        Document(replace(shop, things=things, ducts=replace(shop.ducts, target="fine"))), None
    )
    bench.stage("ducts")
    (finding,) = [one for one in findings(bench, "hood-flow") if one.where.items[0] == thing]
    expected = {0.5: Grade.STOP, 0.8: Grade.MEND, 1.05: Grade.WATCH, 3.0: Grade.WATCH}
    assert finding.grade == expected[share]
    bench.workspace.view.look_at(gate_set=finding.where.gate_set)
    bench.settle()
    (own,) = [one for one in painted(bench, labels) if one.owner == thing and " of " in one.texts[0]]
    assert own.colour == bench.window.theme.palette.grade(finding.grade)


def test_states_of_ducts_have_the_grades_of_their_findings(bench: Bench, labels: list[Label]) -> None:
    """Speeds are lettered in the colour of the run's state: the worst is the finding's."""
    bench.demo("garage", "ducts")
    palette, seen = bench.window.theme.palette, set[Grade]()
    for finding in list(findings(bench, "chips-move")):
        bench.workspace.view.look_at(gate_set=finding.about[0])
        bench.settle()
        figures = {one.colour for one in painted(bench, labels) if "fpm" in one.texts[0]}
        assert palette.grade(finding.grade) in figures
        assert figures <= {palette.grade(grade) for grade in Grade if grade >= finding.grade}
        seen.add(finding.grade)
    assert Grade.MEND in seen


def test_light_and_duties(bench: Bench, labels: list[Label]) -> None:
    bench.demo("garage")
    answers, palette = bench.window.reviews.latest.answers, bench.window.theme.palette
    bench.stage("power")
    tasks = {task.thing: light_grade(task) for task in answers.of(PowerAnswers).tasks}
    own = [one for one in painted(bench, labels) if one.owner in tasks and " of " in one.texts[0]]
    assert {one.owner: one.colour for one in own}.items() <= {
        k: palette.grade(v) for k, v in tasks.items()
    }.items()
    graded = {one.grade for one in findings(bench, "light")} - {Grade.GOOD}
    assert graded == set(tasks.values()) - {Grade.GOOD}
    due = {due_grade(one) for one in answers.of(KeepAnswers).due} - {Grade.GOOD}
    assert {one.grade for one in findings(bench, "duty")} - {Grade.GOOD} == due


@pytest.mark.parametrize(
    ("room", "rule", "grade"),
    [
        (box_room(6, 5), "closing-gap", Grade.GOOD),
        (
            box_room(6, 5, walls=(*box_room(6, 5).walls[:3], Wall(id="D", length=4.8))),
            "closing-gap",
            Grade.MEND,
        ),
        (box_room(6, 5, walls=box_room(6, 5).walls[:2]), "room-open", Grade.MEND),
    ],
)
def test_the_tape_walk(bench: Bench, room: object, rule: str, grade: Grade) -> None:
    bench.window.keeper.open(Document(replace(Shop(units="metric"), room=room)), None)
    bench.stage("room")
    (finding,) = findings(bench, rule)
    assert finding.grade == closing_grade(bench.window.reviews.latest.answers.of(RoomAnswers)) == grade


def test_rings_are_of_the_day_that_is_drawn_below(bench: Bench, labels: list[Label]) -> None:
    bench.demo("garage", "air")

    def rings() -> set[tuple[str, str]]:
        said = ((one.owner, one.texts[0]) for one in painted(bench, labels))
        return {(owner, text) for owner, text in said if text.endswith("past the hood")}

    lost = past_hoods(bench.window.reviews.latest.answers.of(AirAnswers).air)
    assert (
        rings() == {(item, f"{amount / 1000:.2g} g past the hood") for item, amount in lost.items()} != set()
    )
    before = rings()
    first = bench.workspace.shop.air.session.work[0]
    bench.workspace.apply(lambda shop: put(shop, replace(first, minutes=2.0)), "Shorter")
    bench.settle()
    after = past_hoods(bench.window.reviews.latest.answers.of(AirAnswers).air)
    assert (
        rings()
        == {(item, f"{amount / 1000:.2g} g past the hood") for item, amount in after.items()}
        != before
    )


def test_the_days_axis_stays_while_the_course_moves_a_little(bench: Bench) -> None:
    bench.demo("garage", "air")
    chart = bench.window.stages["air"].day

    def top() -> float:
        return float(chart.plot.viewRange()[1][1])

    first, peak = top(), chart.day.courses["central"].peak
    assert 1.35 * peak <= first <= 1.35 * 1.13 * peak
    room = bench.workspace.shop.room
    for share, stays in ((1.001, True), (1.4, False)):
        ceiling = replace(room.ceiling, height=room.ceiling.height * share)
        bench.workspace.apply(lambda shop, c=ceiling: change_room(shop, ceiling=c), "Ceiling")
        bench.settle()
        assert chart.day.courses["central"].peak < peak
        assert (top() == first) == stays


def test_where_an_axis_ends() -> None:
    assert [stepped(top) for top in (1.0, 1.1, 9.0, 0.02)] == pytest.approx(
        [1.0, 1.122, 10.0, 0.02239], rel=1e-3
    )
