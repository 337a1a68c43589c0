"""What is carried and where it comes from: the load as a person holds it, its start, its place on the way."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from math import cos, hypot, radians, sin

from purvel.libraries import shapely
from purvel.shop import Stock
from purvel.shop.jobs import Held
from purvel.space.traverse import Point

KNUCKLE, SHOULDER = 0.43, 0.818  # of stature [Drillis and Contini 1966; knuckle confidence M]
# of stature: what lies on the hands, half way from wrist to elbow [a guess between 0.485 and 0.63]
HANDS = 0.55
_OFF_FLOOR = 0.10  # m: what is carried on edge clears the floor by this


@dataclass(frozen=True, slots=True)
class Load:
    """What is carried: length and width [m] of the board or sheet, its thickness, how it is held, and its
    lower edge above the floor; `id` tells it from other loads.
    """

    length: float
    width: float
    thickness: float
    held: Held
    low: float
    id: str = ""

    @property
    def across(self) -> float:
        """Its width on the plan [m]."""
        return self.width if self.held == "flat" else self.thickness

    @property
    def high(self) -> float:
        """Its upper edge above the floor [m]."""
        return self.low + (self.thickness if self.held == "flat" else self.width)

    @property
    def radius(self) -> float:
        """From its middle to a corner on the plan [m]."""
        return hypot(self.length, self.across) / 2


def load_of(stock: Stock, held: Held, stature: float, load_id: str = "") -> Load:
    """Stock as a person of this stature [m] carries it: flat on the hands; on edge with its
    lower edge at the knuckles, lower where it would stand above the shoulder.
    """
    low = HANDS * stature
    if held == "on edge":
        low = max(_OFF_FLOOR, min(KNUCKLE, SHOULDER - stock.width / stature) * stature)
    return Load(stock.length, stock.width, stock.thickness, held, low, load_id)


@dataclass(frozen=True, slots=True)
class Start:
    """Where it comes from: an opening, walked straight through or with a yard before it, or a rack.

    `item` is the opening or the thing; `yard` that there is open ground before the opening.
    """

    item: str
    yard: bool = False


@dataclass(frozen=True, slots=True)
class Place:
    """Where what is carried is on its way: its middle [m] and its heading [deg]."""

    x: float
    y: float
    heading: float


@lru_cache(maxsize=512)
def outline(length: float, across: float, place: Place) -> tuple[Point, ...]:
    """The corners of what is carried at a place [m]."""
    c, s = cos(radians(place.heading)), sin(radians(place.heading))
    x, y = length / 2, across / 2
    return tuple(
        (place.x + c * a - s * b, place.y + s * a + c * b) for a, b in ((-x, -y), (x, -y), (x, y), (-x, y))
    )


def outline_polygon(load: Load, place: Place) -> shapely.Polygon:
    return shapely.Polygon(outline(load.length, load.across, place))
