"""What is due by readings, and what a day's work takes off, by hand."""

from datetime import date
from math import inf

import pytest

from purvel.catalogue import operations
from purvel.catalogue.upkeep import waste
from purvel.shop import WorkInterval
from purvel.shop.upkeep import Duty, DutyReading
from purvel.upkeep.bins import Bin, fill, removed_by_day
from purvel.upkeep.due import by_readings, due

TODAY = date(2026, 11, 28)


def duty(*readings: tuple[str, float], until: float | None = 500.0, done: str | None = None) -> Duty:
    read = tuple(DutyReading(day=day, value=value) for day, value in readings)
    return Duty(id="filter", reads="Pa across the filter", until=until, readings=read, done_on=done)


def test_a_pressure_that_rises_is_due_where_its_line_comes_to_the_figure() -> None:
    """200 Pa on the 8th, 300 on the 18th: 10 a day, 500 on the 8th of December, ten days from the 28th; the
    way from 200 to 500 is gone by a third.
    """
    days, gone = by_readings(duty(("2026-11-08", 200.0), ("2026-11-18", 300.0)), TODAY)
    assert days == pytest.approx(10.0) and gone == pytest.approx(1 / 3)
    found = due(duty(("2026-11-08", 200.0), ("2026-11-18", 300.0)), 0.0, TODAY, TODAY)
    assert found.day == date(2026, 12, 8) and found.days == 10.0


def test_a_flow_that_falls_is_due_below_its_figure() -> None:
    falling = duty(("2026-11-08", 0.30), ("2026-11-18", 0.28), until=0.25)
    assert by_readings(falling, TODAY)[0] == pytest.approx(5.0)  # 0.002 a day, 15 days from the 18th
    below = duty(("2026-11-08", 0.30), ("2026-11-18", 0.24), until=0.25)
    assert by_readings(below, TODAY) == (0.0, 1.0)


@pytest.mark.parametrize(
    ("readings", "changes", "days"),
    [
        ((), {}, inf),
        ((("2026-11-08", 200.0),), {}, inf),
        ((("2026-11-08", 500.0),), {}, 0.0),
        ((("2026-11-08", 300.0), ("2026-11-18", 200.0)), {}, inf),  # it gets better
        ((("2026-11-08", 200.0), ("2026-11-18", 300.0)), {"until": None}, inf),
        ((("2026-11-08", 200.0), ("2026-11-18", 300.0)), {"done": "2026-11-10"}, inf),  # one is left
        ((("2026-11-08", 480.0), ("2026-11-18", 499.0)), {}, 0.0),  # its line is past it already
        ((("no day", 900.0), ("2026-11-08", 200.0)), {}, inf),
    ],
)
def test_what_the_readings_do_not_tell(readings: tuple, changes: dict, days: float) -> None:
    assert by_readings(duty(*readings, **changes), TODAY)[0] == days


def test_hours_days_and_readings_whichever_comes_first() -> None:
    both = Duty(
        id="f",
        every_days=3,
        done_on="2026-11-27",
        until=500.0,
        readings=(DutyReading(day="2026-11-28", value=100.0),),
    )
    assert due(both, 0.0, TODAY, TODAY).days == 2.0
    never = due(Duty(id="n"), 0.0, TODAY, TODAY)
    assert never.day is None and never.days == inf


def test_what_a_days_planing_takes_off_and_how_it_fills_a_bin() -> None:
    """20 minutes, 30 % of them in the cut, 4 days a month: 24 min at 840 to 2200 g: 20.2 to 52.8 kg."""
    least, most = operations()["planer"].wood
    thin, dense = waste()["shavings"]
    work = (WorkInterval(id="p", operation="planer", minutes=20, cutting=0.3),)
    gone = removed_by_day(work, 4.0, 600.0)
    assert gone.mass == pytest.approx((20.16 + 52.8) / 2) and gone.solid == pytest.approx(gone.mass / 600.0)
    assert (gone.low, gone.high) == (pytest.approx(0.024 * least / dense), pytest.approx(0.024 * most / thin))
    found = fill(Bin(volume=0.2, tare=8.0), gone)
    assert found is not None and found.days[0] < found.days[1] and found.mass[0] > 8.0
    assert removed_by_day((WorkInterval(id="x", operation="none such"),), 4.0, 600.0).mass == 0.0
    assert {one.waste for one in operations().values()} <= set(waste())
