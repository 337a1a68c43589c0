"""Days of work: one made from the shop's jobs, two held against each other, a week of them."""

from __future__ import annotations

from dataclasses import dataclass, replace

from purvel.catalogue import kinds, operations
from purvel.review.air.answers import AirAnswers
from purvel.review.air.hoods import AS_DRAWN
from purvel.review.answers import Answers
from purvel.review.flow.answers import FlowAnswers
from purvel.roomair.stretches import BANDS
from purvel.shop import Session, Shop, WorkInterval
from purvel.shop.edits import Edit, change_air, fresh_id, put

WEEKS = 365.25 / 12 / 7  # in a month
_BETWEEN = 5.0  # min between two pieces of work [choice]
_SHORTEST = 0.5  # min: less is no piece of work
_FULL_WEEK = 5  # days of 8 h that limits are made for


@dataclass(frozen=True, slots=True)
class Week:
    """What is breathed at the tools over a week of so many days: the mean of 40 hours of wood dust [mg/m3],
    low, central, high.
    """

    days: tuple[int, int]
    mean: tuple[float, float, float]


def week_of(answers: Answers) -> Week | None:
    """The week as it is set; None without a day."""
    air, days = answers.of(AirAnswers), answers.base.air.days
    if air.day is None or not any(days):
        return None
    other = None if air.other is None else air.other.day
    low, central, high = (
        (
            days[0] * air.day.courses[band].personal_8h
            + (days[1] * other.courses[band].personal_8h if other is not None else 0.0)
        )
        / _FULL_WEEK
        for band in BANDS
    )
    return Week(days, (low, central, high))


def from_jobs(answers: Answers, days: int) -> Session:
    """A day of the jobs of the Flow stage: each job as often as it is done in a month, shared out to so many
    `days` a week; each machine's minutes in one piece, in the order of the jobs.

    Raises ValueError where there is nothing to work, or more than a day holds.
    """
    minutes: dict[tuple[str, str], float] = {}
    for flow in answers.of(FlowAnswers).jobs.values():
        for station in flow.stations:
            thing = answers.base.thing(station.thing or "")
            operation = kinds()[thing.kind].operation if thing is not None and thing.kind in kinds() else None
            if thing is not None and operation:
                key = (thing.id, operation)
                share = station.step.minutes * flow.job.per_month / (WEEKS * days)
                minutes[key] = minutes.get(key, 0.0) + share
    pieces = [(key, lasts) for key, lasts in minutes.items() if lasts >= _SHORTEST]
    if not pieces:
        raise ValueError(
            "No job of the Flow stage has steps at a machine that makes dust: add jobs there first."
        )
    work, at = [], _BETWEEN
    for number, ((machine, operation), lasts) in enumerate(pieces, start=1):
        one = operations()[operation]
        work.append(
            WorkInterval(
                id=f"work-{number}",
                name=one.name,
                operation=operation,
                thing=machine,
                start=round(at, 1),
                minutes=round(lasts, 1),
                emission=one.band,
                cutting=one.cutting,
                hood=AS_DRAWN,
            )
        )
        at += lasts + _BETWEEN
    if at > 1380.0:
        raise ValueError(f"The jobs fill {at / 60:.0f} hours of each day: more days a week, or fewer jobs.")
    session = answers.base.air.session
    return replace(session, work=tuple(work), spells=(), minutes=max(60.0, round(at + 10.0)))


def put_session(session: Session) -> Edit:
    """A session in the place of that which is there, under ids that nothing else has."""

    def edit(shop: Shop) -> Shop:
        shop = change_air(shop, session=replace(session, work=(), spells=()))
        for one in session.work:
            shop = put(shop, replace(one, id=fresh_id(shop, "interval")))
        for spell in session.spells:
            shop = put(shop, replace(spell, id=fresh_id(shop, "spell")))
        return shop

    return edit


def keep_as_other(shop: Shop) -> Shop:
    """The session kept as the second day, to be held against what is changed now."""
    one, other = shop.air.days
    return change_air(shop, other=shop.air.session, days=(one, max(1, other)))


def drop_other(shop: Shop) -> Shop:
    """No second day any more."""
    return change_air(shop, other=None, days=(shop.air.days[0], 0))
