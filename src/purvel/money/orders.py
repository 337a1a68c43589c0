"""The order of buying that gives most of what is wanted soonest.

Every item is bought as soon as the money is there. An order is judged by the ability at hand, summed over the
time until everything is bought: the area under the steps. What an item needs comes before it. With few items
all orders are compared, by the best way to every set of items; with more, the best few hundred sets of each
size are carried on.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from math import inf

from purvel.money.abilities import ability
from purvel.money.balance import month_for
from purvel.stopping import go_on

EXACT = 14  # items up to which every set is looked at
BEAM = 300  # sets of each size that are carried on beyond that
NEVER = 600.0  # months: what can never be paid counts as fifty years away


@dataclass(frozen=True, slots=True)
class Candidate:
    """An item to be ordered: its price, the kind that it brings if any, what must come before it, and whether
    it may come at all yet (place, circuit and dust connection are in the plan).
    """

    id: str
    price: float
    kind: str | None
    needs: frozenset[str]
    is_ready: bool = True


@dataclass(frozen=True, slots=True)
class Order:
    """Items in order, and the area under the steps of ability that it gives [ability times months]."""

    items: tuple[str, ...]
    area: float


def area(
    order: Sequence[Candidate],
    have: Collection[str],
    wants: Mapping[str, float],
    start: float,
    monthly: float,
    until: float,
) -> float:
    """The ability at hand summed over the months up to `until`, when items come in this order."""
    kinds, cost, at, total = set(have), 0.0, 0.0, 0.0
    now = ability(kinds, wants)
    for item in order:
        cost += item.price
        month = min(month_for(cost, start, monthly), NEVER, until)
        total += now * (month - at)
        at = month
        if item.kind is not None:
            kinds.add(item.kind)
            now = ability(kinds, wants)
    return total + now * (until - at)


def best_order(
    items: Sequence[Candidate],
    have: Collection[str],
    wants: Mapping[str, float],
    start: float,
    monthly: float,
) -> Order:
    """The best order of all items that are ready; those that are not follow behind, in their own best
    order.
    """
    until = min(month_for(sum(item.price for item in items), start, monthly), NEVER)
    if until <= 0:
        until = 1.0  # all can be bought at once: any order will do
    found: list[Candidate] = []
    for group in ([item for item in items if item.is_ready], [item for item in items if not item.is_ready]):
        there = {*have, *(item.kind for item in found if item.kind is not None)}
        left = start - sum(item.price for item in found)
        found += _ordered(group, there, wants, left, monthly, until)
    return Order(tuple(item.id for item in found), area(found, have, wants, start, monthly, until))


def _ordered(
    items: Sequence[Candidate],
    have: Collection[str],
    wants: Mapping[str, float],
    start: float,
    monthly: float,
    until: float,
) -> list[Candidate]:
    """The best order; items whose needs go in a circle follow as they stood."""
    number = {item.id: index for index, item in enumerate(items)}
    needs = [sum(1 << number[other] for other in item.needs if other in number) for item in items]
    states: dict[int, tuple[float, tuple[int, ...]]] = {0: (0.0, ())}
    known: dict[int, float] = {0: ability(have, wants)}
    cost = {0: 0.0}
    for _ in items:
        go_on()
        grown: dict[int, tuple[float, tuple[int, ...]]] = {}
        for mask, (total, order) in states.items():
            at = min(month_for(cost[mask], start, monthly), until)
            for index, item in enumerate(items):
                bit = 1 << index
                if mask & bit or needs[index] & ~mask:
                    continue
                after = mask | bit
                if after not in cost:
                    cost[after] = cost[mask] + item.price
                month = min(month_for(cost[after], start, monthly), until)
                gained = total + known[mask] * (month - at)
                if after not in grown or gained > grown[after][0]:
                    grown[after] = (gained, (*order, index))
        if not grown:
            break
        for mask in grown:
            if mask not in known:
                known[mask] = ability(_kinds(mask, items, have), wants)
        states = grown if len(items) <= EXACT else _best_few(grown, known, cost, start, monthly, until)
    _, indices = max(states.values(), key=lambda state: state[0])
    chosen = [items[index] for index in indices]
    return [*chosen, *(item for item in items if item not in chosen)]


def _kinds(mask: int, ready: Sequence[Candidate], have: Collection[str]) -> set[str]:
    return {*have, *(item.kind for k, item in enumerate(ready) if mask >> k & 1 and item.kind is not None)}


def _best_few(
    grown: Mapping[int, tuple[float, tuple[int, ...]]],
    known: Mapping[int, float],
    cost: Mapping[int, float],
    start: float,
    monthly: float,
    until: float,
) -> dict[int, tuple[float, tuple[int, ...]]]:
    """The sets that promise most: what they have gathered, and their ability held until the end."""

    def promise(mask: int) -> float:
        at = min(month_for(cost[mask], start, monthly), until)
        return grown[mask][0] + known[mask] * (until - at)

    kept = sorted(grown, key=promise, reverse=True)[:BEAM]
    return {mask: grown[mask] for mask in kept}


def school_order(items: Sequence[Candidate], order: Sequence[str]) -> tuple[str, ...]:
    """Items in a school's order: its kinds first, each with what it needs before it; the rest as they
    stood.
    """
    by_id = {item.id: item for item in items}
    rank = {kind: number for number, kind in enumerate(order)}
    found: list[str] = []

    def take(item: Candidate, above: tuple[str, ...] = ()) -> None:
        if item.id in found or item.id in above:
            return
        for other in sorted(item.needs):
            if other in by_id:
                take(by_id[other], (*above, item.id))
        found.append(item.id)

    for item in sorted(items, key=lambda one: rank.get(one.kind or "", inf)):
        take(item)
    return tuple(found)
