"""The shop's day, as a simulated monitor plays it."""

from purvel.devices.monitor import Grain, Played
from purvel.review.air.answers import AirAnswers
from purvel.review.answers import Answers
from purvel.review.memory import Memory
from purvel.roomair.day import Day
from purvel.shop import Air, Shop

AFTER = 60.0  # min that are played after the session


def played_day(shop: Shop) -> Played | None:
    """The day of a shop; None where it has none."""
    day = Answers(shop, Memory()).of(AirAnswers).day
    return None if day is None else played(day, shop.air)


def played(day: Day, air: Air) -> Played:
    """A simulated session; a collector starts with each stretch of work of which something is caught."""
    seen = day.times <= day.session_minutes + AFTER
    return Played(
        day.times[seen] * 60.0,
        day.courses["central"].by_size[seen],
        tuple(Grain(size.high, size.diameter) for size in day.sizes),
        tuple(one.start * 60.0 for one in air.session.work if one.capture[1] > 0),
    )
