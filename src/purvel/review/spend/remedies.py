"""What would help spending: put it on the list, put it later, take another order, give it a place."""

from collections.abc import Iterator
from dataclasses import replace

from purvel.catalogue import kinds, make_thing, trade_operations
from purvel.catalogue.money import prices
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Finding
from purvel.review.room.answers import RoomAnswers
from purvel.review.spend.answers import SpendAnswers
from purvel.review.stage import Candidate, Progress, Proposer
from purvel.shop import Shop
from purvel.shop.edits import Edit, change, fresh_id, put
from purvel.shop.money import Item
from purvel.shop.parts import item_of, name_of
from purvel.space.placing import free_spot


def reordered(ids: tuple[str, ...]) -> Edit:
    """The list with what is still to be bought in this order; what was paid stays ahead."""

    def edit(shop: Shop) -> Shop:
        rank = {item: number for number, item in enumerate(ids)}
        items = sorted(shop.budget.items, key=lambda item: rank.get(item.id, -1))
        return replace(shop, budget=replace(shop.budget, items=tuple(items)))

    return edit


def new_item(shop: Shop, kind: str, thing: str | None = None) -> Item:
    """A kind of the catalogue as an item of the list, with its band of prices."""
    low, high = prices().get(kind, (0.0, 0.0))
    is_dust = kinds()[kind].source is not None or kinds()[kind].cleaner is not None
    return Item(
        id=fresh_id(shop, f"item-{kind}"),
        name=kinds()[kind].name,
        group="dust" if is_dust else "machine",
        kind=kind,
        thing=thing,
        low=low,
        high=high,
    )


def _lacking(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    by = trade_operations()[finding.about[0]].by
    for kind in sorted((one for one in by if one in prices()), key=lambda one: prices()[one][0]):
        item = new_item(answers.shop, kind)
        yield f"Put a {kinds()[kind].name.lower()} on the list", _putter(item)


def _putter(item: Item) -> Edit:
    return lambda shop: put(shop, item)


def _early(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """A place in the plan for it, or off the list."""
    item = item_of(answers.shop, finding.about[0])
    if isinstance(item, Item) and item.kind in kinds() and answers.of(SpendAnswers).thing_of(item) is None:
        thing = make_thing(item.kind, fresh_id(answers.shop, item.kind))
        spot = free_spot(thing, answers.shop.things, answers.of(RoomAnswers).shell)
        if spot is None:
            return
        placed = replace(thing, x=spot[0], y=spot[1])

        def edit(shop: Shop) -> Shop:
            return change(put(shop, placed), finding.about[0], thing=placed.id)

        yield f"Give {item.name} a place in the plan", edit


def _needs(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """After what it needs."""
    order = [item.id for item in answers.shop.budget.items]
    item = finding.about[0]
    last = max(order.index(need) for need in finding.where.items[1:])
    moved = [one for one in order if one != item]
    moved.insert(last, item)
    yield f"Put it after {name_of(answers.shop, order[last])}", reordered(tuple(moved))


def _later(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    order = [item.id for item in answers.shop.budget.items if item.id != finding.about[0]]
    yield "Put it at the end of the list", reordered((*order, finding.about[0]))


def _better(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    yield "Take that order", reordered(answers.of(SpendAnswers).best().items)


def _fewer(before: Finding, after: Finding) -> bool:
    return after.figures["lacks"] < before.figures["lacks"]


REMEDIES: dict[str, Proposer] = {
    "lacking": _lacking,
    "bought-early": _early,
    "needs-first": _needs,
    "needless": _later,
    "order-better": _better,
}
PROGRESS: dict[str, Progress] = {"bought-early": _fewer}
