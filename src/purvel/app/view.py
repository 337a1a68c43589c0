"""What is looked at.

It is not in the document: looking elsewhere changes nothing and asks for no review, but for another scene.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from PySide6.QtCore import QObject, Signal

from purvel.review.finding import Key


@dataclass(frozen=True, slots=True)
class View:
    """Ids of what is looked at: the stage, the scene (None: as drawn), the choice of gates, what runs
    together, what is picked, and what else is picked `also`, the open finding; and which of a stage's layers.
    """

    stage: str = "room"
    scene: str | None = None
    gate_set: str | None = None
    together: str | None = None
    layer: str | None = None
    picked: str | None = None
    also: tuple[str, ...] = ()
    open_finding: Key | None = None


class ViewState(QObject):
    """The one view that all widgets show; `changed` tells that it is another one now."""

    changed = Signal()

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.now = View()

    def look_at(self, **changes: Any) -> None:
        """Looks at something else."""
        view = replace(self.now, **changes)
        if view != self.now:
            self.now = view
            self.changed.emit()

    def pick(self, item_id: str | None) -> None:
        """Picks one item alone, or none."""
        self.look_at(picked=item_id, also=())

    def pick_also(self, item_id: str) -> None:
        """Picks one thing more, or lets it go again."""
        now = self.now
        ids = [one for one in (now.picked, *now.also) if one is not None]
        ids = [one for one in ids if one != item_id] if item_id in ids else [*ids, item_id]
        self.look_at(picked=ids[0] if ids else None, also=tuple(ids[1:]))
