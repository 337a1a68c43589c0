"""The plan as SVG and the binder as PDF, drawn with the same layers as the window."""

from collections.abc import Iterable, Iterator, Sequence
from html import escape
from pathlib import Path

from PySide6.QtCore import QMarginsF, QPointF, QRectF, QSize, QSizeF
from PySide6.QtGui import QPageLayout, QPageSize, QPainter, QPdfWriter, QTextDocument
from PySide6.QtSvg import QSvgGenerator

from purvel.app.application import FAMILY
from purvel.app.plan import draw_ducts, draw_room, draw_things
from purvel.app.plan.sheet import Sheet
from purvel.app.theme import LIGHT
from purvel.lists import parts
from purvel.review import Grade, Review, review
from purvel.review.finding import STAGES
from purvel.review.reader import Reader
from purvel.shop import Shop
from purvel.shop.parts import name_of
from purvel.space.setout import set_out

MARGIN = 0.6  # m round the room


def _bounds(checked: Review) -> tuple[float, float, float, float]:
    points = [*checked.results.traverse.raw, *((thing.x, thing.y) for thing in checked.shop.things)] or [
        (0.0, 0.0)
    ]
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    return min(xs) - MARGIN, min(ys) - MARGIN, max(xs) + MARGIN, max(ys) + MARGIN


def _plan(painter: QPainter, checked: Review, box: QRectF, pixels: int, *, ducts: bool) -> None:
    x0, y0, x1, y1 = _bounds(checked)
    scale = min(box.width() / (x1 - x0), box.height() / (y1 - y0))
    origin = QPointF(box.center().x() - (x0 + x1) / 2 * scale, box.center().y() + (y0 + y1) / 2 * scale)
    sheet = Sheet(painter, LIGHT, scale, origin, pixels)
    shop, results = checked.shop, checked.results
    draw_room.room(sheet, shop, results.traverse, results.sides, None, measures=True)
    if not ducts:
        for one in results.lanes.values():
            draw_things.lane(sheet, one, shop, strong=False)
    draw_things.things(sheet, shop, None, {}, quiet=ducts)
    if ducts:
        draw_ducts.ducts(sheet, results, None, None, Reader(shop.units))
    sheet.set_words()


def draw_plan(shop: Shop, path: Path) -> None:
    """The plan with its lanes and ducts as SVG, one metre to 100 units."""
    checked = review(shop)
    x0, y0, x1, y1 = _bounds(checked)
    width, height = (x1 - x0) * 100, (y1 - y0) * 100
    target = QSvgGenerator()
    target.setFileName(str(path))
    target.setSize(QSize(round(width), round(height)))
    target.setViewBox(QRectF(0, 0, width, height))
    target.setTitle(shop.name)
    painter = QPainter()
    if not painter.begin(target):
        raise OSError(f"{path.name} cannot be opened for writing")
    _plan(painter, checked, QRectF(0, 0, width, height), 15, ducts=bool(shop.ducts.runs))
    painter.end()


def draw_binder(shop: Shop, path: Path) -> None:
    """The binder: the plan with lanes, the plan with ducts, longest boards, set-out, gate card, parts,
    findings.
    """
    checked = review(shop)
    writer = QPdfWriter(str(path))
    writer.setPageSize(QPageSize(QPageSize.PageSizeId.A4))
    writer.setPageOrientation(QPageLayout.Orientation.Portrait)
    writer.setPageMargins(QMarginsF(15, 15, 15, 15), QPageLayout.Unit.Millimeter)
    writer.setResolution(150)
    writer.setTitle(shop.name)
    painter = QPainter()
    if not painter.begin(writer):
        raise OSError(f"{path.name} cannot be opened for writing")
    page = QRectF(0, 0, writer.width(), writer.height())
    head = page.height() * 0.06
    for ducts in (False, True) if shop.ducts.runs else (False,):
        if ducts:
            writer.newPage()
        _html(
            painter,
            page,
            f"<h1>{escape(shop.name)}</h1><p>{escape(_headline(checked, ducts))} {_caution()}</p>",
        )
        _plan(painter, checked, page.adjusted(0, head * 2, 0, -head), 22, ducts=ducts)
    document = QTextDocument()
    document.setDefaultStyleSheet(_STYLE)
    document.setHtml(_words(checked))
    document.documentLayout().setPaintDevice(writer)
    document.setPageSize(QSizeF(page.width(), page.height()))
    for number in range(document.pageCount()):
        writer.newPage()
        painter.save()
        painter.translate(0, -number * page.height())
        document.drawContents(painter, QRectF(0, number * page.height(), page.width(), page.height()))
        painter.restore()
    painter.end()


_STYLE = (
    f"* {{ font-family: '{FAMILY}'; font-size: 10pt; }} h1 {{ font-size: 16pt; }} h2 {{ font-size: 13pt; }}"
    " td, th { padding: 3px 10px; text-align: left; }"
)


def _headline(checked: Review, ducts: bool) -> str:
    if not ducts:
        return "Plan with feed lanes; the figure at each machine is the longest board that it takes there."
    chosen = " and ".join(f"“{network.sets[0].name}”" for network in checked.results.networks)
    return f"Ducts, with gate choice {chosen}." if chosen else "Ducts."


def _caution() -> str:
    return "Local codes, the maker's manual and licensed trades decide."


def _html(painter: QPainter, page: QRectF, html: str) -> None:
    document = QTextDocument()
    document.setDefaultStyleSheet(_STYLE)
    document.setHtml(html)
    document.documentLayout().setPaintDevice(painter.device())
    document.setTextWidth(page.width())
    document.drawContents(painter)


def _words(checked: Review) -> str:
    shop, results, say = checked.shop, checked.results, Reader(checked.shop.units)
    pieces = []
    if results.lanes:
        rows = [
            (name_of(shop, one.thing), *map(say.length, (one.longest_board, one.into.length, one.out.length)))
            for one in results.lanes.values()
        ]
        pieces.append(_table("Longest boards", ("Machine", "Longest board", "Free in", "Free out"), rows))
    if shop.things and results.traverse.is_closed:
        pieces.append(
            _table(
                "Set-out",
                ("Thing", "Corner", "Square to one wall", "and to the other", "Turned"),
                _set_outs(shop, say),
            )
        )
    for network in results.networks:
        choices = []
        for flows in network.sets:
            hoods = "; ".join(
                f"{name_of(shop, hood.thing)} {say.flow(hood.flow)}" for hood in flows.hoods if hood.is_open
            )
            choices.append((flows.name, say.flow(flows.flow), hoods))
        pieces.append(
            _table(
                f"Gate card: {name_of(shop, network.layout.source_thing)}",
                ("Choice", "Flow in all", "At the hoods"),
                choices,
            )
        )
    if bought := parts(shop):
        rows = [
            (
                one.run,
                one.part,
                say.size(one.size),
                say.length(one.amount) if one.unit == "m" else f"{one.amount:.0f}",
            )
            for one in bought
        ]
        pieces.append(_table("Parts of the ducts", ("Run", "Part", "Size", "Length or pieces"), rows))
    pieces.append("<h1>Findings</h1>")
    for stage in STAGES:
        found = [one for one in checked.of(stage) if one.grade < Grade.GOOD]
        if found:
            pieces.append(f"<h2>{stage.capitalize()}</h2>")
            pieces += [
                f"<p><b>{one.grade.word}.</b> {escape(one.sentence)}<br>{escape(one.why)}</p>"
                for one in found
            ]
    return "".join(pieces)


def _set_outs(shop: Shop, say: Reader) -> Iterator[tuple[str, ...]]:
    for thing in shop.things:
        mark = set_out(thing, shop.room)
        walls = [] if mark is None else [f"{one.wall}: {say.length(one.distance)}" for one in mark.measures]
        yield (
            thing.name or thing.id,
            "" if mark is None else mark.corner,
            *walls,
            *[""] * (2 - len(walls)),
            f"{thing.angle % 360:.0f}°",
        )


def _table(title: str, heads: Sequence[str], rows: Iterable[Sequence[str]]) -> str:
    lines = [
        "".join(f"<th>{escape(head)}</th>" for head in heads),
        *("".join(f"<td>{escape(cell)}</td>" for cell in row) for row in rows),
    ]
    return f"<h1>{escape(title)}</h1><table>" + "".join(f"<tr>{line}</tr>" for line in lines) + "</table>"
