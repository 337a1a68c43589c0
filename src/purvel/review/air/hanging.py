"""Where a cleaner hangs: what speaks against the place, how far it throws, and where it would do better."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from math import atan2, cos, degrees, dist, radians, sin

from purvel.catalogue import fans, filter_grades, panels
from purvel.libraries import shapely
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.room.answers import RoomAnswers
from purvel.review.stage import Candidate
from purvel.roomair.cleaner import HIGH, Place, against, built_flow, reached, throw
from purvel.shop import Cleaner, FanBuild, Shop, Thing
from purvel.shop.edits import Edit, put
from purvel.space.ground import footprint
from purvel.space.shell import Shell

_FAR = 60.0  # m: longer than any room
_BELOW_CEILING = 0.05  # m between a hung cleaner and the ceiling [choice]
_FROM_WALL = 0.2  # m between a hung cleaner and the wall that it blows along [choice]
_BETTER = 0.05  # of the room: a place that reaches no more than this much more is no better
_WORDS = {
    "low": "it stands low",
    "blocked": "it blows against something close",
    "intake": "its intake is against a wall",
    "collector": "a collector is beside it",
    "short": "its throw does not cross the room",
}


@dataclass(frozen=True, slots=True)
class Hung:
    """A cleaner with its place, the share of the room that the place lets it reach, and what speaks against
    it.
    """

    thing: str
    place: Place
    share: float
    against: tuple[str, ...]


def hung(shell: Shell, things: Sequence[Thing], thing: Thing) -> Hung:
    """How a cleaner hangs among things. It blows the way that the thing points."""
    assert thing.cleaner is not None
    middle = thing.z + thing.height / 2
    bodies = [
        shapely.Polygon(footprint(one))
        for one in things
        if one.id != thing.id and one.z <= middle <= one.z + one.height
    ]
    bodies += [
        shapely.Polygon(footprint(one))
        for one in shell.room.fixtures
        if one.is_body and one.bottom <= middle <= one.top
    ]
    collectors = [dist((one.x, one.y), (thing.x, thing.y)) for one in things if one.source is not None]
    outlet = thing.depth * thing.height
    low, west, high, east = 0.0, 0.0, 0.0, 0.0
    if not shell.floor.is_empty:
        west, low, east, high = shell.floor.bounds
    place = Place(
        height=middle,
        before=_free(shell, bodies, thing.spot(thing.width / 2, 0.0), thing.angle),
        behind=_free(shell, bodies, thing.spot(-thing.width / 2, 0.0), thing.angle + 180.0),
        throw=throw(thing.cleaner.moves, outlet),
        longest=max(east - west, high - low),
        collector=min(collectors, default=_FAR),
    )
    return Hung(thing.id, place, reached(place), tuple(against(place)))


def _free(shell: Shell, bodies: Sequence[shapely.Polygon], start: tuple[float, float], angle: float) -> float:
    """How far it is free from a point one way [m], to a wall or a body; 0 beyond the walls."""
    floor = shell.floor
    if floor.is_empty or not floor.buffer(0.05).contains(shapely.Point(start)):
        return 0.0
    end = (start[0] + _FAR * cos(radians(angle)), start[1] + _FAR * sin(radians(angle)))
    way = shapely.LineString([start, end])
    met = [floor.exterior.intersection(way), *(body.intersection(way) for body in bodies)]
    return float(min((shapely.Point(start).distance(one) for one in met if not one.is_empty), default=_FAR))


def as_hung(shell: Shell, things: tuple[Thing, ...]) -> tuple[tuple[str, Cleaner], ...]:
    """All cleaners by their things, each reaching what its place lets it where it goes by that."""
    found = []
    for thing in things:
        cleaner = thing.cleaner
        if cleaner is not None:
            if cleaner.by_place:
                cleaner = replace(cleaner, mixing=round(hung(shell, things, thing).share, 3))
            found.append((thing.id, cleaner))
    return tuple(found)


def built(build: FanBuild, cleaner: Cleaner) -> Cleaner:
    """A cleaner as it is built: its flow by fans and panels, its efficiency by the panels' grade. Raises
    ValueError where the catalogue does not know a part.
    """
    fan, panel = fans().get(build.fan), panels().get(build.panel)
    if fan is None or panel is None:
        raise ValueError("That fan or panel is not in the catalogue.")
    flow, _ = built_flow(
        build.fans, fan.free_flow, fan.shut_off, build.panels, panel.area, panel.resistance[build.state]
    )
    return replace(
        cleaner, flow=min(flow, 10.0), efficiency=filter_grades()[panel.grade], loaded=0.0, build=build
    )


# ---- as findings


def places(answers: Answers, say: Figures) -> Iterator[Finding]:
    """How each cleaner hangs."""
    shell = answers.of(RoomAnswers).shell
    for thing in answers.base.things:
        if thing.cleaner is None:
            continue
        one = hung(shell, answers.base.things, thing)
        counted = one.share if thing.cleaner.by_place else thing.cleaner.mixing
        how = (
            f"{thing.name or thing.id} reaches about {one.share:.0%} of the room where it hangs"
            if not one.against
            else f"{thing.name or thing.id} reaches about {one.share:.0%} of the room: {_and([_WORDS[key] for key in one.against])}"
        )
        basis = Basis(
            "trade practice",
            f"High (over {say.size(HIGH)}), clear, blowing along a wall, away from the collector. The shares are our"
            " own guesses: a decay that you log with it running is worth more.",
        )
        counts = (
            "The simulation counts with that."
            if thing.cleaner.by_place
            else f"The simulation counts with {counted:.0%}, the figure that was entered."
        )
        why = (
            f"It throws {say.length(min(one.place.throw, one.place.before))} of {say.length(one.place.before)} that are"
            f" free before it; {say.length(one.place.behind)} are free behind it; its middle is {say.length(one.place.height)}"
            f" up. {counts}"
        )
        yield Finding(
            "cleaner-place",
            Grade.WATCH if one.against else Grade.GOOD,
            (thing.id,),
            f"{how}.",
            why,
            basis,
            Where((thing.id,)),
            {"share": one.share, "counted": counted},
        )


def _and(words: Sequence[str]) -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"


def better_place(finding: Finding, answers: Answers, _: Figures) -> Iterator[Candidate]:
    """Hung high along a wall, where that reaches more; and reckoned by its place where it is not."""
    thing = answers.base.thing(finding.about[0])
    if thing is None or thing.cleaner is None:
        return
    best = best_place(answers, thing)
    if best is not None:
        yield "Hang it high, along a wall", _put(best)
    if not thing.cleaner.by_place:
        yield "Reckon it by its place", _put(replace(thing, cleaner=replace(thing.cleaner, by_place=True)))


def _put(thing: Thing) -> Edit:
    def edit(shop: Shop) -> Shop:
        return put(shop, thing)

    return edit


def best_place(answers: Answers, thing: Thing) -> Thing | None:
    """The cleaner where it reaches most of all places along walls, high, and reckoned by its place; None
    where none is better.
    """
    shell, things = answers.of(RoomAnswers).shell, answers.base.things
    assert thing.cleaner is not None
    high = max(0.0, answers.base.room.ceiling.height - thing.height - _BELOW_CEILING)
    counted = replace(thing.cleaner, by_place=True)
    best, most = None, hung(shell, things, thing).share + _BETTER
    for side in shell.sides.values():
        along = degrees(atan2(side.along[1], side.along[0]))
        inward = -(thing.depth / 2 + _FROM_WALL)
        for share in (0.15, 0.3, 0.5, 0.7, 0.85):
            for turn in (0.0, 180.0):
                x, y = side.at(share * side.length, inward)
                other = replace(
                    thing, x=x, y=y, z=high, angle=(along + turn) % 360.0, cleaner=counted, wheels=False
                )
                found = hung(shell, things, other)
                if found.share > most + 1e-9:
                    best, most = other, found.share
    return best


def progress(before: Finding, after: Finding) -> bool:
    """Whether more of the room is reached, or what is counted is now what the place gives."""
    return after.figures["share"] > before.figures["share"] + _BETTER or (
        abs(after.figures["share"] - after.figures["counted"]) < 1e-3
        and abs(before.figures["share"] - before.figures["counted"]) >= 1e-3
    )
