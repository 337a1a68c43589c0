"""The findings of a stage as cards, worst first; opened, a card says why, on what it rests, and what would
help.
"""

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QEnterEvent,
    QFocusEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
)
from PySide6.QtWidgets import (
    QApplication,
    QFrame,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from purvel.app.reviewing import ReviewBench
from purvel.app.theme import LIGHT, Look
from purvel.app.widgets.flow import clear
from purvel.app.widgets.unbroken import unbroken
from purvel.review import Finding, Grade, Remedy


def draw_grade(painter: QPainter, box: QRectF, grade: Grade, look: Look) -> None:
    """The shape of a grade: a barred square, a wedge, a ring, a tick."""
    colour = QColor(look.grade(grade))
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    pen = QPen(colour, max(2.0, box.width() / 7))
    painter.setPen(pen)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    inner = box.adjusted(2, 2, -2, -2)
    if grade == Grade.STOP:
        painter.setBrush(colour)
        painter.drawRect(inner)
        painter.setPen(QPen(QColor(look.sheet), max(2.0, box.width() / 6)))
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

    def __init__(self, grade: Grade, look: Look, pixels: int) -> None:
        super().__init__()
        self.grade, self.look = grade, look
        self.setFixedSize(QSize(pixels + 6, pixels + 6))
        self.setAccessibleName(grade.word)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        draw_grade(painter, QRectF(self.rect()), self.grade, self.look)
        painter.end()


class WrapButton(QPushButton):
    """A button whose text breaks into lines."""

    def __init__(self, text: str, style: str = "flat") -> None:
        super().__init__()
        self.setObjectName(style)
        self.setAccessibleName(text)
        self.label = QLabel(unbroken(text))
        self.label.setWordWrap(True)
        self.label.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        box = QVBoxLayout(self)
        box.setContentsMargins(6, 4, 6, 4)
        box.addWidget(self.label)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self.label.heightForWidth(width - 12) + 10

    def sizeHint(self) -> QSize:
        width = max(self.width(), 120)
        return QSize(120, self.heightForWidth(width))

    def minimumSizeHint(self) -> QSize:
        return self.sizeHint()

    def resizeEvent(self, event: object) -> None:
        self.updateGeometry()


class MoveButton(WrapButton):
    """A move: hovering or focusing shows it, pressing does it."""

    hovered = Signal(object)

    def __init__(self, move: Remedy) -> None:
        super().__init__(move.label, "move")
        self.tried = move
        self.setToolTip(move.outcome)

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

    opened = Signal(object)

    def __init__(self, finding: Finding, look: Look, pixels: int) -> None:
        super().__init__()
        self.setObjectName("card")
        self.finding = finding
        self.sentence = WrapButton(finding.sentence)
        self.sentence.setAccessibleName(f"{finding.grade.word}: {finding.sentence}")
        self.sentence.clicked.connect(lambda: self.opened.emit(self.finding))
        top = QWidget()

        row = QHBoxLayout(top)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        row.addWidget(GradeMark(finding.grade, look, pixels))
        word = QLabel(finding.grade.word)
        word.setStyleSheet(f"color: {look.grade(finding.grade)}; font-weight: 700;")
        row.addWidget(word)
        row.addStretch(1)
        self.box = QVBoxLayout(self)
        self.box.setContentsMargins(8, 6, 8, 6)
        self.box.setSpacing(2)
        self.box.addWidget(top)
        self.box.addWidget(self.sentence)
        self.details: QWidget | None = None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Taken, so that the release comes here too."""

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if (
            event.button() == Qt.MouseButton.LeftButton
            and 0 <= event.position().y() <= self.sentence.geometry().bottom()
        ):
            self.opened.emit(self.finding)

    def open(self) -> QVBoxLayout:
        """Shows why and on what it rests; returns the place for moves."""
        self.details = QWidget()
        box = QVBoxLayout(self.details)
        box.setContentsMargins(4, 0, 4, 2)
        box.setSpacing(4)
        for caption, text in (
            ("Why", self.finding.why),
            ("Rests on", f"{self.finding.basis.kind}. {self.finding.basis.text}"),
        ):
            head = QLabel(caption)
            head.setObjectName("caption")
            box.addWidget(head)
            body = QLabel(unbroken(text[:1].upper() + text[1:]))
            body.setObjectName("small")
            body.setWordWrap(True)
            body.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
            box.addWidget(body)
        self.box.addWidget(self.details)
        return box


class FindingsPanel(QWidget):
    """All cards of a stage. Opening one picks its place on the plan, points at it, and asks for its moves."""

    pointed = Signal(object, bool)  # the Where of the open card, or None; whether it was opened just now

    def __init__(self, bench: ReviewBench) -> None:
        super().__init__()
        self.bench = bench
        self.look, self.pixels = LIGHT, 15
        self.stage = "room"
        self.open_key: str | None = None
        self.area: QScrollArea | None = None  # what the cards are scrolled in
        self._moves_box: QVBoxLayout | None = None
        self._asked: QLabel | None = None
        self._shown: tuple[object, ...] = ()
        self._pointed_key: str | None = None
        self.box = QVBoxLayout(self)
        self.box.setContentsMargins(6, 4, 6, 6)
        self.box.setSpacing(6)
        bench.reviewed.connect(self.refresh)
        bench.moves_ready.connect(self._show_moves)

    def show_stage(self, stage: str) -> None:
        """Shows another stage's findings."""
        self.stage = stage
        self.open_key = None
        if self.area is not None:
            self.area.verticalScrollBar().setValue(0)
        self.refresh()

    def refresh(self) -> None:
        """Makes the cards anew if anything in them changed."""
        if self.bench.desk.is_previewing:
            return  # the list stays still under the hand while a move is looked at
        findings = self.bench.latest.of(self.stage)  # type: ignore[arg-type]
        now = (*findings, self.stage, self.open_key, self.look.name, self.pixels)
        if now == self._shown:
            return
        self._shown = now
        focus = self._focused_key()
        scrolled = self.area.verticalScrollBar().value() if self.area is not None else 0
        clear(self.box)
        self._moves_box = self._asked = None
        if not findings:
            none = QLabel("Findings appear here as soon as there is something to check.")
            none.setObjectName("small")
            none.setWordWrap(True)
            self.box.addWidget(none)
        for finding in findings:
            card = FindingCard(finding, self.look, self.pixels)
            card.opened.connect(self._toggle)
            self.box.addWidget(card)
            if finding.key == self.open_key:
                self._open(card)
            if finding.key == focus:
                card.sentence.setFocus()
        self.box.addStretch(1)
        self._settle(scrolled, seek=self.open_key != self._pointed_key)
        self.pointed.emit(
            None if self.opened is None else self.opened.where, self.open_key != self._pointed_key
        )
        self._pointed_key = self.open_key

    def _focused_key(self) -> str | None:
        for card in self.findChildren(FindingCard):
            if card.sentence.hasFocus():
                return card.finding.key
        return None

    def reveal(self, key: str) -> None:
        """Opens the card with this key."""
        self.open_key = key
        self.refresh()

    def _toggle(self, finding: Finding) -> None:
        self.open_key = None if self.open_key == finding.key else finding.key
        if self.open_key and finding.where.items:
            self.bench.desk.pick(finding.where.items[0])
        self.refresh()

    @property
    def opened(self) -> Finding | None:
        """The finding whose card is open."""
        return next((one for one in self.bench.latest.of(self.stage) if one.key == self.open_key), None)  # type: ignore[arg-type]

    def _open(self, card: FindingCard) -> None:
        self._moves_box = card.open()
        if card.finding.grade == Grade.GOOD:
            return
        self._asked = QLabel("Trying what would help …")
        self._asked.setObjectName("small")
        self._moves_box.addWidget(self._asked)
        self.bench.ask_moves(card.finding)

    def _show_moves(self, key: str, moves: tuple[Remedy, ...]) -> None:
        if key != self.open_key or self._moves_box is None or self._asked is None:
            return
        self._asked.hide()
        if moves:
            head = QLabel("Would help (tried)")
            head.setObjectName("caption")
            self._moves_box.addWidget(head)
        for move in moves:
            button = MoveButton(move)
            button.hovered.connect(lambda one: self.bench.desk.preview(one.edit if one else None))
            button.clicked.connect(lambda _=False, one=move: self._do(one))
            self._moves_box.addWidget(button)
            outcome = QLabel(unbroken(move.outcome))
            outcome.setObjectName("small")
            outcome.setWordWrap(True)
            self._moves_box.addWidget(outcome)
        self._asked = None
        if self.area is not None:
            self._settle(self.area.verticalScrollBar().value(), seek=True)

    def _settle(self, scrolled: int, *, seek: bool) -> None:
        """Lays the cards out now, so that the list stays where it was; seeks the open card once wrapped words
        have their height too.
        """
        if self.area is None:
            return
        for card in self.findChildren(FindingCard):
            for part in (card, *card.findChildren(QWidget)):
                if not part.testAttribute(Qt.WidgetAttribute.WA_WState_ExplicitShowHide):
                    part.show()  # Qt would only show it after this pass
        self.box.activate()
        QApplication.sendEvent(self, QEvent(QEvent.Type.LayoutRequest))
        self.area.verticalScrollBar().setValue(scrolled)
        if seek:
            QTimer.singleShot(0, self, self._show_open)

    def _show_open(self) -> None:
        """Scrolls no farther than it takes to see the open card, its top first."""
        card = next((one for one in self.findChildren(FindingCard) if one.finding.key == self.open_key), None)
        if card is not None and self.area is not None:
            self.area.ensureWidgetVisible(card, 0, 6)
            bar = self.area.verticalScrollBar()
            bar.setValue(min(bar.value(), max(0, card.y() - 6)))

    def _do(self, move: Remedy) -> None:
        self.bench.desk.preview(None)
        self.bench.desk.apply(move.edit, move.label)
