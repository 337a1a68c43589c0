"""The room on the plan: floor, walls, openings, fixtures, the walls' lengths; squared paper; marks that point
at a place.
"""

from functools import partial
from math import atan2, ceil, floor, tan

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainterPath

from purvel.app.plan.label_layout import Label, Spot, around
from purvel.app.plan.sheet import Point, Sheet
from purvel.libraries import shapely
from purvel.quantities import format_length
from purvel.quantities.systems import System
from purvel.review import Figures
from purvel.shop import Fixture, Opening
from purvel.space.clearances import HEAD_HEIGHT, leaves, panel_space, swing
from purvel.space.ground import footprint
from purvel.space.joists import joist_lines
from purvel.space.shell import Shell, Side

WALL = 0.11  # m, drawn thickness outside the inner face
LONGEST_MITRE = 3.0  # wall thicknesses


def room(sheet: Sheet, shell: Shell, picked: str | None, measures: System | None = None) -> None:
    """Floor, walls, openings, fixtures; names and the walls' lengths in the units that are named."""
    draw = partial(_room, shell=shell, picked=picked, measures=measures)
    sheet.stamp(("room", picked, measures), shell, draw)


def _room(sheet: Sheet, shell: Shell, picked: str | None, measures: System | None) -> None:
    palette, walls, traverse = sheet.palette, shell.sides, shell.traverse
    if traverse.corners:
        sheet.fill(traverse.corners, sheet.brush(palette.sheet), None)
        ring = list(walls.values())
        for before, side, after in zip(ring[-1:] + ring, ring, ring[1:] + ring[:1]):
            _wall(sheet, before, side, after, picked == side.wall)
    elif len(traverse.raw) > 1:
        sheet.line(traverse.raw, sheet.pen(palette.wall, 5))
        if len(traverse.raw) > 2:
            sheet.line([traverse.raw[-1], traverse.raw[0]], sheet.pen(palette.mend, 2, dashes=(4, 4)))
    for opening in shell.room.openings:
        if opening.wall in walls:
            _opening(sheet, opening, walls[opening.wall], opening.id == picked)
    for fixture in shell.room.fixtures:
        _fixture(sheet, fixture, shell, fixture.id == picked, measures)
    _slopes(sheet, shell, measures)
    if measures is not None:
        _wall_measures(sheet, shell, measures)


def _wall(sheet: Sheet, before: Side, side: Side, after: Side, is_picked: bool) -> None:
    """A wall's thickness, mitred into its neighbours."""
    far, near = side.length + _mitre(side, after), -_mitre(before, side)
    quad = [side.start, side.end, side.at(far, WALL), side.at(near, WALL)]
    colour = sheet.palette.accent if is_picked else sheet.palette.wall
    sheet.fill(quad, sheet.brush(colour), sheet.pen(colour, 1.0))
    sheet.keep_clear(sheet.polygon(quad).boundingRect(), 2.0)


def _mitre(one: Side, following: Side) -> float:
    """How much longer the outer face is than the inner one at the corner of two walls [m], less than nothing
    where the corner points into the room.
    """
    inward = -(following.along[0] * one.out[0] + following.along[1] * one.out[1])
    onward = following.along[0] * one.along[0] + following.along[1] * one.along[1]
    half = atan2(inward, onward) / 2.0
    return WALL * max(-LONGEST_MITRE, min(LONGEST_MITRE, tan(half)))


def _opening(sheet: Sheet, one: Opening, side: Side, is_picked: bool) -> None:
    palette = sheet.palette
    near, far = one.offset, one.offset + one.width
    hole = [
        side.at(near, -0.005),
        side.at(far, -0.005),
        side.at(far, WALL + 0.005),
        side.at(near, WALL + 0.005),
    ]
    line = palette.accent if is_picked else palette.wall
    sheet.fill(hole, sheet.brush(palette.sheet), None)
    for jamb in (near, far):
        sheet.line([side.at(jamb, 0), side.at(jamb, WALL)], sheet.pen(line, 2.5))
    _leaf(sheet, one, side, line)
    if one.is_open or one.entry:
        _opening_words(sheet, one, side)


def _leaf(sheet: Sheet, one: Opening, side: Side, line: str) -> None:
    """What closes an opening, and where it goes."""
    palette, near, far = sheet.palette, one.offset, one.offset + one.width
    if one.kind == "window":
        for depth in (0.0, WALL / 2, WALL):
            sheet.line([side.at(near, depth), side.at(far, depth)], sheet.pen(line, 1.2))
    elif one.kind == "swing":
        for arc in shapely.get_parts(swing(one, side)):
            ring = list(arc.exterior.coords)[:-1]
            sheet.fill(ring, sheet.brush(palette.pencil, 0.10), sheet.pen(palette.pencil, 1.0, dashes=(3, 3)))
        for hinge, free in leaves(one):
            wide = abs(free - hinge)
            ajar, face = (-wide, 0.0) if one.swing == "in" else (WALL + wide, WALL)
            sheet.line([side.at(hinge, face), side.at(hinge, ajar)], sheet.pen(line, 2.5))
            if one.swing == "out":
                dashed = sheet.pen(palette.pencil, 1.0, dashes=(3, 3))
                sheet.line([side.at(hinge, ajar), side.at(free, WALL)], dashed)
    elif one.kind == "sliding":
        sheet.line(
            [side.at(near, WALL * 0.3), side.at((near + far) / 2 + 0.05, WALL * 0.3)], sheet.pen(line, 2.5)
        )
        sheet.line(
            [side.at((near + far) / 2 - 0.05, WALL * 0.7), side.at(far, WALL * 0.7)], sheet.pen(line, 2.5)
        )
    else:
        depth = one.head if one.kind == "roll-up" else 0.6 * one.head
        shadow = [side.at(near), side.at(far), side.at(far, -depth), side.at(near, -depth)]
        sheet.fill(shadow, None, sheet.pen(palette.pencil, 1.0, dashes=(8, 4)))
        style = sheet.pen(line, 2.0, dashes=(2, 2)) if one.is_open else sheet.pen(line, 4)
        sheet.line([side.at(near, WALL / 2), side.at(far, WALL / 2)], style)


def _opening_words(sheet: Sheet, one: Opening, side: Side) -> None:
    words = [word for word, holds in (("way in", one.entry), ("open", one.is_open)) if holds]
    spots = tuple(
        Spot(sheet.at(*side.at(one.offset + one.width / 2, away)))
        for away in (WALL + 0.2, WALL + 0.45, -0.25)
    )
    sheet.label(
        Label(
            (", ".join(words),),
            spots,
            sheet.palette.good if one.is_open else sheet.palette.pencil,
            factor=0.8,
            bold=one.is_open,
            plate=True,
            rank=2,
        )
    )


def _slopes(sheet: Sheet, shell: Shell, system: System | None) -> None:
    """The floor over which a sloping ceiling leaves no head height; told where units are named."""
    for slope in shell.slopes:
        corners = shell.under_slope(slope, HEAD_HEIGHT)
        pen = sheet.pen(sheet.palette.pencil, 1.2, dashes=(7, 3))
        sheet.fill(corners, sheet.brush(sheet.palette.pencil, 0.18, Qt.BrushStyle.HorPattern), pen)
        if system is None:
            continue
        words = f"ceiling under {format_length(HEAD_HEIGHT, system)}, {format_length(slope.low, system)} at the wall"
        box = sheet.polygon(corners).boundingRect()
        spots = tuple(
            Spot(
                QPointF(box.center().x(), box.top() + share * box.height()),
                upright=box.height() > box.width(),
            )
            for share in (0.5, 0.3, 0.7)
        )
        sheet.label(
            Label((words, "low ceiling"), spots, sheet.palette.pencil, factor=0.78, rank=3, must=False)
        )


def _fixture(sheet: Sheet, one: Fixture, shell: Shell, is_picked: bool, measures: System | None) -> None:
    palette, named = sheet.palette, measures is not None
    corners = footprint(one)
    box = sheet.polygon(corners).boundingRect()
    middle = sheet.at(one.x, one.y)
    if one.acts == "bay":
        _bay(sheet, one, box, is_picked)
        return
    if one.acts == "kept clear" or one.stands == "ceiling":
        _outline(sheet, one, is_picked, measures)
        return
    line = sheet.pen(palette.accent if is_picked else palette.wall, 2.5 if is_picked else 1.5)
    sheet.fill(corners, sheet.brush(palette.wall if one.kind in ("post", "chimney") else palette.metal), line)
    sheet.keep_clear(box, 1.5, one.id)
    if one.acts == "panel":
        space = panel_space(one, shell)
        hatch = sheet.brush(palette.stop, 0.35, Qt.BrushStyle.BDiagPattern)
        sheet.fill(list(space.exterior.coords), hatch, sheet.pen(palette.stop, 1.0, dashes=(3, 3)))
    if one.flame:
        _flame(sheet, middle)
    if is_picked or (named and one.name):
        name = one.name or one.kind
        spots = around(box, *sheet.size_of(name, 0.8))
        colour = palette.ink if is_picked else palette.pencil
        sheet.label(
            Label(
                (name,),
                spots,
                colour,
                factor=0.8,
                bold=is_picked,
                plate=is_picked,
                rank=1 if is_picked else 3,
                must=is_picked,
                owner=one.id,
            )
        )


def _bay(sheet: Sheet, one: Fixture, box: QRectF, is_picked: bool) -> None:
    """Floor for a car."""
    palette, middle = sheet.palette, box.center()
    pen = sheet.pen(palette.accent if is_picked else palette.pencil, 1.5, dashes=(10, 6))
    sheet.fill(footprint(one), sheet.brush(palette.metal) if one.taken else None, pen)
    inside = [
        Spot(QPointF(middle.x(), box.top() + box.height() * share), home=box)
        for share in (0.5, 0.25, 0.75, 0.12, 0.9)
    ]
    words = "a car stands here" if one.taken else one.name or "parking bay"
    sheet.label(Label((words,), tuple(inside), palette.pencil, factor=0.85, rank=4, must=is_picked))


def _outline(sheet: Sheet, one: Fixture, is_picked: bool, measures: System | None) -> None:
    """What takes no floor: what hangs from the ceiling, with its height, and floor that is to stay clear."""
    palette, corners = sheet.palette, footprint(one)
    colour = palette.accent if is_picked else palette.pencil
    hangs = one.stands == "ceiling"
    hatch = None if hangs else sheet.brush(palette.pencil, 0.35, Qt.BrushStyle.DiagCrossPattern)
    sheet.fill(
        corners, hatch, sheet.pen(colour, 2.0 if is_picked else 1.2, dashes=(7, 3) if hangs else (2, 2))
    )
    if not (is_picked or measures):
        return
    box = sheet.polygon(corners).boundingRect()
    name = one.name or one.kind
    if hangs and measures:
        name += f", {format_length(one.bottom, measures)} up"
    spots = (Spot(box.center()), *around(box, *sheet.size_of(name, 0.8)))
    sheet.label(
        Label((name,), spots, colour, factor=0.8, bold=is_picked, rank=3, must=is_picked, owner=one.id)
    )


def joists(sheet: Sheet, shell: Shell) -> None:
    """The timbers that carry the ceiling, as far as they lie over the floor."""
    for a, b in joist_lines(shell):
        sheet.line([a, b], sheet.pen(sheet.palette.wood_edge, 1.0, dashes=(10, 4, 2, 4)))


def _flame(sheet: Sheet, c: QPointF) -> None:
    flame = QPainterPath(QPointF(c.x(), c.y() - 10))
    flame.cubicTo(c.x() + 12, c.y() + 2, c.x() + 4, c.y() + 10, c.x(), c.y() + 10)
    flame.cubicTo(c.x() - 6, c.y() + 10, c.x() - 9, c.y() + 2, c.x(), c.y() - 10)
    sheet.painter.setPen(sheet.pen(sheet.palette.stop, 1.8))
    sheet.painter.setBrush(sheet.brush(sheet.palette.sheet))
    sheet.painter.drawPath(flame)
    sheet.keep_clear(QRectF(c.x() - 12, c.y() - 12, 24, 24), 2.0)


def _wall_measures(sheet: Sheet, shell: Shell, system: System) -> None:
    palette, traverse, walls = sheet.palette, shell.traverse, shell.sides
    for index, wall in enumerate(shell.room.walls):
        text = (
            f"{wall.id}  {format_length(wall.length, system)}{' paced' if wall.provenance == 'paced' else ''}"
        )
        colour = palette.mend if wall.id in traverse.suspects else palette.ink
        if wall.id in walls:
            side = walls[wall.id]
            row = 1 if any(one.wall == wall.id for one in shell.room.openings) else 0
            away = outside(sheet, row)
            upright = abs(side.out[0]) > 0.7
            spots = tuple(
                Spot(sheet.at(*side.at(side.length * share, away)), upright)
                for share in (0.5, 0.4, 0.6, 0.3, 0.7, 0.2, 0.8)
            )
            sheet.label(Label((text,), spots, colour, factor=0.87, bold=True, rank=0))
        else:
            a, b = traverse.raw[index], traverse.raw[index + 1]
            sheet.text(sheet.at((a[0] + b[0]) / 2, (a[1] + b[1]) / 2), text, colour, bold=True, plate=True)
    if not traverse.corners and len(traverse.raw) > 2:
        a, b = traverse.raw[-1], traverse.raw[0]
        sheet.text(
            sheet.at((a[0] + b[0]) / 2, (a[1] + b[1]) / 2),
            f"{Figures(system).length(traverse.gap_length)} still open",
            palette.mend,
            bold=True,
            plate=True,
        )


def outside(sheet: Sheet, row: int) -> float:
    """How far outside the walls a row of lettering stands [m]; row 0 is next to them."""
    return WALL + (14 + sheet.pixels * (0.5 + 1.3 * row)) / sheet.scale


def paper_grid(sheet: Sheet, width: int, height: int, step: float) -> None:
    """Squared paper."""
    x0, y0 = -sheet.origin.x() / sheet.scale, (sheet.origin.y() - height) / sheet.scale
    pen = sheet.pen(sheet.palette.rule, 0.6)
    sheet.painter.setPen(pen)
    for k in range(floor(x0 / step), ceil((x0 + width / sheet.scale) / step) + 1):
        x = sheet.at(k * step, 0).x()
        sheet.painter.drawLine(QPointF(x, 0), QPointF(x, height))
    for k in range(floor(y0 / step), ceil((y0 + height / sheet.scale) / step) + 1):
        y = sheet.at(0, k * step).y()
        sheet.painter.drawLine(QPointF(0, y), QPointF(width, y))


def mark(sheet: Sheet, point: Point) -> None:
    """Points at a place."""
    c = sheet.at(*point)
    sheet.painter.setBrush(Qt.BrushStyle.NoBrush)
    for radius, width in ((16, 3.0), (22, 1.2)):
        sheet.painter.setPen(sheet.pen(sheet.palette.accent, width))
        sheet.painter.drawEllipse(c, radius, radius)


_BARS = {
    "metric": ((0.001, "1 mm"), (0.01, "10 mm"), (0.1, "100 mm"), (1.0, "1 m"), (5.0, "5 m")),
    "imperial": ((0.0254 / 16, '1/16"'), (0.0254, '1"'), (0.3048, "1 ft"), (1.524, "5 ft"), (3.048, "10 ft")),
}
_BAR = 140  # px that the scale bar of the window takes at the most


def view_scale(sheet: Sheet, width: float, height: float, system: System) -> None:
    """A scale bar in the corner of the window: the longest round length that it has room for."""
    fits = [one for one in _BARS[system] if one[0] * sheet.scale <= _BAR]
    length, words = fits[-1] if fits else _BARS[system][0]
    wide, y = length * sheet.scale, height - 10.0
    x = width - wide - 12.0
    painter = sheet.painter
    painter.setPen(sheet.pen(sheet.palette.pencil, 1.5))
    painter.drawLine(QPointF(x, y), QPointF(x + wide, y))
    for end in (x, x + wide):
        painter.drawLine(QPointF(end, y - 4), QPointF(end, y + 2))
    sheet.text(QPointF(x + wide / 2, y - sheet.pixels * 0.6), words, sheet.palette.pencil, factor=0.75)
