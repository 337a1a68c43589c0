"""A stand-in for a distance meter, in a shop's room."""

from math import dist

from purvel.devices.meter import Meter
from purvel.shop import Room
from purvel.space.traverse import walk


def meter_in(room: Room, seed: int = 1) -> Meter | None:
    """A meter among the walls as they come to with all readings; None while they do not meet."""
    ring = walk(room).corners
    if not ring:
        return None
    names = [wall.id for wall in room.walls]
    lengths = {name: dist(a, b) for name, a, b in zip(names, ring, ring[1:] + ring[:1])}
    return Meter(lengths, dict(zip(names, ring)), seed)
