"""The QApplication: name, icon, typeface."""

import ctypes
import sys
from importlib.resources import as_file, files

from PySide6.QtGui import QFontDatabase, QIcon
from PySide6.QtWidgets import QApplication

FAMILY = "Atkinson Hyperlegible Next"


_held: list[object] = []


def _hold_constants() -> None:
    """Keeps Python older than 3.12 from running out of True, False and None.

    PySide 6.12 gives away a reference that it never took at every `emit` (200 emits: 200 references to True less, measured), and at the end None
    goes the same way; Python 3.11 aborts when none is left. From 3.12 on these three cannot be counted away.
    """
    if sys.version_info < (3, 12) and not _held:
        for constant in (True, False, None):
            ctypes.c_ssize_t.from_address(id(constant)).value += 1 << 40
            _held.append(constant)


def make_application(argv: list[str]) -> QApplication:
    """The application, with the shipped typeface loaded; the running one if there is one."""
    _hold_constants()
    application = QApplication.instance() or QApplication(argv)
    assert isinstance(application, QApplication)
    application.setApplicationName("Purvel")
    application.setOrganizationName("purvel")
    application.setDesktopFileName("purvel")
    application.setStyle("Fusion")
    if FAMILY not in QFontDatabase.families():
        for font in files("purvel.app.resources").joinpath("fonts").iterdir():
            if font.name.endswith(".ttf"):
                with as_file(font) as path:
                    QFontDatabase.addApplicationFont(str(path))
    application.setWindowIcon(icon("purvel"))
    return application


def icon(name: str) -> QIcon:
    """One of Purvel's own drawings."""
    with as_file(files("purvel.app.resources").joinpath("icons").joinpath(f"{name}.svg")) as path:
        return QIcon(str(path))
