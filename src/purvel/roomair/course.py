"""What one band of assumptions leads to: peaks, averages, and when the air is clear again."""

from __future__ import annotations

from dataclasses import dataclass, fields

from purvel.catalogue import DustSize
from purvel.libraries import Array, np
from purvel.roomair.dust import inhalable, respirable
from purvel.shop import Air

SHIFT = 480.0  # min: limits are 8 h averages


@dataclass(frozen=True, slots=True, eq=False)
class RoomCourse:
    """A room in one band: all dust and PM2.5 over time [mg/m3]; over the session its peak and mean, and the
    8 h average, of wood dust alone [mg/m3]; the mean and the peak of PM2.5 [mg/m3]. `clear_after` [min] is
    when inhalable dust, `fine_clear_after` when PM2.5 is under the level to call clear, None where that takes
    more than twelve hours. `sums` is the dose of wood dust by size (K, S) [mg h/m3] up to each of the day's
    marks.
    """

    total: Array
    fine: Array
    sums: Array
    peak: float
    mean: float
    average_8h: float
    fine_mean: float
    fine_peak: float
    clear_after: float | None
    fine_clear_after: float | None


@dataclass(frozen=True, slots=True, eq=False)
class Course(RoomCourse):
    """The shop in one band, by size too (T, S) [mg/m3], with who works in it.

    `personal` is the air that is breathed: at the tool while working, else the room's; `personal_8h` its 8 h
    average of wood dust, `personal_peak` the most of it, `respirable_8h` its respirable part. `peak_at` [min]
    is the room's peak.
    """

    by_size: Array
    personal: Array
    peak_at: float
    personal_8h: float
    personal_peak: float
    respirable_8h: float


def room_course(
    clock: Array,
    total: Array,
    fine: Array,
    dosed: Array,
    dose: float,
    fine_dose: float,
    air: Air,
    last_cut: float,
) -> RoomCourse:
    """The course of a room from its dust and its PM2.5 (T,) [mg/m3] at `clock` [min], and the dose of wood
    dust up to each mark (K, S) and over the session, and that of PM2.5 [mg h/m3].
    """
    inside = int(np.searchsorted(clock, air.session.minutes + 1e-9, side="right"))
    hours = air.session.minutes / 60.0
    return RoomCourse(
        total=total,
        fine=fine,
        sums=dosed,
        peak=float(total[:inside].max()),
        mean=dose / hours,
        average_8h=dose / (SHIFT / 60.0),
        fine_mean=fine_dose / hours,
        fine_peak=float(fine[:inside].max()),
        clear_after=clear_after(clock, total, last_cut, air.clean_level),
        fine_clear_after=clear_after(clock, fine, last_cut, air.clean_fine),
    )


def course_of(
    room: RoomCourse,
    clock: Array,
    by_size: Array,
    near: tuple[Array, float],
    dose: Array,
    minutes: float,
    sizes: tuple[DustSize, ...],
) -> Course:
    """The course of the shop: what hangs in it by size (T, S) [mg/m3], what is in the air at the tool more,
    over time and its dose, and the dose of wood dust over the session by size (S,) [mg h/m3].
    """
    more, near_dose = near
    personal = room.total + more
    inside = int(np.searchsorted(clock, minutes + 1e-9, side="right"))
    breathed = dose + near_dose * np.array([size.share for size in sizes])
    fine = sum(d * respirable(size.diameter) / inhalable(size.diameter) for d, size in zip(breathed, sizes))
    return Course(
        **{one.name: getattr(room, one.name) for one in fields(room)},
        by_size=by_size,
        personal=personal,
        peak_at=float(clock[int(np.argmax(room.total[:inside]))]),
        personal_8h=float(breathed.sum() / (SHIFT / 60.0)),
        personal_peak=float(personal[:inside].max()),
        respirable_8h=float(fine / (SHIFT / 60.0)),
    )


def clear_after(clock: Array, total: Array, last_cut: float, level: float) -> float | None:
    """Minutes from the last cut until the total stays under the level, by interpolation of its logarithm
    between the steps; None where it does not within what was followed.
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
