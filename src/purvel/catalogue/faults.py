"""What a document asks of the catalogue that is not in it."""

from collections.abc import Iterator

from purvel.catalogue.ducts import elbows, materials
from purvel.shop import Shop
from purvel.shop.faults import Fault


def unknown_keys(shop: Shop) -> Iterator[Fault]:
    """A fault for each duct material or elbow that the catalogue does not have.

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
