"""What overlaps what: bodies, door swings, the panel's working space, the swept space of
overhead doors, the parking bay.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from purvel.libraries import Array, Mask, Shapes, np, shapely
from purvel.shop import Fixture, Opening, Thing
from purvel.space.ground import (
    Footprint,
    Standing,
    footprint,
    footprints,
    rectangle,
    rectangles,
)
from purvel.space.shell import TOUCH_AREA, Shell, Side

PANEL_WIDTH = 0.762  # m; 30 in. NEC 110.26(A)(2), or the width of the equipment if that is more
PANEL_DEPTH = 0.914  # m; 36 in. NEC 110.26(A)(1), condition 1, 0-150 V to ground
PANEL_HEIGHT = 1.98  # m; 6.5 ft. NEC 110.26(A)(3)
_NO_EDGE = 1e-9  # m: corners this near are one
HEAD_HEIGHT = 2.0  # m: what hangs above this is no hindrance to a person
STEPPED_OVER = 0.02  # m: nor is what is lower than this


@dataclass(frozen=True, slots=True)
class Clash:
    """Two things that want the same space: their ids, how much floor they share [m2], the shortest way apart
    on the floor [m], and the height that they share [m].
    """

    first: str
    second: str
    area: float
    depth: float
    rise: float = 0.0


def polygon(item: Standing) -> shapely.Polygon:
    """The footprint as a polygon."""
    return _polygon(item.x, item.y, item.angle, item.width, item.depth)


@lru_cache(maxsize=4096)  # where many places are tried in a row, all but one thing stand as before
def _polygon(x: float, y: float, angle: float, width: float, depth: float) -> shapely.Polygon:
    return shapely.Polygon(rectangle(x, y, angle, width, depth))


def span(item: Thing | Fixture) -> tuple[float, float]:
    """Bottom and top above the floor [m]."""
    return (item.z, item.z + item.height) if isinstance(item, Thing) else (item.bottom, item.top)


def barriers(things: Sequence[Thing], fixtures: Sequence[Fixture]) -> tuple[Footprint, ...]:
    """What nobody walks through: all that stands between what is stepped over and head height."""
    items: list[Thing | Fixture] = [*things, *(fixture for fixture in fixtures if fixture.is_body)]
    return tuple(
        Footprint(one.id, one.x, one.y, one.angle, one.width, one.depth)
        for one in items
        if span(one)[0] < HEAD_HEIGHT and span(one)[1] > STEPPED_OVER
    )


def depths(a: Array, b: Array) -> Array:
    """For each pair of convex shapes, corners (n, k, 2) and (n, m, 2) [m], the shortest shift that takes them
    apart [m]; 0 where they are.

    Separating axes: two convex shapes are apart if they are so along the normal of one of their edges.
    """
    edges = np.concatenate([np.roll(a, -1, axis=1) - a, np.roll(b, -1, axis=1) - b], axis=1)
    size = np.linalg.norm(edges, axis=-1)[..., None]
    axes = np.stack([edges[..., 1], -edges[..., 0]], axis=-1) / np.maximum(size, _NO_EDGE)
    on_a, on_b = np.einsum("nkc,nac->nak", a, axes), np.einsum("nkc,nac->nak", b, axes)
    shared = np.minimum(on_a.max(-1) - on_b.min(-1), on_b.max(-1) - on_a.min(-1))
    shared[size[..., 0] < _NO_EDGE] = np.inf
    return np.asarray(np.maximum(shared.min(axis=1), 0.0))


def overlaps(things: tuple[Thing, ...], fixtures: tuple[Fixture, ...]) -> list[Clash]:
    """Bodies that stand in each other: pairs of things, then things in fixtures, then pairs of fixtures."""
    items: list[Thing | Fixture] = [*things, *(fixture for fixture in fixtures if fixture.is_body)]
    if len(items) < 2:
        return []
    corners = footprints(items)
    shapes = np.asarray(shapely.polygons(corners))
    first, second = shapely.STRtree(shapes).query(shapes, predicate="intersects")
    low, high = np.array([span(item) for item in items]).T
    share_height = (low[first] < high[second] - 1e-6) & (low[second] < high[first] - 1e-6)
    wanted = (first < second) & share_height
    first, second = first[wanted], second[wanted]
    areas = np.asarray(shapely.area(shapely.intersection(shapes[first], shapes[second])))
    rise = np.minimum(high[first], high[second]) - np.maximum(low[first], low[second])
    rows = zip(first, second, areas, depths(corners[first], corners[second]), rise)
    return [
        Clash(items[i].id, items[j].id, float(area), float(depth), float(rise))
        for i, j, area, depth, rise in sorted(rows)
        if area > TOUCH_AREA
    ]


def outside(items: Sequence[Thing | Fixture], shell: Shell) -> list[Clash]:
    """What stands partly or wholly beyond the walls; empty while the room is open."""
    if shell.floor.is_empty or not items:
        return []
    shapes = np.array([polygon(item) for item in items])
    doubtful = np.flatnonzero(~shell.on_floor.covers(shapes))
    beyond = shapely.area(shapely.difference(shapes[doubtful], shell.floor))
    rows = zip(doubtful.tolist(), beyond.tolist())
    return [Clash(items[row].id, "", area, 0.0) for row, area in rows if area > TOUCH_AREA]


def free_of(
    poses: Sequence[tuple[float, float, float]], thing: Thing, others: Sequence[Thing | Fixture], shell: Shell
) -> Mask:
    """At which of the poses, x, y [m] and angle [deg], a thing stands in no wall and in no other."""
    shapes = _posed(poses, thing)
    free = np.ones(len(poses), dtype=bool)
    if not shell.floor.is_empty:
        free = shell.on_floor.covers(shapes)
        beyond = np.flatnonzero(~free)
        free[beyond] = shapely.area(shapely.difference(shapes[beyond], shell.floor)) <= TOUCH_AREA
    low, high = span(thing)
    level = [one for one in others if span(one)[0] < high - 1e-6 and low < span(one)[1] - 1e-6]
    if level:
        bodies = np.asarray(shapely.polygons(footprints(level)))
        pose, body = shapely.STRtree(bodies).query(shapes[free], predicate="intersects")
        shared = shapely.area(shapely.intersection(shapes[free][pose], bodies[body]))
        free[np.flatnonzero(free)[pose[shared > TOUCH_AREA]]] = False
    return np.asarray(free)


def _posed(poses: Sequence[tuple[float, float, float]], thing: Thing) -> Shapes:
    """The footprint of a thing in each pose."""
    outlines = rectangles([(x, y, angle, thing.width, thing.depth) for x, y, angle in poses])
    return np.asarray(shapely.polygons(outlines))


def off_floor(poses: Sequence[tuple[float, float, float]], thing: Thing, floor: shapely.Polygon) -> Mask:
    """At which of the poses, x, y [m] and angle [deg], a thing stands off some floor."""
    if not poses:
        return np.zeros(0, dtype=bool)
    shared = shapely.area(shapely.intersection(_posed(poses, thing), floor))
    return np.asarray(shared <= TOUCH_AREA)


def low_ceiling(things: tuple[Thing, ...], shell: Shell) -> list[tuple[str, float]]:
    """Things taller than the ceiling over them: id and the height there is [m]."""
    least = min([shell.room.ceiling.height, *(slope.low for slope in shell.slopes)])
    tall = [thing for thing in things if thing.z + thing.height > least + 1e-6]
    heights = shell.ceilings_over([polygon(thing) for thing in tall]).tolist()
    return [
        (thing.id, height) for thing, height in zip(tall, heights) if thing.z + thing.height > height + 1e-6
    ]


@lru_cache(maxsize=256)  # a door goes where it goes while things are moved
def swing(opening: Opening, side: Side) -> shapely.Polygon:
    """The floor that a swing door sweeps, a quarter circle about each leaf's hinge; empty for other kinds and
    for doors that open outwards.
    """
    if opening.kind != "swing" or opening.swing != "in":
        return shapely.Polygon()
    quarters = [_quarter(hinge, free, side) for hinge, free in leaves(opening)]
    return quarters[0] if len(quarters) == 1 else shapely.union_all(quarters)  # type: ignore[return-value]  # both


def leaves(opening: Opening) -> list[tuple[float, float]]:
    """From where each leaf of a swing door hangs to where it shuts, along the wall [m]."""
    near, far = opening.offset, opening.offset + opening.width
    if opening.leaves == 2:
        return [(near, (near + far) / 2), (far, (near + far) / 2)]
    return [(near, far) if opening.hinge == "start" else (far, near)]


def _quarter(hinge: float, free: float, side: Side) -> shapely.Polygon:
    centre = np.array(side.at(hinge))
    shut = np.array(side.at(free)) - centre
    wide = np.array(side.out) * -abs(free - hinge)
    angles = np.linspace(0.0, np.pi / 2, 25)
    arc = centre + np.cos(angles)[:, None] * shut + np.sin(angles)[:, None] * wide
    return shapely.Polygon([centre, *arc])


@lru_cache(maxsize=256)
def overhead_sweep(opening: Opening, side: Side) -> tuple[shapely.Polygon, float, float]:
    """What a roll-up or tilting door sweeps under the ceiling when it opens: its floor shadow, from which
    height to which [m].
    """
    if opening.kind not in ("roll-up", "tilting"):
        return shapely.Polygon(), 0.0, 0.0
    depth = opening.head if opening.kind == "roll-up" else 0.6 * opening.head
    near, far = opening.offset, opening.offset + opening.width
    shadow = shapely.Polygon([side.at(near), side.at(far), side.at(far, -depth), side.at(near, -depth)])
    return shadow, opening.head, opening.head + opening.headroom


@lru_cache(maxsize=64)
def panel_space(fixture: Fixture, shell: Shell) -> shapely.Polygon:
    """The working space in front of an electrical panel, on the side that faces the room."""
    wide = max(PANEL_WIDTH, fixture.width)
    front = rectangle(fixture.x, fixture.y, fixture.angle, wide, fixture.depth)
    ahead = (front[3] - front[0]) / fixture.depth
    options = [
        shapely.Polygon([front[3], front[2], front[2] + ahead * PANEL_DEPTH, front[3] + ahead * PANEL_DEPTH]),
        shapely.Polygon([front[0], front[1], front[1] - ahead * PANEL_DEPTH, front[0] - ahead * PANEL_DEPTH]),
    ]
    inside = shell.floor
    return max(options, key=lambda space: space.intersection(inside).area)


def space_clashes(
    space: shapely.Polygon, owner: str, low: float, high: float, items: Sequence[Thing | Fixture]
) -> list[Clash]:
    """What stands in a space that is to stay free between two heights; its owner and what is no body do
    not.
    """
    if space.is_empty:
        return []
    near = [one for one in items if one.id != owner and (isinstance(one, Thing) or one.is_body)]
    near = [one for one in near if span(one)[0] < high - 1e-6 and span(one)[1] > low + 1e-6]
    if not near:
        return []
    areas = shapely.area(shapely.intersection(np.array([polygon(one) for one in near], dtype=object), space))
    inside = np.flatnonzero(areas > TOUCH_AREA).tolist()
    if not inside:
        return []
    hull = shapely.get_coordinates(space.convex_hull)
    deep = depths(
        np.array([footprint(near[k]) for k in inside]), np.broadcast_to(hull, (len(inside), *hull.shape))
    )
    return [Clash(near[k].id, owner, float(areas[k]), depth) for k, depth in zip(inside, deep.tolist())]


def wall_distances(
    item: Thing | Fixture, shell: Shell
) -> list[tuple[str, float, tuple[float, float], tuple[float, float]]]:
    """The nearest two walls that are not parallel: wall id, distance [m], the point on the item and the foot
    on the wall.
    """
    shape, walls = polygon(item), list(shell.sides.values())
    lines = [shapely.LineString([side.start, side.end]) for side in walls]
    nearest_first = sorted(zip(walls, lines), key=lambda pair: float(shape.distance(pair[1])))
    across = [pair for pair in nearest_first[1:] if not pair[0].is_parallel(nearest_first[0][0])]
    found = []
    for side, line in (*nearest_first[:1], *across[:1]):
        on_item, on_wall = shapely.shortest_line(shape, line).coords
        found.append(
            (side.wall, float(shape.distance(line)), (on_item[0], on_item[1]), (on_wall[0], on_wall[1]))
        )
    return found
