"""From the start to the first paint; from an empty page to the first true answer, by keys and buttons."""

import gc
from collections.abc import Callable, Iterator
from dataclasses import replace
from pathlib import Path

import pytest
from PySide6.QtCore import QSettings, Qt, QTimer
from PySide6.QtGui import QColor, QPaintEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel, QPushButton, QToolButton, QWidget

from purvel.app.frame import Frame
from purvel.app.running import run
from purvel.app.theme import DARK, LIGHT
from purvel.app.window import Window
from purvel.cli import open_window
from purvel.demo import demo_bytes
from purvel.files import Document, loads
from purvel.files.autosave import Origin, Slot
from purvel.review.place.answers import PlaceAnswers
from purvel.shop import Shop
from purvel.shop.edits import as_rectangle
from tests.app.conftest import Bench
from tests.conftest import box_room


def test_two_walls_a_machine_and_its_longest_board(bench: Bench) -> None:
    """Two lengths, one button, one stage, one machine: six steps until a board's length is told."""
    room = bench.window.stages["room"]
    steps = 0
    for length in ("6 m", "4 m"):
        line = room.wall_length.line  # type: ignore[attr-defined]
        line.setFocus()
        QTest.keyClicks(line, length)
        QTest.keyClick(line, Qt.Key.Key_Return)
        steps += 1
    room.close_loop()  # type: ignore[attr-defined]
    bench.stage("place")
    bench.window.stages["place"].place("table-saw")  # type: ignore[attr-defined]
    bench.settle()
    steps += 3
    assert steps <= 6
    walls = bench.workspace.shop.room.walls
    assert [wall.length for wall in walls] == pytest.approx([6.0, 4.0, 6.0, 4.0])
    assert [wall.provenance for wall in walls] == ["measured", "measured", "paced", "paced"]
    lanes = bench.window.reviews.latest.answers.of(PlaceAnswers).lanes
    (lane,) = lanes.values()
    assert lane.into.length + lane.out.length == pytest.approx(4.0)
    told = next(one for one in bench.window.reviews.latest.of("place") if one.rule == "lane")
    assert "Table saw takes" in told.sentence
    for _ in range(4):
        bench.workspace.undo()
    assert bench.workspace.shop.room.walls == () and bench.workspace.shop.things == ()


def test_only_two_walls_square_to_each_other_make_a_rectangle(bench: Bench) -> None:
    shop = bench.workspace.shop
    walls = box_room(6, 4).walls

    def made(*some: object) -> object:
        return as_rectangle(replace(shop, room=replace(shop.room, walls=tuple(some))))  # type: ignore[arg-type]

    assert made(*walls[:2]) is not None and made(*walls[:3]) is None and made() is None
    assert made(replace(walls[0], turn=80.0), walls[1]) is None
    clockwise = made(replace(walls[0], turn=-90.0), walls[1])
    assert [wall.turn for wall in clockwise.room.walls] == [-90.0] * 4  # type: ignore[attr-defined]


@pytest.fixture
def started(
    qapp: QApplication, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> Iterator[tuple[Frame, Callable[[], Window]]]:
    """The frame of a start, and its window once there is one; its application runs for no time and ends
    with 3.
    """
    settings = QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat)
    settings.setValue("look", "dark")
    settings.setValue("text", 21)
    frame, made = Frame("mine.purvel", settings), list[Window]()

    def window(frame: Frame) -> Window:
        made.append(Window(tmp_path / "autosave", frame=frame))
        return made[-1]

    monkeypatch.setattr("purvel.app.running.Frame", lambda name: frame)
    monkeypatch.setattr("purvel.app.window.Window", window)
    monkeypatch.setattr(QApplication, "exec", lambda *_: 3)
    yield frame, lambda: made[-1]
    frame.close()
    frame.deleteLater()


def test_the_frame_is_painted_before_the_shop_that_it_is_started_with(
    started: tuple[Frame, Callable[[], Window]], tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """In the user's colours, which the window takes over."""
    frame, window = started
    shop, seen, paints, paint = loads(demo_bytes("spare-room-mended")), list[QColor](), [0], Frame.paintEvent

    def painted(one: Frame, event: QPaintEvent) -> None:
        paints[0] += 1
        paint(one, event)

    def read() -> Document:
        assert paints[0] and frame.held is None
        (line,) = frame.findChildren(QLabel)
        assert line.text() == "Opening mine.purvel …"
        seen.append(frame.grab().toImage().pixelColor(3, 3))
        return shop

    monkeypatch.setattr(Frame, "paintEvent", painted)
    looked_for = gc.isenabled()
    assert run(tmp_path / "mine.purvel", read) == 3
    assert gc.isenabled() == looked_for  # whoever had settled that
    assert seen == [QColor(DARK.backdrop)] and window().theme is frame.theme
    assert window().workspace.shop == shop.shop and window().isVisible()
    assert (
        frame.windowTitle() == f"{shop.shop.name} (mine.purvel) · Purvel" and frame.size() == window().size()
    )
    frame.theme.switch_paper()
    assert frame.grab().toImage().pixelColor(3, 3) == QColor(LIGHT.backdrop)


def test_all_letters_have_the_users_size_from_the_first_paint(
    started: tuple[Frame, Callable[[], Window]], tmp_path: Path
) -> None:
    frame, _ = started
    assert run(None, None) == 3

    def sizes(one: QWidget) -> set[int]:
        return {
            part.font().pixelSize() for kind in (QPushButton, QToolButton) for part in one.findChildren(kind)
        }

    assert sizes(frame) == {21}
    frame.settings.setValue("text", 24)
    alone = Window(tmp_path / "other", frame.settings)
    assert sizes(alone) == {24}
    alone.close()
    alone.deleteLater()


def test_keys_reach_the_window_where_nothing_has_the_keyboard(
    started: tuple[Frame, Callable[[], Window]],
) -> None:
    frame, window = started
    assert run(None, lambda: loads(demo_bytes("spare-room-mended"))) == 3
    QTest.keyClicks(window().plan, "3")
    assert window().view.now.stage == "flow"
    window().plan.setFocus()
    window().plan.clearFocus()
    assert frame.focusWidget() is None
    QTest.keyClicks(frame, "2")
    assert window().view.now.stage == "place"
    units = window().workspace.shop.units
    QTest.keyClicks(frame, "u")
    assert window().workspace.shop.units != units


def test_the_frame_closes_with_what_it_holds_and_only_then(
    started: tuple[Frame, Callable[[], Window]], monkeypatch: pytest.MonkeyPatch
) -> None:
    frame, window = started
    assert run(None, None) == 3 and window().workspace.shop == Shop()
    window().workspace.apply(lambda shop: replace(shop, name="Mine"), "Name it")
    monkeypatch.setattr(window().keeper, "keep_now", lambda: False)
    assert not frame.close() and frame.isVisible() and window().isVisible()
    assert window().notice.said.text().startswith("Your work could be kept nowhere")
    QTest.mouseClick(window().notice.buttons[1], Qt.MouseButton.LeftButton)
    assert not frame.isVisible()


def test_a_frame_that_is_closed_before_its_shop_is_there_ends_the_program(
    started: tuple[Frame, Callable[[], Window]],
) -> None:
    frame, _ = started
    QTimer.singleShot(0, frame.close)
    assert run(None, lambda: pytest.fail("nobody waits for this")) == 0


def test_a_file_that_cannot_be_read_ends_the_start(
    started: tuple[Frame, Callable[[], Window]], tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "half.purvel"
    path.write_bytes(demo_bytes("garage")[:1000])
    with pytest.raises(SystemExit) as ended:
        open_window(path)
    assert ended.value.code == 2 and "not a whole shop file" in capsys.readouterr().err
    assert started[0].held is None


@pytest.mark.parametrize("left", ["", "Old work"])
def test_from_a_desktop_the_window_says_why_a_file_is_not_open(
    started: tuple[Frame, Callable[[], Window]], tmp_path: Path, left: str
) -> None:
    """Where nobody sees what is printed; what a crash left is offered with it."""
    _, window = started
    path = tmp_path / "half.purvel"
    path.write_bytes(demo_bytes("garage")[:1000])
    if left:
        slot = Slot(tmp_path / "autosave")
        slot.keep(Document(Shop(name=left)), Origin())
        slot.let_go()
    assert open_window(path, say_in_window=True) == 3
    said = window().notice.said.text()
    assert said.startswith("half.purvel is not a whole shop file") and "It was not opened." in said
    assert ("Old work" in said) is bool(left) and len(window().notice.buttons) == (3 if left else 1)
    assert window().isVisible() and window().workspace.shop == Shop() and window().keeper.path is None
    assert path.read_bytes() == demo_bytes("garage")[:1000]
