"""What is in walls and what cannot move: kinds with usual sizes, and how one becomes an opening or a fixture
of a room.
"""

from dataclasses import dataclass
from functools import cache
from typing import Literal

from purvel.catalogue.toml import read
from purvel.shop import Fixture, Opening
from purvel.shop.room import FixtureKind, OpeningKind, Role, Stands

_CORNER = 0.3048  # m from a wall's start to a first opening


@dataclass(frozen=True, slots=True, kw_only=True)
class OpeningSizes:
    """A kind of opening [m]: how it opens (by its key, if that says it), leaves, where it leads."""

    label: str
    kind: OpeningKind | None = None
    leaves: int = 1
    leads: Literal["outdoors", "house", "room"] = "outdoors"
    width: float
    head: float
    sill: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class FixtureSizes:
    """A kind of fixture [m]; `name` where a short one is better than the label. What hangs from the ceiling
    reaches up to it.
    """

    label: str
    name: str = ""
    width: float
    depth: float
    bottom: float = 0.0
    top: float
    flame: bool = False
    stands: Stands = "floor"
    role: Role | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class _Room:
    openings: dict[str, OpeningSizes]
    fixtures: dict[FixtureKind, FixtureSizes]


@cache
def _room() -> _Room:
    return read("room.toml", _Room)


def opening_kinds() -> dict[str, OpeningSizes]:
    """Kinds of opening by key, in the order of the catalogue."""
    return _room().openings


def fixture_kinds() -> dict[FixtureKind, FixtureSizes]:
    """Kinds of fixture by key, in the order of the catalogue."""
    return _room().fixtures


def make_opening(key: str, opening_id: str, wall: str) -> Opening:
    """An opening of this kind near the start of a wall."""
    one = opening_kinds()[key]
    kind: OpeningKind = one.kind or key  # type: ignore[assignment]  # a test looks at each
    return Opening(
        id=opening_id,
        kind=kind,
        wall=wall,
        offset=_CORNER,
        width=one.width,
        head=one.head,
        sill=one.sill,
        leaves=one.leaves,
        leads=one.leads,
    )


def make_fixture(
    kind: FixtureKind, fixture_id: str, x: float, y: float, ceiling: float | None = None
) -> Fixture:
    """A fixture of this kind about a plan point [m], under a ceiling of this height [m]."""
    one = fixture_kinds()[kind]
    bottom, top = one.bottom, one.top
    if one.stands == "ceiling" and ceiling is not None:
        bottom, top = max(0.5, ceiling - (top - bottom)), ceiling
    return Fixture(
        id=fixture_id,
        kind=kind,
        name=one.name or one.label,
        x=x,
        y=y,
        width=one.width,
        depth=one.depth,
        bottom=bottom,
        top=top,
        flame=one.flame,
        stands=one.stands,
        role=one.role,
    )
