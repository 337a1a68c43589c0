"""Boxes and buttons that are called by names of any length."""

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QPaintEvent
from PySide6.QtWidgets import QCheckBox, QPushButton, QSizePolicy, QStyle, QStyleOptionButton, QStylePainter

from purvel.app.widgets.words import set_tip


class NameBox(QCheckBox):
    """A tick beside a name that may be longer than its place: it then ends in an ellipsis, and stands whole
    in the tip.
    """

    def __init__(self, name: str) -> None:
        super().__init__(name)
        set_tip(self, name)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def minimumSizeHint(self) -> QSize:
        return QSize(60, super().minimumSizeHint().height())

    def paintEvent(self, event: QPaintEvent) -> None:
        _paint_shortened(self, QStyle.SubElement.SE_CheckBoxContents, QStyle.ControlElement.CE_CheckBox)


class NameButton(QPushButton):
    """A button of one or more lines that end in an ellipsis where they are longer than it is wide."""

    def __init__(self, lines: str) -> None:
        super().__init__(lines)
        self.setMinimumWidth(10)

    def paintEvent(self, event: QPaintEvent) -> None:
        _paint_shortened(self, QStyle.SubElement.SE_PushButtonContents, QStyle.ControlElement.CE_PushButton)


def _paint_shortened(
    button: QCheckBox | QPushButton, contents: QStyle.SubElement, control: QStyle.ControlElement
) -> None:
    painter = QStylePainter(button)
    option = QStyleOptionButton()
    button.initStyleOption(option)
    room = button.style().subElementRect(contents, option, button).width()
    lines = (
        button.fontMetrics().elidedText(line, Qt.TextElideMode.ElideRight, room)
        for line in option.text.split("\n")
    )
    option.text = "\n".join(lines)
    painter.drawControl(control, option)
