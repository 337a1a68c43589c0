"""Rules of walls: what covers what, what is out of reach, what does not hold, what has no home."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

from purvel.catalogue.tools import boards, screws
from purvel.review.answers import Answers
from purvel.review.figures import Figures, sentence_case
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.stage import Rule
from purvel.review.walls.answers import UnitLoad, WallsAnswers
from purvel.shop.parts import name_of
from purvel.shop.storage import Tool, WallUnit
from purvel.walls.hanging import box_of, grip_height, unit_box
from purvel.walls.reach import HEAVY, Reach
from purvel.walls.shelves import LOOKS

NEARLY = 0.8  # of what screws hold: worth knowing
SLACK = 0.03  # m that a reach may miss its band
_PLAN = Basis("geometry", "Sizes and heights as they stand in the wall's elevation.")
_REACH = Basis(
    "published practice",
    "Segments of the body by stature (Drillis and Contini 1966), highest grip 1.18 times (M), less over a bench.",
)
_SCREWS = Basis(
    "published practice",
    "Wood screws in spruce, pine or fir studs by NDS yield modes and threads (M-H), all screws bearing alike."
    " Cyclic loads halve it; nothing holds in plasterboard alone.",
)


def _names(answers: Answers, items: list[str]) -> str:
    return ", ".join(dict.fromkeys(name_of(answers.shop, item) for item in items))


def _covered(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Openings, outlets, ducts and panels with units and tools over them."""
    walls, covered = answers.of(WallsAnswers), dict[str, list[str]]()
    for unit in walls.units.values():
        for one in walls.over(unit):
            if not (one.is_opening and unit.kind == "rack"):
                covered.setdefault(one.item, []).append(unit.id)
        for tool in walls.on(unit.id):
            for one in walls.tool_over(tool):
                covered.setdefault(one.item, []).append(tool.id)
    for item, over in covered.items():
        yield _over(answers, item, over)


def _over(answers: Answers, item: str, over: list[str]) -> Finding:
    verb = "covers" if len(over) == 1 else "cover"
    return Finding(
        "covers",
        Grade.MEND,
        (item,),
        f"{_names(answers, over)} {verb} {name_of(answers.shop, item)}.",
        "Openings, outlets, gates, ducts and the working space of a panel stay free, with room for a hand and a"
        " plug.",
        Basis("published practice", "NEC 110.26 for a panel; trade practice for the rest."),
        Where((*over, item)),
        {"things": float(len(over))},
    )


def _clashes(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Units and tools on each other, and units beyond their wall or the ceiling."""
    walls, shop = answers.of(WallsAnswers), answers.shop
    for one, other in combinations(walls.units.values(), 2):
        if one.wall == other.wall and unit_box(one).meets(unit_box(other)):
            yield _clash(answers, one.id, other.id)
    for wall in dict.fromkeys(unit.wall for unit in walls.units.values()):
        hung = [
            (tool, walls.units[tool.home or ""]) for tool in shop.storage.tools if tool.home in walls.units
        ]
        here = [(tool, box_of(tool, unit, tool.along)) for tool, unit in hung if unit.wall == wall]
        for (a, box), (b, other_box) in combinations(here, 2):
            if box.meets(other_box):
                yield _clash(answers, a.id, b.id)
    for unit in walls.units.values():
        side, box = walls.sides[unit.wall], unit_box(unit)
        if box.right > side.length + 1e-6 or box.high > shop.room.ceiling.height + 1e-6:
            yield Finding(
                "beyond-wall",
                Grade.STOP,
                (unit.id,),
                f"{name_of(shop, unit.id)} reaches beyond its wall.",
                f"It ends at {say.length(box.right)} of {say.length(side.length)} and {say.length(box.high)} of"
                f" {say.length(shop.room.ceiling.height)} up.",
                _PLAN,
                Where((unit.id,)),
            )


def _clash(answers: Answers, one: str, other: str) -> Finding:
    a, b = name_of(answers.shop, one), name_of(answers.shop, other)
    return Finding(
        "wall-clash",
        Grade.MEND,
        (one, other),
        f"{a} and {b} take the same place on the wall.",
        "Their outlines overlap in the elevation.",
        _PLAN,
        Where((one, other)),
    )


def _reach(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Tools that are kept too high or too low for how often they are used, and heavy ones far from the
    hands.
    """
    walls, shop = answers.of(WallsAnswers), answers.shop
    off: dict[tuple[Grade, str], list[tuple[Tool, float]]] = {}
    heavy: dict[Grade, list[tuple[Tool, float]]] = {}
    for tool in shop.storage.tools:
        unit = walls.units.get(tool.home or "")
        if unit is None:
            continue
        grip, reach = grip_height(tool, unit), walls.reach(unit)
        low, high = reach.band(tool.use)
        if grip > high + SLACK:
            off.setdefault((Grade.MEND, "high"), []).append((tool, grip))
        elif grip < low - SLACK:
            grade = Grade.MEND if tool.use == "daily" else Grade.WATCH
            off.setdefault((grade, "low"), []).append((tool, grip))
        knee, elbow = reach.heavy_band()
        if tool.mass >= HEAVY and not knee - SLACK <= grip <= elbow + SLACK:
            heavy.setdefault(Grade.MEND if grip > reach.shoulder else Grade.WATCH, []).append((tool, grip))
    for (grade, word), tools in off.items():
        yield _out_of_reach(answers, grade, word, tools, say)
    for grade, tools in heavy.items():
        yield _heavy(answers, grade, tools, say)


def _at(tools: list[tuple[Tool, float]], say: Figures) -> str:
    return ", ".join(f"{tool.name} at {say.length(grip)}" for tool, grip in tools)


def _out_of_reach(
    answers: Answers, grade: Grade, word: str, tools: list[tuple[Tool, float]], say: Figures
) -> Finding:
    walls = answers.of(WallsAnswers)
    bands = []
    for tool, _ in tools:
        reach = walls.reach(walls.units[tool.home or ""])
        low, high = reach.band(tool.use)
        is_less = (low, high) != Reach(reach.stature).band(tool.use)
        over = f" over a bench {say.length(reach.bench)} deep" if is_less else ""
        bands.append(f"{tool.use}{over} from {say.length(low)} to {say.length(high)}")
    is_one = len(tools) == 1
    return Finding(
        "reach",
        grade,
        (word, grade.word.lower()),
        f"{'A tool is' if is_one else f'{len(tools)} tools are'} kept too {word} for how often {'it is' if is_one else 'they are'}"
        f" used: {_at(tools, say)}.",
        "Measured where the hand takes them. At a stature of"
        f" {say.length(answers.shop.person.stature)} it reaches for what is used"
        f" {', '.join(dict.fromkeys(bands))}.",
        _REACH,
        Where(tuple(tool.id for tool, _ in tools)),
        {"tools": float(len(tools))},
    )


def _heavy(answers: Answers, grade: Grade, tools: list[tuple[Tool, float]], say: Figures) -> Finding:
    walls = answers.of(WallsAnswers)
    knee, elbow = walls.reach(walls.units[tools[0][0].home or ""]).heavy_band()
    listed = ", ".join(f"{tool.name} ({say.mass(tool.mass)}) at {say.length(grip)}" for tool, grip in tools)
    return Finding(
        "heavy",
        grade,
        (grade.word.lower(),),
        f"Heavy things belong between knee and elbow, {say.length(knee)} to {say.length(elbow)}: {listed}.",
        f"From {say.mass(HEAVY)} on both hands lift, and what slips falls on a head or a foot.",
        Basis("trade practice", "NIOSH lifting: nearest to hand height, least strain."),
        Where(tuple(tool.id for tool, _ in tools)),
        {"tools": float(len(tools))},
    )


def _fixings(answers: Answers, say: Figures) -> Iterator[Finding]:
    walls, holding = answers.of(WallsAnswers), list[UnitLoad]()
    for load in walls.loads.values():
        unit = walls.units[load.unit]
        if not load.studs_known:
            continue
        if load.fixing.used > 1.0:
            yield _screws(answers, unit, load, Grade.STOP, say)
        elif load.fixing.used > NEARLY:
            yield _screws(answers, unit, load, Grade.WATCH, say)
        else:
            holding.append(load)
    unknown = list(
        dict.fromkeys(walls.units[one.unit].wall for one in walls.loads.values() if not one.studs_known)
    )
    if unknown:
        yield Finding(
            "studs-unknown",
            Grade.WATCH,
            (),
            f"Where the studs are in wall {', '.join(unknown)} is not known: whether screws hold there is not checked.",
            "Find them with a magnet or a fine drill, pick the wall and type the first one and their spacing.",
            Basis("trade practice", "400 or 600 mm, 16 or 24 in apart."),
            Where(tuple(unknown)),
            {"walls": float(len(unknown))},
        )
    if holding:
        most = max(holding, key=lambda load: load.fixing.used)
        yield Finding(
            "screws",
            Grade.GOOD,
            (),
            f"Screws hold at {_names(answers, [load.unit for load in holding])}; the most used bear"
            f" {most.fixing.used:.0%} of what they hold.",
            f"{name_of(answers.shop, most.unit)}: {say.mass(most.mass)} on {most.fixing.screws} screws.",
            _SCREWS,
            Where(tuple(load.unit for load in holding)),
            {"used": most.fixing.used},
        )


def _screws(answers: Answers, unit: WallUnit, load: UnitLoad, grade: Grade, say: Figures) -> Finding:
    used, name = load.fixing, sentence_case(name_of(answers.shop, unit.id))
    share = (
        "no screw is in a stud" if used.screws == 0 else f"its screws bear {used.used:.0%} of what they hold"
    )
    kind = screws()[unit.screw].name if unit.screw in screws() else unit.screw
    lining = f", {say.length(unit.lining)} of lining between, which bears nothing" if unit.lining else ""
    return Finding(
        "screws",
        grade,
        (unit.id,),
        f"{name} carries {say.mass(load.mass)}: {share}.",
        f"{used.screws} of {kind} in {used.studs} studs{lining}: each bears {used.shear:.0f} N across and"
        f" {used.pull:.0f} N of pull, from the couple of the load off the wall.",
        _SCREWS,
        Where((unit.id,)),
        {"used": min(used.used, 1e6), "mass": load.mass},
    )


def _sags(answers: Answers, say: Figures) -> Iterator[Finding]:
    walls = answers.of(WallsAnswers)
    for load in walls.loads.values():
        if load.sag is None or load.most is None:
            continue
        unit = walls.units[load.unit]
        if load.sag.ratio >= LOOKS:
            continue
        board = boards()[unit.material].name
        yield Finding(
            "sag",
            Grade.MEND,
            (unit.id,),
            f"{name_of(answers.shop, unit.id)} will sag by {say.length(load.sag.low)} to"
            f" {say.length(load.sag.high)} in {say.length(load.sag.span)}: the eye sees it.",
            f"{say.mass(load.mass)} on {say.length(unit.thickness)} {board}, {say.length(unit.depth)} deep; at once"
            f" {say.length(load.sag.at_once)}, over the years two to three times that. It carries"
            f" {say.mass(load.most)} to a 360th of its span.",
            Basis(
                "published practice",
                "Beam formula; moduli of the Wood Handbook (H), boards vary by a fifth, creep M.",
            ),
            Where((unit.id,)),
            {"sag": load.sag.high, "ratio": load.sag.ratio, "most": load.most, "mass": load.mass},
        )


def _homes(answers: Answers, say: Figures) -> Iterator[Finding]:
    walls, shop = answers.of(WallsAnswers), answers.shop
    if not shop.storage.tools:
        return
    if walls.homeless:
        names = ", ".join(tool.name or tool.id for tool in walls.homeless[:6])
        more = f" and {len(walls.homeless) - 6} more" if len(walls.homeless) > 6 else ""
        count = len(walls.homeless)
        yield Finding(
            "homeless",
            Grade.WATCH,
            (),
            f"{count} tool{'s have' if count > 1 else ' has'} no home: {names}{more}.",
            "“Hang these” looks for places by reach, use, mass and what is in the wall.",
            Basis("trade practice", "A place for everything."),
            Where(tuple(tool.id for tool in walls.homeless)),
            {"tools": float(count)},
        )
    else:
        yield Finding(
            "homeless",
            Grade.GOOD,
            (),
            f"All {len(shop.storage.tools)} tools have a home.",
            "Ctrl+K with a tool's name says where it is.",
            Basis("trade practice", "A place for everything."),
            Where(),
            {"tools": 0.0},
        )


RULES: tuple[Rule, ...] = (_covered, _clashes, _reach, _fixings, _sags, _homes)
