"""Hands on the plan: what a drag does to a thing, a fixture or an opening, and where it snaps."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import partial

from purvel.libraries import np, shapely
from purvel.quantities.systems import System
from purvel.review import Answers
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Fixture, Opening, Shop, Thing
from purvel.shop.edits import move_thing, put
from purvel.shop.parts import item_of
from purvel.space.clearances import polygon
from purvel.space.ground import footprints
from purvel.space.placing import against_wall, snap
from purvel.space.shell import Shell, Side
from purvel.space.traverse import Point

Placer = Callable[[Shop, float, float], Shop]
GRAB = 9.0  # px around a line that still takes hold of it


@dataclass(frozen=True, slots=True)
class DragHandle:
    """Something held: its id, the offset from the hand, and how a position becomes an edit."""

    item: str
    offset: Point
    place: Placer
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
    away = np.asarray(shapely.distance(shapely.polygons(footprints(shop.things)), here))
    candidates: list[tuple[float, str]] = [
        (thing.width * thing.depth - 10 * thing.z, thing.id)
        for thing, is_under in zip(shop.things, (away < slack / 3).tolist())
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


def wall_at(shell: Shell, x: float, y: float, slack: float) -> tuple[Side, float] | None:
    """The wall under a point and how far along it."""
    here = shapely.Point(x, y)
    best: tuple[float, Side] | None = None
    for side in shell.sides.values():
        distance = shapely.LineString([side.start, side.end]).distance(here)
        if distance < slack and (best is None or distance < best[0]):
            best = (distance, side)
    if best is None:
        return None
    side = best[1]
    return side, (x - side.start[0]) * side.along[0] + (y - side.start[1]) * side.along[1]


def handle_for(answers: Answers, item: str, x: float, y: float) -> DragHandle | None:
    """How an item is taken hold of at a point."""
    held, shell = item_of(answers.shop, item), answers.of(RoomAnswers).shell
    if isinstance(held, Thing):
        place: Placer = partial(_place_thing, item, shell)
        return DragHandle(item, (held.x - x, held.y - y), place, f"Move {held.name or item}")
    if isinstance(held, Fixture):
        place = partial(_place_fixture, held, step_of(answers.shop.units), shell)
        return DragHandle(item, (held.x - x, held.y - y), place, f"Move {held.name or held.kind}")
    if isinstance(held, Opening) and held.wall in shell.sides:
        side = shell.sides[held.wall]
        along = (x - side.start[0]) * side.along[0] + (y - side.start[1]) * side.along[1]
        return DragHandle(
            item, (0.0, 0.0), partial(_place_opening, held, shell, held.offset - along), "Move opening"
        )
    return None


def with_others(handle: DragHandle, thing: Thing, others: Sequence[Thing]) -> DragHandle:
    """A handle of which others go along by as much as the thing that is held."""

    def place(shop: Shop, x: float, y: float) -> Shop:
        after = handle.place(shop, x, y)
        now = after.thing(thing.id)
        if now is None:
            return after
        for one in others:
            after = move_thing(after, one.id, one.x + now.x - thing.x, one.y + now.y - thing.y)
        return after

    return replace(handle, place=place, label="Move together") if others else handle


def _place_thing(item: str, shell: Shell, shop: Shop, x: float, y: float) -> Shop:
    thing = shop.thing(item)
    if thing is None:
        return shop
    grid = step_of(shop.units)
    moved = replace(thing, x=_round(x, grid), y=_round(y, grid))
    dx, dy = snap(moved, shop.things, shell)
    return move_thing(shop, item, moved.x + dx, moved.y + dy)


def _place_fixture(held: Fixture, grid: float, shell: Shell, shop: Shop, x: float, y: float) -> Shop:
    moved = replace(held, x=_round(x, grid), y=_round(y, grid))
    if held.stands == "wall":  # it turns to the wall that it is set at
        x, y, angle = against_wall(moved, shell)
        moved = replace(moved, x=x, y=y, angle=angle)
    return put(shop, moved)


def _place_opening(held: Opening, shell: Shell, ahead: float, shop: Shop, x: float, y: float) -> Shop:
    found = wall_at(shell, x, y, 3.0)
    if found is None:
        return shop
    side, along = found
    furthest = max(0.0, side.length - held.width)
    offset = _round(min(max(0.0, along + ahead), furthest), step_of(shop.units))
    return put(shop, replace(held, wall=side.wall, offset=max(0.0, offset)))


def _round(value: float, step: float) -> float:
    return round(round(value / step) * step, 6)
