"""What would help keeping: done today, emptied today, the usual duties noted, stock that fits."""

from collections.abc import Iterator
from dataclasses import replace

from purvel.catalogue.upkeep import duty_kinds, make_duty
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Finding
from purvel.review.keep.answers import KeepAnswers
from purvel.review.stage import Candidate, Progress, Proposer
from purvel.shop import Shop
from purvel.shop.edits import Edit, change, fresh_id, put
from purvel.shop.parts import item_of, name_of
from purvel.shop.upkeep import CutPart, CutStock, Duty

_SHEETS = ((2.44, 1.22), (3.05, 1.53))  # m


def _done(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    day = answers.of(KeepAnswers).today.isoformat()
    duties = [item for item in finding.where.items if isinstance(item_of(answers.shop, item), Duty)]
    if len(duties) > 1:
        yield "All of it is done today", _all_done(duties, day)
    for duty in duties[:2]:
        yield f"Done today: {name_of(answers.shop, duty)}", _all_done([duty], day)


def _all_done(duties: list[str], day: str) -> Edit:
    def edit(shop: Shop) -> Shop:
        for duty in duties:
            shop = change(shop, duty, done_on=day)
        return shop

    return edit


def _bin(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    day = answers.of(KeepAnswers).today.isoformat()

    def emptied(shop: Shop) -> Shop:
        assert shop.upkeep.bin is not None
        return replace(shop, upkeep=replace(shop.upkeep, bin=replace(shop.upkeep.bin, emptied_on=day)))

    yield "Emptied today", emptied


def usual_duties(shop: Shop) -> Shop:
    """The shop with what is usually due at its machines noted."""
    noted = {(duty.thing, duty.kind, duty.every_hours) for duty in shop.upkeep.duties}
    for thing in shop.things:
        for key, kind in duty_kinds().items():
            if kind.is_for(thing) and (thing.id, kind.kind, kind.every_hours) not in noted:
                shop = put(shop, make_duty(key, fresh_id(shop, key), thing))
    return shop


def _duties(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    yield "Note what is usually due at them", usual_duties


def _stock(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    part = item_of(answers.shop, finding.where.items[0])
    if isinstance(part, CutPart):
        for length, width in _SHEETS:
            stock = CutStock(
                id=fresh_id(answers.shop, "sheet"),
                name=f"Sheet, {say.length(part.thickness)}",
                length=length,
                width=width,
                thickness=part.thickness,
            )
            yield (
                f"A sheet of {say.length(length)} × {say.length(width)}, {say.length(part.thickness)} thick",
                _putter(stock),
            )


def _putter(stock: CutStock) -> Edit:
    return lambda shop: put(shop, stock)


def _fewer(before: Finding, after: Finding) -> bool:
    return any(
        after.figures[key] < before.figures[key] for key in ("duties", "parts") if key in before.figures
    )


REMEDIES: dict[str, Proposer] = {"duty": _done, "bin": _bin, "no-duty": _duties, "no-stock": _stock}
PROGRESS: dict[str, Progress] = {"duty": _fewer, "no-stock": _fewer}
