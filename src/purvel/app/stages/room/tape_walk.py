"""The tape walk: the walls in order as measured, the gap left at the end, which wall is suspect; each wall
can be corrected here.
"""

from dataclasses import dataclass
from typing import Any

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from purvel.app.plan.sheet import Sheet
from purvel.app.reviews import Reviews
from purvel.app.stages.room.more_readings import HOW, MoreReadings
from purvel.app.theme import Theme
from purvel.app.widgets.fields import ChoiceField, TextField, length_field, number_field
from purvel.app.widgets.flow import clear
from purvel.app.widgets.panes import Pane, Panes
from purvel.app.widgets.picture import Picture
from purvel.app.widgets.scrolled import scrolled
from purvel.app.widgets.words import Words
from purvel.app.workspace import Workspace
from purvel.quantities import format_length
from purvel.review import Figures, Grade
from purvel.review.room.answers import RoomAnswers
from purvel.review.room.readings import misfit_words, reading_name
from purvel.review.room.remedies import taking
from purvel.review.room.rules import closing_grade
from purvel.shop import Shop, Wall
from purvel.shop.edits import change, remove
from purvel.shop.fields import Provenance
from purvel.space.traverse import Traverse

ROOM_FOR_ALL = 35  # letters' sizes that a whole row needs


@dataclass(frozen=True, slots=True)
class _Row:
    """The controls of a wall: its readings, how far they are off, and what takes the one that would fit."""

    length: TextField[float]
    turn: TextField[float]
    how: ChoiceField[Provenance]
    off: Words
    take: QPushButton


class TapeWalk(QWidget):
    """The instrument of the room."""

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__()
        self.workspace, self.reviews, self.theme = workspace, reviews, theme
        self.bar = _Bar(self)
        self.table = QWidget()
        self.grid = QGridLayout(self.table)
        self.grid.setContentsMargins(6, 2, 6, 6)
        self.grid.setHorizontalSpacing(10)
        self.grid.setVerticalSpacing(4)
        for column, share in ((1, 3), (2, 2), (3, 3), (4, 2)):
            self.grid.setColumnStretch(column, share)
        self.more = MoreReadings(workspace, reviews, theme)
        walked = QWidget()
        inside = QVBoxLayout(walked)
        inside.setContentsMargins(0, 0, 0, 0)
        inside.setSpacing(0)
        inside.addWidget(self.bar)
        inside.addWidget(self.table, 1)
        self.panes = Panes(
            theme,
            [Pane("Walls", scrolled(walked), 26.0, 6), Pane("More readings", self.more, 22.0, 5)],
            chosen=0,
        )
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.addWidget(self.panes)
        self._rows: dict[str, _Row] = {}
        self._built_for: tuple[object, ...] = ()

    def show_shop(self, shop: Shop) -> None:
        """Shows the walls as they are now."""
        walls = shop.room.walls
        wanted = (tuple(wall.id for wall in walls), shop.units, self.theme.pixels)
        if wanted != self._built_for:
            self._built_for = wanted
            self._rebuild(shop)
        traverse = self.reviews.answers().of(RoomAnswers).traverse
        for wall in walls:
            row = self._rows[wall.id]
            row.length.show_value(wall.length)
            row.turn.show_value(wall.turn)
            row.how.show_value(wall.provenance)
            self._show_off(row, wall, traverse, Figures(shop.units))
        self.bar.update()
        self.more.show_shop(shop)

    def _show_off(self, row: _Row, wall: Wall, traverse: Traverse, say: Figures) -> None:
        """How far a wall's readings are from what they come to; or what one would be, to be taken."""
        misfits = [one for one in traverse.misfits if one.of == wall.id and one.what in ("length", "turn")]
        row.off.setText(" ".join(word for one in misfits if (word := misfit_words(one, say))))
        slip = next((one for one in traverse.slips if one.of == wall.id), None)
        row.off.setVisible(slip is None)
        row.take.setVisible(slip is not None)
        if slip is not None:
            value = f"{slip.value:g}°" if slip.what == "turn" else say.length(slip.value)
            row.take.setText(f"Take {value}")
            row.take.setAccessibleName(f"Take {value} for {reading_name(slip, self.workspace.shop.room)}")

    def _take(self, wall: str) -> None:
        """The reading that would make all agree, in place of what was read."""
        slips = self.reviews.answers().of(RoomAnswers).traverse.slips
        slip = next((one for one in slips if one.of == wall), None)
        if slip is not None:
            self.workspace.apply(
                taking(slip), f"Take {reading_name(slip, self.workspace.shop.room)} as it would fit"
            )

    def _rebuild(self, shop: Shop) -> None:
        """Makes the rows anew."""
        clear(self.grid)
        self._rows.clear()
        heads = ("Wall", "Length", "Then turns", "How", "Off by") if shop.room.walls else ()
        for column, head in enumerate(heads):
            label = Words(head)
            label.setObjectName("caption")
            self.grid.addWidget(label, 0, column)
        for number, wall in enumerate(shop.room.walls, start=1):
            self._add_row(number, wall)
        self.grid.setRowStretch(len(shop.room.walls) + 1, 1)
        self.grid.setColumnMinimumWidth(1, round(self.theme.pixels * 6.5))
        self._share_room()
        self.bar.updateGeometry()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._share_room()

    def _share_room(self) -> None:
        """Where rows are too long, how a length was got and taking a wall out are left to the form of the
        picked wall.
        """
        narrow = self.table.width() < ROOM_FOR_ALL * self.theme.pixels
        for row in range(self.grid.rowCount()):
            for column in (3, 5):
                item = self.grid.itemAtPosition(row, column)
                if item is not None and (widget := item.widget()) is not None:
                    widget.setVisible(not narrow)

    def _add_row(self, number: int, wall: Wall) -> None:
        name = Words(wall.id)
        length = length_field(f"Length of wall {wall.id}", self.workspace.shop.units, least=0.01)
        turn = number_field(f"Turn at the end of wall {wall.id}, left is positive", "°", least=-180, most=360)
        how = ChoiceField(f"How wall {wall.id} was got", HOW)
        away = QPushButton("Take out")
        away.setAccessibleName(f"Take out wall {wall.id}")
        length.entered.connect(lambda value: self._change(wall.id, length=value))
        turn.entered.connect(lambda value: self._change(wall.id, turn=value))
        how.entered.connect(lambda value: self._change(wall.id, provenance=value))
        away.clicked.connect(
            lambda: self.workspace.apply(lambda shop: remove(shop, wall.id), f"Take out wall {wall.id}")
        )
        off, take = Words(), QPushButton()
        off.setObjectName("small")
        take.clicked.connect(lambda: self._take(wall.id))
        fits = QWidget()
        inside = QHBoxLayout(fits)
        inside.setContentsMargins(0, 0, 0, 0)
        inside.addWidget(off)
        inside.addWidget(take)
        for column, widget in enumerate((name, length, turn, how, fits, away)):
            self.grid.addWidget(widget, number, column)
        self._rows[wall.id] = _Row(length, turn, how, off, take)

    # ---- a distance meter

    def pointed_at(self, field: TextField[float] | None) -> str:
        """What a meter is pointed at whose length goes into a field, as far as that is known."""
        wall = self._wall_of(field)
        if wall is None and field is self.more.across and field is not None:
            return f"{self.more.start.value} {self.more.end.value}"
        return wall or ""

    def take_from_meter(self, field: TextField[float], length: float) -> bool:
        """A wall's length as the meter read it; False where the field is no wall's."""
        wall = self._wall_of(field)
        if wall is not None:
            self._change(wall, length=length, provenance="laser")
            field.line.setModified(False)
            return True
        if self.more.isAncestorOf(field):
            self.more.how.show_value("laser")
        return False

    def _wall_of(self, field: TextField[float] | None) -> str | None:
        return next((wall for wall, row in self._rows.items() if row.length is field), None)

    def _change(self, wall_id: str, **changes: Any) -> None:
        self.workspace.apply(lambda shop: change(shop, wall_id, **changes), f"Correct wall {wall_id}")


class _Bar(Picture):
    """All walls unrolled to scale, and the gap."""

    def __init__(self, tape: TapeWalk) -> None:
        super().__init__(tape.theme)
        self.tape = tape
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(200, round(self.theme.pixels * 5.4))

    def draw(self, sheet: Sheet) -> None:
        shop = self.tape.workspace.shown
        room = self.tape.reviews.answers().of(RoomAnswers)
        traverse = room.traverse
        if shop.room.walls:
            self._verdict(sheet, room, Figures(shop.units))
            self._walls(sheet, shop, traverse)
        else:
            words = "The tape walk appears here wall by wall."
            sheet.text(QPointF(12, self.height() / 2), words, sheet.palette.pencil, centre=False)

    def _verdict(self, sheet: Sheet, room: RoomAnswers, say: Figures) -> None:
        palette, traverse, grade, more = sheet.palette, room.traverse, closing_grade(room), ""
        gap, fair, colour = traverse.gap_length, traverse.fair, palette.grade(grade)
        if not traverse.is_closed:
            verdict = f"Still open: {say.length(gap)} to go"
        elif grade == Grade.STOP:
            verdict = "The walls cross each other"
        elif grade == Grade.GOOD:
            verdict = f"Closes within {say.length(gap)}"
        else:
            verdict = f"Misses its start by {say.length(gap)}"
            more = f"; look at wall {' or '.join(traverse.suspects)}" if traverse.suspects else ""
        end = sheet.heading((verdict + more, verdict), colour, self.width(), 1.15)
        usual = f"walked {say.length(traverse.perimeter)}; careful taping closes within {say.length(fair)}"
        if end + 20 + sheet.measure(usual) < self.width():
            sheet.text(QPointF(end + 20, sheet.pixels), usual, palette.pencil, centre=False)

    def _walls(self, sheet: Sheet, shop: Shop, traverse: Traverse) -> None:
        palette, pixels, painter = sheet.palette, sheet.pixels, sheet.painter
        gap = traverse.gap_length if traverse.gap_length > 1e-3 else 0.0
        scale = (self.width() - 24) / max(traverse.perimeter + gap, 1e-6)
        x, top, high = 12.0, pixels * 2.2, pixels * 1.5
        for wall in shop.room.walls:
            box = QRectF(x, top, wall.length * scale, high)
            suspect = wall.id in traverse.suspects
            painter.setPen(sheet.pen(palette.mend if suspect else palette.wall, 2.5 if suspect else 1.5))
            painter.setBrush(sheet.brush(palette.wood, 0.5 if wall.provenance == "paced" else 1.0))
            painter.drawRect(box)
            sheet.text(box.center(), wall.id, palette.ink, bold=True)
            length = format_length(wall.length, shop.units)
            if sheet.measure(length, 0.8) < box.width() + 8:
                below = QPointF(box.center().x(), box.bottom() + pixels * 0.75)
                sheet.text(below, length, palette.mend if suspect else palette.ink, factor=0.8)
            x += box.width()
        if gap:
            painter.setPen(sheet.pen(palette.mend, 2, dashes=(2, 2)))
            painter.setBrush(sheet.brush(palette.mend, 0.4, Qt.BrushStyle.DiagCrossPattern))
            painter.drawRect(QRectF(x, top, max(3.0, gap * scale), high))
