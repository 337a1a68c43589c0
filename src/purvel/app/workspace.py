"""The workspace: the document that is being worked on, in the scene that is looked at, and its undo.

Holds no widget.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from PySide6.QtCore import QObject, Signal

from purvel.app.signals import Event
from purvel.app.view import ViewState
from purvel.files import Document
from purvel.review.figures import sentence_case
from purvel.review.scenes import standing
from purvel.shop import Fixture, Shop, Thing
from purvel.shop.edits import Edit, gone_with, remove
from purvel.shop.parts import item_of, name_of
from purvel.shop.scenes import carried_back, moved_everywhere, scene_of

UNDO_DEPTH = 500


@dataclass(frozen=True, slots=True)
class Step:
    """A state to go back to: what was done from there, the document's shop, and the scene that was shown."""

    label: str
    base: Shop
    scene: str | None


class Workspace(QObject):
    """Edits go through `apply`; everything on the screen follows `changed` and `previewed`.

    `base` is the document's shop; `shop` the same as it stands in the scene that is looked at, which is what
    is edited.
    """

    changed = Signal()
    previewed = Signal()
    _said = Signal(object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.said: Event[str] = Event(self._said)
        self.view = ViewState(self)
        self.base = self.shop = Shop()
        self.blobs: dict[str, bytes] = {}
        self._preview: tuple[Shop, Shop] | None = None  # document's and standing
        self._undo: list[Step] = []
        self._redo: list[Step] = []
        self._merge: str | None = None
        self._scene: str | None = None  # that `shop` stands in
        self.view.changed.connect(self._follow_scene)

    @property
    def shown(self) -> Shop:
        """The shop on the screen: the previewed one while a remedy is being looked at."""
        return self.shop if self._preview is None else self._preview[1]

    @property
    def shown_base(self) -> Shop:
        """The document's shop of which `shown` is the scene."""
        return self.base if self._preview is None else self._preview[0]

    @property
    def in_hand(self) -> bool:
        """Whether something is being dragged."""
        return self._merge is not None and self._merge.startswith("drag ")

    @property
    def is_previewing(self) -> bool:
        """Whether a remedy is being looked at."""
        return self._preview is not None

    @property
    def document(self) -> Document:
        """What would be saved."""
        return Document(self.base, self.blobs)

    # ---- edits

    def apply(self, edit: Edit, label: str, merge: str | None = None) -> None:
        """Makes an edit of the shop as it stands in the scene.

        Edits in a row with the same `merge` key are undone together, such as the steps of a drag.
        """
        after = edit(self.shop)
        first = merge is None or merge != self._merge
        fixed = moved_everywhere(self.shop, after) if self._scene is not None and first else []
        base = carried_back(self.base, self._scene, self.shop, after)
        self.apply_to_document(base, label, merge)
        if fixed:
            names = ", ".join(name_of(base, thing.id) for thing in fixed)
            self.said.emit(
                f"{names}: has no wheels, does not fold and is not hung, so it moves in every scene."
            )

    def apply_to_document(self, base: Shop, label: str, merge: str | None = None) -> None:
        """Takes another state of the document, whatever scene is looked at: for edits of what a scene may
        hide.
        """
        self._preview = None
        if base == self.base:
            return
        if merge is None or merge != self._merge:
            self._undo.append(Step(label, self.base, self._scene))
            del self._undo[:-UNDO_DEPTH]
        self._redo.clear()
        self._merge = merge
        self._set(base)

    def take_away(self, item: str, label: str = "Take away") -> None:
        """Takes an item away with all that hangs on it, and says what that was."""
        before, name = self.shop, name_of(self.shop, item)
        after = remove(before, item)
        gone, left = (_counted(one) for one in gone_with(before, after, item))
        if self.view.now.picked == item:
            self.pick(None)
        self.apply(lambda shop: remove(shop, item), label)
        if gone or left:
            told = [f"with it {gone}" if gone else "", f"left without it: {left}" if left else ""]
            words = "; ".join(one for one in told if one)
            self.said.emit(f"{sentence_case(name)} went, {words}. Ctrl+Z brings all of it back.")

    def end_merge(self) -> None:
        """The next edit is a step of its own."""
        self._merge = None

    def undo(self) -> None:
        """Back one step, to the scene in which it was made."""
        self._step(self._undo, self._redo)

    def redo(self) -> None:
        """Forward again, in the same scene."""
        self._step(self._redo, self._undo)

    def _step(self, source: list[Step], target: list[Step]) -> None:
        if not source:
            return
        step = source.pop()
        target.append(Step(step.label, self.base, step.scene))
        self._merge = None
        self._preview = None
        self._scene = step.scene
        self._set(step.base)

    @property
    def undo_label(self) -> str:
        """What undo would take back, empty if nothing."""
        return self._undo[-1].label if self._undo else ""

    @property
    def redo_label(self) -> str:
        """What redo would bring back, empty if nothing."""
        return self._redo[-1].label if self._redo else ""

    @property
    def steps_done(self) -> int:
        """How many steps undo could take back."""
        return len(self._undo)

    def done_since(self, step: int) -> list[str]:
        """What was done after so many steps, each kind of edit once, in order."""
        return list(dict.fromkeys(one.label for one in self._undo[step:]))

    def attach(self, document: Document, label: str, edit: Edit = lambda shop: shop) -> None:
        """Takes a document that has an attachment more, with an edit of its shop that goes with that."""
        self.blobs = dict(document.blobs)
        self.apply_to_document(edit(document.shop), label)

    def preview(self, edit: Edit | None) -> None:
        """Shows what an edit would do without making it; None goes back to the shop."""
        if edit is None and self._preview is None:
            return
        self._preview = None
        if edit is not None:
            base = carried_back(self.base, self._scene, self.shop, edit(self.shop))
            self._preview = (base, standing(base, self._scene).shop)
        self.previewed.emit()

    def _set(self, base: Shop) -> None:
        """Another state of the document; what is looked at stays as far as it is still there."""
        self.base = base
        if scene_of(base, self._scene) is None:
            self._scene = None
        self.shop = standing(base, self._scene).shop
        picked = self.picked
        if picked is not None and item_of(self.shop, picked) is None:
            picked = None
        also = tuple(one for one in self.view.now.also if item_of(self.shop, one) is not None)
        self.view.look_at(scene=self._scene, picked=picked, also=also if picked is not None else ())
        self.changed.emit()

    def _follow_scene(self) -> None:
        """Another scene is looked at: the shop stands in it."""
        wanted = self.view.now.scene
        if wanted != self._scene:
            self._scene = wanted if scene_of(self.base, wanted) else None
            self._preview = None
            self.end_merge()
            self._set(self.base)

    # ---- what is picked

    @property
    def picked(self) -> str | None:
        """The id of what is picked."""
        return self.view.now.picked

    def pick(self, item_id: str | None) -> None:
        """Picks one item, or none; the next edit is then a step of its own."""
        if item_id != self.picked or self.view.now.also:
            self.end_merge()
            self.view.pick(item_id)

    @property
    def picked_body(self) -> Thing | Fixture | None:
        """The picked thing or fixture; None where something else is picked, or nothing."""
        item = item_of(self.shop, self.picked)
        return item if isinstance(item, Thing | Fixture) else None

    # ---- another document

    def open(self, shop: Shop, blobs: Mapping[str, bytes] | None = None) -> None:
        """Takes a document into the workspace, as drawn; what was there is given up."""
        self._undo.clear()
        self._redo.clear()
        self._merge = self._preview = self._scene = None
        self.blobs = dict(blobs or {})
        self.view.look_at(scene=None, picked=None, also=(), gate_set=None, open_finding=None)
        self._set(shop)


def _counted(parts: Mapping[str, int]) -> str:
    """“3 runs and 1 gate set”."""
    words = [f"{count} {key}{'s' if count > 1 else ''}" for key, count in parts.items()]
    return " and ".join(words)
