"""The day: dust in the room over the session, by size, with what was switched when, and the limit."""

from typing import Any

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtGui import QBrush, QColor, QShowEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QScrollArea, QVBoxLayout, QWidget

from purvel.app.desk import Desk
from purvel.app.reviewing import ReviewBench
from purvel.app.theme import LIGHT, Look
from purvel.app.widgets.charts import dress_plot, make_plot
from purvel.app.widgets.flow import clear
from purvel.catalogue import limits
from purvel.review.reader import Reader
from purvel.roomair.day import Day


class DayInstrument(QWidget):
    """The work of the session as a list, and the course of the dust."""

    def __init__(self, desk: Desk, bench: ReviewBench) -> None:
        super().__init__()
        self.desk, self.bench = desk, bench
        self.look, self.pixels = LIGHT, 15
        self.plot: Any = None
        self.work = QWidget()
        self.work_box = QVBoxLayout(self.work)
        self.work_box.setContentsMargins(8, 4, 8, 4)
        self.work_box.setSpacing(2)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(self.work)
        scroll.setMinimumWidth(190)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.side = QVBoxLayout()
        self.verdict = QLabel()
        self.verdict.setWordWrap(True)
        self.verdict.setContentsMargins(8, 2, 8, 0)
        self.side.addWidget(self.verdict)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(scroll, 4)
        row.addLayout(self.side, 12)
        self._shown: tuple[object, ...] = ()
        bench.reviewed.connect(self.refresh)
        desk.picked_changed.connect(self.refresh)

    def dress(self, look: Look, pixels: int) -> None:
        """Takes on a theme and a text size."""
        self.look, self.pixels = look, pixels
        self._shown = ()
        self.refresh()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.refresh()

    def refresh(self) -> None:
        """Shows the latest review."""
        day = self.bench.latest.results.day
        now = (day, self.desk.shop.air, self.desk.picked, self.desk.shop.units, self.look.name, self.pixels, self.isVisible())
        if len(self._shown) == len(now) and all(a is b or a == b for a, b in zip(now[1:], self._shown[1:])) and self._shown[0] is day:
            return
        self._shown = now
        self._fill_work()
        self._say(day)
        if self.isVisible():
            self._draw(day)

    def _fill_work(self) -> None:
        focused = next((b.property("spell") for b in self.work.findChildren(QPushButton) if b.hasFocus()), None)
        clear(self.work_box)
        spells = self.desk.shop.air.session.spells
        head = QLabel("Work of the session" if spells else "No work in the session yet: “Add work”.")
        head.setObjectName("caption")
        head.setWordWrap(True)
        self.work_box.addWidget(head)
        for spell in spells:
            button = QPushButton(f"{spell.start:.0f}–{spell.start + spell.minutes:.0f} min\n{spell.name}")
            button.setObjectName("work")
            button.setCheckable(True)
            button.setChecked(spell.id == self.desk.picked)
            button.setProperty("spell", spell.id)
            button.setMinimumWidth(10)
            button.setToolTip("Pick it to change its minutes, what it throws off and what its hood catches.")
            button.clicked.connect(lambda _=False, s=spell.id: self.desk.pick(s))
            self.work_box.addWidget(button)
            if spell.id == focused:
                button.setFocus()
        self.work_box.addStretch(1)

    def _say(self, day: Day | None) -> None:
        if day is None:
            self.verdict.setText("")
            return
        say = Reader(self.desk.shop.units)
        course, high = day.courses["central"], day.courses["high"]
        limit = limits()[self.desk.shop.air.limit]
        self.verdict.setText(
            f"<b>8 h average {say.dust(course.average_8h)}</b> ({course.average_8h / limit.value:.0%} of {limit.value:g} mg/m³; may reach "
            f"{say.dust(high.average_8h)})   peak {say.dust(course.peak)}   clear {say.minutes(course.clear_after)} after the last cut"
        )

    def _draw(self, day: Day | None) -> None:
        if self.plot is None:
            self.plot = make_plot()
            self.side.addWidget(self.plot, 1)
        import pyqtgraph as pg

        plot, look = self.plot, self.look
        plot.clear()
        dress_plot(plot, look, self.pixels, "minutes from the start", "inhalable dust, mg/m³")
        if day is None:
            return
        seen = day.times <= max(day.session_minutes, day.last_cut) + 45.0
        times, course = day.times[seen], day.courses["central"]
        top = max(course.peak * 1.25, 0.02)
        stacked = np.zeros(len(times))
        styles = (
            (look.air_fine, Qt.BrushStyle.SolidPattern),
            (look.air_mid, Qt.BrushStyle.Dense3Pattern),
            (look.air_coarse, Qt.BrushStyle.BDiagPattern),
        )
        groups = (("under 2.5 µm", (0, 1)), ("2.5 to 10 µm", (2,)), ("over 10 µm", (3,)))
        legend = plot.addLegend(offset=(-8, 4), labelTextColor=look.ink, brush=pg.mkBrush(look.sheet))
        legend.clear()
        for (name, members), (colour, pattern) in zip(groups, styles):
            above = stacked + course.by_size[seen][:, list(members)].sum(axis=1)
            low, high = pg.PlotDataItem(times, stacked), pg.PlotDataItem(times, above)
            fill = pg.FillBetweenItem(low, high, brush=pg.mkBrush(_shade(colour, pattern)))
            plot.addItem(fill)
            plot.plot(times, above, pen=pg.mkPen(colour, width=2), name=name)
            stacked = above
        plot.plot(times, course.total[seen], pen=pg.mkPen(look.ink, width=2), name="all dust")
        limit = limits()[self.desk.shop.air.limit].value
        if limit < top * 1.5:
            top = max(top, limit * 1.15)
            pen = pg.mkPen(look.stop, width=2, style=Qt.PenStyle.DashLine)
            letters = {"color": look.stop, "position": 0.15, "anchors": [(0, 1), (0, 1)]}
            line = pg.InfiniteLine(limit, angle=0, pen=pen, label=f"8 h limit {limit:g} mg/m³", labelOpts=letters)
            plot.addItem(line)
        for stretch in day.stretches:
            if stretch.spells and stretch.start <= times[-1]:
                region = pg.LinearRegionItem(
                    (stretch.start, stretch.end), movable=False, brush=pg.mkBrush(_shade(look.wood, Qt.BrushStyle.SolidPattern, 70)), pen=None
                )
                region.setZValue(-10)
                plot.addItem(region)
        for number, spell in enumerate(self.desk.shop.air.session.spells):
            label = pg.TextItem(spell.name, color=look.ink, anchor=(0, 0))
            label.setPos(spell.start, top * (0.86 if number % 2 else 1.0))
            plot.addItem(label)
        end = pg.InfiniteLine(day.session_minutes, pen=pg.mkPen(look.pencil, style=Qt.PenStyle.DotLine))
        plot.addItem(end)
        plot.setXRange(0, float(times[-1]), padding=0)
        plot.setYRange(0, top, padding=0)


def _shade(colour: str, pattern: Qt.BrushStyle, alpha: int = 110) -> Any:
    shade = QColor(colour)
    shade.setAlpha(alpha)
    return QBrush(shade, pattern)
