"""What is left: every item bought as soon as there is money for it, in the order of the list."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import inf

from purvel.shop.money import Budget, Item


@dataclass(frozen=True, slots=True)
class Bought:
    """When an item can be bought [months from now; inf: never] and what is then left, at a price."""

    item: str
    price: float
    month: float
    left: float


def price_of(item: Item, share: float) -> float:
    """A price between low (0) and high (1)."""
    return item.low + share * (max(item.high, item.low) - item.low)


def still_to_buy(budget: Budget) -> list[Item]:
    """What is not paid, in order."""
    return [item for item in budget.items if item.paid is None]


def spent(budget: Budget) -> float:
    """What was paid so far."""
    return sum(item.paid or 0.0 for item in budget.items)


def month_for(cost: float, start: float, monthly: float) -> float:
    """When so much has come in all [months]: (cost - start) / monthly, 0 if it is there; inf where nothing
    comes.

    900 to pay, 300 in hand, 150 a month:

    >>> month_for(900.0, 300.0, 150.0)
    4.0
    """
    if cost <= start + 1e-9:
        return 0.0
    return (cost - start) / monthly if monthly > 0 else inf


def balance(budget: Budget, share: float = 0.5) -> list[Bought]:
    """Every item that is still to be bought, when there is money for it, and what is left then.

    `share`: at which price between low and high. An item never comes before the one ahead of it on the list.
    What was paid is gone already: the sum to start with is what there is now.
    """
    start, cost, found = budget.start, 0.0, []
    for item in still_to_buy(budget):
        price = price_of(item, share)
        cost += price
        month = month_for(cost, start, budget.monthly)
        left = start + budget.monthly * month - cost if month < inf else start - cost
        found.append(Bought(item.id, price, month, left))
    return found


def claims(items: Sequence[Item], today: int, day_of: dict[str, int]) -> list[tuple[Item, float, int]]:
    """Price drops that may still be claimed: item, how much, days left. Days as ordinals."""
    found = []
    for item in items:
        if item.paid is None or item.seen is None or item.paid_on is None or item.seen >= item.paid:
            continue
        left = day_of[item.id] + item.claim_days - today
        if left >= 0:
            found.append((item, item.paid - item.seen, left))
    return found
