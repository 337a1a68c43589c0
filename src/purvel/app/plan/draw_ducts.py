"""Ducts on the plan: every run as it lies, its gates, flow and speed, and at each hood the flow against the
need.
"""

import itertools
from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace
from math import hypot

from PySide6.QtCore import QPointF, QRectF, QSizeF

from purvel.airflow.flows import GateSetFlow, NetworkResult
from purvel.airflow.paths import Path, direction_at, length_of, point_along
from purvel.app.plan.label_layout import Label, Spot, around
from purvel.app.plan.sheet import Sheet
from purvel.review import Answers, Figures
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.flow_rules import CHIP_GRADES, hood_grade
from purvel.review.ducts.standing import ChipState, carried, wanted_flow
from purvel.shop import Run, Shop
from purvel.space.ground import footprint

STATE_WORDS: dict[ChipState, str] = {
    "moving": "chips move",
    "slow": "chips may settle",
    "settling": "chips settle",
    "idle": "shut",
}
_DASHES: dict[ChipState, tuple[float, ...]] = {
    "moving": (),
    "slow": (1.6, 1.0),
    "settling": (0.5, 0.7),
    "idle": (),
}

_RANKS: dict[ChipState, int] = {"settling": 2, "slow": 3, "moving": 4}
"""In a crowd the figures of what is in trouble are set first; those that find no place are left off."""


def ducts(sheet: Sheet, answers: Answers, chosen: str | None, picked: str | None, say: Figures) -> None:
    """Every run as it lies, marked by colour and line for whether chips keep moving in the chosen gate set,
    with flow and speed.
    """
    flows = {
        network.layout.source_thing: set_of(network, chosen) for network in answers.of(DuctAnswers).networks
    }
    paths = answers.of(DuctAnswers).run_paths
    drawn: set[str] = set()
    for network in answers.of(DuctAnswers).networks:
        one = flows[network.layout.source_thing]
        parts = carried(network.layout, one)
        for index, segment in enumerate(network.layout.segments):
            drawn.add(segment.run)
            state = parts[index].state
            _pipe(sheet, segment.path, segment.diameter, state, segment.run == picked, segment.role == "hose")
            if state != "idle" and segment.length > 0.15:
                text = (
                    f"{say.flow(abs(one.segments[index].flow))}\n{say.speed(abs(one.segments[index].speed))}"
                )
                label = _beside(sheet, segment.path, text, _state_colour(sheet, state))
                sheet.label(replace(label, rank=_RANKS[state], must=segment.run == picked))
    for run in answers.shop.ducts.runs:
        if run.id not in drawn and len(paths[run.id]) > 1:
            _pipe(sheet, paths[run.id], run.diameter, "idle", run.id == picked, False)
    for run in answers.shop.ducts.runs:
        _gates(sheet, answers.shop, paths[run.id], run.id, flows)
    for network in answers.of(DuctAnswers).networks:
        _hoods(sheet, answers, network, flows[network.layout.source_thing], say)


def set_of(network: NetworkResult, choice: str | None) -> GateSetFlow:
    """The gate set with this id; the first where there is none."""
    return next((one for one in network.sets if one.id == choice), network.sets[0])


def state_key(sheet: Sheet, room: Iterable[Sequence[float]]) -> QRectF | None:
    """What the lines mean, in the first corner of the plan where it clears the room, given by its corners
    [m]; None, and nothing drawn, where there is no such corner.
    """
    row = sheet.pixels * 1.25
    wide = 64 + max(sheet.measure(word, 0.8) for word in STATE_WORDS.values())
    box = sheet.clear_corner(QSizeF(wide, row * len(STATE_WORDS) + 8), room, upper=False)
    if box is None:
        return None
    sheet.painter.setPen(sheet.pen(sheet.palette.rule, 1))
    sheet.painter.setBrush(sheet.brush(sheet.palette.sheet, 0.9))
    sheet.painter.drawRoundedRect(box, 3, 3)
    for number, (state, words) in enumerate(STATE_WORDS.items()):
        y = box.top() + 4 + row * (number + 0.5)
        _band(sheet, [QPointF(box.left() + 8, y), QPointF(box.left() + 44, y)], 7.0, state)
        sheet.text(QPointF(box.left() + 52, y), words, sheet.palette.ink, factor=0.8, centre=False)
    sheet.keep_clear(box, 3.0)
    return box


def _state_colour(sheet: Sheet, state: ChipState) -> str:
    grade = CHIP_GRADES.get(state)  # none where no air moves
    return sheet.palette.pencil if grade is None else sheet.palette.grade(grade)


def _band(sheet: Sheet, points: list[QPointF], width: float, state: ChipState) -> None:
    painter = sheet.painter
    painter.setPen(sheet.pen(_state_colour(sheet, state), width))
    painter.drawPolyline(points)
    painter.setPen(
        sheet.pen(
            sheet.palette.metal if state != "idle" else sheet.palette.sheet,
            width - 3.0,
            dashes=_DASHES[state],
        )
    )
    painter.drawPolyline(points)


def _pipe(
    sheet: Sheet, path: Path, diameter: float, state: ChipState, is_picked: bool, is_hose: bool
) -> None:
    flat = [(p[0], p[1]) for p in path]
    width = max(4.0, diameter * sheet.scale * 0.8)
    palette = sheet.palette
    if is_picked:
        sheet.line(flat, sheet.pen(palette.accent, width + 6))
    _band(sheet, [sheet.at(x, y) for x, y in flat], width, state)
    if is_hose:
        sheet.line(flat, sheet.pen(palette.ink, width * 0.9, dashes=(0.12, 0.5)))
    for a, b in itertools.pairwise(path):
        ends = QRectF(sheet.at(a[0], a[1]), sheet.at(b[0], b[1])).normalized()
        sheet.keep_clear(ends.adjusted(-width / 2, -width / 2, width / 2, width / 2), 0.9)
        if hypot(b[0] - a[0], b[1] - a[1]) < 0.05 and abs(b[2] - a[2]) > 0.2:
            c = sheet.at(a[0], a[1])
            sheet.painter.setPen(sheet.pen(_state_colour(sheet, state), 2.0))
            sheet.painter.setBrush(sheet.brush(palette.sheet))
            sheet.painter.drawEllipse(c, width * 0.6, width * 0.6)
            sheet.painter.drawEllipse(c, 1.5, 1.5)


def _beside(sheet: Sheet, path: Path, text: str, colour: str) -> Label:
    """The figures of a segment beside its longest piece, led back to it where they come to lie apart."""
    a, b = max(
        itertools.pairwise(path), key=lambda pair: hypot(pair[1][0] - pair[0][0], pair[1][1] - pair[0][1])
    )
    width, height = sheet.size_of(text, 0.8, bold=True)
    spots: list[Spot] = []
    for away in (9.0, 30.0):
        for share in (0.5, 0.3, 0.7):
            spot = sheet.at(a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1]))
            box = QRectF(spot.x() - away, spot.y() - away, 2 * away, 2 * away)
            spots += around(box, width, height)
    anchor = sheet.at((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    return Label((text,), tuple(spots), colour, factor=0.8, bold=True, plate=True, anchor=anchor)


def heights(sheet: Sheet, answers: Answers, say: Figures) -> None:
    """The size of every run and how high its middle lies, for whoever hangs it."""
    paths = answers.of(DuctAnswers).run_paths
    for run in answers.shop.ducts.runs:
        path = paths[run.id]
        if len(path) > 1:
            low, high = min(z for _, _, z in path), max(z for _, _, z in path)
            at = say.length(high) if high - low < 0.02 else f"{say.length(low)} to {say.length(high)}"
            words = f"{run.name or run.id}: {say.size(run.diameter)}, at {at}"
            sheet.label(replace(_beside(sheet, path, words, sheet.palette.pencil), bold=False, rank=5))


def _gates(sheet: Sheet, shop: Shop, path: Path, run_id: str, flows: dict[str, GateSetFlow]) -> None:
    """A blade across the pipe where it is shut, drawn out to the side as far as it is open."""
    opened = {gate: dict(one.part_open).get(gate, 1.0) for one in flows.values() for gate in one.open_gates}
    run = next(run for run in shop.ducts.runs if run.id == run_id)
    if len(path) < 2:
        return
    for gate in run.gates:
        c, along = gate_spot(sheet, run, gate.at, path)
        across = QPointF(-along.y(), along.x())
        reach = max(4.0, run.diameter * sheet.scale * 0.8) / 2 + 4
        is_open = gate.id in opened
        middle = c + across * (reach * 1.3 * opened.get(gate.id, 0.0))
        corners = [
            middle + across * (i * reach) + along * (j * 3.5) for i, j in ((-1, -1), (1, -1), (1, 1), (-1, 1))
        ]
        sheet.painter.setPen(sheet.pen(sheet.palette.ink, 1.8))
        sheet.painter.setBrush(sheet.brush(sheet.palette.sheet if is_open else sheet.palette.ink))
        sheet.painter.drawPolygon(corners)
        if is_open:
            for j in (-1, 1):
                sheet.painter.drawLine(
                    c - across * reach + along * (j * 3.5), c + across * reach + along * (j * 3.5)
                )
        sheet.keep_clear(QRectF(c.x() - reach, c.y() - reach, 2 * reach, 2 * reach), 2.0)


def gate_spot(sheet: Sheet, run: Run, at: float, path: Path) -> tuple[QPointF, QPointF]:
    """Where a gate is on the sheet and the direction of the pipe there, as a unit vector."""
    where = min(at, length_of(path))
    x, y, _ = point_along(path, where)
    dx, dy, _ = direction_at(path, where)
    size = hypot(dx, dy)
    return sheet.at(x, y), QPointF(dx / size, -dy / size) if size > 1e-6 else QPointF(1.0, 0.0)


def _hoods(sheet: Sheet, answers: Answers, network: NetworkResult, one: GateSetFlow, say: Figures) -> None:
    for flow in one.hoods:
        end = network.layout.segments[flow.segment].hood
        thing = answers.shop.thing(flow.thing)
        if end is None or thing is None or not flow.at_work:
            continue
        wanted = wanted_flow(answers.shop, end)
        colour = sheet.palette.grade(hood_grade(end, flow.flow, wanted))
        text = f"{say.flow(flow.flow)} of {say.flow(wanted)}"
        width, height = sheet.size_of(text, 0.8, bold=True)
        box = sheet.polygon(footprint(thing)).boundingRect()
        spots = (
            *around(box, width, height + 8),
            *around(box.adjusted(-30, -30, 30, 30), width, height + 8),
            Spot(box.center()),
        )
        sheet.label(
            Label(
                (text,),
                spots,
                colour,
                factor=0.8,
                bold=True,
                plate=True,
                rank=0,
                owner=thing.id,
                then=_bar(sheet, flow.flow / wanted, colour),
            )
        )


def _bar(sheet: Sheet, share: float, colour: str) -> Callable[[QRectF], None]:
    """Draws how much of the need is met, as a bar under the figure."""

    def draw(box: QRectF) -> None:
        bar = QRectF(box.left(), box.bottom() + 1, box.width(), 4)
        sheet.painter.fillRect(bar, sheet.brush(sheet.palette.rule))
        sheet.painter.fillRect(
            QRectF(bar.left(), bar.top(), bar.width() * min(1.0, share), 4), sheet.brush(colour)
        )

    return draw
