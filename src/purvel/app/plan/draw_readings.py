"""Readings beyond the walls on the plan: lengths between corners, spots, and the one to take next."""

from __future__ import annotations

from PySide6.QtCore import QPointF
from PySide6.QtGui import QPen

from purvel.app.plan.label_layout import Label, around
from purvel.app.plan.label_layout import Spot as Place
from purvel.app.plan.sheet import Point, Sheet
from purvel.quantities import format_length
from purvel.quantities.systems import System
from purvel.space.shell import Shell

_CROSS = 5.0  # px, half the size of a spot's cross


def readings(sheet: Sheet, shell: Shell, system: System) -> None:
    """All of them, with the corners that they were read from named."""
    traverse, palette = shell.traverse, sheet.palette
    if not traverse.corners:
        return
    corners = dict(zip((wall.id for wall in shell.room.walls), traverse.corners))
    named = set[str]()
    for one in shell.room.diagonals:
        if {one.start, one.end} <= corners.keys():
            colour = palette.mend if one.id in traverse.suspects else palette.pencil
            text = format_length(one.length, system)
            _across(sheet, corners[one.start], corners[one.end], text, sheet.pen(colour, 1.2, dashes=(6, 3)))
            named |= {one.start, one.end}
    proposed = traverse.proposed
    if proposed is not None and proposed.between is not None:
        a, b = (corners[name] for name in proposed.between)
        _across(sheet, a, b, "measure this next", sheet.pen(palette.accent, 2.5, dashes=(3, 2)))
        named |= set(proposed.between)
    places = dict(traverse.spots)
    for spot in shell.room.spots:
        if spot.id in places:
            named |= {offset.corner for offset in spot.offsets}
            _spot(sheet, places[spot.id], spot.name or spot.id)
    middle = shell.floor.representative_point()
    for name in sorted(named):
        _corner(sheet, corners[name], (middle.x, middle.y), name)


def _across(sheet: Sheet, a: Point, b: Point, text: str, pen: QPen) -> None:
    sheet.line([a, b], pen)
    spots = tuple(
        Place(sheet.at(a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])))
        for share in (0.5, 0.4, 0.6, 0.3, 0.7, 0.25, 0.75)
    )
    colour = pen.color().name()
    sheet.label(Label((text,), spots, colour, factor=0.85, bold=True, plate=True, rank=1))


def _spot(sheet: Sheet, place: Point, name: str) -> None:
    at = sheet.at(*place)
    sheet.painter.setPen(sheet.pen(sheet.palette.ink, 1.8))
    for dx, dy in ((1, 1), (1, -1)):
        sheet.painter.drawLine(
            QPointF(at.x() - dx * _CROSS, at.y() - dy * _CROSS),
            QPointF(at.x() + dx * _CROSS, at.y() + dy * _CROSS),
        )
    width, height = sheet.size_of(name, 0.8)
    box = sheet.polygon([place]).boundingRect().adjusted(-_CROSS, -_CROSS, _CROSS, _CROSS)
    sheet.keep_clear(box, 2.0)
    sheet.label(Label((name,), around(box, width, height), sheet.palette.ink, factor=0.8, rank=1))


def _corner(sheet: Sheet, corner: Point, towards: Point, name: str) -> None:
    """A corner's letter, a little into the room."""
    at, inner = sheet.at(*corner), sheet.at(*towards)
    way = inner - at
    size = max((way.x() ** 2 + way.y() ** 2) ** 0.5, 1e-6)
    spots = tuple(Place(at + way * (sheet.pixels * far / size)) for far in (1.6, 2.4, 3.2))
    sheet.label(Label((f"corner {name}",), spots, sheet.palette.pencil, factor=0.78, plate=True, rank=0))
