"""The day: a working session simulated, with its peak, mean, share of a limit and the time until the air is
clear again.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from purvel.catalogue import DustSize
from purvel.libraries import Array, np
from purvel.roomair.dust import inhalable, respirable
from purvel.roomair.mixing import respond
from purvel.shop import Air, Cleaner, WorkInterval

Band = Literal["low", "central", "high"]
BANDS: tuple[Band, Band, Band] = ("low", "central", "high")

STEP = 10.0 / 3600.0  # h: how closely the curve is drawn; the solution itself is exact at every step
LONGEST_WATCH = 720.0  # min after the last cut for which the clearing of the air is followed
SHIFT = 480.0  # min: limits are 8 h averages


@dataclass(frozen=True, slots=True)
class Stretch:
    """A part of the day with constant conditions: from and to [min], removal rate of each size [1/h], dust
    released and brought in from outdoors [mg/h] for each band and size, outdoor air changes [1/h].
    """

    start: float
    end: float
    removal: tuple[float, ...]
    released: dict[Band, tuple[float, ...]]
    cleaner_on: bool
    air_changes: float
    intervals: tuple[str, ...]


@dataclass(frozen=True, slots=True, eq=False)
class Course:
    """What one band of assumptions leads to, inhalable dust [mg/m3]: over time by size, peak, mean over the
    session, 8 h average, time to clear [min].

    `respirable_average` is the 8 h average of the respirable part. `clear_after` is None where the air is not
    clear within twelve hours.
    """

    by_size: Array
    total: Array
    peak: float
    peak_at: float
    mean: float
    average_8h: float
    respirable_average_8h: float
    clear_after: float | None


@dataclass(frozen=True, slots=True, eq=False)
class Day:
    """A simulated session. `times` [min]; `courses` by band."""

    volume: float
    sizes: tuple[DustSize, ...]
    session_minutes: float
    last_cut: float
    stretches: tuple[Stretch, ...]
    times: Array
    courses: dict[Band, Course]
    clean_delivery: float


def simulate(volume: float, air: Air, cleaners: Sequence[Cleaner], sizes: tuple[DustSize, ...]) -> Day:
    """The session of `air` in a room of `volume` [m3] with these cleaners.

    V dC/dt = (1 - capture) G - (Q eps mixing + V ACH + V k) C + V ACH P C_out for each size class, constant
    between switchings. “low” pairs the low emission with the high capture and “high” the other way round.
    Dust that the collector's filter lets through is not counted.
    """
    stretches = _stretches(volume, air, cleaners, sizes)
    last_cut = max(
        (min(interval.start + interval.minutes, air.session.minutes) for interval in air.session.work),
        default=0.0,
    )
    times: list[Array] = []
    states: list[Array] = []
    sums: list[Array] = []
    # every size of every band is a zone of its own, all solved together
    now = summed = np.zeros(len(BANDS) * len(sizes))
    for stretch in stretches:
        released = np.concatenate([stretch.released[band] for band in BANDS])
        lost = -np.diag(np.tile(stretch.removal, len(BANDS)))
        hours, there, dose = respond(lost, released / volume, now, (stretch.end - stretch.start) / 60.0, STEP)
        states.append(there)
        sums.append(summed + dose)
        now, summed = states[-1][-1], sums[-1][-1]
        times.append(stretch.start + hours * 60.0)
    clock = np.concatenate(times)
    by_band = [np.concatenate(parts).reshape(len(clock), len(BANDS), len(sizes)) for parts in (states, sums)]
    courses = {
        band: _course(clock, by_band[0][:, i], by_band[1][:, i], air, last_cut, sizes)
        for i, band in enumerate(BANDS)
    }
    delivery = sum(one.flow * one.mixing * one.efficiency[2] for one in cleaners)
    return Day(volume, sizes, air.session.minutes, last_cut, stretches, clock, courses, delivery)


def _stretches(
    volume: float, air: Air, cleaners: Sequence[Cleaner], sizes: tuple[DustSize, ...]
) -> tuple[Stretch, ...]:
    session = air.session
    intervals = [
        interval for interval in session.work if interval.start < session.minutes and interval.minutes > 0
    ]
    last_cut = max(
        (min(interval.start + interval.minutes, session.minutes) for interval in intervals), default=0.0
    )
    cleaner_off = last_cut + session.run_on if session.cleaner_on and cleaners else 0.0
    watched = max(session.minutes, last_cut + LONGEST_WATCH)
    marks = {0.0, session.minutes, cleaner_off, last_cut, watched}
    for interval in intervals:
        marks |= {interval.start, min(interval.start + interval.minutes, session.minutes)}
    ordered = sorted(mark for mark in marks if 0.0 <= mark <= watched)
    found = []
    for start, end in itertools.pairwise(ordered):
        if end - start < 1e-9:
            continue
        middle = (start + end) / 2
        on = middle < cleaner_off
        changes = air.ach_open if session.doors_open and middle < session.minutes else air.ach_closed
        removal = tuple(
            removal_rate(i, size, volume, changes, cleaners if on else ()) for i, size in enumerate(sizes)
        )
        running = [
            interval
            for interval in intervals
            if interval.start <= middle < min(interval.start + interval.minutes, session.minutes)
        ]
        entering = changes * air.penetration * air.outdoors * volume
        released = {
            band: tuple(
                _released(running, band, size.share) + entering * _outdoor_share(i)
                for i, size in enumerate(sizes)
            )
            for band in BANDS
        }
        found.append(
            Stretch(start, end, removal, released, on, changes, tuple(interval.id for interval in running))
        )
    return tuple(found)


def removal_rate(
    index: int, size: DustSize, volume: float, air_changes: float, cleaners: Sequence[Cleaner]
) -> float:
    """lambda [1/h] of one size class: cleaners' clean air per room volume, outdoor air changes, settling."""
    cleaned = sum(3600.0 * one.flow * one.efficiency[index] * one.mixing for one in cleaners)
    return cleaned / volume + air_changes + size.settling


def past_hoods(air: Air) -> dict[str, float]:
    """Inhalable dust that gets past the hoods at each thing over the session, by central emission and capture
    [mg].
    """
    lost: dict[str, float] = {}
    for interval in air.session.work:
        minutes = min(interval.start + interval.minutes, air.session.minutes) - interval.start
        if interval.thing and minutes > 0:
            lost[interval.thing] = (
                lost.get(interval.thing, 0.0) + interval.emission[1] * (1.0 - interval.capture[1]) * minutes
            )
    return lost


def _released(running: Sequence[WorkInterval], band: Band, share: float) -> float:
    """Dust that gets past the hoods [mg/h]."""
    emission, capture = {"low": (0, 2), "central": (1, 1), "high": (2, 0)}[band]
    return sum(
        60.0 * interval.emission[emission] * (1.0 - interval.capture[capture]) * share for interval in running
    )


def _outdoor_share(index: int) -> float:
    """Outdoor particles are fine: half of their mass is taken as under 1 um, half as 1 to 2.5 um [trade
    practice, low confidence].
    """
    return 0.5 if index < 2 else 0.0


def _course(
    clock: Array, by_size: Array, sums: Array, air: Air, last_cut: float, sizes: tuple[DustSize, ...]
) -> Course:
    total = by_size.sum(axis=1)
    in_session = clock <= air.session.minutes + 1e-9
    peak = int(np.argmax(total[in_session]))
    at_end = int(np.flatnonzero(in_session)[-1])
    dose = sums[at_end]  # mg h/m3 over the session
    fine = sum(d * respirable(size.diameter) / inhalable(size.diameter) for d, size in zip(dose, sizes))
    return Course(
        by_size=by_size,
        total=total,
        peak=float(total[peak]),
        peak_at=float(clock[peak]),
        mean=float(dose.sum() / (air.session.minutes / 60.0)),
        average_8h=float(dose.sum() / (SHIFT / 60.0)),
        respirable_average_8h=float(fine / (SHIFT / 60.0)),
        clear_after=_clear_after(clock, total, last_cut, air.clean_level),
    )


def _clear_after(clock: Array, total: Array, last_cut: float, level: float) -> float | None:
    """Minutes from the last cut until the total stays under the level, by interpolation of its logarithm
    between the steps.
    """
    above = np.flatnonzero((total > level) & (clock >= last_cut - 1e-9))
    if not len(above):
        return 0.0
    last = int(above[-1])
    if last + 1 >= len(clock):
        return None
    t0, t1 = clock[last], clock[last + 1]
    if t1 <= t0 or total[last + 1] <= 0:
        return float(t1 - last_cut)
    share = np.log(total[last] / level) / np.log(total[last] / total[last + 1])
    return float(t0 + share * (t1 - t0) - last_cut)
