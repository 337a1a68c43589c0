"""The forms for circuits, outlets, luminaires and other loads."""

from typing import Any

from purvel.app.picked.form import Form
from purvel.app.widgets.fields import ChoiceField, number_field, text_field
from purvel.catalogue.power import conductors
from purvel.shop.parts import name_of
from purvel.shop.power import Outlet

VOLTS = ((120, "120 V"), (230, "230 V"), (240, "240 V"))


def _circuit_choices(form: Form) -> list[tuple[Any, str]]:
    shop = form.workspace.shop
    return [(None, "on none yet"), *((one.id, name_of(shop, one.id)) for one in shop.power.circuits)]


class CircuitForm(Form):
    """A circuit."""

    def build(self) -> None:
        self.field("Circuit", text_field("Name of the circuit", needed=True), "name")
        self.field("Voltage", ChoiceField("Voltage of the circuit", VOLTS), "volts")
        self.field("Breaker", number_field("Rating of the breaker", "A", least=1, most=200), "rating")
        is_metric = self.now.conductor.startswith("mm2")
        wires = [(key, one.name) for key, one in conductors().items() if key.startswith("mm2") == is_metric]
        self.field("Wire", ChoiceField("Wire of the circuit", wires), "conductor")
        run = self.length("Length of the wire, one way", 0.0, 200.0)
        run.may_be_blank = True
        self.row("Wire is long", run, lambda one: one.run or 0.0, self._set_run)
        self.note("0: reckoned along the walls from the panel to its farthest outlet.")
        word = "RCD" if self.workspace.shop.power.service == "230" else "GFCI"
        self.tick(f"Has a {word}", "residual")
        self.tick_row("The lights are on it", lambda _: self._has_lights, self._set_lights)
        self.note("Local codes and a licensed electrician decide and do it.")

    def _set_run(self, value: float) -> None:
        self.put("Wire", run=value or None)

    @property
    def _has_lights(self) -> bool:
        return self.workspace.shop.power.lights == self.item

    def _set_lights(self, on: bool) -> None:
        from dataclasses import replace

        lights = self.item if on else None
        self.workspace.apply(
            lambda shop: replace(shop, power=replace(shop.power, lights=lights)), "Wire the lights"
        )

    def shape(self) -> object:
        return self.now.conductor[:3], self.workspace.shop.power.service


class OutletForm(Form):
    """An outlet."""

    def build(self) -> None:
        self.field("Outlet", text_field("Name of the outlet"), "name")
        self.field("Circuit", ChoiceField("Circuit of the outlet", _circuit_choices(self)), "circuit")
        outlet: Outlet = self.now
        if outlet.wall is not None:
            walls = [(wall.id, wall.id) for wall in self.workspace.shop.room.walls]
            self.field("In wall", ChoiceField("Wall of the outlet", walls), "wall")
            self.field("From its start", self.length("Distance along the wall", 0.0, 200.0), "offset")
        self.field("Height", self.length("Height of the outlet", 0.0, 6.0), "height")

    def shape(self) -> object:
        return self.now.wall is None, _circuit_choices(self), [w.id for w in self.workspace.shop.room.walls]


class LuminaireForm(Form):
    """A luminaire."""

    def build(self) -> None:
        self.field("Light", text_field("Name of the light"), "name")
        self.field("Gives", number_field("Light it gives", "lm", least=0, most=200_000, decimals=0), "lumens")
        self.field("Takes", number_field("What it takes", "W", least=0, most=50_000), "watts")
        self.field("Hangs at", self.length("Height of the light", 0.1, 12.0), "z")
        self.field("Long", self.length("Length of the light", 0.0, 5.0), "length")
        self.field("Turned", number_field("Turned", "°", least=-360, most=360), "angle")
        half = number_field("Half as bright at", "°", least=5, most=80)
        self.field("Half as bright at", half, "half_angle")
        self.note("60° from straight down is an even, matt face; a spot has 15 to 30°.")


class ApplianceForm(Form):
    """Something else on a circuit."""

    def build(self) -> None:
        self.field("Load", text_field("Name of the load", needed=True), "name")
        self.field("Takes", number_field("What the load takes", "W", least=0, most=50_000), "watts")
        self.field("Voltage", ChoiceField("Voltage of the load", VOLTS), "volts")
        self.field("Circuit", ChoiceField("Circuit of the load", _circuit_choices(self)), "circuit")
        self.tick("Runs for three hours or more", "is_long")

    def shape(self) -> object:
        return _circuit_choices(self)
