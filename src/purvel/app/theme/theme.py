"""The theme: paper and text size, with one signal of change; and the style sheet made from them."""

from __future__ import annotations

from dataclasses import asdict
from importlib.resources import files
from string import Template

from PySide6.QtCore import QObject, QSettings, Signal
from PySide6.QtGui import QColor, QPalette
from PySide6.QtWidgets import QApplication

from purvel.app.theme.palette import DARK, LIGHT, Palette

FAMILY = "Atkinson Hyperlegible Next"
SMALLEST, LARGEST = 15, 24  # px of text
STEP = 3  # px by which the text grows or shrinks
HINT = 0.5  # of the ink, for what stands in an empty field
INKED = (
    QPalette.ColorRole.WindowText,
    QPalette.ColorRole.Text,
    QPalette.ColorRole.ButtonText,
    QPalette.ColorRole.ToolTipText,
)


class Theme(QObject):
    """What everything on the screen is drawn with. Kept in the settings."""

    changed = Signal()

    def __init__(self, settings: QSettings, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._settings = settings
        self.palette: Palette = DARK if settings.value("look", "light") == "dark" else LIGHT
        self.pixels = _bounded(settings.value("text", SMALLEST))

    def set_text(self, pixels: int) -> None:
        """Another text size [px], held to the bounds."""
        self.pixels = _bounded(pixels)
        self._settings.setValue("text", self.pixels)
        self.changed.emit()

    def larger(self) -> None:
        """A step up."""
        self.set_text(self.pixels + STEP)

    def smaller(self) -> None:
        """A step down."""
        self.set_text(self.pixels - STEP)

    def switch_paper(self) -> None:
        """Light or dark."""
        self.palette = DARK if self.palette is LIGHT else LIGHT
        self._settings.setValue("look", self.palette.name)
        self.changed.emit()


def _bounded(value: object) -> int:
    """A text size that can be read; the smallest where the settings hold something else."""
    try:
        return min(LARGEST, max(SMALLEST, int(str(value))))
    except ValueError:
        return SMALLEST


def inked(settings: QSettings) -> Theme:
    """The theme that is kept in the settings, for a window that is about to be made: until the application
    runs, a widget keeps the letters that it is made with.
    """
    theme = Theme(settings)
    ink_all(theme.palette, theme.pixels)
    return theme


def ink_all(palette: Palette, pixels: int) -> None:
    """Letters of a size [px] and in ink wherever nothing else is said, in every window of the application.

    A rule of the style sheet for everything would say it to each widget by itself, which takes a third of
    what the whole sheet takes.
    """
    font = QApplication.font()
    font.setFamily(FAMILY)
    font.setPixelSize(pixels)
    ink = QColor(palette.ink)
    colours = QPalette()
    for role in INKED:
        colours.setColor(role, ink)
    ink.setAlphaF(HINT)
    colours.setColor(QPalette.ColorRole.PlaceholderText, ink)
    if font != QApplication.font():
        QApplication.setFont(font)
    if colours != QApplication.palette():
        QApplication.setPalette(colours)


def style_sheet(palette: Palette, pixels: int) -> str:
    """The style sheet for a palette at a text size [px]."""
    resources = files("purvel.app.resources")
    pad = round(pixels * 0.35)
    sizes = {
        "pixels": pixels,
        "small": max(13, round(pixels * 0.87)),
        "pad": pad,
        "pad_2": pad * 2,
        "pad_3": pad * 3,
        "pad_5": pad * 5,
        "pad_wide": round(pad * 1.4),
        "wide": round(pixels * 1.5),
        "arrow": round(pixels * 0.8),
    }
    board = Template(resources.joinpath("styles").joinpath("board.qss").read_text(encoding="utf-8"))
    return board.substitute(asdict(palette), family=FAMILY, drawings=resources.joinpath("icons"), **sizes)
