"""Readings of a room in words: what was read, what it would be, what to read next."""

from math import degrees

from purvel.review.figures import Figures
from purvel.shop import Room
from purvel.space.readings import readings_of
from purvel.space.slips import Proposed, Slip
from purvel.space.traverse import Misfit

FITS = 0.0005  # m: a misfit that no tape shows
_SQUARE = 0.05  # deg: and one of a turn


def reading_name(one: Slip | Misfit, room: Room) -> str:
    """What was read, as a sentence calls it."""
    if one.what == "length":
        return f"wall {one.of}"
    if one.what == "turn":
        return f"the turn at the end of {one.of}"
    if one.what == "diagonal":
        found = next(diagonal for diagonal in room.diagonals if diagonal.id == one.of)
        return f"the length from corner {found.start} to corner {found.end}"
    spot = next(spot for spot in room.spots if spot.id == one.of)
    return f"the length from corner {one.corner} to {spot.name or spot.id}"


def slip_words(slip: Slip, room: Room, say: Figures) -> str:
    """What a reading would be, and what was read."""
    read = next(one for one in readings_of(room) if one.key == slip.key)
    if slip.what == "turn":
        return f"{reading_name(slip, room)} {slip.value:g}° instead of {degrees(read.value):g}°"
    return f"{reading_name(slip, room)} {say.length(slip.value)} instead of {say.length(read.value)}"


def proposal_words(proposed: Proposed, room: Room, say: Figures) -> str:
    """What to read next, and what it would settle."""
    names = list(dict.fromkeys(reading_name(slip, room) for slip, _ in proposed.told))
    settles = f"that settles whether {' or '.join(names)} is wrong"
    if proposed.between is None:
        assert proposed.again is not None
        return f"Read {reading_name(proposed.again, room)} again: {settles}."
    a, b = proposed.between
    would = ", ".join(
        f"{say.length(value)} if it is {reading_name(slip, room)}" for slip, value in proposed.told
    )
    return f"Measure from corner {a} to corner {b}: {settles} ({would})."


def misfit_words(one: Misfit, say: Figures) -> str:
    """How far a reading is from what it comes to with all others."""
    off = one.adjusted - one.read
    if one.what == "turn":
        return "" if abs(off) < _SQUARE else f"{off:+.1f}°".replace("-", "−")
    return "fits" if abs(off) < FITS else f"{'+' if off > 0 else '−'}{say.length(abs(off))}"
