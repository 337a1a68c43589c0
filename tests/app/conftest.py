"""The real window on the offscreen platform.

Unexpected Qt messages fail a test, and so does what it leaves behind: windows, timers that run, threads.
"""

import os
from collections.abc import Iterator
from functools import cache
from importlib import import_module
from pathlib import Path
from pkgutil import walk_packages
from weakref import WeakSet

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import pytest
from PySide6 import QtCore
from PySide6.QtCore import (
    QCoreApplication,
    QEvent,
    QPoint,
    QPointF,
    QSettings,
    Qt,
    QtMsgType,
    qInstallMessageHandler,
)
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog, QMainWindow
from pytestqt.qtbot import QtBot
from shiboken6 import isValid

import purvel.app
from purvel.app.application import make_application
from purvel.app.widgets.fields import ChoiceField, TextField
from purvel.app.window import Window
from purvel.demo import demo_bytes
from purvel.files import Document, loads
from purvel.review import Memory, review

ALLOWED = ("propagateSizeHints", "XDG_RUNTIME_DIR")


TIMERS: WeakSet[QtCore.QTimer] = WeakSet()


class KnownTimer(QtCore.QTimer):
    """A timer that the tests know of, whoever made it."""

    def __init__(self, *args: object, **kwargs: object) -> None:
        super().__init__(*args, **kwargs)
        TIMERS.add(self)


@pytest.fixture(scope="session")
def qapp() -> QApplication:
    for found in walk_packages(purvel.app.__path__, "purvel.app."):
        module = import_module(found.name)
        if hasattr(module, "QTimer"):
            module.QTimer = KnownTimer
    return make_application(["purvel-test"])


@pytest.fixture
def qt_messages() -> Iterator[list[str]]:
    """What Qt had to say."""
    said: list[str] = []

    def hear(kind: QtMsgType, _: object, message: str) -> None:
        if kind != QtMsgType.QtDebugMsg and not any(word in message for word in ALLOWED):
            said.append(message)

    before = qInstallMessageHandler(hear)
    yield said
    qInstallMessageHandler(before)


@cache
def _known(name: str) -> tuple[Document, Memory]:
    """A demo, and what a review of it says: not every window finds it out again."""
    document = loads(demo_bytes(name))
    memory = Memory(attachments=document.named())
    review(document.shop, memory)
    return document, memory


class Bench:
    """Hands for a test: real clicks, keys and drags in plan metres."""

    def __init__(self, bot: QtBot, window: Window) -> None:
        self.bot, self.window, self.workspace = bot, window, window.workspace

    def settle(self, *, whole: bool = False) -> None:
        """Waits for the review of what is shown; for its long searches too where asked for."""
        reviews = self.window.reviews
        self.bot.waitUntil(lambda: not reviews.is_stale, timeout=20_000)
        if whole:
            self.bot.waitUntil(lambda: not reviews.is_stale and reviews.latest.is_whole, timeout=60_000)
        QApplication.processEvents()

    def demo(self, name: str, stage: str = "") -> None:
        """Opens a demo, in a stage."""
        if stage:
            self.window.show_stage(stage)
        document, memory = _known(name)
        self.window.reviews.memory = memory.scratch()
        self.window.keeper.open(document, None)
        self.window.fit()
        self.settle()

    def stage(self, key: str) -> None:
        self.window.show_stage(key)
        QApplication.processEvents()
        self.window.plan.fit()
        self.settle()

    def at(self, x: float, y: float) -> QPoint:
        spot: QPointF = self.window.plan.to_window(x, y)
        return spot.toPoint()

    def click(self, x: float, y: float) -> None:
        QTest.mouseClick(
            self.window.plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, self.at(x, y)
        )
        QApplication.processEvents()

    def drag(self, start: tuple[float, float], end: tuple[float, float], *, drop: bool = True) -> None:
        plan = self.window.plan
        a, b = self.at(*start), self.at(*end)
        QTest.mousePress(plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, a)
        for k in range(1, 9):
            QTest.mouseMove(plan, a + (b - a) * k / 8)
            QApplication.processEvents()
        if drop:
            QTest.mouseRelease(plan, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, b)
        QApplication.processEvents()

    def keys(self, *keys: Qt.Key | str, shift: bool = False) -> None:
        modifier = Qt.KeyboardModifier.ShiftModifier if shift else Qt.KeyboardModifier.NoModifier
        for key in keys:
            if isinstance(key, str):
                QTest.keyClicks(self.window.plan, key)
            else:
                QTest.keyClick(self.window.plan, key, modifier)
        QApplication.processEvents()


def field(bench: Bench, name: str) -> TextField:
    """The field of this name that is shown."""
    found = [
        one
        for one in bench.window.findChildren(TextField)
        if one.name == name and one.isVisibleTo(bench.window)
    ]
    return found[0]


def enter(field: TextField, text: str) -> None:
    """Types a text over what is in a field, and Enter."""
    field.line.setFocus()
    field.line.selectAll()
    QTest.keyClicks(field.line, text)
    QTest.keyClick(field.line, Qt.Key.Key_Return)
    QApplication.processEvents()


def choose(field: ChoiceField, value: object) -> None:
    """Chooses as a hand does."""
    index = field._keys.index(value)
    field.setCurrentIndex(index)
    field.activated.emit(index)
    QApplication.processEvents()


@pytest.fixture
def processors() -> int:
    """How many the window thinks there are: with one it begins no other process."""
    return 1


@pytest.fixture
def bench(
    qtbot: QtBot, qapp: QApplication, tmp_path: Path, qt_messages: list[str], processors: int
) -> Iterator[Bench]:
    with (
        pytest.MonkeyPatch.context() as kept
    ):  # of its own: what a test patches ends before the window closes
        kept.setattr("purvel.files.own_kinds.library_path", lambda: tmp_path / "kinds.toml")
        kept.setattr("purvel.app.other_half.processors", lambda: processors)
        yield from _bench(qtbot, tmp_path, qt_messages)


def _bench(qtbot: QtBot, tmp_path: Path, qt_messages: list[str]) -> Iterator[Bench]:
    settings = QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat)
    window = Window(tmp_path / "autosave", settings)
    window.resize(1280, 800)
    window.show()
    hands = Bench(qtbot, window)
    hands.settle()
    yield hands
    window.close()
    window.deleteLater()
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    QApplication.processEvents()
    del hands.window, hands.workspace, window  # pytest keeps what a test was given a while longer
    assert qt_messages == []


@pytest.fixture(autouse=True)
def nothing_is_left(qapp: QApplication) -> Iterator[None]:
    """After the test no window is there that was not before, and no timer runs."""
    before, ran = set(QApplication.topLevelWidgets()), _running()
    yield
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    left = [one for one in QApplication.topLevelWidgets() if one not in before]
    # parts that were never shown go with the objects that hold them
    assert [one for one in left if one.isVisible() or isinstance(one, QMainWindow | QDialog)] == [], "windows"
    assert _running() <= ran, "timers"


def _running() -> set[QtCore.QTimer]:
    return {timer for timer in TIMERS if isValid(timer) and timer.isActive()}
