"""The stages in the order of the work.

Each is loaded and made when it is first shown, so that the first window need not wait for the others.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from importlib import import_module
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from purvel.app.stages.stage import Stage


@dataclass(frozen=True, slots=True)
class StageEntry:
    """What is known of a stage before it is made: the key of its findings, its title and the question that
    its screen answers.
    """

    key: str
    title: str
    question: str
    maker: str


STAGE_LIST = (
    StageEntry("room", "Room", "Does the tape walk close?", "RoomStage"),
    StageEntry("place", "Place", "Can this board be fed here?", "PlaceStage"),
    StageEntry("ducts", "Ducts", "Does this gate choice keep chips moving?", "DuctsStage"),
    StageEntry("air", "Air", "How long does the dust hang?", "AirStage"),
)


def number_of(key: str) -> int:
    """Where the stage with these findings stands."""
    return next(number for number, entry in enumerate(STAGE_LIST) if entry.key == key)


class Stages:
    """The stages by number, made by `make` when first asked for."""

    def __init__(self, make: "Callable[[type[Stage]], Stage]") -> None:
        self._make = make
        self._made: dict[int, Stage] = {}

    def __getitem__(self, number: int) -> "Stage":
        if number not in self._made:
            entry = STAGE_LIST[number]
            self._made[number] = self._make(
                getattr(import_module(f"purvel.app.stages.{entry.key}.stage"), entry.maker)
            )
        return self._made[number]

    def made(self) -> "Iterable[Stage]":
        """Those that there are so far."""
        return tuple(self._made.values())
