"""The rows of a thing's form that are about its plate, its outlet and its cord."""

from dataclasses import replace
from typing import Any

from purvel.app.picked.form import Form
from purvel.app.picked.power import VOLTS
from purvel.app.widgets.fields import ChoiceField, number_field
from purvel.catalogue.power import conductors, plate_kinds
from purvel.power.plates import draw
from purvel.shop import Thing
from purvel.shop.parts import name_of
from purvel.shop.power import Plate


def has_plate(thing: Thing) -> bool:
    """Whether a thing draws current, as far as is known."""
    return thing.plate is not None or thing.kind in plate_kinds()


def plate_rows(form: Form) -> None:
    """What the thing draws, off its plate or as its kind usually does; where it is plugged in, by which
    cord.
    """
    shop, thing = form.workspace.shop, form.now
    drawn = draw(thing, shop.power.service)
    known = drawn is not None and not drawn.is_plate
    form.note(
        "Off its plate:"
        if not known
        else "Nothing read off its plate yet: this is what its kind usually draws."
    )
    volts = ChoiceField("Voltage on the plate", VOLTS)
    form.row("At", volts, lambda one: _volts(form, one), lambda value: _put(form, volts=value))
    current = number_field("Amps on the plate", "A", least=0, most=400)
    form.row("Draws", current, lambda one: _amps(form, one), lambda amps: _put(form, amps=amps, watts=None))
    power = number_field("Watts on the plate", "W", least=0, most=50_000, decimals=0)
    form.row(
        "or takes",
        power,
        lambda one: _amps(form, one) * (_volts(form, one) or 0),
        lambda watts: _put(form, watts=watts, amps=None),
    )
    if thing.plate is not None:
        form.button("Forget the plate", lambda: form.put("Plate", plate=None))
    outlets = [
        (None, "the nearest that fits"),
        *((one.id, name_of(shop, one.id)) for one in shop.power.outlets),
    ]
    form.field("Plugged into", ChoiceField("Outlet", outlets), "outlet")
    is_metric = shop.power.service == "230"
    cords: list[tuple[Any, str]] = [(None, "the thinnest that bears it")]
    cords += [
        (key, one.name)
        for key, one in conductors().items()
        if one.cord and key.startswith("mm2") == is_metric
    ]
    form.field("Cord", ChoiceField("Conductor of the cord", cords), "cord")


def plate_shape(form: Form) -> object:
    """What asks for other rows."""
    shop = form.workspace.shop
    return form.now.plate is None, [name_of(shop, one.id) for one in shop.power.outlets], shop.power.service


def _volts(form: Form, thing: Thing) -> int | None:
    drawn = draw(thing, form.workspace.shop.power.service)
    return None if drawn is None else drawn.volts


def _amps(form: Form, thing: Thing) -> float:
    drawn = draw(thing, form.workspace.shop.power.service)
    return 0.0 if drawn is None else drawn.amps


def _put(form: Form, **changes: Any) -> None:
    thing: Thing = form.now
    drawn = draw(thing, form.workspace.shop.power.service)
    plate = thing.plate
    if plate is None:
        plate = Plate(volts=120) if drawn is None else Plate(volts=drawn.volts, amps=round(drawn.amps, 2))
    form.put("Plate", plate=replace(plate, **changes))
