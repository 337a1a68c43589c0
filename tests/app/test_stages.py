"""What every stage owes: it fits, nothing is clipped at 24 px, the keyboard reaches all, all have names, an
empty shop says what to do.
"""

from dataclasses import replace
from itertools import pairwise
from pathlib import Path

import pytest
from PySide6.QtCore import QSettings, QSize, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QCheckBox,
    QComboBox,
    QLineEdit,
    QPushButton,
    QToolButton,
    QWidget,
)

from purvel.app.keeping import Keeper
from purvel.app.stages import ENTRIES
from purvel.app.theme import DARK, LIGHT, Palette
from purvel.app.widgets.flow import FitRow
from purvel.app.window import Window
from purvel.app.workspace import Workspace
from purvel.catalogue import make_thing
from purvel.review import Grade
from purvel.review.stages import ORDER
from purvel.shop import PortRef, Room, Run, Shop, Wall
from purvel.shop.edits import change_shop, put
from tests.app.conftest import Bench
from tests.conftest import box_room

STAGES = ORDER
CONTROLS = (QAbstractButton, QLineEdit, QComboBox)


def visible(bench: Bench, *kinds: type) -> list[QWidget]:
    return [one for one in bench.window.findChildren(QWidget) if isinstance(one, kinds) and one.isVisible()]


@pytest.mark.parametrize("stage", STAGES)
@pytest.mark.parametrize(
    ("size", "pixels"), [((1280, 800), 15), ((1024, 700), 15), ((1280, 800), 24), ((1024, 700), 24)]
)
def test_it_fits_and_no_word_is_cut(bench: Bench, stage: str, size: tuple[int, int], pixels: int) -> None:
    bench.window.resize(*size)
    bench.window.theme.set_text(pixels)
    bench.demo("garage", stage)
    assert bench.window.size() == QSize(*size) and bench.window.plan.height() >= 150
    for one in visible(bench, QPushButton, QToolButton, QCheckBox):
        if one.objectName() in ("flat", "work", "move"):
            continue  # these wrap, or lie in a panel that scrolls
        text = one.text().replace("&", "")  # type: ignore[attr-defined]
        assert one.width() >= one.fontMetrics().horizontalAdvance(text), (text, one.width())
        assert one.height() >= one.fontMetrics().height(), text
    strip = bench.window.stage.strip
    shown = [one for one in strip.findChildren(QWidget) if one.isVisible() and one.parent() is strip]
    assert shown and all(strip.rect().contains(one.geometry()) for one in shown)


@pytest.mark.parametrize("stage", STAGES)
def test_controls_in_a_strip_do_not_overlap(bench: Bench, stage: str) -> None:
    bench.demo("garage", stage)
    rows = [bench.window.stage.strip]
    if stage == "ducts":
        bench.window.stages["ducts"].draw_button.setChecked(True)  # the tool brings its choices along
        QApplication.processEvents()
        rows.append(bench.window.stages["ducts"].tool.tray)
    found = [
        [
            one.geometry()
            for one in row.findChildren(QWidget, options=Qt.FindChildOption.FindDirectChildrenOnly)
            if one.isVisible()
        ]
        for row in rows
    ]
    expected = {
        "room": [7],
        "place": [6],
        "flow": [2],
        "power": [4],
        "ducts": [3, 5],
        "air": [8],
        "walls": [3],
        "spend": [5],
        "keep": [4],
    }
    assert [len(boxes) for boxes in found] == expected[stage]
    for row, boxes in zip(rows, found):
        for i, a in enumerate(boxes):
            assert row.rect().contains(a)
            for b in boxes[i + 1 :]:
                assert not a.intersects(b)


@pytest.mark.parametrize("stage", STAGES)
def test_every_control_has_a_name_and_can_be_reached_by_key(bench: Bench, stage: str) -> None:
    bench.demo("garage-mended", stage)
    bench.workspace.pick("planer")
    QApplication.processEvents()
    for one in visible(bench, *CONTROLS):
        if isinstance(one.parent(), QComboBox):
            continue
        assert one.accessibleName() or getattr(one, "text", str)(), one
        assert one.focusPolicy() & Qt.FocusPolicy.TabFocus or not one.isEnabled(), (one, one.accessibleName())


@pytest.mark.parametrize("stage", STAGES)
def test_an_empty_shop_says_what_to_do(bench: Bench, stage: str) -> None:
    bench.stage(stage)
    hint = bench.window.stage.empty_hint()
    assert hint and ("Press" in hint or "press" in hint)
    bench.window.grab()
    assert not bench.window.notice.isVisible()


@pytest.mark.parametrize("stage", ["ducts", "air"])
def test_where_things_stand_the_first_step_is_said_beside_the_plan(bench: Bench, stage: str) -> None:
    shop = Shop(
        room=box_room(6, 5),
        things=(make_thing("collector", "collector", 1, 1), make_thing("planer", "planer", 4, 3)),
    )
    bench.workspace.open(shop)
    bench.stage(stage)
    said = bench.window.notice.tool
    assert said.isVisible() and "Press “" in said.text()
    if stage == "ducts":
        bench.workspace.apply(
            lambda s: put(
                s, Run(id="main", name="Main", source="collector", port=PortRef(thing="planer", port="hood"))
            ),
            "Draw",
        )
    else:
        bench.window.stages["air"].add_work("planer")
    assert not said.isVisible()


@pytest.mark.parametrize("stage", STAGES)
@pytest.mark.parametrize("demo", ["garage", "spare-room-mended"])
def test_every_stage_draws_every_demo_in_both_looks(bench: Bench, stage: str, demo: str) -> None:
    bench.demo(demo, stage)
    for thing in (None, *bench.workspace.shop.things[:3]):
        bench.workspace.pick(thing.id if thing else None)
        assert not bench.window.grab().isNull()
    bench.window.theme.switch_paper()
    assert bench.window.theme.palette is DARK
    assert not bench.window.grab().isNull()


def test_keys_change_the_stage(bench: Bench) -> None:
    bench.window.plan.setFocus()
    for number, key in enumerate(ORDER):
        bench.keys(Qt.Key(Qt.Key.Key_1 + number))
        assert bench.window.view.now.stage == key
        assert bench.window.instruments.currentWidget() is bench.window.stage.instrument
        assert bench.window.rail.buttons[number].isChecked()


def test_a_strange_room_is_drawn_all_the_same(bench: Bench) -> None:
    crossed = tuple(
        Wall(id=name, length=length, turn=turn)
        for name, length, turn in (("A", 4, 135), ("B", 5.6569, -135), ("C", 4, -135), ("D", 5.6569, 0))
    )
    for walls in (crossed, crossed[:1], (Wall(id="A", length=0.001), Wall(id="B", length=200.0))):
        bench.workspace.open(Shop(room=Room(walls=walls)))
        for stage in STAGES:
            bench.stage(stage)
            assert not bench.window.grab().isNull()


def luminance(colour: str) -> float:
    parts = [int(colour[k : k + 2], 16) / 255 for k in (1, 3, 5)]
    linear = [part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4 for part in parts]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


def contrast(a: str, b: str) -> float:
    """WCAG 2 contrast ratio."""
    high, low = sorted((luminance(a), luminance(b)), reverse=True)
    return (high + 0.05) / (low + 0.05)


@pytest.mark.parametrize("palette", [LIGHT, DARK], ids=lambda palette: palette.name)
def test_contrast(palette: Palette) -> None:
    for ground in (palette.sheet, palette.backdrop, palette.paper):
        for text in (palette.ink, palette.pencil, palette.stop, palette.mend, palette.watch, palette.good):
            assert contrast(text, ground) >= 4.5, (text, ground)
    assert contrast(palette.accent_text, palette.accent) >= 4.5
    assert (
        contrast(palette.ink, palette.wood) >= 4.5
        and contrast(palette.ink, palette.storage) >= 4.5
        and contrast(palette.ink, palette.metal) >= 4.5
    )
    for line in (
        palette.wall,
        palette.wood_edge,
        palette.accent,
        palette.air_fine,
        palette.air_mid,
        palette.air_coarse,
        *(palette.grade(g) for g in Grade),
    ):
        assert contrast(line, palette.sheet) >= 3.0, line


def test_the_workspace_without_a_window(qapp: QApplication, tmp_path: Path) -> None:
    workspace = Workspace(None)
    keeper = Keeper(workspace, tmp_path)
    workspace.apply(lambda shop: change_shop(shop, name="One"), "Name")
    workspace.apply(lambda shop: change_shop(shop, name="Two"), "Name", merge="typing")
    workspace.apply(lambda shop: change_shop(shop, name="Three"), "Name", merge="typing")
    workspace.apply(lambda shop: shop, "Nothing")
    assert (workspace.undo_label, keeper.is_dirty) == ("Name", True)
    workspace.undo()
    assert workspace.shop.name == "One"
    workspace.undo()
    assert workspace.shop == Shop() and workspace.undo_label == ""
    workspace.undo()
    workspace.redo()
    workspace.redo()
    assert workspace.shop.name == "Three" and workspace.redo_label == ""
    keeper.close()


def test_the_header_leaves_out_what_does_not_fit_and_the_menu_has_it(bench: Bench) -> None:
    bench.demo("garage")
    bench.settle(whole=True)  # the number to mend is one of the names
    header = bench.window.findChild(FitRow)

    def names() -> set[str]:
        QApplication.processEvents()
        return {one.text() for one in header.findChildren(QAbstractButton) if one.isVisible()}

    everything = names()
    assert {"Find", "Print", "A+", "A−"} < everything
    bench.window.resize(1024, 700)
    bench.window.theme.set_text(24)
    left = names()
    assert left < everything and {"☰", "Undo"} < left
    assert all(
        one.geometry().right() <= header.width()
        for one in header.findChildren(QAbstractButton)
        if one.isVisible()
    )
    menu = [action.text() for action in bench.window.header.menu_button.menu().actions()]
    assert {"Find anything", "Print the binder …", "Larger text", "Smaller text"} <= set(menu)
    bench.window.resize(1280, 800)
    bench.window.theme.set_text(15)
    assert names() == everything


def test_the_text_grows_by_key_and_by_menu(bench: Bench) -> None:
    QTest.keyClick(bench.window, Qt.Key.Key_Plus, Qt.KeyboardModifier.ControlModifier)
    assert bench.window.theme.pixels == 18
    next(
        action
        for action in bench.window.header.menu_button.menu().actions()
        if action.text() == "Smaller text"
    ).trigger()
    assert bench.window.theme.pixels == 15


def test_what_is_being_typed_outlives_a_change_of_units_and_text(bench: Bench) -> None:
    bench.stage("room")
    room = bench.window.stages["room"]
    QTest.keyClicks(room.wall_length.line, "4.2 m")
    room.turn.setCurrentIndex(2)
    bench.window.switch_units()
    bench.window.theme.set_text(21)
    assert room.wall_length.line.text() == "4.2 m" and room.turn.currentIndex() == 2
    QTest.keyClick(room.wall_length.line, Qt.Key.Key_Return)
    (wall,) = bench.workspace.shop.room.walls
    assert wall.length == pytest.approx(4.2) and wall.turn == 45.0


@pytest.mark.parametrize(("pixels", "size"), [(24, (1024, 700)), (24, (1280, 800)), (15, (900, 600))])
def test_the_rail_holds_ten_stages(
    qapp: QApplication, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, pixels: int, size: tuple[int, int]
) -> None:
    ten = tuple(replace(ENTRIES[number % 4]) for number in range(10))
    monkeypatch.setattr("purvel.app.rail.ENTRIES", ten)
    settings = QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat)
    settings.setValue("text", pixels)
    window = Window(tmp_path / "autosave", settings)
    window.show()
    window.resize(*size)
    QApplication.processEvents()
    boxes = [button.geometry() for button in window.rail.buttons]
    assert len(boxes) == 10 and window.height() == size[1]
    assert all(above.bottom() < below.top() for above, below in pairwise(boxes))
    assert boxes[-1].bottom() <= window.rail.height() and boxes[-1].right() <= window.rail.width()
    for button in window.rail.buttons:
        assert button.height() >= button.fontMetrics().height()
        assert button.fontMetrics().horizontalAdvance(button.text()) <= button.width()
    assert window.rail.mapTo(window, window.rail.rect().bottomLeft()).y() < size[1]
    window.close()
    window.deleteLater()
