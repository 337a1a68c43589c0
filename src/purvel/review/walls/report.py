"""Walls' share of the report: units with what they carry, tools with where they are."""

from collections.abc import Iterator
from typing import Any

from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.stage import Table
from purvel.review.walls.answers import WallsAnswers
from purvel.shop.parts import name_of
from purvel.walls.hanging import grip_height, holder_width


def report(answers: Answers) -> dict[str, Any]:
    """`wall_units` and `tools`."""
    walls = answers.of(WallsAnswers)
    return {
        "wall_units": [_unit(walls, unit) for unit in walls.units],
        "tools": [_tool(answers, walls, number) for number in range(len(answers.shop.storage.tools))],
    }


def _unit(walls: WallsAnswers, unit: str) -> dict[str, Any]:
    load = walls.loads[unit]
    return {
        "id": unit,
        "wall": walls.units[unit].wall,
        "carries": load.mass,
        "studs_known": load.studs_known,
        "studs": load.fixing.studs,
        "screws": load.fixing.screws,
        "shear": load.fixing.shear,
        "pull": load.fixing.pull,
        "used": load.fixing.used if load.fixing.used < 1e6 else None,
        "sag": None
        if load.sag is None
        else {"at_once": load.sag.at_once, "low": load.sag.low, "high": load.sag.high},
        "span": None if load.sag is None else load.sag.span,
        "most": load.most,
    }


def _tool(answers: Answers, walls: WallsAnswers, number: int) -> dict[str, Any]:
    tool = answers.shop.storage.tools[number]
    unit = walls.units.get(tool.home or "")
    band = None if unit is None else walls.reach(unit).band(tool.use)
    return {
        "tool": tool.id,
        "home": None if unit is None else unit.id,
        "along": tool.along if unit is not None else None,
        "grip": None if unit is None else grip_height(tool, unit),
        "reach": None if band is None else list(band),
        "mass": tool.mass,
    }


def tables(answers: Answers, say: Figures) -> Iterator[Table]:
    """Where everything is, and the holders to make."""
    walls, shop = answers.of(WallsAnswers), answers.shop
    if not shop.storage.tools:
        return
    rows = []
    for tool in sorted(shop.storage.tools, key=lambda one: one.name):
        unit = walls.units.get(tool.home or "")
        if unit is None:
            rows.append((tool.name or tool.id, "no home yet", "", ""))
        else:
            place = f"wall {unit.wall}, {name_of(shop, unit.id)}"
            rows.append(
                (
                    tool.name or tool.id,
                    place,
                    say.length(unit.offset + tool.along),
                    say.length(grip_height(tool, unit)),
                )
            )
    yield Table("Where is it?", ("Tool", "Place", "From the wall's start", "Height of the hand"), rows)
    holders = [
        (
            tool.name or tool.id,
            say.length(holder_width(tool)),
            say.length(min(0.5 * tool.height, 0.15) + 0.05),
            say.length(tool.depth + 0.02),
        )
        for tool in shop.storage.tools
        if tool.keeps == "hangs"
    ]
    if holders:
        yield Table("Holders", ("For", "Back wide", "Back high", "Arm long"), holders)
