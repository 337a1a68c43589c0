"""What helps the air most: every measure by the dose that it saves, alone and together, with what it costs;
and which assumption moves the answer most, to be measured first.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import inf

from purvel.catalogue import captures, filter_grades, limits, operations, respirators, with_fine_filter
from purvel.catalogue.money import prices
from purvel.review.air.answers import AirAnswers
from purvel.review.air.hanging import best_place
from purvel.review.air.remedies import better_hoods, more_cleaning, open_doors
from purvel.review.answers import Answers
from purvel.review.scenes import tried
from purvel.roomair.day import Day
from purvel.roomair.stretches import BANDS
from purvel.roomair.zones import exchange
from purvel.shop import Cleaner, Shop, Thing, WorkInterval
from purvel.shop.edits import Edit, change_air, change_session, put
from purvel.shop.parts import name_of

HOOD_COST = (20.0, 150.0)  # USD for a hood or shroud that is made or bought [a guess]
FILTER_COST = (60.0, 250.0)  # USD for a finer filter [a guess]
MASK = "half"  # the respirator that is weighed against the other measures
RESPIRATOR_COST = (30.0, 60.0)  # USD with a set of filters [a guess]
FREE = (0.0, 0.0)  # USD
BROOM, VACUUM = "sweeping", "vacuuming"
LARGEST_CLEANER = 2.0  # m3/s that a cleaner for one room may move
_TRIALS = 24  # halvings of what is not known of the smallest cleaner


@dataclass(frozen=True, slots=True)
class Measure:
    """Something that may be done: the 8 h average breathed with it [mg/m3], central and at either end of what
    is known, what it costs [USD], the same dose's share that is saved, and the edit; None for what is worn or
    done elsewhere.
    """

    name: str
    breathed: tuple[float, float, float]
    cost: tuple[float, float]
    saved: float
    edit: Edit | None = None


@dataclass(frozen=True, slots=True)
class Assumption:
    """Something that is not known well: the 8 h average [mg/m3] at its low and its high end, all else as it
    is taken.
    """

    name: str
    low: float
    high: float

    @property
    def span(self) -> float:
        """How far it moves the answer [mg/m3]."""
        return abs(self.high - self.low)


def breathed(day: Day | None) -> tuple[float, float, float]:
    """The 8 h average at the tool: low, central, high [mg/m3]."""
    if day is None:
        return 0.0, 0.0, 0.0
    low, central, high = (day.courses[band].personal_8h for band in BANDS)
    return low, central, high


def measures(answers: Answers) -> list[Measure]:
    """All measures there are here, the one that saves most first."""
    now = breathed(answers.of(AirAnswers).day)
    if now[1] <= 0:
        return []
    found = [_tried(answers, name, edit, cost, now[1]) for name, cost, edit in _changes(answers)]
    found = [one for one in found if one.saved > 0]
    factor = _mask_factor()
    worn = (now[0] / factor, now[1] / factor, now[2] / factor)
    found.append(Measure("A fitted half mask (P100, P3) on all day", worn, RESPIRATOR_COST, 1 - 1 / factor))
    return sorted(found, key=lambda one: -one.saved)


def _mask_factor() -> float:
    """The lesser of a fitted mask's assigned protection factors."""
    mask = respirators()[MASK]
    return min(mask.us, mask.eu)


def _tried(answers: Answers, name: str, edit: Edit, cost: tuple[float, float], now: float) -> Measure:
    then = breathed(tried(answers, edit).of(AirAnswers).day)
    return Measure(name, then, cost, 1.0 - then[1] / now, edit)


def _changes(answers: Answers) -> Iterator[tuple[str, tuple[float, float], Edit]]:
    """What may be changed, by name, with what it costs."""
    shop, session = answers.base, answers.base.air.session
    for name, edit in better_hoods(answers):
        yield name, HOOD_COST, edit
    has_cleaner = any(thing.cleaner for thing in shop.things)
    for name, edit in more_cleaning(answers):
        yield name, FREE if has_cleaner else prices()["air-cleaner"], edit
    for name, edit in _better_places(answers):
        yield name, FREE, edit
    for name, edit in open_doors(answers):
        yield name, FREE, edit
    if answers.of(AirAnswers).extractions and any(map(_blows_dust_back, shop.things)):
        yield "A HEPA filter behind what blows back", FILTER_COST, _finer
    dustiest = max(session.work, key=_thrown, default=None)
    if dustiest is not None and len(session.work) > 1:
        if dustiest.start + dustiest.minutes < max(one.start + one.minutes for one in session.work):
            yield f"“{dustiest.name or dustiest.operation}” last, then leave", FREE, _last(dustiest)
        yield f"“{dustiest.name or dustiest.operation}” outside", FREE, _outside(dustiest)
    if len(session.work) > 2:
        yield "All work in the order of its dust, the dustiest last", FREE, _by_dust
    if any(one.operation == BROOM for one in session.work):
        yield "A vacuum instead of the broom", FREE, _vacuumed


def _better_places(answers: Answers) -> Iterator[tuple[str, Edit]]:
    """Every cleaner that reaches more of the room elsewhere, there."""
    for thing in answers.base.things:
        best = None if thing.cleaner is None else best_place(answers, thing)
        if best is not None:
            yield f"Hang {name_of(answers.base, thing.id)} high, along a wall", _put(best)


def _put(thing: Thing) -> Edit:
    return lambda shop: put(shop, thing)


def _thrown(one: WorkInterval) -> float:
    """What a piece of work throws past its hood [mg]."""
    share = captures()[one.hood].share[1] if one.hood in captures() else one.capture[1]
    return one.emission[1] * one.minutes * one.cutting * (1.0 - share)


def _blows_dust_back(thing: Thing) -> bool:
    """Whether a source blows into the room through a filter that a HEPA filter betters."""
    source = thing.source
    return source is not None and not source.outdoors and source.efficiency != filter_grades()["HEPA"]


def _finer(shop: Shop) -> Shop:
    for thing in shop.things:
        if _blows_dust_back(thing) and thing.source is not None:
            shop = put(shop, replace(thing, source=with_fine_filter(thing.source)))
    return shop


def _outside(work: WorkInterval) -> Edit:
    return lambda shop: change_session(
        shop, work=tuple(one for one in shop.air.session.work if one.id != work.id)
    )


def _by_dust(shop: Shop) -> Shop:
    """The same work from the least dust to the most, with the pauses as they were."""
    work = shop.air.session.work
    pauses = [b.start - a.start - a.minutes for a, b in itertools.pairwise(work)]
    at, found = work[0].start, []
    for one, pause in zip(sorted(work, key=_thrown), (*pauses, 0.0)):
        found.append(replace(one, start=round(max(at, 0.0), 3)))
        at += one.minutes + pause
    return change_session(shop, work=tuple(sorted(found, key=lambda one: one.start)))


def _vacuumed(shop: Shop) -> Shop:
    vac = operations()[VACUUM]
    work = tuple(
        replace(one, operation=VACUUM, name=vac.name, emission=vac.band, cutting=vac.cutting, fine=None)
        if one.operation == BROOM
        else one
        for one in shop.air.session.work
    )
    return change_session(shop, work=work)


def _last(work: WorkInterval) -> Edit:
    """The piece of work after all others, those behind it moved up."""

    def edit(shop: Shop) -> Shop:
        moved = [
            replace(one, start=max(0.0, one.start - work.minutes))
            if one.start >= work.start + work.minutes
            else one
            for one in shop.air.session.work
            if one.id != work.id
        ]
        end = max(one.start + one.minutes for one in moved)
        return change_session(shop, work=(*moved, replace(work, start=end)))

    return edit


def together(answers: Answers, chosen: list[Measure]) -> tuple[float, float, float]:
    """The 8 h average [mg/m3] where all of these are done at once."""

    def all_of(shop: Shop) -> Shop:
        for one in chosen:
            if one.edit is not None:
                shop = one.edit(shop)
        return shop

    low, central, high = breathed(tried(answers, all_of).of(AirAnswers).day)
    worn = _mask_factor() if any(one.edit is None for one in chosen) else 1.0
    return low / worn, central / worn, high / worn


# ---- how much cleaner, and what to measure first


def clean_air(flow: float) -> Cleaner:
    """A cleaner that gives so much clean air [m3/s], of all sizes and everywhere."""
    return Cleaner(flow=flow, efficiency=(1.0, 1.0, 1.0, 1.0), mixing=1.0)


def smallest_cleaner(answers: Answers) -> float:
    """The clean air [m3/s] of one more cleaner, all sizes caught, that brings the 8 h average under the
    limit; 0 where none is needed, inf where no cleaner does it: what is breathed at the tool is the tool's.
    """
    limit = limits()[answers.base.air.limit].value

    def with_cleaner(flow: float) -> float:
        air = answers.of(AirAnswers)
        return breathed(air.simulated_with(clean_air(flow)))[1]

    if breathed(answers.of(AirAnswers).day)[1] <= limit:
        return 0.0
    if with_cleaner(LARGEST_CLEANER) > limit:
        return inf
    low, high = 0.0, LARGEST_CLEANER
    for _ in range(_TRIALS):
        middle = (low + high) / 2
        low, high = (low, middle) if with_cleaner(middle) <= limit else (middle, high)
    return high


def assumptions(answers: Answers) -> list[Assumption]:
    """What is assumed, the one that moves the 8 h average most first."""
    air = answers.base.air
    if answers.of(AirAnswers).day is None:
        return []
    found = [
        _between(answers, "How much dust the work throws off", _emission(0), _emission(2)),
        _between(answers, "How much of it the hoods take", _capture(answers, 2), _capture(answers, 0)),
        _between(answers, "How much of the time it really cuts", _cutting(0.5), _cutting(1.5)),
    ]
    if air.ach_measured not in ("closed", "both"):
        shut = air.ach_closed
        found.append(
            _between(
                answers,
                "Air changes of the shut room",
                _with(ach_closed=shut / 2),
                _with(ach_closed=shut * 2),
            )
        )
    if any(thing.cleaner for thing in answers.base.things):
        found.append(_between(answers, "How well the cleaner reaches all air", _mixing(0.5), _mixing(1.0)))
    if air.passages:
        low, high = _exchanging(answers, 0), _exchanging(answers, 2)
        found.append(_between(answers, "How much air goes through doors and stairs", low, high))
    return sorted(found, key=lambda one: -one.span)


def _between(answers: Answers, name: str, low: Edit, high: Edit) -> Assumption:
    return Assumption(name, *(breathed(tried(answers, edit).of(AirAnswers).day)[1] for edit in (low, high)))


def _emission(end: int) -> Edit:
    def edit(shop: Shop) -> Shop:
        work = (replace(one, emission=(one.emission[end],) * 3) for one in shop.air.session.work)
        return change_session(shop, work=tuple(work))

    return edit


def _capture(answers: Answers, end: int) -> Edit:
    """Every hood at one end of what is known of it, the drawn ones as they are reckoned."""
    shares = {one.id: one.capture[end] for one in answers.of(AirAnswers).air.session.work}

    def edit(shop: Shop) -> Shop:
        work = (replace(one, hood="", capture=(shares[one.id],) * 3) for one in shop.air.session.work)
        return change_session(shop, work=tuple(work))

    return edit


def _cutting(times: float) -> Edit:
    def edit(shop: Shop) -> Shop:
        work = (replace(one, cutting=min(1.0, one.cutting * times)) for one in shop.air.session.work)
        return change_session(shop, work=tuple(work))

    return edit


def _with(**changes: float) -> Edit:
    return lambda shop: change_air(shop, **changes)


def _exchanging(answers: Answers, end: int) -> Edit:
    """Every passage at one end of what it may exchange."""
    passages = answers.of(AirAnswers).air.passages

    def edit(shop: Shop) -> Shop:
        given = (replace(one, kind="given", exchange=min(exchange(one)[end], 10.0)) for one in passages)
        return change_air(shop, passages=tuple(given))

    return edit


def _mixing(share: float) -> Edit:
    def edit(shop: Shop) -> Shop:
        for thing in shop.things:
            if thing.cleaner is not None:
                shop = put(shop, replace(thing, cleaner=replace(thing.cleaner, mixing=share, by_place=False)))
        return shop

    return edit
