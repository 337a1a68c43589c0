"""What a duct system is made of once it is understood: a tree of segments with their fittings, gates and
hoods.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import pi
from typing import Literal

from purvel.airflow.paths import Path
from purvel.shop import Source
from purvel.shop.things import Carries

FittingKind = Literal["elbow", "reducer", "widening", "gate", "turn-off", "own"]


@dataclass(frozen=True, slots=True)
class Fitting:
    """A loss in a segment: its coefficient on the segment's own velocity pressure [-], and as published on
    that of `section` [m]; the `turn` of an elbow [deg], the `wide` end of a taper [m].
    """

    kind: FittingKind
    name: str
    loss: float
    section: float
    loss_there: float
    turn: float = 0.0
    wide: float = 0.0


@dataclass(frozen=True, slots=True)
class Hood:
    """A machine's port at the end of a segment."""

    thing: str
    port: str
    diameter: float
    entry_loss: float
    chips_flow: float
    fine_flow: float
    carries: Carries = "chips"


@dataclass(frozen=True, slots=True)
class Leaks:
    """Where air comes in that no hood asked for: the gap [m] all round a shut gate, and the opening at each
    joint [m2] (both low confidence). 0 is sealed.
    """

    gate_gap: float
    joint_area: float = 0.0


@dataclass(frozen=True, slots=True)
class Friction:
    """How a wall slows the air: roughness [m] and what slack multiplies friction by [-]."""

    roughness: float
    multiplier: float = 1.0


@dataclass(frozen=True, slots=True)
class Segment:
    """A piece of one run between two branch points, from its downstream (fan) end to its upstream (hood) end.

    `downstream` is the index of the segment it flows into, -1 for the source. `begins` and `ends` are
    metres along the run as drawn. `role` is what it is called. `multiplier` raises friction for slack hose.
    `hose` is the friction at the smooth and at the rough end of what is known of hose, None for pipe. `gaps`
    are how wide each of its gates gapes when it is shut [m], None: as gates of the system do.
    """

    id: str
    run: str
    downstream: int
    begins: float
    ends: float
    path: Path
    diameter: float
    roughness: float
    multiplier: float
    length: float
    role: str
    fittings: tuple[Fitting, ...]
    gates: tuple[str, ...]
    hood: Hood | None
    is_branch: bool
    angle: float
    hose: tuple[Friction, Friction] | None = None
    gaps: tuple[float | None, ...] = ()

    @property
    def area(self) -> float:
        """Cross-section [m2]."""
        return pi / 4 * self.diameter**2


@dataclass(frozen=True, slots=True)
class SecondSource:
    """A second source: its thing, what it is, and the index of the segment that ends at its inlet."""

    thing: str
    source: Source
    segment: int


@dataclass(frozen=True, slots=True)
class Layout:
    """The tree of one source: segments with every downstream one before its upstream ones. `others` are
    sources that pull at the same line.

    Runs that share its inlet meet there without a loss.
    """

    source_thing: str
    source: Source
    segments: tuple[Segment, ...]
    others: tuple[SecondSource, ...] = ()

    @property
    def sources(self) -> tuple[tuple[str, Source], ...]:
        """All that pull, by thing; the one that the tree starts at first."""
        return ((self.source_thing, self.source), *((one.thing, one.source) for one in self.others))

    @property
    def either_way(self) -> frozenset[int]:
        """Indices of segments that lie between two sources: air may go through them either way."""
        return frozenset(index for one in self.others for index in self.way(one.segment))

    @property
    def hoods(self) -> tuple[int, ...]:
        """Indices of segments that end at a hood."""
        return tuple(i for i, segment in enumerate(self.segments) if segment.hood is not None)

    def joints(self) -> dict[int, list[int]]:
        """For each segment that others flow into, their indices."""
        found: dict[int, list[int]] = {}
        for index, segment in enumerate(self.segments):
            if segment.downstream >= 0:
                found.setdefault(segment.downstream, []).append(index)
        return found

    def way(self, index: int) -> tuple[int, ...]:
        """Indices from a segment down to the source."""
        found = []
        while index >= 0:
            found.append(index)
            index = self.segments[index].downstream
        return tuple(found)
