"""The cut diagrams: sheets and sticks with their parts, and the cuts in order."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF

from purvel.app.plan.sheet import Sheet
from purvel.app.theme import Theme
from purvel.app.widgets.picture import Picture
from purvel.review import Figures
from purvel.review.keep.answers import StockPlan
from purvel.upkeep.sheets import SheetPlan, SheetsPlan

GAP = 14.0  # px between sheets
NUMBERED = 12  # cuts that are numbered on a sheet


class CutDiagram(Picture):
    """All plans, one under the other."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.setAccessibleName("Cut diagram")
        self.plans: list[StockPlan] | None = None
        self.say = Figures("metric")
        self.has_parts = False

    def show_cuts(self, plans: list[StockPlan] | None, say: Figures, *, has_parts: bool) -> None:
        """The plans; None while they are looked for."""
        self.plans, self.say, self.has_parts = plans, say, has_parts
        self.setMinimumHeight(round(self._draw_rows(None)) if plans else 60)
        self.update()

    def draw(self, sheet: Sheet) -> None:
        if not self.has_parts:
            self.say_nothing_yet(
                sheet, "Add parts and the sheets or sticks that they come from to see how they are cut."
            )
        elif self.plans is None:
            self.say_nothing_yet(sheet, "Looking for good cuts …")
        else:
            self._draw_rows(sheet)

    def _draw_rows(self, sheet: Sheet | None) -> float:
        """Draws all plans where there is a sheet to draw on; returns how high they are [px]."""
        top, line = 0.4 * self.theme.pixels, 1.5 * self.theme.pixels
        for plan in self.plans or ():
            name = plan.stock.name or plan.stock.id
            is_sheets = isinstance(plan.plan, SheetsPlan)
            count = len(plan.plan.sheets) if isinstance(plan.plan, SheetsPlan) else len(plan.plan.sticks)
            proof = "" if plan.plan.is_proven else ", perhaps fewer do"
            if sheet is not None:
                words = f"{count} × {name}{proof}"
                sheet.text(QPointF(8, top + line / 2), words, sheet.palette.ink, bold=True, centre=False)
            top += line
            top += self._sheets(sheet, plan, top) if is_sheets else self._sticks(sheet, plan, top)
        return top

    def _sheets(self, sheet: Sheet | None, plan: StockPlan, top: float) -> float:
        assert isinstance(plan.plan, SheetsPlan)
        width = max(160.0, min((self.width() - 24) / 2.0, 420.0))
        scale = width / plan.stock.length
        high = plan.stock.width * scale
        for number, one in enumerate(plan.plan.sheets):
            x, y = 8 + (number % 2) * (width + GAP), top + (number // 2) * (high + GAP)
            if sheet is not None:
                draw_sheet(sheet, plan, one, QRectF(x, y, width, high), self.say)
        return ((len(plan.plan.sheets) + 1) // 2) * (high + GAP)

    def _sticks(self, sheet: Sheet | None, plan: StockPlan, top: float) -> float:
        assert not isinstance(plan.plan, SheetsPlan)
        row = 1.6 * self.theme.pixels
        scale = (self.width() - 24) / plan.stock.length
        for number, stick in enumerate(plan.plan.sticks):
            if sheet is not None:
                box = QRectF(8, top + number * row, plan.stock.length * scale, row * 0.7)
                _stick(sheet, plan, stick, box, scale)
        return len(plan.plan.sticks) * row + GAP


def draw_sheet(sheet: Sheet, plan: StockPlan, one: SheetPlan, box: QRectF, say: Figures) -> None:
    """A sheet with its parts; the first cuts are numbered in the order in which they are made."""
    palette, painter = sheet.palette, sheet.painter
    scale = box.width() / plan.stock.length
    painter.setPen(sheet.pen(palette.wall, 1.8))
    painter.setBrush(sheet.brush(palette.paper))
    painter.drawRect(box)
    for laid in one.laid:
        piece = plan.pieces[laid.part]
        part = QRectF(
            box.left() + laid.x * scale, box.top() + laid.y * scale, laid.length * scale, laid.width * scale
        )
        painter.setPen(sheet.pen(palette.wood_edge, 1.2))
        painter.setBrush(sheet.brush(palette.wood))
        painter.drawRect(part)
        sizes = f"{say.length(piece.length)} × {say.length(piece.width)}"
        for text in (f"{piece.name}\n{sizes}", piece.name or sizes):
            width, height = sheet.size_of(text, 0.72)
            if width < part.width() - 6 and height < part.height() - 2:
                sheet.text(part.center(), text, palette.ink, factor=0.72)
                break
    for number, cut in enumerate(one.cuts, start=1):
        a = QPointF(box.left() + cut.x0 * scale, box.top() + cut.y0 * scale)
        b = QPointF(box.left() + cut.x1 * scale, box.top() + cut.y1 * scale)
        painter.setPen(sheet.pen(palette.accent, 1.4, dashes=(3, 2)))
        painter.drawLine(a, b)
        if number <= NUMBERED:
            end = b - (b - a) * (9 / max(((b - a).x() ** 2 + (b - a).y() ** 2) ** 0.5, 9.0))
            sheet.text(end, str(number), palette.accent, factor=0.7, bold=True, plate=True)


def _stick(sheet: Sheet, plan: StockPlan, stick: tuple[int, ...], box: QRectF, scale: float) -> None:
    palette, painter = sheet.palette, sheet.painter
    painter.setPen(sheet.pen(palette.wall, 1.6))
    painter.setBrush(sheet.brush(palette.paper))
    painter.drawRect(box)
    at = box.left()
    for k in stick:
        piece = plan.pieces[k]
        part = QRectF(at, box.top(), piece.length * scale, box.height())
        painter.setPen(sheet.pen(palette.wood_edge, 1.2))
        painter.setBrush(sheet.brush(palette.wood))
        painter.drawRect(part)
        if sheet.measure(piece.name, 0.72) < part.width() - 6:
            sheet.text(part.center(), piece.name, palette.ink, factor=0.72)
        at += piece.length * scale + 2.0
