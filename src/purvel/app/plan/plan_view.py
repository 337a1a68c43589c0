"""The plan in the middle of the window: shows what the stage draws, takes drags, keys and clicks."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import partial
from typing import Protocol

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent

from purvel.app.grouped import group_of, is_held, switch_fixed, take_all_away
from purvel.app.last import Last
from purvel.app.plan import drag_handles
from purvel.app.plan.drag_handles import DragHandle
from purvel.app.plan.draw_room import mark, paper_grid, view_scale
from purvel.app.plan.draw_things import beside, distances, ghost, neighbours, picked_too
from purvel.app.plan.drawing_view import ARROWS, DrawingView
from purvel.app.plan.hint import wrapped
from purvel.app.plan.measuring import Measuring
from purvel.app.plan.nudging import nudge
from purvel.app.plan.prompt import Choice, LengthPrompt
from purvel.app.plan.sheet import Sheet
from purvel.app.reviews import Reviews
from purvel.app.theme import Theme
from purvel.app.view import View
from purvel.app.workspace import Workspace
from purvel.quantities import format_length
from purvel.review import Review
from purvel.review.finding import Where
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Fixture, Opening, Shop, Thing
from purvel.shop.edits import change, put
from purvel.shop.parts import item_of, name_of
from purvel.space.clearances import wall_distances
from purvel.space.ground import footprint
from purvel.space.placing import at_distance
from purvel.space.shell import Shell
from purvel.space.traverse import Point

SQUARES = {"metric": 0.5, "imperial": 0.6096}  # m, of the squared paper
NOWHERE = Where()


class PlanStage(Protocol):
    """What the plan asks of a stage."""

    takes_fixtures: bool
    edge_lines: float

    def draw(self, sheet: Sheet) -> None: ...
    def seen_of_review(self) -> object: ...
    def empty_hint(self) -> str: ...
    def pickable(self) -> list[str]: ...
    def handle_at(self, x: float, y: float) -> DragHandle | None: ...
    def tool_press(self, x: float, y: float) -> bool: ...
    def tool_move(self, x: float, y: float) -> None: ...
    def tool_key(self, key: int, shift: bool) -> bool: ...
    def tool_lengths(self) -> list[Choice]: ...
    def insert_at(self, x: float, y: float) -> bool: ...
    def take_out(self, x: float, y: float) -> bool: ...


class PlanView(DrawingView):
    """The drawing board. It shows the stage that `show` names."""

    tool_used = Signal()

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__(workspace, reviews, theme)
        self.stage: PlanStage | None = None
        self.setAccessibleName("Plan")
        self.prompt = LengthPrompt(self)
        self.prompt.refused.connect(workspace.said.emit)
        self.prompt.done.connect(self.setFocus)
        self.measuring = Measuring()
        self._where = NOWHERE
        self._seen = Last()
        self._walls = workspace.shop.room.walls

    def show_shop(self, shop: Shop, review: Review, view: View, stage: PlanStage) -> None:
        """Shows a shop in a stage, and points at what the open finding speaks of."""
        opened = next((one for one in review.findings if one.key == view.open_finding), None)
        self._where = NOWHERE if opened is None else opened.where
        if stage is not self.stage:
            self.stage = stage
            self.fit_again()
        if shop.room.walls is not self._walls:  # new walls that run out of the picture bring it back to fit
            self._walls = shop.room.walls
            if not self.sees(self._shell().traverse.raw):
                self.fit()
        searched = review.is_whole and not self.reviews.is_stale
        same = self._seen.is_same(shop, view, self._where, searched, stage.seen_of_review())
        if not (same and self.is_dragging):  # most reviews of what is in the hand change no line
            self.update()

    def _shell(self) -> Shell:
        return self.reviews.answers().of(RoomAnswers).shell

    # ---- drawing

    def extent(self) -> Sequence[Point]:
        things = self.workspace.shown.things
        points = [*self._shell().traverse.raw, *((thing.x, thing.y) for thing in things)]
        return points if len(points) > 1 else super().extent()

    def edge(self) -> float:
        """The walls' lengths stand round the room, where the stage shows them."""
        lines, letters = self.stage.edge_lines if self.stage else 1.0, self.lettering()
        return min(10.0 + lines * 1.5 * letters, max(lines * 1.4 * letters, 0.15 * self.height()))

    def draw(self, sheet: Sheet) -> None:
        size = (self.width(), self.height(), SQUARES[self.workspace.shop.units])
        sheet.stamp(("paper", *size), None, lambda paper: paper_grid(paper, *size))
        if self.stage is not None:
            self.stage.draw(sheet)
            self._draw_distances(sheet)
            self._draw_where(sheet)
            self.measuring.draw(sheet, self.pointer, self.workspace.shop.units)

    def draw_over(self, sheet: Sheet) -> None:
        view_scale(sheet, self.width(), self.height(), self.workspace.shop.units)
        # where things stand it is said beside the plan
        hint = self.stage.empty_hint() if self.stage and not self.workspace.shown.things else ""
        if hint:
            wide = min(self.width() - 80, 560)
            wrapped(sheet, hint, QRectF((self.width() - wide) / 2, 0, wide, self.height()))

    def _draw_distances(self, sheet: Sheet) -> None:
        """While something is in the hand, or its distance is being typed."""
        item = self.workspace.picked_body
        if item is not None and (self.is_dragging or self.prompt.isVisible()):
            wanted = self.prompt.chosen.key if self.prompt.isVisible() else None
            distances(sheet, self._shell(), self.workspace.shown.units, item, wanted)
            if self.is_dragging:
                neighbours(sheet, self.workspace.shown, item)
        opening = item_of(self.workspace.shown, self.workspace.picked) if self.is_dragging else None
        if isinstance(opening, Opening) and opening.wall in self._shell().sides:
            beside(sheet, self._shell().sides[opening.wall], self.workspace.shown.units, opening)

    def _draw_where(self, sheet: Sheet) -> None:
        """The open finding's point, and what it is about besides what is picked."""
        shop = self.workspace.shown
        bodies: list[Thing | Fixture] = [*shop.things, *shop.room.fixtures]
        for item in bodies:
            if item.id in self._where.items and item.id != self.workspace.picked:
                ghost(sheet, footprint(item))
        for thing in group_of(self.workspace):
            if thing.id != self.workspace.picked:
                picked_too(sheet, footprint(thing))
        if self._where.point is not None:
            mark(sheet, self._where.point)

    def look_at_picked(self) -> None:
        """Zooms to the picked thing or fixture."""
        item = self.workspace.picked_body
        if item is not None:
            self.look_near(item.x, item.y)

    # ---- hands

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.prompt.hide()
        super().mousePressEvent(event)

    def hover(self, x: float, y: float) -> None:
        if self.stage is not None:
            self.stage.tool_move(x, y)

    def handle_at(self, x: float, y: float) -> DragHandle | None:
        return None if self.stage is None else self.stage.handle_at(x, y)

    def pick_also(self, x: float, y: float) -> bool:
        item = self.item_under(x, y)
        if item is None or self.workspace.shop.thing(item) is None:
            return False
        self.workspace.end_merge()
        self.workspace.view.pick_also(item)
        return True

    def take(self, item: str | None) -> None:
        group = [one.id for one in group_of(self.workspace)]
        if item in group:  # the others go along
            self.workspace.view.look_at(picked=item, also=tuple(one for one in group if one != item))
        else:
            self.workspace.pick(item)

    def press(self, x: float, y: float) -> bool:
        if self.measuring.on:
            self.measuring.press(x, y, self._corners(), self.scale)
            return True
        if self.stage is None or not self.stage.tool_press(x, y):
            return False
        self.tool_used.emit()
        return True

    def item_under(self, x: float, y: float) -> str | None:
        fixtures = self.stage is not None and self.stage.takes_fixtures
        slack = drag_handles.GRAB / self.scale
        return drag_handles.item_at(self.reviews.answers(), x, y, slack, fixtures=fixtures)

    def handle_for(self, item: str, x: float, y: float) -> DragHandle | None:
        thing = self.workspace.shop.thing(item)
        if thing is not None and thing.settled:
            return None  # fixed
        handle = drag_handles.handle_for(self.reviews.answers(), item, x, y)
        others = [one for one in group_of(self.workspace) if one.id != item and not one.settled]
        return handle if handle is None or thing is None else drag_handles.with_others(handle, thing, others)

    def _corners(self) -> list[Point]:
        """Corners that a tape is laid at: of the room, of things and fixtures."""
        shop = self.workspace.shown
        bodies: list[Thing | Fixture] = [*shop.things, *shop.room.fixtures]
        corners = [(float(x), float(y)) for one in bodies for x, y in footprint(one)]
        return [*self._shell().traverse.corners, *corners]

    def measure(self) -> None:
        """Takes the tape up, or lays it down."""
        self.measuring.switch()
        if self.measuring.on:
            self.workspace.said.emit("Measure: click two points, corners are taken; M or Esc ends.")
        self.setFocus()
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Puts a corner into what is under it, where the stage has corners; else a click like any other."""
        if event.button() == Qt.MouseButton.LeftButton and self._insert(*self.to_plan(event.position())):
            return
        self.mousePressEvent(event)

    def _insert(self, x: float, y: float) -> bool:
        inserted = self.stage is not None and self.stage.insert_at(x, y)
        if inserted:
            self.update()
        return inserted

    # ---- keys

    def take_key(self, event: QKeyEvent) -> bool:
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if self.stage is not None and self.stage.tool_key(event.key(), shift):
            self.tool_used.emit()
            self.update()
            return True
        plain = Qt.KeyboardModifier.ShiftModifier | Qt.KeyboardModifier.KeypadModifier
        if event.modifiers() & ~plain:
            return False
        act = self._act_for(event.key(), shift)
        if act is not None:
            act()
            return True
        text = event.text()
        return bool(text) and text in "0123456789='" and self.ask_length(text.strip("='"))

    def _act_for(self, key: int, shift: bool) -> Callable[[], object] | None:
        """What a key does to what is picked."""
        picked = self.workspace.picked
        if key == Qt.Key.Key_Z:
            return self.look_at_picked
        if key == Qt.Key.Key_M or (key == Qt.Key.Key_Escape and self.measuring.on):
            return self.measure
        if key == Qt.Key.Key_L and picked:
            return partial(switch_fixed, self.workspace)
        if key == Qt.Key.Key_Escape:
            return self._give_up
        if key == Qt.Key.Key_N:
            return partial(self._pick_next, -1 if shift else 1)
        if key == Qt.Key.Key_Insert and self.pointer is not None:
            return partial(self._insert, *self.pointer)
        if picked and key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            return partial(self._take_away, picked)
        if picked and key in ARROWS:
            return partial(nudge, self.workspace, self.reviews.answers(), *ARROWS[Qt.Key(key)], large=shift)
        if key == Qt.Key.Key_R and self.workspace.picked_body is not None:
            return partial(self.turn, 15.0 if shift else 90.0)
        return None

    def _give_up(self) -> None:
        self.workspace.preview(None)
        self.workspace.pick(None)

    def _take_away(self, item: str) -> None:
        at = self.pointer
        if at is not None and self.stage is not None and self.stage.take_out(*at):
            return
        if group_of(self.workspace):
            take_all_away(self.workspace)
        else:
            self.workspace.take_away(item)

    def _pick_next(self, by: int) -> None:
        ids = self.stage.pickable() if self.stage is not None else []
        if ids:
            picked = self.workspace.picked
            now = ids.index(picked) if picked in ids else -1 if by > 0 else 0
            self.workspace.pick(ids[(now + by) % len(ids)])

    def turn(self, by: float) -> None:
        """Turns what is picked [deg]."""
        item = self.workspace.picked_body
        if item is not None and not is_held(self.workspace, item):
            angle = (item.angle + by) % 360
            label = f"Turn {name_of(self.workspace.shop, item.id)}"
            self.workspace.apply(lambda shop: change(shop, item.id, angle=angle), label)

    # ---- lengths typed on the plan

    def ask_length(self, text: str) -> bool:
        """A length typed on the plan: a tool's, or the picked item's distance from a wall.

        Bare digits need something in the hand.
        """
        choices = self.stage.tool_lengths() if self.stage is not None else []
        item = self.workspace.picked_body
        spot = QPointF(self.width() / 2, self.height() / 2)
        if choices and self.pointer is not None:
            spot = self.to_window(*self.pointer)
        elif not choices and item is not None and (self.is_dragging or not text):
            if is_held(self.workspace, item):
                return True
            choices = self.wall_choices(item)
            spot = self.to_window(item.x, item.y)
        if not choices:
            return False
        self.let_go()
        self.workspace.end_merge()
        self.prompt.ask(spot, text, self.workspace.shop.units, choices, self.theme.pixels)
        return True

    def wall_choices(self, item: Thing | Fixture) -> list[Choice]:
        """The walls that an item's distance can be set from."""
        units = self.workspace.shop.units
        return [
            Choice(
                wall,
                f"from wall {wall}, now {format_length(distance, units)}",
                partial(self._set_from, item, wall),
            )
            for wall, distance, _, _ in wall_distances(item, self._shell())
        ]

    def _set_from(self, item: Thing | Fixture, wall: str, distance: float) -> None:
        x, y = at_distance(item, self._shell(), wall, distance)
        placed = replace(item, x=x, y=y)
        self.workspace.apply(lambda shop: put(shop, placed), f"Set {item.name or item.id} from wall {wall}")
