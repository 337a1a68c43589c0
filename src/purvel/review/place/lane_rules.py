"""Rules of lanes: the longest board, crosscuts, and where stock is turned."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from math import cos, radians, sin

from purvel.catalogue import trade_operations
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.place.answers import PlaceAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Opening, Shop, Thing
from purvel.shop.edits import put
from purvel.shop.parts import name_of
from purvel.space.lanes import FreeRun, Lane, longest_of
from purvel.space.round_zones import RoundZone
from purvel.space.shell import Side

SHORTEST = 0.05  # m: less than this is no board
_ALMOST_NONE = 0.3  # m: where no longer board goes, nothing is worked there [trade practice]
_NO_SHORTER = 0.05  # m: less is the same length to whoever cuts boards
_LEVEL = 1e-9  # less is parallel
_HAIR = 2e-3  # m by which a board may go past the jamb, by rounding
GEOMETRY = Basis("geometry", "Positions and sizes as they stand in the plan.")


def basis_of(*things: Thing | None) -> Basis:
    """Geometry, or a guess where a size was only paced."""
    guessed = [
        thing.name or thing.id for thing in things if thing is not None and thing.provenance == "paced"
    ]
    return (
        Basis("a guess", f"The size of {' and '.join(guessed)} is guessed; measure it.")
        if guessed
        else GEOMETRY
    )


def lanes(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Each machine with a feed: the longest board that it takes here, and what stops it."""
    for one in answers.of(PlaceAnswers).lanes.values():
        thing = answers.shop.thing(one.thing)
        assert thing is not None
        tight = one.into if one.into.length <= one.out.length else one.out
        sides = ("to the left", "to the right") if one.across else ("in", "out")
        why = (
            f"Free run {say.length(one.into.length)} {sides[0]} ({_stopper(answers, one, one.into)}) and"
            f" {say.length(one.out.length)} {sides[1]} ({_stopper(answers, one, one.out)}), for a strip"
            f" {say.length(one.width)} wide at {say.length(one.low)} to {say.length(one.high)} height."
        )
        if one.across:
            why += (
                " The board lies still: a piece comes off the end of boards as long as the longer side; one is cut"
                " anywhere, turned end for end, up to twice the shorter side or the longer one. The table and what"
                f" lies level with it carry {say.length(one.held[0])} to the left and {say.length(one.held[1])} to the"
                " right: a piece stays while its middle lies on them."
            )
        else:
            why += (
                f" Longest board = the shorter run {say.length(tight.length)} less {say.length(one.hand_room)}"
                f" for hands and catching = {say.length(one.longest_board)}."
            )
        why += _beyond(answers, one, tight, say) if say.is_said else ""
        if others := answers.of(PlaceAnswers).shared[one.thing]:
            names = ", ".join(name_of(answers.shop, other) for other in others)
            why += f" Its boards go over the same floor as those of {names}: one at a time."
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
        verdict = _crosscut_verdict if one.across else _lane_verdict
        sentence = verdict(answers, one, thing, tight, say)
        yield Finding("lane", lane_grade(one), (one.thing,), sentence, why, basis_of(thing), where, figures)


def _beyond(answers: Answers, one: Lane, tight: FreeRun, say: Figures) -> str:
    """What the board would gain if what stops it gave way: the next thing behind it, or an open door."""
    if tight.stopped_by is None or one.fits:
        return ""
    door = shut_door(answers, one, tight)
    if door is not None:
        machine = answers.shop.thing(one.thing)
        assert machine is not None
        opened = answers.with_shop(with_open(answers.shop, door)).of(PlaceAnswers).lane(machine)
        word = "anywhere up to " if one.across else "up to "
        return f" With {name_of(answers.shop, door.id)} open it takes boards {word}{say.length(opened.longest_board)}."
    if tight.stopped_by[0] not in ("thing", "fixture"):
        return ""
    behind = replace(tight, length=tight.then, stopped_by=tight.then_by)
    other = one.out if tight is one.into else one.into
    longest = longest_of(behind.length, other.length, one.hand_room, one.across)
    return (
        f" Without it the board would run {say.length(behind.length)}, to {_stopper(answers, one, behind)}:"
        f" boards up to {say.length(longest)}."
    )


def with_open(shop: Shop, door: Opening) -> Shop:
    """The shop with a door or window open."""
    return put(shop, replace(door, is_open=True))


def lane_grade(one: Lane) -> Grade:
    """What a lane is worth; its finding and its colour on the plan go by it."""
    if one.fits:
        return Grade.WATCH if _unheld(one) else Grade.GOOD
    if one.across and one.trims >= one.stock_length:
        return Grade.WATCH
    longest = one.trims if one.across else one.longest_board
    return Grade.STOP if longest < _ALMOST_NONE else Grade.MEND


def _unheld(one: Lane) -> list[str]:
    """The sides of a crosscut on which long pieces tip."""
    if not one.across:
        return []
    sides = zip(("left", "right"), one.held, (one.into, one.out))
    return [word for word, held, run in sides if 2 * held < min(run.length, one.stock_length)]


def round_grade(one: RoundZone) -> Grade:
    """What a round zone is worth; its finding and its colour on the plan go by it."""
    return Grade.GOOD if one.free else Grade.MEND


def _lane_verdict(answers: Answers, one: Lane, thing: Thing, tight: FreeRun, say: Figures) -> str:
    name = thing.name or thing.id
    side = "in front of" if tight is one.into else "behind"
    if one.fits:
        return (
            f"{name} takes boards up to {say.length(one.longest_board)}; yours are"
            f" {say.length(one.stock_length)}."
        )
    stopper = f"{_stopper(answers, one, tight)} {side} the cutter"
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
    return sentence


def _crosscut_verdict(answers: Answers, one: Lane, thing: Thing, tight: FreeRun, say: Figures) -> str:
    name, yours = thing.name or thing.id, say.length(one.stock_length)
    side = "left" if tight is one.into else "right"
    stopper = _stopper(answers, one, tight)
    if one.fits:
        cuts = f"{name} cuts boards of {yours} anywhere"
        if unheld := _unheld(one):
            sides = " and ".join(unheld)
            return f"{cuts}, but long pieces tip on the {sides}: nothing level carries them there."
        return f"{cuts} and carries them on both sides."
    if one.trims >= one.stock_length:
        return (
            f"{name} trims the ends of your {yours} boards but cuts them anywhere only up to"
            f" {say.length(one.longest_board)}: {stopper} is on the {side}."
        )
    return (
        f"{name} takes boards only up to {say.length(one.trims)} to trim and {say.length(one.longest_board)} to cut"
        f" anywhere, yours are {yours}: {stopper} is on the {side}."
    )


def _stopper(answers: Answers, lane: Lane, run: FreeRun) -> str:
    """What a board meets: a shut door by its own name, not the wall that it hangs in."""
    if run.stopped_by is None:
        return "nothing stops it"
    kind, item = run.stopped_by
    if kind == "outside":
        return f"the free depth you allow outside {name_of(answers.shop, item)}"
    if kind == "ceiling":
        return "the ceiling"
    door = shut_door(answers, lane, run)
    return name_of(answers.shop, item) if door is None else f"{name_of(answers.shop, door.id)}, shut,"


def shut_door(answers: Answers, lane: Lane, run: FreeRun) -> Opening | None:
    """The shut door or window that a board ends at which would let it out if it stood open."""
    if run.stopped_by is None or run.stopped_by[0] != "wall":
        return None
    side = answers.of(RoomAnswers).sides[run.stopped_by[1]]
    shut = [
        opening
        for opening in answers.shop.room.openings
        if opening.wall == side.wall
        and not opening.is_open
        and opening.sill <= lane.low + 1e-6
        and opening.head >= lane.high - 1e-6
    ]
    if not shut:
        return None
    span = _met(lane, side)
    return next((door for door in shut if span is not None and _lets_out(door, *span)), None)


def _met(lane: Lane, side: Side) -> tuple[float, float] | None:
    """From where to where along a wall a lane meets it [m]; None where it runs along it."""
    c, s = cos(radians(lane.direction)), sin(radians(lane.direction))
    out = c * side.out[0] + s * side.out[1]
    if abs(out) < _LEVEL:
        return None
    found = []
    for across in (-lane.width / 2, lane.width / 2):
        x, y = lane.origin[0] - s * across - side.start[0], lane.origin[1] + c * across - side.start[1]
        far = -(x * side.out[0] + y * side.out[1]) / out
        found.append((x + far * c) * side.along[0] + (y + far * s) * side.along[1])
    return min(found), max(found)


def _lets_out(door: Opening, start: float, end: float) -> bool:
    return door.offset <= start + _HAIR and end <= door.offset + door.width + _HAIR


def other_lanes(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Operations at which a board lies otherwise than it is mostly fed: across a saw's table, on its edge."""
    place, shop = answers.of(PlaceAnswers), answers.shop
    across = [one for one in place.lanes.values() if one.across and one.fits]
    for one in place.other_lanes:
        tight = one.into if one.into.length <= one.out.length else one.out
        usual = place.lanes[one.thing]
        if not one.fits and not usual.fits and one.longest_board >= usual.longest_board - _NO_SHORTER:
            continue  # what is in the way of both is said there
        name, does = name_of(shop, one.thing), trade_operations()[one.operation].name.lower()
        lies = "lying across its table" if one.across else "on edge"
        elsewhere = next((lane for lane in across if one.across and lane.thing != one.thing), None)
        if one.fits:
            grade, sentence = (
                Grade.GOOD,
                f"{name} takes your boards of {say.length(one.stock_length)} {lies} too.",
            )
        elif elsewhere is not None:
            grade = Grade.GOOD
            sentence = (
                f"{name} takes boards up to {say.length(one.longest_board)} {lies};"
                f" {name_of(shop, elsewhere.thing)} cuts yours."
            )
        else:
            grade = Grade.WATCH
            sentence = (
                f"{name} takes boards only up to {say.length(one.longest_board)} {lies}, yours are"
                f" {say.length(one.stock_length)}: {_stopper(answers, one, tight)} is in the way."
            )
        sides = ("to the left of the blade", "to the right") if one.across else ("in", "out")
        yield Finding(
            "operation",
            grade,
            (one.thing, one.operation),
            sentence,
            f"To {does}, the board takes a strip {say.length(one.width)} wide at {say.length(one.low)} to"
            f" {say.length(one.high)} height: {say.length(one.into.length)} {sides[0]} and"
            f" {say.length(one.out.length)} {sides[1]} are free." + _beyond(answers, one, tight, say),
            basis_of(shop.thing(one.thing)),
            Where((one.thing,), one.origin),
            {"longest_board": one.longest_board, "stock": one.stock_length},
        )


def round_zones(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Each machine at which stock is turned about a mark: whether it can lie there, and in which ways."""
    for one in answers.of(PlaceAnswers).round_zones.values():
        thing = answers.shop.thing(one.thing)
        assert thing is not None
        name, stock = thing.name or thing.id, say.length(one.length)
        if one.is_all_round:
            sentence = f"A board of {stock} can be turned all round at {name}."
        elif one.free:
            sentence = f"A board of {stock} can lie at {name} {_ways(one)}, not all round."
        else:
            sentence = f"A board of {stock} cannot lie at {name} in any direction."
        spans = ", ".join(f"{a % 360:.0f}° to {b % 360:.0f}°" for a, b in one.free) or "none"
        where = "its end" if one.at_end else "its middle"
        yield Finding(
            "round-zone",
            round_grade(one),
            (one.thing,),
            sentence,
            f"The board, {stock} by {say.length(one.width)}, turned about the mark in {where} at {say.length(one.low)}"
            f" to {say.length(one.high)} height, tried to one degree; 0° is to the right on the plan. Free:"
            f" {spans}.",
            basis_of(thing),
            Where((one.thing,), one.mark),
            {"free": one.share, "length": one.length},
        )


def _ways(one: RoundZone) -> str:
    """In plain words how much of the round is free."""
    if one.share > 0.5:
        return "in most directions"
    return "in some directions" if one.share > 0.1 else "in a few directions only"
