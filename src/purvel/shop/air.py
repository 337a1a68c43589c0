"""The air in the room: the cleaner's figures, the session that is to be simulated, the rooms beyond."""

from dataclasses import dataclass
from typing import Annotated, Literal

from msgspec import Meta

from purvel.shop.fields import Flow, Id, Minutes, Name, Share, Size

Days = Annotated[int, Meta(ge=0, le=7)]
Level = Annotated[float, Meta(ge=0, le=1000, description="[mg/m3]")]


@dataclass(frozen=True, slots=True, kw_only=True)
class FanBuild:
    """A cleaner built of so many fans and panels, by keys of the catalogue; `state` of the panels."""

    fan: Id = "box-fan"
    fans: Annotated[int, Meta(ge=1, le=40)] = 1
    panel: Id = "merv13"
    panels: Annotated[int, Meta(ge=1, le=40)] = 4
    state: Literal["new", "used", "loaded"] = "new"


@dataclass(frozen=True, slots=True, kw_only=True)
class Cleaner:
    """A room air cleaner: flow [m3/s] with a clean filter, single-pass efficiency for each of the four size
    classes, how well the room mixes, and the share of its flow that a loaded filter takes. With `by_place`
    how well it mixes follows from where it hangs; a `build` is what its flow is reckoned from.
    """

    flow: Flow
    efficiency: tuple[Share, Share, Share, Share]
    mixing: Share = 0.8
    loaded: Share = 0.0
    by_place: bool = False
    build: FanBuild | None = None

    @property
    def moves(self) -> float:
        """What it moves with its filter as it is [m3/s]."""
        return self.flow * (1.0 - self.loaded)


@dataclass(frozen=True, slots=True, kw_only=True)
class WorkInterval:
    """A stretch of the session with one operation: when it starts, how long it lasts and the share of that
    in which it really cuts, what it throws out and what is caught.

    Emission is inhalable dust thrown off while it cuts with nothing collected [mg/min] and capture the share
    of it that the hood takes; each low, central, high. `hood` says where the capture is from: “as drawn”
    takes that of the hood that the ducts of the plan make of the machine, a key is that hood of the
    catalogue, and empty leaves the figures of `capture` as they are. `wood` is a key of the catalogue's woods
    (empty: solid wood of any kind), `edge` how sharp the tool is; both change what is thrown off. With a
    `gate_set` the ducts pull as in that choice of gates, else as in the one that serves the machine best.
    `measured` says that the capture is the user's own measurement. `fine` is another: the PM2.5 that it gives
    off with nothing collected, all the while it is worked, as their monitor read it [mg/min], low, central,
    high; then that counts for the dust up to 2.5 um in place of `emission`.
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
    wood: Annotated[str, Meta(max_length=64)] = ""
    edge: Literal["not known", "sharp", "dull"] = "not known"
    measured: bool = False
    fine: (
        tuple[
            Annotated[float, Meta(ge=0, le=1e6)],
            Annotated[float, Meta(ge=0, le=1e6)],
            Annotated[float, Meta(ge=0, le=1e6)],
        ]
        | None
    ) = None
    gate_set: Id | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Spell:
    """A part of the session in which a cleaner (`thing`) runs at a share `speed` of its flow, or, where there
    is none, what leads outdoors stands open.
    """

    id: Id
    name: Name = ""
    thing: Id | None = None
    start: Minutes = 0.0
    minutes: Minutes = 30.0
    speed: Share = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Session:
    """A working session from minute 0 to `minutes`; cleaners run from its start (`cleaner_on`) until `run_on`
    minutes after the last cut, those with `spells` of their own in these alone.
    """

    minutes: Annotated[float, Meta(ge=1, le=1440, description="[min]")] = 240.0
    work: Annotated[tuple[WorkInterval, ...], Meta(max_length=200)] = ()
    cleaner_on: bool = True
    run_on: Minutes = 30.0
    doors_open: bool = False
    spells: Annotated[tuple[Spell, ...], Meta(max_length=100)] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class NextRoom:
    """A room beyond the shop's walls that shares its air: its volume, the outdoor air changes of its own, and
    the clean air of a cleaner there, that takes all sizes [m3/s].
    """

    id: Id
    name: Name = ""
    volume: Annotated[float, Meta(ge=0.1, le=100_000, description="[m3]")] = 50.0
    changes: Annotated[float, Meta(ge=0, le=200, description="[1/h]")] = 0.5
    cleaning: Flow = 0.0


PassageKind = Literal["door", "stair", "hatch", "given"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Passage:
    """What air goes through between a room (`room`) and the shop, or another room (`other`): a door or an
    open stair, upright; a hatch, lying, with the shop or `other` below it; or an exchange that is given
    [m3/s each way]. `warmer` is by how much one of the two is warmer, of a hatch what is below it.

    `opening` is the shop's door that it is; then its size is that one's. It stands open always, never, or for
    a part of the session.
    """

    id: Id
    name: Name = ""
    room: Id
    other: Id | None = None
    kind: PassageKind = "door"
    opening: Id | None = None
    width: Size = 0.8
    height: Size = 2.0
    warmer: Annotated[float, Meta(ge=-40, le=40, description="[K]")] = 1.0
    exchange: Flow = 0.05
    open: Literal["always", "part", "never"] = "always"
    start: Minutes = 0.0
    minutes: Minutes = 30.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Person:
    """Somebody who breathes the air of a room, of the shop where that is none, for a part of the day; who
    works at the tools is always reckoned.
    """

    id: Id
    name: Name = ""
    room: Id | None = None
    start: Minutes = 0.0
    minutes: Minutes = 60.0


@dataclass(frozen=True, slots=True, kw_only=True)
class LogStretch:
    """A marked stretch of a monitor's log, in seconds from its first reading: what it shows, and what the
    comparison of two must know: how the cleaner ran, whether a door stood open, what was worked, where the
    monitor stood. “zero” is the monitor in a closed box or bag of clean air, “source” a source of dust held
    before it: they test the monitor.
    """

    id: Id
    log: Id
    name: Name = ""
    shows: Literal["background", "work", "decay", "zero", "source"] = "work"
    start: Annotated[float, Meta(ge=0, le=1e8, description="[s]")] = 0.0
    end: Annotated[float, Meta(ge=0, le=1e8, description="[s]")] = 600.0
    cleaner: Literal["not noted", "off", "low", "high"] = "not noted"
    door: Literal["not noted", "shut", "open"] = "not noted"
    hood: Literal["not noted", "none", "on"] = "not noted"
    wood: Name = ""
    work: Name = ""
    place: Name = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class LogEvent:
    """Something that was noted while a monitor ran, in seconds from its first reading."""

    id: Id
    log: Id
    at: Annotated[float, Meta(ge=0, le=1e8, description="[s]")] = 0.0
    name: Name = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class LogUnit:
    """The unit of a column of a log whose name does not tell it."""

    log: Id
    column: Name
    unit: Name


@dataclass(frozen=True, slots=True, kw_only=True)
class Wearer:
    """Who works, for what can be worn: a beard under the seal, glasses, whether a mask was fit-tested, what
    is worn on the face (a key of the catalogue, empty: nothing), and the rating of the hearing protection
    [dB, NRR; 0: none].
    """

    beard: bool = False
    glasses: bool = False
    fit_tested: bool = False
    respirator: Annotated[str, Meta(max_length=64)] = ""
    hearing: Annotated[float, Meta(ge=0, le=40, description="[dB]")] = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Air:
    """How the room breathes and what it is held against.

    `ach_closed` and `ach_open` are outdoor air changes per hour, guesses but for those that were
    `ach_measured`; `channel` is the column of the logs that is looked at, where they have it; `outdoors` is
    the background [mg/m3] that comes in with them, before `penetration`. `clean_level` is the concentration
    of inhalable dust at which the room is called clear again, `clean_fine` that of PM2.5 (15 ug/m3 is WHO's
    24 h guideline, 2021). `outdoor_sizes` are the shares of `outdoors` by size class (half under 1 um,
    half to 2.5 um: trade practice, low confidence); `at_start` is what
    hangs in the shop before the session begins, by size class [mg/m3]. `other` is a second day, held against
    the session; `days` are how many of the one and of the other there are in a week.
    """

    session: Session = Session()
    other: Session | None = None
    days: tuple[Days, Days] = (2, 0)
    ach_closed: Annotated[float, Meta(ge=0, le=200, description="[1/h]")] = 0.5
    ach_open: Annotated[float, Meta(ge=0, le=200, description="[1/h]")] = 8.0
    outdoors: Annotated[float, Meta(ge=0, le=100, description="[mg/m3]")] = 0.0
    penetration: Share = 0.8
    limit: Literal["acgih-2024", "eu-2023", "uk-hardwood-2020", "uk-softwood-2020"] = "acgih-2024"
    clean_level: Annotated[float, Meta(gt=0, le=100, description="[mg/m3]")] = 0.1
    clean_fine: Annotated[float, Meta(gt=0, le=100, description="[mg/m3]")] = 0.015
    wearer: Wearer = Wearer()
    ach_measured: Literal["none", "closed", "open", "both"] = "none"
    channel: Name = ""
    outdoor_sizes: tuple[Share, Share, Share, Share] = (0.5, 0.5, 0.0, 0.0)
    at_start: tuple[Level, Level, Level, Level] = (0.0, 0.0, 0.0, 0.0)
    rooms: Annotated[tuple[NextRoom, ...], Meta(max_length=12)] = ()
    passages: Annotated[tuple[Passage, ...], Meta(max_length=40)] = ()
    people: Annotated[tuple[Person, ...], Meta(max_length=20)] = ()
    stretches: Annotated[tuple[LogStretch, ...], Meta(max_length=200)] = ()
    events: Annotated[tuple[LogEvent, ...], Meta(max_length=500)] = ()
    log_units: Annotated[tuple[LogUnit, ...], Meta(max_length=200)] = ()
