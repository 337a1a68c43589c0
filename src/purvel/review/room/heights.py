"""Heights that were read at walls against the ceiling as it was entered."""

from collections.abc import Iterator
from dataclasses import replace

from purvel.libraries import shapely
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.room.answers import RoomAnswers
from purvel.review.room.readings import FITS
from purvel.review.stage import Candidate
from purvel.shop import Shop, WallHeight
from purvel.shop.edits import change_room
from purvel.space.readings import length_spread

_BESIDE = 0.01  # m off the wall: where its height is looked up
_OFF = 3.3  # spreads that one reading in a thousand is off by


def height_misfits(answers: Answers) -> list[tuple[WallHeight, float]]:
    """Each height that was read at a wall of the closed room, and how high the ceiling is there [m]."""
    if not answers.shop.room.heights:
        return []
    shell = answers.of(RoomAnswers).shell
    heights = [one for one in answers.shop.room.heights if one.wall in shell.sides]
    beside = [shell.sides[one.wall].at(one.along, -_BESIDE) for one in heights]
    places = [shapely.box(x - _BESIDE, y - _BESIDE, x + _BESIDE, y + _BESIDE) for x, y in beside]
    return list(zip(heights, shell.ceilings_over(places).tolist()))


def height_words(height: float, ceiling: float, say: Figures) -> str:
    """How far a height that was read is from the ceiling there."""
    off = height - ceiling
    if abs(off) < FITS:
        return "as the ceiling"
    return f"{say.length(abs(off))} {'over' if off > 0 else 'under'} the ceiling"


def wall_heights(answers: Answers, say: Figures) -> Iterator[Finding]:
    """A height that is not the ceiling's."""
    for one, ceiling in height_misfits(answers):
        off = one.height - ceiling
        if abs(off) <= _OFF * length_spread(one.height, one.provenance):
            continue
        yield Finding(
            "wall-height",
            Grade.WATCH if off > 0 else Grade.MEND,
            (one.id,),
            f"At wall {one.wall} the room was read {say.length(one.height)} high, {say.length(abs(off))}"
            f" {'more' if off > 0 else 'less'} than the ceiling that was entered.",
            f"{say.length(one.along)} from the start of wall {one.wall} the ceiling is taken to be"
            f" {say.length(ceiling)} high. What just fits under it may not fit in truth, or fit where it seems not"
            " to.",
            Basis("your measurement", "The height as it was read."),
            Where((one.wall,)),
            {"height": one.height, "ceiling": ceiling},
        )


def to_the_heights(finding: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """The flat ceiling set to the lowest height that was read under it."""
    flat = answers.shop.room.ceiling.height
    read = [one.height for one, ceiling in height_misfits(answers) if ceiling > flat - 1e-6]
    if not read or finding.figures["ceiling"] < flat - 1e-6:
        return
    lowest = min(read)

    def edit(shop: Shop) -> Shop:
        return change_room(shop, ceiling=replace(shop.room.ceiling, height=lowest))

    yield f"Set the ceiling to {say.length(lowest)}, the lowest that was read", edit
