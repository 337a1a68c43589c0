"""What a finding is: one plain sentence with its grade, why, on what it rests, and where."""

from dataclasses import dataclass, field
from enum import IntEnum
from typing import Literal

from purvel.shop.edits import Edit

BasisKind = Literal[
    "published limit",
    "published practice",
    "trade practice",
    "maker's figure",
    "your measurement",
    "a guess",
    "geometry",
]
Key = tuple[str | None, str, tuple[str, ...]]
"""What tells a finding from others: scene, rule, ids of what it is about. Never a name."""


HURTS = frozenset(
    (
        "panel-space",
        "blown-out",
        "duct-in-door",
        "circuit",
        "door-swing",
        "cord-in-the-way",
        "duct-collapse",
        "overload",
    )
)
"""Rules that tell of what can hurt, which are taken first."""


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
    """The place on the plan: ids of what is concerned, a point if there is one, the id of the gate choice in
    which it shows.
    """

    items: tuple[str, ...] = ()
    point: tuple[float, float] | None = None
    gate_set: str | None = None


@dataclass(frozen=True, slots=True)
class Finding:
    """One finding. `about` are the ids of what it speaks of, a gate choice among them; `figures` holds its
    numbers in SI.

    A rule says all but `stage` and `scene`, which the review adds.
    """

    rule: str
    grade: Grade
    about: tuple[str, ...]
    sentence: str
    why: str
    basis: Basis
    where: Where = Where()
    figures: dict[str, float] = field(default_factory=dict)
    stage: str = ""
    scene: str | None = None

    def placed(self, stage: str, scene: str | None) -> "Finding":
        """The finding with its stage and scene, its sentence begun as one, whatever name it begins with
        (`dataclasses.replace` is slow).
        """
        said = (
            self.rule,
            self.grade,
            self.about,
            self.sentence[:1].upper() + self.sentence[1:],
            self.why,
            self.basis,
            self.where,
            self.figures,
        )
        return Finding(*said, stage, scene)

    @property
    def key(self) -> Key:
        """The same for the same question in another state of the shop."""
        return (self.scene, self.rule, self.about)


@dataclass(frozen=True, slots=True)
class Remedy:
    """A change that Purvel has tried: what it says on the button, the edit, what the finding becomes, and
    the minutes of work that it is guessed to be, None where that cannot be told.
    """

    label: str
    outcome: str
    edit: Edit
    effort: float | None = None
