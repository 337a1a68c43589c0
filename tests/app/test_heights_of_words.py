"""Words that remember how high they are forget it when anything about them changes."""

from PySide6.QtWidgets import QApplication, QLabel
from pytestqt.qtbot import QtBot

from purvel.app.widgets.words import Words


def plain_height(words: Words, width: int) -> int:
    """What Qt says of the same words, asked for the first time."""
    return QLabel.heightForWidth(words, width)


def test_what_is_remembered_is_what_qt_says_after_every_change(qtbot: QtBot, qapp: QApplication) -> None:
    words = Words("Three words here")
    qtbot.addWidget(words)
    words.show()
    changes = (
        lambda: words.setWordWrap(True),
        lambda: words.setText(
            "A sentence that is so long that it breaks into lines wherever there is little room"
        ),
        lambda: words.setStyleSheet("font-size: 31px;"),
        lambda: words.setStyleSheet("font-size: 12px; padding: 9px;"),
        lambda: words.setText("Short"),
        lambda: words.setWordWrap(False),
    )
    seen = set()
    for change in changes:
        known = [words.heightForWidth(width) for width in (90, 200, 90)]
        assert known == [plain_height(words, width) for width in (90, 200, 90)]
        seen.add(tuple(known))
        change()
        QApplication.processEvents()
        assert [words.heightForWidth(width) for width in (90, 200)] == [
            plain_height(words, width) for width in (90, 200)
        ]
    assert len(seen) > 4  # each change told in the height
