"""How one end is brought onto another, in words: adapters of the generic set, else sanding or tape."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cache

from purvel.airflow.adapters import SLACK, Adapter, Chain, End, Misfit, chain
from purvel.catalogue.adapters import EndForm, sold_adapters
from purvel.review.figures import Figures


@cache
def generic_set() -> tuple[Adapter, ...]:
    """The adapters that are sold, in metres."""
    return tuple(Adapter(one.name, _end(one.one), _end(one.other)) for one in sold_adapters())


def _end(told: tuple[EndForm, float, float]) -> End:
    return End(told[0], told[1] / 1000, told[2] / 1000)


def fitted(start: End, end: End, say: Figures, slack: float = SLACK) -> Iterator[str]:
    """What leads from one end to the other, line by line."""
    found = chain(start, end, generic_set(), slack)
    if found is None:
        yield "Nothing of the generic set leads from the one to the other: print or turn one, or ask the makers."
        return
    names = [generic_set()[number].name for number in found.adapters]
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
