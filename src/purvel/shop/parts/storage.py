"""Storage on walls, as parts."""

from dataclasses import replace

from purvel.shop.part import Part, Ref, one
from purvel.shop.shop import Shop
from purvel.shop.storage import Tool, WallUnit


def _put_units(shop: Shop, units: tuple[WallUnit, ...]) -> Shop:
    return replace(shop, storage=replace(shop.storage, units=units))


def _put_tools(shop: Shop, tools: tuple[Tool, ...]) -> Shop:
    return replace(shop, storage=replace(shop.storage, tools=tools))


def _homeless(tool: Tool, _: str) -> Tool:
    """It needs another home."""
    return replace(tool, home=None, along=0.0)


def _unit_name(_: Shop, unit: WallUnit) -> str:
    return unit.name or f"the {unit.kind} in wall {unit.wall}"


UNITS = Part(
    "wall unit",
    WallUnit,
    lambda shop: shop.storage.units,
    _put_units,
    _unit_name,
    refs=(Ref("wall", lambda unit: (unit.wall,), lambda *_: None, "is on a wall"),),
    unique=True,
)
TOOLS = Part(
    "tool",
    Tool,
    lambda shop: shop.storage.tools,
    _put_tools,
    refs=(Ref("wall unit", lambda tool: one(tool.home), _homeless, "has its home at a unit"),),
    unique=True,
)
