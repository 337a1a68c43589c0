"""Tools and what they hang on, for the demo shops."""

from dataclasses import replace

from purvel.catalogue.tools import make_tool
from purvel.shop.storage import Tool, UnitKind, WallUnit


def unit(
    kind: UnitKind,
    unit_id: str,
    name: str,
    wall: str,
    offset: float,
    width: float,
    z: float,
    **changes: object,
) -> WallUnit:
    sizes = {
        "cleat": {"height": 0.09, "depth": 0.04},
        "shelf": {"height": 0.02, "depth": 0.25},
        "cabinet": {"height": 0.60, "depth": 0.30},
        "rack": {"height": 1.00, "depth": 0.40},
    }[kind]
    made = WallUnit(id=unit_id, kind=kind, name=name, wall=wall, offset=offset, width=width, z=z)
    return replace(made, **(sizes | changes))


def tool(kind: str, home: str | None = None, along: float = 0.0) -> Tool:
    return replace(make_tool(kind, f"tool-{kind}"), home=home, along=along)
