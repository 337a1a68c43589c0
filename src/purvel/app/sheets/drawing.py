"""The plan as SVG and the binder as PDF, drawn with the same layers as the window."""

from html import escape

from PySide6.QtCore import QBuffer, QIODevice, QMarginsF, QPointF, QRectF, QSize, QSizeF
from PySide6.QtGui import QPageLayout, QPageSize, QPainter, QPdfWriter, QTextDocument
from PySide6.QtSvg import QSvgGenerator

from purvel.app.plan.sheet import Sheet
from purvel.app.sheets.pages import Page
from purvel.app.stages import ENTRIES
from purvel.app.theme import FAMILY, LIGHT
from purvel.review import Figures, Grade, Review
from purvel.review.room.answers import RoomAnswers
from purvel.review.scenes import scene_name
from purvel.review.stage import Table
from purvel.review.stages import STAGES

MARGIN = 0.6  # m round the room


def _bounds(checked: Review) -> tuple[float, float, float, float]:
    points = [
        *checked.answers.of(RoomAnswers).traverse.raw,
        *((thing.x, thing.y) for thing in checked.shop.things),
    ] or [(0.0, 0.0)]
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    return min(xs) - MARGIN, min(ys) - MARGIN, max(xs) + MARGIN, max(ys) + MARGIN


def _plan(painter: QPainter, checked: Review, box: QRectF, pixels: int, page: Page) -> None:
    x0, y0, x1, y1 = _bounds(checked) if page.bounds is None else page.bounds(checked.answers)
    scale = min(box.width() / (x1 - x0), box.height() / (y1 - y0))
    origin = QPointF(box.center().x() - (x0 + x1) / 2 * scale, box.center().y() + (y0 + y1) / 2 * scale)
    sheet = Sheet(painter, LIGHT, scale, origin, pixels)
    page.draw(sheet, checked.answers)
    sheet.set_labels()


def _pages(checked: Review) -> list[Page]:
    return [page for entry in ENTRIES for page in entry.pages() if page.wanted(checked.answers)]


def plan_svg(checked: Review) -> bytes:
    """The plan with its lanes and ducts as SVG, one metre to 100 units."""
    x0, y0, x1, y1 = _bounds(checked)
    width, height = (x1 - x0) * 100, (y1 - y0) * 100
    target, device = QSvgGenerator(), _device()
    target.setOutputDevice(device)
    target.setSize(QSize(round(width), round(height)))
    target.setViewBox(QRectF(0, 0, width, height))
    target.setTitle(_title(checked))
    painter = QPainter(target)
    plans = [page for page in _pages(checked) if page.is_plan]
    _plan(painter, checked, QRectF(0, 0, width, height), 15, plans[-1])
    painter.end()
    return bytes(device.data().data())


def _device() -> QBuffer:
    """Sheets are drawn in memory and then written whole: on a full disk Qt itself reports nothing."""
    device = QBuffer()
    device.open(QIODevice.OpenModeFlag.WriteOnly)
    return device


def _title(checked: Review) -> str:
    scene = "" if checked.scene is None else f": {scene_name(checked.shop, checked.scene)}"
    return checked.shop.name + scene


def binder_pdf(checked: Review) -> bytes:
    """The binder: the plan with lanes, the plan with ducts, longest boards, set-out, gate card, parts,
    findings.
    """
    device = _device()
    writer = QPdfWriter(device)
    writer.setPageSize(QPageSize(QPageSize.PageSizeId.A4))
    writer.setPageOrientation(QPageLayout.Orientation.Portrait)
    writer.setPageMargins(QMarginsF(15, 15, 15, 15), QPageLayout.Unit.Millimeter)
    writer.setResolution(150)
    writer.setTitle(_title(checked))
    painter = QPainter(writer)
    page = QRectF(0, 0, writer.width(), writer.height())
    head = page.height() * 0.06
    for number, drawn in enumerate(_pages(checked)):
        if number:
            writer.newPage()
        headline = escape(drawn.headline(checked.answers))
        _html(painter, page, f"<h1>{escape(_title(checked))}</h1><p>{headline} {_caution()}</p>")
        _plan(painter, checked, page.adjusted(0, head * 2, 0, -head), 22, drawn)
    document = QTextDocument()
    document.setDefaultStyleSheet(_STYLE)
    document.setHtml(binder_text(checked))
    document.documentLayout().setPaintDevice(writer)
    document.setPageSize(QSizeF(page.width(), page.height()))
    for number in range(document.pageCount()):
        writer.newPage()
        painter.save()
        painter.translate(0, -number * page.height())
        document.drawContents(painter, QRectF(0, number * page.height(), page.width(), page.height()))
        painter.restore()
    painter.end()
    return bytes(device.data().data())


_STYLE = (
    f"* {{ font-family: '{FAMILY}'; font-size: 10pt; }} h1 {{ font-size: 16pt; }} h2 {{ font-size: 13pt; }}"
    " td, th { padding: 3px 10px; text-align: left; }"
)


def _caution() -> str:
    return "Local codes, the maker's manual and licensed trades decide."


def _html(painter: QPainter, page: QRectF, html: str) -> None:
    document = QTextDocument()
    document.setDefaultStyleSheet(_STYLE)
    document.setHtml(html)
    document.documentLayout().setPaintDevice(painter.device())
    document.setTextWidth(page.width())
    document.drawContents(painter)


def binder_text(checked: Review) -> str:
    """What the binder says in words, as HTML: the tables and the findings of every stage."""
    say = Figures(checked.shop.units)
    pieces = [_table(table) for stage in STAGES for table in stage.tables(checked.answers, say)]
    pieces.append("<h1>Findings</h1>")
    for stage in STAGES:
        found = [one for one in checked.of(stage.key) if one.grade < Grade.GOOD]
        if found:
            pieces.append(f"<h2>{stage.title}</h2>")
            for one in found:
                words = f"{escape(one.sentence)}<br>{escape(one.why)}"
                pieces.append(f"<p><b>{one.grade.word}.</b> {words}</p>")
    return "".join(pieces)


def _table(table: Table) -> str:
    heads = "".join(f"<th>{escape(head)}</th>" for head in table.heads)
    lines = [heads, *("".join(f"<td>{escape(cell)}</td>" for cell in row) for row in table.rows)]
    return (
        f"<h1>{escape(table.title)}</h1><table>" + "".join(f"<tr>{line}</tr>" for line in lines) + "</table>"
    )
