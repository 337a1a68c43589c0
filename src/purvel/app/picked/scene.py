"""The form for a scene: its name, open doors, parked cars, and how each movable thing is in it."""

from functools import partial

from purvel.app.picked.form import Form
from purvel.app.widgets.fields import ChoiceField, text_field
from purvel.shop import Thing
from purvel.shop.edits import set_state
from purvel.shop.parts import name_of
from purvel.shop.scene import Scene, State


def states_of(thing: Thing) -> tuple[tuple[State, str], ...]:
    """How a movable thing can be in a scene, with words."""
    found: list[tuple[State, str]] = [("set up", "set up"), ("stowed", "stowed, not worked at")]
    if thing.folded_depth is not None:
        found.append(("folded", "folded"))
    if thing.hung:
        found.append(("hung", "hung up"))
    return (*found, ("put away", "put away"))


class SceneForm(Form):
    """A scene."""

    def build(self) -> None:
        base = self.workspace.base
        self.field("Scene", text_field("Name of the scene"), "name")
        self.tick("Nobody works in it", "asleep")
        if base.room.openings:
            self.note("Open are:")
        for opening in base.room.openings:
            kind = opening.kind.capitalize() + ("" if opening.kind == "window" else " door")
            self._among("opened", opening.id, f"{kind}, wall {opening.wall}")
        bays = [fixture for fixture in base.room.fixtures if fixture.acts == "bay"]
        if bays:
            self.note("A car stands in:")
        for bay in bays:
            self._among("parked", bay.id, name_of(base, bay.id))
        movable = [thing for thing in base.things if thing.is_movable]
        for thing in movable:
            name = name_of(base, thing.id)
            state = ChoiceField(f"{name} is", states_of(thing))
            self.row(name, state, partial(self._state, thing.id), partial(self._set_state, thing.id))
        self.note(
            "What is moved on the plan while a scene is looked at moves in that scene only."
            if movable
            else "Nothing here has wheels, folds or is hung, so all stands as drawn in every scene. Pick a thing"
            " and tick “On wheels” to move it from scene to scene."
        )

    def shape(self) -> object:
        base = self.workspace.base
        return (
            tuple((one.kind, one.wall) for one in base.room.openings),
            tuple((name_of(base, one.id), one.kind) for one in base.room.fixtures),
            tuple((name_of(base, one.id), states_of(one)) for one in base.things if one.is_movable),
        )

    def _among(self, key: str, item: str, words: str) -> None:
        """A tick for whether an id is among those of the scene."""

        def write(on: bool) -> None:
            ids = [one for one in getattr(self.now, key) if one != item]
            self.put(words, **{key: (*ids, item) if on else tuple(ids)})

        self.tick_row(words, lambda scene: item in getattr(scene, key), write, is_name=True)

    def _state(self, thing: str, scene: Scene) -> State:
        return next((pose.state for pose in scene.poses if pose.thing == thing), "set up")

    def _set_state(self, thing: str, state: State) -> None:
        base = self.workspace.base
        self.workspace.apply_to_document(
            set_state(base, self.item, thing, state), f"{name_of(base, thing)}: {state}"
        )

    def fault(self, changed: object) -> str:
        name = getattr(changed, "name", "")
        others = (one.name for one in self.workspace.base.scenes if one.id != self.item)
        if not name.strip():
            return "A scene needs a name."
        return f"There is a scene “{name}” already." if name in others else ""
