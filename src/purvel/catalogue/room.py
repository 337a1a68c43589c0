"""What is in walls and what cannot move: kinds with usual sizes, and how one becomes an opening or a fixture
of a room.
"""

from dataclasses import dataclass
from functools import cache

from purvel.catalogue.toml import read
from purvel.shop import Fixture, Opening
from purvel.shop.room import FixtureKind, OpeningKind

_CORNER = 0.3048  # m from a wall's start to a first opening


@dataclass(frozen=True, slots=True, kw_only=True)
class OpeningSizes:
    """A kind of opening [m]."""

    label: str
    width: float
    head: float
    sill: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class FixtureSizes:
    """A kind of fixture [m]; `name` where a short one is better than the label."""

    label: str
    name: str = ""
    width: float
    depth: float
    bottom: float = 0.0
    top: float
    flame: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class _Room:
    openings: dict[OpeningKind, OpeningSizes]
    fixtures: dict[FixtureKind, FixtureSizes]


@cache
def _room() -> _Room:
    return read("room.toml", _Room)


def opening_kinds() -> dict[OpeningKind, OpeningSizes]:
    """Kinds of opening by key, in the order of the catalogue."""
    return _room().openings


def fixture_kinds() -> dict[FixtureKind, FixtureSizes]:
    """Kinds of fixture by key, in the order of the catalogue."""
    return _room().fixtures


def make_opening(kind: OpeningKind, opening_id: str, wall: str) -> Opening:
    """An opening of this kind near the start of a wall."""
    one = opening_kinds()[kind]
    return Opening(
        id=opening_id, kind=kind, wall=wall, offset=_CORNER, width=one.width, head=one.head, sill=one.sill
    )


def make_fixture(kind: FixtureKind, fixture_id: str, x: float, y: float) -> Fixture:
    """A fixture of this kind about a plan point [m]."""
    one = fixture_kinds()[kind]
    return Fixture(
        id=fixture_id,
        kind=kind,
        name=one.name or one.label,
        x=x,
        y=y,
        width=one.width,
        depth=one.depth,
        bottom=one.bottom,
        top=one.top,
        flame=one.flame,
    )
