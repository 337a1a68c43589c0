"""The rules that proposals for ducts are laid by: what is dear in each."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Way:
    """What is dear: pipe away from walls, across joists, and elbows, so many times what they cost."""

    name: str
    away: float = 1.0
    across: float = 1.0
    elbows: float = 1.0


WAYS = (
    Way("Straight under the ceiling"),
    Way("Along the walls", away=4.0),
    Way("The fewest elbows", elbows=5.0),
)
OVER_HEADS = Way("Just over heads")  # shorter drops and riser
ALONG_JOISTS = Way("Along the joists", across=3.0)  # where it is known how they lie
