"""How much air the room holds."""

from purvel.shop import Room
from purvel.space.ground import floor, sides


def room_volume(room: Room) -> float:
    """Volume [m3]: floor area times ceiling height, less the wedge over each sloping ceiling (exact where
    slopes do not meet); 0 while open.
    """
    walls = sides(room)
    wedges = sum(
        0.5 * slope.run * (room.ceiling.height - slope.low) * walls[slope.wall].length
        for slope in room.ceiling.slopes
        if slope.wall in walls
    )
    return max(0.0, float(floor(room).area) * room.ceiling.height - wedges)
