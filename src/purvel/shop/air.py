"""The air in the room: the cleaner's figures and the session that is to be simulated."""

from dataclasses import dataclass
from typing import Annotated, Literal

from msgspec import Meta

from purvel.shop.fields import Flow, Id, Minutes, Name, Share


@dataclass(frozen=True, slots=True, kw_only=True)
class Cleaner:
    """A room air cleaner: flow [m3/s], single-pass efficiency for each of the four size classes, and how well
    the room mixes.
    """

    flow: Flow
    efficiency: tuple[Share, Share, Share, Share]
    mixing: Share = 0.8


@dataclass(frozen=True, slots=True, kw_only=True)
class WorkInterval:
    """A stretch of the session with one operation: when it starts, how long it lasts and the share of that
    in which it really cuts, what it throws out and what is caught.

    Emission is inhalable dust thrown off while it cuts with nothing collected [mg/min] and capture the share
    of it that the hood takes; each low, central, high. `hood` says where the capture is from: “as drawn”
    takes that of the hood that the ducts of the plan make of the machine, a key is that hood of the
    catalogue, and empty leaves the figures of `capture` as they are.
    """

    id: Id
    name: Name = ""
    operation: Id = "table-saw"
    thing: Id | None = None
    start: Minutes = 0.0
    minutes: Minutes = 10.0
    emission: tuple[
        Annotated[float, Meta(ge=0, le=1e6)],
        Annotated[float, Meta(ge=0, le=1e6)],
        Annotated[float, Meta(ge=0, le=1e6)],
    ] = (34.0, 170.0, 850.0)
    capture: tuple[Share, Share, Share] = (0.0, 0.0, 0.0)
    cutting: Share = 1.0
    hood: Annotated[str, Meta(max_length=64)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Session:
    """A working session from minute 0 to `minutes`; the cleaner runs from `cleaner_on` and `run_on` minutes
    after the last cut.
    """

    minutes: Annotated[float, Meta(ge=1, le=1440, description="[min]")] = 240.0
    work: Annotated[tuple[WorkInterval, ...], Meta(max_length=200)] = ()
    cleaner_on: bool = True
    run_on: Minutes = 30.0
    doors_open: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class LogStretch:
    """A marked stretch of a monitor's log, in seconds from its first reading: what it shows, and what the
    comparison of two must know: how the cleaner ran, whether a door stood open, what was worked.
    """

    id: Id
    log: Id
    name: Name = ""
    shows: Literal["background", "work", "decay"] = "work"
    start: Annotated[float, Meta(ge=0, le=1e8, description="[s]")] = 0.0
    end: Annotated[float, Meta(ge=0, le=1e8, description="[s]")] = 600.0
    cleaner: Literal["not noted", "off", "low", "high"] = "not noted"
    door: Literal["not noted", "shut", "open"] = "not noted"
    hood: Literal["not noted", "none", "on"] = "not noted"
    wood: Name = ""
    work: Name = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Air:
    """How the room breathes and what it is held against.

    `ach_closed` and `ach_open` are outdoor air changes per hour, guesses but for those that were
    `ach_measured`; `channel` is the column of the logs that is looked at, where they have it; `outdoors` is
    the background [mg/m3] that comes in with them, before `penetration`. `clean_level` is the concentration
    of inhalable dust at which the room is called clear again, `clean_fine` that of PM2.5 (15 ug/m3 is WHO's
    24 h guideline, 2021).
    """

    session: Session = Session()
    ach_closed: Annotated[float, Meta(ge=0, le=200, description="[1/h]")] = 0.5
    ach_open: Annotated[float, Meta(ge=0, le=200, description="[1/h]")] = 8.0
    outdoors: Annotated[float, Meta(ge=0, le=100, description="[mg/m3]")] = 0.0
    penetration: Share = 0.8
    limit: Literal["acgih-2024", "eu-2023", "uk-hardwood-2020", "uk-softwood-2020"] = "acgih-2024"
    clean_level: Annotated[float, Meta(gt=0, le=100, description="[mg/m3]")] = 0.1
    clean_fine: Annotated[float, Meta(gt=0, le=100, description="[mg/m3]")] = 0.015
    ach_measured: Literal["none", "closed", "open", "both"] = "none"
    channel: Name = ""
    stretches: Annotated[tuple[LogStretch, ...], Meta(max_length=200)] = ()
