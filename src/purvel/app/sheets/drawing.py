"""The plan on paper: as SVG, and on a page to a stated scale."""

import re

from PySide6.QtCore import QBuffer, QIODevice, QPointF, QRectF, QSize
from PySide6.QtGui import QPainter
from PySide6.QtSvg import QSvgGenerator

from purvel.app.plan.draw_set_out import wall_chains
from purvel.app.plan.sheet import Sheet
from purvel.app.sheets.pages import Page
from purvel.app.stages import ENTRIES
from purvel.app.theme import LIGHT
from purvel.lists.paper import SCALES, USUAL
from purvel.quantities.systems import System
from purvel.review import Review
from purvel.review.room.answers import RoomAnswers
from purvel.review.scenes import scene_name

MARGIN = 0.8  # m round the room


def bounds_of(checked: Review, page: Page | None = None) -> tuple[float, float, float, float]:
    """From where to where a page, or the plan, reaches: left, bottom, right, top [m]."""
    if page is not None and page.bounds is not None:
        return page.bounds(checked.answers)
    points = [
        *checked.answers.of(RoomAnswers).traverse.raw,
        *((thing.x, thing.y) for thing in checked.shop.things),
    ] or [(0.0, 0.0)]
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    return min(xs) - MARGIN, min(ys) - MARGIN, max(xs) + MARGIN, max(ys) + MARGIN


def pages_of(checked: Review) -> list[Page]:
    """The drawings that a shop has."""
    return [page for entry in ENTRIES for page in entry.pages() if page.wanted(checked.answers)]


def _sheet(
    painter: QPainter, bounds: tuple[float, float, float, float], box: QRectF, scale: float, pixels: int
) -> Sheet:
    x0, y0, x1, y1 = bounds
    origin = QPointF(box.center().x() - (x0 + x1) / 2 * scale, box.center().y() + (y0 + y1) / 2 * scale)
    return Sheet(painter, LIGHT, scale, origin, pixels, tabular=False)


def draw_to_scale(painter: QPainter, checked: Review, box: QRectF, pixels: int, page: Page) -> str:
    """Draws a page in a box of the paper at the largest scale that a rule has, with its scale bar and, for a
    plan, the dimensions along the walls; what the scale is called, empty for a chart.
    """
    bounds = bounds_of(checked, page)
    x0, y0, x1, y1 = bounds
    per_metre = painter.device().logicalDpiX() / 0.0254
    fits = min(box.width() / (x1 - x0), (box.height() - 3 * pixels) / (y1 - y0))
    system = checked.shop.units
    rules = SCALES[system] if page.has_scale else ()
    known = [(per_metre / ratio, name) for ratio, name in rules if per_metre / ratio <= fits]
    scale, name = known[0] if known else (fits, "no round scale")
    plan = QRectF(box.left(), box.top(), box.width(), box.height() - 3 * pixels)
    sheet = _sheet(painter, bounds, plan, scale, pixels)
    page.draw(sheet, checked.answers)
    if page.is_plan:
        wall_chains(sheet, checked.answers.of(RoomAnswers).shell, system)
    sheet.set_labels()
    if not page.has_scale:
        return ""
    scale_bar(sheet, QPointF(box.left(), box.bottom() - pixels), system)
    return name


def scale_bar(sheet: Sheet, at: QPointF, system: System, room: float = 1e9) -> float:
    """Five metres or ten feet, by ones, with their figures, or as many as there is room for [px]; where it
    ends.
    """
    unit, most, word = (1.0, 5, "m") if system == "metric" else (0.3048, 10, "ft")
    painter, step = sheet.painter, unit * sheet.scale
    count = max(1, min(most, int(room / step)))
    painter.setPen(sheet.pen(sheet.palette.ink, 1.2))
    for number in range(count):
        painter.setBrush(sheet.brush(sheet.palette.ink if number % 2 == 0 else sheet.palette.sheet))
        painter.drawRect(
            QRectF(at.x() + number * step, at.y() - sheet.pixels * 0.4, step, sheet.pixels * 0.4)
        )
    for number in (0, count):
        words = f"{number} {word}" if number else "0"
        spot = QPointF(at.x() + number * step, at.y() + sheet.pixels * 0.5)
        sheet.text(spot, words, sheet.palette.ink, factor=0.8, centre=number > 0)
    return at.x() + count * step


def plan_svg(checked: Review) -> bytes:
    """The plan with its lanes and ducts as SVG, one metre to 100 units, so large that it prints at a round
    scale, which it states.
    """
    plans = [page for page in pages_of(checked) if page.is_plan]
    bounds = bounds_of(checked, plans[-1])
    width, height = (bounds[2] - bounds[0]) * 100, (bounds[3] - bounds[1]) * 100
    target, device = QSvgGenerator(), in_memory()
    target.setOutputDevice(device)
    target.setSize(QSize(round(width), round(height)))
    target.setViewBox(QRectF(0, 0, width, height))
    target.setTitle(title_of(checked))
    painter = QPainter(target)
    sheet = _sheet(painter, bounds, QRectF(0, 0, width, height), 100.0, 15)
    plans[-1].draw(sheet, checked.answers)
    sheet.set_labels()
    painter.end()
    return _stated(bytes(device.data().data()), width, height, checked.shop.units)


def _stated(svg: bytes, width: float, height: float, system: System) -> bytes:
    """The drawing with the size at which it is to scale, said in it."""
    ratio = USUAL[system]
    wide, high = (f"{size * 10 / ratio:.3f}mm" for size in (width, height))
    text = re.sub(r'width="[^"]*" height="[^"]*"', f'width="{wide}" height="{high}"', svg.decode(), count=1)
    said = f"Scale 1:{ratio:g} at {wide} by {high}; 100 units to the metre."
    text = re.sub(r"<desc>[^<]*</desc>", f"<desc>{said}</desc>", text, count=1)
    return text.encode()


def in_memory() -> QBuffer:
    """Sheets are drawn in memory and then written whole: on a full disk Qt itself reports nothing."""
    device = QBuffer()
    device.open(QIODevice.OpenModeFlag.WriteOnly)
    return device


def title_of(checked: Review) -> str:
    """The shop's name, and the scene's where one is looked at."""
    scene = "" if checked.scene is None else f": {scene_name(checked.shop, checked.scene)}"
    return checked.shop.name + scene
