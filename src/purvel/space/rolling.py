"""Where the middle of a disc rolls between what stands on a floor: the Voronoi diagram of points on all
edges, clipped to the floor.

The path that keeps farthest from all edges runs along that diagram, so the widest disc that gets from one
place to another is found on it alone. Between points `step` apart an edge is nearer than they are, but by
no more than Pythagoras allows: where a disc of radius rho passes between points, one of
sqrt(rho**2 - step**2 / 4) passes between edges, and never a wider one than rho. So what is found is never
wide of the truth. At 0.5 m a step of 10 cm costs 1 cm of diameter, but at 0.2 m it costs 3.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from heapq import heappop, heappush

from purvel.libraries import Array, Indices, np
from purvel.space.prepared import Prepared
from purvel.space.triangles import Triangles


@dataclass(frozen=True, slots=True, eq=False)
class Diagram:
    """Places (n, 2) [m] and how far the nearest point is from each, `radius` (n,) [m]; `starts` are the
    places in the middle of the gaps.

    Way k leads between the places `pairs[k]` (m, 2) and lets a disc of radius `width[k]` [m] pass between
    the points, which is narrowest at `narrow[k]` [m]. The first ways keep the same distance from two points:
    these lie `half` [m] to both sides of `middle` along `across`, and at right angles to that the way runs
    from `ends[:, 0]` to `ends[:, 1]` [m]. The other ways run along a gap.
    """

    places: Array
    radius: Array
    starts: tuple[int, ...]
    pairs: Indices
    width: Array
    narrow: Array
    middle: Array
    across: Array
    half: Array
    ends: Array


@dataclass(frozen=True, slots=True, eq=False)
class Reach:
    """The radius [m] of the widest disc that rolls to each place of a diagram, and which way limits it; where
    that is the start k, -1 - k. `discs` (3, k) are x, y and radius [m] of the places that are reached,
    `numbers` (k,) which these are.
    """

    radius: Array
    limit: Indices
    discs: Array
    numbers: Indices


def diagram(triangles: Triangles, floor: Prepared, gaps: Sequence[Array], least: float) -> Diagram:
    """The diagram of the points that triangles are made of, as far as it lies on the floor, without ways for
    discs of less than `least` [m] of radius. Through gaps (2, 2) [m] in the walls discs reach out, but their
    middles do not go.
    """
    points, places, radius, edges = triangles.points, triangles.middles, triangles.radius, triangles.edges
    on_floor = floor.holds(places[:, 0], places[:, 1])
    edges = edges[on_floor[edges[:, 2]] | on_floor[edges[:, 3]]]
    rims, starts = list[_Rim](), list[int]()
    for gap in gaps:
        rim = _rim(gap, points, places, edges)
        edges, places = rim.edges, np.concatenate([places, rim.places])
        radius = np.concatenate([radius, rim.radius])
        on_floor = np.concatenate([on_floor, np.ones(len(rim.places), dtype=bool)])
        starts.append(len(places) - 1)
        rims.append(rim)
    edges = edges[on_floor[edges[:, 2]] & on_floor[edges[:, 3]]]
    middle, across, half, ends = _pencils(points, places, edges)
    near = np.clip(0.0, np.minimum(*ends.T), np.maximum(*ends.T))
    width = np.hypot(half, near)
    passes = width >= least
    narrow = middle + near[:, None] * _turned(across)
    return Diagram(
        places,
        radius,
        tuple(starts),
        np.concatenate([edges[passes, 2:], *(rim.pairs for rim in rims)]),
        np.concatenate([width[passes], *(rim.width for rim in rims)]),
        np.concatenate([narrow[passes], *(rim.narrow for rim in rims)]),
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
    edges, cut at the gap; of the ways from place to place the two places, the width, and where they are
    narrowest.
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
    return _Rim(
        made,
        np.hypot(*(made - points[nearest[:, 0]]).T),
        np.concatenate([edges[~cut], *halves]),
        np.column_stack([index[order[:-1]], index[order[1:]]]),
        np.hypot(*(points[touched] - narrow).T),
        narrow,
    )


def reach(rolled: Diagram, starts: Sequence[int]) -> Reach:
    """How wide a disc rolls to each place from the best of the `starts`: a search for the widest path."""
    source, target = rolled.pairs.T.ravel(), rolled.pairs[:, ::-1].T.ravel()
    order = np.argsort(source, kind="stable")
    first = np.searchsorted(source[order], np.arange(len(rolled.places) + 1)).tolist()
    way = order % max(len(rolled.pairs), 1)
    to, of, narrow = target[order].tolist(), way.tolist(), (-rolled.width[way]).tolist()
    radius, limit = [0.0] * len(rolled.places), [-1] * len(rolled.places)
    waiting = [(-float(rolled.radius[start]), start, -1 - start) for start in starts]
    waiting.sort()
    while waiting:
        negative, begun, by = heappop(waiting)
        as_wide = [begun]  # so is all that is reached from it by ways that are no narrower
        while as_wide:
            place = as_wide.pop()
            if radius[place]:
                continue
            radius[place], limit[place] = -negative, by
            for k in range(first[place], first[place + 1]):
                if radius[to[k]]:
                    continue
                if narrow[k] <= negative:
                    as_wide.append(to[k])
                else:
                    heappush(waiting, (narrow[k], to[k], of[k]))
    found = np.array(radius)
    numbers = np.flatnonzero(found)
    discs = np.stack([*rolled.places[numbers].T, rolled.radius[numbers]])
    return Reach(found, np.array(limit), discs, numbers)


@dataclass(frozen=True, slots=True, eq=False)
class Covered:
    """Of the widest discs between points that roll to where they cover each of some goals: the radius (g,)
    [m], 0 where none does, where that is narrowest (g, 2) [m], if only that part of a disc covers which is
    left of it with its radius squared some slack less; and the radius `most` (g,) [m] if all of it does.
    """

    radius: Array
    narrowest: Array
    most: Array


def covering(rolled: Diagram, reached: Reach, goals: Array, slack: float) -> Covered:
    """The widest discs that cover goals (g, 2) [m], with a slack [m2]."""
    x, y, radius = reached.discs
    square = radius**2
    near = np.zeros((len(goals), len(rolled.places)), dtype=bool)
    for covers, (at_x, at_y) in zip(near, goals):
        covers[reached.numbers] = (x - at_x) ** 2 + (y - at_y) ** 2 <= square
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
    begun = reached.radius[rolled.pairs[ways, here]]
    t0, t1 = rolled.ends[ways, here], rolled.ends[ways, 1 - here]

    def widest(slack: float) -> tuple[Array, Array]:
        needed = a**2 + b**2 - half**2 + slack  # a disc at t covers the goal if this is at most 2 b t
        t = np.where(2 * b * t0 >= needed, t0, needed / (2 * b))
        covers = (t - t0) * (t - t1) <= 0
        thin = np.where(t0 * t <= 0, 0.0, np.where(np.abs(t0) < np.abs(t), t0, t))
        return np.where(covers, np.minimum(begun, np.hypot(half, thin)), 0.0), thin

    found, thin = widest(slack)
    best, narrowest = np.zeros(len(goals)), np.zeros((len(goals), 2))
    order = np.argsort(found, kind="stable")
    last = np.full(len(goals), -1)
    last[whose[order]] = order  # of several the widest, which is written last
    for goal in np.flatnonzero(last >= 0):
        k = last[goal]
        best[goal] = found[k]
        narrowest[goal] = rolled.middle[ways[k]] + thin[k] * along[k]
        if found[k] == begun[k]:
            limit = int(reached.limit[rolled.pairs[ways[k], here[k]]])
            narrowest[goal] = rolled.narrow[limit] if limit >= 0 else rolled.places[-1 - limit]
    most = np.zeros(len(goals))
    np.maximum.at(most, whose, widest(0.0)[0])
    return Covered(best, narrowest, most)
