"""What stands on the floor: machines, benches, storage, collectors, cleaners.

Each carries its own sizes, so a shop reads without a catalogue.

A thing's own frame has its origin at the middle of its footprint, x to the right and y ahead of the person
who works at it.
"""

from dataclasses import dataclass
from math import cos, radians, sin
from typing import Annotated, Literal

from msgspec import Meta

from purvel.shop.air import Cleaner
from purvel.shop.as_built import AsBuilt
from purvel.shop.fields import (
    Coefficient,
    Coordinate,
    Degrees,
    Diameter,
    Flow,
    Id,
    Length,
    Name,
    Need,
    Pressure,
    Provenance,
    Share,
    Size,
)
from purvel.shop.money import Day
from purvel.shop.power import Plate

Carries = Literal["dust", "chips"]
"""What a port gives off: fine dust and sawdust, or shavings and chips, which take a faster stream."""
SourceKind = Literal["vac", "collector", "cyclone"]
Facing = Literal["right", "away", "left", "near", "up", "down"]
Lies = Literal["on edge", "across"]
"""How a board lies in an operation that its machine's feed does not say: fed standing on its edge, or across
the feed.
"""


@dataclass(frozen=True, slots=True, kw_only=True)
class Stock:
    """A board as it is fed: length along the feed, width across, thickness."""

    length: Size = 2.4384
    width: Size = 0.2032
    thickness: Annotated[float, Meta(gt=0, le=1, description="[m]")] = 0.01905


@dataclass(frozen=True, slots=True, kw_only=True)
class Feed:
    """Where stock meets the cutter, in the thing's own frame, and which way it moves or lies (0 = to the
    right, 90 = away from the worker).

    `how`: the board is fed through; it lies still and is cut across, as at a mitre saw; or it is turned about
    the mark, as at a drill press, which is in its middle unless `at_end`. `throws` says that a blade or
    cutter can throw it back against the feed.
    """

    x: Coordinate = 0.0
    y: Coordinate = 0.0
    direction: Degrees = 90.0
    sheets: bool = False
    how: Literal["through", "across", "round"] = "through"
    at_end: bool = False
    throws: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Stand:
    """The floor that a person needs to work here: a rectangle in the thing's own frame."""

    x: Coordinate
    y: Coordinate
    width: Size = 0.9
    depth: Size = 0.9


@dataclass(frozen=True, slots=True, kw_only=True)
class Port:
    """A dust port, in the thing's own frame, z above the thing's base. `entry_loss` is on the velocity
    pressure in the port.

    The two needs are the flows that published practice asks for: to clear the chips, and to catch the fine
    dust too, of this port's share: a machine with two ports shares one need between them. `needs_from` says
    what those rest on, `carries` what comes out of it, and `faces` which way a pipe leaves it straight, in
    the thing's own frame (None: not known, and no turn is counted there).
    """

    id: Id
    x: Coordinate = 0.0
    y: Coordinate = 0.0
    z: Length = 0.3
    diameter: Diameter = 0.1
    entry_loss: Coefficient = 1.0
    chips_flow: Need = 0.165
    fine_flow: Need = 0.33
    needs_from: Literal["published", "trade", "own"] = "trade"
    carries: Carries = "chips"
    faces: Facing | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class CurvePoint:
    """One point of a source's curve: flow [m3/s] and pressure [Pa]."""

    flow: Flow
    pressure: Pressure


@dataclass(frozen=True, slots=True, kw_only=True)
class Filter:
    """A filter medium of `area` m2 with resistance [Pa s/m] (pressure = resistance x flow / area)."""

    area: Annotated[float, Meta(gt=0, le=1000, description="[m2]")]
    resistance: Annotated[float, Meta(ge=0, le=1e7, description="[Pa s/m]")]
    medium: Annotated[str, Meta(max_length=60)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Separator:
    """A cyclone, bucket or drum ahead of the filter; its loss is on the velocity pressure in its inlet, its
    `ballast` what was put into its foot.
    """

    kind: Literal["cyclone", "bucket", "drum"]
    inlet_diameter: Diameter
    loss: Coefficient
    ballast: Annotated[float, Meta(ge=0, le=200, description="[kg]")] = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Source:
    """A vac, collector or cyclone: its curve and what stands between its inlet and the room.

    `pressure_is` says what the curve's pressure means: total pressure of the blower; static pressure at its
    outlet (its discharge is then already counted); or static suction measured in the inlet duct. `density` is
    the air density that the curve was taken at, `speed` the share of that curve's speed with which a fan
    turns (a vac's motor finds its own). `curve_from` says what is known of it; `sealed` and `open_flow` are
    the user's own readings of its most suction and most flow, None where there are none. `efficiency` is what
    its filter holds back of each of the four size classes; `outdoors` says that it blows out of the room.
    """

    kind: SourceKind
    curve: Annotated[tuple[CurvePoint, ...], Meta(min_length=2, max_length=200)]
    pressure_is: Literal["total", "outlet static", "inlet suction"] = "total"
    density: Annotated[float, Meta(ge=0.5, le=2.0, description="[kg/m3]")] = 1.2014
    inlet_x: Coordinate = 0.0
    inlet_y: Coordinate = 0.0
    inlet_z: Length = 1.0
    inlet_diameter: Diameter = 0.15
    inlet_direction: Degrees = 0.0
    outlet_diameter: Diameter = 0.15
    discharge_loss: Coefficient = 1.0
    filter: Filter | None = None
    behind: Filter | None = None
    separator: Separator | None = None
    curve_from: Literal["representative", "maker", "plate", "measured"] = "representative"
    speed: Annotated[float, Meta(ge=0.2, le=2.0, description="[-]")] = 1.0
    sealed: Annotated[float, Meta(ge=100, le=50_000, description="[Pa]")] | None = None
    open_flow: Annotated[float, Meta(ge=0.005, le=5, description="[m3/s]")] | None = None
    efficiency: tuple[Share, Share, Share, Share] = (0.5, 0.9, 0.98, 0.999)
    outdoors: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Thing:
    """One thing with its pose: the middle of its footprint at (x, y), turned by `angle`, its base `z` above
    the floor.

    Width runs along its own x, depth along its own y. `slots` are where mitre slots run along its depth, by
    their own x. What has `wheels` turns on the spot if they are `castors`; on fixed wheels or skids it
    keeps its heading. `folded_depth` is what is left of the depth when it folds against its back, None
    where it does not; `hung` things are taken off their wall. `settled` things have been lived with; the
    others are on trial, since a day that may be known. `built` are the places where it was found standing,
    the last one last. `mass` and `noise` are None where they are not known. `plate` is what it draws (None:
    what its kind usually does), `outlet` where it is plugged in (None: the nearest that fits) and `cord`
    the conductor of its cord.
    """

    id: Id
    kind: Id
    name: Name = ""
    x: Coordinate = 0.0
    y: Coordinate = 0.0
    angle: Degrees = 0.0
    z: Length = 0.0
    width: Size
    depth: Size
    height: Size
    work_height: Size | None = None
    feed: Feed | None = None
    stand: Stand | None = None
    slots: Annotated[tuple[Coordinate, ...], Meta(max_length=6)] = ()
    ports: Annotated[tuple[Port, ...], Meta(max_length=8)] = ()
    source: Source | None = None
    cleaner: Cleaner | None = None
    stock: Stock | None = None
    wheels: bool = False
    castors: bool = True
    folded_depth: Size | None = None
    hung: bool = False
    settled: bool = False
    trial_since: Day | None = None
    built: Annotated[tuple[AsBuilt, ...], Meta(max_length=100)] = ()
    mass: Annotated[float, Meta(gt=0, le=10_000, description="[kg]")] | None = None
    noise: Annotated[float, Meta(gt=0, le=140, description="[dB(A)] where one works at it")] | None = None
    plate: Plate | None = None
    outlet: Id | None = None
    cord: Id | None = None
    provenance: Provenance = "plate"

    @property
    def is_movable(self) -> bool:
        """Whether it can stand elsewhere in another scene: it rolls, folds or is hung."""
        return self.wheels or self.folded_depth is not None or self.hung

    def spot(self, x: float, y: float) -> tuple[float, float]:
        """A point of the thing's own frame on the plan [m]."""
        c, s = cos(radians(self.angle)), sin(radians(self.angle))
        return (self.x + c * x - s * y, self.y + s * x + c * y)

    def covers(self, x: float, y: float) -> bool:
        """Whether it stands over a plan point [m]."""
        c, s = cos(radians(self.angle)), sin(radians(self.angle))
        dx, dy = x - self.x, y - self.y
        return abs(c * dx + s * dy) < self.width / 2 and abs(c * dy - s * dx) < self.depth / 2
