"""What would help in the room."""

from collections.abc import Iterator
from dataclasses import replace

from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Finding
from purvel.review.room.answers import RoomAnswers
from purvel.review.room.heights import to_the_heights
from purvel.review.room.readings import reading_name
from purvel.review.stage import Candidate, Proposer
from purvel.shop import Opening, Shop
from purvel.shop.edits import Edit, change, put
from purvel.shop.parts import name_of
from purvel.space.slips import Slip


def _way_in(_: Finding, answers: Answers, __: Figures) -> Iterator[Candidate]:
    doors = [opening for opening in answers.shop.room.openings if opening.kind != "window"]
    for door in sorted(doors, key=lambda opening: opening.kind != "swing"):
        yield f"Come in by {name_of(answers.shop, door.id)}", _entry(door)


def _entry(door: Opening) -> Edit:
    def edit(shop: Shop) -> Shop:
        return put(shop, replace(door, entry=True))

    return edit


def _reread(_: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """The reading that would make all agree: to be measured again before it is believed."""
    room = answers.shop.room
    for slip in answers.of(RoomAnswers).traverse.slips:
        value = f"{slip.value:g}°" if slip.what == "turn" else say.length(slip.value)
        yield f"If {reading_name(slip, room)} is {value}: measure it again", taking(slip)


def taking(slip: Slip) -> Edit:
    """The edit that takes what a reading would be for what it is."""

    def edit(shop: Shop) -> Shop:
        room, value = shop.room, round(slip.value, 4)
        if slip.what in ("length", "turn"):
            return change(shop, slip.of, **{slip.what: value})
        if slip.what == "diagonal":
            return change(shop, slip.of, length=value)
        spot = next(one for one in room.spots if one.id == slip.of)
        offsets = (replace(one, length=value) if one.corner == slip.corner else one for one in spot.offsets)
        return put(shop, replace(spot, offsets=tuple(offsets)))

    return edit


REMEDIES: dict[str, Proposer] = {"no-entry": _way_in, "closing-gap": _reread, "wall-height": to_the_heights}
