"""What was read of a room, as figures with their spread, and how readings hang together: a walk that comes
back to its start, diagonals between corners, places taken from several corners.

All geometry takes many sets of readings at once (sets, readings): what a reading does is found by changing it
a little.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import radians
from typing import Literal

from purvel.libraries import Array, np, shapely
from purvel.once import once
from purvel.shop import Room
from purvel.shop.fields import Provenance

What = Literal["length", "turn", "diagonal", "offset"]
Key = tuple[str, What, str]
"""What tells one reading from others: of what, which, from which corner."""

# m and m per m, standard deviation of a length by how it was got [trade practice, low confidence]: a tape
# held by hand; a distance meter on a hard wall; read off a drawing; paced, good to one in ten nineteen times
# of twenty
SPREADS: dict[Provenance, tuple[float, float]] = {
    "measured": (0.003, 0.0003),
    "laser": (0.002, 0.0001),
    "plate": (0.010, 0.002),
    "paced": (0.05, 0.05),
}
SQUARE_SPREAD = 0.1  # deg, of a corner taken as square in a room that is walked in 45 degree steps [low]
TURN_SPREAD = 0.3  # deg, of a turn read to a degree: evenly within half a degree [exact]
AROUND = 2  # the number of the condition that the turns come once round
_NUDGE = 1e-6  # m and rad, by which a reading is changed to see what it does
_NO_WIDTH = 1e-9  # m2: a place lies on the line between the corners it was taken from


def length_spread(length: float, how: Provenance) -> float:
    """The standard deviation of a length [m].

    5 m off a tape:

    >>> round(length_spread(5.0, "measured"), 4)
    0.0045
    """
    fixed, each = SPREADS[how]
    return fixed + each * length


@dataclass(frozen=True, slots=True)
class Reading:
    """One reading: what was read, of which wall, diagonal or spot (`of`), from which corner where it is a
    spot's; its value and standard deviation [m or rad].
    """

    what: What
    of: str
    value: float
    spread: float
    how: Provenance
    corner: str = ""

    @property
    def key(self) -> Key:
        """What tells it from others."""
        return self.of, self.what, self.corner


def readings_of(room: Room) -> tuple[Reading, ...]:
    """All readings of a room's plan: lengths, turns, diagonals, then what spots were taken by. Spots and
    diagonals are left out whose corners are not there.
    """
    corners = {wall.id for wall in room.walls}
    is_square = all(abs(wall.turn / 45.0 - round(wall.turn / 45.0)) < 1e-6 for wall in room.walls)
    usual = SQUARE_SPREAD if is_square else TURN_SPREAD
    taken = [_length("length", one.id, one.length, one.provenance) for one in room.walls]
    taken += [
        Reading("turn", one.id, radians(one.turn), radians(one.turn_error or usual), "measured")
        for one in room.walls
    ]
    taken += [
        _length("diagonal", one.id, one.length, one.provenance)
        for one in room.diagonals
        if {one.start, one.end} <= corners and one.start != one.end
    ]
    for spot in room.spots:
        if {one.corner for one in spot.offsets} <= corners:
            taken += [
                _length("offset", spot.id, one.length, one.provenance, one.corner) for one in spot.offsets
            ]
    return tuple(taken)


def _length(what: What, of: str, length: float, how: Provenance, corner: str = "") -> Reading:
    return Reading(what, of, length, length_spread(length, how), how, corner)


class Geometry:
    """What a room's readings come to."""

    def __init__(self, room: Room, readings: Sequence[Reading]) -> None:
        self.room, self.readings, self.count = room, readings, len(room.walls)
        self._number = {wall.id: k for k, wall in enumerate(room.walls)}

    @once
    def read(self) -> Array:
        """The values as they were read."""
        return np.array([one.value for one in self.readings])

    @property
    def has_more(self) -> bool:
        """Whether more was read than the walk itself."""
        return len(self.readings) > 2 * self.count

    @once
    def around(self) -> float:
        """What the turns of a closed walk come to [rad]: once round, to the side to which it turned."""
        return 2 * np.pi if sum(wall.turn for wall in self.room.walls) > 0 else -2 * np.pi

    def corners(self, values: Array) -> Array:
        """The corners of the walk, and where it ended (..., walls + 1, 2) [m], for readings (..., n)."""
        lengths, turns = values[..., : self.count], values[..., self.count : 2 * self.count]
        headings = radians(self.room.heading) + np.cumsum(turns, axis=-1) - turns
        steps = np.stack([lengths * np.cos(headings), lengths * np.sin(headings)], axis=-1)
        begin = np.broadcast_to([self.room.x, self.room.y], (*steps.shape[:-2], 1, 2))
        return np.cumsum(np.concatenate([begin, steps], axis=-2), axis=-2)

    def missed(self, values: Array) -> Array:
        """By how much readings (..., n) contradict each other (..., conditions): the walk's end [m, m], the
        sum of the turns [rad], each diagonal [m], each further offset of a spot [m].
        """
        corners = self.corners(values)
        conditions = [
            corners[..., -1, 0] - corners[..., 0, 0],
            corners[..., -1, 1] - corners[..., 0, 1],
            values[..., self.count : 2 * self.count].sum(axis=-1) - self.around,
        ]
        ends = {one.id: (one.start, one.end) for one in self.room.diagonals}
        for k, one in enumerate(self.readings):
            if one.what == "diagonal":
                a, b = (corners[..., self._number[corner], :] for corner in ends[one.of])
                conditions.append(np.linalg.norm(a - b, axis=-1) - values[..., k])
        for spot, numbers in self._offsets.items():
            place = self.spot(spot, values)
            for k in numbers[2:]:
                corner = corners[..., self._number[self.readings[k].corner], :]
                conditions.append(np.linalg.norm(place - corner, axis=-1) - values[..., k])
        return np.stack(conditions, axis=-1)

    @once
    def _offsets(self) -> dict[str, list[int]]:
        """The numbers of the readings that each spot was taken by."""
        found = dict[str, list[int]]()
        for k, one in enumerate(self.readings):
            if one.what == "offset":
                found.setdefault(one.of, []).append(k)
        return found

    @once
    def spots(self) -> tuple[str, ...]:
        """The spots whose corners are there."""
        return tuple(self._offsets)

    def spot(self, spot: str, values: Array) -> Array:
        """Where a spot lies (..., 2) [m], by the first two corners that it was taken from."""
        return self._sides(spot, values)[0 if self._inside[spot] else 1]

    def _sides(self, spot: str, values: Array) -> tuple[Array, Array]:
        """Both places at these distances from two corners: left of the line between them, and right."""
        first, second = self._offsets[spot][:2]
        corners = self.corners(values)
        a, b = (corners[..., self._number[self.readings[k].corner], :] for k in (first, second))
        apart = np.maximum(np.linalg.norm(b - a, axis=-1), _NUDGE)
        along = (values[..., first] ** 2 - values[..., second] ** 2 + apart**2) / (2 * apart)
        aside = np.sqrt(np.maximum(values[..., first] ** 2 - along**2, _NO_WIDTH))
        ahead = (b - a) / apart[..., None]
        left = np.stack([-ahead[..., 1], ahead[..., 0]], axis=-1)
        on_line = a + along[..., None] * ahead
        return on_line + aside[..., None] * left, on_line - aside[..., None] * left

    @once
    def _inside(self) -> dict[str, bool]:
        """Of each spot whether it is the place on the left: the one that lies in the room, and of two that do
        the one that suits what else was read of it.
        """
        corners = self.corners(self.read)[:-1]
        floor = shapely.Polygon(corners)
        found = {}
        for spot, numbers in self._offsets.items():
            off = []
            for place in self._sides(spot, self.read):
                others = [corners[self._number[self.readings[k].corner]] for k in numbers[2:]]
                wrong = [
                    abs(float(np.linalg.norm(place - corner)) - self.readings[k].value)
                    for k, corner in zip(numbers[2:], others)
                ]
                off.append((round(sum(wrong), 2), not floor.covers(shapely.Point(place))))
            found[spot] = off[0] <= off[1]
        return found

    def effects(self, values: Array) -> Array:
        """What each reading does to each condition (conditions, n), about these values."""
        step = _NUDGE * np.eye(len(values))
        return np.asarray((self.missed(values + step) - self.missed(values - step)).T / (2 * _NUDGE))
