"""The QApplication: name, icon, typeface."""

from importlib.resources import as_file, files

from PySide6.QtGui import QFontDatabase, QIcon
from PySide6.QtWidgets import QApplication

FAMILY = "Atkinson Hyperlegible Next"


def make_application(argv: list[str]) -> QApplication:
    """The application, with the shipped typeface loaded; the running one if there is one."""
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
