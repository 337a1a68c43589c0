"""What pipe keeps clear of: doors where they go, openings, the panel's room, lights, what stands and hangs
there, heads; and what a drop had better not stand in: lanes and standing room.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import inf

from purvel.airflow.paths import Path
from purvel.libraries import Array, Mask, np, shapely
from purvel.once import once
from purvel.review.answers import Answers
from purvel.review.place.answers import PlaceAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Fixture, Room, Thing
from purvel.shop.power import Luminaire
from purvel.space.clearances import HEAD_HEIGHT, overhead_sweep, panel_space, polygon, span, swing
from purvel.space.ground import boxes, distances, standing_zone
from purvel.space.lanes import used_floor
from purvel.space.shell import Shell

BEFORE_OPENING = (
    0.3  # m that a pipe stays away from a door or window, so that it opens and lets light in [choice]
)
ROUND_LIGHT = 0.15  # m of room round a light, for its warmth and for changing it [choice]
LIGHT_HIGH = 0.06  # m that a light reaches above and below its middle [choice]
ROUND_FLAME = (
    0.46  # m; 18 in from a flame's appliance to plastic or dust [trade practice; the maker's manual decides]
)
SWEPT = "goes there when it opens"
FLAT = 0.3  # of a leg's length: a leg that rises less is one under which people walk


@dataclass(frozen=True, slots=True)
class Zone:
    """Room that pipe keeps out of, between two heights [m], and why. A `soft` one is given up where nothing
    else is left.
    """

    about: str
    why: str
    shape: shapely.Geometry
    low: float
    high: float
    soft: bool = False


class PipeRoom:
    """The zones of a shop as it stands."""

    def __init__(self, answers: Answers) -> None:
        self._answers, self.shop = answers, answers.shop

    @property
    def shell(self) -> Shell:
        """The room's."""
        return self._answers.of(RoomAnswers).shell

    @once
    def fixed(self) -> tuple[Zone, ...]:
        """What belongs to the room: doors, openings, panels, lights, fixtures."""
        return self._answers.ask(_fixed, self.shop.room, self.shop.power.luminaires, self.shell)

    @once
    def things(self) -> tuple[Zone, ...]:
        """What stands on the floor or hangs."""
        return tuple(
            Zone(one.id, "stands there", polygon(one), *span(one))
            for one in self.shop.things
            if one.height > 0
        )

    @once
    def worked(self) -> tuple[Zone, ...]:
        """Where boards go and people stand."""
        lanes = self._answers.of(PlaceAnswers).lanes
        found = [
            Zone(key, "boards go there", shapely.Polygon(used_floor(lane)), lane.low, lane.high, soft=True)
            for key, lane in lanes.items()
        ]
        for thing in self.shop.things:
            stand = standing_zone(thing)
            if stand is not None:
                found.append(
                    Zone(
                        thing.id,
                        "one stands there to work",
                        shapely.Polygon(stand),
                        0.0,
                        HEAD_HEIGHT,
                        soft=True,
                    )
                )
        return tuple(found)

    @once
    def _low(self) -> Array:
        """What stands lower than heads, as `boxes`."""
        low: list[Thing | Fixture] = [
            one for one in self.shop.things if one.height > 0 and span(one)[0] < HEAD_HEIGHT
        ]
        low += [one for one in self.shop.room.fixtures if one.is_body and one.bottom < HEAD_HEIGHT]
        return boxes(low)

    def _is_walked(self, x: Array, y: Array) -> Mask:
        """At which places [m] people walk: on all the floor on which nothing stands up to head height."""
        away = distances(x[:, None], y[:, None], self._low)
        return np.asarray(self.shell.on_floor.holds(x, y) & (away.min(axis=1, initial=inf) > 0))

    def lowest_over_heads(self, path: Path, radius: float) -> float:
        """The lowest underside [m] of a level piece of pipe that people walk under; inf where there is none,
        or where nobody bumps into it since it lies as low as they step.
        """
        lowest = inf
        for a, b in itertools.pairwise(path):
            length, under = float(np.linalg.norm(np.subtract(b, a))), min(a[2], b[2]) - radius
            if length < 0.3 or abs(a[2] - b[2]) > FLAT * length or not 1.2 < under < lowest:
                continue
            many = max(2, int(length / 0.1) + 1)
            line = np.linspace(a, b, many)
            if self._is_walked(line[:, 0], line[:, 1]).sum() * length / many > 0.6:
                lowest = under
        return lowest


def met(path: Path, radius: float, zones: Sequence[Zone]) -> Iterator[Zone]:
    """Which of the zones a centre line comes nearer than `radius` [m] to."""
    for zone in zones:
        if any(_meets(a, b, radius, zone) for a, b in itertools.pairwise(path)):
            yield zone


def _meets(a: tuple[float, float, float], b: tuple[float, float, float], radius: float, zone: Zone) -> bool:
    """Whether a straight piece of pipe comes into a zone: the part of it that is between its heights."""
    low, high = zone.low - radius, zone.high + radius
    if max(a[2], b[2]) <= low or min(a[2], b[2]) >= high:
        return False
    shares = [0.0, 1.0]
    if abs(b[2] - a[2]) > 1e-9:
        at = sorted(((low - a[2]) / (b[2] - a[2]), (high - a[2]) / (b[2] - a[2])))
        shares = [max(0.0, at[0]), min(1.0, at[1])]
    ends = [(a[0] + s * (b[0] - a[0]), a[1] + s * (b[1] - a[1])) for s in shares]
    line = shapely.LineString(ends) if ends[0] != ends[1] else shapely.Point(ends[0])
    return bool(shapely.distance(line, zone.shape) < radius - 1e-6)


def _fixed(room: Room, lights: tuple[Luminaire, ...], shell: Shell) -> tuple[Zone, ...]:
    return (*_at_openings(room, shell), *_fixtures(room, shell), *_lights(lights))


def _at_openings(room: Room, shell: Shell) -> Iterator[Zone]:
    for opening in room.openings:
        side = shell.sides.get(opening.wall)
        if side is None:
            continue
        near, far = opening.offset, opening.offset + opening.width
        front = [side.at(near), side.at(far), side.at(far, -BEFORE_OPENING), side.at(near, -BEFORE_OPENING)]
        is_soft = opening.kind == "window"  # it loses light, no more
        yield Zone(opening.id, "opens there", shapely.Polygon(front), opening.sill, opening.head, is_soft)
        shadow, low, high = overhead_sweep(opening, side)
        if not shadow.is_empty:
            yield Zone(opening.id, SWEPT, shadow, low, high)
        leaf = swing(opening, side)
        if not leaf.is_empty:
            yield Zone(opening.id, "swings there", leaf, opening.sill, opening.head)


def _fixtures(room: Room, shell: Shell) -> Iterator[Zone]:
    for one in room.fixtures:
        if one.acts == "panel":
            free = shapely.union_all([panel_space(one, shell), polygon(one)])
            yield Zone(one.id, "keeps its room free, up to the ceiling", free, 0.0, inf)
        elif one.is_body and one.acts == "body":
            shape, low, high = polygon(one), *span(one)
            if one.flame:
                yield Zone(one.id, "has a flame", shapely.buffer(shape, ROUND_FLAME), 0.0, inf)
            else:
                yield Zone(one.id, "is there", shape, low, high)


def _lights(lights: Sequence[Luminaire]) -> Iterator[Zone]:
    for light in lights:
        half, turn = light.length / 2, np.radians(light.angle)
        along = np.array([np.cos(turn), np.sin(turn)]) * half
        ends = [np.array([light.x, light.y]) - along, np.array([light.x, light.y]) + along]
        shape = shapely.LineString(ends) if half > 0 else shapely.Point(ends[0])
        room = shapely.buffer(shape, ROUND_LIGHT)
        yield Zone(light.id, "hangs there", room, light.z - LIGHT_HIGH, light.z + LIGHT_HIGH)
