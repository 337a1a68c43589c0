"""The lane section: a side view along the picked machine's feed line, with table, board, floor and everything that stands under or in it."""

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from purvel.app.desk import Desk
from purvel.app.plan.sheet import Sheet
from purvel.app.reviewing import ReviewBench
from purvel.app.theme import LIGHT, Look
from purvel.quantities import format_length
from purvel.review.results import name_of
from purvel.space.lanes import Lane, extent_along


class LaneSection(QWidget):
    """The instrument of placing."""

    def __init__(self, desk: Desk, bench: ReviewBench) -> None:
        super().__init__()
        self.desk, self.bench = desk, bench
        self.look, self.pixels = LIGHT, 15
        self.setMinimumHeight(120)
        self.setAccessibleName("Lane section")
        desk.changed.connect(self.update)
        desk.previewed.connect(self.update)
        desk.picked_changed.connect(self.update)

    def dress(self, look: Look, pixels: int) -> None:
        """Takes on a theme and a text size."""
        self.look, self.pixels = look, pixels
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        sheet = Sheet(painter, self.look, 1.0, QPointF(0, 0), self.pixels)
        results = self.bench.quick()
        one = results.lanes.get(self.desk.picked or "")
        if one is None:
            hint = (
                "Pick a machine that feeds stock to see the section along its lane."
                if results.lanes
                else "Place a machine to see the section along its lane."
            )
            sheet.text(QPointF(self.width() / 2, self.height() / 2), hint, self.look.pencil)
        else:
            self._draw(sheet, one)
        painter.end()

    def _draw(self, sheet: Sheet, one: Lane) -> None:
        look, painter = self.look, sheet.painter
        shop = self.desk.shown
        head = self.pixels * 1.9
        left, right, top, bottom = 14.0, self.width() - 14.0, head + 4, self.height() - self.pixels * 1.8
        reach_in, reach_out = min(one.into.length, 9.0) + 0.5, min(one.out.length, 9.0) + 0.5
        height = max(2.2, one.high + 0.4)
        scale = min((right - left) / (reach_in + reach_out), (bottom - top) / height)
        middle = left + (right - left) * reach_in / (reach_in + reach_out)

        def at(u: float, z: float) -> QPointF:
            return QPointF(middle + u * scale, bottom - z * scale)

        painter.save()
        painter.setClipRect(QRectF(left - 4, 0, right - left + 8, self.height()))
        painter.setPen(sheet.pen(look.wall, 3))
        painter.drawLine(at(-reach_in, 0), at(reach_out, 0))
        self._bodies(sheet, one, at, reach_in, reach_out, height)
        band_low, band_high = at(0, one.low).y(), at(0, one.high).y()
        colour = look.good if one.fits else look.mend
        lane_box = QRectF(
            at(-min(one.into.length, 9.0), 0).x(), band_high, (min(one.into.length, 9.0) + min(one.out.length, 9.0)) * scale, band_low - band_high
        )
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(sheet.brush(colour, 0.30))
        painter.drawRect(lane_box.adjusted(0, -3, 0, 3))
        board = min(one.longest_board, one.stock_length)
        if board > 0.03:
            plank = QRectF(at(-board, 0).x(), min(band_high, band_low - 5), board * scale, max(5.0, band_low - band_high))
            painter.setPen(sheet.pen(look.wood_edge, 1.2))
            painter.setBrush(sheet.brush(look.wood))
            painter.drawRect(plank)
        painter.setPen(sheet.pen(look.ink, 1.5, dashes=(3, 3)))
        painter.drawLine(at(0, 0), at(0, height * 0.92))
        painter.restore()
        units = shop.units
        thing = shop.thing(one.thing)
        name = thing.name if thing else one.thing
        verdict = f"{name}: longest board {format_length(one.longest_board, units, denominator=8)}"
        sheet.text(QPointF(14, self.pixels), verdict, colour, factor=1.15, bold=True, centre=False)
        sheet_size = (
            f"largest sheet {format_length(one.largest_sheet.along, units)} × {format_length(one.largest_sheet.across, units)}"
            if one.largest_sheet
            else ""
        )
        rest = f"table at {format_length(one.low, units)}   {sheet_size}"
        offset = sheet.measure(verdict, 1.15) * 1.1 + 30
        if offset + sheet.measure(rest) < self.width():
            sheet.text(QPointF(offset, self.pixels), rest, look.pencil, centre=False)
        self._stops(sheet, one, at(0, 0).x(), left, right, bottom)

    def _stops(self, sheet: Sheet, one: Lane, middle: float, left: float, right: float, bottom: float) -> None:
        """Under the floor line, how far the board runs either way and what stops it; the two never overlap."""
        shop = self.desk.shown
        texts = []
        for run, word in ((one.into, "in"), (one.out, "out")):
            stopper = name_of(shop, run.stopped_by[1]) if run.stopped_by and run.stopped_by[1] else "the ceiling" if run.stopped_by else "nothing"
            texts.append(f"{word} {format_length(run.length, shop.units, denominator=8)}, then {stopper}")
        into, out = (sheet.measure(text, 0.85) for text in texts)
        out_left = max(left + into + 24, min(middle + 12, right - out))
        in_left = max(left, min(middle - 12 - into, out_left - 24 - into))
        y = bottom + self.pixels * 0.9
        sheet.text(QPointF(in_left, y), texts[0], self.look.ink, factor=0.85, centre=False)
        sheet.text(QPointF(out_left, y), texts[1], self.look.ink, factor=0.85, centre=False)

    def _bodies(self, sheet: Sheet, one: Lane, at: Callable[[float, float], QPointF], reach_in: float, reach_out: float, height: float) -> None:
        """Everything within the strip, as it stands beside the floor line; what blocks is darker."""
        look, plan, shop = self.look, self.bench.quick().ground, self.desk.shown
        near, far = extent_along(plan.pieces, one.origin, one.direction, one.width)
        for i in np.flatnonzero(np.isfinite(near)):
            kind, item = plan.names[i]
            if far[i] < -reach_in or near[i] > reach_out:
                continue
            low, high = max(float(plan.bottom[i]), 0.0), min(float(plan.top[i]), height)
            if high <= low:
                continue
            a, b = at(max(float(near[i]), -reach_in), high), at(min(float(far[i]), reach_out), low)
            box = QRectF(a, b)
            own = kind == "thing" and item == one.thing
            blocks = plan.bottom[i] < one.high and plan.top[i] > one.low and not own
            if kind == "wall":
                box = QRectF(box.left() - 3, box.top(), 6, box.height())
            sheet.painter.setPen(sheet.pen(look.mend if blocks and kind == "thing" else look.wood_edge, 1.5))
            sheet.painter.setBrush(
                sheet.brush(look.wall if kind in ("wall", "outside") else look.wood if own else look.storage, 1.0 if blocks or own else 0.55)
            )
            sheet.painter.drawRect(box)
            thing = shop.thing(item)
            if thing is not None and sheet.measure(thing.name, 0.78) < box.width() + 6:
                sheet.text(
                    QPointF(box.center().x(), min(box.bottom() - self.pixels * 0.6, box.center().y() + self.pixels)),
                    thing.name,
                    look.ink,
                    factor=0.78,
                )
