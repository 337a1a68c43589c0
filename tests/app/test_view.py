"""What is looked at lives outside the widgets: looking elsewhere changes nothing and asks for no review."""

from dataclasses import replace

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from purvel.app.picked.set_out import _told
from purvel.app.plan import draw_lanes
from purvel.app.widgets.words import Words
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.stages import ORDER
from purvel.shop.edits import change, move_thing, put
from tests.app.conftest import Bench


def test_looking_at_another_choice_of_gates_starts_no_review(bench: Bench) -> None:
    bench.demo("garage", "ducts")
    walk, reviews = bench.window.stages["ducts"].walk, bench.window.reviews
    serial, latest, before = reviews.serial, reviews.latest, bench.workspace.shop
    seen = set()
    for flows in walk.network.sets:
        bench.window.view.look_at(gate_set=flows.id)
        assert walk.flow() is flows and walk.chart.chosen is flows
        assert walk.chart.called == walk.name_of(flows)
        seen.add(bench.window.plan.grab().toImage().cacheKey())
    assert reviews.serial == serial and not reviews.is_stale and reviews.latest is latest
    assert bench.workspace.shop is before and not bench.window.keeper.is_dirty


def test_all_widgets_show_one_view(bench: Bench) -> None:
    bench.demo("garage")
    bench.window.view.look_at(stage="ducts", picked="planer", gate_set="set-all")
    assert bench.window.stage.entry.key == "ducts" and bench.window.stage.view is bench.window.view.now
    assert (
        bench.window.rail.buttons[ORDER.index("ducts")].isChecked()
        and not bench.window.rail.buttons[0].isChecked()
    )
    assert bench.window.inspector._form is not None and bench.window.inspector._form.item == "planer"
    assert bench.window.stages["ducts"].walk.hood().thing == "planer"
    finding = next(one for one in bench.window.reviews.latest.of("ducts") if one.where.gate_set is not None)
    bench.window.findings.reveal(finding)
    view = bench.window.view.now
    assert (view.open_finding, view.gate_set) == (finding.key, finding.where.gate_set)
    assert bench.window.findings.opened == finding


def test_the_instrument_never_mixes_two_reviews(bench: Bench) -> None:
    """While a newer review is under way names, gates, flows and curve are of the last one, and marked so."""
    bench.demo("garage", "ducts")
    walk, reviews = bench.window.stages["ducts"].walk, bench.window.reviews
    bench.window.view.look_at(gate_set="set-all")
    old = reviews.latest
    own = next(one for one in bench.workspace.shop.ducts.gate_sets if one.id == "set-all")
    bench.workspace.apply(lambda shop: put(shop, replace(own, name="Dust day", open=("saw-gate",))), "Change")
    bench.workspace.apply(lambda shop: change(shop, "main", diameter=0.2), "Wider")
    if reviews.is_stale:  # it is, unless the review was quicker than these two lines
        assert walk.answers is old.answers and walk.chart.is_stale
        assert walk.chart.called == old.answers.of(DuctAnswers).choice_name("set-all") == "All gates open"
        assert walk.network in old.answers.of(DuctAnswers).networks
    bench.settle()
    now = reviews.latest.answers.of(DuctAnswers)
    assert walk.chart.called == "Dust day" and not walk.chart.is_stale
    assert walk.network in now.networks and walk.flow().open_gates == ("saw-gate",)


def test_a_choice_that_is_not_reviewed_yet_leaves_the_last_one_on_the_screen(bench: Bench) -> None:
    bench.demo("garage", "ducts")
    walk = bench.window.stages["ducts"].walk
    walk.choose("alone/jointer/chute")
    walk.choose("not-there-yet")
    assert walk.flow().id == "alone/jointer/chute"


def test_opening_another_shop_looks_at_nothing_of_the_last(bench: Bench) -> None:
    bench.demo("garage")
    bench.window.view.look_at(picked="planer", gate_set="set-all")
    bench.demo("spare-room")
    view = bench.window.view.now
    assert (view.picked, view.gate_set, view.open_finding) == (None, None, None)


def test_what_does_not_follow_the_hand_comes_when_it_lets_go(
    bench: Bench, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The curve is grey and the way's narrowest place away as long as a machine is held, not by turns with
    each review that catches up.
    """
    bench.demo("garage", "ducts")
    chart, reviews, plan = bench.window.stages["ducts"].walk.chart, bench.window.reviews, bench.window.plan
    ways, way = list[str](), draw_lanes.narrowest
    monkeypatch.setattr(draw_lanes, "narrowest", lambda *args: (ways.append(args[1].thing), way(*args)))
    for stage, thing in (("ducts", "workbench"), ("place", "jointer")):
        bench.window.show_stage(stage)
        held = bench.workspace.shop.thing(thing)
        assert held is not None
        bench.drag((held.x, held.y), (held.x, held.y - 0.4), drop=False)
        bench.settle()
        assert plan.is_dragging and reviews.latest.shop is bench.workspace.shown_base
        assert not reviews.is_settled and (chart.is_stale or stage == "place")
        ways.clear()
        plan.repaint()
        assert not ways
        QTest.mouseRelease(plan, Qt.MouseButton.LeftButton)
        assert reviews.is_settled and not chart.is_stale
        put_down = bench.workspace.shop.thing(thing)
        assert put_down is not None
        (said,) = (
            one.text() for one in bench.window.inspector.findChildren(Words) if "Set out:" in one.text()
        )
        assert _told(bench.window.inspector._form, put_down) == said
        plan.repaint()
        assert ("jointer" in ways) is (stage == "place")


def test_a_review_of_what_is_in_the_hand_leaves_form_and_section_as_they_are(
    bench: Bench, monkeypatch: pytest.MonkeyPatch
) -> None:
    """They follow the hand, and another thing that is picked meanwhile."""
    bench.demo("garage", "place")
    window, stage = bench.window, bench.window.stages["place"]
    held = bench.workspace.shop.thing("jointer")
    assert held is not None
    bench.drag((held.x, held.y), (held.x - 0.3, held.y - 0.4), drop=False)
    bench.settle()
    asked = list[str]()
    monkeypatch.setattr(type(window.inspector._form), "refresh", lambda *_: asked.append("form"))
    monkeypatch.setattr(stage.section, "update", lambda: asked.append("section"))
    window.reviews.reviewed.emit()
    assert asked == []
    bench.workspace.apply(lambda shop: move_thing(shop, "jointer", 3.0, 3.0), "Move", merge="drag jointer")
    assert set(asked) == {"form", "section"}
    bench.workspace.view.look_at(picked="planer")
    assert window.inspector._form.item == "planer"
    QTest.mouseRelease(window.plan, Qt.MouseButton.LeftButton)
