"""Where a proposed duct may lie: the lattice under the ceiling, where each machine's drop may come down,
where the riser at the source stands.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from math import atan2, cos, dist, hypot, inf, pi, radians, sin

from purvel.airflow.pipe_tree import Lattice, Node, Start
from purvel.airflow.run_losses import FACES, inlet_faces
from purvel.libraries import Array, np, shapely
from purvel.review.ducts.pipe_room import PipeRoom, Zone, met
from purvel.shop import Port, Thing
from purvel.shop.parts import name_of
from purvel.space.joists import joist_lines

BELOW_CEILING = 0.05  # m between a main and the ceiling, for hangers [choice]
HANDLING = 0.03  # m that pipe stays off what is there [choice]
ENOUGH = (3.2, 5.0)  # diameters of straight pipe before the inlet; 3 at the least [trade practice]
ENOUGH_ON_VAC = (2.0, 4.0)  # hose bends there as it likes [choice]
LESS = (2.0, 1.0)  # diameters where there is no room for more
ASIDE = (0.0, 0.35, -0.35)  # m beside a port at which a drop comes down round the thing [choice]
LONGEST_HOSE = 1.8  # m between a drop and its port
TURNED_ASIDE = (
    0.0,
    0.5,
    -0.5,
    1.0,
    -1.0,
)  # m aside of the straight pipe before the inlet for the riser [choice]
LOWEST = 0.15  # m above the floor to which a drop comes down at most
SECOND_AT = 0.3  # m above a drop's end where hose to a second port branches off
_HOSE_ROOM = 0.02  # m of room round the middle of a hose
_STEP = 0.6  # m between lines of the lattice where nothing else asks for one
_APART = 0.2  # m that such lines keep from others
_GIVEN_UP = 400.0  # USD that standing in a lane or in standing room counts as
_BY_WALL = 0.5  # m from a wall within which pipe is along it
_ALONG = 0.7  # cosine from which a piece of pipe goes along joists, not across
_MOST_DROPS = 4  # places for one port's drop that are looked at

Spot = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Drop:
    """Where a machine's pipe comes down on the plan, to which height, and how far hoses go from there to its
    ports [m].
    """

    x: float
    y: float
    bottom: float
    hoses: tuple[float, ...]
    given_up: tuple[Zone, ...] = ()


@dataclass(frozen=True, slots=True)
class Riser:
    """Where pipe goes up to the main from the source's inlet, how far it is straight before that [m], whether
    that is as much as fans want, and where it turned aside on the way.
    """

    x: float
    y: float
    straight: float
    is_enough: bool
    turned_at: Spot | None = None


class Frame:
    """The plan turned so that the longest wall lies along an axis."""

    def __init__(self, room: PipeRoom) -> None:
        sides = room.shell.sides.values()
        longest = max(sides, key=lambda side: side.length, default=None)
        self.angle = 0.0 if longest is None else atan2(longest.along[1], longest.along[0]) % (pi / 2)
        if min(self.angle, pi / 2 - self.angle) < 1e-6:
            self.angle = 0.0
        self._c, self._s = cos(self.angle), sin(self.angle)

    def turned(self, x: float, y: float) -> Spot:
        """A place of the plan in the frame."""
        return self._c * x + self._s * y, self._c * y - self._s * x

    def plan(self, u: float, v: float) -> Spot:
        """A place of the frame on the plan."""
        return self._c * u - self._s * v, self._s * u + self._c * v

    def on_plan(self, places: Array) -> Array:
        """Places (..., 2) of the frame on the plan."""
        u, v = places[..., 0], places[..., 1]
        return np.stack([self._c * u - self._s * v, self._s * u + self._c * v], axis=-1)


def port_spot(thing: Thing, port: Port) -> tuple[float, float, float]:
    """Where a port is [m]."""
    return (*thing.spot(port.x, port.y), thing.z + port.z)


def drops(room: PipeRoom, thing: Thing, ports: Sequence[Port], height: float, radius: float) -> list[Drop]:
    """Where pipe can come down to a machine, the least hose first; what stands in a lane or where somebody
    stands comes last. Hose to the first port goes on at the bottom, to the others from a branch above it.
    Raises ValueError where it can come down nowhere, and says what is in the way.
    """
    ends = [port_spot(thing, port) for port in ports]
    bottom = min(max(ends[0][2], LOWEST), height - 0.1)
    inside = room.shell.floor.buffer(-(radius + HANDLING))
    solid = [zone for zone in (*room.fixed, *room.things) if not zone.soft]
    soft = [*(zone for zone in room.fixed if zone.soft), *room.worked]
    others = [zone for zone in solid if zone.about != thing.id]
    found, blocks = [], []
    for x, y in _round(thing, ports[0], radius):
        pipe = ((x, y, bottom), (x, y, height))
        hoses = [((x, y, bottom + (SECOND_AT if n else 0.0)), end) for n, end in enumerate(ends)]
        lengths = tuple(dist(*hose) for hose in hoses)
        if max(lengths) > LONGEST_HOSE or not inside.covers(shapely.Point(x, y)):
            continue
        tried = [
            met(pipe, radius + HANDLING, solid),
            *(met(hose, _HOSE_ROOM, others) for hose in hoses),
        ]
        block = next(itertools.chain(*tried), None)
        if block is not None:
            blocks.append(f"{name_of(room.shop, block.about)} {block.why}")
            continue
        given_up = [*met(pipe, radius, soft)]
        for hose in hoses:
            given_up += met(hose, _HOSE_ROOM, room.worked)
        found.append(Drop(x, y, bottom, lengths, tuple(dict.fromkeys(given_up))))
    if not found:
        why = "; ".join(list(dict.fromkeys(blocks))[:3]) or "it stands at the walls"
        name = thing.name or thing.id
        raise ValueError(f"No pipe can come down to {name} within a hose's length from above: {why}.")
    found.sort(key=lambda one: (len(one.given_up), sum(one.hoses)))
    return found[:_MOST_DROPS]


def _round(thing: Thing, port: Port, radius: float) -> list[Spot]:
    """Places at which a drop could come down: before the port where it faces, and round the thing."""
    faces = FACES[port.faces](radians(thing.angle)) if port.faces is not None else (0.0, 0.0, 0.0)
    x, y = thing.spot(port.x, port.y)
    found = [(x, y)] if faces[2] > 0.5 else []
    if hypot(faces[0], faces[1]) > 0.5:
        found += [(x + far * faces[0], y + far * faces[1]) for far in (0.35, 0.5, 0.75)]
    off = radius + HANDLING + 0.02
    right, away = thing.width / 2 + off, thing.depth / 2 + off
    for aside in ASIDE:
        u, v = port.x + aside, port.y + aside
        if abs(u) <= right:
            found += [thing.spot(u, away), thing.spot(u, -away)]
        if abs(v) <= away:
            found += [thing.spot(right, v), thing.spot(-right, v)]
    return [(sx, sy) for sx, sy in found if hypot(sx - x, sy - y) <= LONGEST_HOSE]


def risers(room: PipeRoom, thing: Thing, height: float, size: float) -> list[Riser]:
    """Where the riser of a source may stand: so far before its inlet that pipe is straight enough, or aside
    of there; where there is no room for that, as far as there is. Raises ValueError where there is none at
    all, and says what is in the way.
    """
    assert thing.source is not None  # that is what is asked for
    ahead = inlet_faces(thing, thing.source)
    x, y = thing.spot(thing.source.inlet_x, thing.source.inlet_y)
    z = thing.z + thing.source.inlet_z
    solid = (zone for zone in (*room.fixed, *room.things) if not zone.soft)
    others = [zone for zone in solid if zone.about != thing.id]
    radius = size / 2 + HANDLING
    inside = room.shell.floor.buffer(-radius)
    enough = ENOUGH_ON_VAC if thing.source.kind == "vac" else ENOUGH
    found: list[Riser] = []
    blocks: list[str] = []
    for diameters in (*enough, *LESS):
        if found and diameters not in enough:
            break
        far = diameters * size
        end = (x + far * ahead[0], y + far * ahead[1])
        for aside in TURNED_ASIDE:
            top = (end[0] - aside * ahead[1], end[1] + aside * ahead[0])
            pipe = ((x, y, z), (*end, z), (*top, z), (*top, height))
            block = next(met(pipe, radius, others), None)
            if block is None and inside.covers(shapely.Point(top)):
                found.append(Riser(*top, far, diameters in enough, end if aside else None))
            elif block is not None:
                blocks.append(f"{name_of(room.shop, block.about)} {block.why}")
    if not found:
        why = f": {'; '.join(dict.fromkeys(blocks[:3]))}" if blocks else ""
        raise ValueError(f"There is no room for pipe before the inlet of {thing.name or thing.id}{why}.")
    return found


def lattice(
    room: PipeRoom,
    frame: Frame,
    spots: Sequence[Spot],
    height: float,
    size: float,
    *,
    by_walls: float = 1.0,
    by_joists: float = 1.0,
) -> Lattice:
    """Lines through these places (of the frame) and between them, with what is free at a height for pipe of a
    size [m]. Pipe away from walls is `by_walls` times as dear, across the joists `by_joists` times.
    """
    radius = size / 2 + HANDLING
    floor = room.shell.floor
    inside = floor.buffer(-radius)
    corners = [frame.turned(*corner) for corner in shapely.get_coordinates(inside)]
    u = _lines([spot[0] for spot in spots], [corner[0] for corner in corners])
    v = _lines([spot[1] for spot in spots], [corner[1] for corner in corners])
    taken = [
        zone.shape for zone in (*room.fixed, *room.things) if zone.low - radius < height < zone.high + radius
    ]
    low = [shapely.Polygon(room.shell.under_slope(slope, height + radius)) for slope in room.shell.slopes]
    blocked = shapely.union_all([*(shapely.buffer(shape, radius - 1e-6) for shape in taken), *low])
    wall, joists = floor.boundary, _along_joists(room, frame)

    def edges(a: Array, b: Array) -> Array:
        """Of pieces from a to b (..., 2) of the frame how dear they are."""
        shape = a.shape[:-1]
        ends = np.stack([a.reshape(-1, 2), b.reshape(-1, 2)], axis=1)
        lines = np.asarray(shapely.linestrings(frame.on_plan(ends)))
        free = ~shapely.intersects(blocked, lines)
        if not inside.is_empty:
            free &= shapely.covers(inside.buffer(1e-6), lines)
        away = shapely.distance(shapely.centroid(lines), wall) > _BY_WALL if by_walls != 1.0 else False
        dear = np.where(away, by_walls, 1.0) * np.where(_crosses(ends, joists), by_joists, 1.0)
        return np.where(free, dear, inf).reshape(shape)

    grid = np.stack(np.meshgrid(u, v), axis=-1)
    return Lattice(u, v, edges(grid[:, :-1], grid[:, 1:]), edges(grid[:-1], grid[1:]))


def _along_joists(room: PipeRoom, frame: Frame) -> Spot | None:
    """The way that the joists lie, in the frame; None where it is not known."""
    lines = joist_lines(room.shell)
    if not lines:
        return None
    (ax, ay), (bx, by) = frame.turned(*lines[0][0]), frame.turned(*lines[0][1])
    length = hypot(bx - ax, by - ay)
    return (bx - ax) / length, (by - ay) / length


def _crosses(ends: Array, joists: Spot | None) -> Array:
    """Which pieces (n, 2, 2) go across joists."""
    if joists is None:
        return np.zeros(len(ends), dtype=bool)
    way = ends[:, 1] - ends[:, 0]
    along = np.abs(way @ np.array(joists)) / np.maximum(np.linalg.norm(way, axis=1), 1e-9)
    return np.asarray(along < _ALONG)


def _lines(asked: Sequence[float], bounds: Sequence[float]) -> Array:
    """Lines at all that is asked for, at the bounds, and between them where there is room."""
    kept: list[float] = []
    for value in sorted(asked):
        if not kept or value - kept[-1] > 1e-3:
            kept.append(value)
    low, high = min((*bounds, *asked)), max((*bounds, *asked))
    fill: Iterable[float] = itertools.chain(bounds, np.arange(low, high, _STEP).tolist())
    for value in fill:
        if all(abs(value - one) > _APART for one in kept):
            kept.append(value)
    return np.array(sorted(kept))


def node_at(grid: Lattice, spot: Spot) -> Node:
    """The node of the lattice at a place of the frame."""
    return int(np.argmin(np.abs(grid.x - spot[0]))), int(np.argmin(np.abs(grid.y - spot[1])))


def start(grid: Lattice, frame: Frame, drop: Drop, cost: float) -> Start:
    """A drop as a place where pipe begins on the lattice; `cost` [USD] of its pipe and hose."""
    return Start(node_at(grid, frame.turned(drop.x, drop.y)), cost + _GIVEN_UP * len(drop.given_up))
