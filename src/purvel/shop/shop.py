"""The whole document."""

from dataclasses import dataclass
from typing import Annotated

from msgspec import Meta

from purvel.quantities.systems import System
from purvel.shop.air import Air
from purvel.shop.attachment import Attachment
from purvel.shop.ducts import Ducts
from purvel.shop.fields import Length, Name, Text
from purvel.shop.jobs import Job
from purvel.shop.money import Budget
from purvel.shop.power import Power
from purvel.shop.room import Room
from purvel.shop.scene import Scene
from purvel.shop.storage import Storage
from purvel.shop.things import Stock, Thing
from purvel.shop.upkeep import Upkeep


@dataclass(frozen=True, slots=True, kw_only=True)
class Site:
    """Where the shop is, for the density of its air."""

    altitude: Annotated[float, Meta(ge=-430, le=6000, description="[m]")] = 0.0
    temperature: Annotated[float, Meta(ge=-20, le=50, description="[degC]")] = 20.0
    humidity: Annotated[float, Meta(ge=0, le=1, description="relative [-]")] = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Person:
    """Who works here: how tall, for what hands reach and how high things are carried."""

    stature: Annotated[float, Meta(ge=1.2, le=2.3, description="[m]")] = 1.73


@dataclass(frozen=True, slots=True, kw_only=True)
class Shop:
    """One shop. `stock` is the board that lanes are drawn for; `hand_room` the room kept at both ends of a
    lane.
    """

    name: Name = "New shop"
    units: System = "imperial"
    room: Room = Room()
    things: Annotated[tuple[Thing, ...], Meta(max_length=500)] = ()
    ducts: Ducts = Ducts()
    air: Air = Air()
    jobs: Annotated[tuple[Job, ...], Meta(max_length=60)] = ()
    person: Person = Person()
    power: Power = Power()
    storage: Storage = Storage()
    budget: Budget = Budget()
    upkeep: Upkeep = Upkeep()
    scenes: Annotated[tuple[Scene, ...], Meta(max_length=40)] = ()
    attachments: Annotated[tuple[Attachment, ...], Meta(max_length=64)] = ()
    site: Site = Site()
    stock: Stock = Stock()
    hand_room: Length = 0.6096
    notes: Text = ""

    def thing(self, thing_id: str) -> Thing | None:
        """The thing with this id."""
        return next((thing for thing in self.things if thing.id == thing_id), None)
