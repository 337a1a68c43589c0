"""What would help in the room."""

from collections.abc import Iterator
from dataclasses import replace

from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Finding
from purvel.review.room.answers import RoomAnswers
from purvel.review.stage import Candidate, Proposer
from purvel.shop import Opening, Shop, Wall
from purvel.shop.edits import Edit, put
from purvel.shop.parts import name_of


def _way_in(_: Finding, answers: Answers, __: Figures) -> Iterator[Candidate]:
    doors = [opening for opening in answers.shop.room.openings if opening.kind != "window"]
    for door in sorted(doors, key=lambda opening: opening.kind != "swing"):
        yield f"Come in by {name_of(answers.shop, door.id)}", _entry(door)


def _entry(door: Opening) -> Edit:
    def edit(shop: Shop) -> Shop:
        return put(shop, replace(door, entry=True))

    return edit


def _reread(_: Finding, answers: Answers, say: Figures) -> Iterator[Candidate]:
    """The reading that would close the walk: to be measured again before it is believed."""
    room = answers.shop.room
    for slip in answers.of(RoomAnswers).traverse.slips:
        wall = next(one for one in room.walls if one.id == slip.wall)
        if slip.what == "length":
            changed = replace(wall, length=round(slip.value, 4))
            yield f"If wall {wall.id} is {say.length(slip.value)}: measure it again", _put(changed)
        else:
            turned = replace(wall, turn=slip.value)
            yield f"If the turn at the end of {wall.id} is {slip.value:g}°: measure it again", _put(turned)


def _put(wall: Wall) -> Edit:
    def edit(shop: Shop) -> Shop:
        return put(shop, wall)

    return edit


REMEDIES: dict[str, Proposer] = {"no-entry": _way_in, "closing-gap": _reread}
