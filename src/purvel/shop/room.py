"""The room: walls as they were taped, openings, what cannot move, the ceiling."""

from dataclasses import dataclass
from typing import Annotated, Literal

from msgspec import Meta

from purvel.shop.fields import CONTROLS, Coordinate, Degrees, Id, Length, Name, Provenance, Size

OpeningKind = Literal["swing", "sliding", "roll-up", "tilting", "window"]
FixtureKind = Annotated[str, Meta(min_length=1, max_length=60, pattern=f"^[^{CONTROLS}]*$")]
"""A key of the catalogue, or the user's own."""
Role = Literal["body", "panel", "bay", "kept clear"]
"""What a fixture does: stands in the way; needs working space before it too; is floor for a car; is floor
that nothing may stand on.
"""
Stands = Literal["floor", "wall", "ceiling"]
_ROLES: dict[str, Role] = {"panel": "panel", "parking bay": "bay"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Wall:
    """One wall as read off the tape along its inner face, and the turn into the next one.

    `turn` is the change of heading at the wall's end, left positive: 90 at every corner of a rectangle walked
    with the room on the left; `turn_error` its standard deviation (0: as such turns are mostly read). Studs
    stand every `stud_spacing` metres from `first_stud` on (0: not known).
    """

    id: Id
    length: Annotated[float, Meta(gt=0, le=200, description="[m]")]
    turn: Degrees = 90.0
    turn_error: Annotated[float, Meta(ge=0, le=45, description="[deg]")] = 0.0
    stud_spacing: Annotated[float, Meta(ge=0, le=3, description="[m]")] = 0.0
    first_stud: Length = 0.0
    provenance: Provenance = "measured"


@dataclass(frozen=True, slots=True, kw_only=True)
class Diagonal:
    """A length read straight across, between the corners where two walls start."""

    id: Id
    start: Id
    end: Id
    length: Annotated[float, Meta(gt=0, le=200, description="[m]")]
    provenance: Provenance = "measured"


@dataclass(frozen=True, slots=True, kw_only=True)
class Offset:
    """How far a spot is from the corner where a wall starts."""

    corner: Id
    length: Annotated[float, Meta(gt=0, le=200, description="[m]")]
    provenance: Provenance = "measured"


@dataclass(frozen=True, slots=True, kw_only=True)
class Spot:
    """A place in the room read from two corners or more; of the two places that two lengths leave, the one in
    the room.
    """

    id: Id
    name: Name = ""
    offsets: Annotated[tuple[Offset, ...], Meta(min_length=2, max_length=12)]


@dataclass(frozen=True, slots=True, kw_only=True)
class WallHeight:
    """The height of the room read at a wall, `along` metres from its start."""

    id: Id
    wall: Id
    along: Length = 0.0
    height: Size
    provenance: Provenance = "measured"


@dataclass(frozen=True, slots=True, kw_only=True)
class Opening:
    """A door or window in a wall. `offset` runs from the wall's start to the opening's near edge along the
    inner face.

    `is_open` lets long stock run out through it, `outside` metres beyond the wall's inner face. `hinge` is
    the jamb (near the wall's start or its end) that a swing door hangs on and `swing` the side it opens to.
    `leads` says whether outdoor air comes in through it. A swing door has one leaf, or two that meet in its
    middle. `headroom` is the height that a roll-up or tilting
    door sweeps above its head.
    """

    id: Id
    kind: OpeningKind
    wall: Id
    offset: Length
    width: Size
    head: Size
    sill: Length = 0.0
    hinge: Literal["start", "end"] = "start"
    swing: Literal["in", "out"] = "in"
    leaves: Annotated[int, Meta(ge=1, le=2)] = 1
    is_open: bool = False
    outside: Length = 3.048
    entry: bool = False
    leads: Literal["outdoors", "house", "room"] = "outdoors"
    headroom: Length = 0.3556
    provenance: Provenance = "measured"


@dataclass(frozen=True, slots=True, kw_only=True)
class Fixture:
    """Something that cannot move: a rectangle about (x, y), turned by `angle`, from `bottom` to `top` above
    the floor.

    `stands` says whether it is on the floor, with its back to a wall, or hangs from the ceiling: a beam, a
    low duct or a dropped ceiling limits the height under it. `flame` marks an ignition source. A parking bay
    is floor to be kept clear at night, not a body; while it is `taken` the car stands in it. `role` null: by
    the kind.
    """

    id: Id
    kind: FixtureKind
    name: Name = ""
    x: Coordinate
    y: Coordinate
    angle: Degrees = 0.0
    width: Size
    depth: Size
    bottom: Length = 0.0
    top: Length = 2.5
    flame: bool = False
    taken: bool = False
    stands: Stands = "floor"
    role: Role | None = None
    provenance: Provenance = "measured"

    @property
    def acts(self) -> Role:
        """What it does."""
        return self.role or _ROLES.get(self.kind, "body")

    @property
    def is_body(self) -> bool:
        """Whether it stands in the way."""
        return self.acts in ("body", "panel") or (self.acts == "bay" and self.taken)


@dataclass(frozen=True, slots=True, kw_only=True)
class Slope:
    """A sloping ceiling that starts `low` above the floor at a wall and reaches the flat ceiling `run` metres
    into the room.
    """

    wall: Id
    low: Length
    run: Size


@dataclass(frozen=True, slots=True, kw_only=True)
class Joists:
    """What carries the ceiling: timbers along a wall, the first so far from it, then one after another at a
    spacing [m].
    """

    wall: Id
    spacing: Annotated[float, Meta(gt=0, le=3, description="[m]")] = 0.4064
    first: Length = 0.4064


@dataclass(frozen=True, slots=True, kw_only=True)
class Ceiling:
    """The flat ceiling's height, what slopes down from it and what carries it."""

    height: Size = 2.4384
    joists: Joists | None = None
    slopes: Annotated[tuple[Slope, ...], Meta(max_length=20)] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Room:
    """Walls in the order they were taped.

    The first starts at (`x`, `y`) and heads `heading` degrees from the plan's x axis.
    """

    walls: Annotated[tuple[Wall, ...], Meta(max_length=200)] = ()
    openings: Annotated[tuple[Opening, ...], Meta(max_length=200)] = ()
    fixtures: Annotated[tuple[Fixture, ...], Meta(max_length=500)] = ()
    ceiling: Ceiling = Ceiling()
    diagonals: Annotated[tuple[Diagonal, ...], Meta(max_length=200)] = ()
    spots: Annotated[tuple[Spot, ...], Meta(max_length=200)] = ()
    heights: Annotated[tuple[WallHeight, ...], Meta(max_length=200)] = ()
    x: Coordinate = 0.0
    y: Coordinate = 0.0
    heading: Degrees = 0.0
