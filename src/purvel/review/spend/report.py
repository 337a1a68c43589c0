"""Spend's share of the report: abilities, items with when there is money for them, orders."""

from collections.abc import Iterator
from math import inf
from typing import Any

from purvel.catalogue import trade_operations
from purvel.catalogue.money import schools
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.spend.answers import SpendAnswers
from purvel.review.spend.rules import money, months
from purvel.review.stage import Table
from purvel.shop.parts import item_of, name_of


def report(answers: Answers) -> dict[str, Any]:
    """`abilities` and `spending`."""
    spend, budget = answers.of(SpendAnswers), answers.shop.budget
    ordered = bool(spend.candidates) and bool(spend.wants)
    return {
        "abilities": [
            {
                "operation": key,
                "wanted": spend.wants.get(key, 0.0),
                "now": spend.how(key),
                "after": spend.how(key, after=True),
            }
            for key in trade_operations()
        ],
        "spending": {
            "currency": budget.currency,
            "start": budget.start,
            "monthly": budget.monthly,
            "items": [_item(answers, spend, number) for number in range(len(spend.steps))],
            "best_order": list(spend.best().items) if ordered else None,
            "best_area": spend.area_of(spend.best().items) if ordered else None,
            "area": spend.area_of(tuple(one.id for one in spend.candidates)) if ordered else None,
            "schools": [
                {"school": key, "order": list(spend.school(key))} for key in schools() if spend.candidates
            ],
        },
    }


def _item(answers: Answers, spend: SpendAnswers, number: int) -> dict[str, Any]:
    step, ready = spend.steps[number], spend.ready(item_of(answers.shop, spend.steps[number].item))
    return {
        "item": step.item,
        "price": step.price,
        "month": None if step.month == inf else step.month,
        "left": step.left,
        "has_place": ready.place,
        "has_circuit": ready.circuit,
        "has_dust": ready.dust,
    }


def tables(answers: Answers, say: Figures) -> Iterator[Table]:
    """The buying list, and what can be done."""
    spend, budget = answers.of(SpendAnswers), answers.shop.budget
    if spend.steps:
        rows = []
        for step in spend.steps:
            item = item_of(answers.shop, step.item)
            band = f"{money(item.low, budget.currency)} to {money(item.high, budget.currency)}, {item.known}"
            lacks = ", ".join(spend.ready(item).lacks)
            rows.append(
                (
                    name_of(answers.shop, step.item),
                    band,
                    months(step.month),
                    money(step.left, budget.currency),
                    lacks,
                )
            )
        yield Table("Buying list", ("What", "Price", "There is money", "Left then", "Still lacks"), rows)
    if answers.shop.jobs:
        able: list[tuple[str, ...]] = [
            (trade_operations()[key].name, spend.how(key) or "not", spend.how(key, after=True) or "not")
            for key in spend.wants
            if key in trade_operations()
        ]
        yield Table("What your jobs need", ("Operation", "Now", "With the list"), able)
