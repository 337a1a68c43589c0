"""The shop's day, as a simulated monitor plays it, and as it lies over a log."""

from purvel.devices.monitor import Grain, Played
from purvel.libraries import Array
from purvel.review.air.answers import AirAnswers
from purvel.review.air.log_answers import LogAnswers
from purvel.review.answers import Answers
from purvel.review.memory import Memory
from purvel.roomair.day import Day
from purvel.roomair.laid_over import Laid, laid
from purvel.roomair.logs import Channel, Log
from purvel.shop import Air, Shop

Course = tuple[Array, Array, Laid]
"""Seconds of a day, what is expected then above its least, and where it lies in a log."""
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


def over_log(answers: Answers, log: str) -> Course | None:
    """The simulated day as a log's channel should show it, with its place in the log; None where the day is
    not told in it.
    """
    logs, day = answers.of(LogAnswers), answers.of(AirAnswers).day
    if day is None or log not in logs.logs:
        return None
    seen = logs.channel(log)
    if seen.kind not in ("count", "mass"):
        return None
    return answers.ask(_over, logs.logs[log], seen, day, answers.base.air)


def _over(log: Log, seen: Channel, day: Day, air: Air) -> Course | None:
    playing = played(day, air)
    expected = playing.counts(seen.size) if seen.kind == "count" else playing.mass(seen.size)
    above = expected - expected.min()
    place = laid(log.seconds, seen.values, playing.seconds, above)
    return (playing.seconds, above, place) if place is not None and place.is_believed else None
