"""What of a load would still pass, and where it jams."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from math import ceil, log

from purvel.libraries import Array, np, shapely
from purvel.shop import Stock
from purvel.space.carrying import Search, Setting, coarsely, fine_spans, finely, hopefully, search, simply
from purvel.space.free_spans import nearest_in
from purvel.space.ground import Kind
from purvel.space.in_the_way import Bodies
from purvel.space.lanes import SHEETS
from purvel.space.loads import Load, Place, load_of, outline_polygon
from purvel.space.traverse import Point

LONGEST = 4.9  # m: longer boards are not asked for
SHORTEST = 0.60  # m: what is shorter can be carried anywhere that a person gets to
FINENESS = 0.02  # of the longest length, to which it is found
_STEP = 0.05  # m, of a way on foot
_BESIDE_WAY = 0.30  # m that the middle of a load may go beside it
_WALL = 0.1  # m of depth that a wall counts for, where what is touched is weighed
_SPECK = 1e-8  # m2: less is no body

_Ask = Callable[[Load, Setting, Mapping[str, Point]], dict[str, bool]]


@dataclass(frozen=True, slots=True)
class Jam:
    """How far it gets, and what it would touch a little farther on, by kind and id."""

    place: Place
    on: tuple[tuple[Kind, str], ...]


def longest(load: Load, setting: Setting, stops: Mapping[str, Point]) -> dict[str, float]:
    """The greatest length of the same width and thickness that still gets to each stop [m], found to 2 %.

    What fits at one length fits at every shorter one, and so does what can be hoped for or is sure. `LONGEST`
    where even that passes, 0 where not even `SHORTEST` does.
    """
    steps = ceil(log(LONGEST / SHORTEST) / FINENESS)
    lengths = [SHORTEST * (LONGEST / SHORTEST) ** (k / steps) for k in range(steps + 1)]
    nothing, count = dict.fromkeys(stops, -1), len(lengths)

    def last(
        ask: _Ask, low: Mapping[str, int], high: Mapping[str, int], *, is_low: bool = False
    ) -> dict[str, int]:
        """The number of the greatest length that passes, between one that does and one that does not: mostly
        the last that may, or `is_low` and then mostly one of the first; where none is known that passes, then
        mostly none does.
        """
        start, low, top, high = low, dict(low), high, dict(high)
        while names := [name for name in stops if high[name] - low[name] > 1]:
            a, b = low[names[0]], high[names[0]]
            if is_low and a < 0:
                number = 0
            elif b < top[names[0]] or (a >= 0 and not is_low):
                number = (a + b) // 2
            else:
                number = min(a + max(1, 2 * (a - start[names[0]])), b - 1) if is_low else b - 1
            asked = {name: stops[name] for name in names if low[name] < number < high[name]}
            for name, passes in ask(replace(load, length=lengths[number]), setting, asked).items():
                (low if passes else high)[name] = number
        return low

    # what coarse searches tell leaves little to ask a fine one
    hoped = {name: one + 1 for name, one in last(hopefully, nothing, dict.fromkeys(stops, count)).items()}
    found = last(finely, last(simply, nothing, hoped), hoped, is_low=True)
    return {name: 0.0 if one < 0 else lengths[one] for name, one in found.items()}


def largest_sheets(
    load: Load, stature: float, setting: Setting, stops: Mapping[str, Point]
) -> dict[str, tuple[float, float] | None]:
    """The largest sheet as sold, of the same thickness and held in the same way, that gets to each stop:
    length and width [m]; None where none does.
    """
    found: dict[str, tuple[float, float] | None] = dict.fromkeys(stops)
    for length, width in SHEETS:
        asked = {name: spot for name, spot in stops.items() if found[name] is None}
        if asked:
            stock = Stock(length=length, width=width, thickness=load.thickness)
            one = load_of(stock, load.held, stature)
            fits = coarsely(one, setting, asked)
            doubtful = {name: spot for name, spot in asked.items() if fits[name] is None}
            if doubtful:
                fits |= finely(one, setting, doubtful)
            found |= {name: (length, width) for name in asked if fits[name]}
    return found


def jam(load: Load, setting: Setting, way: Sequence[Point], tried: Search | None = None) -> Jam | None:
    """How far a load gets along a way on foot to the stop that it does not reach, and what it would touch a
    little farther on, turned as it fits best there. None where it does not even begin. `tried` is the fine
    search that has seen it, if there is one.
    """
    laid = setting.laid_out(load)
    if laid is None:
        return None
    ground, bodies = laid
    found = tried or search(load, ground, bodies, fine_spans(load))
    come = np.array(sorted(found.came_from), dtype=int)
    if not len(come):
        return None
    steps = _steps((ground.start, *way))
    for number in range(len(steps) - 1, -1, -1):
        near = shapely.distance(found.spans.parts[come], shapely.Point(steps[number]))
        if near.min() <= _BESIDE_WAY:
            part = int(come[near.argmin()])
            x, y = nearest_in(found.spans.parts[part], steps[number])
            ahead = steps[min(number + 1 + ceil(_BESIDE_WAY / _STEP), len(steps) - 1)]
            return Jam(Place(x, y, found.spans.heading(part)), _touched(load, ahead, bodies))
    return None


def _steps(points: Sequence[Point]) -> list[Point]:
    """A way in short steps."""
    line = shapely.LineString(points)
    count = max(1, ceil(line.length / _STEP))
    return [(x, y) for k in range(count + 1) for x, y in line.interpolate(k / count, normalized=True).coords]


def _touched(load: Load, at: Point, bodies: Bodies) -> tuple[tuple[Kind, str], ...]:
    """What the load touches with its middle at a point, with the heading that has it touch least."""
    shapes, lines = shapely.polygons(bodies.pieces), shapely.linestrings(bodies.pieces)
    is_line = shapely.area(shapes) < _SPECK
    best: Array | None = None
    for heading in np.arange(0.0, 180.0, 7.5):
        board = outline_polygon(load, Place(*at, heading))
        shared = np.where(
            is_line,
            shapely.length(shapely.intersection(lines, board)) * _WALL,
            shapely.area(shapely.intersection(shapes, board)),
        )
        if best is None or shared.sum() < best.sum():
            best = shared
    assert best is not None
    order = [int(i) for i in np.argsort(-best) if best[i] > _SPECK]
    return tuple(dict.fromkeys(bodies.names[i] for i in order))
