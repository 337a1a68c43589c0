"""Jobs: what is made again and again, as steps at stations, with the stock that is carried between them."""

from dataclasses import dataclass
from typing import Annotated, Literal

from msgspec import Meta

from purvel.shop.fields import Id, Minutes, Name
from purvel.shop.things import Stock

Held = Literal["flat", "on edge"]
"""How a board or sheet is carried: lying on the hands, or upright under the arm."""


@dataclass(frozen=True, slots=True, kw_only=True)
class JobStep:
    """One step: the trade's operation, where it is done (None: at the station that does it best here), the
    stock as it is carried there (None: as in the step before), how many walks there, and minutes of work.
    """

    operation: Id
    station: Id | None = None
    stock: Stock | None = None
    walks: Annotated[int, Meta(ge=1, le=1000)] = 1
    minutes: Minutes = 10.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Job:
    """A job: its steps in order, the stock as it comes in and by which door or from which rack (None: the
    widest door), whether there is a `yard` before that door to turn in, how it is held, and how often a
    month it is done.
    """

    id: Id
    name: Name = ""
    steps: Annotated[tuple[JobStep, ...], Meta(max_length=60)] = ()
    stock: Stock = Stock()
    comes_from: Id | None = None
    yard: bool = True
    held: Held = "flat"
    density: Annotated[float, Meta(ge=50, le=2000, description="[kg/m3]")] = 650.0
    per_month: Annotated[float, Meta(ge=0, le=1000, description="[1/month]")] = 1.0
