"""The day: a working session simulated, with its peak, mean, what is breathed at the machine, and the time
until the air is clear again.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from purvel.catalogue import DustSize
from purvel.libraries import Array, np
from purvel.roomair.course import Course, RoomCourse, course_of, room_course
from purvel.roomair.mixing import respond_apart
from purvel.roomair.stretches import BANDS, Band, Extraction, Plan, Stretch, last_cut_of
from purvel.roomair.zones import respond_linked
from purvel.shop import Air, Cleaner

AFTER = 45.0  # min after the session that a chart shows [choice]
STEP = 10.0 / 3600.0  # h: how closely the curve is drawn; the solution itself is exact at every step


@dataclass(frozen=True, slots=True, eq=False)
class Day:
    """A simulated session. `times` [min]; `courses` by band; `clean_delivery` of the cleaners for 1 to 2.5 um
    [m3/s], whether they are on or not. `rooms` are the courses of every room by its id, the shop's under "".
    """

    volume: float
    sizes: tuple[DustSize, ...]
    session_minutes: float
    last_cut: float
    stretches: tuple[Stretch, ...]
    times: Array
    courses: dict[Band, Course]
    clean_delivery: float
    rooms: dict[str, dict[Band, RoomCourse]]

    @property
    def shown_until(self) -> float:
        """The last minute that a chart of it shows: some while after the session [min]."""
        return max(self.session_minutes, self.last_cut) + AFTER


def simulate(
    volume: float,
    air: Air,
    cleaners: Sequence[Cleaner],
    sizes: tuple[DustSize, ...],
    extractions: Mapping[str, Extraction] | None = None,
    *,
    leads_out: bool = True,
    things: Sequence[str] = (),
) -> Day:
    """The session of `air` in a room of `volume` [m3] with these cleaners, and the collectors that pieces of
    work (by id) blow into. `leads_out`: whether an opening that leads outdoors can stand open; `things` are
    the ids of the cleaners, by which spells tell them.

    V dC/dt = [(1 - capture) + capture (1 - eps_f)] G - (Q eps mixing + Q_f eps_f mixing + V ACH + V k) C for
    each size class, constant between switchings; f is the collector's own filter, and a collector that blows
    outdoors takes the room's air with it. G is the emission while it cuts times the share of the minutes that
    is really cutting. What comes in from outdoors is kept apart: it starts at its steady state in the shut
    room and is no wood dust. “low” pairs the low emission with the high capture and “high” the other way
    round.
    """
    timers = [[one for one in air.session.spells if one.thing == thing] for thing in things]
    timers += [[] for _ in range(len(cleaners) - len(timers))]
    plan = Plan(volume, air, list(zip(cleaners, timers)), sizes, extractions or {}, leads_out)
    stretches = plan.stretches()
    clock, every, dosed = _solved(stretches, plan)
    last_cut = last_cut_of(air)
    courses = {
        band: course_of(
            clock,
            every[:, i, :, 0],
            every[:, len(BANDS), :, 0],
            dosed[:, i, :, 0],
            _near_dose(stretches, band, clock, air.session.minutes),
            air,
            last_cut,
            sizes,
        )
        for i, band in enumerate(BANDS)
    }
    rooms = _rooms(clock, every, dosed, air, sizes)
    delivery = sum(one.moves * one.mixing * one.efficiency[1] for one in cleaners)
    return Day(volume, sizes, air.session.minutes, last_cut, stretches, clock, courses, delivery, rooms)


def _rooms(
    clock: Array, every: Array, dosed: Array, air: Air, sizes: tuple[DustSize, ...]
) -> dict[str, dict[Band, RoomCourse]]:
    """The courses of every room by its id, the shop's first."""
    last_cut = last_cut_of(air)
    return {
        room: {
            band: room_course(
                clock, every[:, i, :, z], every[:, -1, :, z], dosed[:, i, :, z], air, last_cut, sizes
            )
            for i, band in enumerate(BANDS)
        }
        for z, room in enumerate(("", *(one.id for one in air.rooms)))
    }


def _solved(stretches: Sequence[Stretch], plan: Plan) -> tuple[Array, Array, Array]:
    """Times (T,) [min], concentrations [mg/m3] and doses so far [mg h/m3] (T, M, S, Z): each size of each
    band, and last of what came from outdoors, in every room, all solved together.
    """
    now = plan.at_start()
    summed = np.zeros(now.shape)
    times, states, sums = [], [], []
    volumes = np.array(plan.volumes)
    for stretch in stretches:
        source = np.zeros(now.shape)
        source[: len(BANDS), :, 0] = [stretch.released[band] for band in BANDS]
        source[-1] = plan.brought(stretch)
        source /= volumes
        removal = np.column_stack([stretch.removal, *plan.removal_beyond()])
        lasts = (stretch.end - stretch.start) / 60.0
        if len(volumes) == 1:
            hours, there, dose = respond_apart(removal[:, 0], source[..., 0], now[..., 0], lasts, STEP)
            there, dose = there[..., None], dose[..., None]
        else:
            exchanged = np.array(stretch.exchanged)
            hours, there, dose = respond_linked(removal, exchanged, volumes, source, now, lasts, STEP)
        states.append(there)
        sums.append(summed + dose)
        now, summed = states[-1][-1], sums[-1][-1]
        times.append(stretch.start + hours * 60.0)
    return np.concatenate(times), np.concatenate(states), np.concatenate(sums)


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
