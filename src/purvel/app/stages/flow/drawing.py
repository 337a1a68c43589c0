"""What the flow stage draws on the plan: the legs of a job on foot, and what is carried along its way."""

from __future__ import annotations

from math import cos, radians, sin

from PySide6.QtCore import QPointF, QRectF, Qt

from purvel.app.plan.draw_lanes import spread
from purvel.app.plan.label_layout import Label, around
from purvel.app.plan.sheet import Sheet
from purvel.review.flow.answers import FlowAnswers, HaulAnswer
from purvel.space.carry_limits import Jam
from purvel.space.legs import JobFlow, Leg
from purvel.space.loads import Load, Place, outline

GHOSTS = 9  # outlines of what is carried along a way, at most
SHIFT = 3.0  # px that legs keep to their right, so that ways there and back do not lie on each other


def legs(sheet: Sheet, flow: JobFlow, *, longest: Leg | None) -> None:
    """The ways on foot, with arrows; the leg that most is walked on stands out."""
    for leg in flow.legs:
        if leg.way is not None:
            is_most = leg is longest
            colour = sheet.palette.accent if is_most else sheet.palette.air_mid
            _way(sheet, [sheet.at(*point) for point in leg.way.points], colour, 3.2 if is_most else 2.0)
    _stations(sheet, flow)


def _way(sheet: Sheet, points: list[QPointF], colour: str, width: float) -> None:
    moved = _to_the_right(points)
    sheet.painter.setPen(sheet.pen(colour, width, dashes=(3, 1.5)))
    sheet.painter.setBrush(Qt.BrushStyle.NoBrush)
    sheet.painter.drawPolyline(moved)
    if len(moved) > 1:
        _arrow(sheet, moved[-2], moved[-1], colour, width)


def _to_the_right(points: list[QPointF]) -> list[QPointF]:
    found = []
    for number, point in enumerate(points):
        a, b = points[max(0, number - 1)], points[min(len(points) - 1, number + 1)]
        dx, dy = b.x() - a.x(), b.y() - a.y()
        size = max((dx * dx + dy * dy) ** 0.5, 1e-6)
        found.append(QPointF(point.x() - dy / size * SHIFT, point.y() + dx / size * SHIFT))
    return found


def _arrow(sheet: Sheet, a: QPointF, b: QPointF, colour: str, width: float) -> None:
    dx, dy = b.x() - a.x(), b.y() - a.y()
    size = max((dx * dx + dy * dy) ** 0.5, 1e-6)
    sheet.painter.setPen(sheet.pen(colour, width))
    for turn in (150, -150):
        c, s = cos(radians(turn)), sin(radians(turn))
        wing = QPointF(b.x() + (dx * c - dy * s) / size * 11, b.y() + (dx * s + dy * c) / size * 11)
        sheet.painter.drawLine(b, wing)


def _stations(sheet: Sheet, flow: JobFlow) -> None:
    """The numbers of the steps where they are done."""
    numbers: dict[str, list[str]] = {}
    for number, station in enumerate(flow.stations, start=1):
        if station.thing is not None:
            numbers.setdefault(station.thing, []).append(str(number))
    spots = {leg.end: leg.way.points[-1] for leg in flow.legs if leg.way is not None}
    for thing, steps in numbers.items():
        if thing in spots:
            _step(sheet, sheet.at(*spots[thing]), ",".join(steps))


def _step(sheet: Sheet, at: QPointF, text: str) -> None:
    width, height = sheet.size_of(text, 0.9, bold=True)
    radius = max(width, height) / 2 + 4
    sheet.painter.setPen(sheet.pen(sheet.palette.ink, 1.6))
    sheet.painter.setBrush(sheet.brush(sheet.palette.sheet))
    sheet.painter.drawEllipse(at, radius, radius)
    sheet.text(at, text, sheet.palette.ink, factor=0.9, bold=True)
    sheet.keep_clear(QRectF(at.x() - radius, at.y() - radius, 2 * radius, 2 * radius), 3.0)


def carried(sheet: Sheet, flows: FlowAnswers, flow: JobFlow, haul: HaulAnswer) -> None:
    """What is carried, along its way to the stop that is farthest; where it jams, that."""
    load = flows.held(flow, haul.haul)
    stuck = next(iter(haul.stuck), None)
    jam = flows.jam(flow, haul.haul, stuck) if stuck is not None else None
    if jam is not None:
        _jam(sheet, load, jam)
    ways = [one for one in haul.carried.values() if one.fits and len(one.way) > 1]
    if ways and stuck is None:
        way = max(ways, key=lambda one: one.length)
        for place in spread(way.way, GHOSTS):
            _ghost(sheet, load, place, sheet.palette.wood_edge, 0.16)


def _ghost(sheet: Sheet, load: Load, place: Place, colour: str, alpha: float) -> None:
    corners = outline(load.length, max(load.across, 0.03), place)
    sheet.fill(corners, sheet.brush(sheet.palette.wood, alpha), sheet.pen(colour, 1.0, dashes=(2, 3)))


def _jam(sheet: Sheet, load: Load, jam: Jam) -> None:
    palette = sheet.palette
    corners = outline(load.length, max(load.across, 0.03), jam.place)
    sheet.fill(corners, sheet.brush(palette.stop, 0.18), sheet.pen(palette.stop, 2.4))
    box = sheet.polygon(corners).boundingRect()
    spots = around(box, *sheet.size_of("it gets no farther", 0.9, bold=True))
    sheet.label(
        Label(("it gets no farther",), spots, palette.stop, factor=0.9, bold=True, plate=True, rank=0)
    )
