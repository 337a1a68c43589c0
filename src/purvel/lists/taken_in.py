"""Lists taken in from CSV: tools, what is to be bought, parts to cut, quotes for the ducts.

The first heading says what it is a list of. A row whose name is there already changes that one; all others
are added. Nothing is taken unless all of it can be read.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any, get_args

import msgspec

from purvel.catalogue.tools import make_tool, tool_kinds
from purvel.lists.written import FORMULA
from purvel.quantities import LengthError, UnitError, parse_length, parse_quantity, read_number, units_for
from purvel.quantities.systems import System
from purvel.shop import Quoted, Shop
from purvel.shop.edits import fresh_id, put
from purvel.shop.fields import one_line
from purvel.shop.money import Group, Item, Known
from purvel.shop.storage import Holding, Tool, Use
from purvel.shop.upkeep import CutPart, Grain

LARGEST, MOST_ROWS = 2**20, 5000  # bytes; rows

Read = Callable[[str, System, str], Any]  # cell, the shop's units, unit in the heading


class ListError(ValueError):
    """A list that cannot be taken in; the sentence says why."""


def _length(cell: str, system: System, unit: str) -> float:
    bare = re.fullmatch(r"[\d.,/ -]+", cell) is not None
    return parse_length(f"{cell} {unit}" if unit and bare else cell, system)


def _mass(cell: str, system: System, unit: str) -> float:
    bare = re.fullmatch(r"[\d.,]+", cell) is not None
    return parse_quantity(f"{cell} {unit}" if unit and bare else cell, units_for(system).mass)


def _number(cell: str, _: System, __: str) -> float:
    return read_number(cell)


def _whole(cell: str, _: System, __: str) -> int:
    if (number := read_number(cell)) != int(number):
        raise ValueError(f"“{cell}” is no whole number.")
    return int(number)


def _text(cell: str, _: System, __: str) -> str:
    return one_line(cell[1:] if cell.startswith("'") and cell[1:].startswith(FORMULA) else cell)


def _one_of(choices: Sequence[str]) -> Read:
    def read(cell: str, _: System, __: str) -> str:
        if cell.lower() not in choices:
            raise ValueError(f"“{cell}” is none of {', '.join(choices)}.")
        return cell.lower()

    return read


@dataclass(frozen=True, slots=True)
class _Kind:
    """A list: what its first column is called, its other columns, and how a row becomes an item."""

    heads: tuple[str, ...]
    words: str
    columns: Mapping[str, tuple[str, Read]]
    there: Callable[[Shop], Sequence[Any]]
    new: Callable[[Shop, dict[str, Any]], Any]
    same: tuple[str, ...] = ("name",)  # fields by which a row means an item that is there


def _new_tool(shop: Shop, row: dict[str, Any]) -> Tool:
    kind = row.get("kind", "")
    if kind not in tool_kinds():
        named = (key for key, one in tool_kinds().items() if one.name.lower() == row["name"].lower())
        kind = next(named, "tool")
    made = fresh_id(shop, "tool")
    return make_tool(kind, made) if kind in tool_kinds() else Tool(id=made)


_TOOLS = _Kind(
    ("tool", "tools"),
    "tools",
    {
        "kind": ("kind", _text),
        "width": ("width", _length),
        "height": ("height", _length),
        "depth": ("depth", _length),
        "mass": ("mass", _mass),
        "used": ("use", _one_of(get_args(Use))),
        "keeps": ("keeps", _one_of(get_args(Holding))),
        "home": ("home", _text),
        "along": ("along", _length),
    },
    lambda shop: shop.storage.tools,
    _new_tool,
)
_ITEMS = _Kind(
    ("item", "items", "to buy"),
    "things to buy",
    {
        "group": ("group", _one_of(get_args(Group))),
        "kind": ("kind", _text),
        "low": ("low", _number),
        "high": ("high", _number),
        "known": ("known", _one_of(get_args(Known))),
        "paid": ("paid", _number),
        "paid on": ("paid_on", _text),
    },
    lambda shop: shop.budget.items,
    lambda shop, row: Item(id=fresh_id(shop, "item")),
)
_PARTS = _Kind(
    ("part", "parts", "piece"),
    "parts to cut",
    {
        "length": ("length", _length),
        "width": ("width", _length),
        "thickness": ("thickness", _length),
        "pieces": ("count", _whole),
        "grain": ("grain", _one_of(get_args(Grain))),
    },
    lambda shop: shop.upkeep.cuts.parts,
    lambda shop, row: CutPart(id=fresh_id(shop, "part")),
)
_QUOTES = _Kind(
    ("supplier", "quote"),
    "lines of quotes",
    {
        "what": ("what", _text),
        "inside diameter": ("size", _length),
        "each": ("each", _number),
        "price": ("each", _number),
    },
    lambda shop: shop.ducts.quotes,
    lambda shop, row: Quoted(id=fresh_id(shop, "quote")),
    ("name", "what", "size"),
)
KINDS = (_TOOLS, _ITEMS, _PARTS, _QUOTES)


def read_list(path: Path) -> bytes:
    """The bytes of a list that is to be taken in. Raises ListError."""
    try:
        if not path.is_file():
            raise ListError(f"{path.name} is no file.")
        with path.open("rb") as file:
            return file.read(LARGEST + 1)
    except OSError as exc:
        raise ListError(f"{path.name} could not be read: {(exc.strerror or str(exc)).lower()}.") from None


def take_in(shop: Shop, data: bytes) -> tuple[Shop, str]:
    """The shop with a list taken in, and a sentence that says what came of it. Raises ListError."""
    rows = _rows(data)
    heads = [cell.strip().lower() for cell in rows[0]]
    kind = next((one for one in KINDS if heads[0] in one.heads), None)
    if kind is None:
        known = ", ".join(f"“{one.heads[0]}”" for one in KINDS)
        raise ListError(
            f"The first heading says what it is a list of: {known}. Here it is “{heads[0][:40]}”."
        )
    columns = [_column(kind, head) for head in heads[1:]]
    added = changed = 0
    for number, row in enumerate(rows[1:], start=2):
        values = _values(row, columns, shop, number)
        item = next((one for one in kind.there(shop) if _is_same(one, values, kind.same)), None)
        added, changed = (added + 1, changed) if item is None else (added, changed + 1)
        shop = put(shop, _made(shop, item or kind.new(shop, values), values, number))
    _check(shop)
    passed = [head for head, column in zip(heads[1:], columns) if column is None and head]
    over = f" Passed over: {', '.join(passed)[:120]}." if passed else ""
    return shop, f"Took in {kind.words}: {added} new, {changed} changed.{over}"


def _is_same(item: Any, values: dict[str, Any], fields: Sequence[str]) -> bool:
    """Whether a row means an item: a size that it leaves empty is none."""
    return all(getattr(item, field) == values.get(field, 0.0) for field in fields)


def _rows(data: bytes) -> list[list[str]]:
    if len(data) > LARGEST:
        raise ListError("The list is larger than 1 MB.")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = data.decode("latin-1")
    if "\0" in text:
        raise ListError("That is no text file.")
    first = text.splitlines()[0] if text.strip() else ""
    delimiter = max((",", ";", "\t"), key=first.count)
    try:
        rows = [row for row in csv.reader(io.StringIO(text), delimiter=delimiter) if any(map(str.strip, row))]
    except csv.Error as exc:
        raise ListError(f"The list cannot be read as CSV: {exc}.") from None
    if len(rows) < 2:
        raise ListError("The list has a line of headings and nothing under it, or not even that.")
    if len(rows) > MOST_ROWS:
        raise ListError(f"The list has more than {MOST_ROWS} rows.")
    return rows


def _column(kind: _Kind, head: str) -> tuple[str, Read, str] | None:
    """The field that a heading means, how it is read, its unit; None where it means nothing here."""
    match = re.fullmatch(r"(.*?)(?:\s*[\[(]?\b(mm|cm|m|in|ft|kg|lb)[\])]?)?", head)
    assert match is not None
    found = kind.columns.get(match[1].strip())
    return None if found is None else (*found, match[2] or "")


def _values(
    row: Sequence[str], columns: Sequence[tuple[str, Read, str] | None], shop: Shop, number: int
) -> dict[str, Any]:
    name = _text(row[0].strip(), shop.units, "")
    if not name:
        raise ListError(f"Row {number} has no name in its first cell.")
    values: dict[str, Any] = {"name": name}
    for column, cell in zip(columns, row[1:]):
        if column is None or not cell.strip():
            continue
        key, read, unit = column
        try:
            values[key] = read(cell.strip(), shop.units, unit)
        except (LengthError, UnitError) as exc:
            raise ListError(f"Row {number}, {key}: {exc}") from None
        except (ValueError, OverflowError) as exc:
            said = str(exc) if str(exc).startswith("“") else f"“{cell.strip()[:40]}” is no number."
            raise ListError(f"Row {number}, {key}: {said}") from None
    return values


def _made(shop: Shop, item: Any, values: dict[str, Any], number: int) -> Any:
    """The item with a row's values, its home found by name."""
    if isinstance(item, Tool) and "home" in values:
        wanted = values["home"]
        unit = next((one for one in shop.storage.units if wanted in (one.name, one.id)), None)
        if unit is None:
            raise ListError(f"Row {number}, home: there is no “{wanted[:60]}” on a wall here.")
        values = values | {"home": unit.id}
    if isinstance(item, Tool) and values.get("kind") not in tool_kinds():
        values = {key: value for key, value in values.items() if key != "kind"}
    made = replace(item, **values)
    if isinstance(made, Item) and made.high < made.low:
        made = replace(made, high=made.low)
    try:
        msgspec.convert(msgspec.to_builtins(made), type(made))
    except msgspec.ValidationError as exc:
        raise ListError(f"Row {number} cannot be so: {exc}.") from None
    return made


def _check(shop: Shop) -> None:
    for part in (shop.storage, shop.budget, shop.upkeep, shop.ducts):
        try:
            msgspec.convert(msgspec.to_builtins(part), type(part))
        except msgspec.ValidationError as exc:
            raise ListError(f"With this list the shop would hold too much: {exc}.") from None
