"""The floor that work takes, on the plan: standing room, lanes, round zones, lines of throw, open floor."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from math import cos, radians, sin

from PySide6.QtCore import QPointF, QRectF, Qt

from purvel.app.plan.label_layout import Label, Spot, around
from purvel.app.plan.sheet import Point, Sheet
from purvel.libraries import np, shapely
from purvel.review import Figures
from purvel.review.place.lane_rules import lane_grade, round_grade
from purvel.shop import Shop, Thing
from purvel.space.aisles import ONE_PERSON, SQUEEZE, Aisle
from purvel.space.ground import footprint, standing_zone
from purvel.space.lanes import FreeRun, Lane
from purvel.space.loads import Place, outline
from purvel.space.open_floor import OpenFloor
from purvel.space.roll_out import RollOut
from purvel.space.round_zones import RoundZone
from purvel.space.strips import strip
from purvel.space.thrown import Flight

LONGEST_DRAWN = 12.0  # m of lane


def standing(sheet: Sheet, thing: Thing) -> None:
    """The floor that the worker needs."""
    zone = standing_zone(thing)
    if zone is not None:
        sheet.fill(
            zone,
            sheet.brush(sheet.palette.pencil, 0.45, Qt.BrushStyle.Dense7Pattern),
            sheet.pen(sheet.palette.pencil, 1.0, dashes=(2, 3)),
        )


def lanes(sheet: Sheet, of: Sequence[Lane], shop: Shop) -> None:
    """The lanes of machines that are not picked."""
    sheet.stamp_together(
        ("lanes", shop.units, *((one, id(shop.thing(one.thing))) for one in of)),
        lambda: (
            (
                ("lane", one, shop.units),
                shop.thing(one.thing),
                partial(lane, one=one, shop=shop, strong=False),
            )
            for one in of
        ),
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


def line_of_throw(sheet: Sheet, one: Flight | None) -> None:
    """Where a machine may throw what is worked, if it does: nobody stands there."""
    palette = sheet.palette
    for part in () if one is None else shapely.get_parts(one.floor):
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


def open_floor(sheet: Sheet, found: OpenFloor) -> None:
    """The largest clear rectangle of floor."""
    palette = sheet.palette
    sheet.fill(found.corners, sheet.brush(palette.good, 0.14), sheet.pen(palette.good, 2.0, dashes=(6, 3)))


def narrowest(sheet: Sheet, one: Aisle, shop: Shop) -> None:
    """Where the way to a machine is narrowest, with its width."""
    if one.narrowest is None or one.width <= 0.0:
        return
    palette, at = sheet.palette, sheet.at(*one.narrowest)
    colour = palette.ink if one.most >= ONE_PERSON else palette.watch if one.most >= SQUEEZE else palette.mend
    radius = one.width / 2 * sheet.scale
    sheet.painter.setPen(sheet.pen(colour, 1.4, dashes=(4, 3)))
    sheet.painter.setBrush(Qt.BrushStyle.NoBrush)
    sheet.painter.drawEllipse(at, radius, radius)
    text = f"way {Figures(shop.units).length(one.width)}"
    box = QRectF(at.x() - radius, at.y() - radius, 2 * radius, 2 * radius)
    spots = (Spot(at), *around(box, *sheet.size_of(text, 0.85)))
    sheet.label(Label((text,), spots, colour, factor=0.85, plate=True, rank=2))


GHOSTS = 9  # places of a way on which what is moved is drawn


def rolled(sheet: Sheet, thing: Thing, one: RollOut) -> None:
    """The way of a thing on wheels, in outlines along it."""
    palette = sheet.palette
    for place in spread(one.way, GHOSTS):
        corners = outline(thing.width, thing.depth, place)
        sheet.fill(corners, sheet.brush(palette.wood, 0.14), sheet.pen(palette.wood_edge, 1.0, dashes=(2, 3)))
    sheet.line([(place.x, place.y) for place in one.way], sheet.pen(palette.accent, 1.6, dashes=(4, 3)))


def spread(way: tuple[Place, ...], most: int) -> list[Place]:
    """At most this many places of a way, its ends among them, evenly."""
    if len(way) <= most:
        return list(way)
    return [way[round(k * (len(way) - 1) / (most - 1))] for k in range(most)]
