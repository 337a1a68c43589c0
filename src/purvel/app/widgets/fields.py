"""Fields: one binder per control.

Document to field with signals blocked, field to edit; a refused text stays, says why and changes nothing.
"""

from collections.abc import Callable, Container, Sequence
from typing import Generic, TypeVar

from PySide6.QtCore import QEvent, QSignalBlocker, Qt, Signal
from PySide6.QtGui import QHideEvent, QKeyEvent, QKeySequence, QPaintEvent, QWheelEvent
from PySide6.QtWidgets import (
    QComboBox,
    QFormLayout,
    QLineEdit,
    QSizePolicy,
    QStyle,
    QStyleOptionComboBox,
    QStylePainter,
    QVBoxLayout,
    QWidget,
)

from purvel.app.signals import Event
from purvel.app.widgets.words import Words, set_tip
from purvel.quantities import (
    LengthError,
    Unit,
    UnitError,
    format_length,
    format_number,
    parse_length,
    parse_quantity,
    read_number,
)
from purvel.quantities.lengths import accepted
from purvel.quantities.systems import System
from purvel.shop.fields import one_line

T = TypeVar("T")


class Line(QLineEdit):
    """A line of text that takes back typing only while there is some: else undo and redo are the shop's."""

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            keys = QKeySequence.StandardKey
            if (event.matches(keys.Undo) and not self.isUndoAvailable()) or (
                event.matches(keys.Redo) and not self.isRedoAvailable()
            ):
                event.ignore()
                return False
        return super().event(event)


class TextField(QWidget, Generic[T]):
    """A line of text that is read when Enter is pressed or the field is left. `read` raises ValueError with
    one sentence to refuse.
    """

    _entered = Signal(object)

    def __init__(
        self, name: str, read: Callable[[str], T], write: Callable[[T], str], hint: str = ""
    ) -> None:
        super().__init__()
        self.name = name
        self.entered: Event[T] = Event(self._entered)
        self._read, self._write = read, write
        self.line = Line()
        self.line.setAccessibleName(name)
        set_tip(self.line, hint)
        self.line.setMinimumWidth(60)
        self.line.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.refusal = Words()
        self.refusal.setObjectName("refusal")
        self.refusal.setWordWrap(True)
        self.refusal.hide()
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(2)
        box.addWidget(self.line)
        box.addWidget(self.refusal)
        self._floats = False
        self.may_be_blank = False  # a blank field then means that nothing is entered
        self.takes_lengths = False  # what a distance meter reads may go into it
        self.setFocusProxy(self.line)
        self.line.editingFinished.connect(lambda: self.finish())
        self.line.textEdited.connect(lambda _: self._say(""))

    def show_value(self, value: T) -> None:
        """Shows a value of the document, unless the field is being typed in."""
        if self.line.hasFocus() and self.line.isModified():
            return
        line, text = self.line, self._write(value)
        with QSignalBlocker(line):
            if line.text() != text or line.isModified() or line.isUndoAvailable():
                line.setText(text)
                line.setModified(False)
            if line.cursorPosition() and not line.hasFocus():
                line.home(False)  # a text that is too long shows its beginning
        self._say("")

    def read(self) -> T | None:
        """The value of what stands in the field; None where it is refused, which it then says."""
        try:
            value = self._read(self.line.text())
        except ValueError as exc:
            self._say(str(exc))
            return None
        self._say("")
        return value

    def type_in(self, text: str) -> None:
        """Enters a text as if it were typed, with Enter behind it."""
        self.line.setText(text)
        self.line.setModified(True)
        self.line.returnPressed.emit()
        self.finish()

    def finish(self) -> bool:
        """Takes what was typed, as Enter does; False where it was refused."""
        if not self.line.isModified() or (self.may_be_blank and not self.line.text().strip()):
            return True
        value = self.read()
        if value is None:
            return False
        self.line.setModified(False)
        with QSignalBlocker(self.line):
            self.line.setText(self._write(value))
        self.entered.emit(value)
        return True

    def float_refusal(self) -> None:
        """Lets the refusal hang over what is below, for fields in a row that is not to move."""
        self._floats = True
        self.refusal.setObjectName("overlay")

    def hideEvent(self, event: QHideEvent) -> None:
        if self._floats:
            self.refusal.hide()

    def _say(self, sentence: str) -> None:
        if sentence == self.refusal.text() and bool(sentence) != self.refusal.isHidden():
            return
        self.refusal.setText(sentence)
        if self._floats and sentence:
            self.refusal.setParent(self.window())
            self.refusal.setFixedWidth(max(300, self.width()))
            self.refusal.adjustSize()
            self.refusal.move(self.mapTo(self.window(), self.rect().bottomLeft()))
            self.refusal.raise_()
        self.refusal.setVisible(bool(sentence))
        if self.line.property("refused") != bool(sentence):
            self.line.setProperty("refused", bool(sentence))
            self.line.style().polish(self.line)


def length_field(name: str, system: System, *, least: float = 0.0, most: float = 200.0) -> TextField[float]:
    """A field for a length [m], typed as on a tape, within bounds."""

    def read(text: str) -> float:
        value = parse_length(text, system)
        if not least <= value <= most:
            meant = _meant(text, least, most)
            bounds = f"{name}: from {format_length(least, system)} to {format_length(most, system)}."
            raise LengthError(text, f"{bounds} {meant}".strip())
        return value

    field = TextField(name, read, lambda value: format_length(value, system), accepted(system))
    field.takes_lengths = True
    return field


def _meant(text: str, least: float, most: float) -> str:
    """What a bare number that makes no sense may have been meant as, asked."""
    try:
        number = read_number(text.strip())
    except ValueError:
        return ""
    units = (("m", 1.0), ("cm", 0.01), ("mm", 0.001), ("'", 0.3048), ('"', 0.0254))
    meant = next((unit for unit, metres in units if max(least, 0.02) <= number * metres <= most), None)
    space = "" if meant in ("'", '"') else " "
    return "" if meant is None else f"Did you mean {text.strip()}{space}{meant}? Write the unit with it."


def quantity_field(name: str, unit: Unit, *, least: float, most: float) -> TextField[float]:
    """A field for an SI value shown in `unit`, within bounds."""

    def read(text: str) -> float:
        value = parse_quantity(text, unit)
        if not least <= value <= most:
            raise UnitError(f"{name}: from {format_number(least, unit)} to {format_number(most, unit)}.")
        return value

    return TextField(name, read, lambda value: format_number(value, unit), f"A number is {unit.label}.")


def number_field(name: str, unit: str, *, least: float, most: float, decimals: int = 1) -> TextField[float]:
    """A field for a plain number with a unit written behind it."""

    def read(text: str) -> float:
        try:
            value = read_number(text.strip().removesuffix(unit))
        except ValueError as exc:
            raise ValueError(
                f"“{text.strip()}” is not a number. Write for example {least:g} to {most:g} {unit}.".replace(
                    " .", "."
                )
            ) from exc
        if not least <= value <= most:
            raise ValueError(f"{name}: from {least:g} to {most:g} {unit}.")
        return value

    def write(value: float) -> str:
        return f"{round(value, decimals):g} {unit}".strip()

    return TextField(name, read, write)


def text_field(
    name: str, most: int = 200, *, needed: bool = False, taken: Container[str] = ()
) -> TextField[str]:
    """A field for a name of at most `most` letters that is not among those `taken`, and not empty where it is
    `needed`.
    """

    def read(text: str) -> str:
        words = one_line(text)
        if needed and not words:
            raise ValueError(f"{name}: write one letter at least.")
        if len(words) > most:
            raise ValueError(f"{name}: at most {most} letters.")
        if words in taken:
            raise ValueError(f"“{words}” is taken already; write another name.")
        return words

    return TextField(name, read, str)


class ChoiceField(QComboBox, Generic[T]):
    """A choice among keys with labels."""

    _entered = Signal(object)

    def __init__(self, name: str, choices: Sequence[tuple[T, str]], widest: int = 14) -> None:
        super().__init__()
        self.entered: Event[T] = Event(self._entered)
        self.setAccessibleName(name)
        set_tip(self, name)
        self._keys = [key for key, _ in choices]
        self.addItems([label for _, label in choices])
        self.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.setMinimumContentsLength(
            round(0.8 * min(widest, max((len(label) for _, label in choices), default=7)))
        )  # letters are narrower than Qt's measure
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.activated.connect(self._activated)

    def _activated(self, index: int) -> None:
        self.entered.emit(self._keys[index])

    def paintEvent(self, event: QPaintEvent) -> None:
        """As Qt paints it, but a label that is too long ends in an ellipsis instead of in half a letter."""
        painter = QStylePainter(self)
        option = QStyleOptionComboBox()
        self.initStyleOption(option)
        room = self.style().subControlRect(
            QStyle.ComplexControl.CC_ComboBox, option, QStyle.SubControl.SC_ComboBoxEditField, self
        )
        option.currentText = self.fontMetrics().elidedText(
            option.currentText, Qt.TextElideMode.ElideRight, room.width() - 2
        )
        painter.drawComplexControl(QStyle.ComplexControl.CC_ComboBox, option)
        painter.drawControl(QStyle.ControlElement.CE_ComboBoxLabel, option)

    def wheelEvent(self, event: QWheelEvent) -> None:
        event.ignore()  # the wheel scrolls the panel, it does not change the shop

    def show_choices(self, choices: Sequence[tuple[T, str]]) -> None:
        """Offers other choices; the number of the one that is shown stays."""
        at, self._keys = max(0, self.currentIndex()), [key for key, _ in choices]
        with QSignalBlocker(self):
            self.clear()
            self.addItems([label for _, label in choices])
            self.setCurrentIndex(min(at, len(choices) - 1))

    def show_value(self, value: T | None) -> None:
        """Shows a value of the document; one that is not among the choices shows as nothing."""
        with QSignalBlocker(self):
            self.setCurrentIndex(self._keys.index(value) if value in self._keys else -1)

    @property
    def value(self) -> T | None:
        """The chosen key."""
        return self._keys[self.currentIndex()] if self.currentIndex() >= 0 else None


def form() -> tuple[QWidget, QFormLayout]:
    """An empty form whose long rows wrap."""
    widget = QWidget()
    layout = QFormLayout(widget)
    layout.setContentsMargins(0, 0, 0, 0)
    layout.setSpacing(6)
    layout.setRowWrapPolicy(QFormLayout.RowWrapPolicy.WrapLongRows)
    layout.setFieldGrowthPolicy(QFormLayout.FieldGrowthPolicy.ExpandingFieldsGrow)
    return widget, layout
