"""The room's share of the report."""

from collections.abc import Iterator
from typing import Any

from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.room.answers import RoomAnswers


def report(answers: Answers) -> dict[str, Any]:
    """`room`: the tape walk, floor and volume."""
    room = answers.of(RoomAnswers)
    traverse = room.traverse
    return {
        "room": {
            "closed": traverse.is_closed,
            "corners": [list(corner) for corner in traverse.corners],
            "perimeter": traverse.perimeter,
            "closing_gap": traverse.gap_length,
            "suspect_walls": list(traverse.suspects),
            "fair_gap": traverse.fair,
            "slips": [{"wall": one.wall, "what": one.what, "value": one.value} for one in traverse.slips],
            "floor_area": room.floor_area,
            "volume": room.volume,
        },
    }


def summary(answers: Answers, say: Figures) -> Iterator[str]:
    """Floor and air, once the walls meet."""
    room = answers.of(RoomAnswers)
    if room.traverse.is_closed:
        yield f"Room: {say.area(room.floor_area)} of floor, {say.volume(room.volume)} of air."
