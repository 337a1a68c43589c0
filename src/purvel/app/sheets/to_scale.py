"""Sheets to push about: the plan in tiles that are laid edge to edge, the machines as paper cut-outs, both to
the same scale on the printer's paper.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import partial

from PySide6.QtCore import QLineF, QMarginsF, QPointF, QRectF, Qt
from PySide6.QtGui import QPageLayout, QPageSize, QPainter, QPdfWriter, QPolygonF

from purvel.airflow.hood_pattern import Pattern, pattern
from purvel.airflow.hoods import HoodOpening
from purvel.app.plan import draw_lanes, draw_room, draw_things
from purvel.app.plan.draw_set_out import set_out_marks, wall_chains
from purvel.app.plan.sheet import Sheet
from purvel.app.sheets.drawing import bounds_of, in_memory, scale_bar, title_of
from purvel.app.theme import LIGHT
from purvel.lists.paper import OVERLAP, OnPaper, ScaleError, Tile, laid_out, tiles
from purvel.quantities import format_length
from purvel.quantities.systems import System
from purvel.review import Review
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Thing

_PAGES = {"A4": QPageSize.PageSizeId.A4, "Letter": QPageSize.PageSizeId.Letter}
DPI = 150
MARGIN, FOOT = 0.010, 0.012  # m on paper: round a page, and for what is written under the drawing
MOST = 100  # sheets that are printed at the most
_GAP = 0.006  # m on paper between cut-outs
_CROSS = 0.004  # m on paper: the arms of an alignment mark


class _Printed:
    """A PDF of pages in portrait, in whose printable part one draws in metres of the paper."""

    def __init__(self, title: str, how: OnPaper) -> None:
        self.device, self.how = in_memory(), how
        self.writer = QPdfWriter(self.device)
        self.writer.setPageSize(QPageSize(_PAGES[how.paper]))
        self.writer.setPageMargins(QMarginsF(*[MARGIN * 1000] * 4), QPageLayout.Unit.Millimeter)
        self.writer.setResolution(DPI)
        self.writer.setTitle(title)
        self.painter = QPainter()
        self.dot = DPI / 0.0254  # dots per metre of paper
        self.width = self.writer.width() / self.dot
        self.height = self.writer.height() / self.dot - FOOT

    def page(self) -> None:
        """A new page; the first is there already."""
        if self.painter.isActive():
            self.writer.newPage()
        else:
            self.painter.begin(self.writer)

    def sheet(self, left: float, top: float) -> Sheet:
        """A sheet on which plan point (left, top) [m] is the upper left corner of the printable part."""
        scale = self.dot / self.how.ratio
        return Sheet(
            self.painter, LIGHT, scale, QPointF(-left * scale, top * scale), round(DPI * 0.115), tabular=False
        )

    def clipped(self) -> QRectF:
        return QRectF(0, 0, self.width * self.dot, self.height * self.dot)

    def foot(self, words: str, system: System) -> None:
        """A scale bar and a line under the drawing."""
        sheet = self.sheet(0.0, 0.0)
        y = (self.height + FOOT * 0.55) * self.dot
        end = scale_bar(sheet, QPointF(0.0, y), system, 0.3 * self.width * self.dot)
        sheet.text(QPointF(end + 0.006 * self.dot, y), words, LIGHT.ink, factor=0.75, centre=False)

    def done(self) -> bytes:
        self.painter.end()
        return bytes(self.device.data().data())


def tiles_pdf(checked: Review, how: OnPaper) -> bytes:
    """The plan in tiles. Crosses at the corners of each lie on those of its neighbours; neighbours share a
    strip `OVERLAP` wide.

    Raises ScaleError where there would be more than `MOST`.
    """
    made = _Printed(title_of(checked), how)
    laid = tiles(bounds_of(checked), how.ratio, made.width, made.height)
    if len(laid) > MOST:
        raise ScaleError(
            f"At {how.name(checked.shop.units)} the plan takes {len(laid)} sheets: ask for a smaller scale."
        )
    scale = how.name(checked.shop.units)
    words = f"{title_of(checked)}: tile", f"of {laid[-1].name}, {scale}; print at 100 %"
    _tiled(made, laid, lambda sheet: _plan(sheet, checked), words, checked.shop.units)
    return made.done()


def _tiled(
    made: _Printed,
    laid: Sequence[Tile],
    draw: Callable[[Sheet], None],
    words: tuple[str, str],
    system: System,
) -> None:
    """A drawing on its tiles, a page each; under it the tile's name between two pieces of text."""
    for tile in laid:
        made.page()
        made.painter.save()
        made.painter.setClipRect(made.clipped())
        draw(made.sheet(tile.left, tile.top))
        made.painter.restore()
        _crosses(made)
        made.foot(f"{words[0]} {tile.name} {words[1]}", system)


def _plan(sheet: Sheet, checked: Review) -> None:
    """The room with its dimensions, and what stands there with what sets it out."""
    shell = checked.answers.of(RoomAnswers).shell
    draw_room.room(sheet, shell, None)
    draw_things.things(sheet, checked.shop, None, {})
    set_out_marks(sheet, checked.shop, shell)
    wall_chains(sheet, shell, checked.shop.units)
    sheet.set_labels()


def _crosses(made: _Printed) -> None:
    """Where the corners of four tiles meet."""
    made.painter.setPen(made.sheet(0, 0).pen(LIGHT.ink, 1.0))
    arm, edge = _CROSS * made.dot, OVERLAP / 2
    for x in (edge, made.width - edge):
        for y in (edge, made.height - edge):
            at = QPointF(x * made.dot, y * made.dot)
            made.painter.drawLine(QLineF(at.x() - arm, at.y(), at.x() + arm, at.y()))
            made.painter.drawLine(QLineF(at.x(), at.y() - arm, at.x(), at.y() + arm))


def cutouts_pdf(checked: Review, how: OnPaper) -> bytes:
    """The machines, benches and racks in outline, each with its name and size and the floor that its worker
    needs, to be cut out and pushed about on the tiles.

    Raises ScaleError where one is larger than the paper.
    """
    made = _Printed(f"{title_of(checked)}: cut-outs", how)
    room = (made.width * how.ratio, made.height * how.ratio)
    pages = list(laid_out(checked.shop.things, room, _GAP * how.ratio))
    for number, page in enumerate(pages or [[]], start=1):
        made.page()
        sheet = made.sheet(0.0, 0.0)
        shop = replace(checked.shop, things=tuple(page))
        for thing in page:
            draw_lanes.standing(sheet, thing)
        draw_things.things(sheet, shop, None, {})
        sheet.set_labels()
        for thing in page:
            _size(sheet, thing, checked.shop.units)
        words = f"{title_of(checked)}: cut-outs {number} of {max(1, len(pages))}, {how.name(checked.shop.units)}; print at 100 %"
        made.foot(words, checked.shop.units)
    return made.done()


def _size(sheet: Sheet, thing: Thing, system: System) -> None:
    """Its size, along its front edge."""
    words = f"{format_length(thing.width, system)} × {format_length(thing.depth, system)}"
    x, y = thing.spot(0.0, -thing.depth / 2)
    at = sheet.at(x, y)
    sheet.text(QPointF(at.x(), at.y() - sheet.pixels * 1.3), words, sheet.palette.pencil, factor=0.6)


def patterns_pdf(checked: Review, how: OnPaper) -> bytes:
    """The hoods that are designed, laid flat as large as life, in tiles: lines are cut, dashes folded.

    Raises ScaleError where there are none, where one cannot be made, or takes more than `MOST` sheets.
    """
    hoods = checked.shop.ducts.hoods
    if not hoods:
        raise ScaleError("There are no hoods yet: design one in Ducts, “Hood”, and keep it.")
    how, made = replace(how, ratio=1.0), _Printed(f"{title_of(checked)}: hoods", replace(how, ratio=1.0))
    for number, hood in enumerate(hoods, start=1):
        name = hood.name or f"Hood {number}"
        try:
            flat = pattern(HoodOpening(hood.shape, hood.width, hood.height), hood.depth, hood.outlet)
        except ValueError as exc:
            raise ScaleError(f"{name}: {exc}") from exc
        laid = tiles((0.0, 0.0, flat.width, flat.height), 1.0, made.width, made.height)
        if len(laid) > MOST:
            raise ScaleError(f"{name} takes {len(laid)} sheets: draw it on the cardboard by its figures.")
        words = f"{name}: tile", f"of {laid[-1].name}, 1:1, cut lines, fold dashes; print at 100 %"
        _tiled(made, laid, partial(_flat, flat), words, checked.shop.units)
    return made.done()


def _flat(flat: Pattern, sheet: Sheet) -> None:
    """A pattern's lines."""
    painter = sheet.painter
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(sheet.pen(LIGHT.ink, 1.5))
    for outline in flat.cuts:
        painter.drawPolygon(QPolygonF([sheet.at(x, y) for x, y in outline]))
    for x, y, radius in flat.holes:
        painter.drawEllipse(sheet.at(x, y), radius * sheet.scale, radius * sheet.scale)
    painter.setPen(sheet.pen(LIGHT.pencil, 1.0, dashes=(4, 4)))
    for (ax, ay), (bx, by) in flat.folds:
        painter.drawLine(QLineF(sheet.at(ax, ay), sheet.at(bx, by)))
