"""Electricity and light: circuits, outlets, what runs along, luminaires."""

from dataclasses import dataclass
from typing import Annotated, Literal

from msgspec import Meta

from purvel.shop.fields import Coordinate, Degrees, Id, Length, Name, Share

Service = Literal["120/240", "230"]
"""Split phase of 120 and 240 V, or 230 V."""
Volts = Literal[120, 230, 240]
Amps = Annotated[float, Meta(ge=0, le=400, description="[A]")]
Watts = Annotated[float, Meta(ge=0, le=50_000, description="[W]")]


@dataclass(frozen=True, slots=True, kw_only=True)
class Plate:
    """What a machine's plate says of its input: at which voltage, amps or watts."""

    volts: Volts
    amps: Amps | None = None
    watts: Watts | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Circuit:
    """One circuit from the panel: its voltage, the rating of its breaker, its conductors, how far they run
    one way (None: reckoned along the walls), and whether a residual current trips it (GFCI, RCD).
    """

    id: Id
    name: Name = ""
    volts: Volts = 120
    rating: Annotated[float, Meta(gt=0, le=200, description="[A]")] = 20.0
    conductor: Id = "awg-12"
    run: Length | None = None
    residual: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Outlet:
    """An outlet: in a wall `offset` metres from its start, or overhead at (`x`, `y`); its height and
    circuit.
    """

    id: Id
    name: Name = ""
    wall: Id | None = None
    offset: Length = 0.0
    x: Coordinate = 0.0
    y: Coordinate = 0.0
    height: Length = 1.1
    circuit: Id | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Luminaire:
    """A light: its middle on the plan, its height, its length along `angle`, what it gives [lm], takes [W],
    and the angle from straight down at which it is half as bright as below.
    """

    id: Id
    kind: Id = "batten"
    name: Name = ""
    x: Coordinate = 0.0
    y: Coordinate = 0.0
    z: Length = 2.4
    angle: Degrees = 0.0
    length: Length = 0.0
    lumens: Annotated[float, Meta(ge=0, le=200_000, description="[lm]")] = 4000.0
    watts: Watts = 36.0
    half_angle: Annotated[float, Meta(ge=5, le=80, description="[deg]")] = 60.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Appliance:
    """What else is on a circuit: a heater, a freezer, a charger. `is_long`: for three hours or more."""

    id: Id
    name: Name = ""
    watts: Watts = 1500.0
    volts: Volts = 120
    circuit: Id | None = None
    is_long: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class Power:
    """All of it. `along` are the things and appliances that run along with whatever runs; `lights` the
    circuit that the luminaires are on.

    `upkeep` is the share of light left by dirt and age; reflectances of ceiling, walls and floor [-].
    """

    service: Service = "120/240"
    circuits: Annotated[tuple[Circuit, ...], Meta(max_length=60)] = ()
    outlets: Annotated[tuple[Outlet, ...], Meta(max_length=200)] = ()
    appliances: Annotated[tuple[Appliance, ...], Meta(max_length=60)] = ()
    along: Annotated[tuple[Id, ...], Meta(max_length=60)] = ()
    luminaires: Annotated[tuple[Luminaire, ...], Meta(max_length=200)] = ()
    lights: Id | None = None
    upkeep: Annotated[float, Meta(gt=0, le=1, description="[-]")] = 0.7
    ceiling: Share = 0.7
    walls: Share = 0.5
    floor: Share = 0.2
