"""Carrying: whether a board or a sheet can be walked, held flat or on edge, from where it comes in to where
it is worked, and where it jams.

What is carried is a rectangle on the plan between two heights. For a span of headings, the places where its
middle may be are the floor less every obstacle grown by the rectangle swept through that span (a Minkowski
sum); from one span it turns into the next wherever both leave its middle free. The swept rectangle is never
smaller than the real one, so a way that is found is one (no false yes); the finer the spans, the nearer to
the limit a way is still found. A coarse search comes first: what it reaches needs no finer one. Nor does what
not even a hopeful one reaches, which grows the obstacles only by what the rectangle covers throughout a span.
Where only the greatest length is asked for, the coarse search also goes straight between its turns, as
through a gap.

A board turned end for end is the same board, so headings run over half a turn. Whoever carries it is not
looked at.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import ceil, pi

from purvel.libraries import np, shapely
from purvel.shop import Thing
from purvel.space.free_spans import FreeSpans, evenly, free_spans, through
from purvel.space.ground import Ground
from purvel.space.in_the_way import TOUCH, Bodies, Yard, bodies_for, yard
from purvel.space.loads import Load, Place, Start
from purvel.space.shell import Shell
from purvel.space.traverse import Point
from purvel.stopping import go_on

REACH = 1.0  # m: the middle of what is carried comes as near as this to where one stands at the machine
COARSE = 24  # spans of heading in half a turn: 7.5 degrees
SLIP = 0.0075  # m that an end moves sideways within half a span of the fine search
_LEAST_SPANS, _MOST_SPANS = 48, 480  # of the fine search


@dataclass(frozen=True, slots=True)
class Setting:
    """Where something is carried: from where, in which room, among which things, which are on the plan."""

    start: Start
    shell: Shell
    things: tuple[Thing, ...]
    plan: Ground

    def laid_out(self, load: Load) -> tuple[Yard, Bodies] | None:
        """The floor that a load goes over and what is in its way; None where it cannot start."""
        ground = yard(self.shell, self.things, self.start, load)
        if ground is None:
            return None
        return ground, bodies_for(self.plan, ground, self.shell, load, self.start.item)


@dataclass(frozen=True, slots=True)
class Carried:
    """Whether it gets to a stop, and how: the places on its way, how far its middle goes [m] and how much it
    is turned [deg]; `tried` is the fine search that did not come there, if it took one to see that.
    """

    fits: bool
    way: tuple[Place, ...] = ()
    length: float = 0.0
    turned: float = 0.0
    tried: Search | None = None


@dataclass(frozen=True, eq=False)
class Search:
    """All that one search found: the free pieces, from which piece each was come to, and those begun from."""

    load: Load
    spans: FreeSpans
    came_from: Mapping[int, int | None]
    start: Point

    def reaches(self, stop: Point) -> list[int]:
        """The pieces that were come to within reach of a stop."""
        come = np.array(sorted(self.came_from), dtype=int)
        if not len(come):
            return []
        near = shapely.dwithin(self.spans.parts[come], shapely.Point(stop), REACH)
        return [int(part) for part in come[near]]


def search(load: Load, ground: Yard, bodies: Bodies, spans: int, hopeful: bool = False) -> Search:
    """Everywhere that it can be carried to, with headings in this many spans of half a turn; where it is
    hopeful, nowhere else can it be carried to. Raises Stopped when nobody waits any more.
    """
    go_on()
    free = free_spans(load, ground, bodies, spans, hopeful)
    return Search(load, free, _come(_begun(free, load, ground, hopeful), free.joined), ground.start)


def _straight_too(load: Load, ground: Yard, bodies: Bodies) -> Search:
    """A coarse search that also goes straight through narrower places, with the heading of the fine search in
    the middle of each coarse span. What it comes to the fine search comes to.
    """
    go_on()
    fine = fine_spans(load)
    turned = free_spans(load, ground, bodies, COARSE)
    straight = free_spans(load, ground, bodies, fine, some=COARSE)
    first = len(turned.parts)
    joined = [*turned.joined, *([] for _ in straight.parts)]
    within = np.searchsorted(evenly(fine, COARSE), straight.span)
    one, other = np.nonzero(turned.span[:, None] == within)
    meet = shapely.intersects(turned.parts[one], straight.parts[other])
    for a, b in zip(one[meet].tolist(), (first + other[meet]).tolist()):
        joined[a] = [*joined[a], b]
        joined[b].append(a)
    span = np.append(turned.span, straight.span * (COARSE / fine))
    both = FreeSpans(COARSE, np.append(turned.parts, straight.parts), span)
    begun = [*_begun(turned, load, ground, False), *(first + i for i in _at_start(straight, ground))]
    return Search(load, both, _come(begun, joined), ground.start)


def _come(begun: Sequence[int], joined: Sequence[Sequence[int]]) -> dict[int, int | None]:
    """The pieces that are come to from those begun in, nearest first, each with the one before it."""
    came: dict[int, int | None] = dict.fromkeys(begun)
    queue = deque(begun)
    while queue:
        part = queue.popleft()
        for other in joined[part]:
            if other not in came:
                came[other] = part
                queue.append(other)
    return came


def _begun(free: FreeSpans, load: Load, ground: Yard, hopeful: bool) -> list[int]:
    """The pieces that it starts in: at the start with its heading; in the open also turned, or, where it does
    not fit there, near by.
    """
    at = _at_start(free, ground)
    if ground.heading is not None or (at and not hopeful) or not len(free.parts):
        return at
    near = shapely.dwithin(free.parts, shapely.Point(ground.start), load.length)
    return [int(i) for i in np.flatnonzero(near)]


def _at_start(free: FreeSpans, ground: Yard) -> list[int]:
    """The pieces at the start, with its heading if it has one."""
    if not len(free.parts):
        return []
    at = [int(i) for i in np.flatnonzero(shapely.dwithin(free.parts, shapely.Point(ground.start), TOUCH))]
    if ground.heading is None:
        return at
    half = 90.0 / free.count + 1e-9
    return [i for i in at if _apart(free.heading(i), ground.heading) <= half]


def _apart(a: float, b: float) -> float:
    """Between two headings of something without a front [deg]."""
    return abs((a - b + 90.0) % 180.0 - 90.0)


def fine_spans(load: Load) -> int:
    """How many spans the fine search has, so that an end moves by `SLIP` within half of one."""
    return min(_MOST_SPANS, max(_LEAST_SPANS, ceil(pi * load.radius / (2 * SLIP))))


def carry(load: Load, setting: Setting, stops: Mapping[str, Point]) -> dict[str, Carried]:
    """Whether it can be carried to each stop, and how. Empty where the start lets nothing through."""
    laid = setting.laid_out(load)
    if laid is None:
        return dict.fromkeys(stops, Carried(False))
    ground, bodies = laid
    coarse = search(load, ground, bodies, COARSE)
    found = _arrived(coarse, stops)
    doubtful = {name: stops[name] for name in stops.keys() - found}
    doubtful = _hoped_for(load, ground, bodies, doubtful) if doubtful else {}
    fine = search(load, ground, bodies, fine_spans(load)) if doubtful else None
    if fine is not None:
        found |= _arrived(fine, doubtful)
    return {name: found.get(name, Carried(False, tried=fine)) for name in stops}


def _arrived(tried: Search, stops: Mapping[str, Point]) -> dict[str, Carried]:
    return {name: _way(tried, near, spot) for name, spot in stops.items() if (near := tried.reaches(spot))}


def _hoped_for(load: Load, ground: Yard, bodies: Bodies, stops: Mapping[str, Point]) -> dict[str, Point]:
    """The stops that it may be carried to; to the others it cannot."""
    hoped = search(load, ground, bodies, COARSE, hopeful=True)
    return {name: spot for name, spot in stops.items() if hoped.reaches(spot)}


def simply(load: Load, setting: Setting, stops: Mapping[str, Point]) -> dict[str, bool]:
    """Whether a search that is quick comes to each stop: then the fine one comes there too."""
    laid = setting.laid_out(load)
    if laid is None:
        return dict.fromkeys(stops, False)
    found = _straight_too(load, *laid)
    return {name: bool(found.reaches(spot)) for name, spot in stops.items()}


def hopefully(load: Load, setting: Setting, stops: Mapping[str, Point]) -> dict[str, bool]:
    """Whether a hopeful search comes to each stop: if it does not, it cannot be carried there."""
    return _found_by(load, setting, stops, COARSE, hopeful=True)


def coarsely(load: Load, setting: Setting, stops: Mapping[str, Point]) -> dict[str, bool | None]:
    """Whether it can be carried to each stop, as far as quick searches tell; None where that is in doubt."""
    found: dict[str, bool | None] = dict(simply(load, setting, stops))
    left = {name: stops[name] for name, fits in found.items() if not fits}
    hoped = hopefully(load, setting, left) if left else {}
    return found | {name: None for name, fits in hoped.items() if fits}


def finely(load: Load, setting: Setting, stops: Mapping[str, Point]) -> dict[str, bool]:
    """Whether it can be carried to each stop, by the fine search."""
    return _found_by(load, setting, stops, fine_spans(load))


def _found_by(
    load: Load, setting: Setting, stops: Mapping[str, Point], spans: int, *, hopeful: bool = False
) -> dict[str, bool]:
    """Whether one search comes to each stop."""
    laid = setting.laid_out(load)
    if laid is None:
        return dict.fromkeys(stops, False)
    found = search(load, *laid, spans, hopeful)
    return {name: bool(found.reaches(spot)) for name, spot in stops.items()}


def _way(found: Search, near: Sequence[int], stop: Point) -> Carried:
    """The way with the fewest turns to one of the pieces near a stop, each stretch as short as it can be."""

    def trail(part: int) -> list[int]:
        steps: list[int] = []
        at: int | None = part
        while at is not None:
            steps.append(at)
            at = found.came_from[at]
        return steps[::-1]

    steps = min((trail(part) for part in near), key=len)
    ways, length = through([found.spans.parts[part] for part in steps], found.start, stop)
    headings = [found.spans.heading(part) for part in steps]
    places = [Place(x, y, heading) for heading, way in zip(headings, ways) for x, y in way]
    turned = sum(_apart(a, b) for a, b in pairwise(headings))
    return Carried(True, tuple(dict.fromkeys(places)), length, turned)
