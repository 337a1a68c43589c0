"""What machines take, conductors, luminaires, light that tasks ask for."""

from dataclasses import dataclass
from functools import cache

from purvel.catalogue.toml import read
from purvel.shop.power import Luminaire


@dataclass(frozen=True, slots=True, kw_only=True)
class PlateKind:
    """What a kind usually takes: shaft power of its motor [hp], or input [W]."""

    hp: float | None = None
    watts: float | None = None
    long: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Motor:
    """Full-load current of a single-phase motor [A]."""

    hp: float
    at_115: float
    at_230: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Conductor:
    """A copper conductor: resistance one way when warm, the largest breaker that is usual on it [A], and
    whether cords are made of it.
    """

    name: str
    ohm_per_km: float
    breaker: float
    cord: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class LuminaireKind:
    """A generic luminaire [m, lm, W, deg]."""

    name: str
    length: float
    lumens: float
    watts: float
    half_angle: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Tasks:
    """Light that a task asks for [lx]."""

    machine: float
    bench: float
    finish: float
    store: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Utilisation:
    """Utilisation factor by room index."""

    index: tuple[float, ...]
    factor: tuple[float, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class _Power:
    plates: dict[str, PlateKind]
    motors: tuple[Motor, ...]
    conductors: dict[str, Conductor]
    luminaires: dict[str, LuminaireKind]
    tasks: Tasks
    utilisation: Utilisation


@cache
def _power() -> _Power:
    return read("power.toml", _Power)


def plate_kinds() -> dict[str, PlateKind]:
    """What kinds of machine usually take."""
    return _power().plates


def motors() -> tuple[Motor, ...]:
    """Motors by size."""
    return _power().motors


def conductors() -> dict[str, Conductor]:
    """Conductors by key, the thinnest of each standard first."""
    return _power().conductors


def luminaire_kinds() -> dict[str, LuminaireKind]:
    """Kinds of luminaire by key."""
    return _power().luminaires


def light_tasks() -> Tasks:
    """Light that tasks ask for."""
    return _power().tasks


def utilisation() -> Utilisation:
    """Utilisation factors of down-facing panels and strips."""
    return _power().utilisation


def make_luminaire(kind: str, luminaire_id: str, x: float, y: float, z: float) -> Luminaire:
    """A luminaire of this kind. Raises KeyError for a kind that is not there."""
    one = luminaire_kinds()[kind]
    return Luminaire(
        id=luminaire_id,
        kind=kind,
        name=one.name,
        x=x,
        y=y,
        z=z,
        length=one.length,
        lumens=one.lumens,
        watts=one.watts,
        half_angle=one.half_angle,
    )
