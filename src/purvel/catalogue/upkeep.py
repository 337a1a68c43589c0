"""What operations take off, how bulky it falls, and what is due by use."""

from dataclasses import dataclass
from functools import cache
from typing import Literal

from purvel.catalogue.toml import read
from purvel.shop.things import Thing
from purvel.shop.upkeep import Duty, DutyKind

How = Literal["end cut", "long cut", "resaw", "face", "edge", "groove", "share"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Removal:
    """What an operation takes off a piece: how, of what size [m, or share], and as which waste it falls."""

    how: How
    size: float
    waste: str


@dataclass(frozen=True, slots=True, kw_only=True)
class DutyKindOf:
    """A duty that things of a kind have: `at` a source, a cleaner, or kinds divided by commas."""

    name: str
    kind: DutyKind
    at: str
    every_hours: float
    every_days: int

    def is_for(self, thing: Thing) -> bool:
        """Whether a thing has it."""
        if self.at == "source":
            return thing.source is not None
        if self.at == "cleaner":
            return thing.cleaner is not None
        return thing.kind in self.at.split(",")


@dataclass(frozen=True, slots=True, kw_only=True)
class _Upkeep:
    waste: dict[str, tuple[float, float]]
    removal: dict[str, Removal]
    duties: dict[str, DutyKindOf]


@cache
def _upkeep() -> _Upkeep:
    return read("upkeep.toml", _Upkeep)


def waste() -> dict[str, tuple[float, float]]:
    """Loose bulk density of waste [kg/m3], low and high."""
    return _upkeep().waste


def removals() -> dict[str, Removal]:
    """What operations take off."""
    return _upkeep().removal


def duty_kinds() -> dict[str, DutyKindOf]:
    """What is due at things, by key."""
    return _upkeep().duties


def make_duty(key: str, duty_id: str, thing: Thing) -> Duty:
    """A duty at a thing."""
    one = duty_kinds()[key]
    name = f"{one.name}: {thing.name or thing.id}"
    return Duty(
        id=duty_id,
        kind=one.kind,
        name=name,
        thing=thing.id,
        every_hours=one.every_hours,
        every_days=one.every_days,
    )
