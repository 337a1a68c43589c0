"""Logs of particle monitors: read from CSV of any common layout.

The delimiter, decimal commas, the header line and the format of the time are recognised. Channels are told by
their names: counts above a size, particulate mass, and what else is measured. Rows that cannot be read are
counted, not guessed.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Literal

from purvel.libraries import Array, np
from purvel.shop.fields import one_line

LARGEST = 64 * 2**20  # bytes
MOST_ROWS = 3_000_000  # a month of readings a second
LARGEST_READING = 1e12  # what is larger is none
LONGEST = 1e8  # s from the first reading to the last
ChannelKind = Literal["count", "mass", "other"]


class LogError(ValueError):
    """A log that cannot be read; the sentence says why."""


@dataclass(frozen=True, slots=True, eq=False)
class Channel:
    """One column: its name as it stands in the file, what it is, the size from which it counts [um], its
    values (nan where there is none).
    """

    name: str
    kind: ChannelKind
    size: float
    values: Array


@dataclass(frozen=True, slots=True, eq=False)
class Log:
    """A log: seconds from the first reading (n,), rising; when that was; its channels; rows that were
    left out.
    """

    seconds: Array
    begun: datetime
    channels: tuple[Channel, ...]
    left_out: int

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
                _ORDER[one.kind],
                abs(one.size - 0.5 if one.kind == "count" else one.size - 2.5),
            ),
        )


_ISO = re.compile(r"\d{4}-\d{2}-\d{2}[ T]\d{2}:\d{2}(:\d{2}(\.\d+)?)?", re.ASCII)
_EPOCH = datetime(1970, 1, 1)
_DAY, _YEAR = 86_400.0, 31_557_600.0  # s
_ORDER = {"count": 0, "mass": 1, "other": 2}
_SIZE = re.compile(r"(\d+(?:[.,]\d+)?)\s*(?:µm|um|micron)?", re.IGNORECASE)
_TIME_WORDS = ("time", "date", "zeit", "datum", "timestamp", "tag", "heure", "hora", "second", "elapsed")
_COUNT_WORDS = ("count", "partic", "um", "µm", "bin", "n0", "n1", "n2", "n5", ">")


def read_log(data: bytes) -> Log:
    """A log from a CSV file's bytes. Raises LogError with one sentence."""
    if len(data) > LARGEST:
        raise LogError(f"The log is larger than {LARGEST // 2**20} MB.")
    rows, delimiter = _rows(data)
    head_at, heads = _header(rows)
    body = rows[head_at + 1 :]
    if len(body) < 2:
        raise LogError("The log has no two rows of readings.")
    time_columns = _time_columns(heads, body)
    times, good = _times(body, time_columns)
    if good.sum() < 2:
        raise LogError("No two rows of the log have a time that can be read, such as 2026-11-26 10:15:00.")
    comma = delimiter != ","
    channels = []
    for column, head in enumerate(heads):
        if column in time_columns:
            continue
        values = _numbers(body, column, comma)[good]
        if np.isfinite(values).sum() >= 2:
            kind, size = _what(head)
            channels.append((head, kind, size, values))
    if not channels:
        raise LogError("No column of the log holds numbers.")
    seconds = times[good]
    order = np.argsort(seconds, kind="stable")
    seconds = seconds[order]
    if seconds[-1] - seconds[0] > LONGEST:
        raise LogError(
            f"The times of the log lie {(seconds[-1] - seconds[0]) / _YEAR:,.0f} years apart: are they all of one clock?"
        )
    kept = np.concatenate([[True], np.diff(seconds) > 0])
    found = tuple(Channel(head, kind, size, values[order][kept]) for head, kind, size, values in channels)
    first = float(seconds[0])
    begun = _EPOCH + timedelta(seconds=first)
    return Log(seconds[kept] - first, begun, found, len(body) - int(kept.sum()))


def _rows(data: bytes) -> tuple[list[list[str]], str]:
    """Lines cut at the delimiter that most lines agree on."""
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = data.decode("latin-1")
    if "\x00" in text[:4096]:
        raise LogError("That is no text file.")
    lines = [line for line in text.splitlines() if line.strip()]
    if len(lines) < 3:
        raise LogError("The log has fewer than three lines.")
    if len(lines) > MOST_ROWS:
        raise LogError(f"The log has more than {MOST_ROWS:,} lines.")
    probe = lines[:200]
    counts = {mark: [line.count(mark) for line in probe] for mark in (";", "\t", ",", "|")}

    def agreement(mark: str) -> tuple[int, int]:
        usual = max(set(counts[mark]), key=counts[mark].count)
        return (counts[mark].count(usual) if usual else 0, usual)

    delimiter = max(counts, key=agreement)
    if agreement(delimiter)[1] == 0:
        raise LogError("No delimiter divides the lines of the log: comma, semicolon, tab or bar.")
    return list(csv.reader(io.StringIO("\n".join(lines)), delimiter=delimiter)), delimiter


def _header(rows: Sequence[Sequence[str]]) -> tuple[int, list[str]]:
    """The line that names the columns: the one before the first that looks as most lines do."""
    shapes = [tuple(map(_shape, row)) for row in rows[:400]]
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


def _time_columns(heads: Sequence[str], body: Sequence[Sequence[str]]) -> list[int]:
    """The column of the time, or those of date and time, the date first whichever is."""
    sample = body[len(body) // 2]
    named = [k for k, head in enumerate(heads) if any(word in head.lower() for word in _TIME_WORDS)]
    looks = [k for k, cell in enumerate(sample) if re.search(r"\d[:\-/.]\d{2}[:\-/.]\d", cell)]
    columns = [k for k in named if k in looks] or looks or named
    if not columns:
        raise LogError("No column of the log holds a time.")
    whole = [
        k
        for k in columns
        if k < len(sample) and re.search(r"\d{2}:\d{2}", sample[k]) and re.search(r"\d[\-/.]\d", sample[k])
    ]
    return whole[:1] or sorted(columns[:2], key=lambda k: k < len(sample) and ":" in sample[k])


def _times(body: Sequence[Sequence[str]], columns: Sequence[int]) -> tuple[Array, np.ndarray]:
    """Seconds since 1970 as if the clock were UTC, and which rows have a time; a zone is passed over."""
    if len(columns) == 1:
        column = columns[0]
        texts = [row[column].strip() if column < len(row) else "" for row in body]
    else:
        texts = [" ".join(row[k].strip() for k in columns if k < len(row)) for row in body]
    found = _iso(texts)
    if found is None:
        days_first = _days_first(texts)
        days: dict[str, float] = {}
        found = np.array([_time(text, days, days_first) for text in texts], dtype=float)
    good = np.isfinite(found)
    if good.any() and found[good].max() <= _DAY:  # a clock without a day: it begins anew after midnight
        found[good] += _DAY * np.cumsum(np.diff(found[good], prepend=found[good][0]) < -_DAY / 2)
    return found, good


def _iso(texts: Sequence[str]) -> Array | None:
    """All at once where every row has its time as 2026-11-26 10:15:00; else None."""
    if not all(map(_ISO.fullmatch, texts)):
        return None
    try:
        moments = np.array(texts, dtype="datetime64[ms]")
    except ValueError:
        return None
    found: Array = moments.astype("int64") / 1000.0
    return found


def _days_first(texts: Sequence[str]) -> bool:
    """Whether 3/4 is the third of April: where any first number is over 12, or dots divide."""
    for text in texts[:: max(1, len(texts) // 500)]:
        match = re.match(r"(\d{1,2})([/.\-])(\d{1,2})\2\d{4}", text)
        if match:
            if match[2] == "." or int(match[1]) > 12:
                return True
            if int(match[3]) > 12:
                return False
    return False


_CLOCK = re.compile(r"(\d{1,2}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?\s*([ap]m)?", re.IGNORECASE)


def _time(text: str, days: dict[str, float], days_first: bool) -> float:
    """One time [s]; nan where it cannot be read."""
    if (
        text[-3:-2] == ":" == text[-6:-5]
        and text[-8:-6].isdecimal()
        and text[-5:-3].isdecimal()
        and text[-2:].isdecimal()
    ):
        hour, minute, second = int(text[-8:-6]), int(text[-5:-3]), float(text[-2:])
        return _moment(text[:-8], hour, minute, second, days, days_first)
    if re.fullmatch(r"\d{9,10}(?:\.\d+)?|\d{12,13}", text):
        value = float(text)
        return value / 1000 if value > 1e11 else value
    clock = _CLOCK.search(text)
    if clock is None:
        plain = _number(text)  # seconds from the start
        return plain if plain is not None and 0 <= plain < 1e8 else float("nan")
    hour = int(clock[1]) % (12 if clock[4] else 100) + (12 if (clock[4] or "").lower() == "pm" else 0)
    minute, second = int(clock[2]), float((clock[3] or "0").replace(",", "."))
    return _moment(text[: clock.start()], hour, minute, second, days, days_first)


def _moment(
    day: str, hour: int, minute: int, second: float, days: dict[str, float], days_first: bool
) -> float:
    if hour > 23 or minute > 59 or second >= 61:
        return float("nan")
    if day not in days:
        days[day] = _day(day.strip(" T"), days_first)
    return days[day] + hour * 3600 + minute * 60 + second


def _day(text: str, days_first: bool) -> float:
    """The start of a day [s]; 0 where only the clock is given."""
    if not text:
        return 0.0
    parts = re.findall(r"\d+", text)
    if len(parts) < 3:
        return float("nan")
    a, b, c = (int(one) for one in parts[:3])
    year, month, day = (a, b, c) if len(parts[0]) == 4 else (c, b, a) if days_first else (c, a, b)
    try:
        moment = datetime(year + 2000 if year < 100 else year, month, day)
    except ValueError:
        return float("nan")
    return (moment - datetime(1970, 1, 1)).total_seconds()


def _numbers(body: Sequence[Sequence[str]], column: int, comma: bool) -> Array:
    """A column as numbers; nan where it holds none."""
    cells = [row[column] if column < len(row) else "" for row in body]
    for ready in (cells, [cell.replace(",", ".") for cell in cells] if comma else cells):
        try:
            plain: Array = np.array(ready, dtype=float)
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


def _what(head: str) -> tuple[ChannelKind, float]:
    """What a column is by its name, and the size that it is about [um]."""
    low = head.lower().replace("_", ".").replace(",", ".")
    pm = re.search(r"pm\s*\.?\s*(10|1|2\.?5|4)(?!\d)", low)
    if pm:
        return "mass", {"10": 10.0, "1": 1.0, "2.5": 2.5, "25": 2.5, "4": 4.0}[pm[1]]
    if any(word in low for word in _COUNT_WORDS):
        size = _SIZE.search(low)
        if size:
            return "count", float(size[1].replace(",", "."))
    return "other", 0.0
