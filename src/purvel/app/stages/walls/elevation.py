"""A wall's elevation to scale, seen from inside the room, with reach bands: the instrument of walls.

Tools and units are taken hold of here. A wall is walked with the room on its left, so its start is on the
right.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent

from purvel.app.plan.drag_handles import DragHandle, step_of
from purvel.app.plan.drawing_view import ARROWS, DrawingView
from purvel.app.plan.sheet import Sheet
from purvel.app.reviews import Reviews
from purvel.app.stages.walls.drawing import WallDrawing
from purvel.app.theme import Theme
from purvel.app.workspace import Workspace
from purvel.review import Figures, Grade, Review
from purvel.review.walls.answers import WallsAnswers
from purvel.shop import Shop
from purvel.shop.edits import put, remove
from purvel.shop.parts import item_of, name_of
from purvel.shop.storage import Tool, WallUnit
from purvel.space.shell import Side
from purvel.space.traverse import Point
from purvel.walls.hanging import Box, box_of, holder_width, unit_box


class Elevation(DrawingView):
    """One wall. Its own metres run from the wall's start to the left, and up."""

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__(workspace, reviews, theme)
        self.setAccessibleName("Elevation of the wall")
        self.wall: str | None = None
        self.trouble: dict[str, str] = {}

    def show_wall(self, wall: str | None, review: Review, theme: Theme) -> None:
        """Shows a wall, with what is to mend on it."""
        found = [one for one in review.of("walls") if one.grade <= Grade.MEND]
        self.trouble = {item: theme.palette.grade(one.grade) for one in found for item in one.where.items}
        if wall != self.wall:
            self.wall = wall
            self.fit_again()
        self.update()

    @property
    def side(self) -> Side | None:
        """The wall that is shown."""
        return self.answers().sides.get(self.wall or "")

    def answers(self) -> WallsAnswers:
        """Answers that follow the hand."""
        return self.reviews.answers().of(WallsAnswers)

    def across(self, s: float) -> float:
        """From along the wall to across the picture, and back [m]."""
        return (self.side.length if self.side is not None else 0.0) - s

    # ---- drawing

    def extent(self) -> Sequence[Point]:
        side = self.side
        if side is None:
            return super().extent()
        return ((0.0, 0.0), (side.length, self.workspace.shown.room.ceiling.height))

    def edge(self) -> float:
        return 2.1 * self.lettering()

    def draw(self, sheet: Sheet) -> None:
        side = self.side
        if side is not None:
            drawing = WallDrawing(sheet, self.reviews.answers(), side, self.workspace.picked, self.trouble)
            drawing.draw()

    def draw_over(self, sheet: Sheet) -> None:
        if self.side is None:
            sheet.painter.setFont(sheet.font(0.9))
            sheet.painter.setPen(sheet.pen(sheet.palette.pencil))
            flags = int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap)
            words = "Pick a wall on the plan to see it from inside, with what hangs on it."
            sheet.painter.drawText(self.rect().adjusted(10, 10, -10, -10), flags, words)
        else:
            sheet.heading((self.caption(),), self.verdict_colour(), self.width())

    # ---- hands

    def item_under(self, x: float, y: float) -> str | None:
        side, walls, s = self.side, self.answers(), self.across(x)
        if side is None:
            return None
        slack = 6.0 / self.scale
        here = Box(s - 1e-6, s + 1e-6, y - 1e-6, y + 1e-6)
        units = [unit for unit in walls.units.values() if unit.wall == side.wall]
        for unit in units:
            for tool in walls.on(unit.id):
                if box_of(tool, unit, tool.along).meets(here):
                    return tool.id
        return next((unit.id for unit in units if unit_box(unit).wider(slack).meets(here)), None)

    def handle_for(self, item: str, x: float, y: float) -> DragHandle | None:
        held = item_of(self.workspace.shop, item)
        if isinstance(held, WallUnit):
            offset = (self.across(held.offset) - x, held.z - y)
            return DragHandle(
                item, offset, partial(self._place_unit, held), f"Move {name_of(self.workspace.shop, item)}"
            )
        if isinstance(held, Tool):
            unit = self.answers().units.get(held.home or "")
            if unit is not None:
                offset = (self.across(unit.offset + held.along) - x, 0.0)
                return DragHandle(
                    item, offset, partial(self._place_tool, held, y - unit.z), f"Move {held.name}"
                )
        return None

    def _place_unit(self, held: WallUnit, shop: Shop, x: float, y: float) -> Shop:
        step, side = step_of(shop.units), self.side
        most = max(0.0, side.length - held.width) if side is not None else 0.0
        offset = min(max(0.0, self.across(x)), most)
        z = min(max(0.05, y), shop.room.ceiling.height)
        return put(
            shop,
            replace(held, offset=round(round(offset / step) * step, 6), z=round(round(z / step) * step, 6)),
        )

    def _place_tool(self, held: Tool, above: float, shop: Shop, x: float, y: float) -> Shop:
        """Along its unit, or to the unit that it is held over."""
        walls, s = self.answers(), self.across(x)
        here = [one for one in walls.units.values() if one.wall == self.wall]
        fits = [one for one in here if (one.kind == "cleat") == (held.keeps == "hangs")]
        if not fits:
            return shop
        unit = min(fits, key=lambda one: abs(one.z + above - y) + _beyond(s, one))
        step = step_of(shop.units)
        along = min(max(0.0, s - unit.offset), max(0.0, unit.width - holder_width(held)))
        return put(shop, replace(held, home=unit.id, along=round(round(along / step) * step, 6)))

    def take_key(self, event: QKeyEvent) -> bool:
        """Arrows nudge what is picked along its wall or up, Delete takes it away, N picks the next."""
        key, picked = event.key(), item_of(self.workspace.shop, self.workspace.picked)
        if event.modifiers() & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier):
            return False
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if key == Qt.Key.Key_N:
            return self._pick_next(-1 if shift else 1)
        if not isinstance(picked, WallUnit | Tool):
            return False
        if key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            gone = picked.id
            self.workspace.pick(None)
            self.workspace.apply(lambda shop: remove(shop, gone), "Take away")
            return True
        if key in ARROWS:
            dx, dy = ARROWS[Qt.Key(key)]
            step = step_of(self.workspace.shop.units) * (10 if shift else 1)
            self.workspace.apply(
                partial(_nudged, picked.id, -dx * step, dy * step), "Nudge", f"nudge {picked.id}"
            )
            return True
        return False

    def _pick_next(self, by: int) -> bool:
        walls = self.answers()
        here = [unit.id for unit in walls.units.values() if unit.wall == self.wall]
        ids = [item for unit in here for item in (unit, *(tool.id for tool in walls.on(unit)))]
        if ids:
            picked = self.workspace.picked
            now = ids.index(picked) if picked in ids else -1 if by > 0 else 0
            self.workspace.pick(ids[(now + by) % len(ids)])
        return True

    def caption(self) -> str:
        """What the wall holds and whether anything is to mend on it, in a line."""
        walls, side = self.answers(), self.side
        if side is None:
            return ""
        here = [unit for unit in walls.units.values() if unit.wall == side.wall]
        if not here:
            return f"Wall {side.wall} from inside: nothing hangs here yet"
        mass = sum(walls.loads[unit.id].mass for unit in here)
        tools = sum(len(walls.on(unit.id)) for unit in here)
        say = Figures(self.workspace.shown.units)
        wrong = self._wrong()
        verdict = f"{wrong} to mend" if wrong else "it holds and is in reach"
        return f"Wall {side.wall} from inside: {tools} tools, {say.mass(mass)} in all; {verdict}"

    def _wrong(self) -> int:
        """How many units and tools of the wall there is something to mend about."""
        walls = self.answers()
        here = [unit.id for unit in walls.units.values() if unit.wall == self.wall]
        items = {*here, *(tool.id for unit in here for tool in walls.on(unit))}
        return len(items & set(self.trouble))

    def verdict_colour(self) -> str:
        """Of the line above the elevation."""
        palette = self.theme.palette
        here = any(unit.wall == self.wall for unit in self.answers().units.values())
        return palette.mend if self._wrong() else palette.good if here else palette.pencil


def _nudged(item: str, along: float, up: float, shop: Shop) -> Shop:
    held = item_of(shop, item)
    if isinstance(held, WallUnit):
        return put(shop, replace(held, offset=max(0.0, held.offset + along), z=max(0.05, held.z + up)))
    return put(shop, replace(held, along=max(0.0, held.along + along)))


def _beyond(s: float, unit: WallUnit) -> float:
    return max(unit.offset - s, s - unit.offset - unit.width, 0.0)
