"""Rules of space that is kept free: swings and overhead doors, the panel's working space, the parking bay."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from purvel.libraries import shapely
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.place.answers import PlaceAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Fixture, Opening, Shop, Thing
from purvel.shop.parts import name_of
from purvel.space.clearances import (
    HEAD_HEIGHT,
    PANEL_HEIGHT,
    Clash,
    overhead_sweep,
    panel_space,
    polygon,
    space_clashes,
    swing,
)
from purvel.space.shell import Shell, Side

_GEOMETRY = Basis("geometry", "Positions and sizes as they stand in the plan.")


def bodies(shop: Shop) -> tuple[Thing | Fixture, ...]:
    """All that stands in the room."""
    return (*shop.things, *(fixture for fixture in shop.room.fixtures if fixture.is_body))


@dataclass(frozen=True, slots=True)
class Space:
    """A space that is to stay free: its floor, between which heights [m], and the id of what needs it."""

    floor: shapely.Polygon
    low: float
    high: float
    owner: str

    def clashes(self, items: Sequence[Thing | Fixture]) -> list[Clash]:
        """What stands in it."""
        return space_clashes(self.floor, self.owner, self.low, self.high, items)


def _swing(opening: Opening, side: Side) -> Space:
    return Space(swing(opening, side), 0.0, opening.head, opening.id)


def _overhead(opening: Opening, side: Side) -> Space:
    shadow, low, high = overhead_sweep(opening, side)
    return Space(shadow, low, high, opening.id)


def _before_panel(panel: Fixture, shell: Shell) -> Space:
    return Space(panel_space(panel, shell), 0.0, PANEL_HEIGHT, panel.id)


def _floor_of(fixture: Fixture) -> Space:
    """The floor that a parking bay, a drain or a hatch keeps free."""
    return Space(polygon(fixture), 0.0, HEAD_HEIGHT, fixture.id)


def space_of(rule: str, owner: str, answers: Answers) -> Space | None:
    """The space that a rule of these keeps free for something."""
    room, sides = answers.shop.room, answers.of(RoomAnswers).sides
    opening = next((one for one in room.openings if one.id == owner and one.wall in sides), None)
    fixture = next((one for one in room.fixtures if one.id == owner), None)
    if opening is not None:
        made = _swing if rule == "door-swing" else _overhead
        return made(opening, sides[opening.wall])
    if fixture is None:
        return None
    return (
        _floor_of(fixture)
        if rule in ("bay-blocked", "kept-clear")
        else _before_panel(fixture, answers.of(RoomAnswers).shell)
    )


def _in_the_leaves(opening: Opening, side: Side, items: Sequence[Thing | Fixture]) -> list[Clash]:
    """What stands in a door's leaves; of one that stands in both, where it is in deeper."""
    found = dict[str, Clash]()
    for leaf in shapely.get_parts(swing(opening, side)):
        for clash in Space(leaf, 0.0, opening.head, opening.id).clashes(items):
            known = found.get(clash.first)
            if known is None or clash.depth > known.depth:
                found[clash.first] = clash
    return list(found.values())


def doors(answers: Answers, say: Figures) -> Iterator[Finding]:
    """What stands in the swing of a door, or where an overhead door goes."""
    shop = answers.shop
    for opening in shop.room.openings:
        if opening.wall not in answers.of(RoomAnswers).sides:
            continue
        side = answers.of(RoomAnswers).sides[opening.wall]
        name = name_of(shop, opening.id)
        each = "Each leaf" if opening.leaves > 1 else "The door"
        for clash in _in_the_leaves(opening, side, bodies(shop)):
            thing = name_of(shop, clash.first)
            yield Finding(
                "door-swing",
                Grade.MEND,
                (clash.first, opening.id),
                f"{thing} stands in the swing of {name} by {say.length(clash.depth)}.",
                f"{each} sweeps a quarter circle of {say.length(opening.width / opening.leaves)}; {thing} covers"
                f" {say.area(clash.area)} of it. The way out must open.",
                _GEOMETRY,
                Where((clash.first, opening.id)),
                {"area": clash.area, "depth": clash.depth},
            )
        overhead = _overhead(opening, side)
        for clash in overhead.clashes(bodies(shop)):
            yield Finding(
                "overhead-door",
                Grade.MEND,
                (clash.first, opening.id),
                f"{name_of(shop, clash.first)} reaches into the space that {name} needs overhead.",
                f"Open, the door takes the space from {say.length(overhead.low)} to {say.length(overhead.high)} above the"
                " floor.",
                Basis("maker's figure", "Headroom as entered for this door."),
                Where((clash.first, opening.id)),
                {"area": clash.area, "depth": clash.depth},
            )


def panels(answers: Answers, say: Figures) -> Iterator[Finding]:
    shop = answers.shop
    for fixture in shop.room.fixtures:
        if fixture.acts != "panel" or not answers.of(RoomAnswers).sides:
            continue
        for clash in _before_panel(fixture, answers.of(RoomAnswers).shell).clashes(bodies(shop)):
            yield Finding(
                "panel-space",
                Grade.STOP,
                (clash.first, fixture.id),
                f"{name_of(shop, clash.first)} stands in the working space of"
                f" {fixture.name or 'the electrical panel'} by {say.length(clash.depth)}.",
                f"A panel keeps {say.length(0.762)} of width, {say.length(0.914)} of depth and"
                f" {say.length(PANEL_HEIGHT)} of height clear in front. Local code and a licensed electrician"
                " decide.",
                Basis(
                    "published limit",
                    "NEC 110.26(A), condition 1 (to 150 V to ground); elsewhere the local code.",
                ),
                Where((clash.first, fixture.id)),
                {"area": clash.area, "depth": clash.depth},
            )


def kept_clear(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Floor that nothing may stand on: a drain, a hatch, the way to a meter."""
    shop = answers.shop
    for spot in shop.room.fixtures:
        if spot.acts != "kept clear":
            continue
        for clash in _floor_of(spot).clashes(shop.things):
            yield Finding(
                "kept-clear",
                Grade.MEND,
                (clash.first, spot.id),
                f"{name_of(shop, clash.first)} stands {say.length(clash.depth)} over {spot.name or spot.kind}, which is to"
                " stay clear.",
                f"It covers {say.area(clash.area)} of it. What is under it has to be got at.",
                _GEOMETRY,
                Where((clash.first, spot.id)),
                {"area": clash.area, "depth": clash.depth},
            )


def bay(answers: Answers, say: Figures) -> Iterator[Finding]:
    """The parking bay: free of what cannot be rolled aside, or, where the car stands in it, of everything."""
    for bay in answers.shop.room.fixtures:
        if bay.acts == "bay":
            yield from _parked(answers, bay) if bay.taken else _free_bay(answers, bay, say)


def _parked(answers: Answers, bay: Fixture) -> Iterator[Finding]:
    """What stands in the car is told among the bodies."""
    if not any(bay.id in (clash.first, clash.second) for clash in answers.of(PlaceAnswers).overlaps):
        sentence = "The car stands in its bay and nothing is in its way."
        where = Where((bay.id,))
        yield Finding(
            "bay-blocked", Grade.GOOD, (bay.id,), sentence, "Nothing overlaps it.", _GEOMETRY, where
        )


def _free_bay(answers: Answers, bay: Fixture, say: Figures) -> Iterator[Finding]:
    shop = answers.shop
    inside = _floor_of(bay).clashes(shop.things)
    stuck = [clash for clash in inside if not (thing := shop.thing(clash.first)) or not thing.wheels]
    for clash in stuck:
        name = name_of(shop, clash.first)
        yield Finding(
            "bay-blocked",
            Grade.MEND,
            (clash.first, bay.id),
            f"{name} stands {say.length(clash.depth)} inside {bay.name or 'the parking bay'} and has no wheels:"
            " the car cannot come home.",
            f"It covers {say.area(clash.area)} of the bay. Only things on wheels can be rolled out of it at night.",
            _GEOMETRY,
            Where((clash.first, bay.id)),
            {"area": clash.area, "depth": clash.depth},
        )
    if not stuck:
        rolled = ", ".join(name_of(shop, clash.first) for clash in inside)
        aside = f" once these are rolled aside: {rolled}" if rolled else ""
        why = "Nothing without wheels stands in the bay."
        sentence = f"The car can come home at night{aside}."
        yield Finding("bay-blocked", Grade.GOOD, (bay.id,), sentence, why, _GEOMETRY, Where((bay.id,)))
