"""Circuits and what is on them, as parts."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from purvel.shop.part import Part, Ref, one
from purvel.shop.power import Appliance, Circuit, Luminaire, Outlet
from purvel.shop.shop import Shop


def _put_power(field: str) -> Callable[[Shop, tuple[Any, ...]], Shop]:
    """Writes one collection of the power."""

    def put(shop: Shop, items: tuple[Any, ...]) -> Shop:
        changed: Any = {field: items}
        return replace(shop, power=replace(shop.power, **changed))

    return put


def _off_circuit(item: Any, _: str) -> Any:
    """It hangs on no circuit."""
    return replace(item, circuit=None)


_ON_CIRCUIT: Ref[Any] = Ref("circuit", lambda item: one(item.circuit), _off_circuit, "is on a circuit")


CIRCUITS = Part("circuit", Circuit, lambda shop: shop.power.circuits, _put_power("circuits"), unique=True)


OUTLETS = Part(
    "outlet",
    Outlet,
    lambda shop: shop.power.outlets,
    _put_power("outlets"),
    lambda _, outlet: (
        outlet.name or (f"the outlet in wall {outlet.wall}" if outlet.wall else "the outlet overhead")
    ),
    refs=(_ON_CIRCUIT, Ref("wall", lambda outlet: one(outlet.wall), lambda *_: None, "is in a wall")),
    unique=True,
)


APPLIANCES = Part(
    "appliance",
    Appliance,
    lambda shop: shop.power.appliances,
    _put_power("appliances"),
    refs=(_ON_CIRCUIT,),
    unique=True,
)


LUMINAIRES = Part(
    "luminaire",
    Luminaire,
    lambda shop: shop.power.luminaires,
    _put_power("luminaires"),
    unique=True,
)
