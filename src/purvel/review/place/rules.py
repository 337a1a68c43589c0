"""Rules of placing: bodies, lanes, supports, standing room, ways, swings, the panel, the overhead door, the
parking bay.
"""

from __future__ import annotations

from collections.abc import Iterator

from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.place.answers import PlaceAnswers
from purvel.review.place.built_rules import as_built, on_trial
from purvel.review.place.keep_free import bay, doors, kept_clear, panels
from purvel.review.place.lane_rules import GEOMETRY, basis_of, lanes, other_lanes, round_zones
from purvel.review.place.scene_rules import cars
from purvel.review.place.support_rules import slots, supports, table_heights
from purvel.review.place.thrown_rules import lines_of_throw
from purvel.review.place.ways import aisles, benches, way_out
from purvel.review.stage import Rule
from purvel.shop.parts import name_of
from purvel.space.clearances import HEAD_HEIGHT
from purvel.space.standing_room import CEILING, WALL

_HARDLY, _MUCH = 0.02, 0.15  # shares of standing room taken: less is nothing, more is to be mended [a guess]


def _bodies(answers: Answers, say: Figures) -> Iterator[Finding]:
    shop = answers.shop
    for clash in answers.of(PlaceAnswers).overlaps:
        if shop.thing(clash.first) is None:
            continue  # two fixtures, which the room tells of
        a, b = name_of(shop, clash.first), name_of(shop, clash.second)
        raised = clash.rise < clash.depth
        by = f"{say.length(clash.rise)} of height" if raised else say.length(clash.depth)
        yield Finding(
            "bodies-overlap",
            Grade.STOP,
            (clash.first, clash.second),
            f"{a} and {b} overlap by {by}.",
            f"They share {say.area(clash.area)} of floor over {say.length(clash.rise)} of height;"
            f" {say.length(clash.depth)} is the shortest way apart on the floor.",
            basis_of(shop.thing(clash.first), shop.thing(clash.second)),
            Where((clash.first, clash.second)),
            {"area": clash.area, "depth": clash.depth, "rise": clash.rise},
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
            GEOMETRY,
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
            basis_of(thing),
            Where((thing_id,)),
            {"over": top - height},
        )


def standing_grade(share: float) -> Grade:
    """How bad it is that a share of standing room is taken [a guess]."""
    if share < _HARDLY:
        return Grade.GOOD
    return Grade.MEND if share > _MUCH else Grade.WATCH


def _standing(answers: Answers, say: Figures) -> Iterator[Finding]:
    shop = answers.shop
    for one in answers.of(PlaceAnswers).standing:
        thing = shop.thing(one.thing)
        assert thing is not None and thing.stand is not None
        whole, share, grade = thing.stand.width * thing.stand.depth, one.share, standing_grade(one.share)
        if grade == Grade.GOOD:
            continue
        by = {WALL: "a wall", CEILING: "the sloping ceiling"}.get(one.by) or name_of(shop, one.by)
        why = (
            f"{say.length(thing.stand.width)} by {say.length(thing.stand.depth)} are wanted where you stand;"
            f" {say.area(share * whole)} of {say.area(whole)} is covered."
        )
        if one.by == CEILING:
            why += f" Under {say.length(HEAD_HEIGHT)} nobody stands upright."
        yield Finding(
            "standing-room",
            grade,
            (one.thing,),
            f"{share:.0%} of the standing room at {thing.name} is taken, mostly by {by}.",
            why,
            Basis("trade practice", "0.9 by 0.9 m (3 by 3 ft) at least to stand and turn."),
            Where(tuple(i for i in (one.thing, one.by) if i not in (WALL, CEILING))),
            {"share": share, "depth": one.depth},
        )


QUICK: tuple[Rule, ...] = (
    _bodies,
    lanes,
    other_lanes,
    round_zones,
    supports,
    slots,
    table_heights,
    _standing,
    doors,
    panels,
    bay,
    kept_clear,
    cars,
    lines_of_throw,
    benches,
)
"""All but the aisles, whose search is slow: for trying many places in a row."""
RULES: tuple[Rule, ...] = (*QUICK, aisles, way_out, as_built, on_trial)


def quick_findings(answers: Answers, say: Figures) -> list[Finding]:
    """What the quick rules find."""
    return [finding for rule in QUICK for finding in rule(answers, say)]
