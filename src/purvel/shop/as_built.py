"""Where things were found standing, by readings from one of their corners."""

from dataclasses import dataclass
from typing import Annotated, Literal

from msgspec import Meta

from purvel.shop.fields import Degrees, Id, Length
from purvel.shop.money import Day

Corner = Literal["front left", "front right", "back right", "back left"]
"""A corner of a footprint, as whoever works at it sees it."""


@dataclass(frozen=True, slots=True, kw_only=True)
class FromWall:
    """How far a corner is from a wall, square to it."""

    wall: Id
    distance: Length


@dataclass(frozen=True, slots=True, kw_only=True)
class AsBuilt:
    """Where a thing stood on a day: one of its corners by its distances from one or two walls, and its angle
    (None: as drawn).
    """

    day: Day
    corner: Corner
    distances: Annotated[tuple[FromWall, ...], Meta(max_length=2)] = ()
    angle: Degrees | None = None
