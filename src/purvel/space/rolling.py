"""Where the middle of a disc rolls between what stands on a floor: the Voronoi diagram of points on all
edges, clipped to the floor.

The path that keeps farthest from all edges runs along that diagram, so the widest disc that gets from one
place to another is found on it alone. Between points `step` apart an edge is nearer than they are, but by
no more than Pythagoras allows: where a disc of radius rho passes between points, one of
sqrt(rho**2 - step**2 / 4) passes between edges, and never a wider one than rho. So what is found is never
wide of the truth. At 0.5 m a step of 10 cm costs 1 cm of diameter, but at 0.2 m it costs 3: where ways are
narrow, points are taken nearer to each other.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from heapq import heappop, heappush

from purvel.libraries import Array, Indices, Mask, np
from purvel.space.prepared import Prepared
from purvel.space.triangles import Triangles


@dataclass(frozen=True, slots=True, eq=False)
class Density:
    """How far apart the points on edges are at the most: `step` [m], and `fine` [m] on all edges that come
    within some `radii` (z,) of `middles` (z, 2) [m].
    """

    step: float
    fine: float = 0.0
    middles: Array = field(default_factory=lambda: np.empty((0, 2)))
    radii: Array = field(default_factory=lambda: np.empty(0))

    def slack(self, places: Array, radius: Array) -> Array:
        """By how much [m2] the square of the `radius` (k, n) [m] of discs at `places` (k, n, 2) [m] may be
        less between edges than between points, anywhere on the straight way between the n places of each of
        the k: what a disc in such a circle touches is in it too.
        """
        if not len(self.middles):
            return np.full(len(places), self.step**2 / 4)
        away = np.hypot(*(places[:, :, None] - self.middles).transpose(3, 0, 1, 2))
        is_fine = (away + radius[..., None] <= self.radii).all(axis=1).any(axis=1)
        return np.where(is_fine, self.fine**2, self.step**2) / 4


@dataclass(frozen=True, slots=True, eq=False)
class Diagram:
    """Places (n, 2) [m] and how far the nearest point is from each, `radius` (n,) [m].

    Way k leads between the places `pairs[k]` (m, 2) and lets a disc of radius `width[k]` [m] pass between
    the points, which is narrowest at `narrow[k]` [m]; between edges the disc's radius squared is less by
    `slack[k]` [m2] at the most. The first ways keep the same distance from two points: these lie `half` [m]
    to both sides of `middle` along `across`, and at right angles to that the way runs from `ends[:, 0]` to
    `ends[:, 1]` [m]. The other ways run along a gap; the `starts` are those that only stay in its middle.
    """

    places: Array
    radius: Array
    starts: tuple[int, ...]
    pairs: Indices
    width: Array
    narrow: Array
    slack: Array
    middle: Array
    across: Array
    half: Array
    ends: Array


@dataclass(frozen=True, slots=True, eq=False)
class Reach:
    """The radius [m] of the widest disc that rolls to each place of a diagram, 0 where none does, and which
    way limits it, else -1.
    """

    radius: Array
    limit: Indices


def diagram(
    triangles: Triangles, density: Density, floor: Prepared, gaps: Sequence[Array], least: float
) -> Diagram:
    """The diagram of the points that triangles are made of, which lie on edges so densely, as far as it lies
    on the floor, without ways for discs of less than `least` [m] of radius. Through gaps (2, 2) [m] in the
    walls discs reach out, but their middles do not go.
    """
    points, places, radius, edges = triangles.points, triangles.middles, triangles.radius, triangles.edges
    is_open = ~triangles.enclosed
    edges = edges[is_open[edges[:, 2]] & is_open[edges[:, 3]]]
    on_floor = np.zeros(len(places), dtype=bool)
    on_floor[is_open] = floor.holds(*places[is_open].T)
    edges = edges[on_floor[edges[:, 2]] | on_floor[edges[:, 3]]]
    rims = list[_Rim]()
    for gap in gaps:
        rim = _rim(gap, points, places, edges)
        edges, places = rim.edges, np.concatenate([places, rim.places])
        radius = np.concatenate([radius, rim.radius])
        on_floor = np.concatenate([on_floor, np.ones(len(rim.places), dtype=bool)])
        rims.append(rim)
    goes = on_floor & (radius >= least)  # a way is narrower than the discs at its ends
    edges = edges[goes[edges[:, 2]] & goes[edges[:, 3]]]
    middle, across, half, ends = _pencils(points, places, edges)
    near = np.clip(0.0, np.minimum(*ends.T), np.maximum(*ends.T))
    width = np.hypot(half, near)
    passes = width >= least
    narrow = middle + near[:, None] * _turned(across)
    pairs = np.concatenate([edges[passes, 2:], *(rim.pairs for rim in rims)])
    last = np.cumsum([len(rim.pairs) for rim in rims]) + int(passes.sum()) - 1
    return Diagram(
        places,
        radius,
        tuple(last.tolist()),
        pairs,
        np.concatenate([width[passes], *(rim.width for rim in rims)]),
        np.concatenate([narrow[passes], *(rim.narrow for rim in rims)]),
        density.slack(places[pairs], radius[pairs]),
        middle[passes],
        across[passes],
        half[passes],
        ends[passes],
    )


def _turned(vectors: Array) -> Array:
    """Vectors (n, 2) turned by 90 degrees to the left."""
    return np.stack([-vectors[:, 1], vectors[:, 0]], axis=1)


def _pencils(points: Array, places: Array, edges: Indices) -> tuple[Array, Array, Array, Array]:
    """The discs that roll along each edge, as `Diagram` says them: middle, across, half, ends."""
    p, q = points[edges[:, 0]], points[edges[:, 1]]
    middle, half = (p + q) / 2, np.hypot(*(q - p).T) / 2
    across = (q - p) / (2 * half)[:, None]
    along = _turned(across)
    ends = np.stack([np.einsum("nk,nk->n", places[edges[:, k]] - middle, along) for k in (2, 3)], axis=1)
    return middle, across, half, ends


@dataclass(frozen=True, slots=True, eq=False)
class _Rim:
    """The ways along a gap: places on it, the middle last, and how far the nearest point is from each; all
    edges, cut at the gap; of the ways from place to place, last that which stays in the middle, the two
    places, the width, and where they are narrowest.
    """

    places: Array
    radius: Array
    edges: Indices
    pairs: Indices
    width: Array
    narrow: Array


def _rim(gap: Array, points: Array, places: Array, edges: Indices) -> _Rim:
    """Cuts the ways at a gap, along which the middle of a disc may go."""
    length = np.hypot(*(gap[1] - gap[0]))
    along = (gap[1] - gap[0]) / length
    offset = places - gap[0]
    out, down = offset @ np.array([-along[1], along[0]]), offset @ along
    one, other = edges[:, 2:].T
    crosses = np.flatnonzero(out[one] * out[other] < 0)
    one, other = one[crosses], other[crosses]
    at = down[one] + out[one] / (out[one] - out[other]) * (down[other] - down[one])
    within = (at > 0) & (at < length)
    cut = np.zeros(len(edges), dtype=bool)
    cut[crosses[within]] = True
    stops = np.append(at[within], length / 2)
    made = gap[0] + stops[:, None] * along
    index = len(places) + np.arange(len(made))
    halves = [np.column_stack([edges[cut, :2], edges[cut, k], index[:-1]]) for k in (2, 3)]
    at_middle = int(np.hypot(*(points - made[-1]).T).argmin())
    nearest = np.concatenate([edges[cut, :2], [[at_middle, at_middle]]])
    order = np.argsort(stops)
    a, b = made[order[:-1]], made[order[1:]]
    both = np.concatenate(
        [nearest[order[:-1]], nearest[order[1:]]], axis=1
    )  # one of them is the nearest between
    away = np.hypot(*(points[both] - ((a + b) / 2)[:, None]).transpose(2, 0, 1))
    touched = both[np.arange(len(both)), away.argmin(axis=1)]
    share = np.clip(((points[touched] - a) @ along) / np.maximum((b - a) @ along, 1e-12), 0.0, 1.0)
    narrow = a + share[:, None] * (b - a)
    radius = np.hypot(*(made - points[nearest[:, 0]]).T)
    return _Rim(
        made,
        radius,
        np.concatenate([edges[~cut], *halves]),
        np.append(np.column_stack([index[order[:-1]], index[order[1:]]]), [index[[-1, -1]]], axis=0),
        np.append(np.hypot(*(points[touched] - narrow).T), radius[-1]),
        np.append(narrow, made[-1:], axis=0),
    )


def reaches(rolled: Diagram, starts: Sequence[int]) -> tuple[Reach, Reach]:
    """How wide a disc rolls to each place from the best of the `starts`, between points and surely."""
    between = _reach(rolled, starts, rolled.width)
    if not len(rolled.slack) or np.ptp(rolled.slack):
        return between, _reach(rolled, starts, _less(rolled.width, rolled.slack))
    return between, replace(between, radius=_less(between.radius, rolled.slack[0]))


def _less(radius: Array, slack: Array) -> Array:
    """Radii [m] whose squares are less by a slack [m2]."""
    return np.asarray(np.sqrt(np.maximum(radius**2 - slack, 0.0)))


def _reach(rolled: Diagram, starts: Sequence[int], width: Array) -> Reach:
    """What is reached by ways of a `width` (m,) [m]: a search for the widest path, in which all ways between
    one fork and the next are one. Ways go by their rank: none is as wide as another.
    """
    count, ways = len(rolled.places), len(rolled.pairs)
    if not starts:
        return Reach(np.zeros(count), np.full(count, -1))
    by_rank = np.argsort(width, kind="stable")
    rank = np.empty(ways, dtype=int)
    rank[by_rank] = np.arange(ways)
    entered = rolled.pairs[list(starts), 0]
    is_fork = np.bincount(rolled.pairs.ravel(), minlength=count) > 2
    is_fork[entered] = True
    begun, end, thinnest = _chains(rolled.pairs, rank, is_fork)
    number = np.cumsum(is_fork) - 1
    chains = np.flatnonzero(is_fork[begun] & is_fork[end])
    widest = np.full(count, -1)
    widest[is_fork] = _widest_paths(
        int(is_fork.sum()),
        list(zip(rank[list(starts)].tolist(), number[entered].tolist())),
        number[begun[chains]],
        number[end[chains]],
        thinnest[chains],
    )
    between = np.flatnonzero(~is_fork[begun])
    np.maximum.at(widest, begun[between], np.minimum(widest[end[between]], thinnest[between]))
    limit = np.where(widest < 0, -1, by_rank[widest])
    return Reach(np.where(widest < 0, 0.0, width[limit]), limit)


def _chains(pairs: Indices, rank: Indices, is_fork: Mask) -> tuple[Indices, Indices, Indices]:
    """For each step along a way (2 m,), there and back: the place where it begins, the fork or dead end to
    which it leads without another between, and the least rank on the way there.
    """
    ways = len(pairs)
    begun, to = pairs.T.ravel(), pairs[:, ::-1].T.ravel()  # step k goes along way k % ways
    steps, degree = np.arange(2 * ways), np.bincount(begun, minlength=len(is_fork))
    leaving = np.bincount(begun, steps, len(is_fork)).astype(int)[
        to
    ]  # the sum of the two steps that there are
    following = np.where(is_fork[to] | (degree[to] == 1), steps, leaving - np.roll(steps, ways))
    thinnest = np.tile(rank, 2)
    for _ in range(ways.bit_length()):  # each time twice as far
        thinnest, further = np.minimum(thinnest, thinnest[following]), following[following]
        if (further == following).all():
            break
        following = further
    return begun, to[following], thinnest


def _widest_paths(
    count: int, entered: list[tuple[int, int]], begun: Indices, end: Indices, thinnest: Indices
) -> list[int]:
    """Of the narrowest of each path to each fork the rank of the widest, -1 where none leads, from those
    which are `entered` by ways of some rank; one leads from `begun` (n,) to `end` (n,).
    """
    order = np.argsort(begun, kind="stable")
    first = np.searchsorted(begun[order], np.arange(count + 1)).tolist()
    to, narrow = end[order].tolist(), (-thinnest[order]).tolist()
    widest = [-1] * count
    waiting = [(-rank, fork) for rank, fork in entered]
    waiting.sort()
    while waiting:
        negative, fork = heappop(waiting)
        if widest[fork] >= 0:
            continue
        widest[fork] = -negative
        for k in range(first[fork], first[fork + 1]):
            if widest[to[k]] < 0:
                heappush(waiting, (max(negative, narrow[k]), to[k]))
    return widest


@dataclass(frozen=True, slots=True, eq=False)
class Covered:
    """Of the widest discs that roll to where they cover each of some goals: the radius (g,) [m] that surely
    passes between edges, 0 where none does, where that is narrowest (g, 2) [m], and the radius `most` (g,)
    [m] that passes between points; there is room for a disc of radius `room` (g,) [m] where that covers.
    """

    radius: Array
    narrowest: Array
    most: Array
    room: Array


def covering(rolled: Diagram, between: Reach, surely: Reach, goals: Array) -> Covered:
    """The widest discs that cover goals (g, 2) [m], from what is reached between points and surely."""
    numbers = np.flatnonzero(between.radius)
    reached = rolled.places[numbers]
    beyond = goals @ (-2 * reached.T)
    beyond += np.einsum("nk,nk->n", reached, reached) - rolled.radius[numbers] ** 2
    near = np.zeros((len(goals), len(rolled.places)), dtype=bool)
    near[:, numbers] = beyond <= -np.einsum("nk,nk->n", goals, goals)[:, None]
    one, other = rolled.pairs[: len(rolled.middle)].T  # no disc on the way between two covers more than both
    by_any = np.asarray(near.any(axis=0))
    from_near = np.flatnonzero(by_any[one] | by_any[other])
    whose, of = np.nonzero(near[:, one[from_near]] | near[:, other[from_near]])
    ways = np.tile(from_near[of], 2)
    whose, here = np.tile(whose, 2), np.repeat([0, 1], len(of))  # gone both ways
    offset, across, half = goals[whose] - rolled.middle[ways], rolled.across[ways], rolled.half[ways]
    along = _turned(across)
    a, b = np.einsum("nk,nk->n", offset, across), np.einsum("nk,nk->n", offset, along)
    b[b == 0] = 1e-12
    begun = rolled.pairs[ways, here]
    t0, t1 = rolled.ends[ways, here], rolled.ends[ways, 1 - here]

    def widest(begun: Array, slack: Array) -> tuple[Array, Array, Array]:
        needed = a**2 + b**2 - half**2 + slack  # a disc at t covers the goal if this is at most 2 b t
        t = np.where(2 * b * t0 >= needed, t0, needed / (2 * b))
        covers = (t - t0) * (t - t1) <= 0
        thin = np.where(t0 * t <= 0, 0.0, np.where(np.abs(t0) < np.abs(t), t0, t))
        return np.where(covers, np.minimum(begun, _less(np.hypot(half, thin), slack)), 0.0), thin, t

    sure = surely.radius[begun]
    found, thin, _ = widest(sure, rolled.slack[ways])
    there, k = _best(found, whose)
    at_end = rolled.narrow[surely.limit[begun[k]]]
    on_way = rolled.middle[ways[k]] + thin[k, None] * along[k]
    best, narrowest = np.zeros(len(goals)), np.zeros((len(goals), 2))
    best[there], narrowest[there] = found[k], np.where((found[k] == sure[k])[:, None], at_end, on_way)
    found, _, t = widest(between.radius[begun], np.zeros(1))
    there, k = _best(found, whose)
    most, room = np.zeros((2, len(goals)))
    most[there], room[there] = found[k], np.hypot(half, t)[k]
    return Covered(best, narrowest, most, room)


def _best(found: Array, whose: Indices) -> tuple[Indices, Indices]:
    """Which goals anything is found for, and which of it is the widest for each."""
    order = np.argsort(found, kind="stable")
    last = np.full(whose.max(initial=-1) + 1, -1)
    last[whose[order]] = order  # of several that which is written last
    there = np.flatnonzero(last >= 0)
    return there, last[there]
