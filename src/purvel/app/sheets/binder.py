"""The binder: the plans to scale, what is marked on the floor, cards, lists and findings; as a PDF or on a
printer.
"""

from datetime import date
from html import escape

from PySide6.QtCore import QMarginsF, QRectF, QSizeF
from PySide6.QtGui import (
    QFont,
    QPagedPaintDevice,
    QPageLayout,
    QPageSize,
    QPainter,
    QPdfWriter,
    QTextCursor,
    QTextDocument,
    QTextFormat,
)

from purvel.app.sheets.drawing import draw_to_scale, in_memory, pages_of, title_of
from purvel.app.theme import FAMILY
from purvel.review import Figures, Grade, Review
from purvel.review.stage import Table
from purvel.review.stages import STAGES

DPI = 150
_MOST_BREAKS = 60
_STYLE = (
    f"* {{ font-family: '{FAMILY}'; font-size: 10pt; }} h1 {{ font-size: 16pt; }} h2 {{ font-size: 13pt; }}"
    " td, th { padding: 3px 10px; text-align: left; }"
)


def binder_pdf(checked: Review) -> bytes:
    """The binder as a PDF whose words and figures can be searched."""
    device = in_memory()
    writer = QPdfWriter(device)
    writer.setPageSize(QPageSize(QPageSize.PageSizeId.A4))
    writer.setPageOrientation(QPageLayout.Orientation.Portrait)
    writer.setPageMargins(QMarginsF(15, 15, 15, 15), QPageLayout.Unit.Millimeter)
    writer.setResolution(DPI)
    writer.setTitle(title_of(checked))
    draw_binder(writer, checked)
    return bytes(device.data().data())


def draw_binder(device: QPagedPaintDevice, checked: Review) -> None:
    """Draws the binder on a PDF or a printer, page by page, each with its date and number."""
    painter = QPainter(device)
    page = QRectF(0, 0, device.width(), device.height())
    foot = page.height() * 0.03
    drawn, words = pages_of(checked), _words(checked, device, page.adjusted(0, 0, 0, -foot))
    count = len(drawn) + words.pageCount()
    for number, one in enumerate(drawn):
        if number:
            device.newPage()
        head = page.height() * 0.12
        box = page.adjusted(0, head, 0, -foot * 1.5)
        scale = draw_to_scale(painter, checked, box, round(22 * device.logicalDpiX() / DPI), one)
        at_scale = f" Scale: {scale}." if scale else ""
        headline = f"{escape(one.headline(checked.answers))}{at_scale} {_caution()}"
        _html(painter, page, f"<h1>{escape(title_of(checked))}</h1><p>{headline}</p>")
        _footer(painter, page, checked, number + 1, count)
    for number in range(words.pageCount()):
        device.newPage()
        painter.save()
        high = page.height() - foot
        painter.translate(0, -number * high)
        words.drawContents(painter, QRectF(0, number * high, page.width(), high))
        painter.restore()
        _footer(painter, page, checked, len(drawn) + number + 1, count)
    painter.end()


def _words(checked: Review, device: QPagedPaintDevice, page: QRectF) -> QTextDocument:
    """The binder's words, laid out on pages of this size."""
    document = _document(binder_text(checked), device)
    document.setPageSize(QSizeF(page.width(), page.height()))
    for _ in range(_MOST_BREAKS):
        if not _mend_stranded(document):
            break
    return document


def _mend_stranded(document: QTextDocument) -> bool:
    """Puts the first heading that is parted from what follows it on the next page; whether there was one.

    Headings right below each other go together: only the first of them begins a page.
    """
    layout, high = document.documentLayout(), document.pageSize().height()
    breaks = QTextFormat.PageBreakFlag.PageBreak_AlwaysBefore
    block = document.begin()
    while block.isValid():
        first = block
        while block.blockFormat().headingLevel() > 0 and block.next().isValid():
            block = block.next()
        form = first.blockFormat()
        if block != first and form.pageBreakPolicy() != breaks:
            own, next_one = layout.blockBoundingRect(first), layout.blockBoundingRect(block)
            after = block.next()
            last = layout.blockBoundingRect(after) if after.isValid() else next_one
            if int(own.top() // high) != int(max(next_one.bottom(), last.top()) // high):
                form.setPageBreakPolicy(breaks)
                QTextCursor(first).setBlockFormat(form)
                document.markContentsDirty(
                    0, document.characterCount()
                )  # else what follows may go without lines
                return True
        block = block.next()
    return False


def _footer(painter: QPainter, page: QRectF, checked: Review, number: int, count: int) -> None:
    """The shop, the day, the page."""
    words = f"{escape(title_of(checked))} · {date.today().isoformat()} · page {number} of {count}"
    document = _document(f"<p align='right'>{words}</p>", painter.device())
    document.setTextWidth(page.width())
    painter.save()
    painter.translate(0, page.height() - document.size().height())
    document.drawContents(painter)
    painter.restore()


def _caution() -> str:
    return "Local codes, the maker's manual and licensed trades decide."


def _html(painter: QPainter, page: QRectF, html: str) -> None:
    document = _document(html, painter.device())
    document.setTextWidth(page.width())
    document.drawContents(painter)


def _document(html: str, device: object) -> QTextDocument:
    """Text for a paint device, in plain figures: tabular ones cannot be searched in a PDF."""
    document = QTextDocument()
    document.setDefaultFont(QFont(FAMILY, 10))
    document.setDefaultStyleSheet(_STYLE)
    document.setHtml(html)
    document.documentLayout().setPaintDevice(device)  # type: ignore[arg-type]
    return document


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
