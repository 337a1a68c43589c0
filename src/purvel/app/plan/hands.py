"""Hands on the plan: what a drag does to a thing, a fixture or an opening, and where it snaps."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import hypot

from purvel.libraries import np, shapely
from purvel.quantities.systems import System
from purvel.review import Answers
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Fixture, Opening, Shop, Thing
from purvel.shop.edits import Edit, move_thing, put
from purvel.shop.parts import item_of
from purvel.space.clearances import polygon, wall_distances
from purvel.space.ground import footprint, footprints
from purvel.space.shell import Side

Point = tuple[float, float]
GRAB = 9.0  # px around a line that still takes hold of it


@dataclass(frozen=True, slots=True)
class Grip:
    """Something held: its id, the offset from the hand, and how a position becomes an edit."""

    item: str
    offset: Point
    place: Callable[[Shop, float, float], Shop]
    label: str


def step_of(system: System) -> float:
    """The step that positions fall on [m]: 10 mm or half an inch."""
    return 0.010 if system == "metric" else 0.0127


def item_at(answers: Answers, x: float, y: float, slack: float, *, fixtures: bool) -> str | None:
    """What is under a point, topmost and smallest first: things, then fixtures and openings where they can be
    taken hold of.
    """
    shop = answers.shop
    here = shapely.Point(x, y)
    under = shapely.distance(shapely.polygons(footprints(shop.things)), here) < slack / 3
    candidates: list[tuple[float, str]] = [
        (thing.width * thing.depth - 10 * thing.z, thing.id)
        for thing, is_under in zip(shop.things, under)
        if is_under
    ]
    if fixtures:
        for fixture in shop.room.fixtures:
            if polygon(fixture).distance(here) < slack:
                candidates.append(
                    (fixture.width * fixture.depth + (100 if not fixture.is_body else 0), fixture.id)
                )
        for opening in shop.room.openings:
            side = answers.of(RoomAnswers).sides.get(opening.wall)
            if side is not None:
                line = shapely.LineString(
                    [side.at(opening.offset, 0.05), side.at(opening.offset + opening.width, 0.05)]
                )
                if line.distance(here) < max(slack, 0.10):
                    candidates.append((0.01, opening.id))
    return min(candidates)[1] if candidates else None


def wall_at(answers: Answers, x: float, y: float, slack: float) -> tuple[Side, float] | None:
    """The wall under a point and how far along it."""
    here = shapely.Point(x, y)
    best: tuple[float, Side] | None = None
    for side in answers.of(RoomAnswers).sides.values():
        distance = shapely.LineString([side.start, side.end]).distance(here)
        if distance < slack and (best is None or distance < best[0]):
            best = (distance, side)
    if best is None:
        return None
    side = best[1]
    return side, (x - side.start[0]) * side.along[0] + (y - side.start[1]) * side.along[1]


def take(answers: Answers, item: str, x: float, y: float) -> Grip | None:
    """Takes hold of an item at a point."""
    shop = answers.shop
    held = item_of(shop, item)
    if isinstance(held, Thing):
        return Grip(
            item,
            (held.x - x, held.y - y),
            lambda s, px, py: _put_thing(s, answers, item, px, py),
            f"Move {held.name or item}",
        )
    if isinstance(held, Fixture):
        grid = step_of(shop.units)

        def place(s: Shop, px: float, py: float) -> Shop:
            return put(s, replace(held, x=_round(px, grid), y=_round(py, grid)))

        return Grip(item, (held.x - x, held.y - y), place, f"Move {held.name or held.kind}")
    if isinstance(held, Opening) and held.wall in answers.of(RoomAnswers).sides:
        side = answers.of(RoomAnswers).sides[held.wall]
        along = (x - side.start[0]) * side.along[0] + (y - side.start[1]) * side.along[1]
        ahead = held.offset - along
        return Grip(
            item,
            (0.0, 0.0),
            lambda s, px, py: _put_opening(s, answers, held, px, py, ahead),
            "Move opening",
        )
    return None


def _put_opening(shop: Shop, answers: Answers, opening: Opening, x: float, y: float, held: float) -> Shop:
    found = wall_at(answers, x, y, 3.0)
    if found is None:
        return shop
    side, along = found
    offset = _round(min(max(0.0, along + held), max(0.0, side.length - opening.width)), step_of(shop.units))
    return put(shop, replace(opening, wall=side.wall, offset=max(0.0, offset)))


def _round(value: float, step: float) -> float:
    return round(round(value / step) * step, 6)


def _put_thing(shop: Shop, answers: Answers, item: str, x: float, y: float) -> Shop:
    thing = shop.thing(item)
    if thing is None:
        return shop
    grid = step_of(shop.units)
    moved = replace(thing, x=_round(x, grid), y=_round(y, grid))
    dx, dy = snap(moved, answers, shop)
    return move_thing(shop, item, moved.x + dx, moved.y + dy)


SNAP = 0.06  # m: closer than this to a wall or a neighbour, a thing goes flush


def snap(thing: Thing, answers: Answers, shop: Shop) -> Point:
    """The small shift that sets a thing flush with walls and neighbours near it."""
    corners = footprint(thing)
    shift = np.zeros(2)
    for side in answers.of(RoomAnswers).sides.values():
        out = np.array(side.out)
        gap = float((np.array(side.start) @ out) - (corners @ out).max())
        along = corners @ np.array(side.along) - np.array(side.start) @ np.array(side.along)
        if (
            0 < abs(gap) < SNAP
            and along.max() > 0
            and along.min() < side.length
            and abs(float(shift @ out)) < 1e-9
        ):
            shift += out * gap
    if hypot(*shift) > 0:
        return (float(shift[0]), float(shift[1]))
    shape = shapely.Polygon(corners)
    others = shapely.polygons(
        footprints(
            [other for other in shop.things if other.id != thing.id and other.z <= thing.z + thing.height]
        )
    )
    distances = shapely.distance(shape, others)
    near = np.flatnonzero((distances > 0) & (distances < SNAP * 0.7))
    if not len(near):
        return (0.0, 0.0)
    a, b = shapely.shortest_line(shape, others[near[0]]).coords
    return (b[0] - a[0], b[1] - a[1])


def set_distance(item: Thing | Fixture, answers: Answers, wall: str, distance: float) -> Edit | None:
    """The edit that sets an item's distance [m] from one of its two nearest walls."""
    for name, now, _, _ in wall_distances(item, answers.of(RoomAnswers).shell):
        if name == wall:
            side = answers.of(RoomAnswers).sides[name]
            x, y = item.x - side.out[0] * (distance - now), item.y - side.out[1] * (distance - now)
            if isinstance(item, Thing):
                return lambda shop: move_thing(shop, item.id, x, y)
            return lambda shop: put(shop, replace(item, x=x, y=y))
    return None
