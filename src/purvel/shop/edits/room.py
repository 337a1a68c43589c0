"""Edits of the room: walls split, ceilings sloped."""

from dataclasses import replace
from typing import Any

from purvel.shop.parts import ids_of
from purvel.shop.room import Slope, Wall
from purvel.shop.shop import Shop


def fresh_wall_id(shop: Shop) -> str:
    """A, B, C … as walls are called on a sketch."""
    taken = ids_of(shop)
    letters = [chr(65 + k) for k in range(26)]
    return next(name for name in [*letters, *(a + b for a in letters for b in letters)] if name not in taken)


def as_rectangle(shop: Shop) -> Shop | None:
    """The room with two walls more where two stand square to each other: as long as those across, which is a
    guess until they are taped. None where there are not just two such walls.
    """
    walls = shop.room.walls
    if len(walls) != 2 or abs(walls[0].turn) != 90.0:
        return None
    for across in walls:
        turn, name = walls[0].turn, fresh_wall_id(shop)
        shop = change_room(
            shop, walls=(*shop.room.walls, Wall(id=name, length=across.length, turn=turn, provenance="paced"))
        )
    walls = tuple(replace(wall, turn=walls[0].turn) for wall in shop.room.walls)
    return change_room(shop, walls=walls)


def split_wall(shop: Shop, wall_id: str, new_id: str, at: float) -> Shop:
    """A wall made two in line, the second with a new id, `at` metres from its start.

    Openings stay where they are. Nothing else changes shape.
    """
    room = shop.room
    index = next(number for number, wall in enumerate(room.walls) if wall.id == wall_id)
    whole = room.walls[index]
    halves = (replace(whole, length=at, turn=0.0), replace(whole, id=new_id, length=whole.length - at))
    openings = tuple(
        replace(opening, wall=new_id, offset=opening.offset - at)
        if opening.wall == wall_id and opening.offset >= at
        else opening
        for opening in room.openings
    )
    slopes: list[Slope] = []
    for slope in room.ceiling.slopes:
        slopes.append(slope)
        if slope.wall == wall_id:
            slopes.append(replace(slope, wall=new_id))
    walls = (*room.walls[:index], *halves, *room.walls[index + 1 :])
    ceiling = replace(room.ceiling, slopes=tuple(slopes))
    return change_room(shop, walls=walls, openings=openings, ceiling=ceiling)


def slope_ceiling(shop: Shop, wall_id: str, slope: Slope | None) -> Shop:
    """The ceiling sloping down to a wall, or not sloping there any more."""
    ceiling = shop.room.ceiling
    others = tuple(other for other in ceiling.slopes if other.wall != wall_id)
    return change_room(shop, ceiling=replace(ceiling, slopes=others if slope is None else (*others, slope)))


def change_room(shop: Shop, **changes: Any) -> Shop:
    """Fields of the room changed."""
    return replace(shop, room=replace(shop.room, **changes))
