"""What one band of assumptions leads to: peaks, averages, and when the air is clear again."""

from __future__ import annotations

from dataclasses import dataclass

from purvel.catalogue import DustSize
from purvel.libraries import Array, np
from purvel.roomair.dust import inhalable, respirable
from purvel.shop import Air

SHIFT = 480.0  # min: limits are 8 h averages
FINE = 2.5  # um: what PM2.5 holds


@dataclass(frozen=True, slots=True, eq=False)
class Course:
    """One band over time, inhalable dust [mg/m3]: the room's mean by size and in all, with what came in from
    outdoors; its peak, mean over the session and 8 h average, the last two of wood dust alone.

    `personal_8h` is the 8 h average of what is breathed by who works: the air at the tool while working, else
    the room's; `personal_peak` the most of it, `respirable_8h` its respirable part. `clear_after` [min] is
    when inhalable dust, `fine_clear_after` when PM2.5 is under the level to call clear, None where that takes
    more than twelve hours.
    """

    by_size: Array
    total: Array
    personal: Array
    peak: float
    peak_at: float
    mean: float
    average_8h: float
    personal_8h: float
    personal_peak: float
    respirable_8h: float
    clear_after: float | None
    fine_clear_after: float | None


@dataclass(frozen=True, slots=True, eq=False)
class RoomCourse:
    """A room in one band: all dust over time by size and in all [mg/m3]; over the session its peak and mean,
    and the 8 h average, of wood dust alone [mg/m3]; the mean and the peak of PM2.5 [mg/m3]; when it is clear
    again, as in `Course`. `sums` is the dose of wood dust so far by size (T, S) [mg h/m3].
    """

    by_size: Array
    total: Array
    sums: Array
    peak: float
    mean: float
    average_8h: float
    fine_mean: float
    fine_peak: float
    clear_after: float | None
    fine_clear_after: float | None


def room_course(
    clock: Array,
    wood: Array,
    outdoor: Array,
    sums: Array,
    air: Air,
    last_cut: float,
    sizes: tuple[DustSize, ...],
) -> RoomCourse:
    """The course of a room from wood dust and dust from outdoors by size (T, S), and the dose so far."""
    by_size = wood + outdoor
    total = by_size.sum(axis=1)
    pm25 = by_size[:, [size.high <= FINE for size in sizes]].sum(axis=1)
    inside = clock <= air.session.minutes + 1e-9
    dose = float(sums[int(np.flatnonzero(inside)[-1])].sum())
    hours = air.session.minutes / 60.0
    return RoomCourse(
        by_size,
        total,
        sums,
        float(total[inside].max()),
        dose / hours,
        dose / (SHIFT / 60.0),
        float(np.trapezoid(pm25[inside], clock[inside] / 60.0) / hours),
        float(pm25[inside].max()),
        clear_after(clock, total, last_cut, air.clean_level),
        clear_after(clock, pm25, last_cut, air.clean_fine),
    )


def course_of(
    clock: Array,
    wood: Array,
    outdoor: Array,
    sums: Array,
    near: tuple[Array, float],
    air: Air,
    last_cut: float,
    sizes: tuple[DustSize, ...],
) -> Course:
    """The course from wood dust and dust from outdoors by size (T, S) [mg/m3] at `clock` [min], the dose of
    wood dust so far (T, S) [mg h/m3], and what is in the air at the tool more: over time, and its dose.
    """
    by_size = wood + outdoor
    total = by_size.sum(axis=1)
    more, near_dose = near
    personal = total + more
    in_session = clock <= air.session.minutes + 1e-9
    peak = int(np.argmax(total[in_session]))
    dose = sums[int(np.flatnonzero(in_session)[-1])]
    breathed = dose + near_dose * np.array([size.share for size in sizes])
    fine = sum(d * respirable(size.diameter) / inhalable(size.diameter) for d, size in zip(breathed, sizes))
    pm25 = by_size[:, [size.high <= FINE for size in sizes]].sum(axis=1)
    return Course(
        by_size=by_size,
        total=total,
        personal=personal,
        peak=float(total[peak]),
        peak_at=float(clock[peak]),
        mean=float(dose.sum() / (air.session.minutes / 60.0)),
        average_8h=float(dose.sum() / (SHIFT / 60.0)),
        personal_8h=float(breathed.sum() / (SHIFT / 60.0)),
        personal_peak=float(personal[in_session].max()),
        respirable_8h=float(fine / (SHIFT / 60.0)),
        clear_after=clear_after(clock, total, last_cut, air.clean_level),
        fine_clear_after=clear_after(clock, pm25, last_cut, air.clean_fine),
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
