"""Things on the plan: bodies, names, standing room, feed lanes, distances to walls."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from math import cos, radians, sin

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPolygonF

from purvel.app.plan.label_layout import Label, Spot, around
from purvel.app.plan.sheet import Point, Sheet
from purvel.catalogue import kinds
from purvel.libraries import np, shapely
from purvel.quantities import format_length
from purvel.quantities.systems import System
from purvel.review import Figures
from purvel.review.place.lane_rules import lane_grade, round_grade
from purvel.shop import Fixture, Opening, Shop, Thing
from purvel.space.clearances import polygon, wall_distances
from purvel.space.ground import footprint, rectangle, standing_zone
from purvel.space.lanes import FreeRun, Lane
from purvel.space.open_floor import OpenFloor
from purvel.space.round_zones import RoundZone
from purvel.space.shell import Shell, Side
from purvel.space.strips import strip
from purvel.space.thrown import Thrown

OVERHEAD = 1.5  # m: what hangs higher is drawn as hanging
LONGEST_DRAWN = 12.0  # m of lane
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
    for thing in low_first:
        edge = None if quiet else trouble.get(thing.id)
        look = (thing.id == picked, edge, quiet)
        sheet.stamp(("thing", *look), thing, partial(_with_name, thing=thing, look=look))


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
    sheet.keep_clear(outline.boundingRect(), 0.8, thing.id)
    if thing.feed is not None:
        _feed_arrow(sheet, thing)
    if thing.source is not None:
        inlet = thing.spot(thing.source.inlet_x, thing.source.inlet_y)
        facing = radians(thing.angle + thing.source.inlet_direction)
        x, y = inlet[0] + STUB / 2 * cos(facing), inlet[1] + STUB / 2 * sin(facing)
        sheet.fill(
            rectangle(x, y, thing.angle + thing.source.inlet_direction, STUB, thing.source.inlet_diameter),
            sheet.brush(palette.metal),
            pen,
        )
    if thing.stand is not None:
        x, y = thing.spot(0.0, -thing.depth / 2 + 0.05)
        ux, uy = cos(radians(thing.angle)), sin(radians(thing.angle))
        sheet.line(
            [(x - ux * 0.09, y - uy * 0.09), (x + ux * 0.09, y + uy * 0.09)],
            sheet.pen(palette.wood_edge, 3.0),
        )
    if thing.wheels and not overhead:
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


def standing(sheet: Sheet, thing: Thing) -> None:
    """The floor that the worker needs."""
    zone = standing_zone(thing)
    if zone is not None:
        sheet.fill(
            zone,
            sheet.brush(sheet.palette.pencil, 0.45, Qt.BrushStyle.Dense7Pattern),
            sheet.pen(sheet.palette.pencil, 1.0, dashes=(2, 3)),
        )


def lane(sheet: Sheet, one: Lane, shop: Shop, *, strong: bool) -> None:
    """The free strip in and out of a machine, hatched; what stops it is marked, and the longest board is
    lettered when picked.
    """
    palette = sheet.palette
    colour = palette.grade(lane_grade(one))
    c, s = cos(radians(one.direction)), sin(radians(one.direction))
    reach_in, reach_out = min(one.into.length, LONGEST_DRAWN), min(one.out.length, LONGEST_DRAWN)

    def along(distance: float, across: float = 0.0) -> Point:
        return (one.origin[0] + c * distance - s * across, one.origin[1] + s * distance + c * across)

    half = one.width / 2
    outline = [
        along(-reach_in, -half),
        along(reach_out, -half),
        along(reach_out, half),
        along(-reach_in, half),
    ]
    hatch = sheet.brush(
        colour,
        0.55 if strong else 0.30,
        Qt.BrushStyle.FDiagPattern if one.fits else Qt.BrushStyle.DiagCrossPattern,
    )
    sheet.fill(outline, hatch, sheet.pen(colour, 1.4 if strong else 0.8))
    own = shop.thing(one.thing)
    box = (
        sheet.polygon(footprint(own)).boundingRect()
        if own is not None
        else QRectF(sheet.at(*one.origin), sheet.at(*one.origin))
    )
    text = Figures(shop.units).length(one.longest_board)
    if not strong:
        spots = around(box, *sheet.size_of(text, 0.8, bold=True))
        sheet.label(
            Label(
                (text,), spots, colour, factor=0.8, bold=True, plate=True, rank=2, must=False, owner=one.thing
            )
        )
        return
    _picked_lane(sheet, one, shop, along, colour)
    text = f"longest board {text}"
    spots = around(box, *sheet.size_of(text, 1.0, bold=True))
    sheet.label(Label((text,), spots, colour, factor=1.0, bold=True, plate=True, rank=0, owner=one.thing))


def other_lane(sheet: Sheet, one: Lane) -> None:
    """Where the board of another operation at the machine goes, in outline."""
    reach_in, reach_out = min(one.into.length, one.stock_length), min(one.out.length, one.stock_length)
    corners = strip(one.origin, one.direction, -reach_in, reach_out, one.width)
    sheet.fill(corners, None, sheet.pen(sheet.palette.grade(lane_grade(one)), 1.0, dashes=(5, 3)))


def line_of_throw(sheet: Sheet, one: Thrown) -> None:
    """Where a machine may throw what is worked: nobody stands there."""
    palette = sheet.palette
    for part in shapely.get_parts(one.floor):
        corners = shapely.get_coordinates(part)
        sheet.fill(
            corners,
            sheet.brush(palette.watch, 0.35, Qt.BrushStyle.HorPattern),
            sheet.pen(palette.watch, 1.0, dashes=(1, 3)),
        )


def round_zone(sheet: Sheet, one: RoundZone) -> None:
    """The directions in which stock can lie at a machine where it is turned, as sectors about the mark."""
    palette, reach = sheet.palette, one.length if one.at_end else one.length / 2
    colour = palette.grade(round_grade(one))
    for start, end in one.free or ((0.0, 360.0),):
        angles = np.radians(np.linspace(start, end, max(3, int(end - start) // 4)))
        arc = [(one.mark[0] + reach * cos(a), one.mark[1] + reach * sin(a)) for a in angles]
        pattern = Qt.BrushStyle.FDiagPattern if one.free else Qt.BrushStyle.DiagCrossPattern
        sheet.fill([one.mark, *arc], sheet.brush(colour, 0.45, pattern), sheet.pen(colour, 1.2))


def _picked_lane(
    sheet: Sheet, one: Lane, shop: Shop, along: Callable[[float, float], Point], colour: str
) -> None:
    """The board that fits, what stops it on either side, and how far the free runs reach."""
    palette, half = sheet.palette, one.width / 2
    reach_in, reach_out = min(one.into.length, LONGEST_DRAWN), min(one.out.length, LONGEST_DRAWN)
    for distance, run in ((-reach_in, one.into), (reach_out, one.out)):
        if run.stopped_by is not None:
            sheet.line([along(distance, -half - 0.06), along(distance, half + 0.06)], sheet.pen(colour, 5))
    begins, ends = one.board
    if ends - begins > 0.05:
        plank = [along(begins, -half), along(ends, -half), along(ends, half), along(begins, half)]
        sheet.fill(plank, sheet.brush(palette.wood, 0.9), sheet.pen(palette.wood_edge, 1.2))
        sheet.keep_clear(sheet.polygon(plank).boundingRect(), 0.5)
    left, right = ("left", "right") if one.across else ("in", "out")
    for sign, reach, run, word in ((-1, reach_in, one.into, left), (1, reach_out, one.out, right)):
        _run_length(
            sheet,
            [sheet.at(*along(sign * reach * share, 0.0)) for share in (0.7, 0.85, 0.5)],
            run,
            word,
            shop,
            colour,
        )


def _run_length(
    sheet: Sheet, middles: list[QPointF], run: FreeRun, word: str, shop: Shop, colour: str
) -> None:
    if run.length > 0.3:
        text = f"{word} {Figures(shop.units).length(run.length)}"
        sheet.label(
            Label(
                (text,),
                tuple(Spot(middle) for middle in middles),
                colour,
                factor=0.87,
                bold=True,
                plate=True,
                rank=1,
            )
        )


def distances(
    sheet: Sheet, shell: Shell, system: System, item: Thing | Fixture, wanted: str | None = None
) -> None:
    """The distances to the two nearest walls that are not parallel; that to the `wanted` wall stands out."""
    for wall, distance, on_thing, on_wall in wall_distances(item, shell):
        if distance > 0.005:
            colour = sheet.palette.accent if wanted in (None, wall) else sheet.palette.pencil
            sheet.dimension(on_thing, on_wall, format_length(distance, system), colour)


def open_floor(sheet: Sheet, found: OpenFloor) -> None:
    """The largest clear rectangle of floor."""
    palette = sheet.palette
    sheet.fill(found.corners, sheet.brush(palette.good, 0.14), sheet.pen(palette.good, 2.0, dashes=(6, 3)))


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
    found = sorted((float(own.distance(polygon(one))), one.id, one) for one in bodies if one.id != item.id)
    for distance, _, one in [row for row in found if 0.005 < row[0] < NEAR][:NEIGHBOURS]:
        a, b = shapely.shortest_line(own, polygon(one)).coords
        sheet.dimension((a[0], a[1]), (b[0], b[1]), format_length(distance, shop.units), sheet.palette.pencil)


def ghost(sheet: Sheet, corners: np.ndarray) -> None:
    """Where something stood before a previewed move."""
    sheet.fill(corners, None, sheet.pen(sheet.palette.accent, 1.5, dashes=(4, 4)))


def cleaner_cone(sheet: Sheet, thing: Thing) -> None:
    """Which way a cleaner blows."""
    for off in (-0.15, 0.0, 0.15):
        a, b = thing.spot(thing.width / 2, off), thing.spot(thing.width / 2 + 0.5, off * 2.2)
        sheet.line([a, b], sheet.pen(sheet.palette.air_mid, 1.8, dashes=(4, 2)))
