"""The stages' windows in the order of the work.

Each is loaded and made when it is first shown, so that the first window need not wait for the others.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from importlib import import_module
from typing import TYPE_CHECKING

from purvel.review.stage import Stage as Record
from purvel.review.stages import stage_of

if TYPE_CHECKING:
    from purvel.app.sheets.pages import Page
    from purvel.app.stages.stage import Stage


@dataclass(frozen=True, slots=True)
class Entry:
    """The window of a stage: the class `maker` in `purvel.app.stages.<key>.stage`."""

    key: str
    maker: str
    has_pages: bool = False  # whether `purvel.app.stages.<key>.pages` has pages for the binder

    def pages(self) -> "tuple[Page, ...]":
        """What the stage draws in the binder."""
        if not self.has_pages:
            return ()
        pages: tuple[Page, ...] = import_module(f"purvel.app.stages.{self.key}.pages").PAGES
        return pages

    @property
    def record(self) -> Record:
        """What the core knows of the stage."""
        return stage_of(self.key)


ENTRIES = (
    Entry("room", "RoomStage"),
    Entry("place", "PlaceStage", has_pages=True),
    Entry("flow", "FlowStage", has_pages=True),
    Entry("power", "PowerStage", has_pages=True),
    Entry("ducts", "DuctsStage", has_pages=True),
    Entry("air", "AirStage", has_pages=True),
    Entry("walls", "WallsStage", has_pages=True),
    Entry("spend", "SpendStage"),
    Entry("keep", "KeepStage", has_pages=True),
)


def entry_of(key: str) -> Entry:
    """The entry of the stage with this key."""
    return next(entry for entry in ENTRIES if entry.key == key)


class Stages:
    """The stages by key, made by `make` when first asked for."""

    def __init__(self, make: "Callable[[type[Stage]], Stage]") -> None:
        self._make = make
        self._made: dict[str, Stage] = {}

    def __getitem__(self, key: str) -> "Stage":
        if key not in self._made:
            module = import_module(f"purvel.app.stages.{key}.stage")
            self._made[key] = self._make(getattr(module, entry_of(key).maker))
        return self._made[key]

    def made(self) -> "Iterable[Stage]":
        """Those that there are so far."""
        return tuple(self._made.values())
