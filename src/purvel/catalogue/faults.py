"""What a document asks of the catalogue that is not in it."""

from collections.abc import Iterator

from purvel.catalogue.ducts import elbows, materials
from purvel.catalogue.dust import captures, operations
from purvel.catalogue.trade import trade_operations
from purvel.shop import Shop
from purvel.shop.faults import Fault


def unknown_keys(shop: Shop) -> Iterator[Fault]:
    """A fault for each duct material, elbow or operation that the catalogue does not have.

    Kinds of things need none: things carry their own sizes.
    """
    for run in shop.ducts.runs:
        if run.material not in materials():
            yield Fault(
                run.id,
                f"The run “{run.id}” is made of “{run.material}”, which is not in the catalogue; it has"
                f" {', '.join(materials())}.",
            )
        if run.elbow not in elbows():
            yield Fault(
                run.id,
                f"The run “{run.id}” turns in elbows “{run.elbow}”, which are not in the catalogue; it has"
                f" {', '.join(elbows())}.",
            )
    for interval in shop.air.session.work:
        if interval.operation not in operations():
            yield Fault(
                interval.id,
                f"The work “{interval.id}” is “{interval.operation}”, an operation that is not in the catalogue.",
            )
        if interval.hood not in ("", "as drawn") and interval.hood not in captures():
            yield Fault(
                interval.id,
                f"The work “{interval.id}” has the hood “{interval.hood}”, which is not in the catalogue.",
            )
    for job in shop.jobs:
        for step in job.steps:
            if step.operation not in trade_operations():
                yield Fault(
                    job.id,
                    f"A step of the job “{job.id}” is “{step.operation}”, which is no operation of the catalogue.",
                )
