"""Upkeep of the demo shops: days long past or far ahead, so that what they find does not hang on the
calendar.
"""

from purvel.catalogue.upkeep import duty_kinds, make_duty
from purvel.shop import Shop
from purvel.shop.upkeep import CutList, CutPart, CutStock, Duty

PAST = "2025-01-15"


def duties(shop: Shop, done_on: str | None) -> tuple[Duty, ...]:
    """What is usually due at a shop's machines, last done on a day (None: counted from today)."""
    from dataclasses import replace

    found = []
    for thing in shop.things:
        for key, kind in duty_kinds().items():
            if kind.is_for(thing):
                found.append(replace(make_duty(key, f"{key}-{thing.id}", thing), done_on=done_on))
    return tuple(found)


def cabinet(thickness: float, length: float, width: float) -> CutList:
    """A wall cabinet and two shelves out of sheets, its frame out of sticks."""
    sheet = CutStock(id="sheet", name="Sheet", length=length, width=width, thickness=thickness)
    stick = CutStock(
        id="stick", name="Frame stock", kind="stick", length=2.4384, width=0.0508, thickness=0.01905
    )
    parts = (
        CutPart(id="side", name="Side", length=0.76, width=0.30, thickness=thickness, count=4, grain="along"),
        CutPart(id="shelf", name="Shelf", length=0.88, width=0.29, thickness=thickness, count=6),
        CutPart(id="top", name="Top and bottom", length=0.90, width=0.30, thickness=thickness, count=4),
        CutPart(
            id="cut-door", name="Door", length=0.75, width=0.45, thickness=thickness, count=4, grain="along"
        ),
        CutPart(id="stile", name="Stile", length=0.76, width=0.0508, thickness=0.01905, count=8),
        CutPart(id="rail", name="Rail", length=0.40, width=0.0508, thickness=0.01905, count=6),
    )
    return CutList(parts=parts, stock=(sheet, stick))
