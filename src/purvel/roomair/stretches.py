"""A session cut into stretches with constant conditions: what is worked, what runs, what stands open."""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from purvel.catalogue import DustSize
from purvel.libraries import Array, np
from purvel.roomair.dust import FINE
from purvel.roomair.zones import exchange
from purvel.shop import Air, Cleaner, WorkInterval
from purvel.shop.air import Passage, Person, Spell

Band = Literal["low", "central", "high"]
BANDS: tuple[Band, Band, Band] = ("low", "central", "high")

LONGEST_WATCH = 720.0  # min after the last cut for which the clearing of the air is followed
NEAR_EXCHANGE: dict[Band, float] = {"low": 30.0, "central": 8.0, "high": 6.0}
"""Air that the half sphere of 0.8 m about the tool exchanges with the room [m3/min]: half its surface of
4.0 m2 times 0.05 to 0.25 m/s (AIHA, Mathematical Models for Estimating Occupational Exposure; Keil). Its
own 1.07 m3 are changed in 8 s, so it follows the room at once.
"""


@dataclass(frozen=True, slots=True)
class Extraction:
    """The collector or vac that a piece of work blows into: which, its flow [m3/s], the efficiency of its
    filter by size [-], and whether it blows outdoors.
    """

    source: str
    flow: float
    efficiency: tuple[float, ...]
    outdoors: bool = False


@dataclass(frozen=True, slots=True)
class Stretch:
    """A part of the day with constant conditions: from and to [min], removal rate of each size [1/h], dust
    released for each band and size and brought in from outdoors by size [mg/h], outdoor air changes [1/h],
    and how much more is in the air at the tool than in the room, by band [mg/m3]. `exchanged` is what each
    two rooms exchange [m3/h], the shop first.
    """

    start: float
    end: float
    removal: tuple[float, ...]
    released: dict[Band, tuple[float, ...]]
    entering: tuple[float, ...]
    near: dict[Band, float]
    cleaner_on: bool
    air_changes: float
    intervals: tuple[str, ...]
    exchanged: tuple[tuple[float, ...], ...]


def worked(air: Air) -> list[WorkInterval]:
    """The work that begins within the session."""
    minutes = air.session.minutes
    return [one for one in air.session.work if one.start < minutes and one.minutes > 0]


def last_cut_of(air: Air) -> float:
    """The minute of the last cut within the session; 0 without work."""
    minutes = air.session.minutes
    return max((min(one.start + one.minutes, minutes) for one in worked(air)), default=0.0)


@dataclass(frozen=True)
class Plan:
    """What a session is made of: the shop's volume [m3], its air, the cleaners with their spells, sizes, what
    pieces of work blow into, whether something leads outdoors.
    """

    volume: float
    air: Air
    cleaners: list[tuple[Cleaner, list[Spell]]]
    sizes: tuple[DustSize, ...]
    extractions: Mapping[str, Extraction]
    leads_out: bool

    @property
    def volumes(self) -> list[float]:
        """Of all rooms [m3], the shop first."""
        return [self.volume, *(one.volume for one in self.air.rooms)]

    def removal_beyond(self) -> list[list[float]]:
        """What leaves each other room by size [1/h]: outdoor air, its cleaner, settling."""
        return [
            [one.changes + 3600.0 * one.cleaning / one.volume + size.settling for size in self.sizes]
            for one in self.air.rooms
        ]

    def at_start(self) -> Array:
        """Concentrations before the first minute (S, M, Z) [mg/m3]: no wood dust; what comes in from outdoors
        at its steady state in each room while all is shut, and in the shop what hangs there already.
        """
        air = self.air
        found = np.zeros((len(self.sizes), len(BANDS) + 1, len(self.volumes)))
        settling = np.array([size.settling for size in self.sizes])
        for z, changes in enumerate((air.ach_closed, *(one.changes for one in air.rooms))):
            cleaned = 3600.0 * air.rooms[z - 1].cleaning / air.rooms[z - 1].volume if z else 0.0
            rest, brought = changes + cleaned + settling, changes * air.penetration * self._outdoors
            found[:, -1, z] = np.divide(brought, rest, out=np.zeros(len(rest)), where=rest > 0)
        found[:, -1, 0] += self._by_size(air.at_start)
        return found

    @cached_property
    def _outdoors(self) -> Array:
        """What hangs outdoors by size [mg/m3]."""
        return self.air.outdoors * self._by_size(self.air.outdoor_sizes)

    def _by_size(self, given: tuple[float, ...]) -> Array:
        """What is given by size (S,); nothing of the sizes that it does not tell."""
        return np.array([*given, *(0.0 for _ in self.sizes)])[: len(self.sizes)]

    def brought(self, stretch: Stretch) -> Array:
        """What comes in from outdoors by size and room (S, Z) [mg/h]."""
        beyond = [one.changes * one.volume * self.air.penetration * self._outdoors for one in self.air.rooms]
        return np.column_stack([stretch.entering, *beyond])

    def _marks(self) -> list[float]:
        """When anything is switched [min], from the start to the end of what is watched."""
        air, session = self.air, self.air.session
        watched = max(session.minutes, last_cut_of(air) + LONGEST_WATCH)
        marks = {0.0, session.minutes, self.cleaner_off, last_cut_of(air), watched}
        for interval in worked(air):
            marks |= {interval.start, min(interval.start + interval.minutes, session.minutes)}
        part = (one for one in air.passages if one.open == "part")
        timed: tuple[Spell | Passage | Person, ...] = (*session.spells, *part, *air.people)
        for one in timed:
            marks |= {one.start, one.start + one.minutes}
        return sorted(mark for mark in marks if 0.0 <= mark <= watched)

    @cached_property
    def cleaner_off(self) -> float:
        """When cleaners without times of their own are switched off [min]."""
        session = self.air.session
        return last_cut_of(self.air) + session.run_on if session.cleaner_on and self.cleaners else 0.0

    def stretches(self) -> tuple[Stretch, ...]:
        """The parts of the day with constant conditions."""
        session, intervals, found = self.air.session, worked(self.air), []
        begins = np.array([one.start for one in intervals])
        ends = np.array([min(one.start + one.minutes, session.minutes) for one in intervals])
        for start, end in itertools.pairwise(self._marks()):
            if end - start >= 1e-9:
                middle = (start + end) / 2
                at = np.flatnonzero((begins <= middle) & (middle < ends))
                found.append(self._stretch(start, end, [intervals[k] for k in at]))
        return tuple(found)

    def _stretch(self, start: float, end: float, running: list[WorkInterval]) -> Stretch:
        air, sizes, middle = self.air, self.sizes, (start + end) / 2
        on = self._cleaning(middle)
        aired = any(one.thing is None and _runs(one, middle) for one in air.session.spells)
        is_open = (air.session.doors_open and middle < air.session.minutes) or aired
        changes = air.ach_open if is_open and self.leads_out else air.ach_closed
        drawing = _drawing(running, self.extractions)
        out = sum(3600.0 * one.flow for one in drawing if one.outdoors)
        entering = (changes * self.volume + out) * air.penetration * self._outdoors
        return Stretch(
            start,
            end,
            tuple(removal_rate(i, size, self.volume, changes, on, drawing) for i, size in enumerate(sizes)),
            {band: _thrown(running, band, self.extractions, sizes) for band in BANDS},
            tuple(entering),
            {
                band: max((_past_hood(one, band) for one in running), default=0.0) / NEAR_EXCHANGE[band]
                for band in BANDS
            },
            bool(on),
            changes,
            tuple(interval.id for interval in running),
            self._exchanged(middle),
        )

    def _cleaning(self, minute: float) -> list[tuple[Cleaner, float]]:
        """The cleaners that run in a minute, each with the share of its flow."""
        found = []
        for cleaner, spells in self.cleaners:
            speed = max((one.speed for one in spells if _runs(one, minute)), default=0.0)
            if not spells:
                speed = float(minute < self.cleaner_off)
            if speed > 0:
                found.append((cleaner, speed))
        return found

    def _exchanged(self, minute: float) -> tuple[tuple[float, ...], ...]:
        """What each two rooms exchange in a minute [m3/h] (Z, Z)."""
        at = {None: 0} | {one.id: z for z, one in enumerate(self.air.rooms, start=1)}
        found = [[0.0] * len(self.volumes) for _ in self.volumes]
        for one in self.air.passages:
            if one.open == "always" or (one.open == "part" and _runs(one, minute)):
                a, b = at[one.room], at[one.other]
                if a != b:
                    found[a][b] += 3600.0 * exchange(one)[1]
                    found[b][a] = found[a][b]
        return tuple(map(tuple, found))


def _runs(one: Spell | Passage, minute: float) -> bool:
    return one.start <= minute < one.start + one.minutes


def _thrown(
    running: Sequence[WorkInterval],
    band: Band,
    extractions: Mapping[str, Extraction],
    sizes: tuple[DustSize, ...],
) -> tuple[float, ...]:
    """Dust of each size that what runs throws into the room [mg/h]. Of PM2.5 that was measured the sizes have
    the shares that they have of what is thrown off, and of it the hoods take what they usually do.
    """
    fine = sum(size.share for size in sizes if size.high <= FINE)

    def thrown(one: WorkInterval, i: int) -> float:
        extraction = extractions.get(one.id)
        if one.fine is not None and sizes[i].high <= FINE:
            given_off = 60.0 * one.fine[BANDS.index(band)] / fine
            return _let_through(given_off, one.capture[1], extraction, i) * sizes[i].share
        emission, capture = _ends(band)
        given_off = 60.0 * one.emission[emission] * one.cutting
        return _let_through(given_off, one.capture[capture], extraction, i) * sizes[i].share

    return tuple(sum(thrown(one, i) for one in running) for i in range(len(sizes)))


def _drawing(running: Iterable[WorkInterval], extractions: Mapping[str, Extraction]) -> list[Extraction]:
    """The collectors that run, each once, at the most that it draws."""
    by_source: dict[str, Extraction] = {}
    for one in running:
        found = extractions.get(one.id)
        if found is not None and found.flow > by_source.get(found.source, Extraction("", 0.0, ())).flow:
            by_source[found.source] = found
    return list(by_source.values())


def removal_rate(
    index: int,
    size: DustSize,
    volume: float,
    air_changes: float,
    cleaners: Sequence[tuple[Cleaner, float]],
    drawing: Sequence[Extraction] = (),
) -> float:
    """lambda [1/h] of one size class: cleaners' (each at a share of its flow) and collectors' clean air per
    room volume, outdoor air changes, settling.

    lambda = 3600 (sum of Q at e m + sum of Q e) / V + n + beta, with flow Q [m3/s], efficiency e, mixing m,
    air changes n and settling beta [1/h]. Volume above 0.

    72 m3/h drawn outdoors from 60 m3 that change half their air in an hour, in the size that falls out most
    slowly (beta 0.22): 1.2 + 0.5 + 0.22:

    >>> from purvel.catalogue import dust_sizes
    >>> fan = Extraction("fan", 0.02, (0.0,), outdoors=True)
    >>> round(removal_rate(0, dust_sizes()[0], 60.0, 0.5, (), [fan]), 2)
    1.92
    """
    cleaned = sum(3600.0 * at * one.moves * one.efficiency[index] * one.mixing for one, at in cleaners)
    drawn = sum(3600.0 * one.flow * (1.0 if one.outdoors else one.efficiency[index]) for one in drawing)
    return (cleaned + drawn) / volume + air_changes + size.settling


def past_hoods(air: Air) -> dict[str, float]:
    """Inhalable dust that gets past the hoods at each thing over the session, by central emission and capture
    [mg].
    """
    lost: dict[str, float] = {}
    for interval in worked(air):
        minutes = min(interval.start + interval.minutes, air.session.minutes) - interval.start
        if interval.thing:
            amount = _past_hood(interval, "central") * minutes
            lost[interval.thing] = lost.get(interval.thing, 0.0) + amount
    return lost


def _ends(band: Band) -> tuple[int, int]:
    """Which of the emission and which of the capture make a band."""
    return {"low": (0, 2), "central": (1, 1), "high": (2, 0)}[band]


def _past_hood(interval: WorkInterval, band: Band) -> float:
    """Dust that gets past the hood, over the minutes of the work [mg/min]."""
    emission, capture = _ends(band)
    return interval.emission[emission] * interval.cutting * (1.0 - interval.capture[capture])


def _let_through(given_off: float, capture: float, extraction: Extraction | None, index: int) -> float:
    """Of dust of one size that is given off, what gets into the room: past the hood, and through the
    collector's filter where it blows into the room.
    """
    blown_back = 0.0
    if extraction is not None and not extraction.outdoors:
        blown_back = capture * (1.0 - extraction.efficiency[index])
    return given_off * (1.0 - capture + blown_back)
