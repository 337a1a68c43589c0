"""A wall seen from inside: openings, studs, outlets, ducts, what stands before it, units and tools, reach
bands.

Used for the window and for print. A wall is walked with the room on its left, so its start is on the right.
"""

from __future__ import annotations

from collections.abc import Mapping

from PySide6.QtCore import QPointF, QRectF, Qt

from purvel.app.plan.label_layout import Label, Spot
from purvel.app.plan.sheet import Sheet
from purvel.review import Answers
from purvel.review.walls.answers import WallsAnswers
from purvel.shop import Wall
from purvel.shop.parts import name_of
from purvel.shop.storage import Tool, WallUnit
from purvel.space.elevation import duct_lines
from purvel.space.shell import Side
from purvel.walls.hanging import Box, box_of, holder_width, unit_box
from purvel.walls.reach import Reach


class WallDrawing:
    """One wall on a sheet whose own metres run from the wall's start to the left, and up."""

    def __init__(
        self, sheet: Sheet, answers: Answers, side: Side, picked: str | None, trouble: Mapping[str, str]
    ) -> None:
        self.sheet, self.side, self.picked, self.trouble = sheet, side, picked, trouble
        self.shop, self.walls = answers.shop, answers.of(WallsAnswers)

    def across(self, s: float) -> float:
        """From along the wall to across the picture [m]."""
        return self.side.length - s

    def draw(self) -> None:
        """All of it."""
        height, palette = self.shop.room.ceiling.height, self.sheet.palette
        self._fill(Box(0.0, self.side.length, 0.0, height), palette.sheet, palette.wall, 2.5)
        self._bands()
        self._studs(height)
        self._openings()
        self._before()
        self._ducts()
        for unit in self.walls.units.values():
            if unit.wall == self.side.wall:
                self._unit(unit)
                for tool in self.walls.on(unit.id):
                    self._tool(tool, unit)

    def _box(self, box: Box) -> QRectF:
        a = self.sheet.at(self.across(box.right), box.high)
        b = self.sheet.at(self.across(box.left), box.low)
        return QRectF(a, b)

    def _fill(self, box: Box, fill: str, edge: str, width: float, alpha: float = 1.0) -> QRectF:
        found = self._box(box)
        self.sheet.painter.setPen(self.sheet.pen(edge, width))
        self.sheet.painter.setBrush(self.sheet.brush(fill, alpha))
        self.sheet.painter.drawRect(found)
        return found

    def _bands(self) -> None:
        """Where hands reach: daily things between hip and eye, heavy ones between knee and elbow."""
        reach, palette = Reach(self.shop.person.stature), self.sheet.palette
        hip, eye = reach.band("daily")
        band = self._box(Box(0.0, self.side.length, hip, eye))
        self.sheet.painter.setPen(Qt.PenStyle.NoPen)
        self.sheet.painter.setBrush(self.sheet.brush(palette.good, 0.10))
        self.sheet.painter.drawRect(band)
        for level, word in ((reach.grip, "highest grip"), (eye, "eye"), (hip, "hip"), (reach.knee, "knee")):
            a, b = self.sheet.at(0.0, level), self.sheet.at(self.side.length, level)
            self.sheet.painter.setPen(self.sheet.pen(palette.good, 1.0, dashes=(4, 3)))
            self.sheet.painter.drawLine(a, b)
            middle = QPointF(b.x() + 6 + self.sheet.measure(word, 0.72) / 2, b.y())
            self.sheet.label(Label((word,), (Spot(middle),), palette.good, factor=0.72, rank=3, must=False))

    def _studs(self, height: float) -> None:
        wall = next((one for one in self.shop.room.walls if one.id == self.side.wall), None)
        if not isinstance(wall, Wall) or wall.stud_spacing <= 0:
            return
        at = wall.first_stud
        while at <= self.side.length:
            x = self.across(at)
            self.sheet.line([(x, 0.0), (x, height)], self.sheet.pen(self.sheet.palette.rule, 3.0))
            at += wall.stud_spacing

    def _openings(self) -> None:
        palette = self.sheet.palette
        for one in self.walls.kept_free(self.side.wall):
            if one.is_opening:
                self._fill(one.box, palette.backdrop, palette.wall, 1.6)
            else:
                box = self._box(one.box)
                self.sheet.painter.setPen(self.sheet.pen(palette.pencil, 1.0, dashes=(2, 2)))
                self.sheet.painter.setBrush(self.sheet.brush(palette.pencil, 0.4, Qt.BrushStyle.BDiagPattern))
                self.sheet.painter.drawRect(box)
        for outlet in self.shop.power.outlets:
            if outlet.wall == self.side.wall:
                c = self.sheet.at(self.across(outlet.offset), outlet.height)
                self.sheet.painter.setPen(self.sheet.pen(palette.ink, 1.6))
                self.sheet.painter.setBrush(self.sheet.brush(palette.sheet))
                self.sheet.painter.drawRect(QRectF(c.x() - 5, c.y() - 5, 10, 10))

    def _before(self) -> None:
        """What stands in front, in outline."""
        palette, shop = self.sheet.palette, self.shop
        for one in self.walls.before(self.side.wall):
            box = Box(max(0.0, one.left), min(self.side.length, one.right), one.low, one.high)
            drawn = self._box(box)
            self.sheet.painter.setPen(self.sheet.pen(palette.wood_edge, 1.3, dashes=(5, 3)))
            self.sheet.painter.setBrush(self.sheet.brush(palette.wood, 0.28))
            self.sheet.painter.drawRect(drawn)
            spot = Spot(QPointF(drawn.center().x(), drawn.bottom() - 0.6 * self.sheet.pixels), home=drawn)
            self.sheet.label(
                Label((name_of(shop, one.id),), (spot,), palette.pencil, factor=0.75, rank=3, must=False)
            )

    def _ducts(self) -> None:
        for run in self.shop.ducts.runs:
            for (s, z), (t, y) in duct_lines(self.side, run):
                ends = [(self.across(s), z), (self.across(t), y)]
                self.sheet.line(
                    ends, self.sheet.pen(self.sheet.palette.metal, max(3.0, run.diameter * self.sheet.scale))
                )

    def _unit(self, unit: WallUnit) -> None:
        palette, is_picked = self.sheet.palette, unit.id == self.picked
        edge = palette.accent if is_picked else self.trouble.get(unit.id, palette.wood_edge)
        inside = palette.storage if unit.kind in ("cabinet", "rack") else palette.wood
        box = self._fill(unit_box(unit), inside, edge, 2.8 if edge != palette.wood_edge else 1.4)
        self.sheet.keep_clear(box, 1.0, unit.id)

    def _tool(self, tool: Tool, unit: WallUnit) -> None:
        palette, is_picked = self.sheet.palette, tool.id == self.picked
        edge = palette.accent if is_picked else self.trouble.get(tool.id, palette.ink)
        covered = box_of(tool, unit, tool.along)
        half = (holder_width(tool) - tool.width) / 2
        own = Box(covered.left + half, covered.right - half, covered.low, covered.high)
        box = self._fill(own, palette.metal, edge, 2.8 if edge != palette.ink else 1.0, 0.85)
        self.sheet.keep_clear(box, 0.6, tool.id)
        upright = box.height() > box.width()
        spot = Spot(box.center(), upright=upright, home=box)
        below = Spot(QPointF(box.center().x(), box.bottom() + 0.6 * self.sheet.pixels))
        self.sheet.label(
            Label(
                (tool.name or tool.id,),
                (spot, below) if is_picked else (spot,),
                palette.ink,
                factor=0.72,
                bold=is_picked,
                plate=is_picked,
                rank=0 if is_picked else 2,
                must=is_picked,
                owner=tool.id,
            )
        )
