"""Things on the plan: bodies, names, distances to walls and neighbours."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from math import cos, radians, sin

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPen, QPolygonF

from purvel.app.plan.label_layout import Label, Spot, around
from purvel.app.plan.sheet import Sheet
from purvel.catalogue import kinds
from purvel.libraries import np, shapely
from purvel.quantities import format_length
from purvel.quantities.systems import System
from purvel.shop import Fixture, Opening, Shop, Thing
from purvel.space.clearances import polygon, wall_distances
from purvel.space.ground import footprint, rectangle
from purvel.space.shell import Shell, Side

OVERHEAD = 1.5  # m: what hangs higher is drawn as hanging
_OFF_WALL = 0.12  # m: how far into the room an opening's distances are drawn
STUB = 0.06  # m: how far an inlet is drawn to stand out


def things(
    sheet: Sheet, shop: Shop, picked: str | None, trouble: dict[str, str], *, quiet: bool = False
) -> None:
    """Everything that stands on the floor, low things first. `trouble` colours the edge of what a Stop or
    Mend is about.
    """
    if not shop.things:
        return
    low_first = sorted(shop.things, key=lambda one: one.z + one.height)
    looks = [(one, (one.id == picked, None if quiet else trouble.get(one.id), quiet)) for one in low_first]
    middle = next((place for place, (one, _) in enumerate(looks) if one.id == picked), len(looks))
    for part in (looks[:middle], looks[middle : middle + 1], looks[middle + 1 :]):  # what moves by itself
        _together(sheet, part)


def _together(sheet: Sheet, looks: Sequence[tuple[Thing, _Look]]) -> None:
    sheet.stamp_together(
        ("things", *((id(thing), *look) for thing, look in looks)),
        lambda: (
            (("thing", *look), thing, partial(_with_name, thing=thing, look=look)) for thing, look in looks
        ),
    )


_HATCHES = {
    "bench": Qt.BrushStyle.HorPattern,
    "outfeed": Qt.BrushStyle.HorPattern,
    "store": Qt.BrushStyle.BDiagPattern,
    "air": Qt.BrushStyle.Dense7Pattern,
}
"""What is not a machine, told by its hatching also where there is no colour: tops, stores, what moves air."""

_Look = tuple[bool, str | None, bool]
"""Whether it is picked, its edge's colour if it has its own, and whether it is drawn quietly."""


def _with_name(sheet: Sheet, thing: Thing, look: _Look) -> None:
    outline = sheet.polygon(footprint(thing).tolist())
    _thing(sheet, thing, outline, *look)
    _name(sheet, thing, outline.boundingRect(), look[0])


def _thing(
    sheet: Sheet, thing: Thing, outline: QPolygonF, is_picked: bool, edge: str | None, quiet: bool
) -> None:
    palette = sheet.palette
    kind = kinds().get(thing.kind)
    if thing.source or thing.cleaner:
        body = palette.metal
    else:
        works = kind is not None and (kind.group == "Machines" or kind.operation is not None)
        body = palette.wood if works else palette.storage
    overhead = thing.z > OVERHEAD
    pen = sheet.pen(
        palette.accent if is_picked else edge or palette.wood_edge,
        3.0 if is_picked or edge else 1.6,
        dashes=(5, 3) if overhead else (),
    )
    sheet.painter.setPen(pen)
    sheet.painter.setBrush(sheet.brush(body, 0.45 if quiet or overhead else 1.0))
    sheet.painter.drawPolygon(outline)
    hatch = _HATCHES.get("air" if thing.source or thing.cleaner else (kind and kind.use) or "")
    if hatch is not None:
        sheet.painter.setPen(Qt.PenStyle.NoPen)
        sheet.painter.setBrush(sheet.brush(palette.wood_edge, 0.22, hatch))
        sheet.painter.drawPolygon(outline)
        sheet.painter.setPen(pen)
    sheet.keep_clear(outline.boundingRect(), 0.8, thing.id)
    if thing.feed is not None:
        _feed_arrow(sheet, thing)
    for x in thing.slots:
        slot = [thing.spot(x, y) for y in (-thing.depth / 2, thing.depth / 2)]
        sheet.line(slot, sheet.pen(palette.wood_edge, 1.0, dashes=(6, 2)))
    _inlet(sheet, thing, pen)
    _worker_and_wheels(sheet, thing, on_floor=not overhead)


def _inlet(sheet: Sheet, thing: Thing, pen: QPen) -> None:
    """Where pipes come into a source of air."""
    palette = sheet.palette
    if thing.source is not None:
        inlet = thing.spot(thing.source.inlet_x, thing.source.inlet_y)
        facing = radians(thing.angle + thing.source.inlet_direction)
        x, y = inlet[0] + STUB / 2 * cos(facing), inlet[1] + STUB / 2 * sin(facing)
        sheet.fill(
            rectangle(x, y, thing.angle + thing.source.inlet_direction, STUB, thing.source.inlet_diameter),
            sheet.brush(palette.metal),
            pen,
        )


def _worker_and_wheels(sheet: Sheet, thing: Thing, *, on_floor: bool) -> None:
    """At which side one works, and what it rolls on."""
    palette = sheet.palette
    if thing.stand is not None:
        x, y = thing.spot(0.0, -thing.depth / 2 + 0.05)
        ux, uy = cos(radians(thing.angle)), sin(radians(thing.angle))
        sheet.line(
            [(x - ux * 0.09, y - uy * 0.09), (x + ux * 0.09, y + uy * 0.09)],
            sheet.pen(palette.wood_edge, 3.0),
        )
    if thing.wheels and on_floor:
        for sx in (-1, 1):
            for sy in (-1, 1):
                c = sheet.at(*thing.spot(sx * (thing.width / 2 - 0.06), sy * (thing.depth / 2 - 0.06)))
                sheet.painter.setPen(sheet.pen(palette.wood_edge, 1.0))
                sheet.painter.setBrush(sheet.brush(palette.sheet, 0.6))
                sheet.painter.drawEllipse(c, 2.5, 2.5)


def _feed_arrow(sheet: Sheet, thing: Thing) -> None:
    """The cutter line and which way the stock goes."""
    assert thing.feed is not None
    palette = sheet.palette
    x, y = thing.spot(thing.feed.x, thing.feed.y)
    direction = radians(thing.angle + thing.feed.direction)
    across = (-sin(direction) * 0.13, cos(direction) * 0.13)
    sheet.line([(x - across[0], y - across[1]), (x + across[0], y + across[1])], sheet.pen(palette.ink, 1.2))
    tip = (x + 0.16 * cos(direction), y + 0.16 * sin(direction))
    sheet.line([(x, y), tip], sheet.pen(palette.ink, 2.0))
    for turn in (150, -150):
        wing = (
            tip[0] + 0.07 * cos(direction + radians(turn)),
            tip[1] + 0.07 * sin(direction + radians(turn)),
        )
        sheet.line([tip, wing], sheet.pen(palette.ink, 2.0))
    ends = sheet.polygon([(x - across[0], y - across[1]), (x + across[0], y + across[1]), tip]).boundingRect()
    sheet.keep_clear(ends.adjusted(-3, -3, 3, 3), 2.5)


def _name(sheet: Sheet, thing: Thing, box: QRectF, is_picked: bool) -> None:
    """The name inside the body where it fits, else beside it; in two lines or upwards where that fits."""
    name = thing.name or thing.id
    texts = [name]
    words = name.split(" ")
    if len(words) > 1:
        middle = (len(words) + 1) // 2
        texts.append(" ".join(words[:middle]) + "\n" + " ".join(words[middle:]))
    sheet.label(
        Label(
            tuple(texts),
            (*_inside(box), *around(box, *sheet.size_of(texts[-1], 0.8))),
            sheet.palette.ink,
            factor=0.8,
            bold=is_picked,
            plate=is_picked,
            rank=1 if is_picked else 3,
            must=is_picked,
            owner=thing.id,
        )
    )


def _inside(box: QRectF) -> tuple[Spot, ...]:
    middle = box.center()
    spots = [Spot(middle, home=box)]
    for share in (0.25, 0.75):
        spots.append(Spot(QPointF(middle.x(), box.top() + share * box.height()), home=box))
        spots.append(Spot(QPointF(box.left() + share * box.width(), middle.y()), home=box))
    if box.height() > box.width():
        spots += [
            Spot(QPointF(middle.x(), box.top() + share * box.height()), upright=True, home=box)
            for share in (0.5, 0.3, 0.7)
        ]
    return tuple(spots)


def distances(
    sheet: Sheet, shell: Shell, system: System, item: Thing | Fixture, wanted: str | None = None
) -> None:
    """The distances to the two nearest walls that are not parallel; that to the `wanted` wall stands out."""
    for wall, distance, on_thing, on_wall in wall_distances(item, shell):
        if distance > 0.005:
            colour = sheet.palette.accent if wanted in (None, wall) else sheet.palette.pencil
            sheet.dimension(on_thing, on_wall, format_length(distance, system), colour)


def beside(sheet: Sheet, side: Side, system: System, opening: Opening) -> None:
    """How much wall there is on both sides of an opening."""
    for a, b in ((0.0, opening.offset), (opening.offset + opening.width, side.length)):
        if b - a > 0.005:
            ends = side.at(a, -_OFF_WALL), side.at(b, -_OFF_WALL)
            sheet.dimension(*ends, format_length(b - a, system), sheet.palette.accent)


NEIGHBOURS, NEAR = 2, 2.5  # how many neighbours' distances are shown, and up to how far [m]


def neighbours(sheet: Sheet, shop: Shop, item: Thing | Fixture) -> None:
    """The distances to the nearest things and fixtures about what is in the hand."""
    own = polygon(item)
    bodies: list[Thing | Fixture] = [*shop.things, *(one for one in shop.room.fixtures if one.is_body)]
    others = {one.id: polygon(one) for one in bodies if one.id != item.id}
    away = shapely.distance(own, list(others.values())).tolist()
    for distance, other in [row for row in sorted(zip(away, others)) if 0.005 < row[0] < NEAR][:NEIGHBOURS]:
        a, b = shapely.shortest_line(own, others[other]).coords
        text = format_length(distance, shop.units)
        sheet.dimension((a[0], a[1]), (b[0], b[1]), text, sheet.palette.pencil, must=False)


def ghost(sheet: Sheet, corners: np.ndarray) -> None:
    """Where something stood before a previewed move."""
    sheet.fill(corners, None, sheet.pen(sheet.palette.accent, 1.5, dashes=(4, 4)))


def picked_too(sheet: Sheet, corners: np.ndarray) -> None:
    """What is picked together with something else."""
    palette = sheet.palette
    sheet.fill(corners, sheet.brush(palette.accent, 0.18), sheet.pen(palette.accent, 3.0))


def cleaner_cone(sheet: Sheet, thing: Thing, reach: float = 0.5) -> None:
    """Which way a cleaner blows, and how far [m]: drawn narrower than its jet is."""
    for off in (-0.15, 0.0, 0.15):
        wide = off + off / 0.15 * 0.08 * max(reach, 0.3)
        a, b = thing.spot(thing.width / 2, off), thing.spot(thing.width / 2 + max(reach, 0.3), wide)
        sheet.line([a, b], sheet.pen(sheet.palette.air_mid, 1.8, dashes=(4, 2)))
