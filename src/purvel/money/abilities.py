"""What can be done with what is there: operations of the trade by the machines and hand tools at hand."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence

from purvel.catalogue import trade_operations
from purvel.catalogue.trade import RANK, HowWell
from purvel.shop.jobs import Job

WORTH: dict[HowWell, float] = {"well": 1.0, "fair": 0.6, "rough": 0.3}  # of an operation done well [a guess]


def best(operation: str, kinds: Collection[str]) -> HowWell | None:
    """How well an operation is done by the kinds that are there; None where none of them does it."""
    by = trade_operations()[operation].by if operation in trade_operations() else {}
    found: list[HowWell] = [how for kind, how in by.items() if kind in kinds]
    return sorted(found, key=lambda how: RANK[how])[0] if found else None


def wanted(jobs: Sequence[Job]) -> dict[str, float]:
    """How much each operation is wanted: walks that jobs make for it a month, at least once each."""
    found: dict[str, float] = {}
    for job in jobs:
        for step in job.steps:
            found[step.operation] = found.get(step.operation, 0.0) + max(job.per_month, 0.25)
    return found


def ability(kinds: Collection[str], wants: Mapping[str, float]) -> float:
    """How much of what is wanted can be done, and how well: wants weighed by what each is worth."""
    total = 0.0
    for operation, weight in wants.items():
        how = best(operation, kinds)
        total += weight * (WORTH[how] if how is not None else 0.0)
    return total
