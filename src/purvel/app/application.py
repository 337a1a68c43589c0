"""The QApplication: name, icon, typeface."""

import ctypes
import gc
import sys
from importlib.resources import as_file, files

from PySide6.QtCore import QByteArray, QSize, Qt, QTimer
from PySide6.QtGui import QFont, QFontDatabase, QIcon, QPainter, QPixmap
from PySide6.QtSvg import QSvgRenderer
from PySide6.QtWidgets import QApplication

from purvel.app.theme import FAMILY

COLLECT_EVERY = 200  # ms: what comes up in that while is looked through in a fifth of a frame
ALL_AFTER = 50  # such looks: then all is looked through, once the hand rests, for that takes longer
SETTLED_AFTER = 4_000  # ms: what is there then (libraries, widgets, catalogues) is there to stay


_held: list[object] = []


def _hold_constants() -> None:
    """Keeps Python older than 3.12 from running out of True, False and None.

    PySide 6.12 gives away a reference that it never took at every `emit` (200 emits: 200 references to True
    less, measured), and at the end None goes the same way; Python 3.11 aborts when none is left. From 3.12 on
    these three cannot be counted away.
    """
    if sys.version_info < (3, 12) and not _held:
        for constant in (True, False, None):
            ctypes.c_ssize_t.from_address(id(constant)).value += 1 << 40
            _held.append(constant)


def _collect_due() -> None:
    young, _, looks = gc.get_count()
    if looks > ALL_AFTER and QApplication.mouseButtons() == Qt.MouseButton.NoButton:
        gc.collect()
    elif young > gc.get_threshold()[0]:
        gc.collect(1)


def _collect_here(app: QApplication) -> None:
    """Leaves garbage collection to this thread, and to moments in which it is not in the hand's way.

    Left alone it also runs in the review's thread. There it takes Qt's connections apart: it holds Qt's lock
    and waits for Python's, while this thread may hold Python's and wait for Qt's, and the window stands still
    for good.
    """
    if not gc.isenabled():
        return
    gc.disable()
    timer = QTimer(app)
    timer.setInterval(COLLECT_EVERY)
    timer.start()

    def settle() -> None:
        gc.freeze()  # else each collection walks through all that never becomes garbage
        timer.timeout.connect(_collect_due)

    QTimer.singleShot(SETTLED_AFTER, app, settle)


def make_application(argv: list[str]) -> QApplication:
    """The application, with the shipped typeface loaded; the running one as it is if there is one."""
    running = QApplication.instance()
    if isinstance(running, QApplication):
        return running
    _hold_constants()
    application = QApplication(argv)
    _collect_here(application)
    application.setApplicationName("Purvel")
    application.setOrganizationName("purvel")
    application.setDesktopFileName("purvel")
    application.setStyle("Fusion")
    for font in files("purvel.app.resources").joinpath("fonts").iterdir():
        if font.name.endswith(".ttf"):
            with as_file(font) as path:
                QFontDatabase.addApplicationFont(str(path))
    lettering = QFont(FAMILY)
    lettering.setFeature(QFont.Tag("tnum"), 1)
    application.setFont(lettering)
    application.setWindowIcon(QIcon(_drawn(_icon_source("purvel"), 128)))
    return application


def _icon_source(name: str) -> str:
    return files("purvel.app.resources").joinpath("icons").joinpath(f"{name}.svg").read_text(encoding="utf-8")


def _drawn(source: str, size: int) -> QPixmap:
    pixmap = QPixmap(QSize(size, size))
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    QSvgRenderer(QByteArray(source.encode())).render(painter)
    painter.end()
    return pixmap


INK, ACCENT = "#7d5a26", "#9a3d12"  # the two colours that the drawings are made in


def stage_icon(key: str, ink: str, accent: str, chosen: str, size: int = 64) -> QIcon:
    """A stage's own drawing in a theme's two colours, and in one colour for where it lies on the accent.

    It lies in the stage's folder; a stage without one has none.
    """
    drawing = files("purvel.app.stages").joinpath(key).joinpath("icon.svg")
    found = QIcon()
    if not drawing.is_file():
        return found
    source = drawing.read_text(encoding="utf-8")
    for state, first, second in ((QIcon.State.Off, ink, accent), (QIcon.State.On, chosen, chosen)):
        pixmap = _drawn(source.replace(INK, first).replace(ACCENT, second), size)
        for mode in (QIcon.Mode.Normal, QIcon.Mode.Active, QIcon.Mode.Selected):
            found.addPixmap(pixmap, mode, state)
    return found
