"""The header's scene chooser: which scene is looked at, and new ones, copies and changes of scenes."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial

from PySide6.QtGui import QActionGroup
from PySide6.QtWidgets import QMenu, QToolButton

from purvel.app.reviews import Reviews
from purvel.app.widgets.words import set_tip
from purvel.app.workspace import Workspace
from purvel.review.scenes import AS_DRAWN, scene_name
from purvel.shop import Shop
from purvel.shop.edits import copy_scene, new_scene

LONGEST = 18  # letters of a scene's name on the button

SceneCommand = tuple[str, Callable[[], object]]


class SceneChooser(QToolButton):
    """Shows the scene that is looked at; its menu has all of them, each with how much there is to mend."""

    def __init__(self, workspace: Workspace, reviews: Reviews) -> None:
        super().__init__()
        self.workspace, self.reviews = workspace, reviews
        self.setObjectName("scene")
        set_tip(
            self,
            "The scene that is looked at: what stands where, which doors are open, whether the car is in",
        )
        self.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(self)
        menu.aboutToShow.connect(self._fill)
        self.setMenu(menu)

    def show_scene(self, shop: Shop, scene: str | None) -> None:
        """Names the scene on the button."""
        name = scene_name(shop, scene)
        shown = name if len(name) <= LONGEST else name[: LONGEST - 1].rstrip() + "…"
        self.setText(f"Scene: {shown} ▾".replace("&", "&&"))
        self.setAccessibleName(f"Scene: {name}")

    def _fill(self) -> None:
        menu, shop, now = self.menu(), self.workspace.base, self.workspace.view.now.scene
        menu.clear()
        group = QActionGroup(menu)
        for scene in (None, *(one.id for one in shop.scenes)):
            name = "As drawn" if scene is None else scene_name(shop, scene)
            action = menu.addAction(f"{name}{self._count(scene)}".replace("&", "&&"))
            action.setCheckable(True)
            action.setChecked(scene == now)
            group.addAction(action)
            action.triggered.connect(lambda _=False, one=scene: self.look_at(one))
        menu.addSeparator()
        for label, act in self._changes():
            menu.addAction(label).triggered.connect(lambda _=False, do=act: do())

    def _count(self, scene: str | None) -> str:
        count = self.reviews.to_mend(scene)
        return "" if count is None else f": {count} to mend" if count else ": nothing to mend"

    def _changes(self) -> Iterator[SceneCommand]:
        now = self.workspace.view.now.scene
        yield "New scene", self.new
        if now is not None:
            yield "Copy this scene", self.copy
            yield "Change or take away this scene", partial(self.workspace.pick, now)

    def commands(self) -> Iterator[SceneCommand]:
        """What the finder offers of scenes."""
        shop = self.workspace.base
        for scene in (None, *(one.id for one in shop.scenes)):
            yield f"Look at the scene “{scene_name(shop, scene)}”", partial(self.look_at, scene)
        yield from self._changes()

    # ---- what is done

    def look_at(self, scene: str | None) -> None:
        """Looks at a scene, or at the shop as drawn."""
        self.workspace.view.look_at(scene=scene, open_finding=None)

    def new(self) -> None:
        """A scene more, as drawn; it is looked at, and its form is open for its name."""
        shop, scene = new_scene(self.workspace.base, self._free_name("Scene"))
        self._add(shop, scene, "New scene")

    def copy(self) -> None:
        """A copy of the scene that is looked at."""
        now = self.workspace.view.now.scene
        if now is not None:
            name = self._free_name(f"{scene_name(self.workspace.base, now)}, copy")
            shop, scene = copy_scene(self.workspace.base, now, name)
            self._add(shop, scene, "Copy a scene")

    def _add(self, shop: Shop, scene: str, label: str) -> None:
        self.workspace.apply_to_document(shop, label)
        self.look_at(scene)
        self.workspace.pick(scene)

    def _free_name(self, wanted: str) -> str:
        names = {one.name for one in self.workspace.base.scenes} | {AS_DRAWN}
        number, name = 1, wanted if wanted != "Scene" else "Scene 1"
        while name in names:
            number += 1
            name = f"{wanted} {number}"
        return name
