"""The day: a working session simulated, with its peak, mean, what is breathed at the machine, and the time
until the air is clear again.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import NamedTuple

from purvel.catalogue import DustSize
from purvel.libraries import Array, np
from purvel.roomair.course import Course, RoomCourse, course_of, room_course
from purvel.roomair.dust import FINE
from purvel.roomair.mixing import even, respond
from purvel.roomair.stretches import BANDS, Band, Extraction, Plan, Stretch, last_cut_of
from purvel.shop import Air, Cleaner

AFTER = 45.0  # min after the session that a chart shows [choice]
STEP = 10.0 / 3600.0  # h: how closely the curve is drawn; the solution itself is exact at every step


@dataclass(frozen=True, slots=True, eq=False)
class Day:
    """A simulated session. `times` [min], and the `marks` among them at which anything is switched, from the
    start; `courses` by band; `clean_delivery` of the cleaners for 1 to 2.5 um [m3/s], whether they are on or
    not. `rooms` are the courses of every room by its id, the shop's under "".
    """

    volume: float
    sizes: tuple[DustSize, ...]
    session_minutes: float
    last_cut: float
    stretches: tuple[Stretch, ...]
    times: Array
    marks: Array
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
    cleaners: Mapping[str, Cleaner],
    sizes: tuple[DustSize, ...],
    extractions: Mapping[str, Extraction] | None = None,
    *,
    leads_out: bool = True,
) -> Day:
    """The session of `air` in a room of `volume` [m3] with these cleaners, by the id of the thing by which
    spells tell them, and the collectors that pieces of work (by id) blow into. `leads_out`: whether an
    opening that leads outdoors can stand open.

    V dC/dt = [(1 - capture) + capture (1 - eps_f)] G - (Q eps mixing + Q_f eps_f mixing + V ACH + V k) C for
    each size class, constant between switchings; f is the collector's own filter, and a collector that blows
    outdoors takes the room's air with it. G is the emission while it cuts times the share of the minutes that
    is really cutting. What comes in from outdoors is kept apart: it starts at its steady state in the shut
    room and is no wood dust. “low” pairs the low emission with the high capture and “high” the other way
    round.
    """
    timed = [
        (cleaner, [one for one in air.session.spells if one.thing == thing])
        for thing, cleaner in cleaners.items()
    ]
    plan = Plan(volume, air, timed, sizes, extractions or {}, leads_out)
    stretches = plan.stretches()
    solved = _solved(stretches, plan)
    rooms = _rooms(solved, plan)
    delivery = sum(one.moves * one.mixing * one.efficiency[1] for one in cleaners.values())
    return Day(
        volume=volume,
        sizes=sizes,
        session_minutes=air.session.minutes,
        last_cut=last_cut_of(air),
        stretches=stretches,
        times=solved.clock,
        marks=solved.marks,
        courses=_courses(solved, rooms[""], stretches, plan),
        clean_delivery=delivery,
        rooms=rooms,
    )


class _Solved(NamedTuple):
    """Times (T,) [min], concentrations (S, M, Z, T) [mg/m3]; the marks at which anything is switched (K,)
    [min], doses up to each (K, S, M, Z) and over the session (S, M, Z) [mg h/m3]: each size of each band, and
    last of what came from outdoors, in every room.
    """

    clock: Array
    every: Array
    marks: Array
    dosed: Array
    over_session: Array


def _rooms(solved: _Solved, plan: Plan) -> dict[str, dict[Band, RoomCourse]]:
    """The courses of every room by its id, the shop's first."""
    every, over = solved.every, solved.over_session
    is_fine = np.array([size.high <= FINE for size in plan.sizes])
    counted = np.array([np.ones(len(is_fine)), is_fine]) @ every.reshape(len(is_fine), -1)
    dust, fine = counted.reshape(2, *every.shape[1:])
    fine_dose = over[is_fine].sum(axis=0)
    last_cut = last_cut_of(plan.air)
    return {
        room: {
            band: room_course(
                solved.clock,
                dust[i, z] + dust[-1, z],
                fine[i, z] + fine[-1, z],
                solved.dosed[:, :, i, z],
                float(over[:, i, z].sum()),
                float(fine_dose[i, z] + fine_dose[-1, z]),
                plan.air,
                last_cut,
            )
            for i, band in enumerate(BANDS)
        }
        for z, room in enumerate(("", *(one.id for one in plan.air.rooms)))
    }


def _courses(
    solved: _Solved, shop: dict[Band, RoomCourse], stretches: Sequence[Stretch], plan: Plan
) -> dict[Band, Course]:
    """The courses of the shop, with who works in it."""
    minutes = plan.air.session.minutes
    return {
        band: course_of(
            shop[band],
            solved.clock,
            (solved.every[:, i, 0] + solved.every[:, -1, 0]).T,
            _near_dose(stretches, band, solved.clock, minutes),
            solved.over_session[:, i, 0],
            minutes,
            plan.sizes,
        )
        for i, band in enumerate(BANDS)
    }


def _solved(stretches: Sequence[Stretch], plan: Plan) -> _Solved:
    """All sizes, bands and rooms together, stretch after stretch."""
    volumes = np.array(plan.volumes)
    beyond = plan.removal_beyond()
    clocks = [even((one.end - one.start) / 60.0, STEP) for one in stretches]
    firsts = [0, *np.cumsum([len(one) for one in clocks])]
    now = plan.at_start()
    every = np.empty((*now.shape, firsts[-1]))
    dosed = np.zeros((len(stretches) + 1, *now.shape))
    source = np.zeros(now.shape)
    for k, (stretch, hours) in enumerate(zip(stretches, clocks)):
        source[:, : len(BANDS), 0] = np.transpose([stretch.released[band] for band in BANDS])
        source[:, len(BANDS)] = plan.brought(stretch)
        removal, exchanged = np.column_stack([stretch.removal, *beyond]), np.array(stretch.exchanged)
        out = every[..., firsts[k] : firsts[k + 1]]
        _, dose = respond(removal, exchanged, volumes, source / volumes, now, hours, out)
        now = out[..., -1]
        dosed[k + 1] = dosed[k] + dose
    times = [stretch.start + 60.0 * hours for stretch, hours in zip(stretches, clocks)]
    marks = np.array([0.0, *(one.end for one in stretches)])
    over = dosed[int(np.searchsorted(marks, plan.air.session.minutes - 1e-9))]
    return _Solved(np.concatenate(times), every, marks, dosed, over)


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
