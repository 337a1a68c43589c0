"""What would help in the room."""

from collections.abc import Iterator
from dataclasses import replace

from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Finding
from purvel.review.stage import Candidate, Proposer
from purvel.shop import Opening, Shop
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


REMEDIES: dict[str, Proposer] = {"no-entry": _way_in}
