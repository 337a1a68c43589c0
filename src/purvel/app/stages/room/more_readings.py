"""What is read besides the walls: lengths between corners, spots, heights; and which reading settles most."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QGridLayout, QPushButton, QVBoxLayout, QWidget

from purvel.app.reviews import Reviews
from purvel.app.theme import Theme
from purvel.app.widgets.fields import ChoiceField, TextField, length_field, text_field
from purvel.app.widgets.flow import FlowRow, clear
from purvel.app.widgets.scrolled import scrolled
from purvel.app.widgets.words import Words
from purvel.app.workspace import Workspace
from purvel.review import Figures
from purvel.review.figures import sentence_case
from purvel.review.room.answers import RoomAnswers
from purvel.review.room.heights import height_misfits, height_words
from purvel.review.room.readings import misfit_words, proposal_words, reading_name
from purvel.review.room.remedies import taking
from purvel.shop import Diagonal, Offset, Shop, Spot, WallHeight
from purvel.shop.edits import fresh_id, put, remove
from purvel.shop.fields import Provenance
from purvel.space.readings import Key
from purvel.space.slips import Slip
from purvel.space.traverse import Misfit

HOW: tuple[tuple[Provenance, str], ...] = (
    ("measured", "taped"),
    ("laser", "by meter"),
    ("plate", "off a drawing"),
    ("paced", "paced"),
)


class MoreReadings(QWidget):
    """A pane of the room's instrument."""

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__()
        self.workspace, self.reviews, self.theme = workspace, reviews, theme
        self.next = Words()
        self.next.setWordWrap(True)
        self.take = QPushButton("Enter it")
        self.take.clicked.connect(self._enter_proposed)
        self.entry = QWidget()
        self.fields = QVBoxLayout(self.entry)
        self.fields.setContentsMargins(0, 0, 0, 0)
        self.table = QWidget()
        self.grid = QGridLayout(self.table)
        self.grid.setContentsMargins(6, 2, 6, 6)
        self.grid.setHorizontalSpacing(10)
        self.grid.setColumnStretch(0, 1)
        inside = QWidget()
        column = QVBoxLayout(inside)
        column.setContentsMargins(6, 4, 6, 4)
        column.addWidget(self.next)
        column.addWidget(self.take, 0, Qt.AlignmentFlag.AlignLeft)
        column.addWidget(self.entry)
        column.addWidget(self.table)
        column.addStretch(1)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.addWidget(scrolled(inside))
        self._built_for: tuple[object, ...] = ()
        self._listed: tuple[object, ...] = ()

    # ---- what is shown

    def show_shop(self, shop: Shop) -> None:
        """Shows what was read, and what to read next."""
        room = self.reviews.answers().of(RoomAnswers)
        say = Figures(shop.units)
        corners = tuple(wall.id for wall in shop.room.walls)
        if (corners, shop.units, self.theme.pixels) != self._built_for:
            self._built_for = (corners, shop.units, self.theme.pixels)
            self._make_entry(corners)
        traverse = room.traverse
        proposed = traverse.proposed
        if len(corners) < 3:
            words = "Here you enter more lengths, once the walls meet: they show which wall was read wrong."
        elif proposed is not None:
            words = proposal_words(proposed, shop.room, say)
        elif not traverse.is_closed:
            words = "More lengths count as soon as the walls meet."
        elif traverse.holds:
            words = (
                "All readings agree."
                if shop.room.diagonals
                else "A length from corner to corner shows whether the room is square."
            )
        else:
            words = (
                "Take what is marked, once you have read it again."
                if traverse.slips
                else "More than one reading is wrong: read those again that are off most."
            )
        self.next.setText(words)
        self.take.setVisible(proposed is not None and proposed.between is not None)
        self.entry.setVisible(len(corners) >= 3)
        misfits = [one for one in traverse.misfits if one.what in ("diagonal", "offset")]
        slips = {slip.key: slip for slip in traverse.slips}
        listed = (
            shop.room.diagonals,
            shop.room.spots,
            shop.room.heights,
            misfits,
            slips,
            shop.units,
            self.theme.pixels,
            shop.room.ceiling,
        )
        if listed != self._listed:
            self._listed = listed
            self._list(shop, misfits, slips, say)

    def _list(self, shop: Shop, misfits: list[Misfit], slips: Mapping[Key, Slip], say: Figures) -> None:
        clear(self.grid)
        row = 0
        for one in misfits:
            slip = slips.get(one.key)
            name = reading_name(one, shop.room)
            self._row(
                row,
                f"{sentence_case(name)}: {say.length(one.read)}",
                misfit_words(one, say),
                one.of,
                slip,
            )
            row += 1
        for height, modelled in height_misfits(self.reviews.answers()):
            word = height_words(height.height, modelled, say)
            at = f"Height at wall {height.wall}, {say.length(height.along)} from its start: {say.length(height.height)}"
            self._row(row, at, word, height.id, None)
            row += 1

    def _row(self, row: int, what: str, off: str, item: str, slip: Slip | None) -> None:
        said = Words(what)
        said.setWordWrap(True)
        self.grid.addWidget(said, row, 0)
        self.grid.addWidget(Words(off), row, 1)
        if slip is not None:
            value = Figures(self.workspace.shop.units).length(slip.value)
            take = QPushButton(f"Take {value}")
            take.clicked.connect(
                lambda _=False, slip=slip: self.workspace.apply(taking(slip), f"Take {value}")
            )
            self.grid.addWidget(take, row, 2)
        away = QPushButton("Take out")
        away.setAccessibleName(f"Take out {what}")
        away.clicked.connect(
            lambda _=False: self.workspace.apply(lambda shop: remove(shop, item), "Take out a reading")
        )
        self.grid.addWidget(away, row, 3)

    # ---- what is entered

    def _make_entry(self, corners: tuple[str, ...]) -> None:
        clear(self.fields)
        if len(corners) < 3:
            return
        names = [(name, f"corner {name}") for name in corners]
        system = self.workspace.shop.units
        self.how = ChoiceField("How these were got", HOW)
        self.how.show_value("measured")
        self.start, self.end = (
            ChoiceField("From the corner where wall … starts", names),
            ChoiceField("To the corner where wall … starts", names),
        )
        self.start.show_value(corners[0])
        self.end.show_value(corners[2])
        self.across = self._length("Length between the corners", self.add_diagonal)
        self.spot_name = text_field("What the spot is", 60)
        self.spot_name.line.setPlaceholderText("post, drain …")
        self.spot_name.line.setFixedWidth(self.theme.pixels * 8)
        self.corner_a, self.corner_b = (
            ChoiceField("First corner of the spot", names),
            ChoiceField("Second corner of the spot", names),
        )
        self.corner_a.show_value(corners[0])
        self.corner_b.show_value(corners[1])
        self.from_a = self._length("Length from the first corner", self.add_spot)
        self.from_b = self._length("Length from the second corner", self.add_spot)
        self.wall = ChoiceField("Wall whose height was read", [(name, f"wall {name}") for name in corners])
        self.wall.show_value(corners[0])
        self.along = length_field("From the wall's start", system)
        self.along.line.setFixedWidth(self.theme.pixels * 6)
        self.along.show_value(0.0)
        self.tall = self._length("Height there", self.add_height)
        rows: tuple[tuple[str, tuple[QWidget, ...], Callable[[], object]], ...] = (
            ("Across", (self.start, self.end, self.across), self.add_diagonal),
            ("Spot", (self.spot_name, self.corner_a, self.from_a, self.corner_b, self.from_b), self.add_spot),
            ("Height", (self.wall, self.along, self.tall), self.add_height),
        )
        self.fields.addWidget(_group("Read by", (self.how,), None))
        for name, widgets, act in rows:
            self.fields.addWidget(_group(name, widgets, act))

    def _length(self, name: str, act: Callable[[], object]) -> TextField[float]:
        field = length_field(name, self.workspace.shop.units, least=0.01)
        field.may_be_blank = True
        field.line.setPlaceholderText("off the tape")
        field.line.setFixedWidth(self.theme.pixels * 7)
        field.line.returnPressed.connect(act)
        return field

    def _enter_proposed(self) -> None:
        proposed = self.reviews.answers().of(RoomAnswers).traverse.proposed
        if proposed is not None and proposed.between is not None:
            self.start.show_value(proposed.between[0])
            self.end.show_value(proposed.between[1])
            self.across.line.setFocus()

    def add_diagonal(self) -> None:
        """The length that was typed, between the corners that are chosen."""
        start, end = self.start.value, self.end.value
        if start == end or start is None or end is None:
            self.workspace.said.emit("Choose two different corners.")
            return
        length = self.across.read()
        if length is None:
            return
        one = Diagonal(
            id=fresh_id(self.workspace.shop, "across"),
            start=start,
            end=end,
            length=length,
            provenance=self.how.value or "measured",
        )
        self._put(one, f"Read corner {start} to corner {end}", self.across)

    def add_spot(self) -> None:
        """A spot from two corners; a third length is added by entering the same name again."""
        a, b = self.corner_a.value, self.corner_b.value
        if a == b or a is None or b is None:
            self.workspace.said.emit("Choose two different corners.")
            return
        if not (self.from_a.line.text().strip() and self.from_b.line.text().strip()):
            missing = self.from_b if self.from_a.line.text().strip() else self.from_a
            missing.line.setFocus()
            return
        lengths = self.from_a.read(), self.from_b.read()
        name = self.spot_name.read()
        if lengths[0] is None or lengths[1] is None or name is None:
            return
        how = self.how.value or "measured"
        offsets = tuple(
            Offset(corner=corner, length=length, provenance=how)
            for corner, length in zip((a, b), lengths)
            if length
        )
        known = next((one for one in self.workspace.shop.room.spots if name and one.name == name), None)
        if known is None:
            spot = Spot(id=fresh_id(self.workspace.shop, "spot"), name=name, offsets=offsets)
        else:
            fresh = {one.corner for one in offsets}
            spot = replace(
                known, offsets=(*(one for one in known.offsets if one.corner not in fresh), *offsets)
            )
        self._put(spot, f"Read the spot {name}".strip(), self.from_a, self.from_b)

    def add_height(self) -> None:
        """The height that was typed, at the wall that is chosen."""
        along, height, wall = self.along.read(), self.tall.read(), self.wall.value
        if along is None or height is None or wall is None:
            return
        length = next(one.length for one in self.workspace.shop.room.walls if one.id == wall)
        if along > length:
            self.workspace.said.emit(f"Wall {wall} is not that long.")
            return
        one = WallHeight(
            id=fresh_id(self.workspace.shop, "height"),
            wall=wall,
            along=along,
            height=height,
            provenance=self.how.value or "measured",
        )
        self._put(one, f"Read the height at wall {wall}", self.tall)

    def _put(self, item: object, label: str, *fields: TextField[float]) -> None:
        self.workspace.apply(lambda shop: put(shop, item), label)
        for field in fields:
            field.line.setText("")
        fields[0].line.setFocus()


def _group(name: str, widgets: tuple[QWidget, ...], act: Callable[[], object] | None) -> QWidget:
    """Fields of one reading, in a row that breaks."""
    group = FlowRow()
    caption = Words(name)
    caption.setObjectName("caption")
    for part in (caption, *widgets):
        group.row.addWidget(part)
    if act is not None:
        button = QPushButton("Add")
        button.setAccessibleName(f"Add {name.lower()}")
        button.clicked.connect(partial(_press, act))
        group.row.addWidget(button)
    return group


def _press(act: Callable[[], object], _: bool = False) -> None:
    act()
