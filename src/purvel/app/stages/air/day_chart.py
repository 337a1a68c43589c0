"""The day: dust in the room over the session, by size, with what was switched when, and the limit."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QResizeEvent, QShowEvent
from PySide6.QtWidgets import QVBoxLayout, QWidget

from purvel.app.plan.sheet import text_size
from purvel.app.stages.air.day_key import GROUPS, DayKey, shade, style
from purvel.app.stages.air.helps_pane import HelpsPane
from purvel.app.theme import Theme
from purvel.app.view import View
from purvel.app.widgets.charts import chart_letters, dress_plot, make_plot, words
from purvel.app.widgets.fields import NameButton
from purvel.app.widgets.flow import refilling
from purvel.app.widgets.panes import Pane, Panes
from purvel.app.widgets.scrolled import scrolled
from purvel.app.widgets.unbroken import unbroken
from purvel.app.widgets.when_seen import WhenSeen
from purvel.app.widgets.words import Words, set_tip
from purvel.app.workspace import Workspace
from purvel.catalogue import limits
from purvel.libraries import Array, np
from purvel.quantities import format_number
from purvel.review import Review
from purvel.review.air.answers import AirAnswers
from purvel.roomair.day import BANDS, Day
from purvel.shop import Shop, WorkInterval

DAY, LOG = 1, 2  # panes
LOG_LEAST = 44.0  # letters' sizes: with less the log is shown alone
ROOM_FOR_KEY, ROOM_FOR_WORDS, ROOM_FOR_NAMES = 10, 34, 8  # letters' sizes


class DayInstrument(QWidget):
    """The work of the session as a list, the course of the dust, and beside it the log of a monitor."""

    def __init__(self, workspace: Workspace, theme: Theme, log: QWidget) -> None:
        super().__init__()
        self.workspace, self.theme = workspace, theme
        self.plot: Any = None
        self.day: Day | None = None
        self.air = workspace.shop.air
        self.in_scene = False  # the day is always that of the shop as drawn
        self.work = QWidget()
        self.work_box = QVBoxLayout(self.work)
        self.work_box.setContentsMargins(8, 4, 8, 4)
        self.work_box.setSpacing(2)
        picture = QWidget()
        self.side = QVBoxLayout(picture)
        self.side.setContentsMargins(0, 0, 0, 0)
        self.verdict = Words()
        self.verdict.setTextFormat(Qt.TextFormat.RichText)
        self.verdict.setWordWrap(True)
        self.verdict.setContentsMargins(8, 2, 8, 0)
        self.side.setSpacing(0)
        self.side.addWidget(self.verdict)
        self.key = DayKey(theme)
        self.side.addWidget(self.key)
        self.helps = HelpsPane(workspace)
        self._helps = WhenSeen(self.helps, self.helps.fill)
        panes = [
            Pane("Work", scrolled(self.work), 13.0, 4),
            Pane("Day", picture, 18.0, 12),
            Pane("Log", log, LOG_LEAST, 12),
            Pane("Helps", self._helps, 40.0, 12),
        ]
        self.panes = Panes(theme, panes, chosen=DAY)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.addWidget(self.panes)
        self._shown: tuple[object, ...] = ()

    def show_day(self, shop: Shop, review: Review, view: View) -> None:
        """Shows the reviewed day, with the work and the limit that it was reckoned for."""
        self._helps.show_these(review.answers)
        self.day = review.answers.of(AirAnswers).day
        self.air = review.answers.shop.air
        work = (shop.air.session.work, view.picked, self.theme.pixels)
        self.in_scene = review.scene is not None
        shown = (self.day, self.air, self.in_scene, self.theme.palette, self.isVisible(), *work)
        if shown == self._shown:
            return
        if work != self._shown[5:]:
            with refilling(self.work_box):
                self._fill_work(shop.air.session.work, view.picked)
        self._shown = shown
        self._redraw()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._say()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self._redraw()

    def _redraw(self) -> None:
        self.key.show_day(self.day)
        self._say()
        if self.isVisible():
            self._draw(self.day)

    def _fill_work(self, intervals: Sequence[WorkInterval], picked: str | None) -> None:
        head = Words("Work of the session" if intervals else "No work in the session yet: “Add work”.")
        head.setObjectName("caption")
        head.setWordWrap(True)
        self.work_box.addWidget(head)
        for interval in intervals:
            button = NameButton(
                f"{interval.start:.0f}–{interval.start + interval.minutes:.0f} min\n{interval.name}"
            )
            button.setObjectName("work")
            button.setCheckable(True)
            button.setChecked(interval.id == picked)
            what = "Pick it to change its minutes, what it throws off and what its hood catches."
            set_tip(button, f"{interval.name}. {what}")
            button.clicked.connect(partial(self._pick, interval.id))
            self.work_box.addWidget(button)
        self.work_box.addStretch(1)

    def _pick(self, interval: str, _: bool = False) -> None:
        self.workspace.pick(interval)

    def _say(self) -> None:
        """The verdict; the key gives way where the chart would have no room."""
        self.key.setVisible(self.day is not None and self.height() > ROOM_FOR_KEY * self.theme.pixels)
        if self.day is None:
            self.verdict.setText("The course of the dust appears here once there is work in the session.")
            return
        low, central, high = (self.day.courses[band].personal_8h for band in BANDS)
        share = central / limits()[self.air.limit].value
        figures = [format_number(value) for value in (low, central, high)]
        what = " inhalable" if self.width() > ROOM_FOR_WORDS * self.theme.pixels else ""
        said = (
            f"<b>Breathed over 8 h: {figures[1]} mg/m³{what}</b> ({figures[0]} to {figures[2]}), {share:.0%} of the"
            " limit"
        )
        if what:
            said += f"; the room {format_number(self.day.courses['central'].average_8h)}"
        drawn = ", as drawn" if self.in_scene else ""
        self.verdict.setText(unbroken(said) + drawn)

    def _draw(self, day: Day | None) -> None:
        if self.plot is None:
            self.plot = make_plot()
            self.side.addWidget(self.plot, 1)
        self.plot.clear()
        dress_plot(self.plot, self.theme, "minutes from the start", "mg/m³")
        self.plot.setVisible(day is not None)
        if day is None:
            return
        seen = day.times <= max(day.session_minutes, day.last_cut) + 45.0
        times, course = day.times[seen], day.courses["central"]
        self._draw_sizes(times, course.by_size[seen], course.total[seen])
        top = self._draw_limit(times, course.total[seen], max(course.peak * 1.4, 0.02))
        self._draw_switching(day, float(times[-1]), top)
        self._name_work(self.plot, float(times[-1]), top)
        self.plot.setXRange(0, float(times[-1]), padding=0)
        self.plot.setYRange(0, top, padding=0)

    def _draw_sizes(self, times: Array, by_size: Array, total: Array) -> None:
        import pyqtgraph as pg

        stacked = np.zeros(len(times))
        for name, members in GROUPS:
            above = stacked + by_size[:, list(members)].sum(axis=1)
            low, high = pg.PlotDataItem(times, stacked), pg.PlotDataItem(times, above)
            colour, pattern = style(self.theme.palette, name)
            self.plot.addItem(pg.FillBetweenItem(low, high, brush=pg.mkBrush(shade(colour, pattern))))
            self.plot.plot(times, above, pen=pg.mkPen(colour, width=2))
            stacked = above
        self.plot.plot(times, total, pen=pg.mkPen(self.theme.palette.ink, width=2))

    def _draw_limit(self, times: Array, total: Array, top: float) -> float:
        """The limit's line where it is near the course; returns how high the chart goes."""
        import pyqtgraph as pg

        limit = limits()[self.air.limit].value
        if limit >= top * 1.5:
            return top
        top = max(top, limit * 1.25)
        pen = pg.mkPen(self.theme.palette.stop, width=2, style=Qt.PenStyle.DashLine)
        self.plot.addItem(pg.InfiniteLine(limit, angle=0, pen=pen))
        self._name_limit(self.plot, limit, times, total, top)
        return top

    def _draw_switching(self, day: Day, end: float, top: float) -> None:
        """When there was work, when the cleaner ran, when the session ends."""
        import pyqtgraph as pg

        palette = self.theme.palette
        for stretch in day.stretches:
            if stretch.intervals and stretch.start <= end:
                brush = pg.mkBrush(shade(palette.wood, Qt.BrushStyle.SolidPattern, 70))
                span, pen = (stretch.start, stretch.end), pg.mkPen(palette.rule)
                region = pg.LinearRegionItem(span, movable=False, brush=brush, pen=pen)
                region.setZValue(-10)
                self.plot.addItem(region)
            if stretch.cleaner_on:
                span = (stretch.start, min(stretch.end, end))
                self.plot.plot(span, (top * 0.012,) * 2, pen=pg.mkPen(palette.accent, width=5))
        over = pg.mkPen(palette.pencil, style=Qt.PenStyle.DotLine)
        self.plot.addItem(pg.InfiniteLine(day.session_minutes, pen=over))

    def _name_limit(self, plot: Any, limit: float, times: Array, total: Array, top: float) -> None:
        """What the line is, over its right or its left end: where it covers less of the course; under it
        where the chart ends before the words would.
        """
        text = f"8 h limit {limit:g} mg/m³"
        width, height = text_size(text, chart_letters(self.theme.pixels))
        chart = plot.getViewBox().rect()
        wide = (width + 12) / max(1.0, chart.width()) * float(times[-1])
        high = (height + 8) / max(1.0, chart.height()) * top
        foot = limit if limit + high <= top else limit - high
        covered = (total > foot) & (total < foot + high)
        is_right = covered[times > times[-1] - wide].sum() <= covered[times < wide].sum()
        corner = (1.0 if is_right else 0.0, 1.0 if foot == limit else 0.0)
        label = words(text, self.theme.palette.stop, self.theme, corner)
        label.setPos(float(times[-1]) if is_right else 0.0, limit)
        plot.addItem(label)

    def _name_work(self, plot: Any, end: float, top: float) -> None:
        """The intervals' names over the course, each in the first of two rows where it covers no other; none
        where they would cover the course.
        """
        if plot.height() < ROOM_FOR_NAMES * self.theme.pixels:
            return
        # min that a letter is wide
        letter = end / max(1.0, plot.width() - 60.0) * max(11.0, self.theme.pixels * 0.8) * 0.6
        free_from = [0.0, 0.0]
        for interval in self.air.session.work:
            row = next((row for row, start in enumerate(free_from) if start <= interval.start), None)
            if row is not None:
                label = words(interval.name, self.theme.palette.ink, self.theme)
                label.setPos(interval.start, top * (1.0 - 0.13 * row))
                plot.addItem(label)
                free_from[row] = interval.start + letter * len(interval.name)
