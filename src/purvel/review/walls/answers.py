"""What hangs where, whether it holds, whether one reaches it."""

from __future__ import annotations

from dataclasses import dataclass

from purvel.catalogue import uses
from purvel.catalogue.tools import boards, screws
from purvel.once import once
from purvel.review.answers import Answers
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Fixture, Thing
from purvel.shop.storage import Tool, WallUnit
from purvel.space.clearances import PANEL_HEIGHT, PANEL_WIDTH
from purvel.space.elevation import NEAR_DUCT, Standing, bench_depth, duct_lines, standing_before
from purvel.space.shell import Side
from purvel.walls.hanging import Box, Hung, Unhung, WallSpace, box_of, hang, unit_box
from purvel.walls.reach import Reach
from purvel.walls.screws import Fixing, fixing, screw_holds, studs_under
from purvel.walls.shelves import Sag, most_mass, shelf_sag

AROUND = 0.12  # m round an outlet or a gate that stays free, for plugs and hands [trade practice]
_BRACKET = 0.7  # of its depth: how far below a shelf its brackets bear [trade practice]
_FOOT = 0.8  # of its height: how far below its screws a cleat or cabinet bears
_HOLDER = 0.03  # m that a hung tool stands off its cleat


@dataclass(frozen=True, slots=True)
class KeptFree:
    """What may not be covered on a wall: what it is of, and where."""

    item: str
    box: Box
    is_opening: bool = False


@dataclass(frozen=True, slots=True)
class UnitLoad:
    """What a unit carries [kg], how far its screws are used, and how far it sags (None: no shelf)."""

    unit: str
    mass: float
    fixing: Fixing
    studs_known: bool
    sag: Sag | None
    most: float | None


class WallsAnswers:
    """Walls of the shop as it stands."""

    def __init__(self, answers: Answers) -> None:
        self._shop, self._ask = answers.shop, answers.ask
        self.sides = answers.of(RoomAnswers).sides
        self._before: dict[str, list[Standing]] = {}
        self._free: dict[str, list[KeptFree]] = {}

    @once
    def units(self) -> dict[str, WallUnit]:
        """Units on walls that there are, by id."""
        return {one.id: one for one in self._shop.storage.units if one.wall in self.sides}

    def on(self, unit: str) -> list[Tool]:
        """The tools that have their home at a unit."""
        return [tool for tool in self._shop.storage.tools if tool.home == unit]

    @once
    def homeless(self) -> list[Tool]:
        """Tools without a home."""
        return [tool for tool in self._shop.storage.tools if tool.home not in self.units]

    def before(self, wall: str) -> list[Standing]:
        """What stands before a wall, the farthest first."""
        if wall not in self._before:
            self._before[wall] = self._stands_before(wall)
        return self._before[wall]

    def _stands_before(self, wall: str) -> list[Standing]:
        bodies: list[Thing | Fixture] = [*self._shop.things]
        bodies += [one for one in self._shop.room.fixtures if one.is_body and one.acts != "panel"]
        return self._ask(standing_before, self.sides[wall], bodies)

    def reach(self, unit: WallUnit) -> Reach:
        """How one reaches a unit over what stands below it."""
        box = unit_box(unit)
        deep = bench_depth(self.before(unit.wall), box.left, box.right)
        return Reach(self._shop.person.stature, deep)

    def kept_free(self, wall: str) -> list[KeptFree]:
        """Openings, outlets, gates, ducts and the panel's working space on a wall."""
        if wall not in self._free:
            self._free[wall] = self._kept_free(wall)
        return self._free[wall]

    def _kept_free(self, wall: str) -> list[KeptFree]:
        found = []
        for opening in self._shop.room.openings:
            if opening.wall == wall:
                box = Box(opening.offset, opening.offset + opening.width, opening.sill, opening.head)
                found.append(KeptFree(opening.id, box, is_opening=True))
        for outlet in self._shop.power.outlets:
            if outlet.wall == wall:
                at = Box(outlet.offset, outlet.offset, outlet.height, outlet.height)
                found.append(KeptFree(outlet.id, at.wider(AROUND)))
        side = self.sides[wall]
        for run in self._shop.ducts.runs:
            for (s, z), (t, y) in duct_lines(side, run):
                box = Box(min(s, t), max(s, t), min(z, y), max(z, y)).wider(run.diameter / 2)
                found.append(KeptFree(run.id, box))
        for fixture in self._shop.room.fixtures:
            if fixture.acts == "panel" and _is_on(side, fixture):
                half = max(PANEL_WIDTH, fixture.width) / 2
                middle, top = _along(side, fixture), max(PANEL_HEIGHT, fixture.top)
                found.append(KeptFree(fixture.id, Box(middle - half, middle + half, 0.0, top)))
        return found

    @once
    def spaces(self) -> list[WallSpace]:
        """Every wall with units, as tools see it."""
        found = []
        for wall in dict.fromkeys(unit.wall for unit in self.units.values()):
            own = tuple(unit for unit in self.units.values() if unit.wall == wall)
            free = tuple(one.box for one in self.kept_free(wall))
            reaches = {unit.id: self.reach(unit) for unit in own}
            found.append(WallSpace(wall, own, free, reaches, self._used_at(wall)))
        return found

    def _used_at(self, wall: str) -> float | None:
        """Where along a wall the bench is that things are used at."""
        benches = [
            one
            for one in self.before(wall)
            if (thing := self._shop.thing(one.id)) is not None and uses().get(thing.kind) == "bench"
        ]
        return (benches[0].left + benches[0].right) / 2 if benches else None

    def proposal(self) -> tuple[list[Hung], list[Unhung]]:
        """A home for every tool without one: a search."""
        return self._ask(hang, self._shop.storage.tools, self.spaces)

    # ---- does it hold

    @once
    def loads(self) -> dict[str, UnitLoad]:
        """By unit."""
        return {unit.id: self._load(unit) for unit in self.units.values()}

    def _load(self, unit: WallUnit) -> UnitLoad:
        tools, board = self.on(unit.id), boards().get(unit.material)
        density = 600.0 if board is None else board.density
        carried = unit.load + sum(tool.mass for tool in tools)
        mass = carried + _own_mass(unit, density)
        wall = next(one for one in self._shop.room.walls if one.id == unit.wall)
        studs = studs_under(unit.offset, unit.offset + unit.width, wall.first_stud, wall.stud_spacing)
        screw = screws().get(unit.screw) or next(iter(screws().values()))
        holds = screw_holds(
            screw.diameter, screw.root, screw.length, screw.yield_strength, unit.thickness, unit.lining
        )
        out, arm = _lever(unit, tools)
        used = fixing(mass, out, arm, len(studs), unit.per_stud, holds)
        sag = most = None
        if unit.kind == "shelf" and board is not None:
            shape = (unit.width, unit.spans, unit.depth, unit.thickness, board.e, board.creep)
            sag, most = shelf_sag(mass, *shape), most_mass(*shape)
        return UnitLoad(unit.id, mass, used, wall.stud_spacing > 0, sag, most)

    def over(self, unit: WallUnit) -> list[KeptFree]:
        """What a unit covers that is to stay free."""
        return [one for one in self.kept_free(unit.wall) if unit_box(unit).meets(one.box)]

    def tool_over(self, tool: Tool) -> list[KeptFree]:
        """What a tool covers that is to stay free."""
        unit = self.units[tool.home or ""]
        return [one for one in self.kept_free(unit.wall) if box_of(tool, unit, tool.along).meets(one.box)]


def _own_mass(unit: WallUnit, density: float) -> float:
    """What a unit weighs itself [kg]; a cabinet as six boards."""
    if unit.kind in ("shelf", "cleat"):
        face = unit.width * (unit.depth if unit.kind == "shelf" else unit.height)
        return face * unit.thickness * density
    w, d, h = unit.width, unit.depth, unit.height
    return 2 * (w * d + d * h + w * h) * unit.thickness * density * (1.0 if unit.kind == "cabinet" else 0.3)


def _lever(unit: WallUnit, tools: list[Tool]) -> tuple[float, float]:
    """How far out the load hangs and how far below the screws it bears [m]."""
    if unit.kind == "cleat":
        mass = sum(tool.mass for tool in tools)
        out = sum(tool.mass * (tool.depth / 2 + _HOLDER) for tool in tools) / mass if mass else unit.depth
        return out + unit.thickness, unit.height * _FOOT
    arm = unit.depth * _BRACKET if unit.kind == "shelf" else unit.height * _FOOT
    return unit.depth / 2, arm


def _along(side: Side, fixture: Fixture) -> float:
    return (fixture.x - side.start[0]) * side.along[0] + (fixture.y - side.start[1]) * side.along[1]


def _is_on(side: Side, fixture: Fixture) -> bool:
    off = -((fixture.x - side.start[0]) * side.out[0] + (fixture.y - side.start[1]) * side.out[1])
    return abs(off) <= NEAR_DUCT and 0 <= _along(side, fixture) <= side.length
