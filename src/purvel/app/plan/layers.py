"""What is drawn on the plan: the room, the things, lanes, clearances, ducts. Each takes a sheet and what it shows."""

import itertools
from math import cos, hypot, radians, sin

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainterPath

from purvel.airflow.layout import Path, length_of, point_along
from purvel.airflow.network import GateSetFlow, NetworkResult
from purvel.app.plan.sheet import Sheet
from purvel.quantities import format_length
from purvel.review import Results
from purvel.review.reader import Reader
from purvel.review.results import chip_state
from purvel.shop import Fixture, Opening, Shop, Thing
from purvel.space.clearances import panel_space, swing, wall_distances
from purvel.space.ground import Side, footprint, standing_zone
from purvel.space.lanes import Lane
from purvel.space.traverse import Traverse

WALL = 0.11  # m, drawn thickness outside the inner face

STATE_WORDS = {"moving": "chips move", "slow": "chips may settle", "settling": "chips settle", "idle": "shut"}


def room(sheet: Sheet, shop: Shop, trip: Traverse, walls: dict[str, Side], picked: str | None, *, measures: bool) -> None:
    """Floor, walls, openings, fixtures; the walls' lengths where asked for."""
    look = sheet.look
    if trip.corners:
        sheet.fill(trip.corners, sheet.brush(look.sheet), None)
        for side in walls.values():
            _wall(sheet, side, picked == side.wall)
    elif len(trip.raw) > 1:
        sheet.line(trip.raw, sheet.pen(look.wall, 5))
        if len(trip.raw) > 2:
            sheet.line([trip.raw[-1], trip.raw[0]], sheet.pen(look.mend, 2, dashes=(4, 4)))
    for opening in shop.room.openings:
        if opening.wall in walls:
            _opening(sheet, opening, walls[opening.wall], opening.id == picked)
    for fixture in shop.room.fixtures:
        _fixture(sheet, fixture, shop, fixture.id == picked)
    if measures:
        _wall_measures(sheet, shop, trip, walls)


def _wall(sheet: Sheet, side: Side, is_picked: bool) -> None:
    quad = [side.at(-WALL, 0.0), side.at(side.length + WALL, 0.0), side.at(side.length + WALL, WALL), side.at(-WALL, WALL)]
    colour = sheet.look.accent if is_picked else sheet.look.wall
    sheet.fill(quad, sheet.brush(colour), sheet.pen(colour, 1.0))


def _opening(sheet: Sheet, one: Opening, side: Side, is_picked: bool) -> None:
    look = sheet.look
    near, far = one.offset, one.offset + one.width
    hole = [side.at(near, -0.005), side.at(far, -0.005), side.at(far, WALL + 0.005), side.at(near, WALL + 0.005)]
    line = look.accent if is_picked else look.wall
    sheet.fill(hole, sheet.brush(look.sheet), None)
    for jamb in (near, far):
        sheet.line([side.at(jamb, 0), side.at(jamb, WALL)], sheet.pen(line, 2.5))
    if one.kind == "window":
        for depth in (0.0, WALL / 2, WALL):
            sheet.line([side.at(near, depth), side.at(far, depth)], sheet.pen(line, 1.2))
    elif one.kind == "swing":
        arc = swing(one, side)
        if not arc.is_empty:
            ring = list(arc.exterior.coords)[:-1]
            sheet.fill(ring, sheet.brush(look.pencil, 0.10), sheet.pen(look.pencil, 1.0, dashes=(3, 3)))
            sheet.line([ring[0], ring[-1]], sheet.pen(line, 2.5))
        else:
            hinge, free = (near, far) if one.hinge == "start" else (far, near)
            sheet.line([side.at(hinge, WALL), side.at(hinge, WALL + one.width)], sheet.pen(line, 2.5))
            sheet.line([side.at(hinge, WALL + one.width), side.at(free, WALL)], sheet.pen(look.pencil, 1.0, dashes=(3, 3)))
    elif one.kind == "sliding":
        sheet.line([side.at(near, WALL * 0.3), side.at((near + far) / 2 + 0.05, WALL * 0.3)], sheet.pen(line, 2.5))
        sheet.line([side.at((near + far) / 2 - 0.05, WALL * 0.7), side.at(far, WALL * 0.7)], sheet.pen(line, 2.5))
    else:
        depth = one.head if one.kind == "roll-up" else 0.6 * one.head
        shadow = [side.at(near), side.at(far), side.at(far, -depth), side.at(near, -depth)]
        sheet.fill(shadow, None, sheet.pen(look.pencil, 1.0, dashes=(8, 4)))
        style = sheet.pen(line, 2.0, dashes=(2, 2)) if one.is_open else sheet.pen(line, 4)
        sheet.line([side.at(near, WALL / 2), side.at(far, WALL / 2)], style)
    if one.is_open:
        mid = side.at((near + far) / 2, WALL + 0.16)
        sheet.text(sheet.at(*mid), "open", look.good, factor=0.8, bold=True, plate=True)
    elif one.entry:
        mid = side.at((near + far) / 2, WALL + 0.16)
        sheet.text(sheet.at(*mid), "way in", look.pencil, factor=0.8, plate=True)


def _fixture(sheet: Sheet, one: Fixture, shop: Shop, is_picked: bool) -> None:
    look = sheet.look
    line = sheet.pen(look.accent if is_picked else look.wall, 2.5 if is_picked else 1.5)
    corners = footprint(one)
    if one.kind == "parking bay":
        sheet.fill(corners, None, sheet.pen(look.accent if is_picked else look.pencil, 1.5, dashes=(10, 6)))
        c = sheet.at(one.x, one.y)
        if is_picked or not any(abs(t.x - one.x) < 0.6 and abs(t.y - one.y) < 0.35 for t in shop.things):
            sheet.text(c, one.name or "parking bay", look.pencil, factor=0.85)
        return
    sheet.fill(corners, sheet.brush(look.wall if one.kind in ("post", "chimney") else look.metal), line)
    if one.kind == "panel":
        space = panel_space(one, shop.room)
        hatch = sheet.brush(look.stop, 0.35, Qt.BrushStyle.BDiagPattern)
        sheet.fill(list(space.exterior.coords), hatch, sheet.pen(look.stop, 1.0, dashes=(3, 3)))
    if one.flame:
        c = sheet.at(one.x, one.y)
        flame = QPainterPath(QPointF(c.x(), c.y() - 10))
        flame.cubicTo(c.x() + 12, c.y() + 2, c.x() + 4, c.y() + 10, c.x(), c.y() + 10)
        flame.cubicTo(c.x() - 6, c.y() + 10, c.x() - 9, c.y() + 2, c.x(), c.y() - 10)
        sheet.painter.setPen(sheet.pen(look.stop, 1.8))
        sheet.painter.setBrush(sheet.brush(look.sheet))
        sheet.painter.drawPath(flame)
    if is_picked:
        sheet.text(sheet.at(one.x, one.y) + QPointF(0, 22), one.name or one.kind, look.ink, plate=True)


def _wall_measures(sheet: Sheet, shop: Shop, trip: Traverse, walls: dict[str, Side]) -> None:
    look = sheet.look
    for index, wall in enumerate(shop.room.walls):
        text = f"{wall.id}  {format_length(wall.length, shop.units)}{' paced' if wall.how == 'paced' else ''}"
        colour = look.mend if wall.id in trip.suspects else look.ink
        if wall.id in walls:
            side = walls[wall.id]
            away = WALL + 14 / sheet.scale + sheet.pixels * 0.5 / sheet.scale
            spot = side.at(side.length / 2, away)
            if abs(side.out[0]) > 0.7:
                sheet.painter.save()
                sheet.painter.translate(sheet.at(*spot))
                sheet.painter.rotate(-90)
                sheet.text(QPointF(0, 0), text, colour, bold=True)
                sheet.painter.restore()
            else:
                sheet.text(sheet.at(*spot), text, colour, bold=True)
        else:
            a, b = trip.raw[index], trip.raw[index + 1]
            sheet.text(sheet.at((a[0] + b[0]) / 2, (a[1] + b[1]) / 2), text, colour, bold=True, plate=True)
    if not trip.corners and len(trip.raw) > 2:
        a, b = trip.raw[-1], trip.raw[0]
        sheet.text(
            sheet.at((a[0] + b[0]) / 2, (a[1] + b[1]) / 2),
            f"{format_length(trip.gap_length, shop.units)} still open",
            look.mend,
            bold=True,
            plate=True,
        )


_STORAGE = ("workbench", "assembly-table", "outfeed-table", "timber-rack", "sheet-rack", "cabinet")


def things(sheet: Sheet, shop: Shop, picked: str | None, trouble: dict[str, str], *, quiet: bool = False) -> None:
    """Everything that stands on the floor, low things first. `trouble` colours the edge of what a Stop or Mend is about."""
    for thing in sorted(shop.things, key=lambda one: one.z + one.height):
        _thing(sheet, thing, thing.id == picked, None if quiet else trouble.get(thing.id), quiet)
    for thing in shop.things:
        _name(sheet, thing, thing.id == picked)


def _thing(sheet: Sheet, thing: Thing, is_picked: bool, edge: str | None, quiet: bool) -> None:
    look = sheet.look
    if thing.kind in _STORAGE:
        body = look.storage
    elif thing.source or thing.cleaner:
        body = look.metal
    else:
        body = look.wood
    overhead = thing.z > 1.5
    pen = sheet.pen(look.accent if is_picked else edge or look.wood_edge, 3.0 if is_picked or edge else 1.6, dashes=(5, 3) if overhead else ())
    sheet.fill(footprint(thing), sheet.brush(body, 0.45 if quiet or overhead else 1.0), pen)
    if thing.feed is not None:
        x, y = thing.spot(thing.feed.x, thing.feed.y)
        direction = radians(thing.angle + thing.feed.direction)
        half = 0.13
        across = (-sin(direction) * half, cos(direction) * half)
        sheet.line([(x - across[0], y - across[1]), (x + across[0], y + across[1])], sheet.pen(look.ink, 1.2))
        tip = (x + 0.16 * cos(direction), y + 0.16 * sin(direction))
        sheet.line([(x, y), tip], sheet.pen(look.ink, 2.0))
        for turn in (150, -150):
            wing = (tip[0] + 0.07 * cos(direction + radians(turn)), tip[1] + 0.07 * sin(direction + radians(turn)))
            sheet.line([tip, wing], sheet.pen(look.ink, 2.0))
    if thing.stand is not None:
        x, y = thing.spot(0.0, -thing.depth / 2 + 0.05)
        ux, uy = cos(radians(thing.angle)), sin(radians(thing.angle))
        sheet.line([(x - ux * 0.09, y - uy * 0.09), (x + ux * 0.09, y + uy * 0.09)], sheet.pen(look.wood_edge, 3.0))
    if thing.wheels and not overhead:
        for sx in (-1, 1):
            for sy in (-1, 1):
                c = sheet.at(*thing.spot(sx * (thing.width / 2 - 0.06), sy * (thing.depth / 2 - 0.06)))
                sheet.painter.setPen(sheet.pen(look.wood_edge, 1.0))
                sheet.painter.setBrush(sheet.brush(look.sheet, 0.6))
                sheet.painter.drawEllipse(c, 2.5, 2.5)


def _name(sheet: Sheet, thing: Thing, is_picked: bool) -> None:
    name = thing.name or thing.id
    x, y = thing.spot(0.0, 0.0)
    wide = abs(thing.width * cos(radians(thing.angle))) + abs(thing.depth * sin(radians(thing.angle)))
    room_for = wide * sheet.scale
    if sheet.measure(name) > room_for * 1.25 and not is_picked and " " in name:
        words = name.split(" ")
        middle = (len(words) + 1) // 2
        name = " ".join(words[:middle]) + "\n" + " ".join(words[middle:])
    sheet.text(
        sheet.at(x, y) + QPointF(0, sheet.pixels * (0.75 if thing.feed else 0.2)), name, sheet.look.ink, factor=0.82, bold=is_picked, plate=is_picked
    )


def standing(sheet: Sheet, thing: Thing) -> None:
    """The floor that the worker needs."""
    zone = standing_zone(thing)
    if zone is not None:
        sheet.fill(zone, sheet.brush(sheet.look.pencil, 0.45, Qt.BrushStyle.Dense7Pattern), sheet.pen(sheet.look.pencil, 1.0, dashes=(2, 3)))


def lane(sheet: Sheet, one: Lane, shop: Shop, *, strong: bool) -> None:
    """The free strip in and out of a machine, hatched; what stops it is marked, and the longest board is lettered when picked."""
    look = sheet.look
    colour = look.good if one.fits else look.mend
    c, s = cos(radians(one.direction)), sin(radians(one.direction))
    reach_in, reach_out = min(one.into.length, 12.0), min(one.out.length, 12.0)

    def along(distance: float, across: float = 0.0) -> tuple[float, float]:
        return (one.origin[0] + c * distance - s * across, one.origin[1] + s * distance + c * across)

    half = one.width / 2
    strip = [along(-reach_in, -half), along(reach_out, -half), along(reach_out, half), along(-reach_in, half)]
    hatch = sheet.brush(colour, 0.55 if strong else 0.30, Qt.BrushStyle.FDiagPattern if one.fits else Qt.BrushStyle.DiagCrossPattern)
    sheet.fill(strip, hatch, sheet.pen(colour, 1.4 if strong else 0.8))
    if not strong:
        return
    for distance, run in ((-reach_in, one.into), (reach_out, one.out)):
        if run.stopped_by is not None:
            sheet.line([along(distance, -half - 0.06), along(distance, half + 0.06)], sheet.pen(colour, 5))
    board = min(one.longest_board, one.stock_length)
    if board > 0.05:
        start = -min(reach_in, board) if reach_in <= reach_out else -board
        plank = [along(start, -half), along(0.0, -half), along(0.0, half), along(start, half)]
        sheet.fill(plank, sheet.brush(look.wood, 0.9), sheet.pen(look.wood_edge, 1.2))
    for distance, run, word in ((-reach_in * 0.62, one.into, "in"), (reach_out * 0.62, one.out, "out")):
        if run.length > 0.3:
            sheet.text(
                sheet.at(*along(distance)),
                f"{word} {format_length(run.length, shop.units, denominator=4)}",
                colour,
                bold=True,
                plate=True,
                apart=True,
            )
    spot = sheet.at(*along(0.0))
    up = -1 if spot.y() > sheet.pixels * 8 else 1
    sheet.text(
        spot + QPointF(0, up * sheet.pixels * 2.4),
        f"longest board {format_length(one.longest_board, shop.units, denominator=4)}",
        colour,
        factor=1.0,
        bold=True,
        plate=True,
    )


def distances(sheet: Sheet, shop: Shop, thing: Thing) -> None:
    """The distances to the two nearest walls that are not parallel."""
    for _, distance, on_thing, on_wall in wall_distances(thing, shop.room):
        if distance > 0.005:
            sheet.dimension(on_thing, on_wall, format_length(distance, shop.units), sheet.look.accent)


def ducts(sheet: Sheet, results: Results, flows: dict[str, GateSetFlow], picked: str | None, say: Reader) -> None:
    """Every run as it lies, marked by colour and line for whether chips keep moving in the chosen gate set, with flow and speed."""
    paths = results.run_paths
    drawn: set[str] = set()
    labels: list[tuple[QPointF, str, str]] = []
    for network in results.networks:
        one = flows.get(network.layout.source_thing) or network.sets[0]
        for index, segment in enumerate(network.layout.segments):
            drawn.add(segment.run)
            state = chip_state(network.layout, one, index)
            _pipe(sheet, segment.path, segment.diameter, state, segment.run == picked, segment.role == "hose")
            if state != "idle" and _flat_length(segment.path) * sheet.scale > 70:
                text = f"{say.flow(one.segments[index].flow)}\n{say.speed(one.segments[index].speed)}"
                labels.append((_label_spot(sheet, segment.path), text, _state_colour(sheet, state)))
    for run in results.shop.ducts.runs:
        if run.id not in drawn and len(paths[run.id]) > 1:
            _pipe(sheet, paths[run.id], run.diameter, "idle", run.id == picked, False)
    for run in results.shop.ducts.runs:
        _gates(sheet, results.shop, paths[run.id], run.id, flows)
    for network in results.networks:
        _hoods(sheet, results, network, flows.get(network.layout.source_thing) or network.sets[0], say)
    for spot, text, colour in labels:
        sheet.text(spot, text, colour, factor=0.8, bold=True, plate=True, apart=True)


def _state_colour(sheet: Sheet, state: str) -> str:
    look = sheet.look
    return {"moving": look.good, "slow": look.watch, "settling": look.stop, "idle": look.pencil}[state]


def _pipe(sheet: Sheet, path: Path, diameter: float, state: str, is_picked: bool, is_hose: bool) -> None:
    flat = [(p[0], p[1]) for p in path]
    width = max(4.0, diameter * sheet.scale * 0.8)
    look = sheet.look
    if is_picked:
        sheet.line(flat, sheet.pen(look.accent, width + 6))
    sheet.line(flat, sheet.pen(_state_colour(sheet, state), width))
    inner = {"moving": (), "slow": (1.6, 1.0), "settling": (0.5, 0.7), "idle": ()}[state]
    sheet.line(flat, sheet.pen(look.metal if state != "idle" else look.sheet, width - 3.0, dashes=inner))
    if is_hose:
        sheet.line(flat, sheet.pen(look.ink, width * 0.9, dashes=(0.12, 0.5)))
    for a, b in itertools.pairwise(path):
        if hypot(b[0] - a[0], b[1] - a[1]) < 0.05 and abs(b[2] - a[2]) > 0.2:
            c = sheet.at(a[0], a[1])
            sheet.painter.setPen(sheet.pen(_state_colour(sheet, state), 2.0))
            sheet.painter.setBrush(sheet.brush(look.sheet))
            sheet.painter.drawEllipse(c, width * 0.6, width * 0.6)
            sheet.painter.drawEllipse(c, 1.5, 1.5)


def _flat_length(path: Path) -> float:
    return sum(hypot(b[0] - a[0], b[1] - a[1]) for a, b in itertools.pairwise(path))


def _label_spot(sheet: Sheet, path: Path) -> QPointF:
    longest = max(itertools.pairwise(path), key=lambda pair: hypot(pair[1][0] - pair[0][0], pair[1][1] - pair[0][1]))
    a, b = longest
    spot = sheet.at((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    sideways = abs(b[0] - a[0]) > abs(b[1] - a[1])
    return spot + (QPointF(0, -sheet.pixels * 1.6) if sideways else QPointF(sheet.pixels * 2.6, 0))


def _gates(sheet: Sheet, shop: Shop, path: Path, run_id: str, flows: dict[str, GateSetFlow]) -> None:
    opened = {gate for one in flows.values() for gate in one.open_gates}
    run = next(run for run in shop.ducts.runs if run.id == run_id)
    if len(path) < 2:
        return
    for gate in run.gates:
        x, y, _ = point_along(path, min(gate.at, length_of(path)))
        c = sheet.at(x, y)
        is_open = gate.id in opened
        sheet.painter.setPen(sheet.pen(sheet.look.ink, 1.8))
        sheet.painter.setBrush(sheet.brush(sheet.look.sheet if is_open else sheet.look.ink))
        sheet.painter.drawRect(QRectF(c.x() - 5, c.y() - 9, 10, 18))
        if is_open:
            sheet.painter.drawLine(QPointF(c.x() - 5, c.y() - 9), QPointF(c.x() + 5, c.y() - 15))


def _hoods(sheet: Sheet, results: Results, network: NetworkResult, one: GateSetFlow, say: Reader) -> None:
    fine = results.shop.ducts.target == "fine"
    for flow in one.hoods:
        end = network.layout.segments[flow.segment].hood
        thing = results.shop.thing(flow.thing)
        if end is None or thing is None or not flow.is_open:
            continue
        wanted = end.fine_flow if fine else end.chips_flow
        share = flow.flow / wanted
        colour = sheet.look.good if share >= 1 else sheet.look.watch if flow.flow >= 0.9 * end.chips_flow else sheet.look.stop
        spot = sheet.at(thing.x, thing.y) + QPointF(0, sheet.pixels * 1.9)
        box = sheet.text(spot, f"{say.flow(flow.flow)} of {say.flow(wanted)}", colour, factor=0.8, bold=True, plate=True, apart=True)
        bar = QRectF(box.left(), box.bottom() + 1, box.width(), 4)
        sheet.painter.fillRect(bar, sheet.brush(sheet.look.rule))
        sheet.painter.fillRect(QRectF(bar.left(), bar.top(), bar.width() * min(1.0, share), 4), sheet.brush(colour))


def paper_grid(sheet: Sheet, width: int, height: int, step: float) -> None:
    """Squared paper."""
    x0, y0 = -sheet.origin.x() / sheet.scale, (sheet.origin.y() - height) / sheet.scale
    pen = sheet.pen(sheet.look.rule, 0.6)
    sheet.painter.setPen(pen)
    for k in np.arange(np.floor(x0 / step), np.ceil((x0 + width / sheet.scale) / step) + 1):
        x = sheet.at(float(k) * step, 0).x()
        sheet.painter.drawLine(QPointF(x, 0), QPointF(x, height))
    for k in np.arange(np.floor(y0 / step), np.ceil((y0 + height / sheet.scale) / step) + 1):
        y = sheet.at(0, float(k) * step).y()
        sheet.painter.drawLine(QPointF(0, y), QPointF(width, y))


def ghost(sheet: Sheet, corners: np.ndarray) -> None:
    """Where something stood before a previewed move."""
    sheet.fill(corners, None, sheet.pen(sheet.look.accent, 1.5, dashes=(4, 4)))


def mark(sheet: Sheet, point: tuple[float, float]) -> None:
    """Points at a place."""
    c = sheet.at(*point)
    sheet.painter.setBrush(Qt.BrushStyle.NoBrush)
    for radius, width in ((16, 3.0), (22, 1.2)):
        sheet.painter.setPen(sheet.pen(sheet.look.accent, width))
        sheet.painter.drawEllipse(c, radius, radius)


def cleaner_cone(sheet: Sheet, thing: Thing) -> None:
    """Which way a cleaner blows."""
    for off in (-0.15, 0.0, 0.15):
        a, b = thing.spot(thing.width / 2, off), thing.spot(thing.width / 2 + 0.5, off * 2.2)
        sheet.line([a, b], sheet.pen(sheet.look.air_mid, 1.8, dashes=(4, 2)))
