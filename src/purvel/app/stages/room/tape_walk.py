"""The tape walk: the walls in order as measured, the gap left at the end, which wall is suspect; each wall
can be corrected here.
"""

from dataclasses import replace

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QGridLayout, QLabel, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from purvel.app.desk import Desk
from purvel.app.plan.sheet import Sheet
from purvel.app.reviewing import ReviewBench
from purvel.app.theme import LIGHT, Look
from purvel.app.widgets.fields import ChoiceField, TextField, length_field, number_field
from purvel.app.widgets.flow import clear
from purvel.app.widgets.scrolled import scrolled
from purvel.quantities import format_length
from purvel.review import Figures
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Wall
from purvel.shop.edits import put, remove
from purvel.space.traverse import fair_gap

HOW = (("measured", "taped"), ("plate", "off a drawing"), ("paced", "paced"))
ROOM_FOR_ALL = 31  # letters' sizes that a whole row needs


class TapeWalk(QWidget):
    """The instrument of the room."""

    def __init__(self, desk: Desk, bench: ReviewBench) -> None:
        super().__init__()
        self.desk, self.bench = desk, bench
        self.look, self.pixels = LIGHT, 15
        self.bar = _Bar(self)
        self.table = QWidget()
        self.grid = QGridLayout(self.table)
        self.grid.setContentsMargins(6, 2, 6, 6)
        self.grid.setHorizontalSpacing(10)
        self.grid.setVerticalSpacing(4)
        for column, share in ((1, 3), (2, 2), (3, 3)):
            self.grid.setColumnStretch(column, share)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(self.bar)
        box.addWidget(scrolled(self.table), 1)
        self._rows: dict[str, tuple[TextField, TextField, ChoiceField]] = {}

    def dress(self, look: Look, pixels: int) -> None:
        """Takes on a theme and a text size."""
        self.look, self.pixels = look, pixels
        self.grid.setColumnMinimumWidth(1, round(pixels * 6.5))
        self._share_room()
        self.bar.updateGeometry()
        self.bar.update()

    def rebuild(self) -> None:
        """Makes the rows anew."""
        clear(self.grid)
        self._rows.clear()
        heads = ("Wall", "Length", "Then turns", "How") if self.desk.shop.room.walls else ()
        for column, head in enumerate(heads):
            label = QLabel(head)
            label.setObjectName("caption")
            self.grid.addWidget(label, 0, column)
        for number, wall in enumerate(self.desk.shop.room.walls, start=1):
            self._add_row(number, wall)
        self.grid.setRowStretch(len(self.desk.shop.room.walls) + 1, 1)
        self._share_room()
        self.refresh()

    def resizeEvent(self, event: object) -> None:
        self._share_room()

    def _share_room(self) -> None:
        """Where rows are too long, how a length was got and taking a wall out are left to the form of the
        picked wall.
        """
        narrow = self.width() < ROOM_FOR_ALL * self.pixels
        for row in range(self.grid.rowCount()):
            for column in (3, 4):
                item = self.grid.itemAtPosition(row, column)
                if item is not None and (widget := item.widget()) is not None:
                    widget.setVisible(not narrow)

    def _add_row(self, number: int, wall: Wall) -> None:
        name = QLabel(wall.id)
        length = length_field(f"Length of wall {wall.id}", self.desk.shop.units, least=0.01)
        turn = number_field(f"Turn at the end of wall {wall.id}, left is positive", "°", least=-180, most=360)
        how = ChoiceField(f"How wall {wall.id} was got", HOW)
        away = QPushButton("Take out")
        away.setAccessibleName(f"Take out wall {wall.id}")
        length.entered.connect(lambda value: self._change(wall.id, length=float(value)))
        turn.entered.connect(lambda value: self._change(wall.id, turn=float(value)))
        how.entered.connect(lambda value: self._change(wall.id, how=value))
        away.clicked.connect(
            lambda: self.desk.apply(lambda shop: remove(shop, wall.id), f"Take out wall {wall.id}")
        )
        for column, widget in enumerate((name, length, turn, how, away)):
            self.grid.addWidget(widget, number, column)
        self._rows[wall.id] = (length, turn, how)

    def _change(self, wall_id: str, **changes: object) -> None:
        wall = next((one for one in self.desk.shop.room.walls if one.id == wall_id), None)
        if wall is not None:
            changed = replace(wall, **changes)  # type: ignore[arg-type]
            self.desk.apply(lambda shop: put(shop, changed), f"Correct wall {wall_id}")

    def refresh(self) -> None:
        """Shows the walls as they are now."""
        walls = self.desk.shop.room.walls
        if list(self._rows) != [wall.id for wall in walls]:
            self.rebuild()
            return
        for wall in walls:
            length, turn, how = self._rows[wall.id]
            length.show_value(wall.length)
            turn.show_value(wall.turn)
            how.show_value(wall.how)
        self.bar.update()


class _Bar(QWidget):
    """All walls unrolled to scale, and the gap."""

    def __init__(self, tape: TapeWalk) -> None:
        super().__init__()
        self.tape = tape
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(200, round(self.tape.pixels * 5.4))

    def paintEvent(self, event: QPaintEvent) -> None:
        look, pixels = self.tape.look, self.tape.pixels
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        sheet = Sheet(painter, look, 1.0, QPointF(0, 0), pixels)
        shop = self.tape.desk.shown
        trip = self.tape.bench.quick().of(RoomAnswers).traverse
        if not shop.room.walls:
            sheet.text(
                QPointF(12, self.height() / 2),
                "The tape walk appears here wall by wall.",
                look.pencil,
                centre=False,
            )
            painter.end()
            return
        say = Figures(shop.units)
        gap = trip.gap_length
        if trip.is_closed:
            fine = gap <= fair_gap(trip.perimeter)
            verdict, more = f"Closes within {say.length(gap)}", ""
            if not fine:
                verdict = f"Misses its start by {say.length(gap)}"
                more = f"; look at wall {' or '.join(trip.suspects)}" if trip.suspects else ""
            colour = look.good if fine else look.mend
        else:
            verdict, more, colour = f"Still open: {say.length(gap)} to go", "", look.mend
        end = sheet.heading((verdict + more, verdict), colour, self.width(), 1.15)
        fair = (
            f"walked {say.length(trip.perimeter)}; careful taping closes within"
            f" {say.length(fair_gap(trip.perimeter))}"
        )
        if end + 20 + sheet.measure(fair) < self.width():
            sheet.text(QPointF(end + 20, pixels), fair, look.pencil, centre=False)
        shown_gap = gap if gap > 1e-3 else 0.0
        scale = (self.width() - 24) / max(trip.perimeter + shown_gap, 1e-6)
        x, top, high = 12.0, pixels * 2.2, pixels * 1.5
        for wall in shop.room.walls:
            box = QRectF(x, top, wall.length * scale, high)
            suspect = wall.id in trip.suspects
            painter.setPen(sheet.pen(look.mend if suspect else look.wall, 2.5 if suspect else 1.5))
            painter.setBrush(sheet.brush(look.wood, 0.5 if wall.how == "paced" else 1.0))
            painter.drawRect(box)
            sheet.text(box.center(), wall.id, look.ink, bold=True)
            length = format_length(wall.length, shop.units)
            if sheet.measure(length, 0.8) < box.width() + 8:
                sheet.text(
                    QPointF(box.center().x(), box.bottom() + pixels * 0.75),
                    length,
                    look.mend if suspect else look.ink,
                    factor=0.8,
                )
            x += box.width()
        if shown_gap:
            box = QRectF(x, top, max(3.0, shown_gap * scale), high)
            painter.setPen(sheet.pen(look.mend, 2, dashes=(2, 2)))
            painter.setBrush(sheet.brush(look.mend, 0.4, Qt.BrushStyle.DiagCrossPattern))
            painter.drawRect(box)
        painter.end()
