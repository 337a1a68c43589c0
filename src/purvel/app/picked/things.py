"""The form for a thing: sizes, ports, and the source or cleaner that it may be."""

from dataclasses import replace
from functools import partial
from typing import Any

from purvel.app.picked.cleaner import CleanerForm
from purvel.app.picked.form import PROVENANCES
from purvel.app.picked.money import day_field
from purvel.app.picked.plate import has_plate, plate_rows, plate_shape
from purvel.app.picked.scene import states_of
from purvel.app.picked.set_out import set_out_rows, set_out_shape
from purvel.app.picked.source import SourceForm
from purvel.app.widgets.fields import ChoiceField, number_field, quantity_field, text_field
from purvel.catalogue import LOUD, duct_sizes, kinds
from purvel.quantities import units_for
from purvel.shop import Source, Thing
from purvel.shop.edits import set_state
from purvel.shop.parts import name_of
from purvel.shop.scene import Pose, State
from purvel.shop.scenes import scene_of

FACES = (
    (None, "not known"),
    ("right", "to the right"),
    ("away", "away from you"),
    ("left", "to the left"),
    ("near", "towards you"),
    ("up", "up"),
    ("down", "down"),
)
CARRIES = (("chips", "shavings and chips"), ("dust", "sawdust and dust"))
HOW = (
    ("through", "fed through"),
    ("across", "still, cut across"),
    ("round", "turned about a mark"),
)


_SLOT = 0.14  # m from the blade to a mitre slot, as is usual


def _slot(number: int, thing: Thing) -> float:
    return thing.slots[number]


class ThingForm(CleanerForm, SourceForm):
    """A thing."""

    def build(self) -> None:
        thing = self.now
        self.field("Name", text_field("Name"), "name")
        if self._is_about_power:
            plate_rows(self)
            return
        if self._scene is not None:
            self._in_scene()
        if not self._is_folded:
            self._sizes()
        self.field("Stands at", self.length("Base above the floor", 0.0, 10.0), "z")
        turned = number_field("Angle", "°", least=-360, most=360)
        self.row("Turned", turned, lambda one: one.angle, lambda value: self.put("Turn", angle=value % 360))
        self.field("Sizes were", ChoiceField("How the sizes were got", PROVENANCES), "provenance")
        self._moving()
        self._weighs()
        if thing.feed is not None:
            self._feed()
        if thing.stand is not None:
            self._stand()
        if thing.work_height is not None:
            self._slots()
        for number in range(len(thing.ports)):
            self._port(number)
        if self._scene is None:
            set_out_rows(self)
        if thing.source is not None:
            self._source()
        if thing.cleaner is not None:
            self._cleaner()

    @property
    def _is_about_power(self) -> bool:
        """In the stage of power a machine is its plate, its outlet and its cord."""
        return self.workspace.view.now.stage == "power" and has_plate(self.now)

    def _sizes(self) -> None:
        for key, word, least in (
            ("width", "Width", 0.05),
            ("depth", "Depth", 0.05),
            ("height", "Height", 0.02),
        ):
            self.field(word, self.length(word, least, 20.0), key)
        if self.now.work_height is not None:
            self.field("Table height", self.length("Table height", 0.02, 3.0), "work_height")

    def _moving(self) -> None:
        """By what it can stand elsewhere in another scene."""
        self.tick("On wheels", "wheels")
        if self.now.wheels:
            self.tick("Its wheels turn all ways", "castors")
        self.tick("Hung up, can be taken down", "hung")
        if not self._is_folded:
            self.tick_row("Folds flat", lambda one: one.folded_depth is not None, self._set_folding)
            if self.now.folded_depth is not None:
                self.field("Depth when folded", self.length("Depth when folded", 0.01, 5.0), "folded_depth")
        self.tick("Fixed: leave it where it is", "settled")
        if not self.now.settled:
            self.field("On trial since", day_field("Day since which it is on trial"), "trial_since")

    def _weighs(self) -> None:
        """What it weighs, how loud it is, and what its kind cannot do."""
        units = units_for(self.workspace.shop.units)
        if self.now.mass is not None:
            self.field("Weighs", quantity_field("Mass", units.mass, least=0.1, most=10_000.0), "mass")
        if self.now.noise is not None:
            self.field("Noise", number_field("Noise where you work", "dB(A)", least=20, most=140), "noise")
            if self.now.noise >= LOUD:
                self.note("Loud in the cut: wear hearing protection.")
        kind = kinds().get(self.now.kind)
        if kind is not None and kind.cannot:
            self.note(f"What it cannot do: {kind.cannot}.")

    # ---- the work at it

    def _feed(self) -> None:
        """Where stock meets the cutter, how it lies there, and its own board."""
        how = ChoiceField("How the board lies", HOW)
        self.inner("The board is", how, lambda one: one.feed, "how", self._put_feed)
        for key, word, name in (
            ("x", "Cutter, right", "Cutter right of middle"),
            ("y", "Cutter, back", "Cutter behind middle"),
        ):
            self.inner(word, self.length(name, -10.0, 10.0), lambda one: one.feed, key, self._put_feed)
        if self.now.feed.how == "round":
            self.tick_row(
                "Held at its end", lambda one: one.feed.at_end, lambda on: self._put_feed(at_end=on)
            )
        elif self.now.feed.how == "through":
            self.tick_row(
                "Can throw stock back", lambda one: one.feed.throws, lambda on: self._put_feed(throws=on)
            )
        self.tick_row("Works boards of its own size", lambda one: one.stock is not None, self._set_stock)
        if self.now.stock is not None:
            for key, word in (
                ("length", "Board"),
                ("width", "Board's width"),
                ("thickness", "Its thickness"),
            ):
                field = self.length(word, 0.001, 20.0 if key == "length" else 3.0)
                self.inner(word, field, lambda one: one.stock, key, self._put_stock)

    def _put_feed(self, **changes: Any) -> None:
        self.put("Feed", feed=replace(self.now.feed, **changes))

    def _set_stock(self, on: bool) -> None:
        self.put("Board", stock=self.workspace.shop.stock if on else None)

    def _put_stock(self, **changes: Any) -> None:
        self.put("Board", stock=replace(self.now.stock, **changes))

    def _stand(self) -> None:
        """The floor that whoever works here needs."""
        for key, word, name, least in (
            ("width", "You, wide", "You need, wide", 0.2),
            ("depth", "You, deep", "You need, deep", 0.2),
            ("x", "You, right", "You stand right of middle", -10.0),
            ("y", "You, back", "You stand behind middle", -10.0),
        ):
            self.inner(word, self.length(name, least, 10.0), lambda one: one.stand, key, self._put_stand)

    def _put_stand(self, **changes: Any) -> None:
        self.put("Standing room", stand=replace(self.now.stand, **changes))

    def _slots(self) -> None:
        """Mitre slots along its depth."""
        self.tick_row("Has mitre slots", lambda one: bool(one.slots), self._set_slots)
        for number in range(len(self.now.slots)):
            self.row(
                f"Slot {number + 1}, right",
                self.length(f"Slot {number + 1} right of middle", -10.0, 10.0),
                partial(_slot, number),
                partial(self._put_slot, number),
            )

    def _put_slot(self, number: int, x: float) -> None:
        self.put("Mitre slots", slots=(*self.now.slots[:number], x, *self.now.slots[number + 1 :]))

    def _set_slots(self, on: bool) -> None:
        x = 0.0 if self.now.feed is None else self.now.feed.x
        usual = (round(x - _SLOT, 4), round(x + _SLOT, 4))
        self.put("Mitre slots", slots=usual if on else ())

    def _set_folding(self, on: bool) -> None:
        self.put("Folds flat", folded_depth=round(self.now.depth / 4, 3) if on else None)

    def fault(self, changed: Thing) -> str:
        if changed.folded_depth is not None and not self._is_folded and changed.folded_depth >= changed.depth:
            return "Folded, it must be less deep than it is set up."
        return ""

    # ---- the scene that is looked at

    @property
    def _scene(self) -> str | None:
        return self.workspace.view.now.scene

    @property
    def _pose(self) -> Pose | None:
        scene = scene_of(self.workspace.base, self._scene)
        poses = scene.poses if scene is not None else ()
        return next((pose for pose in poses if pose.thing == self.item), None)

    @property
    def _is_folded(self) -> bool:
        return self._pose is not None and self._pose.state == "folded"

    def _in_scene(self) -> None:
        drawn = self.workspace.base.thing(self.item)
        if drawn is None or not drawn.is_movable:
            self.note("It has no wheels, does not fold and is not hung, so it stands here in every scene.")
            return
        self.row(
            "In this scene",
            ChoiceField("In this scene it is", states_of(drawn)),
            lambda _: self._pose.state if self._pose is not None else "set up",
            self._set_state,
        )
        if self._is_folded:
            self.note("Folded here. Its sizes are changed where it is set up.")

    def _set_state(self, state: State) -> None:
        base = self.workspace.base
        if self._scene is not None:
            self.workspace.apply_to_document(
                set_state(base, self._scene, self.item, state), f"{name_of(base, self.item)}: {state}"
            )

    def shape(self) -> object:
        thing, drawn = self.now, self.workspace.base.thing(self.item)
        source = thing.source and _filters_of(thing.source), thing.source and thing.source.curve
        work = (
            thing.stock is None,
            thing.feed and thing.feed.how,
            thing.source and thing.source.separator and thing.source.separator.kind,
            thing.source and (thing.source.sealed is None, thing.source.open_flow is None),
        )
        moves = (
            set_out_shape(self, thing),
            thing.settled,
            self._scene,
            thing.wheels,
            self._is_folded,
            drawn and (drawn.is_movable, drawn.folded_depth is None),
        )
        power = plate_shape(self) if self._is_about_power else None
        return (
            thing.work_height is None,
            len(thing.slots),
            len(thing.ports),
            source,
            thing.cleaner and (thing.cleaner.build is None, thing.cleaner.by_place),
            moves,
            power,
            work,
        )

    # ---- ports

    def _port(self, number: int) -> None:
        port = self.now.ports[number]
        sizes = [(size, self.say.size(size)) for size in sorted({*duct_sizes(), port.diameter})]
        chips = quantity_field("Flow that clears the chips", self.units.flow, least=0.001, most=5.0)
        fine = quantity_field("Flow that catches fine dust", self.units.flow, least=0.001, most=5.0)
        for word, widget, key in (
            (f"Port {port.id}", ChoiceField(f"Size of port {port.id}", sizes), "diameter"),
            ("Clears chips", chips, "chips_flow"),
            ("Fine dust", fine, "fine_flow"),
            ("Gives off", ChoiceField(f"What port {port.id} gives off", CARRIES), "carries"),
            ("Points", ChoiceField(f"Which way port {port.id} points", FACES), "faces"),
        ):
            self.inner(word, widget, lambda one: one.ports[number], key, partial(self._put_port, number))

    def _put_port(self, number: int, **changes: Any) -> None:
        if changes.keys() & {"chips_flow", "fine_flow"}:
            changes["needs_from"] = "own"
        self.put(
            "Port",
            ports=tuple(
                replace(one, **changes) if index == number else one
                for index, one in enumerate(self.now.ports)
            ),
        )


def _filters_of(source: Source) -> tuple[str | None, ...]:
    """What decides which rows its filters have."""
    return tuple(None if one is None else one.medium for one in (source.filter, source.behind))
