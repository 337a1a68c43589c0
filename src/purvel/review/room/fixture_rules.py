"""Rules of what cannot move: fixtures in each other or beyond the walls, doors that meet, a low ceiling."""

from __future__ import annotations

import itertools
from collections.abc import Iterator

from purvel.review.answers import Answers
from purvel.review.figures import Figures, sentence_case
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.room.answers import RoomAnswers
from purvel.shop.parts import name_of
from purvel.space.clearances import HEAD_HEIGHT, outside, overlaps, swing
from purvel.space.shell import TOUCH_AREA

_ENTERED = Basis("geometry", "Places and sizes as entered.")


def fixtures(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Fixtures that stand in each other, or beyond the walls: one of them was measured wrong."""
    shop = answers.shop
    for clash in answers.ask(overlaps, (), shop.room.fixtures):
        a, b = name_of(shop, clash.first), name_of(shop, clash.second)
        yield Finding(
            "fixtures-overlap",
            Grade.MEND,
            (clash.first, clash.second),
            f"{a} and {b} overlap by {say.length(clash.depth)}: one was measured wrong.",
            f"They share {say.area(clash.area)} of floor over {say.length(clash.rise)} of height.",
            _ENTERED,
            Where((clash.first, clash.second)),
            {"area": clash.area, "depth": clash.depth},
        )
    for clash in answers.ask(outside, shop.room.fixtures, answers.of(RoomAnswers).shell):
        yield Finding(
            "fixture-outside",
            Grade.MEND,
            (clash.first,),
            f"{name_of(shop, clash.first)} stands partly outside the walls.",
            f"{sentence_case(say.area(clash.area))} of it lies beyond them. Measure it again, or the wall behind it.",
            _ENTERED,
            Where((clash.first,)),
            {"area": clash.area},
        )


def doors_meet(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Swing doors that cannot both stand open."""
    shop, sides = answers.shop, answers.of(RoomAnswers).sides
    swept = [(one, swing(one, sides[one.wall])) for one in shop.room.openings if one.wall in sides]
    for (a, of_a), (b, of_b) in itertools.combinations(swept, 2):
        shared = float(of_a.intersection(of_b).area)
        if shared > TOUCH_AREA:
            yield Finding(
                "doors-meet",
                Grade.WATCH,
                (a.id, b.id),
                f"{name_of(shop, a.id)} and {name_of(shop, b.id)} can hit each other: open one at a time.",
                f"Their swings share {say.area(shared)} of floor. Another hinge side, or one that opens outwards,"
                " would part them.",
                _ENTERED,
                Where((a.id, b.id)),
                {"area": shared},
            )


def low_ceiling(answers: Answers, say: Figures) -> Iterator[Finding]:
    """A flat ceiling under which nobody stands upright; sloping ones are told where they take standing
    room.
    """
    height = answers.shop.room.ceiling.height
    if answers.shop.room.walls and height < HEAD_HEIGHT:
        yield Finding(
            "ceiling-low",
            Grade.MEND,
            ("room",),
            f"The ceiling is only {say.length(height)} high: nobody stands upright here.",
            f"{say.length(HEAD_HEIGHT)} are reckoned for a head; ways and standing room are told as if there were.",
            Basis("trade practice", "2.0 m of height where people walk and stand."),
            Where(),
            {"height": height},
        )
