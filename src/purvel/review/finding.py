"""What a finding is: one plain sentence with its grade, why, on what it rests, and where."""

from dataclasses import dataclass, field
from enum import IntEnum
from typing import Literal

from purvel.shop.edits import Edit

Stage = Literal["room", "place", "ducts", "air"]
STAGES: tuple[Stage, ...] = ("room", "place", "ducts", "air")
BasisKind = Literal[
    "published limit",
    "published practice",
    "trade practice",
    "maker's figure",
    "your measurement",
    "a guess",
    "geometry",
]


class Grade(IntEnum):
    """Worst first: can hurt or cannot work; will work badly; worth knowing; checked and holds."""

    STOP = 0
    MEND = 1
    WATCH = 2
    GOOD = 3

    @property
    def word(self) -> str:
        """The grade as it is written."""
        return self.name.capitalize()


@dataclass(frozen=True, slots=True)
class Basis:
    """On what a finding rests, and how far that can be trusted."""

    kind: BasisKind
    text: str


@dataclass(frozen=True, slots=True)
class Where:
    """The place on the plan: ids of what is concerned, a point if there is one, and the gate choice in which
    it shows.
    """

    items: tuple[str, ...] = ()
    point: tuple[float, float] | None = None
    gate_set: str = ""


@dataclass(frozen=True, slots=True)
class Finding:
    """One finding. `key` names it across edits (rule and what it is about); `figures` holds its numbers in
    SI.
    """

    rule: str
    stage: Stage
    grade: Grade
    about: str
    sentence: str
    why: str
    basis: Basis
    where: Where = Where()
    figures: dict[str, float] = field(default_factory=dict)

    @property
    def key(self) -> str:
        """The same for the same question in another state of the shop."""
        return f"{self.rule}:{self.about}"


@dataclass(frozen=True, slots=True)
class Move:
    """A change that Purvel has tried: what it says on the button, the edit, and what the finding becomes."""

    label: str
    outcome: str
    edit: Edit
