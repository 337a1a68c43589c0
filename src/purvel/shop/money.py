"""Money: what is to be bought, for how much, in which order, and what is left."""

from dataclasses import dataclass
from typing import Annotated, Literal

from msgspec import Meta

from purvel.shop.fields import Id, Name, Text

Group = Literal["machine", "tool", "dust", "wiring", "ducts", "board", "freight", "base", "blade", "other"]
Known = Literal["guess", "seen", "quote"]
Money = Annotated[float, Meta(ge=0, le=1e7, description="in the budget's currency")]
Day = Annotated[str, Meta(pattern=r"^\d{4}-\d{2}-\d{2}$", description="YYYY-MM-DD")]


@dataclass(frozen=True, slots=True, kw_only=True)
class Item:
    """Something to be bought, in the order of the list.

    `kind` is the catalogue's kind that it is, `thing` what stands for it in the plan; `low` and `high` its
    price and `known` how that is known. `needs` must be bought before it. Once `paid` it is bought: on which
    day, and how many days a lower price may be claimed back; `seen` is the lowest price seen since.
    """

    id: Id
    name: Name = ""
    group: Group = "machine"
    kind: Id | None = None
    thing: Id | None = None
    low: Money = 0.0
    high: Money = 0.0
    known: Known = "guess"
    needs: Annotated[tuple[Id, ...], Meta(max_length=20)] = ()
    paid: Money | None = None
    paid_on: Day | None = None
    claim_days: Annotated[int, Meta(ge=0, le=365)] = 0
    seen: Money | None = None
    regret: Text = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Budget:
    """What there is to spend: a sum that is there now and so much a month."""

    currency: Annotated[str, Meta(max_length=4)] = "$"
    start: Money = 0.0
    monthly: Money = 0.0
    items: Annotated[tuple[Item, ...], Meta(max_length=300)] = ()
