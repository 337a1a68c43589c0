"""The day: a working session simulated, with its peak, mean, what is breathed at the machine, and the time
until the air is clear again.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from purvel.catalogue import DustSize
from purvel.libraries import Array, np
from purvel.roomair.course import Course, course_of
from purvel.roomair.mixing import respond_apart
from purvel.shop import Air, Cleaner, WorkInterval

Band = Literal["low", "central", "high"]
BANDS: tuple[Band, Band, Band] = ("low", "central", "high")

STEP = 10.0 / 3600.0  # h: how closely the curve is drawn; the solution itself is exact at every step
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
    and how much more is in the air at the tool than in the room, by band [mg/m3].
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


@dataclass(frozen=True, slots=True, eq=False)
class Day:
    """A simulated session. `times` [min]; `courses` by band; `clean_delivery` of the cleaners for 1 to 2.5 um
    [m3/s], whether they are on or not.
    """

    volume: float
    sizes: tuple[DustSize, ...]
    session_minutes: float
    last_cut: float
    stretches: tuple[Stretch, ...]
    times: Array
    courses: dict[Band, Course]
    clean_delivery: float


def simulate(
    volume: float,
    air: Air,
    cleaners: Sequence[Cleaner],
    sizes: tuple[DustSize, ...],
    extractions: Mapping[str, Extraction] | None = None,
    *,
    leads_out: bool = True,
) -> Day:
    """The session of `air` in a room of `volume` [m3] with these cleaners, and the collectors that pieces of
    work (by id) blow into. `leads_out`: whether an opening that leads outdoors can stand open.

    V dC/dt = [(1 - capture) + capture (1 - eps_f)] G - (Q eps mixing + Q_f eps_f mixing + V ACH + V k) C for
    each size class, constant between switchings; f is the collector's own filter, and a collector that blows
    outdoors takes the room's air with it. G is the emission while it cuts times the share of the minutes that
    is really cutting. What comes in from outdoors is kept apart: it starts at its steady state in the shut
    room and is no wood dust. “low” pairs the low emission with the high capture and “high” the other way
    round.
    """
    stretches = _stretches(volume, air, cleaners, sizes, extractions or {}, leads_out=leads_out)
    count, wood = len(sizes), len(BANDS) * len(sizes)
    clock, every, dosed = _solved(stretches, volume, _background(air, sizes))
    last_cut = last_cut_of(air)
    courses = {
        band: course_of(
            clock,
            every[:, i * count : (i + 1) * count],
            every[:, wood:],
            dosed[:, i * count : (i + 1) * count],
            _near_dose(stretches, band, clock, air.session.minutes),
            air,
            last_cut,
            sizes,
        )
        for i, band in enumerate(BANDS)
    }
    delivery = sum(one.flow * one.mixing * one.efficiency[1] for one in cleaners)
    return Day(volume, sizes, air.session.minutes, last_cut, stretches, clock, courses, delivery)


def _background(air: Air, sizes: tuple[DustSize, ...]) -> Array:
    """What comes in from outdoors at its steady state in the shut room, by size [mg/m3]."""
    rest = air.ach_closed + np.array([size.settling for size in sizes])
    brought = air.ach_closed * air.penetration * air.outdoors * _outdoor_shares(len(sizes))
    return np.asarray(np.divide(brought, rest, out=np.zeros(len(sizes)), where=rest > 0))


def _solved(stretches: Sequence[Stretch], volume: float, background: Array) -> tuple[Array, Array, Array]:
    """Times (T,) [min], concentrations [mg/m3] and doses so far [mg h/m3] (T, zones): each size of each band
    is a zone of its own, and so is every size from outdoors, all solved together.
    """
    now = np.concatenate([np.zeros((len(BANDS), len(background))), background[None]])
    summed = np.zeros(now.shape)
    times, states, sums = [], [], []
    for stretch in stretches:
        source = np.array([*(stretch.released[band] for band in BANDS), stretch.entering]) / volume
        lasts = (stretch.end - stretch.start) / 60.0
        hours, there, dose = respond_apart(np.array(stretch.removal), source, now, lasts, STEP)
        states.append(there)
        sums.append(summed + dose)
        now, summed = states[-1][-1], sums[-1][-1]
        times.append(stretch.start + hours * 60.0)
    every, dosed = (np.concatenate(parts).reshape(-1, now.size) for parts in (states, sums))
    return np.concatenate(times), every, dosed


def worked(air: Air) -> list[WorkInterval]:
    """The work that begins within the session."""
    minutes = air.session.minutes
    return [one for one in air.session.work if one.start < minutes and one.minutes > 0]


def last_cut_of(air: Air) -> float:
    """The minute of the last cut within the session; 0 without work."""
    minutes = air.session.minutes
    return max((min(one.start + one.minutes, minutes) for one in worked(air)), default=0.0)


def _stretches(
    volume: float,
    air: Air,
    cleaners: Sequence[Cleaner],
    sizes: tuple[DustSize, ...],
    extractions: Mapping[str, Extraction],
    *,
    leads_out: bool,
) -> tuple[Stretch, ...]:
    session, intervals, last_cut = air.session, worked(air), last_cut_of(air)
    cleaner_off = last_cut + session.run_on if session.cleaner_on and cleaners else 0.0
    watched = max(session.minutes, last_cut + LONGEST_WATCH)
    marks = {0.0, session.minutes, cleaner_off, last_cut, watched}
    for interval in intervals:
        marks |= {interval.start, min(interval.start + interval.minutes, session.minutes)}
    ordered = sorted(mark for mark in marks if 0.0 <= mark <= watched)
    begins = np.array([one.start for one in intervals])
    ends = np.array([min(one.start + one.minutes, session.minutes) for one in intervals])
    found = []
    for start, end in itertools.pairwise(ordered):
        if end - start < 1e-9:
            continue
        middle = (start + end) / 2
        on = middle < cleaner_off
        is_open = session.doors_open and leads_out and middle < session.minutes
        changes = air.ach_open if is_open else air.ach_closed
        running = [intervals[k] for k in np.flatnonzero((begins <= middle) & (middle < ends))]
        drawing = _drawing(running, extractions)
        out = sum(3600.0 * one.flow for one in drawing if one.outdoors)
        removal = tuple(
            removal_rate(i, size, volume, changes, cleaners if on else (), drawing)
            for i, size in enumerate(sizes)
        )
        released = {band: _thrown(running, band, extractions, sizes) for band in BANDS}
        entering = (changes * volume + out) * air.penetration * air.outdoors * _outdoor_shares(len(sizes))
        near = {
            band: max((_past_hood(one, band) for one in running), default=0.0) / NEAR_EXCHANGE[band]
            for band in BANDS
        }
        names = tuple(interval.id for interval in running)
        found.append(Stretch(start, end, removal, released, tuple(entering), near, on, changes, names))
    return tuple(found)


def _thrown(
    running: Sequence[WorkInterval],
    band: Band,
    extractions: Mapping[str, Extraction],
    sizes: tuple[DustSize, ...],
) -> tuple[float, ...]:
    """Dust of each size that what runs throws into the room [mg/h]."""
    return tuple(
        sum(_released(one, band, extractions.get(one.id), i) for one in running) * size.share
        for i, size in enumerate(sizes)
    )


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
    cleaners: Sequence[Cleaner],
    drawing: Sequence[Extraction] = (),
) -> float:
    """lambda [1/h] of one size class: cleaners' and collectors' clean air per room volume, outdoor air
    changes, settling.
    """
    cleaned = sum(3600.0 * one.flow * one.efficiency[index] * one.mixing for one in cleaners)
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


def _released(interval: WorkInterval, band: Band, extraction: Extraction | None, index: int) -> float:
    """Dust of one size that gets into the room, were it all of that size [mg/h]: past the hood, and through
    the collector's filter where it blows into the room.
    """
    emission, capture = _ends(band)
    thrown = 60.0 * interval.emission[emission] * interval.cutting
    back = 0.0
    if extraction is not None and not extraction.outdoors:
        back = thrown * interval.capture[capture] * (1.0 - extraction.efficiency[index])
    return 60.0 * _past_hood(interval, band) + back


def _outdoor_shares(count: int) -> Array:
    """Outdoor particles are fine: half of their mass is taken as under 1 um, half as 1 to 2.5 um [trade
    practice, low confidence].
    """
    return np.array([0.5 if index < 2 else 0.0 for index in range(count)])


def _near_dose(stretches: Sequence[Stretch], band: Band, clock: Array, until: float) -> tuple[Array, float]:
    """What is in the air at the tool more than in the room [mg/m3] at each time, and its dose over the
    session [mg h/m3].
    """
    more = np.zeros(len(clock))
    dose = 0.0
    first = np.searchsorted(clock, [one.start - 1e-9 for one in stretches])
    last = np.searchsorted(clock, [one.end + 1e-9 for one in stretches], side="right")
    for one, begin, end in zip(stretches, first, last):
        np.maximum(more[begin:end], one.near[band], out=more[begin:end])
        dose += one.near[band] * max(0.0, min(one.end, until) - one.start) / 60.0
    return more, dose
