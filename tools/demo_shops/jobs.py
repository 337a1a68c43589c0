"""Jobs of the demo shops."""

from dataclasses import replace

from purvel.catalogue import ready_jobs
from purvel.quantities.systems import System
from purvel.shop.jobs import Job


def job(key: str, system: System, without: tuple[str, ...] = (), **changes: object) -> Job:
    """A ready job without some of its steps."""
    made = ready_jobs()[key].job(f"job-{key}", system)
    steps = tuple(step for step in made.steps if step.operation not in without)
    return replace(made, steps=steps, **changes)
