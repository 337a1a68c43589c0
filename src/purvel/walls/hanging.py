"""Places for tools: which cleat or shelf each goes to, and where along it.

Tools are taken in order of use, then of mass. Each goes where its cost is least among all places where it
fits: how far its grip is from its band of reach, how heavy it hangs from hand height, how far along it is
from where it is used. Nothing goes over an opening, an outlet, a gate or a panel, nor onto another tool.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from purvel.shop.storage import Tool, WallUnit
from purvel.stopping import go_on
from purvel.walls.reach import HEAVY, Reach

GAP = 0.03  # m between tools, for fingers [trade practice]
HOLDER = 0.02  # m that a holder is wider than its tool on either side
_STEP = 0.02  # m along a unit
_ORDER = {"daily": 0, "weekly": 1, "rarely": 2}
_HEAVY_COST, _FAR_COST = (
    0.15,
    0.02,
)  # of a metre out of reach: per kg and metre from hand height; per metre along


@dataclass(frozen=True, slots=True)
class Box:
    """A rectangle on a wall: from and to along it, from and to above the floor [m]."""

    left: float
    right: float
    low: float
    high: float

    def meets(self, other: Box) -> bool:
        """Whether they share more than an edge."""
        return (
            self.left < other.right - 1e-9
            and other.left < self.right - 1e-9
            and self.low < other.high - 1e-9
            and other.low < self.high - 1e-9
        )

    def wider(self, by: float) -> Box:
        """Grown along the wall and up."""
        return Box(self.left - by, self.right + by, self.low - by, self.high + by)


@dataclass(frozen=True, slots=True)
class WallSpace:
    """A wall as tools see it: its units, what may not be covered, how the person reaches each unit, and where
    along it things are mostly used (None: anywhere).
    """

    wall: str
    units: tuple[WallUnit, ...]
    kept_free: tuple[Box, ...]
    reaches: Mapping[str, Reach]
    used_at: float | None = None


@dataclass(frozen=True, slots=True)
class Hung:
    """Where a tool goes."""

    tool: str
    unit: str
    along: float


@dataclass(frozen=True, slots=True)
class Unhung:
    """A tool that found no place, and why."""

    tool: str
    why: str


def holder_width(tool: Tool) -> float:
    """What a tool takes of its unit [m]: with its holder where it hangs."""
    return tool.width + (2 * HOLDER if tool.keeps == "hangs" else 0.0)


def box_of(tool: Tool, unit: WallUnit, along: float) -> Box:
    """What a tool covers of the wall: hung from a cleat below it, standing on a shelf or in a cabinet
    above.
    """
    left = unit.offset + along
    right = left + holder_width(tool)
    if unit.kind == "cleat":
        return Box(left, right, unit.z - tool.height, unit.z + unit.height / 2)
    return Box(left, right, unit.z, unit.z + tool.height)


def unit_box(unit: WallUnit) -> Box:
    """What a unit itself covers of the wall."""
    low, high = unit.z, unit.z + unit.height
    if unit.kind == "shelf":
        low, high = unit.z - unit.thickness, unit.z
    elif unit.kind == "cleat":
        low, high = unit.z - unit.height / 2, unit.z + unit.height / 2
    return Box(unit.offset, unit.offset + unit.width, low, high)


def grip_height(tool: Tool, unit: WallUnit) -> float:
    """Where the hand takes a tool [m above the floor]: its middle."""
    box = box_of(tool, unit, 0.0)
    return (box.low + box.high) / 2


def takes(unit: WallUnit, tool: Tool) -> str:
    """Why a unit cannot take a tool; empty where it can."""
    if (unit.kind == "cleat") != (tool.keeps == "hangs"):
        return "it hangs" if tool.keeps == "hangs" else "it stands"
    if holder_width(tool) > unit.width + 1e-9:
        return "too wide"
    if unit.kind in ("cabinet", "rack") and tool.height > unit.height:
        return "too high"
    if unit.kind != "cleat" and tool.depth > unit.depth + 1e-9:
        return "too deep"
    if unit.kind == "cleat" and tool.height > unit.z:
        return "too long for its height"
    return ""


def hang(tools: Sequence[Tool], spaces: Sequence[WallSpace]) -> tuple[list[Hung], list[Unhung]]:
    """A home for every tool that has none, as far as there is room; what has one stays there."""
    units = {unit.id: (unit, space) for space in spaces for unit in space.units}
    taken: dict[str, list[Box]] = {space.wall: list(space.kept_free) for space in spaces}
    for unit, space in units.values():  # a tool must not hang before another unit
        taken[space.wall].append(unit_box(unit))
    for tool in tools:
        if tool.home in units:
            unit, space = units[tool.home]
            taken[space.wall].append(box_of(tool, unit, tool.along).wider(GAP / 2))
    hung, left = [], []
    homeless = [tool for tool in tools if tool.home not in units]
    for tool in sorted(homeless, key=lambda one: (_ORDER[one.use], -one.mass, one.id)):
        go_on()
        best = _best(tool, units, taken)
        if best is None:
            left.append(Unhung(tool.id, _why_not(tool, units)))
            continue
        unit, space = units[best.unit]
        taken[space.wall].append(box_of(tool, unit, best.along).wider(GAP / 2))
        hung.append(best)
    return hung, left


def _best(
    tool: Tool, units: Mapping[str, tuple[WallUnit, WallSpace]], taken: Mapping[str, list[Box]]
) -> Hung | None:
    """The cheapest free place."""
    ranked = sorted(
        ((_cost(tool, unit, space), unit.id) for unit, space in units.values() if not takes(unit, tool))
    )
    best: tuple[float, Hung] | None = None
    for cost, unit_id in ranked:
        if best is not None and cost >= best[0]:
            break
        unit, space = units[unit_id]
        place = _along(tool, unit, space, taken[space.wall])
        if place is not None and (best is None or cost + place[0] < best[0]):
            best = (cost + place[0], Hung(tool.id, unit_id, place[1]))
    return None if best is None else best[1]


def _cost(tool: Tool, unit: WallUnit, space: WallSpace) -> float:
    """How badly a tool is placed at a unit, wherever along it [m out of reach]."""
    grip, reach = grip_height(tool, unit), space.reaches[unit.id]
    low, high = reach.band(tool.use)
    out = max(low - grip, grip - high, 0.0)
    knee, elbow = reach.heavy_band()
    if tool.mass >= HEAVY:
        out += _HEAVY_COST * tool.mass * max(knee - grip, grip - elbow, 0.0)
    return out * {"daily": 3.0, "weekly": 1.5, "rarely": 0.5}[tool.use]


def _along(tool: Tool, unit: WallUnit, space: WallSpace, taken: Sequence[Box]) -> tuple[float, float] | None:
    """The free place along a unit nearest to where it is used, or to the unit's start; with its cost."""
    own = unit_box(unit)
    near = [box for box in taken if box != own]
    wanted = unit.offset if space.used_at is None else space.used_at
    end = unit.width - holder_width(tool)
    best: tuple[float, float] | None = None
    for number in range(int(end / _STEP + 1e-6) + 1):
        along = number * _STEP
        cost = _FAR_COST * abs(unit.offset + along + holder_width(tool) / 2 - wanted)
        if best is not None and cost >= best[0]:
            continue
        box = box_of(tool, unit, along)
        if not any(box.meets(other) for other in near):
            best = (cost, round(along, 4))
    return best


def _why_not(tool: Tool, units: Mapping[str, tuple[WallUnit, WallSpace]]) -> str:
    if not units:
        return "there is no cleat or shelf"
    reasons = {takes(unit, tool) for unit, _ in units.values()}
    if "" in reasons:
        return "every place that would take it is full"
    if reasons <= {"it hangs"}:
        return "it hangs, and there is no cleat"
    if reasons <= {"it stands"}:
        return "it stands, and there is no shelf or cabinet"
    return "it is " + " or ".join(sorted(reason for reason in reasons if not reason.startswith("it ")))


def with_homes(tools: Sequence[Tool], hung: Sequence[Hung]) -> tuple[Tool, ...]:
    """The tools with the homes that were found."""
    homes = {one.tool: one for one in hung}
    return tuple(
        replace(tool, home=homes[tool.id].unit, along=round(homes[tool.id].along, 6))
        if tool.id in homes
        else tool
        for tool in tools
    )
