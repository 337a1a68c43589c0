"""Upkeep: what is due by use, the bin, the journal, the cut list."""

from dataclasses import dataclass
from typing import Annotated, Literal

from msgspec import Meta

from purvel.shop.fields import Id, Length, Name, Size, Text
from purvel.shop.money import Day

DutyKind = Literal["filter", "bag", "screen", "belt", "blade", "hose", "oil", "other"]
Grain = Literal["along", "any"]
"""Whether a part's length runs along the grain of the sheet, or either way."""


@dataclass(frozen=True, slots=True, kw_only=True)
class DutyReading:
    """What was read on a day of what a duty goes by: a pressure, a flow, in whatever unit."""

    day: Day
    value: Annotated[float, Meta(ge=-1e9, le=1e9)]


@dataclass(frozen=True, slots=True, kw_only=True)
class Duty:
    """Something that is due by hours of use, by days, by what is read, or by whichever comes first; at which
    thing, and when it was done last (None: never, counted from the first day that the plan is used).

    `reads` says what is read (a pressure across a filter, the flow at a machine), `until` at which figure it
    is due (None: not by that); it counts from the readings since it was done last.
    """

    id: Id
    kind: DutyKind = "other"
    name: Name = ""
    thing: Id | None = None
    every_hours: Annotated[float, Meta(ge=0, le=100_000, description="[h], 0: not by use")] = 0.0
    every_days: Annotated[int, Meta(ge=0, le=10_000, description="[d], 0: not by the calendar")] = 0
    done_on: Day | None = None
    reads: Name = ""
    until: Annotated[float, Meta(ge=-1e9, le=1e9)] | None = None
    readings: Annotated[tuple[DutyReading, ...], Meta(max_length=500)] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Bin:
    """The drum, bag or bucket that waste falls into: volume [m3], empty mass [kg], and when it was
    emptied.
    """

    volume: Annotated[float, Meta(gt=0, le=10, description="[m3]")] = 0.2
    tare: Annotated[float, Meta(ge=0, le=500, description="[kg]")] = 8.0
    emptied_on: Day | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Entry:
    """A page of the journal: the day, what was done, why, at which thing, with which pictures."""

    id: Id
    day: Day
    text: Text = ""
    why: Text = ""
    thing: Id | None = None
    pictures: Annotated[tuple[Id, ...], Meta(max_length=12)] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class CutPart:
    """Parts of one size to be cut: from a sheet if `thickness` matches a sheet, else from a stick of
    its width.
    """

    id: Id
    name: Name = ""
    length: Size = 0.6
    width: Size = 0.3
    thickness: Annotated[float, Meta(gt=0, le=1, description="[m]")] = 0.018
    count: Annotated[int, Meta(ge=1, le=500)] = 1
    grain: Grain = "any"


@dataclass(frozen=True, slots=True, kw_only=True)
class CutStock:
    """Stock that is bought: a sheet, or a stick whose width is that of the parts; how many there are (None:
    as many as are needed).
    """

    id: Id
    name: Name = ""
    kind: Literal["sheet", "stick"] = "sheet"
    length: Size = 2.44
    width: Size = 1.22
    thickness: Annotated[float, Meta(gt=0, le=1, description="[m]")] = 0.018


@dataclass(frozen=True, slots=True, kw_only=True)
class CutList:
    """Parts, stock, the saw's kerf and what is trimmed off the edges of a sheet [m]."""

    parts: Annotated[tuple[CutPart, ...], Meta(max_length=200)] = ()
    stock: Annotated[tuple[CutStock, ...], Meta(max_length=40)] = ()
    kerf: Annotated[float, Meta(ge=0, le=0.02, description="[m]")] = 0.0032
    trim: Length = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Upkeep:
    """All of it. `density` is that of the wood that is mostly worked [kg/m3]."""

    duties: Annotated[tuple[Duty, ...], Meta(max_length=200)] = ()
    bin: Bin | None = None
    density: Annotated[float, Meta(ge=100, le=1500, description="[kg/m3]")] = 600.0
    journal: Annotated[tuple[Entry, ...], Meta(max_length=2000)] = ()
    cuts: CutList = CutList()
