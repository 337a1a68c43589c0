"""What the ducts stage draws over its answer: the picked run's corners, and what the tool in hand sees."""

from math import hypot

from PySide6.QtCore import QPointF, QRectF

from purvel.airflow.drawing import squared
from purvel.app.plan import draw_room
from purvel.app.plan.sheet import Sheet
from purvel.app.stages.ducts.tool import DuctTool
from purvel.review import Figures
from purvel.shop import Run, Shop


def corners(sheet: Sheet, run: Run) -> None:
    """Handles at the corners of a run."""
    for point in run.points:
        c = sheet.at(point.x, point.y)
        sheet.painter.setPen(sheet.pen(sheet.palette.accent, 2))
        sheet.painter.setBrush(sheet.brush(sheet.palette.sheet))
        sheet.painter.drawRect(QRectF(c.x() - 5, c.y() - 5, 10, 10))


def tool_in_hand(sheet: Sheet, shop: Shop, tool: DuctTool) -> None:
    """Where the pen is, what it can begin or end at, and the run so far."""
    if tool.by_key and tool.mode != "none":
        _pen(sheet, tool.pointer)
    if tool.mode == "draw":
        for thing in shop.things:
            if thing.source is not None and tool.run is None:
                draw_room.mark(sheet, thing.spot(thing.source.inlet_x, thing.source.inlet_y))
            for port in thing.ports if tool.run is not None else ():
                draw_room.mark(sheet, thing.spot(port.x, port.y))
    path = tool.path()
    if path:
        ahead = squared(path[-1][:2], tool.pointer)
        drawn = [*((x, y) for x, y, _ in path), ahead]
        sheet.line(drawn, sheet.pen(sheet.palette.accent, 4, dashes=(3, 2)))
        leg = Figures(shop.units).length(hypot(ahead[0] - path[-1][0], ahead[1] - path[-1][1]))
        sheet.text(sheet.at(*ahead) - QPointF(0, 18), leg, sheet.palette.accent, bold=True, plate=True)


def _pen(sheet: Sheet, pointer: tuple[float, float]) -> None:
    """Where the arrow keys have the pen."""
    c = sheet.at(*pointer)
    sheet.painter.setPen(sheet.pen(sheet.palette.accent, 1.5))
    for dx, dy in ((18, 0), (0, 18)):
        sheet.painter.drawLine(QPointF(c.x() - dx, c.y() - dy), QPointF(c.x() + dx, c.y() + dy))
