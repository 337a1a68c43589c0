"""Lists as CSV. Those of tools, of what is to be bought and of parts to cut can be taken in again."""

import csv
import io
from collections.abc import Iterable
from math import isfinite

from purvel.review import Answers, Memory
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.bill import bill
from purvel.review.ducts.quotes import compared
from purvel.review.keep.answers import KeepAnswers
from purvel.review.spend.answers import SpendAnswers
from purvel.shop import Fixture, Shop, Thing
from purvel.shop.parts import name_of
from purvel.space.setout import set_out
from purvel.space.shell import shell
from purvel.upkeep.sheets import SheetsPlan

FORMULA = ("=", "+", "-", "@", "\t", "\r")  # what a spreadsheet takes for the start of a formula


def as_csv(head: Iterable[str], rows: Iterable[Iterable[object]]) -> str:
    """A list with its heads, harmless in a spreadsheet."""
    text = io.StringIO()
    writer = csv.writer(text, lineterminator="\n")
    writer.writerow(head)
    writer.writerows([_harmless(cell) for cell in row] for row in rows)
    return text.getvalue()


def _harmless(cell: object) -> object:
    """A cell that a spreadsheet would run as a formula, with the apostrophe that makes it text."""
    return f"'{cell}" if isinstance(cell, str) and cell.startswith(FORMULA) and not _is_number(cell) else cell


def _is_number(cell: str) -> bool:
    try:
        return float(cell) == float(cell)
    except ValueError:
        return False


def _mm(metres: float) -> str:
    return f"{metres * 1000:.2f}".rstrip("0").rstrip(".")


def parts_csv(shop: Shop) -> str:
    """The parts list; pipe and hose in metres."""
    rows = (
        (
            name_of(shop, one.run),
            one.part,
            f"{one.size * 1000:.0f}",
            one.unit,
            f"{one.amount:.2f}" if one.unit == "m" else f"{one.amount:.0f}",
        )
        for one in Answers(shop, Memory()).of(DuctAnswers).parts
    )
    return as_csv(("run", "part", "inside diameter mm", "unit", "amount"), rows)


def bill_csv(shop: Shop) -> str:
    """What the ducts are bought as."""
    rows = (
        (one.what, f"{one.size * 1000:.0f}" if one.size else "", f"{one.amount:g}", one.unit)
        for one in bill(Answers(shop, Memory()))
    )
    return as_csv(("what", "inside diameter mm", "amount", "unit"), rows)


def quote_csv(shop: Shop) -> str:
    """What the ducts are bought as, for suppliers to write their prices in; with those that are known."""
    found = compared(Answers(shop, Memory()))
    rows = []
    for number, name in enumerate(found.suppliers or ("your supplier",)):
        for line, prices in zip(found.lines, found.asked):
            price = prices[number] if found.suppliers else None
            size = f"{line.size * 1000:.0f}" if line.size else ""
            each = "" if price is None else f"{price / line.amount:.2f}"
            rows.append((name, line.what, size, f"{line.amount:g}", line.unit, each))
    return as_csv(("supplier", "what", "inside diameter mm", "amount", "unit", "each"), rows)


def setout_csv(shop: Shop) -> str:
    """For each thing and fixture a corner, its distances from two walls and its angle, so that it can be
    marked on the floor, and a straight reading that checks it; for each opening its edges along the wall
    [mm, deg].
    """
    rows = []
    room = shell(shop.room)
    items: list[Thing | Fixture] = [*shop.things, *shop.room.fixtures]
    for thing in items:
        mark = set_out(thing, room)
        cells = (
            []
            if mark is None
            else [
                mark.corner,
                *(cell for one in mark.measures for cell in (one.wall, f"{one.distance * 1000:.0f}")),
            ]
        )
        checks = () if mark is None else mark.checks[:1]
        check = next(((name_of(shop, one.item), f"{one.distance * 1000:.0f}") for one in checks), ("", ""))
        cells = [*cells, *[""] * (5 - len(cells)), f"{thing.angle % 360:.1f}", *check]
        rows.append((name_of(shop, thing.id), *cells))
    for one in shop.room.openings:
        edges = (
            cell for at in (one.offset, one.offset + one.width) for cell in (one.wall, f"{at * 1000:.0f}")
        )
        rows.append((name_of(shop, one.id), "edges", *edges, "", "", ""))
    return as_csv(
        (
            "thing",
            "corner",
            "wall",
            "distance mm",
            "other wall",
            "distance mm",
            "angle deg",
            "check to",
            "straight mm",
        ),
        rows,
    )


def tools_csv(shop: Shop) -> str:
    """Tools with their sizes and homes."""
    rows = (
        (
            tool.name or tool.id,
            tool.kind,
            _mm(tool.width),
            _mm(tool.height),
            _mm(tool.depth),
            f"{tool.mass:g}",
            tool.use,
            tool.keeps,
            name_of(shop, tool.home) if tool.home else "",
            _mm(tool.along) if tool.home else "",
        )
        for tool in shop.storage.tools
    )
    head = (
        "tool",
        "kind",
        "width mm",
        "height mm",
        "depth mm",
        "mass kg",
        "used",
        "keeps",
        "home",
        "along mm",
    )
    return as_csv(head, rows)


def buying_csv(shop: Shop) -> str:
    """What is to be bought, in order, with the month in which there is money for it."""
    steps = {step.item: step for step in Answers(shop, Memory()).of(SpendAnswers).steps}
    rows = []
    for item in shop.budget.items:
        step = steps.get(item.id)
        has_month = step is not None and isfinite(step.month)
        month = f"{step.month:.1f}" if step is not None and has_month else ""
        left = f"{step.left:.2f}" if step is not None and has_month else ""
        paid = "" if item.paid is None else f"{item.paid:.2f}"
        name = item.name or item.id
        prices = (f"{item.low:.2f}", f"{item.high:.2f}", item.known, paid, item.paid_on or "")
        rows.append((name, item.group, item.kind or "", *prices, month, left))
    head = ("item", "group", "kind", "low", "high", "known", "paid", "paid on", "month", "left then")
    return as_csv(head, rows)


def cut_list_csv(shop: Shop) -> str:
    """Parts to be cut."""
    rows = (
        (part.name or part.id, _mm(part.length), _mm(part.width), _mm(part.thickness), part.count, part.grain)
        for part in shop.upkeep.cuts.parts
    )
    return as_csv(("part", "length mm", "width mm", "thickness mm", "pieces", "grain"), rows)


def cuts_csv(shop: Shop) -> str:
    """What comes out of which sheet or stick, and where on it it lies."""
    rows: list[tuple[object, ...]] = []
    for one in Answers(shop, Memory()).of(KeepAnswers).cuts():
        stock = one.stock.name or one.stock.id
        names = [piece.name or piece.id for piece in one.pieces]
        if isinstance(one.plan, SheetsPlan):
            for number, sheet in enumerate(one.plan.sheets, start=1):
                for laid in sheet.laid:
                    places = (laid.x, laid.y, laid.length, laid.width)
                    rows.append((stock, number, names[laid.part], *map(_mm, places)))
        else:
            for number, stick in enumerate(one.plan.sticks, start=1):
                at = 0.0
                for k in stick:
                    piece = one.pieces[k]
                    rows.append((stock, number, names[k], *map(_mm, (at, 0.0, piece.length, piece.width))))
                    at += piece.length + shop.upkeep.cuts.kerf
    return as_csv(("stock", "number", "part", "x mm", "y mm", "length mm", "width mm"), rows)
