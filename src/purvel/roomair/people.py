"""What somebody breathes who is in a room for a part of the day."""

from __future__ import annotations

from dataclasses import dataclass

from purvel.libraries import np
from purvel.roomair.course import FINE, SHIFT
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
    """What a person breathes of the air of a room, as evenly mixed. The day is watched to some hours after
    the last cut; a stay beyond that is cut off.
    """
    course, clock = day.rooms[person.room or ""][band], day.times
    start, end = person.start, min(person.start + person.minutes, float(clock[-1]))
    if end <= start:
        return Breathed(0.0, 0.0, 0.0)
    sums = course.sums.sum(axis=1)
    dose = float(np.interp(end, clock, sums) - np.interp(start, clock, sums))
    inside = (clock >= start - 1e-9) & (clock <= end + 1e-9)
    pm25 = course.by_size[:, [size.high <= FINE for size in day.sizes]].sum(axis=1)
    fine = float(np.trapezoid(pm25[inside], clock[inside])) / (end - start)
    return Breathed(dose / (SHIFT / 60.0), float(course.total[inside].max()), fine)
