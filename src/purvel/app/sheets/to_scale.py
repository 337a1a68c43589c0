"""Sheets to push about: the plan in tiles that are laid edge to edge, the machines as paper cut-outs, both to
the same scale on the printer's paper.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import ceil
from typing import Literal

from PySide6.QtCore import QLineF, QMarginsF, QPointF, QRectF
from PySide6.QtGui import QPageLayout, QPageSize, QPainter, QPdfWriter

from purvel.app.plan import draw_lanes, draw_room, draw_things
from purvel.app.plan.draw_set_out import set_out_marks, wall_chains
from purvel.app.plan.sheet import Sheet
from purvel.app.sheets.drawing import SCALES, bounds_of, in_memory, scale_bar, title_of
from purvel.app.theme import LIGHT
from purvel.quantities import format_length
from purvel.quantities.systems import System
from purvel.review import Review
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Thing
from purvel.space.ground import footprint, standing_zone

Paper = Literal["A4", "Letter"]
_PAGES = {"A4": QPageSize.PageSizeId.A4, "Letter": QPageSize.PageSizeId.Letter}
DPI = 150
MARGIN, OVERLAP, FOOT = (
    0.010,
    0.010,
    0.012,
)  # m on paper: round a page, of two tiles, for what is written under them
MOST = 100  # sheets that are printed at the most
_GAP = 0.006  # m on paper between cut-outs
_CROSS = 0.004  # m on paper: the arms of an alignment mark


class ScaleError(Exception):
    """A scale at which nothing can be printed. The message is one plain sentence."""


@dataclass(frozen=True, slots=True)
class OnPaper:
    """The paper, and how many times smaller than life."""

    paper: Paper
    ratio: float

    def name(self, system: System) -> str:
        """What the scale is called."""
        return next((name for ratio, name in SCALES[system] if ratio == self.ratio), f"1:{self.ratio:g}")


def on_paper(stem: str, system: System) -> OnPaper:
    """Paper and scale as a file's name asks for them (“tiles-letter-1to10”); else A4 and 1:20, or Letter and
    half an inch to the foot.

    Raises ScaleError for a scale of less than 1:2 or more than 1:200.
    """
    low = stem.lower()
    paper: Paper = "Letter" if "letter" in low or (system == "imperial" and "a4" not in low) else "A4"
    asked = re.search(r"1(?:to|:|-|_)(\d+(?:\.\d+)?)", low)
    ratio = float(asked.group(1)) if asked else 24.0 if system == "imperial" else 20.0
    if not 2.0 <= ratio <= 200.0:
        raise ScaleError(f"1:{ratio:g} is no scale for paper: ask for one from 1:2 to 1:200.")
    return OnPaper(paper, ratio)


@dataclass(frozen=True, slots=True)
class Tile:
    """One sheet of several: its name (rows by letters), and the plan point [m] of its upper left corner."""

    name: str
    left: float
    top: float


def tiles(bounds: tuple[float, float, float, float], ratio: float, width: float, height: float) -> list[Tile]:
    """The sheets that a plan takes, row by row from its upper left corner: `width` by `height` [m] of paper
    each, of which a strip of `OVERLAP` lies on the next.
    """
    x0, y0, x1, y1 = bounds
    wide, high = ((size - OVERLAP) * ratio for size in (width, height))
    across, down = max(1, ceil((x1 - x0) / wide)), max(1, ceil((y1 - y0) / high))
    shared = OVERLAP * ratio / 2
    return [
        Tile(
            f"{chr(ord('A') + row % 26)}{column + 1}",
            x0 + column * wide - shared,
            y1 - row * high + shared,
        )
        for row in range(down)
        for column in range(across)
    ]


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
    last = laid[-1].name
    for tile in laid:
        made.page()
        sheet = made.sheet(tile.left, tile.top)
        made.painter.save()
        made.painter.setClipRect(made.clipped())
        _plan(sheet, checked)
        made.painter.restore()
        _crosses(made)
        words = (
            f"{title_of(checked)}: tile {tile.name} of {last}, {how.name(checked.shop.units)}; print at 100 %"
        )
        made.foot(words, checked.shop.units)
    return made.done()


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


def laid_out(things: tuple[Thing, ...], room: tuple[float, float], gap: float) -> Iterator[list[Thing]]:
    """The things side by side in rows, the deepest first, page by page, y down from 0 [m]."""
    page, x, y, deep = list[Thing](), 0.0, 0.0, 0.0
    for thing in sorted(
        (replace(one, angle=0.0, x=0.0, y=0.0) for one in things), key=lambda one: -box_of(one)[3]
    ):
        left, top, wide, high = box_of(thing)
        if wide > room[0] and high <= room[0] and wide <= room[1]:
            thing = replace(thing, angle=90.0)
            left, top, wide, high = box_of(thing)
        if wide > room[0] or high > room[1]:
            raise ScaleError(
                f"{thing.name or thing.id} is larger than the paper at this scale: ask for a smaller one."
            )
        if x + wide > room[0]:
            x, y, deep = 0.0, y + deep + gap, 0.0
        if y + high > room[1] and page:
            yield page
            page, x, y, deep = [], 0.0, 0.0, 0.0
        page.append(replace(thing, x=x - left, y=-y - top))
        x, deep = x + wide + gap, max(deep, high)
    if page:
        yield page


def box_of(thing: Thing) -> tuple[float, float, float, float]:
    """Left and top of a thing with its standing room, against its own middle, width and height [m]."""
    corners = [*footprint(thing).tolist()]
    zone = standing_zone(thing)
    corners += [] if zone is None else zone.tolist()
    xs, ys = [x - thing.x for x, _ in corners], [y - thing.y for _, y in corners]
    return min(xs), max(ys), max(xs) - min(xs), max(ys) - min(ys)
