"""A thing's form sets it out and takes in where it was found."""

from datetime import date

import pytest
from PySide6.QtWidgets import QLabel, QPushButton

from tests.app.conftest import Bench, enter, field


@pytest.fixture
def planer(bench: Bench) -> Bench:
    bench.demo("garage")
    bench.window.header.units_button.click()  # to millimetres
    bench.stage("place")
    bench.workspace.pick("planer")
    bench.settle()
    return bench


def notes(bench: Bench) -> list[str]:
    return [one.text() for one in bench.window.inspector.findChildren(QLabel) if one.isVisible()]


def button(bench: Bench, text: str) -> QPushButton:
    return next(one for one in bench.window.inspector.findChildren(QPushButton) if one.text() == text)


def walls(bench: Bench) -> list[str]:
    told = next(one for one in notes(bench) if one.startswith("Set out: its "))
    return [told.split(" from wall ")[k][0] for k in (1, 2)]


def test_what_was_read_is_kept_with_its_day_and_accepted(planer: Bench) -> None:
    first, second = walls(planer)
    drawn = planer.workspace.shop.thing("planer")
    assert drawn is not None and drawn.built == ()
    box = field(planer, f"Found from wall {first}")
    was = float(box.line.text().split()[0])
    enter(box, f"{was + 30:.0f} mm")
    planer.settle()
    (reading,) = planer.workspace.shop.thing("planer").built  # type: ignore[union-attr]
    assert reading.day == date.today().isoformat() and [one.wall for one in reading.distances] == [first]
    other = field(planer, f"Found from wall {second}")
    enter(other, other.line.text())
    planer.settle()
    (reading,) = planer.workspace.shop.thing("planer").built  # type: ignore[union-attr]
    assert {one.wall for one in reading.distances} == {first, second}
    assert any("it stands 30 mm" in one for one in notes(planer))
    button(planer, "Accept as built").click()
    planer.settle()
    moved = planer.workspace.shop.thing("planer")
    assert moved is not None and abs(moved.x - drawn.x) + abs(moved.y - drawn.y) == pytest.approx(
        0.03, abs=2e-3
    )
    assert any("it stands where it is drawn" in one for one in notes(planer))
    planer.workspace.undo()
    planer.workspace.undo()
    planer.workspace.undo()
    assert planer.workspace.shop.thing("planer") == drawn


def test_readings_are_forgotten_and_the_trial_begins_on_a_day(planer: Bench) -> None:
    enter(field(planer, "Found turned"), "3")
    planer.settle()
    button(planer, "Forget what was read").click()
    planer.settle()
    assert planer.workspace.shop.thing("planer").built == ()  # type: ignore[union-attr]
    enter(field(planer, "Day since which it is on trial"), "2026-11-04")
    assert planer.workspace.shop.thing("planer").trial_since == "2026-11-04"  # type: ignore[union-attr]
    enter(field(planer, "Day since which it is on trial"), "last week")
    assert planer.workspace.shop.thing("planer").trial_since == "2026-11-04"  # type: ignore[union-attr]


def test_what_sets_a_thing_out_follows_it_when_it_is_let_go(planer: Bench) -> None:
    before = next(one for one in notes(planer) if one.startswith("Set out: its "))
    thing = planer.workspace.shop.thing("planer")
    assert thing is not None
    planer.drag((thing.x, thing.y), (thing.x + 0.5, thing.y + 0.4), drop=False)
    assert next(one for one in notes(planer) if one.startswith("Set out: its ")) == before
    planer.window.plan.let_go()
    planer.settle()
    after = next(one for one in notes(planer) if one.startswith("Set out: its "))
    assert after != before
