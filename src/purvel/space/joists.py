"""Where the ceiling's joists lie over the floor."""

from __future__ import annotations

from purvel.libraries import np, shapely
from purvel.space.shell import Shell
from purvel.space.traverse import Point

_MOST = 400  # joists that are laid out


def joist_lines(shell: Shell) -> list[tuple[Point, Point]]:
    """The middle of each joist, from end to end over the floor [m]; none while the room is open."""
    joists = shell.room.ceiling.joists
    side = shell.sides.get(joists.wall) if joists is not None else None
    if joists is None or side is None or shell.floor.is_empty:
        return []
    points = shapely.get_coordinates(shell.floor)
    away = (points - np.array(side.start)) @ -np.array(side.out)
    along = (points - np.array(side.start)) @ np.array(side.along)
    places = np.arange(joists.first, float(away.max()), joists.spacing)[:_MOST]
    ends = float(along.min()) - 1.0, float(along.max()) + 1.0
    lines = [shapely.LineString([side.at(end, -place) for end in ends]) for place in places.tolist()]
    over = shapely.get_parts(shapely.intersection(np.array(lines, dtype=object), shell.floor))
    found = []
    for part in over:
        if part.geom_type == "LineString" and part.length > 0:
            (ax, ay), *_, (bx, by) = part.coords
            found.append(((ax, ay), (bx, by)))
    return found
