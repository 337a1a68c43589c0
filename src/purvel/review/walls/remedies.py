"""What would help on walls: another place, lower or higher, more screws, a stiffer shelf, a home for
tools.
"""

from collections.abc import Iterator
from dataclasses import replace
from typing import Any

from purvel.catalogue.tools import boards, screws
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Finding
from purvel.review.stage import Candidate, Progress, Proposer
from purvel.review.walls.answers import WallsAnswers
from purvel.shop import Shop
from purvel.shop.edits import Edit, change
from purvel.shop.parts import item_of, name_of
from purvel.shop.storage import Tool, WallUnit
from purvel.walls.hanging import Hung, hang, with_homes

_STUDS = (0.4064, 0.6096)  # m
_STEP = 0.1  # m that a unit is moved by
_FARTHEST = 8  # steps


def _changer(item: str, **changes: Any) -> Edit:
    return lambda shop: change(shop, item, **changes)


def _hanger(hung: list[Hung]) -> Edit:
    def edit(shop: Shop) -> Shop:
        return replace(shop, storage=replace(shop.storage, tools=with_homes(shop.storage.tools, hung)))

    return edit


def _homes(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    hung, _ = answers.of(WallsAnswers).proposal()
    if hung:
        yield f"Hang these: {len(hung)} find a place", _hanger(hung)


def _tools(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """The units aside; the tools together, then each by itself, where it is best."""
    shop, walls = answers.shop, answers.of(WallsAnswers)
    items = [item_of(shop, item) for item in finding.where.items]
    units = [item for item in items if isinstance(item, WallUnit)]
    tools = [item.id for item in items if isinstance(item, Tool)]
    for unit in units[:2]:
        yield from _aside(unit, answers, say)
    if len(tools) > 1 and not units:
        hung = _again(tools, answers)
        if hung:
            yield f"Hang these {len(hung)} elsewhere", _hanger_again(hung)
    for tool in tools[:3]:
        for one in _again([tool], answers):
            label = f"Move {name_of(shop, tool)} to {name_of(shop, walls.units[one.unit].id)}"
            yield label, _hanger_again([one])


def _again(tools: list[str], answers: Answers) -> list[Hung]:
    """New homes for tools that have one; what is elsewhere stays."""
    shop, walls = answers.shop, answers.of(WallsAnswers)
    loose = [replace(tool, home=None) if tool.id in tools else tool for tool in shop.storage.tools]
    return hang([tool for tool in loose if tool.home in walls.units or tool.id in tools], walls.spaces)[0]


def _hanger_again(hung: list[Hung]) -> Edit:
    def edit(shop: Shop) -> Shop:
        for one in hung:
            shop = change(shop, one.tool, home=one.unit, along=round(one.along, 6))
        return shop

    return edit


def _aside(unit: WallUnit, answers: Answers, say: Figures) -> Iterator[Candidate]:
    name, length = name_of(answers.shop, unit.id), answers.of(WallsAnswers).sides[unit.wall].length
    for step in range(1, _FARTHEST + 1):
        for along, up in ((0.0, 1), (0.0, -1), (1, 0.0), (-1, 0.0)):
            offset, z = round(unit.offset + along * step * _STEP, 4), round(unit.z + up * step * _STEP, 4)
            if 0 <= offset <= length - unit.width and 0 < z < answers.shop.room.ceiling.height:
                way = ("higher" if up > 0 else "lower") if up else ("farther along" if along > 0 else "back")
                yield f"Move {name} {say.length(step * _STEP)} {way}", _changer(unit.id, offset=offset, z=z)


def _screws(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """More or thicker screws, then a wider unit that meets more studs."""
    unit = item_of(answers.shop, finding.about[0]) if finding.about else None
    if not isinstance(unit, WallUnit):
        return
    for count in range(unit.per_stud + 1, 7):
        yield f"{count} screws in each stud", _changer(unit.id, per_stud=count)
    keys = list(screws())
    for key in keys[keys.index(unit.screw) + 1 :] if unit.screw in keys else keys:
        yield f"Screws {screws()[key].name}", _changer(unit.id, screw=key)
        yield f"Four screws {screws()[key].name} in each stud", _changer(unit.id, screw=key, per_stud=4)
    if unit.lining:
        yield "Take the lining away behind it", _changer(unit.id, lining=0.0)


def _sag(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """A support more, a thicker board, a stiffer one."""
    unit = item_of(answers.shop, finding.about[0])
    if not isinstance(unit, WallUnit):
        return
    for spans in range(unit.spans + 1, unit.spans + 4):
        yield f"{spans + 1} supports under it", _changer(unit.id, spans=spans)
    for thickness in (0.024, 0.030, 0.036):
        if thickness > unit.thickness:
            yield f"A board {say.length(thickness)} thick", _changer(unit.id, thickness=thickness)
    for key, board in boards().items():
        if unit.material in boards() and board.e > boards()[unit.material].e:
            yield f"A shelf of {board.name}", _changer(unit.id, material=key)


def _studs(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    for spacing in _STUDS:

        def edit(shop: Shop, spacing: float = spacing) -> Shop:
            for wall in finding.where.items:
                shop = change(shop, wall, stud_spacing=spacing, first_stud=spacing)
            return shop

        yield f"Take studs every {say.length(spacing)} as a guess", edit


def _stiffer(before: Finding, after: Finding) -> bool:
    return after.figures["sag"] < 0.7 * before.figures["sag"]


def _less_used(before: Finding, after: Finding) -> bool:
    return after.figures["used"] < 0.7 * before.figures["used"]


def _fewer(before: Finding, after: Finding) -> bool:
    return after.figures["tools"] < before.figures["tools"]


REMEDIES: dict[str, Proposer] = {
    "homeless": _homes,
    "reach": _tools,
    "heavy": _tools,
    "covers": _tools,
    "wall-clash": _tools,
    "beyond-wall": _tools,
    "screws": _screws,
    "sag": _sag,
    "studs-unknown": _studs,
}


def _less_covered(before: Finding, after: Finding) -> bool:
    return after.figures["things"] < before.figures["things"]


PROGRESS: dict[str, Progress] = {
    "reach": _fewer,
    "heavy": _fewer,
    "covers": _less_covered,
    "sag": _stiffer,
    "screws": _less_used,
    "homeless": _fewer,
}
