"""What is due as a calendar file (RFC 5545) that any calendar takes in."""

from datetime import UTC, date, datetime, timedelta
from typing import Any

from purvel.review import Answers, Memory
from purvel.review.keep.answers import KeepAnswers
from purvel.shop import Shop
from purvel.shop.parts import item_of, name_of
from purvel.shop.upkeep import Duty
from purvel.upkeep.due import FAR, day_of


def calendar_ics(shop: Shop) -> str:
    """Each duty on the day that it is due, or today if that is past, and the bin at the soonest; what is due
    by the calendar alone comes again.

    The same duty has the same UID each time, so a calendar that has it already moves it.
    """
    from icalendar import Calendar

    keep = Answers(shop, Memory()).of(KeepAnswers)
    made = Calendar()
    made.add("prodid", "-//Purvel//Upkeep//EN")
    made.add("version", "2.0")
    for one in keep.due:
        duty = item_of(shop, one.duty)
        if one.day is None or not isinstance(duty, Duty):
            continue
        words = name_of(shop, duty.id), f"{shop.name}. The maker's manual decides."
        event = _event(duty.id, max(one.day, keep.today), *words)
        if duty.every_days and not duty.every_hours:
            event.add("rrule", {"freq": "daily", "interval": duty.every_days})
        made.add_component(event)
    if keep.bin is not None and keep.bin.days[0] < FAR:
        emptied = day_of(shop.upkeep.bin.emptied_on if shop.upkeep.bin is not None else None) or keep.today
        day = max(emptied + timedelta(days=int(keep.bin.days[0])), keep.today)
        weighs = f"{shop.name}. Up to {keep.bin.mass[1]:.0f} kg with its drum."
        made.add_component(_event("bin", day, "Empty the bin", weighs))
    text: str = made.to_ical().decode()
    return text


def _event(key: str, day: date, summary: str, description: str) -> Any:
    """Something that is due for all of a day."""
    from icalendar import Event

    event = Event()
    event.add("uid", f"{key}@purvel")
    event.add("dtstamp", datetime.now(UTC))
    event.add("dtstart", day)
    event.add("dtend", day + timedelta(days=1))
    event.add("summary", summary)
    event.add("description", description)
    return event
