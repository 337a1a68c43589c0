"""The room's share of the report."""

from collections.abc import Iterator
from dataclasses import asdict
from typing import Any

from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.room.answers import RoomAnswers
from purvel.review.room.heights import height_misfits
from purvel.space.slips import Proposed, Slip


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
            "readings_agree": traverse.holds,
            "readings": [asdict(one) for one in traverse.misfits],
            "slips": [_slip(one) for one in traverse.slips],
            "next_reading": _proposed(traverse.proposed),
            "spots": {spot: list(place) for spot, place in traverse.spots},
            "heights": [
                {"id": one.id, "wall": one.wall, "along": one.along, "height": one.height, "ceiling": ceiling}
                for one, ceiling in height_misfits(answers)
            ],
            "floor_area": room.floor_area,
            "volume": room.volume,
        },
    }


def _slip(slip: Slip) -> dict[str, Any]:
    wall = slip.of if slip.what in ("length", "turn") else None
    return {"wall": wall, **asdict(slip)}


def _proposed(proposed: Proposed | None) -> dict[str, Any] | None:
    """What to read next: between which corners, or which reading again, and what each slip has it be."""
    if proposed is None:
        return None
    return {
        "corners": None if proposed.between is None else list(proposed.between),
        "again": None if proposed.again is None else _slip(proposed.again),
        "would_be": [{"if": _slip(slip), "value": value} for slip, value in proposed.told],
    }


def summary(answers: Answers, say: Figures) -> Iterator[str]:
    """Floor and air, once the walls meet."""
    room = answers.of(RoomAnswers)
    if room.traverse.is_closed:
        yield f"Room: {say.area(room.floor_area)} of floor, {say.volume(room.volume)} of air."
