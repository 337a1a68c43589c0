"""What suppliers ask for the bill of the ducts, line by line: what each lacks, what is cheapest."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from purvel.review.answers import Answers
from purvel.review.ducts.bill import Line, bill
from purvel.review.figures import Figures
from purvel.review.stage import Table
from purvel.shop import Quoted, Shop
from purvel.shop.edits import fresh_id, put
from purvel.shop.money import Item

SAME_SIZE = 0.001  # m: sizes this near are one


@dataclass(frozen=True, slots=True)
class Compared:
    """The lines of the bill with each supplier's price of the whole line (None: not offered), the suppliers
    in the order in which they were taken in, and what each offers that is not on the bill.
    """

    lines: tuple[Line, ...]
    suppliers: tuple[str, ...]
    asked: tuple[tuple[float | None, ...], ...]  # by line, then by supplier
    beside: tuple[tuple[str, ...], ...]

    def total(self, supplier: int) -> tuple[float, int]:
        """What a supplier asks for all that it offers, and how many lines it does not."""
        prices = [row[supplier] for row in self.asked]
        return sum(one for one in prices if one is not None), sum(one is None for one in prices)

    @property
    def cheapest(self) -> tuple[int | None, ...]:
        """By line the supplier that asks least; None where nobody offers it."""
        found: list[int | None] = []
        for row in self.asked:
            offers = [(one, number) for number, one in enumerate(row) if one is not None]
            found.append(min(offers)[1] if offers else None)
        return tuple(found)

    @property
    def split(self) -> tuple[float, int]:
        """What all costs where each line is bought where it is cheapest, and how many nobody offers."""
        prices = [row[at] for row, at in zip(self.asked, self.cheapest) if at is not None]
        return sum(one or 0.0 for one in prices), sum(at is None for at in self.cheapest)


def compared(answers: Answers) -> Compared:
    """The quotes that are in the shop against its bill as it is now."""
    lines, quotes = tuple(bill(answers)), answers.shop.ducts.quotes
    suppliers = tuple(dict.fromkeys(one.name for one in quotes))
    asked = tuple(
        tuple(
            next(
                (
                    one.each * line.amount
                    for one in quotes
                    if one.each is not None and one.name == name and is_of(one, line)
                ),
                None,
            )
            for name in suppliers
        )
        for line in lines
    )
    beside = tuple(
        tuple(one.what for one in quotes if one.name == name and not any(is_of(one, line) for line in lines))
        for name in suppliers
    )
    return Compared(lines, suppliers, asked, beside)


def is_of(quoted: Quoted, line: Line) -> bool:
    """Whether a price is that of a line."""
    same = " ".join(quoted.what.lower().split()) == " ".join(line.what.lower().split())
    return same and abs(quoted.size - line.size) < SAME_SIZE


def quote_table(answers: Answers, say: Figures) -> Table | None:
    """The suppliers' prices side by side; None where there are none."""
    found = compared(answers)
    if not found.suppliers:
        return None
    money = answers.shop.budget.currency
    rows = []
    for line, prices, at in zip(found.lines, found.asked, found.cheapest):
        cells = [
            "–"
            if price is None
            else f"{money} {price:,.2f}{' *' if number == at and len(prices) > 1 else ''}"
            for number, price in enumerate(prices)
        ]
        size = say.size(line.size) if line.size else ""
        rows.append((line.what, size, f"{line.amount:g} {line.unit}", *cells))
    totals = [found.total(number) for number in range(len(found.suppliers))]
    rows.append(("All that it offers", "", "", *(f"{money} {asked:,.2f}" for asked, _ in totals)))
    rows.append(
        ("Not offered", "", "", *(_lines(missing) if missing else "nothing" for _, missing in totals))
    )
    return Table("Quotes, * the cheapest", ("What", "Size", "How much", *found.suppliers), rows)


def said(answers: Answers) -> Iterator[str]:
    """What the table comes to."""
    found, money = compared(answers), answers.shop.budget.currency
    if not found.suppliers:
        return
    totals = [(*found.total(number), number) for number in range(len(found.suppliers))]
    whole = [(asked, number) for asked, missing, number in totals if not missing]
    if whole:
        asked, number = min(whole)
        yield f"Cheapest for everything from one: {found.suppliers[number]}, {money} {asked:,.2f}."
    else:
        yield "Nobody offers everything."
    if len(found.suppliers) > 1:
        asked, missing = found.split
        nobody = f"; {_lines(missing)} nobody offers" if missing else ""
        yield f"Each line where it is cheapest: {money} {asked:,.2f}{nobody}. Carriage is not in it."
    for name, beside in zip(found.suppliers, found.beside):
        if beside:
            yield f"{name} also quotes what is not on the bill: {', '.join(beside[:4])}."


def bought_from(shop: Shop, answers: Answers, supplier: str) -> Shop:
    """The shop with a supplier's quote on the buying list, in place of the one that was there. Raises
    ValueError where there is no such supplier.
    """
    found = compared(answers)
    if supplier not in found.suppliers:
        raise ValueError(f"There is no quote of “{supplier}”.")
    asked, missing = found.total(found.suppliers.index(supplier))
    name = f"Ducts from {supplier}" + (f", {_lines(missing)} missing" if missing else "")
    stem = f"Ducts from {supplier}"
    there = next((one for one in shop.budget.items if one.name.startswith(stem)), None)
    item = there or Item(id=fresh_id(shop, "item"), group="ducts")
    return put(shop, replace(item, name=name, low=round(asked, 2), high=round(asked, 2), known="quote"))


def _lines(many: int) -> str:
    return f"{many} line{'' if many == 1 else 's'}"
