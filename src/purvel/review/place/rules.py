"""Rules of placing: bodies, lanes, supports, standing room, ways, swings, the panel, the overhead door, the
parking bay.
"""

from __future__ import annotations

from collections.abc import Iterator

from purvel.libraries import shapely
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.place.answers import PlaceAnswers
from purvel.review.place.keep_free import bay, doors, panels
from purvel.review.place.ways import aisles
from purvel.review.stage import Rule
from purvel.shop import Thing
from purvel.shop.parts import name_of
from purvel.space.clearances import (
    Clash,
    polygon,
)
from purvel.space.ground import rectangle, standing_zone
from purvel.space.lanes import FreeRun, Lane

SUPPORT_REACH = 0.30  # m: a table within this of the out side is there to carry the board [trade practice]
SUPPORT_STEP = 0.03  # m: beyond this it is another table, not a support that is out of level
LEVEL = 0.003  # m: an outfeed may lie this much below the machine's table [trade practice]
# m behind the blade in which a thrown board is to be reckoned with [trade practice, low confidence]
KICKBACK_REACH = 3.0
SHORTEST = 0.05  # m: less than this is no board
_GEOMETRY = Basis("geometry", "Positions and sizes as they stand in the plan.")


def _basis(*things: Thing | None) -> Basis:
    """Geometry, or a guess where a size was only paced."""
    guessed = [
        thing.name or thing.id for thing in things if thing is not None and thing.provenance == "paced"
    ]
    return (
        Basis("a guess", f"The size of {' and '.join(guessed)} is guessed; measure it.")
        if guessed
        else _GEOMETRY
    )


def _bodies(answers: Answers, say: Figures) -> Iterator[Finding]:
    shop = answers.shop
    for clash in answers.of(PlaceAnswers).overlaps:
        a, b = name_of(shop, clash.first), name_of(shop, clash.second)
        yield Finding(
            "bodies-overlap",
            Grade.STOP,
            (clash.first, clash.second),
            f"{a} and {b} stand in each other by {say.length(clash.depth)}.",
            f"They share {say.area(clash.area)} of floor at the same height; {say.length(clash.depth)} is the"
            " shortest way apart.",
            _basis(shop.thing(clash.first), shop.thing(clash.second)),
            Where((clash.first, clash.second)),
            {"area": clash.area, "depth": clash.depth},
        )
    for clash in answers.of(PlaceAnswers).outside:
        sentence = f"{name_of(shop, clash.first)} stands partly outside the walls."
        why = f"{say.area(clash.area)} of its footprint lies beyond the walls."
        yield Finding(
            "outside-room",
            Grade.STOP,
            (clash.first,),
            sentence,
            why,
            _GEOMETRY,
            Where((clash.first,)),
            {"area": clash.area},
        )
    for thing_id, height in answers.of(PlaceAnswers).low_ceiling:
        thing = shop.thing(thing_id)
        assert thing is not None
        top = thing.z + thing.height
        sentence = f"{name_of(shop, thing_id)} is {say.length(top - height)} too tall for the ceiling there."
        why = f"Its top is at {say.length(top)}, the ceiling over it at {say.length(height)}."
        yield Finding(
            "too-tall",
            Grade.STOP,
            (thing_id,),
            sentence,
            why,
            _basis(thing),
            Where((thing_id,)),
            {"over": top - height},
        )


def _lanes(answers: Answers, say: Figures) -> Iterator[Finding]:
    for one in answers.of(PlaceAnswers).lanes.values():
        thing = answers.shop.thing(one.thing)
        assert thing is not None
        tight = one.into if one.into.length <= one.out.length else one.out
        why = (
            f"Free run {say.length(one.into.length)} in ({_stopper(answers, one.into.stopped_by)}) and"
            f" {say.length(one.out.length)} out ({_stopper(answers, one.out.stopped_by)}), for a strip"
            f" {say.length(one.width)} wide at {say.length(one.low)} to {say.length(one.high)} height."
            f" Longest board = the shorter run {say.length(tight.length)} less {say.length(one.hand_room)}"
            f" for hands and catching = {say.length(one.longest_board)}."
        )
        if one.largest_sheet:
            why += (
                f" Largest sheet: {say.length(one.largest_sheet.along)} along the feed by"
                f" {say.length(one.largest_sheet.across)}."
            )
        figures = {
            "in": one.into.length,
            "out": one.out.length,
            "longest_board": one.longest_board,
            "stock": one.stock_length,
        }
        where = Where(
            tuple(i for i in (one.thing, tight.stopped_by[1] if tight.stopped_by else "") if i), one.origin
        )
        grade, sentence = _lane_verdict(answers, one, thing, tight, say)
        yield Finding("lane", grade, (one.thing,), sentence, why, _basis(thing), where, figures)


def _lane_verdict(
    answers: Answers, one: Lane, thing: Thing, tight: FreeRun, say: Figures
) -> tuple[Grade, str]:
    name = thing.name or thing.id
    side = "in front of" if tight is one.into else "behind"
    if one.fits:
        sentence = (
            f"{name} takes boards up to {say.length(one.longest_board)}; yours are"
            f" {say.length(one.stock_length)}."
        )
        return Grade.GOOD, sentence
    grade = Grade.STOP if one.longest_board < 0.3 else Grade.MEND
    stopper = f"{_stopper(answers, tight.stopped_by)} {side} the cutter"
    if one.longest_board < SHORTEST:
        sentence = (
            f"{name} takes no board here: {stopper} leaves only {say.length(tight.length)}, and"
            f" {say.length(one.hand_room)} are kept for hands."
        )
    else:
        boards = (
            f"{name} takes boards only up to {say.length(one.longest_board)}, yours are"
            f" {say.length(one.stock_length)}"
        )
        sentence = f"{boards}: {stopper} {'is' if tight.stopped_by else ''} in the way."
    return grade, sentence


def _stopper(answers: Answers, stopped_by: tuple[str, str] | None) -> str:
    if stopped_by is None:
        return "nothing stops it"
    kind, item = stopped_by
    if kind == "outside":
        return f"the free depth you allow outside {name_of(answers.shop, item)}"
    if kind == "ceiling":
        return "the ceiling"
    return name_of(answers.shop, item)


def _supports(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Tables just behind a machine that are a little too high (the board catches) or too low (it tips)."""
    for one in answers.of(PlaceAnswers).lanes.values():
        thing = answers.shop.thing(one.thing)
        assert thing is not None
        strip = _strip(one, thing.depth + thing.width, ahead=True)
        for other in answers.shop.things:
            if (
                other.id == thing.id
                or other.feed is not None
                or other.z + other.height < one.low - SUPPORT_STEP
            ):
                continue
            step = other.z + other.height - one.low
            if abs(step) > SUPPORT_STEP or polygon(other).distance(polygon(thing)) > SUPPORT_REACH:
                continue
            if polygon(other).intersection(strip).area < 1e-4:
                continue
            yield _support(thing, other, step, say)


def _support(thing: Thing, other: Thing, step: float, say: Figures) -> Finding:
    """What a table behind a machine does to the board; `step` is how much higher it stands [m]."""
    basis = Basis("trade practice", "An outfeed lies level with the table or up to 3 mm lower.")
    tops = (
        f"Its top is at {say.length(other.z + other.height)}, the machine's table at"
        f" {say.length(other.z + other.height - step)}."
    )
    if step > 1e-4:
        grade = Grade.MEND
        sentence = f"{other.name} stands {say.length(step)} proud of the table of {thing.name}: boards will catch on it."
        why = f"{tops} Trim or lower it by {say.length(step + 0.002)}."
    elif step < -LEVEL - 1e-6:
        grade = Grade.WATCH
        sentence = (
            f"{other.name} lies {say.length(-step)} below the table of {thing.name}: long boards will tip."
        )
        why = f"{tops} Shim it up by {say.length(-step)}."
    else:
        grade = Grade.GOOD
        sentence = f"{other.name} carries the board behind {thing.name}."
        why = f"{say.length(-step)} below the table."
    about, where = (thing.id, other.id), Where((other.id, thing.id))
    return Finding("support-level", grade, about, sentence, why, basis, where, {"step": step})


def _strip(one: Lane, length: float, *, ahead: bool) -> shapely.Polygon:
    """The lane's floor over a length on one side of the cutter."""
    from math import cos, radians, sin

    sign = 0.5 if ahead else -0.5
    x = one.origin[0] + sign * length * cos(radians(one.direction))
    y = one.origin[1] + sign * length * sin(radians(one.direction))
    return shapely.Polygon(rectangle(x, y, one.direction, length, one.width))


def _standing(answers: Answers, say: Figures) -> Iterator[Finding]:
    shop = answers.shop
    by_thing: dict[str, list[Clash]] = {}
    for clash in answers.of(PlaceAnswers).standing:
        by_thing.setdefault(clash.first, []).append(clash)
    for thing_id, clashes in by_thing.items():
        thing = shop.thing(thing_id)
        assert thing is not None and thing.stand is not None
        worst = max(clashes, key=lambda clash: clash.area)
        whole = thing.stand.width * thing.stand.depth
        share = min(1.0, sum(clash.area for clash in clashes) / whole)
        if share < 0.02:
            continue
        by = name_of(shop, worst.second) if worst.second else "a wall"
        yield Finding(
            "standing-room",
            Grade.MEND if share > 0.15 else Grade.WATCH,
            (thing_id,),
            f"{share:.0%} of the standing room at {thing.name} is taken, mostly by {by}.",
            f"{say.length(thing.stand.width)} by {say.length(thing.stand.depth)} are wanted where you stand;"
            f" {say.area(share * whole)} of {say.area(whole)} is covered.",
            Basis("trade practice", "0.9 by 0.9 m (3 by 3 ft) at least to stand and turn."),
            Where(tuple(i for i in (thing_id, worst.second) if i)),
            {"share": share, "depth": worst.depth},
        )


def _kickback(answers: Answers, say: Figures) -> Iterator[Finding]:
    for one in answers.of(PlaceAnswers).lanes.values():
        saw = answers.shop.thing(one.thing)
        assert saw is not None and saw.feed is not None
        if not saw.feed.sheets:
            continue
        line = _strip(one, KICKBACK_REACH, ahead=False)
        for other in answers.shop.things:
            zone = standing_zone(other)
            if zone is None or other.id == saw.id or shapely.Polygon(zone).intersection(line).area < 0.02:
                continue
            yield Finding(
                "kickback-line",
                Grade.WATCH,
                (saw.id, other.id),
                f"Who stands at {other.name} stands in line with the blade of {saw.name}, where a thrown"
                " board goes.",
                f"The strip of the stock's width runs {say.length(KICKBACK_REACH)} back from the blade and"
                " crosses that standing room. Nobody stands in it while the saw runs; riving knife and guard"
                " stay on. The maker's manual decides.",
                Basis("trade practice", "Kickback goes straight back from the blade."),
                Where((other.id, saw.id)),
            )


QUICK: tuple[Rule, ...] = (_bodies, _lanes, _supports, _standing, doors, panels, bay, _kickback)
"""All but the aisles, whose search is slow: for trying many places in a row."""
RULES: tuple[Rule, ...] = (*QUICK, aisles)


def quick_findings(answers: Answers, say: Figures) -> list[Finding]:
    """What the quick rules find."""
    return [finding for rule in QUICK for finding in rule(answers, say)]
