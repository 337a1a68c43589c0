"""How one end is brought onto another, in words: adapters of the generic set, else sanding or tape."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cache

from purvel.airflow.adapters import MATES, SLACK, Adapter, Chain, End, Misfit, chain
from purvel.catalogue.adapters import sold_adapters
from purvel.review.figures import Figures
from purvel.shop import AdapterEnd, OwnAdapter, Shop
from purvel.shop.ducts import EndForm
from purvel.shop.edits import fresh_id


@cache
def generic_set() -> tuple[Adapter, ...]:
    """The adapters that are sold, in metres."""
    return tuple(
        Adapter(one.name, _end(one.one, one.threads[0]), _end(one.other, one.threads[1]))
        for one in sold_adapters()
    )


def _end(told: tuple[EndForm, float, float], thread: str) -> End:
    return End(told[0], told[1] / 1000, told[2] / 1000, thread)


def own_set(shop: Shop) -> tuple[Adapter, ...]:
    """The adapters of one's own, first where they do as well."""
    return tuple(Adapter(one.name or one.id, _own(one.one), _own(one.other)) for one in shop.ducts.adapters)


def _own(end: AdapterEnd) -> End:
    return End(end.form, end.least, end.most, end.thread)


def between(start: End, end: End, shop: Shop, say: Figures) -> OwnAdapter:
    """The adapter that would lead from one end to the other by itself, for one's own set."""

    def mate(one: End) -> AdapterEnd:
        return AdapterEnd(form=MATES[one.form], least=one.least, most=one.most, thread=one.thread)

    def called(one: End) -> str:
        return one.thread or say.size(one.least)

    name = f"Own: {called(start)} {MATES[start.form]} to {called(end)} {MATES[end.form]}"
    return OwnAdapter(id=fresh_id(shop, "adapter"), name=name, one=mate(start), other=mate(end))


def fitted(
    start: End, end: End, say: Figures, own: tuple[Adapter, ...] = (), slack: float = SLACK
) -> Iterator[str]:
    """What leads from one end to the other, line by line."""
    there = (*own, *generic_set())
    found = chain(start, end, there, slack)
    if found is None:
        yield "Nothing of the generic set leads from the one to the other: print or turn one, or ask the makers."
        return
    names = [there[number].name for number in found.adapters]
    yield from _said(found, names, say)


def _said(found: Chain, names: list[str], say: Figures) -> Iterator[str]:
    if not names and found.misfit is None:
        yield "They fit as they are."
        return
    if names:
        yield f"{len(names)} adapter{'s' if len(names) > 1 else ''}: {', then '.join(names)}."
    if found.misfit is not None:
        before = names[found.misfit.joint] if found.misfit.joint < len(names) else "the other end"
        yield f"Before {before}: {_worked(found.misfit, say)}."


def _worked(misfit: Misfit, say: Figures) -> str:
    if misfit.sand > 0:
        return f"sand {say.thickness(misfit.sand)} off the diameter of what goes in"
    return (
        f"wrap {misfit.layers} layers of tape round what goes in, or a sleeve with a wall of"
        f" {say.thickness(misfit.fill / 2)}"
    )
