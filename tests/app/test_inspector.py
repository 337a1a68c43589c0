"""The inspector goes both ways: what is entered changes the document, what changes in the document is shown,
what is refused changes nothing.
"""

from collections.abc import Callable
from typing import Any

import pytest
from PySide6.QtWidgets import QCheckBox, QPlainTextEdit, QPushButton

from purvel.app.widgets.fields import ChoiceField, TextField
from purvel.review.ducts.answers import DuctAnswers
from purvel.shop import Fixture, Opening, Run, Shop, Thing, WorkInterval
from tests.app.conftest import Bench, enter

Read = Callable[[Shop], Any]


def thing(name: str) -> Callable[[Shop], Thing]:
    return lambda shop: next(one for one in shop.things if one.id == name)


def opening(name: str) -> Callable[[Shop], Opening]:
    return lambda shop: next(one for one in shop.room.openings if one.id == name)


def fixture(name: str) -> Callable[[Shop], Fixture]:
    return lambda shop: next(one for one in shop.room.fixtures if one.id == name)


def run(name: str) -> Callable[[Shop], Run]:
    return lambda shop: next(one for one in shop.ducts.runs if one.id == name)


def interval(name: str) -> Callable[[Shop], WorkInterval]:
    return lambda shop: next(one for one in shop.air.session.work if one.id == name)


def text_field(bench: Bench, name: str) -> TextField:
    return next(
        one for one in bench.window.inspector.findChildren(TextField) if one.line.accessibleName() == name
    )


def choice(bench: Bench, name: str) -> ChoiceField:
    return next(
        one for one in bench.window.inspector.findChildren(ChoiceField) if one.accessibleName() == name
    )


def tick(bench: Bench, words: str) -> QCheckBox:
    return next(one for one in bench.window.inspector.findChildren(QCheckBox) if one.text().startswith(words))


FIELDS: list[tuple[str, str, str, Read, float | str, str]] = [
    # picked, field, typed, where it goes, what is there then [SI], what is refused
    ("planer", "Name", "Old planer", lambda s: thing("planer")(s).name, "Old planer", "x" * 300),
    ("planer", "Width", "2'", lambda s: thing("planer")(s).width, 0.6096, "0"),
    ("planer", "Depth", "500 mm", lambda s: thing("planer")(s).depth, 0.5, "wide"),
    ("planer", "Height", "1.2 m", lambda s: thing("planer")(s).height, 1.2, "90 m"),
    ("planer", "Table height", "34 1/2", lambda s: thing("planer")(s).work_height, 0.8763, "-3"),
    ("planer", "Base above the floor", "4", lambda s: thing("planer")(s).z, 0.1016, "over there"),
    ("planer", "Angle", "-90", lambda s: thing("planer")(s).angle, 270.0, "720"),
    (
        "planer",
        "Flow that clears the chips",
        "380",
        lambda s: thing("planer")(s).ports[0].chips_flow,
        0.17934,
        "lots",
    ),
    (
        "planer",
        "Flow that catches fine dust",
        "1200 m3/h",
        lambda s: thing("planer")(s).ports[0].fine_flow,
        1 / 3,
        "0",
    ),
    ("collector", "Filter area", "48.4", lambda s: thing("collector")(s).source.filter.area, 4.49651, "0"),
    ("collector", "Filter area", "4.5 m²", lambda s: thing("collector")(s).source.filter.area, 4.5, "0"),
    ("car-door", "From its start", "1' 6", lambda s: opening("car-door")(s).offset, 0.4572, "later"),
    ("car-door", "Takes above it", "12", lambda s: opening("car-door")(s).headroom, 0.3048, "99 m"),
    ("car-door", "Room outside", "5 m", lambda s: opening("car-door")(s).outside, 5.0, "500 m"),
    ("post", "Width", "6", lambda s: fixture("post")(s).width, 0.1524, "0"),
    ("post", "Top", "2.4 m", lambda s: fixture("post")(s).top, 2.4, "no"),
    (
        "main",
        "Height of all its corners",
        "7'",
        lambda s: max(p.z for p in run("main")(s).points),
        2.1336,
        "30 m",
    ),
]


@pytest.mark.parametrize(
    ("picked", "name", "typed", "read", "then", "refused"),
    FIELDS,
    ids=[f"{row[0]}-{row[1]}" for row in FIELDS],
)
def test_a_field_goes_both_ways(
    bench: Bench, picked: str, name: str, typed: str, read: Read, then: float | str, refused: str
) -> None:
    bench.demo("garage")
    bench.workspace.pick(picked)
    before = bench.workspace.shop
    field = text_field(bench, name)
    shown = field.line.text()
    enter(field, typed)
    now = read(bench.workspace.shop)
    assert now == (pytest.approx(then, rel=1e-4) if isinstance(then, float) else then)
    after = bench.workspace.shop
    enter(text_field(bench, name), refused)
    assert bench.workspace.shop == after
    field = text_field(bench, name)
    assert field.line.text() == refused[:300] and field.refusal.text()
    bench.workspace.undo()
    assert bench.workspace.shop == before
    field.line.setModified(False)
    bench.window.refresh()
    assert text_field(bench, name).line.text() == shown


def test_choices_and_ticks_go_both_ways(bench: Bench) -> None:
    bench.demo("garage")
    bench.workspace.pick("planer")
    for words, key in (("On wheels", "wheels"), ("Fixed: leave it where it is", "settled")):
        box = tick(bench, words)
        was = getattr(thing("planer")(bench.workspace.shop), key)
        box.click()
        assert getattr(thing("planer")(bench.workspace.shop), key) is not was
        bench.workspace.undo()
        assert tick(bench, words).isChecked() is was
    how = choice(bench, "How the sizes were got")
    how.setCurrentIndex(3)
    how.activated.emit(3)
    assert thing("planer")(bench.workspace.shop).provenance == "paced"
    assert any(one.basis.kind == "a guess" for one in _review(bench) if one.about == ("planer",))


def _review(bench: Bench) -> Any:
    bench.settle()
    return bench.window.reviews.latest.findings


def test_a_clogged_filter_takes_flow_and_a_clean_one_gives_it(bench: Bench) -> None:
    bench.demo("garage-mended")
    bench.settle()

    def flow() -> float:
        bench.settle()
        return bench.window.reviews.latest.answers.of(DuctAnswers).networks[0].sets[0].flow

    seasoned = flow()
    bench.workspace.pick("collector")
    found = {}
    for state in ("clean", "clogged"):
        box = choice(bench, "State of the filter")
        index = ["clean", "seasoned", "clogged"].index(state)
        box.setCurrentIndex(index)
        box.activated.emit(index)
        found[state] = flow()
    assert found["clogged"] < seasoned < found["clean"]


def test_a_sill_above_its_head_and_a_bottom_above_its_top_are_refused(bench: Bench) -> None:
    bench.demo("garage")
    window = next(one.id for one in bench.workspace.shop.room.openings if one.kind == "window")
    before = bench.workspace.shop
    bench.workspace.pick(window)
    enter(text_field(bench, "Sill"), "9'")
    assert bench.workspace.shop == before and "sill must be below" in bench.window.notice.said.text()
    bench.workspace.pick("post")
    enter(text_field(bench, "Bottom"), "20'")
    assert bench.workspace.shop == before and "bottom must be below" in bench.window.notice.said.text()


def test_work_is_changed_in_place(bench: Bench) -> None:
    bench.demo("garage", "air")
    first = bench.workspace.shop.air.session.work[0].id
    bench.workspace.pick(first)
    enter(text_field(bench, "Lasts"), "22 min")
    enter(text_field(bench, "Throws off, central"), "100")
    changed = interval(first)(bench.workspace.shop)
    assert changed.minutes == 22.0 and changed.emission == (20.0, 100.0, 500.0)
    work = choice(bench, "Work")
    work.setCurrentIndex(1)
    work.activated.emit(1)
    assert (
        interval(first)(bench.workspace.shop).operation == "mitre-saw"
        and interval(first)(bench.workspace.shop).emission[1] == 48.0
    )


def test_taking_away_and_an_empty_inspector(bench: Bench) -> None:
    bench.demo("garage")
    bench.workspace.pick("planer")
    away = next(one for one in bench.window.inspector.findChildren(QPushButton) if one.text() == "Take away")
    away.click()
    assert bench.workspace.shop.thing("planer") is None and bench.workspace.picked is None
    assert bench.window.inspector.findChildren(TextField) == []
    bench.workspace.undo()
    assert bench.workspace.shop.thing("planer") is not None


def test_units_change_what_the_fields_show(bench: Bench) -> None:
    bench.demo("garage")
    bench.workspace.pick("planer")
    assert text_field(bench, "Flow that clears the chips").line.text() == "400 cfm"
    bench.window.switch_units()
    assert text_field(bench, "Flow that clears the chips").line.text() == "680 m³/h"
    assert text_field(bench, "Width").line.text().endswith(" mm")


def test_rows_come_and_go_with_what_the_item_has_and_the_keyboard_stays(bench: Bench) -> None:
    bench.demo("garage", "ducts")
    bench.workspace.pick("main")

    def gates() -> list[str]:
        names = [one.line.accessibleName() for one in bench.window.inspector.findChildren(TextField)]
        return [name for name in names if name.startswith("Where Main gate")]

    assert gates() == []
    bench.window.stages["ducts"].tool.add_gate("main", 0.5)
    assert len(gates()) == 1
    bench.workspace.undo()
    assert gates() == []
    made = choice(bench, "Material")
    made.setFocus()
    hose = next(index for index, key in enumerate(made._keys) if "hose" in str(key))
    made.setCurrentIndex(hose)
    made.activated.emit(hose)
    assert (
        text_field(bench, "By how much it hangs shorter than stretched")
        and choice(bench, "Material").hasFocus()
    )
    bench.workspace.pick("collector")
    points = bench.window.inspector.findChild(QPlainTextEdit)
    before = points.toPlainText()
    points.setPlainText("0 10\n1,200 4")
    next(
        one for one in bench.window.inspector.findChildren(QPushButton) if one.text() == "Use these points"
    ).click()
    source = thing("collector")(bench.workspace.shop).source
    assert source.curve[1].flow == pytest.approx(1200 * 0.3048**3 / 60)
    bench.workspace.undo()
    assert bench.window.inspector.findChild(QPlainTextEdit).toPlainText() == before
