"""Circuits, outlets and lights of the demo shops."""

from purvel.catalogue.power import make_luminaire
from purvel.shop.power import Circuit, Luminaire, Outlet, Volts


def circuit(
    number: int, name: str, volts: Volts, rating: float, conductor: str, residual: bool = True
) -> Circuit:
    return Circuit(
        id=f"circuit-{number}", name=name, volts=volts, rating=rating, conductor=conductor, residual=residual
    )


def outlet(number: int, wall: str, offset: float, of: int, height: float = 1.15) -> Outlet:
    return Outlet(id=f"outlet-{number}", wall=wall, offset=offset, height=height, circuit=f"circuit-{of}")


def overhead(number: int, x: float, y: float, height: float, of: int) -> Outlet:
    return Outlet(id=f"outlet-{number}", x=x, y=y, height=height, circuit=f"circuit-{of}")


def light(number: int, kind: str, x: float, y: float, z: float, angle: float = 0.0) -> Luminaire:
    from dataclasses import replace

    return replace(make_luminaire(kind, f"light-{number}", x, y, z), angle=angle)
