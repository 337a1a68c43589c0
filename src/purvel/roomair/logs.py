"""Logs of particle monitors: read from CSV of any common layout.

The delimiter, decimal commas, the header line and the format of the time are recognised. Channels are told by
their names (`log_kinds`). Rows that cannot be read are counted, not guessed.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import repeat
from operator import contains
from typing import Any, NamedTuple

from purvel.libraries import Array, np
from purvel.roomair.log_kinds import UNITS, ChannelKind, told_of
from purvel.roomair.log_times import in_order, times
from purvel.shop.fields import one_line

LARGEST = 64 * 2**20  # bytes
MOST_ROWS = 3_000_000  # a month of readings a second
LARGEST_READING = 1e12  # what is larger is none
LONGEST = 1e8  # s from the first reading to the last
_LONG = 100_000  # letters from which a log is worth reading all at once
_PROBE = 400  # lines that are looked at for delimiter and header
_PART = 500_000  # letters of a long log that are taken apart at a time


class LogError(ValueError):
    """A log that cannot be read; the sentence says why."""


@dataclass(frozen=True, slots=True, eq=False)
class Channel:
    """One column: its name as it stands in the file, what it is, the size that it is about [um], its values
    (nan where there is none) in `unit`, whatever it was `written` in; whether that unit is sure.
    """

    name: str
    kind: ChannelKind
    size: float
    values: Array
    unit: str = ""
    written: str = ""
    is_sure: bool = True


@dataclass(frozen=True, slots=True, eq=False)
class Log:
    """A log: seconds from the first reading (n,), rising; when that was; its channels; rows that were left
    out; how often the monitor's clock was set back.
    """

    seconds: Array
    begun: datetime
    channels: tuple[Channel, ...]
    left_out: int
    set_back: int = 0

    @property
    def minutes(self) -> float:
        """How long it is [min]."""
        return float(self.seconds[-1]) / 60.0

    @property
    def step(self) -> float:
        """The usual time between readings [s]."""
        return float(np.median(np.diff(self.seconds))) if len(self.seconds) > 1 else 0.0

    def channel(self, name: str = "") -> Channel:
        """A channel by its name; else the one that shows dust best: counts from about 0.5 um, then PM2.5."""
        named = next((one for one in self.channels if one.name == name), None)
        if named is not None:
            return named
        return min(
            self.channels,
            key=lambda one: (
                one.kind not in _ORDER,
                one.kind != _ORDER[0],
                abs(one.size - 0.5 if one.kind == "count" else one.size - 2.5),
            ),
        )


_EPOCH = datetime(1970, 1, 1)
_YEAR = 31_557_600.0  # s
_ORDER: tuple[ChannelKind, ...] = ("count", "mass")  # what shows dust best, before all else
_TIME_WORDS = ("time", "date", "zeit", "datum", "timestamp", "tag", "heure", "hora", "second", "elapsed")


def read_log(data: bytes, units: Mapping[str, str] | None = None) -> Log:
    """A log from a CSV file's bytes; `units` of columns whose names do not tell theirs. Raises LogError with
    one sentence.
    """
    if len(data) > LARGEST:
        raise LogError(f"The log is larger than {LARGEST // 2**20} MB.")
    heads, columns, clock, comma = _columns(_text(data))
    moments = (
        columns[clock[0]] if len(clock) == 1 else [" ".join(row) for row in zip(*(columns[k] for k in clock))]
    )
    seconds, good = times(moments)
    if good.sum() < 2:
        raise LogError("No two rows of the log have a time that can be read, such as 2026-11-26 10:15:00.")
    seconds, order, set_back = in_order(seconds[good])
    if seconds[-1] - seconds[0] > LONGEST:
        raise LogError(
            f"The times of the log lie {(seconds[-1] - seconds[0]) / _YEAR:,.0f} years apart: are they all of one clock?"
        )
    kept = np.concatenate([[True], np.diff(seconds) > 0])
    found = []
    for number, head in enumerate(heads):
        values = None if number in clock else _numbers(columns[number], comma)[good]
        if values is not None and np.isfinite(values).sum() >= 2:
            found.append(_channel(head, values[order][kept], (units or {}).get(head, "")))
    if not found:
        raise LogError("No column of the log holds numbers.")
    first = float(seconds[0])
    begun = _EPOCH + timedelta(seconds=first)
    left_out = len(columns[0]) - int(kept.sum())
    return Log(seconds[kept] - first, begun, tuple(found), left_out, set_back)


def _channel(head: str, values: Array, unit: str) -> Channel:
    """A column in the unit that its kind is kept in; a TVOC that is told as a share of the air, or as an
    index, stays in that.
    """
    told = told_of(head, unit)
    if told.kind == "tvoc" and told.unit in ("ppb", "ppm", "index"):
        kept = "index" if told.unit == "index" else "ppb"
    else:
        kept = next(iter(UNITS[told.kind]), "")
    if told.unit == "°F":
        values = values - 32.0
    return Channel(
        head,
        told.kind,
        told.size,
        values * UNITS[told.kind].get(told.unit, 1.0),
        kept,
        told.unit,
        told.is_sure,
    )


def _text(data: bytes) -> str:
    for code in ("utf-8-sig", "utf-16"):
        if code == "utf-8-sig" or data[:2] in (b"\xff\xfe", b"\xfe\xff"):
            try:
                text = data.decode(code)
            except UnicodeDecodeError:
                continue
            break
    else:
        text = data.decode("latin-1")
    if "\x00" in text[:4096]:
        raise LogError("That is no text file.")
    return text


class _Columns(NamedTuple):
    """The names of the columns, their cells below the header, numbers already or as text; which tell the
    time, and whether commas may be decimal.
    """

    heads: list[str]
    cells: list[Any]
    clock: list[int]
    comma: bool


def _columns(text: str) -> _Columns:
    if text.count("\n") > MOST_ROWS:
        raise LogError(f"The log has more than {MOST_ROWS:,} lines.")
    plain = _plain(text)
    if plain is not None:
        return plain
    lines = [line for line in text.splitlines() if line.strip()]
    delimiter = _delimiter(lines)
    rows = list(csv.reader(io.StringIO("\n".join(lines)), delimiter=delimiter))
    head_at, heads = _header(rows)
    body = rows[head_at + 1 :]
    columns = [[row[k] if k < len(row) else "" for row in body] for k in range(len(heads))]
    if len(body) < 2 or not columns:
        raise LogError("The log has no two rows of readings.")
    return _Columns(heads, columns, _time_columns(heads, columns), delimiter != ",")


def _plain(text: str) -> _Columns | None:
    """The same for a long file in which every line has as many cells and nothing is quoted, all at once; else
    None.
    """
    if len(text) < _LONG or '"' in text:
        return None
    text = text.replace("\r\n", "\n")
    if "\r" in text or "\n\n" in text:
        return None
    end = -1
    for _ in range(_PROBE):
        end = text.find("\n", end + 1)
        if end < 0:
            return None
    lines = text[:end].split("\n")
    delimiter = _delimiter(lines)
    rows = [line.split(delimiter) for line in lines]
    head_at, heads = _header(rows)
    body = text[sum(len(line) + 1 for line in lines[: head_at + 1]) :].strip("\n")
    clock = _time_columns(heads, [[cell] for cell in rows[-1]])
    columns: list[Any] = [[] for _ in heads]
    for part in _parts(body):
        cells = part.replace("\n", delimiter).split(delimiter)
        by_column = [cells[k :: len(heads)] for k in range(len(heads))]
        if len(cells) != (part.count("\n") + 1) * len(heads) or not _is_whole(
            part, by_column[clock[0]], delimiter, len(heads)
        ):
            return None
        for k, column in enumerate(by_column):
            if k in clock:
                columns[k] += column
            else:
                columns[k].append(_numbers(column, delimiter != ","))
    found = [one if k in clock else np.concatenate(one) for k, one in enumerate(columns)]
    return _Columns(heads, found, clock, delimiter != ",")


def _parts(body: str) -> Iterator[str]:
    """Whole lines of it, about a part each: few enough that the cells lie close in memory."""
    start = 0
    while start < len(body):
        end = body.find("\n", start + _PART)
        end = len(body) if end < 0 else end
        yield body[start:end]
        start = end + 1


def _is_whole(part: str, clock: list[str], delimiter: str, wide: int) -> bool:
    """Whether every line has as many cells: a line too long and one too short would move all between them."""
    if ":" in clock[0]:
        return all(map(contains, clock, repeat(":")))
    return all(line.count(delimiter) == wide - 1 for line in part.split("\n"))


def _delimiter(lines: Sequence[str]) -> str:
    """The delimiter that most lines agree on."""
    if len(lines) < 3:
        raise LogError("The log has fewer than three lines.")
    probe = lines[:200]
    counts = {mark: [line.count(mark) for line in probe] for mark in (";", "\t", ",", "|")}

    def agreement(mark: str) -> tuple[int, int]:
        usual = max(set(counts[mark]), key=counts[mark].count)
        return (counts[mark].count(usual) if usual else 0, usual)

    delimiter = max(counts, key=agreement)
    if agreement(delimiter)[1] == 0:
        raise LogError("No delimiter divides the lines of the log: comma, semicolon, tab or bar.")
    return delimiter


def _header(rows: Sequence[Sequence[str]]) -> tuple[int, list[str]]:
    """The line that names the columns: the one before the first that looks as most lines do."""
    shapes = [tuple(map(_shape, row)) for row in rows[:_PROBE]]
    usual = max(set(shapes), key=shapes.count)
    if "number" not in usual:
        raise LogError("No line of the log holds numbers.")
    first = shapes.index(usual)
    plain = [f"column {k + 1}" for k in range(len(usual))]
    above = rows[first - 1] if first else []
    if len(above) < 2 or not any(cell.strip() and _number(cell) is None for cell in above):
        return first - 1, plain
    return first - 1, ([one_line(cell) or plain[0] for cell in above] + plain[len(above) :])[: len(usual)]


def _shape(cell: str) -> str:
    """What a cell looks like: a number, a time, or anything else."""
    if not cell.strip():
        return "number"  # a reading that is not there
    if _number(cell) is not None:
        return "number"
    return "time" if re.search(r"\d[:\-/.]\d{2}", cell) else "word"


def _number(cell: str) -> float | None:
    try:
        return float(cell.strip().replace(",", "."))
    except ValueError:
        return None


def _time_columns(heads: Sequence[str], columns: Sequence[Sequence[str]]) -> list[int]:
    """The column of the time, or those of date and time, the date first whichever is."""
    middle = len(columns[0]) // 2
    sample = [column[middle] for column in columns]
    named = [k for k, head in enumerate(heads) if any(word in head.lower() for word in _TIME_WORDS)]
    looks = [k for k, cell in enumerate(sample) if re.search(r"\d[:\-/.]\d{2}[:\-/.]\d", cell)]
    found = [k for k in named if k in looks] or looks or named
    if not found:
        raise LogError("No column of the log holds a time.")
    whole = [
        k
        for k in found
        if k < len(sample) and re.search(r"\d{2}:\d{2}", sample[k]) and re.search(r"\d[\-/.]\d", sample[k])
    ]
    return whole[:1] or sorted(found[:2], key=lambda k: k < len(sample) and ":" in sample[k])


def _numbers(cells: Sequence[str] | Array, comma: bool) -> Array:
    """A column as numbers; nan where it holds none."""
    if isinstance(cells, np.ndarray):
        return cells
    for points in (False, True) if comma else (False,):
        try:
            plain: Array = np.array(
                [cell.replace(",", ".") for cell in cells] if points else cells, dtype=float
            )
        except ValueError:
            continue
        plain[~(np.abs(plain) <= LARGEST_READING)] = np.nan
        return plain
    found: Array = np.full(len(cells), np.nan)
    for number, cell in enumerate(cells):
        text = cell.strip()
        try:
            found[number] = float(text.replace(",", ".") if comma else text)
        except ValueError:
            continue
    found[~(np.abs(found) <= LARGEST_READING)] = np.nan
    return found
