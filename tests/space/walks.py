"""Walks round rooms of many outlines, read with small errors, for the tests of readings."""

import math
import random
from dataclasses import dataclass, replace

import shapely

from purvel.shop import Diagonal, Room, Wall
from purvel.space.slips import Slip

NAMES = "ABCDEFGH"
OUTLINES: dict[str, list[tuple[float, float]]] = {
    "box": [(0, 0), (6, 0), (6, 4.5), (0, 4.5)],
    "L": [(0, 0), (7, 0), (7, 3), (4, 3), (4, 6), (0, 6)],
    "U": [(0, 0), (8, 0), (8, 5), (6, 5), (6, 2), (3, 2), (3, 5), (0, 5)],
    "angled": [(0, 0), (6, 0), (7.5, 2), (6, 5), (0, 5)],
    "bay": [(0, 0), (2, 0), (2.6, -0.8), (3.8, -0.8), (4.4, 0), (7, 0), (7, 5), (0, 5)],
}


def read(rng: random.Random, length: float) -> float:
    """A length off a tape."""
    return length + rng.gauss(0, 0.003 + 0.0003 * length)


@dataclass
class Walk:
    """A room that is known, and how it was read."""

    corners: list[tuple[float, float]]
    room: Room

    def true(self, start: str, end: str) -> float:
        """The length between two corners."""
        return math.dist(self.corners[NAMES.index(start)], self.corners[NAMES.index(end)])

    def with_diagonal(self, rng: random.Random, start: str, end: str) -> "Walk":
        """One more length read, between two corners."""
        length = read(rng, self.true(start, end))
        across = Diagonal(id=f"{start}{end}", start=start, end=end, length=length)
        return replace(self, room=replace(self.room, diagonals=(*self.room.diagonals, across)))

    def in_sight(self) -> list[tuple[str, str]]:
        """The corners between which a length can be read straight across."""
        count = len(self.corners)
        floor = shapely.Polygon(self.corners).buffer(0.01)
        return [
            (NAMES[a], NAMES[b])
            for a in range(count)
            for b in range(a + 2, count)
            if (a, b) != (0, count - 1)
            and floor.covers(shapely.LineString([self.corners[a], self.corners[b]]))
        ]


def walked(rng: random.Random, *, skew: bool) -> Walk:
    """A walk round one of the outlines: lengths off a tape, turns to a degree."""
    points = OUTLINES[rng.choice(list(OUTLINES))]
    if skew:
        points = [(x + rng.uniform(-0.4, 0.4), y + rng.uniform(-0.4, 0.4)) for x, y in points]
    count = len(points)
    after = [*points[1:], points[0]]
    headings = [math.degrees(math.atan2(d[1] - c[1], d[0] - c[0])) for c, d in zip(points, after)]
    turns = [(headings[(k + 1) % count] - headings[k] + 180) % 360 - 180 for k in range(count)]
    walls = tuple(
        Wall(id=name, length=read(rng, math.dist(c, d)), turn=round(turn))
        for name, c, d, turn in zip(NAMES, points, after, turns)
    )
    return Walk(points, Room(walls=walls, heading=headings[0]))


def slipped(rng: random.Random, room: Room) -> tuple[Room, tuple[str, str], float]:
    """The room with one reading wrong: which, and what it should have been."""
    what = rng.choice(("length", "length", "length", "turn", "diagonal"))
    if what == "diagonal":
        (one,) = room.diagonals
        wrong = replace(one, length=one.length + rng.choice((-0.3048, 0.3048, 0.5)))
        return replace(room, diagonals=(wrong,)), (one.id, what), one.length
    k = rng.randrange(len(room.walls) - (what == "turn"))
    wall = room.walls[k]
    by = rng.choice((-0.3048, 0.3048, 0.5)) if what == "length" else rng.choice((-10.0, 10.0))
    true = getattr(wall, what)
    if what == "length" and true + by < 0.1:
        by = -by
    changed = replace(wall, **{what: true + by})
    return replace(room, walls=(*room.walls[:k], changed, *room.walls[k + 1 :])), (wall.id, what), true


def key(slip: Slip) -> tuple[str, str]:
    """Which reading a slip is of."""
    return slip.of, slip.what
