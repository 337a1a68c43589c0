"""Room: walls as they are read off the tape, openings, what cannot move."""

from collections.abc import Callable
from dataclasses import replace
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeySequence, QShortcut
from PySide6.QtWidgets import QComboBox, QPushButton, QWidget

from purvel.app.plan import draw_readings, draw_room, draw_set_out, draw_things
from purvel.app.plan.sheet import Sheet
from purvel.app.reviews import Reviews
from purvel.app.stages import entry_of
from purvel.app.stages.room.meter import MeterLine, ask_port, length_in_hand, why_words
from purvel.app.stages.room.tape_walk import TapeWalk
from purvel.app.stages.stage import Stage
from purvel.app.theme import Theme
from purvel.app.widgets.fields import TextField, length_field
from purvel.app.widgets.flow import clear
from purvel.app.workspace import Workspace
from purvel.catalogue import evenly, fixture_kinds, make_fixture, make_opening, opening_kinds
from purvel.devices.meter import Taken
from purvel.review import Figures
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Wall
from purvel.shop.edits import as_rectangle, change_room, fresh_id, fresh_wall_id, put, split_wall
from purvel.shop.fields import Provenance
from purvel.shop.room import FixtureKind, Stands
from purvel.space.placing import against_wall, beside, free_offset, free_spot
from purvel.space.traverse import closing_wall

TURNS = (
    (90.0, "then left 90°"),
    (-90.0, "then right 90°"),
    (45.0, "then left 45°"),
    (-45.0, "then right 45°"),
)


_WHERE: dict[Stands, str] = {
    "floor": "On the floor",
    "wall": "At a wall",
    "ceiling": "Under the ceiling",
}


class RoomStage(Stage):
    """Does the tape walk close, and what is in the way?"""

    entry = entry_of("room")
    takes_fixtures = True
    edge_lines = 2.4

    wall_length: TextField[float]
    turn: QComboBox

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__(workspace, reviews, theme)
        self.instrument = self.tape = TapeWalk(workspace, reviews, theme)
        self.meter = MeterLine(self)
        self.meter.taken.connect(self._take_from_meter)
        self.meter.said.connect(workspace.said.emit)
        keys = QShortcut(QKeySequence("Ctrl+M"), self.strip)
        keys.setContext(Qt.ShortcutContext.WindowShortcut)
        keys.activated.connect(self.measure)
        self.rebuild()

    def rebuild(self) -> None:
        typed, turn = "", 0
        if self.row.count():
            typed, turn = self.wall_length.line.text(), self.turn.currentIndex()
        clear(self.row)
        system = self.workspace.shop.units
        self.wall_length = length_field("Length of the next wall", system, least=0.01)
        self.wall_length.line.setPlaceholderText("off the tape")
        self.wall_length.line.setFixedWidth(self.theme.pixels * 8)
        self.wall_length.may_be_blank = True
        self.wall_length.line.setText(typed)
        self.wall_length.line.returnPressed.connect(self.enter)
        self.pair("Next wall", self.wall_length)
        self.turn = QComboBox()
        self.turn.setAccessibleName("Turn after the next wall")
        self.turn.addItems([label for _, label in TURNS])
        self.turn.setCurrentIndex(turn)
        self.row.addWidget(self.turn)
        self._button("Add wall", self.enter)
        self.close_button = self._button("Close the loop", self.close_loop)
        openings = [(one.label, partial(self.add_opening, kind)) for kind, one in opening_kinds().items()]
        fixtures = [(one.label, partial(self.add_fixture, kind)) for kind, one in fixture_kinds().items()]
        groups = ["In a wall"] * len(openings) + [_WHERE[one.stands] for one in fixture_kinds().values()]
        self.row.addWidget(self.menu_button("Add", [*openings, *fixtures], groups))
        self.row.addWidget(self.menu_button("Meter", self._meter_entries()))
        self.ceiling = length_field("Ceiling height", system, least=1.2, most=12.0)
        self.ceiling.line.setFixedWidth(self.theme.pixels * 6)
        self.ceiling.entered.connect(self._set_ceiling)
        self.pair("Ceiling", self.ceiling)
        self.ceiling.show_value(self.workspace.shop.room.ceiling.height)

    def _button(self, text: str, act: Callable[[], object]) -> QWidget:
        button = QPushButton(text)
        button.clicked.connect(lambda: act())
        self.row.addWidget(button)
        return button

    def refresh(self) -> None:
        self.ceiling.show_value(self.workspace.shop.room.ceiling.height)
        self.close_button.setVisible(not self._is_met())
        self.tape.show_shop(self.shop)

    def _set_ceiling(self, height: float) -> None:
        self.workspace.apply(
            lambda shop: change_room(shop, ceiling=replace(shop.room.ceiling, height=height)),
            "Set the ceiling",
        )

    def enter(self) -> None:
        field = self.wall_length
        length = field.read()
        if length is not None:
            self.add_wall(length, TURNS[self.turn.currentIndex()][0])
            field.line.setText("")  # unlike clear(), which the next undo would take back
        field.line.setFocus()

    def add_wall(self, length: float, turn: float, how: Provenance = "measured") -> None:
        """The next wall of the walk."""
        wall = Wall(id=fresh_wall_id(self.workspace.shop), length=length, turn=turn, provenance=how)
        self.workspace.apply(lambda shop: put(shop, wall), f"Add wall {wall.id}")

    # ---- a distance meter

    def _meter_entries(self) -> list[tuple[str, Callable[[], object]]]:
        return [
            ("Listen to a distance meter …", self.ask_meter),
            ("Measure now (Ctrl+M)", self.measure),
            ("Let the meter go", self.meter.stop),
        ]

    def ask_meter(self) -> None:
        """Asks where the meter is, and listens to it."""
        ask_port(self.listen)

    def listen(self, port: int) -> None:
        """Listens to the meter on a port of this machine."""
        self.meter.start(port)
        self.workspace.said.emit(
            "Listening to the meter: what it reads goes into the length field that you are in, else it is the next wall."
        )

    def measure(self) -> None:
        """Presses the meter from here."""
        if not self.meter.is_on:
            self.workspace.said.emit("No distance meter is listened to. Choose “Meter ▾” first.")
        else:
            self.meter.measure(self.tape.pointed_at(length_in_hand()))

    def _take_from_meter(self, taken: Taken) -> None:
        """A length goes into the field in hand, else it is the next wall while the walls do not meet."""
        field = length_in_hand()
        if taken.length is None:
            self.workspace.said.emit(why_words(taken))
        elif field is not None and field is not self.wall_length:
            if not self.tape.take_from_meter(field, taken.length):
                field.type_in(f"{taken.length:.3f} m")
        elif self.answers().of(RoomAnswers).traverse.is_closed:
            read = Figures(self.workspace.shop.units).length(taken.length)
            self.workspace.said.emit(f"The meter reads {read}. Click into a length field to have it there.")
        else:
            self.add_wall(taken.length, TURNS[self.turn.currentIndex()][0], "laser")

    def finish(self) -> None:
        self.meter.stop()

    # ---- walls

    def _is_met(self) -> bool:
        """Whether the last wall ends where the first began."""
        return (
            bool(self.workspace.shop.room.walls) and self.answers().of(RoomAnswers).traverse.gap_length < 0.01
        )

    def close_loop(self) -> None:
        """Adds the wall that leads back to the start; to two walls square to each other those across."""
        walls = self.workspace.shop.room.walls
        if len(walls) < 2 or self._is_met():
            self.workspace.said.emit(
                "There is nothing to close: enter at least two walls that do not meet yet."
            )
            return
        whole = as_rectangle(self.workspace.shop)
        if whole is not None:
            names = " and ".join(wall.id for wall in whole.room.walls[2:])
            self.workspace.apply(lambda _: whole, "Close the loop to a rectangle")
            self.workspace.said.emit(
                f"Walls {names} were taken as long as those across, square to them: tape them and correct them below."
            )
            return
        turn, length = closing_wall(self.workspace.shop.room, self.answers().of(RoomAnswers).traverse)
        last = replace(walls[-1], turn=turn)
        heading = sum(wall.turn for wall in walls[:-1]) + turn
        back = Wall(
            id=fresh_wall_id(self.workspace.shop),
            length=round(length, 4),
            turn=-heading % 360.0,
            provenance="paced",
        )
        self.workspace.apply(lambda shop: put(put(shop, last), back), "Close the loop")
        self.workspace.said.emit(f"Wall {back.id} was reckoned, not taped: tape it and correct it below.")

    def add_opening(self, kind: str) -> None:
        """An opening in the picked wall, else in the first."""
        walls = self.workspace.shop.room.walls
        if not walls:
            self.workspace.said.emit("Enter the walls first; then openings have a place.")
            return
        wall = next((one for one in walls if one.id == self.workspace.picked), walls[0])
        units = self.workspace.shop.units
        opening = evenly(make_opening(kind, fresh_id(self.workspace.shop, kind), wall.id), units)
        if opening.width > wall.length:
            opening = replace(opening, width=round(wall.length * 0.8, 3), offset=0.0)
        offset = free_offset(self.workspace.shop.room, wall, opening)
        entry = opening.kind == "swing" and not any(one.entry for one in self.workspace.shop.room.openings)
        opening = replace(opening, offset=offset, entry=entry)
        self.workspace.apply(lambda shop: put(shop, opening), f"Add {opening_kinds()[kind].label.lower()}")
        self.workspace.pick(opening.id)

    def add_fixture(self, kind: FixtureKind) -> None:
        """A fixture where the floor is free, at the picked wall where it belongs to one, to be dragged to its
        place.
        """
        shop, shell = self.workspace.shop, self.answers().of(RoomAnswers).shell
        stem = kind.replace(" ", "-")
        made = make_fixture(kind, fresh_id(shop, stem), 0.0, 0.0, shop.room.ceiling.height)
        fixture = evenly(made, shop.units)
        side = shell.sides.get(self.workspace.picked or "") if fixture.stands == "wall" else None
        if side is not None:
            x, y = side.at(side.length / 2, -fixture.depth / 2)
            x, y, angle = against_wall(replace(fixture, x=x, y=y), shell)
            fixture = replace(fixture, x=x, y=y, angle=angle)
        else:
            spot = free_spot(fixture, shop.things, shell) or beside(fixture, shell)
            fixture = replace(fixture, x=spot[0], y=spot[1])
        self.workspace.apply(lambda shop: put(shop, fixture), f"Add {fixture_kinds()[kind].label.lower()}")
        self.workspace.pick(fixture.id)

    def begin(self) -> None:
        self.wall_length.line.setFocus()

    def pickable(self) -> list[str]:
        room = self.workspace.shop.room
        return [one.id for group in (room.walls, room.openings, room.fixtures) for one in group]

    def draw(self, sheet: Sheet) -> None:
        shop, shell = self.workspace.shown, self.answers().of(RoomAnswers).shell
        draw_room.room(sheet, shell, self.workspace.picked, shop.units)
        draw_set_out.opening_chains(sheet, shell, shop.units, draw_room.outside(sheet, 0))
        if shop.room.ceiling.joists is not None:
            draw_room.joists(sheet, shell)
        draw_readings.readings(sheet, shell, shop.units)
        draw_things.things(sheet, shop, None, {}, quiet=True)

    def tool_press(self, x: float, y: float) -> bool:
        from purvel.app.plan.drag_handles import item_at, wall_at

        answers = self.answers()
        if item_at(answers, x, y, 0.1, fixtures=True) is not None:
            return False
        found = wall_at(answers.of(RoomAnswers).shell, x, y, 0.16)
        if found is None:
            return False
        self.workspace.pick(found[0].wall)
        return True

    def insert_at(self, x: float, y: float) -> bool:
        """Splits the wall there in two."""
        from purvel.app.plan.drag_handles import wall_at

        found = wall_at(self.answers().of(RoomAnswers).shell, x, y, 0.16)
        if found is None:
            return False
        side, along = found
        wall = next(one for one in self.workspace.shop.room.walls if one.id == side.wall)
        at = along / side.length * wall.length
        inside = [one for one in self.workspace.shop.room.openings if one.wall == wall.id]
        if not 0.05 < at < wall.length - 0.05 or any(o.offset < at < o.offset + o.width for o in inside):
            self.workspace.said.emit("A corner cannot be put into an opening, nor next to another corner.")
            return True
        new = fresh_wall_id(self.workspace.shop)
        self.workspace.apply(
            lambda shop: split_wall(shop, wall.id, new, round(at, 3)), f"Split wall {wall.id}"
        )
        self.workspace.pick(wall.id)
        return True

    def empty_hint(self) -> str:
        if self.workspace.shown.room.walls:
            return ""
        return (
            "Start with the room.\n\nStand at a corner with the room on your left, read the first wall off"
            " the tape, type it under “Next wall” and press Enter. Go on wall by wall; for a plain rectangle two"
            " walls and “Close the loop” will do. Or open a demo shop from the ☰ menu."
        )

    def commands(self) -> list[tuple[str, Callable[[], object]]]:
        openings = [(one.label, partial(self.add_opening, kind)) for kind, one in opening_kinds().items()]
        fixtures = [(one.label, partial(self.add_fixture, kind)) for kind, one in fixture_kinds().items()]
        added = [(f"Add {label.lower()}", act) for label, act in (*openings, *fixtures)]
        return [*added, ("Close the loop of walls", self.close_loop), *self._meter_entries()]
