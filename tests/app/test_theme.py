"""Letters and ink of the theme, where no rule of the style sheet says anything."""

import pytest
from PySide6.QtGui import QColor, QPalette
from PySide6.QtWidgets import QApplication, QCheckBox, QDialog, QLabel, QLineEdit, QPushButton

from purvel.app.theme import DARK, FAMILY, LIGHT
from tests.app.conftest import Bench


def test_every_window_has_them_and_changes_with_the_theme(bench: Bench) -> None:
    theme, dialog = bench.window.theme, QDialog(bench.window)
    bench.bot.addWidget(dialog)
    parts = [kind("Words", dialog) for kind in (QLabel, QPushButton, QCheckBox, QLineEdit)]
    dialog.show()
    for pixels, paper in ((15, LIGHT), (21, LIGHT), (21, DARK), (15, DARK)):
        if theme.palette is not paper:
            theme.switch_paper()
        theme.set_text(pixels)
        QApplication.processEvents()
        for part in parts:
            assert (part.font().family(), part.font().pixelSize()) == (FAMILY, pixels), part
            assert part.palette().color(part.foregroundRole()) == QColor(paper.ink), part
        hint = parts[-1].palette().color(QPalette.ColorRole.PlaceholderText)
        assert hint.name() == paper.ink and hint.alphaF() == pytest.approx(0.5, abs=0.01)
