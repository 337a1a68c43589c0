"""The plan as DXF."""

import io
from collections.abc import Callable, Iterable
from itertools import pairwise
from math import cos, dist, radians, sin
from typing import Any

from purvel.airflow.paths import Path, point_along
from purvel.review import Answers, Memory
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.place.answers import PlaceAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Run, Shop
from purvel.space.chains import chains
from purvel.space.ground import footprint, standing_zone
from purvel.space.setout import set_out
from purvel.space.shell import Shell
from purvel.space.traverse import Point

DIMENSIONED = ("DIMENSIONS", "SETOUT")
LAYERS = (
    "WALLS",
    "OPENINGS",
    "FIXTURES",
    "THINGS",
    "STANDING",
    "LANES",
    "DUCTS",
    "DUCT-TEXT",
    "GATES",
    *DIMENSIONED,
)
_SHORTEST = 0.005  # m: what touches a wall needs no figure


def plan_dxf(shop: Shop) -> str:
    """The plan in millimetres: walls, openings, fixtures, things with the floor that their workers need,
    lanes and ducts on layers of their own; on others the dimensions of walls and openings, and the distances
    that set things out.
    """
    import ezdxf

    answers = Answers(shop, Memory())
    room = answers.of(RoomAnswers)
    drawing = ezdxf.new("R2010", setup=True, units=4)
    for layer in LAYERS:
        drawing.layers.add(layer)
    space = drawing.modelspace()

    def outline(points: Iterable[Iterable[float]], layer: str, *, close: bool = True) -> None:
        space.add_lwpolyline(
            [tuple(1000.0 * c for c in list(point)[:2]) for point in points],
            close=close,
            dxfattribs={"layer": layer},
        )

    if room.traverse.corners:
        outline(room.traverse.corners, "WALLS")
    for opening in shop.room.openings:
        if opening.wall in room.sides:
            side = room.sides[opening.wall]
            outline(
                [side.at(opening.offset), side.at(opening.offset + opening.width)], "OPENINGS", close=False
            )
    for fixture in shop.room.fixtures:
        outline(footprint(fixture), "FIXTURES")
    for thing in shop.things:
        outline(footprint(thing), "THINGS")
        zone = standing_zone(thing)
        if zone is not None:
            outline(zone, "STANDING")
        space.add_text(thing.name or thing.id, height=80, dxfattribs={"layer": "THINGS"}).set_placement(
            (thing.x * 1000, thing.y * 1000)
        )
    _work(space, outline, answers)
    _dimensions(space, shop, room.shell)
    text = io.StringIO()
    drawing.write(text)
    return text.getvalue()


def _work(space: Any, outline: Callable[..., None], answers: Answers) -> None:
    """Lanes and ducts."""
    place, ducts = answers.of(PlaceAnswers), answers.of(DuctAnswers)
    for one in place.lanes.values():
        c, s = cos(radians(one.direction)), sin(radians(one.direction))
        ends = [(one.origin[0] + c * u, one.origin[1] + s * u) for u in (-one.into.length, one.out.length)]
        outline(ends, "LANES", close=False)
    for run in answers.shop.ducts.runs:
        path = ducts.run_paths[run.id]
        if len(path) > 1:
            _run(space, run, path)


def _run(space: Any, run: Run, path: Path) -> None:
    """A run's centre line in space, its size and height where it lies longest, its gates."""
    space.add_polyline3d([tuple(1000.0 * c for c in point) for point in path], dxfattribs={"layer": "DUCTS"})
    a, b = max(pairwise(path), key=lambda pair: dist(pair[0][:2], pair[1][:2]))
    middle = tuple(1000.0 * (one + other) / 2 for one, other in zip(a, b))
    low, high = sorted((a[2], b[2]))
    heights = f"{high * 1000:.0f}" if high - low < 0.02 else f"{low * 1000:.0f} to {high * 1000:.0f}"
    words = f"{run.name or run.id}: {run.diameter * 1000:.0f}, at {heights}"
    space.add_text(words, height=60, dxfattribs={"layer": "DUCT-TEXT"}).set_placement(middle)
    for gate in run.gates:
        spot = tuple(1000.0 * c for c in point_along(path, gate.at))
        space.add_point(spot, dxfattribs={"layer": "GATES"})
        words = f"{gate.name or gate.id}, at {spot[2]:.0f}"
        space.add_text(words, height=60, dxfattribs={"layer": "GATES"}).set_placement(spot)


def _dimensions(space: Any, shop: Shop, shell: Shell) -> None:
    """Chains along the walls, and for each thing the two distances that set it out."""
    if not shell.sides:
        return
    for chain in chains(shell):
        for start, end in zip(chain.marks, chain.marks[1:]):
            _dimension(space, chain.at(start), chain.at(end), DIMENSIONED[0])
    for thing in shop.things:
        mark = set_out(thing, shell)
        for one in () if mark is None else mark.measures:
            if mark is not None and one.distance > _SHORTEST:
                _dimension(space, mark.spot, one.foot, DIMENSIONED[1])


def _dimension(space: Any, start: Point, end: Point, layer: str) -> None:
    (x0, y0), (x1, y1) = ((1000.0 * x, 1000.0 * y) for x, y in (start, end))
    made = space.add_aligned_dim(
        p1=(x0, y0),
        p2=(x1, y1),
        distance=0,
        dimstyle="EZDXF",
        override={"dimtxt": 60},
        dxfattribs={"layer": layer},
    )
    made.render()
