"""Kinds of machine, bench, rack, collector and cleaner, and how one becomes a thing in a shop."""

from dataclasses import dataclass
from functools import cache
from typing import Literal

from purvel.catalogue.dust import cleaners
from purvel.catalogue.toml import read
from purvel.shop import CurvePoint, Feed, Filter, Port, Separator, Source, Stand, Thing
from purvel.shop.things import Carries, Facing

CFM = 0.3048**3 / 60.0  # m3/s, exact
# dB(A): from here on hearing protection is offered (EU 2003/10/EC, lower action value over 8 h; high)
LOUD = 80.0
INCH_WATER_GAUGE = 249.08891  # Pa, conventional: water at 4 degC, standard gravity


@dataclass(frozen=True, slots=True, kw_only=True)
class PortKind:
    """A port of a kind; needs in cfm, as they are published."""

    id: str
    x: float
    y: float
    z: float
    diameter: float
    entry_loss: float
    chips_cfm: float
    fine_cfm: float
    needs: Literal["published", "trade"] = "trade"
    carries: Carries = "chips"
    faces: Facing | None = None

    def port(self) -> Port:
        """The port in SI."""
        return Port(
            id=self.id,
            x=self.x,
            y=self.y,
            z=self.z,
            diameter=self.diameter,
            entry_loss=self.entry_loss,
            chips_flow=self.chips_cfm * CFM,
            fine_flow=self.fine_cfm * CFM,
            needs_from=self.needs,
            carries=self.carries,
            faces=self.faces,
        )


Fire = Literal["sparks", "sweeps"]
"""What a kind has to do with fire: it throws sparks, or sweeps up metal that strikes them."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Kind:
    """A generic kind as the catalogue lists it: mass in kg, noise in dB(A) where one works, what it cannot do
    that others of its use can.
    """

    name: str
    group: str
    use: Literal["bench", "outfeed", "store"] | None = None
    fire: Fire | None = None
    width: float
    depth: float
    height: float
    mass: float
    noise: float | None = None
    base: float = 0.0
    work_height: float | None = None
    feed: Feed | None = None
    stand: Stand | None = None
    slots: tuple[float, ...] = ()
    ports: tuple[PortKind, ...] = ()
    operation: str | None = None
    source: str | None = None
    cleaner: str | None = None
    wheels: bool = False
    hung: bool = False
    folded_depth: float | None = None
    cannot: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class _Inlet:
    x: float
    y: float
    z: float
    diameter: float
    direction: float


@dataclass(frozen=True, slots=True, kw_only=True)
class _SourceKind:
    kind: str
    points: tuple[tuple[float, float], ...]
    inlet: _Inlet
    outlet_diameter: float
    efficiency: tuple[float, float, float, float]
    filter: Filter | None = None
    separator: Separator | None = None

    def source(self) -> Source:
        return Source(
            kind=self.kind,  # type: ignore[arg-type]  # checked by the catalogue's test
            curve=tuple(
                CurvePoint(flow=cfm * CFM, pressure=inches * INCH_WATER_GAUGE) for cfm, inches in self.points
            ),
            inlet_x=self.inlet.x,
            inlet_y=self.inlet.y,
            inlet_z=self.inlet.z,
            inlet_diameter=self.inlet.diameter,
            inlet_direction=self.inlet.direction,
            outlet_diameter=self.outlet_diameter,
            filter=self.filter,
            separator=self.separator,
            efficiency=self.efficiency,
        )


@cache
def kinds() -> dict[str, Kind]:
    """Kinds by key, in the order of the catalogue."""
    return {
        key: kind
        for name in ("machines.toml", "benches.toml", "household.toml")
        for key, kind in read(name, dict[str, Kind]).items()
    }


@cache
def kinds_that(fire: Fire) -> frozenset[str]:
    """Kinds that throw sparks, or that sweep up what strikes them."""
    return frozenset(key for key, kind in kinds().items() if kind.fire == fire)


@cache
def uses() -> dict[str, str]:
    """What benches, tables and racks are for, by kind."""
    return {key: kind.use for key, kind in kinds().items() if kind.use is not None}


@cache
def _sources() -> dict[str, _SourceKind]:
    return read("sources.toml", dict[str, _SourceKind])


def make_thing(
    kind: str, thing_id: str, x: float = 0.0, y: float = 0.0, angle: float = 0.0, name: str = ""
) -> Thing:
    """A thing of this kind with the catalogue's sizes. Raises KeyError for a kind that is not there."""
    one = kinds()[kind]
    return Thing(
        id=thing_id,
        kind=kind,
        name=name or one.name,
        x=x,
        y=y,
        angle=angle,
        z=one.base,
        width=one.width,
        depth=one.depth,
        height=one.height,
        work_height=one.work_height,
        feed=one.feed,
        stand=one.stand,
        slots=one.slots,
        ports=tuple(port.port() for port in one.ports),
        source=_sources()[one.source].source() if one.source else None,
        cleaner=cleaners()[one.cleaner].cleaner() if one.cleaner else None,
        wheels=one.wheels,
        hung=one.hung,
        folded_depth=one.folded_depth,
        mass=one.mass,
        noise=one.noise,
    )
