"""A finding as a card; opened, it says why, on what it rests, and what would help."""

from collections.abc import Sequence

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QEnterEvent,
    QFocusEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QResizeEvent,
)
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from purvel.app.signals import Event
from purvel.app.theme import Palette
from purvel.app.widgets.unbroken import unbroken
from purvel.app.widgets.words import Words, set_tip
from purvel.review import Finding, Grade, Remedy
from purvel.review.figures import sentence_case


def draw_grade(painter: QPainter, box: QRectF, grade: Grade, palette: Palette) -> None:
    """The shape of a grade: a barred square, a wedge, a ring, a tick."""
    colour = QColor(palette.grade(grade))
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    pen = QPen(colour, max(2.0, box.width() / 7))
    painter.setPen(pen)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    inner = box.adjusted(2, 2, -2, -2)
    if grade == Grade.STOP:
        painter.setBrush(colour)
        painter.drawRect(inner)
        painter.setPen(QPen(QColor(palette.sheet), max(2.0, box.width() / 6)))
        painter.drawLine(
            QPointF(inner.left() + 3, inner.center().y()), QPointF(inner.right() - 3, inner.center().y())
        )
    elif grade == Grade.MEND:
        painter.setBrush(colour)
        painter.drawPolygon(
            QPolygonF([inner.topLeft(), inner.topRight(), QPointF(inner.center().x(), inner.bottom())])
        )
    elif grade == Grade.WATCH:
        painter.drawEllipse(inner.adjusted(1, 1, -1, -1))
    else:
        painter.drawPolyline(
            QPolygonF(
                [
                    QPointF(inner.left(), inner.center().y()),
                    QPointF(inner.left() + inner.width() * 0.4, inner.bottom() - 1),
                    inner.topRight(),
                ]
            )
        )


class GradeMark(QWidget):
    """A grade's shape."""

    def __init__(self, palette: Palette, pixels: int) -> None:
        super().__init__()
        self.grade, self.colours = Grade.GOOD, palette
        self.setFixedSize(QSize(pixels + 6, pixels + 6))

    def show_grade(self, grade: Grade) -> None:
        """The shape from now on."""
        self.grade = grade
        self.setAccessibleName(grade.word)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        draw_grade(painter, QRectF(self.rect()), self.grade, self.colours)
        painter.end()


class WrapButton(QPushButton):
    """A button whose text breaks into lines."""

    def __init__(self, text: str, style: str = "flat") -> None:
        super().__init__()
        self.setObjectName(style)
        self.label = Words()
        self.say(text)
        self.label.setWordWrap(True)
        self.label.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        box = QVBoxLayout(self)
        box.setContentsMargins(6, 4, 6, 4)
        box.addWidget(self.label)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)

    def say(self, text: str) -> None:
        """Its text from now on."""
        self.setAccessibleName(text)
        self.label.setText(unbroken(text))

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self.label.heightForWidth(width - 12) + 10

    def sizeHint(self) -> QSize:
        width = max(self.width(), 120)
        return QSize(120, self.heightForWidth(width))

    def minimumSizeHint(self) -> QSize:
        return self.sizeHint()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.updateGeometry()


class RemedyButton(WrapButton):
    """A remedy: hovering or focusing shows it, pressing does it."""

    _hovered = Signal(object)

    def __init__(self, remedy: Remedy) -> None:
        super().__init__(remedy.label, "move")
        self.hovered: Event[Remedy | None] = Event(self._hovered)
        self.tried = remedy
        set_tip(self, remedy.outcome)

    def enterEvent(self, event: QEnterEvent) -> None:
        self.hovered.emit(self.tried)
        super().enterEvent(event)

    def leaveEvent(self, event: QEvent) -> None:
        self.hovered.emit(None)
        super().leaveEvent(event)

    def focusInEvent(self, event: QFocusEvent) -> None:
        self.hovered.emit(self.tried)
        super().focusInEvent(event)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        self.hovered.emit(None)
        super().focusOutEvent(event)


class FindingCard(QFrame):
    """One finding."""

    _opened = Signal(object)

    def __init__(self, finding: Finding, palette: Palette, pixels: int) -> None:
        super().__init__()
        self.opened: Event[Finding] = Event(self._opened)
        self.setObjectName("card")
        self.sentence = WrapButton("")
        self.sentence.clicked.connect(lambda _=False: self.opened.emit(self.finding))
        top = QWidget()

        row = QHBoxLayout(top)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        self._palette, self._mark, self._word = palette, GradeMark(palette, pixels), Words()
        row.addWidget(self._mark)
        row.addWidget(self._word)
        row.addStretch(1)
        self.box = QVBoxLayout(self)
        self.box.setContentsMargins(8, 6, 8, 6)
        self.box.setSpacing(2)
        self.box.addWidget(top)
        self.box.addWidget(self.sentence)
        self.details: QWidget | None = None
        self._asked: Words | None = None
        self._given: list[RemedyButton] = []  # of the remedies that are shown
        self._said = "", ""
        self.tell(finding)

    def tell(self, finding: Finding) -> None:
        """What it says from now on."""
        self.finding, word = finding, finding.grade.word
        if (word, finding.sentence) == self._said:
            return
        if word != self._word.text():
            self._mark.show_grade(finding.grade)
            self._word.setText(word)
            self._word.setStyleSheet(f"color: {self._palette.grade(finding.grade)}; font-weight: 700;")
        self._said = word, finding.sentence
        self.sentence.say(finding.sentence)
        self.sentence.setAccessibleName(f"{word}: {finding.sentence}")

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Taken, so that the release comes here too."""

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if (
            event.button() == Qt.MouseButton.LeftButton
            and 0 <= event.position().y() <= self.sentence.geometry().bottom()
        ):
            self.opened.emit(self.finding)

    def open(self) -> None:
        """Shows why and on what it rests; what would help follows with `show_remedies`."""
        self.details = QWidget()
        self._inside = QVBoxLayout(self.details)
        self._inside.setContentsMargins(4, 0, 4, 2)
        self._inside.setSpacing(4)
        rests = f"{self.finding.basis.kind}. {self.finding.basis.text}"
        for caption, text in (("Why", self.finding.why), ("Rests on", rests)):
            self._caption(caption)
            body = self._small(sentence_case(text))
            body.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        if self.finding.grade != Grade.GOOD:
            self._asked = self._small("Trying what would help …")
        self.box.addWidget(self.details)

    @property
    def controls(self) -> list[QWidget]:
        """What of it the keyboard comes to, in the order in which it lies."""
        return [self.sentence, *self._given]

    @property
    def is_waiting(self) -> bool:
        """Whether remedies are being tried for it."""
        return self._asked is not None

    def show_remedies(
        self, remedies: Sequence[Remedy], *, is_all: bool, none: str = ""
    ) -> list[RemedyButton]:
        """What was tried and helps so far, each with a button in this order, or that there is none; those
        buttons that are new.
        """
        if self._asked is None:
            return []
        if is_all:
            self._asked.hide()
            self._asked = None
        if remedies and not self._given:
            self._caption("Would help (tried)")
        elif is_all and none:
            self._small(none)
        shown = {button.tried: button for button in self._given}
        new = {one: RemedyButton(one) for one in remedies if one not in shown}
        self._given = [shown.get(one) or new[one] for one in remedies]
        for number, button in enumerate(self._given):
            if button.tried in new:
                after = next((other for other in self._given[number:] if other.tried in shown), None)
                self._add(button, after)
                self._small(button.tried.outcome, after)
        return list(new.values())

    def _caption(self, text: str) -> None:
        label = Words(text)
        label.setObjectName("caption")
        self._add(label)

    def _small(self, text: str, before: QWidget | None = None) -> Words:
        label = Words(unbroken(text))
        label.setObjectName("small")
        label.setWordWrap(True)
        self._add(label, before)
        return label

    def _add(self, widget: QWidget, before: QWidget | None = None) -> None:
        """Over something, else under what is there, but over what says that there may be more."""
        before = before or self._asked
        place = self._inside.count() if before is None else self._inside.indexOf(before)
        self._inside.insertWidget(place, widget)
