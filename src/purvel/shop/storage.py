"""Storage on walls: cleats, shelves, cabinets and racks, and the tools that have their home there."""

from dataclasses import dataclass
from typing import Annotated, Literal

from msgspec import Meta

from purvel.shop.fields import Id, Length, Name, Size

UnitKind = Literal["cleat", "shelf", "cabinet", "rack"]
Use = Literal["daily", "weekly", "rarely"]
Holding = Literal["hangs", "stands"]
"""How a tool is kept: hung on a holder from a cleat, or standing on a shelf or in a cabinet."""
Mass = Annotated[float, Meta(ge=0, le=500, description="[kg]")]


@dataclass(frozen=True, slots=True, kw_only=True)
class WallUnit:
    """Something fixed to a wall, `offset` metres from the wall's start: a cleat at height `z`, a shelf whose
    top is at `z`, a cabinet or rack whose bottom is at `z`.

    `spans` are the bays between supports of a shelf. `screw` and `per_stud` are how it is screwed to the
    studs; `lining` is what lies between it and the studs and bears nothing, such as plasterboard. `load` is
    what is on it besides the tools that have their home there.
    """

    id: Id
    kind: UnitKind
    name: Name = ""
    wall: Id
    offset: Length = 0.3
    width: Size = 1.2
    z: Length = 1.8
    height: Size = 0.1
    depth: Size = 0.02
    material: Id = "birch-ply"
    thickness: Annotated[float, Meta(gt=0, le=0.2, description="[m]")] = 0.018
    spans: Annotated[int, Meta(ge=1, le=20)] = 1
    screw: Id = "no-10"
    per_stud: Annotated[int, Meta(ge=0, le=10)] = 2
    lining: Length = 0.0
    load: Mass = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Tool:
    """A tool with its size as it is kept (width along the wall, height, depth off it), its mass, how often it
    is used, and its home: a unit, how far along that it begins, and on which unit's wall so high its foot is.
    """

    id: Id
    kind: Id = "tool"
    name: Name = ""
    width: Size = 0.1
    height: Size = 0.3
    depth: Size = 0.05
    mass: Mass = 0.5
    use: Use = "weekly"
    keeps: Holding = "hangs"
    home: Id | None = None
    along: Length = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Storage:
    """All units and tools."""

    units: Annotated[tuple[WallUnit, ...], Meta(max_length=200)] = ()
    tools: Annotated[tuple[Tool, ...], Meta(max_length=1000)] = ()
