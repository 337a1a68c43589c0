"""The plan as DXF."""

import io
from collections.abc import Iterable
from math import cos, radians, sin

from purvel.review import Answers, Memory
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.place.answers import PlaceAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Shop
from purvel.space.ground import footprint


def plan_dxf(shop: Shop) -> str:
    """The plan in millimetres: walls, openings, fixtures, things, lanes and ducts on layers of their own."""
    import ezdxf

    answers = Answers(shop, Memory())
    room, place, ducts = (answers.of(RoomAnswers), answers.of(PlaceAnswers), answers.of(DuctAnswers))
    drawing = ezdxf.new("R2010", units=4)
    for layer in ("WALLS", "OPENINGS", "FIXTURES", "THINGS", "LANES", "DUCTS"):
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
        space.add_text(thing.name or thing.id, height=80, dxfattribs={"layer": "THINGS"}).set_placement(
            (thing.x * 1000, thing.y * 1000)
        )
    for one in place.lanes.values():
        c, s = cos(radians(one.direction)), sin(radians(one.direction))
        ends = [(one.origin[0] + c * u, one.origin[1] + s * u) for u in (-one.into.length, one.out.length)]
        outline(ends, "LANES", close=False)
    for path in ducts.run_paths.values():
        if len(path) > 1:
            space.add_polyline3d(
                [tuple(1000.0 * c for c in point) for point in path], dxfattribs={"layer": "DUCTS"}
            )
    text = io.StringIO()
    drawing.write(text)
    return text.getvalue()
