"""The rule of open floor: a long search."""

from collections.abc import Iterator

from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.place.answers import PlaceAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.shop.parts import name_of
from purvel.space.clearances import HEAD_HEIGHT
from purvel.space.open_floor import OpenFloor

_DEAREST = 4  # things of which is told what they cost


def open_floor(answers: Answers, say: Figures) -> Iterator[Finding]:
    """The largest clear rectangle, and what costs most of it: long searches."""
    if not answers.of(RoomAnswers).traverse.is_closed:
        return
    found = answers.of(PlaceAnswers).open_floor
    if found is None:
        return
    dear = list(answers.of(PlaceAnswers).open_floor_costs.items())[:_DEAREST]
    named = "; ".join(f"{name_of(answers.shop, thing)} {say.area(area)}" for thing, area in dear)
    cost = f" It would be larger without one of these, by: {named}." if dear else ""
    yield Finding(
        "open-floor",
        Grade.GOOD,
        ("room",),
        f"The largest clear rectangle of floor is {say.length(found.length)} by {say.length(found.width)}.",
        f"{say.area(found.area)}, turned by {found.angle:.0f}° on the plan; clear of all that reaches below"
        f" {say.length(HEAD_HEIGHT)}. Door swings and standing room do not count.{cost}",
        Basis("geometry", "Searched at many angles, then grown to the millimetre."),
        Where((), found.middle),
        {"length": found.length, "width": found.width, "angle": found.angle},
    )


def open_floor_of(finding: Finding) -> OpenFloor:
    """The rectangle that the finding tells of."""
    assert finding.where.point is not None
    figures = finding.figures
    return OpenFloor(finding.where.point, figures["angle"], figures["length"], figures["width"])
