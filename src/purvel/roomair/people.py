"""What somebody breathes who is in a room for a part of the day."""

from __future__ import annotations

from dataclasses import dataclass

from purvel.libraries import np
from purvel.roomair.course import SHIFT
from purvel.roomair.day import Day
from purvel.roomair.stretches import Band
from purvel.shop.air import Person


@dataclass(frozen=True, slots=True)
class Breathed:
    """Over the stay: the 8 h average of wood dust, the peak of all dust, the mean of PM2.5 [mg/m3]."""

    average_8h: float
    peak: float
    fine_mean: float


def breathed_by(day: Day, person: Person, band: Band) -> Breathed:
    """What one of the people of the day breathes of the air of a room, as evenly mixed: their coming and
    going are among its marks. The day is watched to some hours after the last cut; a stay beyond that is cut
    off.

    Raises ValueError for somebody who is not among the people of the day.
    """
    course, clock = day.rooms[person.room or ""][band], day.times
    start, end = person.start, min(person.start + person.minutes, float(clock[-1]))
    if end <= start:
        return Breathed(0.0, 0.0, 0.0)
    if any(np.abs(day.marks - minute).min() > 1e-6 for minute in (start, end)):
        raise ValueError(f"{person.id} is not of this day")
    sums = course.sums.sum(axis=1)
    dose = float(np.interp(end, day.marks, sums) - np.interp(start, day.marks, sums))
    inside = (clock >= start - 1e-9) & (clock <= end + 1e-9)
    fine = float(np.trapezoid(course.fine[inside], clock[inside])) / (end - start)
    return Breathed(dose / (SHIFT / 60.0), float(course.total[inside].max()), fine)
