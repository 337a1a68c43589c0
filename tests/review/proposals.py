"""What rules propose before anything is tried, as data."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import fields
from itertools import islice
from typing import Any

from purvel.review import Finding, Memory, Review
from purvel.review.figures import Figures
from purvel.review.reviewing import first_review, whole_review
from purvel.review.stages import stage_of
from purvel.shop import Shop
from purvel.shop.parts import PARTS

Changed = dict[str, dict[str, Any]]
"""By item the fields that are otherwise, of a new item all of them; none where it is gone."""


def changed(before: Shop, after: Shop) -> Changed:
    """What is otherwise in a shop, by item; `shop` stands for what is no item."""
    found: Changed = {}
    for part in PARTS:
        old = {part.id_of(item): item for item in part.get(before)}
        new = {part.id_of(item): item for item in part.get(after)}
        for name in old | new:
            if name not in new:
                found[name] = {}
            elif old.get(name) != new[name]:
                found[name] = {
                    one.name: getattr(new[name], one.name)
                    for one in fields(new[name])
                    if name not in old or getattr(old[name], one.name) != getattr(new[name], one.name)
                }
    return found


def reviewed(shop: Shop, rule: str, which: int = 0) -> tuple[Review, Finding]:
    """A review with the finding of a rule; with long searches only if those find it."""
    told = first_review(shop, Memory())
    if not any(one.rule == rule for one in told.findings):
        told = whole_review(told)
    return told, [one for one in told.findings if one.rule == rule][which]


def proposals(shop: Shop, rule: str, which: int = 0) -> Iterator[tuple[str, Changed]]:
    """What is proposed for the finding of a rule, in order: label, and what it changes."""
    told, finding = reviewed(shop, rule, which)
    tries = stage_of(finding.stage).remedies[rule](finding, told.answers, Figures(shop.units))
    return ((label, changed(shop, edit(shop))) for label, edit, *_ in tries)


def proposed(shop: Shop, rule: str, which: int = 0, most: int = 40) -> list[tuple[str, Changed]]:
    """The first of them."""
    return list(islice(proposals(shop, rule, which), most))
