"""Which one reading, taken wrong, would explain that the readings of a room contradict each other; and what
to read next where several would.

Every reading has a spread; what it does to the conditions that readings must meet follows from the geometry
(least squares; detection of a single blunder as in surveying, Baarda 1968).
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations
from math import degrees, hypot, sqrt

from purvel.libraries import Array, Indices, np, shapely
from purvel.space.adjusting import Adjusted, adjusted, chi_squared
from purvel.space.readings import AROUND, Geometry, Key, Reading, What, length_spread

Point = tuple[float, float]

_FREE = 1e3  # m and rad: the spread of a reading that is not believed at all
_LIKELY = 0.35  # of chi squared: what a slip leaves at the most, reckoned straight, to be looked at closely
_TOLD_APART = 5.0  # spreads between what two explanations would read
_IN_SIGHT = 0.02  # m that a tape may bend round a corner
_MOST = 8  # explanations that the next reading is to tell apart


@dataclass(frozen=True, slots=True)
class Slip:
    """A reading that alone would explain it: `of` which wall (its length, or the turn at its end), diagonal
    or spot (from a `corner`), and what it would be [m or deg].
    """

    of: str
    what: What
    value: float
    corner: str = ""

    @property
    def key(self) -> Key:
        """What tells the reading from others."""
        return self.of, self.what, self.corner


@dataclass(frozen=True, slots=True)
class Proposed:
    """The reading that tells explanations apart best: the length between two corners, named after the walls
    that begin there, or, where `again` is set, that very reading once more; with what each slip would have
    it be [m or deg].
    """

    between: tuple[str, str] | None
    again: Slip | None
    told: tuple[tuple[Slip, float], ...]


@dataclass(frozen=True, slots=True)
class Closing:
    """The gap [m] that the readings' uncertainty leaves at the most in the direction in which the walk
    misses, and the slips that would explain what readings contradict, the likeliest first. `holds` where
    nothing contradicts.
    """

    fair: float
    slips: tuple[Slip, ...] = ()
    holds: bool = True
    proposed: Proposed | None = None


def closing(geometry: Geometry, gap: Point) -> Closing:
    """What a walk that ends `gap` from its start [m] says of its readings, and what diagonals and spots say.

    The sum of the turns counts as one more condition; where no slip explains all, the last turn, which no
    corner hangs on, is left out. Guessed (paced) lengths are suspected before taped ones: here they are
    weighed as if they were taped.
    """
    spread = np.array([_careful(one) for one in geometry.readings])
    count = len(geometry.missed(geometry.read))
    walked, every = np.array([0, 1]), np.arange(count)
    without_sum = every[every != AROUND]
    alone = adjusted(geometry, spread, walked).chi2
    size = hypot(*gap)
    fair = size * sqrt(chi_squared(0.997, 2) / alone) if alone > 0 else size
    chi = alone if count == 3 else adjusted(geometry, spread, without_sum).chi2
    if chi <= chi_squared(0.997, count - 1):
        return Closing(max(fair, size))
    for conditions in (every, without_sum):
        found = _explaining(geometry, spread, conditions)
        if found:
            proposed = _next(geometry, found) if len(found) > 1 else None
            return Closing(fair, tuple(slip for slip, _ in found), holds=False, proposed=proposed)
    return Closing(fair, holds=False)


def _careful(one: Reading) -> float:
    return length_spread(one.value, "measured") if one.how == "paced" else one.spread


def _explaining(geometry: Geometry, spread: Array, conditions: Indices) -> list[tuple[Slip, Adjusted]]:
    """The readings that alone explain it, the best first, each with the walk without it."""
    effects = geometry.effects(geometry.read)[conditions]
    missed = geometry.missed(geometry.read)[conditions]
    inverse = np.linalg.inv((effects * spread**2) @ effects.T)
    whole, freed = float(missed @ inverse @ missed), len(conditions) - 1
    if whole <= chi_squared(0.997, len(conditions)):
        return []
    weights = np.einsum("ik,ij,jk->k", effects, inverse, effects)
    rests = whole - (effects.T @ inverse @ missed) ** 2 / np.maximum(weights, 1e-12)
    within = chi_squared(0.99, freed)
    found: list[tuple[bool, float, Slip, Adjusted]] = []
    for number in np.flatnonzero((weights > 1e-12) & (rests <= max(3 * within, _LIKELY * whole))).tolist():
        without = spread.copy()
        without[number] = _FREE
        walk = adjusted(geometry, without, conditions)
        slip = _slip(geometry.readings[number], float(walk.values[number]))
        if walk.chi2 <= within and slip is not None:
            found.append((geometry.readings[number].how != "paced", walk.chi2, slip, walk))
    if any(not is_taped for is_taped, *_ in found):
        found = [one for one in found if not one[0]]
    return [(slip, walk) for _, _, slip, walk in sorted(found, key=lambda one: round(one[1], 2))]


def _slip(one: Reading, value: float) -> Slip | None:
    """What a reading would be; None where it can be no such thing."""
    if one.what == "turn":
        to_degrees = abs(degrees(one.value) - round(degrees(one.value))) < 1e-6
        turn = round(degrees(value), 0 if to_degrees else 1)
        return Slip(one.of, "turn", turn) if abs(turn) < 180 else None
    return Slip(one.of, one.what, value, one.corner) if value > 0 else None


def _next(geometry: Geometry, found: Sequence[tuple[Slip, Adjusted]]) -> Proposed | None:
    """The reading that tells most of these apart, and those best; of two a length between corners."""
    found = found[:_MOST]
    options = [*_between(geometry, found), *_once_more(geometry, found)]
    if not options:
        return None
    return max(options, key=lambda one: (*_apart(geometry, one), one.between is not None))


def _apart(geometry: Geometry, one: Proposed) -> tuple[int, float]:
    """How many pairs of explanations a reading tells apart, and by how many spreads the nearest two of all;
    what is told apart well enough is not told apart better.
    """
    values = [value for _, value in one.told]
    farthest = max(values)
    if one.again is None:
        turns = max(taken.spread for taken in geometry.readings if taken.what == "turn")
        spread = hypot(2.0 * length_spread(farthest, "measured"), turns * farthest)
    else:
        spread = 2.0 if one.again.what == "turn" else 2.0 * length_spread(farthest, "measured")
    gaps = [abs(a - b) / spread for a, b in combinations(values, 2)]
    return sum(gap >= _TOLD_APART for gap in gaps), min(_TOLD_APART, *gaps)


def _between(geometry: Geometry, found: Sequence[tuple[Slip, Adjusted]]) -> Iterator[Proposed]:
    """The lengths between two corners that see each other and are not read yet."""
    walls = [wall.id for wall in geometry.room.walls]
    read = {frozenset((one.start, one.end)) for one in geometry.room.diagonals}
    outline = shapely.Polygon(found[0][1].corners)
    floor = outline.buffer(_IN_SIGHT) if outline.is_valid else None
    for a, b in combinations(range(len(walls)), 2):
        if b - a in (1, len(walls) - 1) or frozenset((walls[a], walls[b])) in read:
            continue
        if floor is None or not floor.covers(shapely.LineString(found[0][1].corners[[a, b]])):
            continue
        told = tuple((slip, float(np.linalg.norm(walk.corners[a] - walk.corners[b]))) for slip, walk in found)
        yield Proposed((walls[a], walls[b]), None, told)


def _once_more(geometry: Geometry, found: Sequence[tuple[Slip, Adjusted]]) -> Iterator[Proposed]:
    """The readings that are doubted, read again: what was read stands, unless it is the one."""
    for slip, _ in found:
        told = tuple((other, _value_in(geometry, walk, slip)) for other, walk in found)
        yield Proposed(None, slip, told)


def _value_in(geometry: Geometry, walk: Adjusted, slip: Slip) -> float:
    for one, value in zip(geometry.readings, walk.values.tolist()):
        if one.key == slip.key:
            return degrees(value) if one.what == "turn" else value
    return slip.value
