"""Rolling: whether a machine on wheels can be brought from where it is stowed to where it is set up, with its
real footprint, among what stands there.

Castors turn on the spot, so a place is a middle and a heading; what goes on fixed wheels or skids keeps its
heading and is only pushed straight. For a span of headings the free places of the middle are the floor less
every body grown by the footprint swept through that span, as for a carried board, so a way that is found is
one. Besides, at the very headings that it leaves and comes to, the footprint as it is counts: else it could
not be parked close to anything. End for end it is not the same, so headings run over a whole turn.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from math import hypot

from purvel.libraries import np, shapely
from purvel.shop import Thing
from purvel.space.carrying import COARSE, fine_spans
from purvel.space.clearances import polygon
from purvel.space.free_spans import FreeSpans, free_spans, free_still, through
from purvel.space.ground import ground
from purvel.space.in_the_way import Yard, bodies_for
from purvel.space.loads import Load, Place
from purvel.space.shell import Shell
from purvel.space.traverse import turn_between
from purvel.stopping import go_on

ROLLS_OVER = 0.010  # m: what is higher stops castors [trade practice, low]
_SLACK = 0.001  # m by which the footprint is smaller where it leaves and comes to: what touches there may
_AT = 0.002  # m: this near a place it is there
_LEVEL = 1e-6  # deg: headings that are one
_SUSPECTS = 6  # things that are tried as what is in the way, the nearest first


@dataclass(frozen=True, slots=True)
class RollOut:
    """Whether a thing gets from one place to another, as the number `turn` of those that are moved: the
    places on its way, how far its middle goes [m], and how much it is turned [deg]. Where it does not, the
    things without any one of which it would (`blocked_by`), and whether it keeps its heading only for want
    of castors.
    """

    thing: str
    fits: bool
    turn: int
    way: tuple[Place, ...] = ()
    length: float = 0.0
    turned: float = 0.0
    blocked_by: tuple[str, ...] = ()
    wants_castors: bool = False


def roll_outs(before: Sequence[Thing], after: Sequence[Thing], shell: Shell) -> list[RollOut]:
    """The ways of all things on wheels that stand elsewhere after than before, in an order in which they can
    be moved one after another. What is folded, hung or put away by hand is so first, and unfolded last.
    """
    if shell.floor.is_empty:
        return []
    now, later = {one.id: one for one in before}, {one.id: one for one in after}
    moved = [one.id for one in before if one.wheels and one.id in later and _elsewhere(one, later[one.id])]
    standing = {name: _smaller(now.get(name), later.get(name)) for name in now.keys() | later.keys()}
    for name in moved:
        standing[name] = _as_it_goes(now[name], later[name])
    found, left = list[RollOut](), list(moved)
    while left:
        go_on()
        done = None
        for name in left:
            here, there = standing[name], _as_it_goes(later[name], now[name])
            assert here is not None  # only what stands at both is moved
            way = rolled(here, there, _others(standing, name), shell)
            if way is not None:
                done = name
                standing[name] = there
                found.append(replace(way, turn=len(found) + 1))
                break
        if done is None:
            break
        left.remove(done)
    return [*found, *(_stuck(name, standing, _as_it_goes(later[name], now[name]), shell) for name in left)]


def _elsewhere(one: Thing, other: Thing) -> bool:
    return hypot(one.x - other.x, one.y - other.y) > _AT or abs(turn_between(one.angle, other.angle)) > _LEVEL


def _smaller(one: Thing | None, other: Thing | None) -> Thing | None:
    """How something that is not rolled stands meanwhile: away, or as it takes less floor."""
    if one is None or other is None:
        return None
    return min(one, other, key=lambda thing: thing.width * thing.depth)


def _as_it_goes(here: Thing, there: Thing) -> Thing:
    """A thing at one place as it is rolled: folded if it is so at either; its middle is then that of what is
    left of it.
    """
    if here.depth <= there.depth:
        return here
    by = (here.depth - there.depth) / 2
    x, y = here.spot(0.0, by)
    return replace(here, x=x, y=y, depth=there.depth)


def _others(standing: Mapping[str, Thing | None], name: str) -> tuple[Thing, ...]:
    return tuple(one for key, one in standing.items() if one is not None and key != name)


def rolled(here: Thing, there: Thing, others: Sequence[Thing], shell: Shell) -> RollOut | None:
    """The way of a thing from one place to another among others; None where there is none that is found."""
    load = Load(
        here.width, here.depth, max(here.height - ROLLS_OVER, ROLLS_OVER), "flat", here.z + ROLLS_OVER
    )
    yard = Yard(shell.floor, (here.x, here.y), None)
    bodies = bodies_for(ground(shell, tuple(others)), yard, shell, load, here.id)
    still = [free_still(load, yard, bodies, one.angle, _SLACK) for one in (here, there)]
    begun, ended = (_at(parts, one) for parts, one in zip(still, (here, there)))
    if not begun or not ended:
        return None  # it stands in something already
    goes = _straight(still[0], here, there, begun)
    for spans in (COARSE, fine_spans(load)) if goes is None and here.castors else ():
        go_on()
        goes = _turning(still, begun, ended, here, there, free_spans(load, yard, bodies, spans))
        if goes is not None:
            break
    if goes is None:
        return None
    ways, length = through(goes.pieces, (here.x, here.y), (there.x, there.y))
    places = [Place(x, y, heading) for heading, way in zip(goes.headings, ways) for x, y in way]
    turned = sum(abs(turn_between(a, b)) for a, b in pairwise(goes.headings))
    return RollOut(here.id, True, 0, tuple(dict.fromkeys(places)), length, turned)


def _at(parts: np.ndarray, thing: Thing) -> list[int]:
    """The pieces that a thing's middle is in."""
    return [int(k) for k in np.flatnonzero(shapely.dwithin(parts, shapely.Point(thing.x, thing.y), _AT))]


@dataclass(frozen=True, slots=True)
class _Goes:
    """The pieces of floor that it goes through, and its heading in each [deg]."""

    pieces: Sequence[shapely.Geometry]
    headings: Sequence[float]


def _straight(parts: np.ndarray, here: Thing, there: Thing, begun: Sequence[int]) -> _Goes | None:
    """The way without a turn."""
    if abs(turn_between(here.angle, there.angle)) > _LEVEL:
        return None
    both = [k for k in _at(parts, there) if k in begun]
    return _Goes([parts[both[0]]], [here.angle]) if both else None


def _turning(
    still: Sequence[np.ndarray],
    begun: Sequence[int],
    ended: Sequence[int],
    here: Thing,
    there: Thing,
    free: FreeSpans,
) -> _Goes | None:
    """The way with the fewest turns: first out of where it stands as it stands, then from span to span of
    heading, then in. A node is a piece and the half of the whole turn that its span is in.
    """
    step = 180.0 / free.count

    def beside(part: shapely.Geometry, angle: float) -> list[tuple[int, int]]:
        """The nodes of the span about a heading that meet a piece at that very heading."""
        half, span = divmod(round(angle / step) % (2 * free.count), free.count)
        near = np.flatnonzero(free.span == span)
        return [(int(k), half) for k in near[shapely.intersects(free.parts[near], part)]]

    came: dict[tuple[int, int], tuple[int, int] | int] = {}
    for k in begun:
        for node in beside(still[0][k], here.angle):
            came.setdefault(node, k)
    goals = {node: k for k in ended for node in beside(still[1][k], there.angle)}
    queue = deque(came)
    while queue:
        node = queue.popleft()
        if node in goals:
            return _traced(node, came, still, goals[node], here, there, free)
        part, half = node
        for other in free.joined[part]:
            over = abs(int(free.span[other]) - int(free.span[part])) == free.count - 1
            following = (other, 1 - half if over else half)
            if following not in came:
                came[following] = node
                queue.append(following)
    return None


def _traced(
    node: tuple[int, int],
    came: Mapping[tuple[int, int], tuple[int, int] | int],
    still: Sequence[np.ndarray],
    goal: int,
    here: Thing,
    there: Thing,
    free: FreeSpans,
) -> _Goes:
    pieces, headings = [still[1][goal]], [there.angle % 360.0]
    at: tuple[int, int] | int = node
    while not isinstance(at, int):
        pieces.append(free.parts[at[0]])
        headings.append(free.heading(at[0]) + 180.0 * at[1])
        at = came[at]
    pieces.append(still[0][at])
    headings.append(here.angle % 360.0)
    return _Goes(pieces[::-1], headings[::-1])


def _stuck(name: str, standing: Mapping[str, Thing | None], there: Thing, shell: Shell) -> RollOut:
    """What keeps a thing where it stands."""
    here = standing[name]
    assert here is not None
    if not here.castors:
        on_castors = rolled(replace(here, castors=True), there, _others(standing, name), shell)
        if on_castors is not None:
            return RollOut(name, False, 0, wants_castors=True)
    line = shapely.LineString([(here.x, here.y), (there.x, there.y)])
    near = sorted(_others(standing, name), key=lambda one: (polygon(one).distance(line), one.id))
    blockers = [
        one.id
        for one in near[:_SUSPECTS]
        if rolled(here, there, [other for other in _others(standing, name) if other.id != one.id], shell)
    ]
    return RollOut(name, False, 0, blocked_by=tuple(blockers))
