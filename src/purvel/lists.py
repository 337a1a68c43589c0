"""Lists and drawings in open formats that need no window: parts and set-out as CSV, the plan as DXF."""

import csv
import io
from collections.abc import Iterable
from math import cos, radians, sin

from purvel.airflow.parts import parts
from purvel.review import Answers, Memory
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.place.answers import PlaceAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Shop
from purvel.shop.parts import name_of
from purvel.space.ground import footprint
from purvel.space.setout import set_out
from purvel.space.shell import shell


def _csv(head: Iterable[str], rows: Iterable[Iterable[object]]) -> str:
    text = io.StringIO()
    writer = csv.writer(text, lineterminator="\n")
    writer.writerow(head)
    writer.writerows(rows)
    return text.getvalue()


def parts_csv(shop: Shop) -> str:
    """The parts list; pipe and hose in metres."""
    ducts = Answers(shop, Memory()).of(DuctAnswers)
    systems = (network.layout for network in ducts.networks)
    rows = (
        (
            name_of(shop, one.run),
            one.part,
            f"{one.size * 1000:.0f}",
            one.unit,
            f"{one.amount:.2f}" if one.unit == "m" else f"{one.amount:.0f}",
        )
        for one in parts(shop.ducts, ducts.run_paths, systems)
    )
    return _csv(("run", "part", "inside diameter mm", "unit", "amount"), rows)


def setout_csv(shop: Shop) -> str:
    """For each thing a corner, its distances from two walls and the thing's angle, so that it can be marked
    on the floor [mm, deg].
    """
    rows = []
    room = shell(shop.room)
    for thing in shop.things:
        mark = set_out(thing, room)
        cells = (
            []
            if mark is None
            else [
                mark.corner,
                *(cell for one in mark.measures for cell in (one.wall, f"{one.distance * 1000:.0f}")),
            ]
        )
        rows.append((thing.name or thing.id, *cells, *[""] * (5 - len(cells)), f"{thing.angle % 360:.1f}"))
    return _csv(("thing", "corner", "wall", "distance mm", "other wall", "distance mm", "angle deg"), rows)


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
