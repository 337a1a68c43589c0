"""The whole document and its edits: frozen dataclasses in SI units, plain data."""

from purvel.shop.air import Air, Cleaner, Session, WorkInterval
from purvel.shop.as_built import AsBuilt, FromWall
from purvel.shop.attachment import Attachment
from purvel.shop.ducts import (
    Ducts,
    Gate,
    GateSet,
    Join,
    Offcut,
    PartOpen,
    PortRef,
    Ran,
    Run,
    Switched,
    Vertex,
)
from purvel.shop.room import (
    Ceiling,
    Diagonal,
    Fixture,
    Joists,
    Offset,
    Opening,
    Room,
    Slope,
    Spot,
    Wall,
    WallHeight,
)
from purvel.shop.scene import Pose, Scene
from purvel.shop.shop import Shop, Site
from purvel.shop.things import CurvePoint, Feed, Filter, Port, Separator, Source, Stand, Stock, Thing

__all__ = [
    "AsBuilt",
    "FromWall",
    "Air",
    "Attachment",
    "Ceiling",
    "Cleaner",
    "CurvePoint",
    "Diagonal",
    "Ducts",
    "Feed",
    "Filter",
    "Fixture",
    "Gate",
    "GateSet",
    "Join",
    "Joists",
    "Offcut",
    "Offset",
    "Opening",
    "PartOpen",
    "Port",
    "PortRef",
    "Pose",
    "Ran",
    "Room",
    "Run",
    "Scene",
    "Separator",
    "Session",
    "Shop",
    "Site",
    "Slope",
    "Source",
    "Spot",
    "Stand",
    "Stock",
    "Switched",
    "Thing",
    "Vertex",
    "Wall",
    "WallHeight",
    "WorkInterval",
]
