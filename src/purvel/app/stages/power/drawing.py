"""What the power stage draws on the plan: outlets and cords, or luminaires and the light on the benches."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt

from purvel.app.plan.label_layout import Label, around
from purvel.app.plan.sheet import Sheet
from purvel.libraries import np
from purvel.review import Answers, Figures
from purvel.review.power.answers import LightMap, PowerAnswers
from purvel.review.power.light_rules import light_grade, lux
from purvel.review.room.answers import RoomAnswers
from purvel.shop.power import Luminaire, Outlet
from purvel.space.cords import Cord, outlet_spot

OUTLET = 7.0  # px, half the width of an outlet's sign
INTO_ROOM = 0.07  # m that it is drawn off its wall
LEVELS = (100.0, 200.0, 300.0, 500.0, 750.0, 1000.0)  # lx, of the lines on the map of light
_SHADES = (
    (100.0, 0.62),
    (200.0, 0.44),
    (300.0, 0.28),
    (500.0, 0.14),
)  # darker than this: how dark it is drawn


def cords(sheet: Sheet, answers: Answers, picked: str | None) -> None:
    """Outlets with their circuits, and the cord of every machine."""
    power, shop = answers.of(PowerAnswers), answers.shop
    for thing, cord in power.plugs.items():
        if cord is not None:
            _cord(sheet, cord, is_picked=thing == picked)
        else:
            _no_cord(sheet, answers, thing)
    shell = answers.of(RoomAnswers).shell
    for outlet in shop.power.outlets:
        spot = outlet_spot(outlet, shell)
        if spot is not None:
            if outlet.wall in shell.sides:
                spot = shell.sides[outlet.wall or ""].at(outlet.offset, -INTO_ROOM)
            circuit = power.circuit_of(outlet.id)
            _outlet(
                sheet,
                outlet,
                sheet.at(*spot),
                "no circuit" if circuit is None else circuit.name,
                outlet.id == picked,
            )


def _cord(sheet: Sheet, cord: Cord, *, is_picked: bool) -> None:
    palette = sheet.palette
    colour = palette.mend if cord.is_in_the_way else palette.air_fine
    style = (1.5, 1.5) if cord.is_in_the_way else ()
    sheet.line(cord.points, sheet.pen(colour, 4.0 if is_picked else 2.4, dashes=style))


def _no_cord(sheet: Sheet, answers: Answers, thing_id: str) -> None:
    thing = answers.shop.thing(thing_id)
    if thing is not None:
        c = sheet.at(thing.x, thing.y)
        sheet.painter.setPen(sheet.pen(sheet.palette.mend, 2.4))
        for dx, dy in ((6, 6), (6, -6)):
            sheet.painter.drawLine(QPointF(c.x() - dx, c.y() - dy), QPointF(c.x() + dx, c.y() + dy))


def _outlet(sheet: Sheet, outlet: Outlet, at: QPointF, circuit: str, is_picked: bool) -> None:
    palette = sheet.palette
    box = QRectF(at.x() - OUTLET, at.y() - OUTLET, 2 * OUTLET, 2 * OUTLET)
    sheet.painter.setPen(sheet.pen(palette.accent if is_picked else palette.ink, 2.6 if is_picked else 1.8))
    sheet.painter.setBrush(sheet.brush(palette.sheet))
    if outlet.wall is None:
        sheet.painter.drawEllipse(box)
    else:
        sheet.painter.drawRect(box)
    for dx in (-2.6, 2.6):
        sheet.painter.drawLine(QPointF(at.x() + dx, at.y() - 3.2), QPointF(at.x() + dx, at.y() + 3.2))
    sheet.keep_clear(box, 2.0)
    spots = around(box, *sheet.size_of(circuit, 0.75))
    sheet.label(Label((circuit,), spots, palette.ink, factor=0.75, plate=True, rank=2, must=False))


def light(sheet: Sheet, answers: Answers, picked: str | None, say: Figures) -> None:
    """Luminaires, dim floor shaded, lines of equal light, and what every station has."""
    power = answers.of(PowerAnswers)
    found = power.light_map
    if found is not None and answers.shop.power.luminaires:
        _shade(sheet, found)
        _lines(sheet, found, say)
    for one in answers.shop.power.luminaires:
        _luminaire(sheet, one, one.id == picked)
    for task in power.tasks if answers.shop.power.luminaires else ():
        thing = answers.shop.thing(task.thing)
        if thing is not None:
            colour = sheet.palette.grade(light_grade(task))
            at = sheet.at(thing.x, thing.y)
            text = f"{lux(task.lux, say)} of {lux(task.wanted, say)}"
            box = QRectF(at.x() - 20, at.y() - 10, 40, 20)
            spots = around(box, *sheet.size_of(text, 0.8, bold=True))
            sheet.label(
                Label((text, lux(task.lux, say)), spots, colour, factor=0.8, bold=True, plate=True, rank=1)
            )


def _shade(sheet: Sheet, found: LightMap) -> None:
    """The darker the floor, the darker it is drawn, so that it reads without a key."""
    half_x, half_y = (_step(found.x) / 2, _step(found.y) / 2)
    sheet.painter.setPen(Qt.PenStyle.NoPen)
    for i, x in enumerate(found.x.tolist()):
        for j, y in enumerate(found.y.tolist()):
            value = float(found.lux[i, j])
            alpha = next((share for level, share in _SHADES if value < level), 0.0)
            if alpha > 0.0:  # not where there is no floor: nan is below nothing
                a, b = sheet.at(x - half_x, y + half_y), sheet.at(x + half_x, y - half_y)
                sheet.painter.fillRect(QRectF(a, b), sheet.brush(sheet.palette.pencil, alpha * 0.8))


def _step(values: np.ndarray) -> float:
    return float(values[1] - values[0]) if len(values) > 1 else 0.25


def _lines(sheet: Sheet, found: LightMap, say: Figures) -> None:
    """Lines of equal light, each with its figure once."""
    from pyqtgraph.functions import isocurve

    if min(found.lux.shape) < 2:
        return
    data = np.nan_to_num(found.lux, nan=0.0)
    x0, y0, step_x, step_y = found.x[0], found.y[0], _step(found.x), _step(found.y)
    for level in LEVELS:
        if not np.nanmin(found.lux) < level < np.nanmax(found.lux):
            continue
        longest: list[tuple[float, float]] = []
        for line in isocurve(data, level, connected=True):
            points = [(x0 + (i - 0.5) * step_x, y0 + (j - 0.5) * step_y) for i, j in line]
            sheet.line(points, sheet.pen(sheet.palette.wood_edge, 1.1))
            longest = max(longest, points, key=len)
        if longest:
            middle = sheet.at(*longest[len(longest) // 2])
            box = QRectF(middle.x() - 2, middle.y() - 2, 4, 4)
            text = lux(level, say)
            spots = around(box, *sheet.size_of(text, 0.72))
            sheet.label(
                Label((text,), spots, sheet.palette.wood_edge, factor=0.72, plate=True, rank=3, must=False)
            )


def _luminaire(sheet: Sheet, one: Luminaire, is_picked: bool) -> None:
    palette = sheet.palette
    colour = palette.accent if is_picked else palette.wood_edge
    at = sheet.at(one.x, one.y)
    if one.length <= 0:
        sheet.painter.setPen(sheet.pen(colour, 2.4))
        sheet.painter.setBrush(sheet.brush(palette.sheet))
        sheet.painter.drawEllipse(at, 6.0, 6.0)
        return
    from math import cos, radians, sin

    ux, uy = cos(radians(one.angle)) * one.length / 2, sin(radians(one.angle)) * one.length / 2
    ends = [(one.x - ux, one.y - uy), (one.x + ux, one.y + uy)]
    sheet.line(ends, sheet.pen(colour, 8.0 if is_picked else 6.5))
    sheet.line(ends, sheet.pen(palette.sheet, 3.0))
