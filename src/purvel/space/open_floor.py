"""The largest clear rectangle of floor, at any angle: room to put something together.

By search: a raster at many angles finds where large rectangles lie, and each of the best is then grown to the
millimetre. For a band of floor between two parallel lines the longest clear stretch is exact, so what is left
to search are the angle and the band's two edges.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, radians, sin

from purvel.libraries import Array, np, shapely
from purvel.shop import Fixture, Thing
from purvel.space.clearances import HEAD_HEIGHT, span
from purvel.space.ground import footprints
from purvel.space.shell import Shell
from purvel.space.traverse import Point
from purvel.stopping import go_on

_CELL, _CELLS = 0.08, 160  # m of the raster, and how many of them there are across at the most
_TURN = 5.0  # deg between angles that are tried beside those of walls and things
_MOST = 24  # angles of walls and things that are tried, the commonest first
_BEST = 12  # places that are looked at closely
_SHORT = 4 * _CELL  # m by which a side of a rough rectangle falls short at the most, and to spare
_FEW = 3  # angles, and places that are looked at closely, for what each thing costs
_NO_COST = 0.05  # m2: less is not told
_FAIR = 0.005  # m: to which they are grown for that
_FINE = 0.0005  # m and, as an arc of a metre, of angle: to which they are grown
_LEAST = 1e-9  # m
_BETTER, _MOST_ROUNDS = 1e-6, 80  # share by which a step must gain; steps in all ways
_OF_EACH = 3  # places that are kept of each angle


@dataclass(frozen=True, slots=True)
class OpenFloor:
    """A rectangle of floor: its middle [m], how it is turned [deg], its length and its width [m]."""

    middle: Point
    angle: float
    length: float
    width: float

    @property
    def area(self) -> float:
        """[m2]"""
        return self.length * self.width

    @property
    def corners(self) -> list[Point]:
        """[m], counter-clockwise."""
        c, s = cos(radians(self.angle)), sin(radians(self.angle))
        half = ((-1, -1), (1, -1), (1, 1), (-1, 1))
        return [
            (
                self.middle[0] + c * a * self.length / 2 - s * b * self.width / 2,
                self.middle[1] + s * a * self.length / 2 + c * b * self.width / 2,
            )
            for a, b in half
        ]


def open_floor(shell: Shell, things: Sequence[Thing]) -> OpenFloor | None:
    """The largest clear rectangle of a closed room: clear of what reaches below head height; door swings and
    standing room do not count. None where there is no floor. Raises Stopped when nobody waits any more.
    """
    if shell.floor.is_empty:
        return None
    return _largest(_blocks(shell, things), shell, _angles(shell, things), _BEST)


def costs(shell: Shell, things: Sequence[Thing], found: OpenFloor | None) -> dict[str, float]:
    """How much larger the largest rectangle would be without each thing [m2], the dearest first; what costs
    nothing is left out. At the commonest angles only, and that of what was found: so it is never too much.
    """
    few = _angles(shell, things, _FEW, turn=90.0)
    if found is not None:
        few = sorted({*few, radians(found.angle % 90.0)})
    now = 0.0 if found is None else found.area
    gained = {}
    for thing in things:
        go_on()
        if span(thing)[0] >= HEAD_HEIGHT or shell.floor.is_empty:
            continue
        rest = [one for one in things if one.id != thing.id]
        larger = _largest(_blocks(shell, rest), shell, few, _FEW, now + _NO_COST)
        if larger is not None:
            gained[thing.id] = larger.area - now
    return dict(sorted(gained.items(), key=lambda pair: -pair[1]))


def _largest(
    blocks: Array, shell: Shell, angles: Sequence[float], closely: int, least: float = 0.0
) -> OpenFloor | None:
    """The largest rectangle at any of the angles [rad] and near them; so many places are looked at closely.
    None where there is none of more than the `least` area [m2].
    """
    hull = shapely.get_coordinates(shell.floor.convex_hull)[:-1]
    found: list[tuple[float, float, float, float]] = []
    for angle in angles:
        go_on()
        found += _roughly(blocks, hull, angle)
    best = (0.0, 0.0, 0.0, 0.0)
    for rough, angle, low, high in sorted(found, reverse=True)[:closely]:
        go_on()
        if (rough / (high - low) + _SHORT) * (high - low + _SHORT) <= least:
            continue  # however it grows
        grown = _grown(blocks, angle, low, high, _FINE if least == 0.0 else _FAIR)
        best = max(best, grown)
    area, angle, low, high = best
    if area <= least:
        return None
    left, right = _stretch(blocks, angle, low, high)
    c, s = cos(angle), sin(angle)
    u, v = (left + right) / 2, (low + high) / 2
    long, wide = right - left, high - low
    turned = 0.0 if long >= wide else 90.0
    degrees = (np.degrees(angle) + turned) % 180.0
    return OpenFloor((c * u - s * v, s * u + c * v), float(degrees), max(long, wide), min(long, wide))


def _blocks(shell: Shell, things: Sequence[Thing]) -> Array:
    """What is not clear, as convex pieces (n, 4, 2) [m]: bodies, and what lies round the floor; of a triangle
    one corner stands twice.
    """
    bodies: list[Thing | Fixture] = [*things, *(one for one in shell.room.fixtures if one.is_body)]
    standing = [one for one in bodies if span(one)[0] < HEAD_HEIGHT and span(one)[1] > 0.0]
    low = [corners for slope in shell.slopes if np.ptp(corners := shell.under_slope(slope, HEAD_HEIGHT)) > 0]
    frame = shapely.box(*shell.floor.bounds).buffer(1.0, join_style="mitre")
    outside = shapely.constrained_delaunay_triangles(frame.difference(shell.floor))
    round_it = [shapely.get_coordinates(one) for one in shapely.get_parts(outside)]
    return np.concatenate(
        [np.array(round_it), np.array(low).reshape(-1, 4, 2), footprints(standing).reshape(-1, 4, 2)]
    )


def _angles(shell: Shell, things: Sequence[Thing], most: int = _MOST, turn: float = _TURN) -> list[float]:
    """The directions that are tried [rad], within a quarter turn: the commonest, and those a `turn` apart
    [deg].
    """
    told = [np.degrees(np.arctan2(side.along[1], side.along[0])) for side in shell.sides.values()]
    told += [one.angle for one in things] + [one.angle for one in shell.room.fixtures]
    common = Counter(round(float(one) % 90.0, 3) for one in told).most_common(most)
    return sorted({radians(one) for one in (*(angle for angle, _ in common), *np.arange(0.0, 90.0, turn))})


def _turned(blocks: Array, angle: float) -> Array:
    c, s = cos(angle), sin(angle)
    return np.asarray(blocks @ np.array([[c, -s], [s, c]]))


def _roughly(blocks: Array, hull: Array, angle: float) -> list[tuple[float, float, float, float]]:
    """The largest rectangle of clear cells whose lower edge is in each row: area, angle and the band's edges;
    the best few.
    """
    turned = _turned(blocks, angle)
    x0, y0 = turned.reshape(-1, 2).min(axis=0)
    x1, y1 = turned.reshape(-1, 2).max(axis=0)
    wide, high = (max(_CELL, float(size) / _CELLS) for size in (x1 - x0, y1 - y0))
    across, up = int((x1 - x0) / wide) + 1, int((y1 - y0) / high) + 1
    rows = y0 + high * np.arange(up)
    here, there = _extents(_turned(hull[None], angle), rows[:, None], rows[:, None] + high)
    columns = x0 + wide * np.arange(across)
    clear = (columns >= here - wide) & (columns <= there)
    begin, end = _extents(turned, rows[:, None], rows[:, None] + high)
    first = np.floor((begin - x0) / wide + _LEAST)
    last = np.ceil((end - x0) / wide - _LEAST)
    band, piece = np.nonzero(last > first)
    taken = np.zeros((up, across + 1), dtype=int)
    np.add.at(taken, (band, np.clip(first[band, piece], 0, across).astype(int)), 1)
    np.add.at(taken, (band, np.clip(last[band, piece], 0, across).astype(int)), -1)
    clear &= np.cumsum(taken, axis=1)[:, :-1] == 0
    heights, above = np.zeros((up, across), dtype=int), np.zeros(across, dtype=int)
    for row in range(up - 1, -1, -1):
        above = np.where(clear[row], above + 1, 0)
        heights[row] = above
    best = sorted(((*_widest(row), k) for k, row in enumerate(heights.tolist())), reverse=True)[:_OF_EACH]
    return [
        (area * wide * high, angle, float(rows[row]), float(rows[row] + tall * high))
        for area, tall, row in best
        if area > 0
    ]


def _widest(heights: Sequence[int]) -> tuple[int, int]:
    """The largest rectangle under columns of clear cells on one row: its cells, and how tall it is.

    >>> _widest([1, 3, 2, 2, 0, 4])
    (6, 2)
    """
    best, tall = 0, 0
    open_columns: list[tuple[int, int]] = []  # from where on, how tall: rising
    for at, height in enumerate((*heights, 0)):
        start = at
        while open_columns and open_columns[-1][1] >= height:
            start, lower = open_columns.pop()
            if lower * (at - start) > best:
                best, tall = lower * (at - start), lower
        open_columns.append((start, height))
    return best, tall


def _extents(pieces: Array, low: Array, high: Array) -> tuple[Array, Array]:
    """From where to where along x each piece (n, 4, 2) reaches within bands from `low` to `high`, which are
    (bands, 1) or plain; (inf, -inf) where it does not come into one.
    """
    low, high = np.asarray(low, dtype=float)[..., None], np.asarray(high, dtype=float)[..., None]
    a, b = pieces, np.concatenate([pieces[..., 1:, :], pieces[..., :1, :]], axis=-2)
    (ax, ay), (bx, by) = (a[..., 0], a[..., 1]), (b[..., 0], b[..., 1])
    slope = np.where(np.abs(by - ay) < _LEAST, 1.0, by - ay)
    begin = np.full(np.broadcast_shapes(low.shape[:-1], pieces.shape[:-2]), np.inf)
    end = -begin
    inside = (ay >= low) & (ay <= high)
    begin = np.minimum(begin, np.where(inside, ax, np.inf).min(axis=-1))
    end = np.maximum(end, np.where(inside, ax, -np.inf).max(axis=-1))
    for level in (low, high):
        crosses = (np.minimum(ay, by) < level) & (np.maximum(ay, by) > level)
        x = ax + (level - ay) / slope * (bx - ax)
        begin = np.minimum(begin, np.where(crosses, x, np.inf).min(axis=-1))
        end = np.maximum(end, np.where(crosses, x, -np.inf).max(axis=-1))
    touches = (pieces[..., 1].max(axis=-1) <= low[..., 0] + _LEAST) | (
        pieces[..., 1].min(axis=-1) >= high[..., 0] - _LEAST
    )
    return np.where(touches, np.inf, begin), np.where(touches, -np.inf, end)


def _stretch(blocks: Array, angle: float, low: float, high: float) -> tuple[float, float]:
    """The longest clear stretch of the band between two lines, from where to where along it [m]; exact."""
    if high - low <= _LEAST:
        return 0.0, 0.0
    begin, end = _extents(_turned(blocks, angle), np.array(low), np.array(high))
    order = np.argsort(begin)
    begin, until = begin[order], np.maximum.accumulate(end[order])
    gaps = begin[1:] - until[:-1]
    gaps = np.where(np.isfinite(gaps), gaps, -np.inf)
    if not len(gaps) or gaps.max() <= 0:
        return 0.0, 0.0
    at = int(gaps.argmax())
    return float(until[at]), float(begin[at + 1])


def _grown(
    blocks: Array, angle: float, low: float, high: float, fine: float
) -> tuple[float, float, float, float]:
    """The rectangle grown from a rough one, by steps of the angle and of both edges that become ever smaller,
    down to a fine one: its area, angle and the band's edges.
    """

    def area(at: Array) -> float:
        left, right = _stretch(blocks, at[0], at[1], at[2])
        return float((right - left) * max(0.0, at[2] - at[1]))

    now = np.array([angle, low, high])
    best, step = area(now), _CELL
    ways = [(0, 1, 0), (0, 0, 1), (0, 1, 1), (1, 0, 0), (1, 1, 1), (1, 1, -1), (0, 1, -1)]
    for _ in range(_MOST_ROUNDS):
        if step <= fine:
            break
        moved = False
        for way in ways:
            for sign in (1.0, -1.0):
                at = now + sign * step * np.array(way)
                tried = area(at)
                if tried > best * (1.0 + _BETTER):
                    best, now, moved = tried, at, True
        step = step if moved else step / 2
    return best, float(now[0]), float(now[1]), float(now[2])
